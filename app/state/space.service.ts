import { inject, Injectable } from '@angular/core';
import {
  boundsAll,
  carryAll,
  drawnBody,
  drawnNodes,
  exactCells,
  findNode,
  idsWithin,
  readable,
  type Axis,
  type CellMove,
  type DocumentNode,
  type RigidMove,
  type SignedAxis,
  type WorldBox,
} from '@core';
import { MessageStore } from '../platform/messages.store';
import { ArrangingService } from './arranging.service';
import { DocumentStore } from './document.store';

/** Where a quarter turn about each axis carries the three directions, anticlockwise seen from the axis's far end. */
const QUARTERS: Readonly<Record<Axis, readonly [SignedAxis, SignedAxis, SignedAxis]>> = {
  a: ['a', 'h', '-b'],
  b: ['-h', 'b', 'a'],
  h: ['b', '-a', 'h'],
};

const MIRRORS: Readonly<Record<Axis, readonly [SignedAxis, SignedAxis, SignedAxis]>> = {
  a: ['-a', 'b', 'h'],
  b: ['a', '-b', 'h'],
  h: ['a', 'b', '-h'],
};

/** Places what is selected in space: down to the floor, onto what lies below, turned by quarters, mirrored. Each is one step. */
@Injectable({ providedIn: 'root' })
export class SpaceService {
  private readonly documents = inject(DocumentStore);
  private readonly arranging = inject(ArrangingService);
  private readonly messages = inject(MessageStore);

  /** What is selected and can be moved, without what lies in something else that is. */
  private chosen(): readonly DocumentNode[] {
    const kept = this.documents.kept();
    const nodes = this.arranging.nodes().flatMap(({ id }) => findNode(kept, id) ?? []);
    return nodes.filter((node) => !node.locked && !nodes.some((other) => other !== node && idsWithin(other).includes(node.id)));
  }

  /** The box of some things in cells of the world, with what it is made of; null where they have no place in space. */
  private boxOf(nodes: readonly DocumentNode[]): WorldBox | null {
    const ids = new Set(nodes.flatMap(idsWithin));
    return boundsAll(drawnNodes(this.documents.kept()).flatMap((drawn) => (ids.has(drawn.owner) && !drawn.hidden ? (drawnBody(drawn) ?? []) : [])));
  }

  /** The size of what is selected along a, b and h, in cells. */
  size(): WorldBox | null {
    return this.boxOf(this.chosen());
  }

  /** Moves the selection down, or up, until its lowest place is on the floor. */
  drop(): void {
    this.lower(() => 0, 'drop');
  }

  /** Moves the selection down onto the highest thing below it, or onto the floor. */
  stand(): void {
    this.lower((box, ids) => this.topBelow(box, ids), 'stand');
  }

  private lower(level: (box: WorldBox, ids: ReadonlySet<string>) => number, label: string): void {
    const nodes = this.chosen();
    const box = this.boxOf(nodes);
    if (!box) return void this.messages.say('info', 'Select something in space first');
    const by = exactCells(level(box, new Set(nodes.flatMap(idsWithin))) - box.min.h);
    if (by !== 0) this.move(nodes, { a: 0, b: 0, h: by }, label);
  }

  private topBelow({ min, max }: WorldBox, ids: ReadonlySet<string>): number {
    let top = 0;
    for (const drawn of drawnNodes(this.documents.kept())) {
      const body = ids.has(drawn.owner) || drawn.hidden ? null : drawnBody(drawn);
      const box = body && boundsAll([body]);
      if (!box || box.max.h > min.h + 1e-9) continue;
      const over = box.max.a > min.a && box.min.a < max.a && box.max.b > min.b && box.min.b < max.b;
      if (over && box.max.h > top) top = box.max.h;
    }
    return top;
  }

  private move(nodes: readonly DocumentNode[], by: CellMove, label: string): void {
    this.documents.commit({ kind: 'move', ids: nodes.map(({ id }) => id), by }, label);
  }

  /** A quarter turn of the selection about its middle. */
  turn(axis: Axis): void {
    this.carry(QUARTERS[axis], `quarter turn about ${axis}`);
  }

  /** The selection mirrored about its middle along an axis; lettering in it stays readable. */
  mirror(axis: Axis): void {
    this.carry(MIRRORS[axis], `mirror along ${axis}`);
  }

  private carry(axes: RigidMove['axes'] & {}, label: string): void {
    const nodes = this.chosen();
    const box = this.boxOf(nodes);
    if (!box) return void this.messages.say('info', 'Select something in space first');
    const middle = { a: (box.min.a + box.max.a) / 2, b: (box.min.b + box.max.b) / 2, h: (box.min.h + box.max.h) / 2 };
    const at: Record<Axis, number> = { a: 0, b: 0, h: 0 };
    (['a', 'b', 'h'] as const).forEach((from, i) => {
      const to = axes[i]!;
      at[to.at(-1) as Axis] = to.length === 2 ? -middle[from] : middle[from];
    });
    const by = { a: exactCells(middle.a - at.a), b: exactCells(middle.b - at.b), h: exactCells(middle.h - at.h) };
    const kept = this.documents.kept();
    const carried = carryAll(nodes, { axes, by }, (id) => findNode(kept, id) ?? undefined).map(readable);
    this.documents.commit({ kind: 'change', nodes: carried }, label);
  }
}
