import { computed, inject, Injectable } from '@angular/core';
import {
  canHaveDepth,
  whyNoDepth,
  alignBoxes,
  aroundAll,
  copyNodes,
  distributeBoxes,
  dotWorld,
  exactCells,
  lengthWorld,
  surfacesIn,
  findNode,
  findShape,
  flattenTree,
  gapBoxes,
  independentCopy,
  mirrorLaid,
  movedAll,
  outlineBox,
  planeKey,
  planeName,
  placementGround,
  planeOfSurface,
  readingFrameOf,
  ringsOf,
  samePlane,
  scaleLaid,
  shapesIn,
  stretchOutline,
  toPlane,
  turnLaid,
  type CellMove,
  type CopyNode,
  type Direction,
  type DocumentNode,
  type Edit,
  type Laid,
  type Plane,
  type PlaneBox,
  type PlanePoint,
  type ShapeNode,
  type Side,
  type DepthWays,
} from '@core';
import { newId } from '../platform/ids';
import { moveOnPlane } from '../tools/pick.tool';
import { DocumentStore } from './document.store';
import { laidOf, movedWithin, placedIn, plusMove, whyFixed } from './laid-things';
import { MessageStore } from '../platform/messages.store';
import { ViewStore } from './view.store';

/** One direction of a row or a grid: how many copies, and how far each is from the one before. */
export interface Repetition {
  readonly count: number;
  readonly step: CellMove;
}

const times = ({ a, b, h }: CellMove, k: number): CellMove => ({ a: exactCells(a * k), b: exactCells(b * k), h: exactCells(h * k) });

/** Changes the selection as a whole: turned, mirrored, scaled, laid on other planes, aligned, repeated. Each is one step. */
@Injectable({ providedIn: 'root' })
export class ArrangingService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);

  /** The selected things, without those that a selected group holds. */
  readonly nodes = computed((): readonly DocumentNode[] => {
    const document = this.documents.kept();
    const chosen = this.view.selection();
    const held = new Set(this.documents.entries().filter((e) => e.parent !== null && chosen.includes(e.parent)).map((e) => e.node.id)); // prettier-ignore
    return chosen.filter((id) => !held.has(id)).flatMap((id) => findNode(document, id) ?? []);
  });
  /** Every selected shape, what groups hold included. */
  readonly shapes = computed((): readonly ShapeNode[] => shapesIn(this.nodes()));
  readonly copies = computed((): readonly CopyNode[] => flattenTree(this.nodes()).flatMap(({ node }) => (node.kind === 'copy' ? [node] : [])));
  /** The plane in which the selection is aligned: that of its first shape. */
  readonly plane = computed(() => this.shapes()[0]?.plane ?? null);

  /** The selected shapes as they are shown, a gesture's edit included. */
  readonly shown = computed((): readonly ShapeNode[] => this.shapes().flatMap(({ id }) => findShape(this.documents.shown(), id) ?? []));

  /** One depth for all selected shapes; those that cannot have any are said. */
  setDepth(depth: number): void {
    const able = this.shapes().filter(canHaveDepth);
    const edits = able.map(({ id }) => ({ kind: 'depth', id, depth: exactCells(depth) }) as const);
    if (edits.length > 0)
      this.documents.commit(
        edits.length === 1 ? edits[0]! : { kind: 'all', edits },
        `set depth of ${able.length === 1 ? able[0]!.name : `${able.length} shapes`}`,
      );
    this.saySkipped(this.shapes().flatMap((shape) => {
      const why = whyNoDepth(shape);
      return why === null ? [] : [`“${shape.name}”: ${why}.`];
    })); // prettier-ignore
  }

  /** How depth runs in the selected shapes: from where, leaning, narrowing; null leaves a part out. */
  setWays(ways: { readonly [K in 'start' | 'lean' | 'taper']?: DepthWays[K] | null }, label: string): void {
    const able = this.shapes().filter((shape) => canHaveDepth(shape) && !shape.round);
    const nodes = able.map((shape): ShapeNode => {
      const { start, lean, taper, ...plain } = { ...shape, ...ways };
      return { ...plain, ...(start && { start }), ...(lean && { lean }), ...(taper !== null && taper !== undefined && { taper }) };
    });
    if (nodes.length > 0) this.documents.commit({ kind: 'change', nodes }, `${label} ${nodes.length === 1 ? nodes[0]!.name : `${nodes.length} shapes`}`);
  }

  /** What of the selection an act has left as it was, and why. */
  saySkipped(reasons: readonly string[]): void {
    if (reasons.length === 0) return;
    const more = reasons.length > 3 ? [`and ${reasons.length - 3} more.`] : [];
    this.messages.say('info', reasons.length === 1 ? 'One thing was left as it is' : `${reasons.length} things were left as they are`, [
      ...reasons.slice(0, 3),
      ...more,
    ]);
  }

  turn(deg: number): void {
    this.each(`turn ${deg}°`, (laid, about) => turnLaid(laid, about, laid.plane.kind === 'left' || laid.plane.kind === 'sheet' ? -deg : deg));
  }

  mirror(across: 'u' | 'v'): void {
    this.each('mirror', (laid, about) => mirrorLaid(laid, across, about[across]));
  }

  scale(ratio: number): void {
    if (ratio > 0 && ratio !== 1) this.each(`scale by ${ratio}`, (laid, about) => scaleLaid(laid, about, ratio));
  }

  /** Scales the selection so that it is as long as asked along the plane's first direction. */
  scaleTo(length: number): void {
    const now = this.length();
    if (now > 0 && length > 0) this.scale(length / now);
  }

  /** How long the selection is along the first direction of its plane, in cells. */
  readonly length = computed(() => {
    const plane = this.plane();
    const boxes = plane ? this.boxesOf(this.nodes(), plane) : [];
    const all = boxes.length > 0 ? aroundAll(boxes) : null;
    return all ? exactCells(all.maxU - all.minU) : 0;
  });

  /** The point about which the selection is turned, mirrored and scaled: the one chosen point, where there is one. */
  readonly pivot = computed((): PlanePoint | null => {
    const [key, ...more] = this.view.points();
    const [id, point] = key?.split(' ') ?? [];
    const shape = id === undefined || more.length > 0 ? null : findShape(this.documents.kept(), id);
    const at = shape && ringsOf(shape.outline).flatMap((ring) => ring.points).find((p) => p.id === Number(point)); // prettier-ignore
    return at ? { u: at.u, v: at.v } : null;
  });

  /** The selection laid on another plane, artwork with it, all as one; what is read stays readable. */
  toPlane(to: 'floor' | 'left' | 'right' | 'sheet' | Plane): void {
    const kind = typeof to === 'string' ? to : to.kind;
    this.each(`to the ${planeName(kind, this.documents.kept().projection)}`, (laid, _about, box) => toPlane(laid, to, 'corner', box));
    const first = this.shapes()[0];
    if (first) this.view.putPlane(first.plane);
  }

  /** Copies of the selection in equal true steps, in one direction or two; the copies are selected. */
  repeat(along: Repetition, rows: Repetition = { count: 0, step: { a: 0, b: 0, h: 0 } }, linked = false, label = 'repeat'): void {
    const nodes = this.nodes();
    const places: CellMove[] = [];
    for (let r = 0; r <= rows.count; r++) {
      for (let i = 0; i <= along.count; i++) if (r + i > 0) places.push(plusMove(times(along.step, i), times(rows.step, r)));
    }
    if (nodes.length === 0 || places.length === 0) return;
    // Artwork moves within its face; a step that only leads away from it would lay every copy on the first.
    const able = linked ? nodes : nodes.filter((node) => places.every((by) => this.movesWithin(node, by)));
    this.saySkipped(nodes.filter((node) => !able.includes(node)).map(({ name }) => `“${name}” lies on a face, and these steps lead away from it.`));
    if (able.length === 0) return;
    const copies = places.flatMap((by) => (linked ? able.map((node) => this.linkedCopy(node, by)) : movedWithin(copyNodes(able, newId), by)));
    const edit: Edit = { kind: 'add', nodes: copies, artworks: [] };
    this.documents.commit(edit, `${label} ${able.length === 1 ? able[0]!.name : `${able.length} things`}`);
    this.view.select(copies.map((node) => node.id));
  }

  /** Whether artwork on a face that is not copied with it comes to lie elsewhere on the face; anything else always does. */
  private movesWithin(node: DocumentNode, by: CellMove): boolean {
    if (node.kind !== 'placement' || node.target.kind !== 'face') return true;
    const host = node.target.node;
    if (this.nodes().some((other) => other.id === host)) return true;
    const ground = placementGround(this.documents.kept(), node);
    const frame = ground && readingFrameOf(ground);
    return !frame || lengthWorld(by) === 0 || Math.abs(dotWorld(by, frame.u)) + Math.abs(dotWorld(by, frame.v)) > 1e-9;
  }

  private linkedCopy(node: DocumentNode, by: CellMove): CopyNode {
    const from = node.kind === 'copy' ? node : { of: node.id, by: { a: 0, b: 0, h: 0 } };
    const { of, axes, turn } = { axes: undefined, turn: undefined, ...from };
    const copy = { kind: 'copy', id: newId(), name: node.name, hidden: false, locked: false, of, by: plusMove(from.by, by) } as const;
    return { ...copy, ...(axes && { axes }), ...(turn && { turn }) };
  }

  /** One copy, a cell aside along the plane of the first selected shape. */
  duplicate(linked = false): void {
    const plane = this.shapes()[0]?.plane.kind ?? this.planeOfPlaced() ?? 'floor';
    const step = { a: plane === 'left' ? 0 : 1, b: plane === 'left' ? 1 : 0, h: 0 };
    this.repeat({ count: 1, step }, undefined, linked, linked ? 'copy, linked' : 'duplicate');
  }

  /** The kind of plane that the first selected artwork lies in. */
  private planeOfPlaced(): Plane['kind'] | null {
    const node = this.nodes().find((n) => n.kind === 'placement');
    if (!node) return null;
    const ground = placementGround(this.documents.kept(), node);
    return (ground && ('kind' in ground ? ground : planeOfSurface(ground)))?.kind ?? null;
  }

  /** Linked copies of the selection as things of their own. */
  makeIndependent(): void {
    const document = this.documents.kept();
    const copies = this.copies();
    const own = copies.flatMap((copy) => independentCopy(document, copy) ?? []);
    if (own.length === 0) return;
    const nodes = own.flatMap(({ node, on }) => [node, ...on]);
    const edits: Edit = { kind: 'replace', ids: copies.map((copy) => copy.id), nodes: nodes };
    this.documents.commit(edits, `make ${own.length === 1 ? own[0]!.node.name : `${own.length} copies`} independent`);
    this.view.select(own.map(({ node }) => node.id));
  }

  align(along: Direction, side: Side): void {
    this.moveEach(`align`, (boxes) => alignBoxes(boxes, along, side));
  }

  distribute(along: Direction): void {
    this.moveEach('distribute', (boxes) => distributeBoxes(boxes, along));
  }

  setGap(along: Direction, gap: number): void {
    this.moveEach('set gap', (boxes) => gapBoxes(boxes, along, gap));
  }

  /** The selection centred as a whole on the last pressed face of a solid, or on the sheet. */
  centreOn(host: string): void {
    const target = this.boxOf(host);
    if (!target) return;
    this.moveEach(
      'centre',
      (boxes) => {
        const all = aroundAll(boxes);
        const by = {
          u: exactCells((target.minU + target.maxU - all.minU - all.maxU) / 2),
          v: exactCells((target.minV + target.maxV - all.minV - all.maxV) / 2),
        };
        return boxes.map(() => by);
      },
      host,
    );
  }

  /** What the selection can be centred on: shapes and faces of its plane that hold it, smallest first. */
  readonly hosts = computed((): readonly { readonly id: string; readonly name: string }[] => {
    const plane = this.plane();
    if (!plane || this.nodes().length === 0) return [];
    const chosen = new Set(flattenTree(this.nodes()).map(({ node }) => node.id));
    const mine = this.boxesOf(this.nodes(), plane);
    const all = mine.length > 0 ? aroundAll(mine) : null;
    if (!all) return [];
    const hosts: { id: string; name: string; area: number }[] = [];
    for (const { node, hidden } of this.documents.entries()) {
      if (hidden || chosen.has(node.id) || node.kind !== 'shape' || !node.outline.closed) continue;
      const box = this.boxOf(node.id);
      if (box && touches(box, all)) hosts.push({ id: node.id, name: node.name, area: (box.maxU - box.minU) * (box.maxV - box.minV) });
    }
    if (plane.kind === 'sheet') hosts.push({ id: 'sheet', name: 'the sheet', area: Infinity });
    return hosts.sort((p, q) => p.area - q.area).slice(0, 3);
  });

  /** What the selected things are centred on as a whole, by direction; null where on nothing. */
  readonly centredOn = computed((): Readonly<Record<Direction, string | null>> => {
    const plane = this.plane();
    const mine = plane ? this.boxesOf(this.nodes(), plane) : [];
    if (mine.length === 0) return { u: null, v: null };
    const all = aroundAll(mine);
    const same = (low: number, high: number, p: number, q: number): boolean => exactCells(low + high) === exactCells(p + q);
    const [u, v] = (['u', 'v'] as const).map((side) => {
      const on = this.hosts().find(({ id }) => {
        const box = this.boxOf(id);
        return box !== null && (side === 'u' ? same(box.minU, box.maxU, all.minU, all.maxU) : same(box.minV, box.maxV, all.minV, all.maxV));
      });
      return on?.name ?? null;
    });
    return { u: u ?? null, v: v ?? null };
  });

  /** The box of a shape's outline or of that face of it which lies in the selection's plane; the sheet's by its name. */
  private boxOf(id: string): PlaneBox | null {
    const document = this.documents.kept();
    const plane = this.plane();
    const { cell } = document.grid;
    if (id === 'sheet') return { minU: 0, minV: 0, maxU: document.sheet.width / cell, maxV: document.sheet.height / cell };
    const shape = findShape(document, id);
    if (!shape || !plane) return null;
    if (samePlane(shape.plane, plane)) return outlineBox(shape.outline);
    return surfacesIn(shape, plane)[0]?.box ?? null;
  }

  /** All selected shapes as wide, or as high, as the first: one side of each stays where it is. */
  sameLength(along: Direction): void {
    const [first] = this.shapes();
    const box = first && outlineBox(first.outline);
    if (!box) return;
    const wanted = along === 'u' ? box.maxU - box.minU : box.maxV - box.minV;
    const items = this.shapes()
      .slice(1)
      .flatMap((shape) => {
        const own = shape.locked ? null : outlineBox(shape.outline);
        return own ? [{ id: shape.id, plane: shape.plane, outline: stretchOutline(shape.outline, along, own, wanted) }] : [];
      });
    if (items.length > 0) this.documents.commit({ kind: 'lay', items }, `same ${along === 'u' ? 'length' : 'height'} as ${first!.name}`);
  }

  /** The boxes of things on a plane; none for those that lie elsewhere. */
  private boxesOf(nodes: readonly DocumentNode[], plane: Plane): readonly PlaneBox[] {
    return nodes.flatMap((node) => {
      const boxes = shapesIn([node]).flatMap((shape) => (samePlane(shape.plane, plane) ? (outlineBox(shape.outline) ?? []) : []));
      return boxes.length > 0 ? [aroundAll(boxes)] : [];
    });
  }

  private moveEach(label: string, change: (boxes: readonly PlaneBox[]) => readonly PlanePoint[], host?: string): void {
    const plane = this.plane();
    if (!plane) return;
    const lies = (node: DocumentNode): boolean => this.boxesOf([node], plane).length > 0;
    const nodes = this.nodes().filter((node) => !node.locked && lies(node));
    this.saySkipped(
      this.nodes().flatMap((node) => (node.locked ? [`“${node.name}” is locked.`] : lies(node) ? [] : [`“${node.name}” lies on another plane.`])),
    );
    const boxes = this.boxesOf(nodes, plane);
    if (boxes.length === 0) return;
    const moves = change(boxes);
    const changed = nodes.flatMap((node, i) => {
      const by = moves[i]!;
      return by.u === 0 && by.v === 0 ? [] : movedAll([node], moveOnPlane(plane, by.u, by.v));
    });
    if (changed.length === 0) return;
    const on = host === undefined ? '' : ` on ${findNode(this.documents.kept(), host)?.name ?? 'the sheet'}`;
    this.documents.commit({ kind: 'change', nodes: changed }, `${label} ${changed.length === 1 ? changed[0]!.name : `${changed.length} things`}${on}`);
  }

  /** Changes everything selected that lies on a plane; what is on one plane as a whole, about the middle of the box around it. */
  private each(label: string, change: (laid: Laid, about: PlanePoint, box: PlaneBox) => Laid): void {
    const skipped: string[] = [];
    const parts = flattenTree(this.nodes()).flatMap(({ node, locked }) => {
      const laid = locked ? null : laidOf(node, this.documents.kept());
      if (!laid && node.kind !== 'group') skipped.push(`“${node.name}” ${locked ? 'is locked' : whyFixed(node)}.`);
      return laid && (node.kind === 'shape' || node.kind === 'placement') ? [{ node, laid }] : [];
    });
    const boxes = new Map<string, PlaneBox>();
    for (const { laid } of parts) {
      const [box, known] = [outlineBox(laid.outline), boxes.get(planeKey(laid.plane))];
      if (box) boxes.set(planeKey(laid.plane), known ? aroundAll([known, box]) : box);
    }
    const nodes = parts.flatMap(({ node, laid }) => {
      const box = boxes.get(planeKey(laid.plane));
      if (!box) return [];
      const next = change(laid, this.pivot() ?? { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 }, box);
      return [node.kind === 'shape' ? { ...node, ...next } : placedIn(node, laid, next, this.documents.kept())];
    });
    this.saySkipped(skipped);
    if (nodes.length === 0) return;
    const name = nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`;
    this.documents.commit({ kind: 'change', nodes }, `${label}: ${name}`);
  }
}

const touches = (p: PlaneBox, q: PlaneBox): boolean => p.minU <= q.maxU && q.minU <= p.maxU && p.minV <= q.maxV && q.minV <= p.maxV;
