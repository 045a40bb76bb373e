import { inject, Injectable } from '@angular/core';
import {
  alignBoxes,
  bodyOf,
  boundsAll,
  carryAll,
  distributeBoxes,
  drawnBody,
  drawnNodes,
  exactCells,
  findNode,
  idsWithin,
  shapesIn,
  type Axis,
  type CellMove,
  type DocumentNode,
  type Edit,
  type PlaneBox,
  type PlanePoint,
  type RigidMove,
  type Side,
  type SignedAxis,
  type WorldBox,
} from '@core';
import { readable } from '@later';
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

/** Where the plane between the walls, through the upright axis, mirrors the three directions to. */
const OTHER_WALL: RigidMove['axes'] & {} = ['b', 'a', 'h'];

/** The box of something along an axis, for lining up along one direction alone. */
const along = ({ min, max }: WorldBox, axis: Axis): PlaneBox => ({ minU: min[axis], maxU: max[axis], minV: 0, maxV: 0 });

type MoveEdit = Extract<Edit, { kind: 'move' }>;

/** Places what is selected in space: down to the floor, onto what lies below, turned by quarters, mirrored, lined up. Each is one step. */
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
    const drawn = drawnNodes(this.documents.kept()).filter(({ owner }) => ids.has(owner));
    const shown = drawn.filter(({ hidden }) => !hidden);
    // What is hidden, or is taken away from something else, is not drawn and has its place all the same.
    const bodies = (shown.length > 0 ? shown : drawn).flatMap((one) => drawnBody(one) ?? []);
    return boundsAll(bodies.length > 0 ? bodies : shapesIn(nodes).flatMap((shape) => bodyOf(shape) ?? []));
  }

  /** Says why the selection cannot be placed in space. */
  private refuse(): void {
    const [first] = this.arranging.nodes();
    if (!first) return void this.messages.say('info', 'Select something in space first');
    const why = first.locked
      ? 'It is locked.'
      : first.kind === 'group'
        ? 'It holds nothing that has.'
        : first.kind === 'placement' && first.target.kind === 'face'
          ? 'It lies on a face and goes with that.'
          : first.kind === 'dimension'
            ? 'It measures other things and goes with them.'
            : 'It lies on the sheet.';
    this.messages.say('info', `“${first.name}” has no place of its own in space`, [why]);
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
    if (!box) return this.refuse();
    const by = exactCells(level(box, new Set(nodes.flatMap(idsWithin))) - box.min.h);
    if (by !== 0) this.move(nodes, { a: 0, b: 0, h: by }, label);
    else this.messages.say('info', `${nodes.length === 1 ? `“${nodes[0]!.name}” stands` : 'They stand'} there already`);
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
    if (!box) return this.refuse();
    const middle = { a: (box.min.a + box.max.a) / 2, b: (box.min.b + box.max.b) / 2, h: (box.min.h + box.max.h) / 2 };
    const at: Record<Axis, number> = { a: 0, b: 0, h: 0 };
    (['a', 'b', 'h'] as const).forEach((from, i) => {
      const to = axes[i]!;
      at[to.at(-1) as Axis] = to.length === 2 ? -middle[from] : middle[from];
    });
    this.carryBy(nodes, { axes, by: { a: exactCells(middle.a - at.a), b: exactCells(middle.b - at.b), h: exactCells(middle.h - at.h) } }, label);
  }

  /** The selection as it is on the other wall: a and b exchanged about the edge in which the walls of the origin meet. */
  toOtherWall(): void {
    const nodes = this.chosen();
    if (!this.boxOf(nodes)) return this.refuse();
    this.carryBy(nodes, { axes: OTHER_WALL, by: { a: 0, b: 0, h: 0 } }, 'mirror to the other wall');
  }

  private carryBy(nodes: readonly DocumentNode[], move: RigidMove, label: string): void {
    const kept = this.documents.kept();
    const carried = carryAll(nodes, move, (id) => findNode(kept, id) ?? undefined).map(readable);
    this.documents.commit({ kind: 'change', nodes: carried }, label);
  }

  /** Brings one side of all that is selected, or their middles, to one place along an axis; `low` is where the axis begins. */
  align(axis: Axis, side: Side): void {
    this.moveEach(axis, `align along ${axis}`, (boxes) => alignBoxes(boxes, 'u', side));
  }

  /** Makes the gaps between all that is selected equal along an axis; the outermost stay. */
  distribute(axis: Axis): void {
    this.moveEach(axis, `distribute along ${axis}`, (boxes) => distributeBoxes(boxes, 'u'));
  }

  private moveEach(axis: Axis, label: string, moves: (boxes: readonly PlaneBox[]) => readonly PlanePoint[]): void {
    const placed = this.chosen().flatMap((node) => {
      const box = this.boxOf([node]);
      return box ? [{ node, box: along(box, axis) }] : [];
    });
    if (placed.length < 2) return void this.messages.say('info', 'Select several things in space first');
    const edits = moves(placed.map(({ box }) => box)).flatMap(({ u }, i): readonly MoveEdit[] =>
      u === 0 ? [] : [{ kind: 'move', ids: [placed[i]!.node.id], by: { a: 0, b: 0, h: 0, [axis]: u } }],
    );
    if (edits.length > 0) this.documents.commit(edits.length === 1 ? edits[0]! : { kind: 'all', edits }, label);
  }
}
