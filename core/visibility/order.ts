import type { DrawnFace } from './drawn-face';
import { rangesOverlap, relate } from './relation';

/** The order to paint in, and what must be cut away where no order alone is right. */
export interface PaintOrder {
  /** Indices into the given faces, the farthest first. */
  readonly order: readonly number[];
  /**
   * For faces that overlap in a ring (each in front of the next): face index to the faces in front of it that are
   * painted before it and have to be cut out of it.
   */
  readonly cuts: ReadonlyMap<number, readonly number[]>;
}

/** What is known of one face: its overlapping neighbours, as links, so that no look-up stands in the way. */
interface Links {
  readonly face: DrawnFace;
  /** Its place among the faces given last; the document's order. */
  index: number;
  /** Faces that this one hides, faces that hide it, and faces of its own plane that it overlaps. */
  readonly hides: Links[];
  readonly hiddenBy: Links[];
  readonly level: Links[];
}

/**
 * Keeps what is in front of what from one picture to the next, so that moving one thing compares only that thing.
 *
 * Sorting by any distance is wrong for faces of mixed sizes; here each overlapping pair is compared inside its
 * overlap, and the pairs are put in order afterwards (Newell, Newell & Sancha 1972, with the pair test of
 * `relate`). Rings are resolved by cutting instead of splitting.
 */
export class OrderKeeper {
  private known = new Map<DrawnFace, Links>();

  /** The paint order of these faces; the same face objects as last time cost nothing to compare again. */
  update(faces: readonly DrawnFace[]): PaintOrder {
    const all: Links[] = [];
    const fresh: Links[] = [];
    const next = new Map<DrawnFace, Links>();
    faces.forEach((face, index) => {
      let links = this.known.get(face);
      if (links) links.index = index;
      else {
        links = { face, index, hides: [], hiddenBy: [], level: [] };
        fresh.push(links);
      }
      all.push(links);
      next.set(face, links);
    });
    if (this.known.size + fresh.length > next.size) for (const links of this.known.values()) if (!next.has(links.face)) forget(links);
    this.known = next;
    if (fresh.length * 8 > all.length) compareBySweep(all, new Set(fresh));
    else compareEach(all, fresh);
    return sort(all);
  }
}

function forget(links: Links): void {
  const drop = (from: Links[]): void => {
    const at = from.indexOf(links);
    from[at] = from[from.length - 1]!;
    from.pop();
  };
  for (const other of links.hides) drop(other.hiddenBy);
  for (const other of links.hiddenBy) drop(other.hides);
  for (const other of links.level) drop(other.level);
}

function compareEach(all: readonly Links[], fresh: readonly Links[]): void {
  const waiting = new Set(fresh);
  for (const links of fresh) {
    waiting.delete(links);
    for (const other of all) {
      if (other !== links && !waiting.has(other) && rangesOverlap(links.face, other.face)) link(links, other);
    }
  }
}

function compareBySweep(all: readonly Links[], fresh: ReadonlySet<Links>): void {
  const sorted = [...all].sort((f, g) => f.face.ranges[0]! - g.face.ranges[0]!);
  for (let i = 0; i < sorted.length; i++) {
    const links = sorted[i]!;
    const isFresh = fresh.has(links);
    const reach = links.face.ranges[1]!;
    for (let j = i + 1; j < sorted.length; j++) {
      const other = sorted[j]!;
      if (other.face.ranges[0]! >= reach) break;
      if ((isFresh || fresh.has(other)) && rangesOverlap(links.face, other.face)) link(links, other);
    }
  }
}

function link(links: Links, other: Links): void {
  const relation = relate(links.face, other.face);
  if (relation === 'front') {
    links.hides.push(other);
    other.hiddenBy.push(links);
  } else if (relation === 'behind') {
    links.hiddenBy.push(other);
    other.hides.push(links);
  } else if (relation === 'level') {
    links.level.push(other);
    other.level.push(links);
  }
}

/** The links as lists of numbers, put in order by Kahn's topological sort, farthest first. */
function sort(all: readonly Links[]): PaintOrder {
  const above: number[][] = all.map(() => []);
  const below: number[][] = all.map(() => []);
  const waiting = new Int32Array(all.length);
  for (const { index, hides, level } of all) {
    const mine = below[index]!;
    for (const other of hides) mine.push(other.index);
    for (const other of level) if (other.index < index) mine.push(other.index);
    for (const k of mine) above[k]!.push(index);
    waiting[index] = mine.length;
  }
  return drain(
    all.map((links) => links.face),
    above,
    below,
    waiting,
  );
}

/**
 * Paints owner by owner where that is right: an owner all of whose faces wait for nothing but each other comes
 * whole, so that a solid stays one group. Where owners interlock, single faces come as they get free, and where even
 * those wait for each other in a ring, one is painted early and cut out of what lies behind it.
 */
function drain(faces: readonly DrawnFace[], above: readonly number[][], below: readonly number[][], waiting: Int32Array): PaintOrder {
  const n = faces.length;
  const order: number[] = [];
  const cuts = new Map<number, number[]>();
  const painted = new Uint8Array(n);
  const owners = ownersOf(faces);
  const outside = new Int32Array(owners.members.length);
  const freeFaces = new MinHeap();
  const freeOwners = new MinHeap();
  for (let i = 0; i < n; i++) {
    if (waiting[i] === 0) freeFaces.push(i);
    for (const k of below[i]!) if (owners.of[k] !== owners.of[i]) outside[owners.of[i]!]!++;
  }
  outside.forEach((count, owner) => count === 0 && freeOwners.push(owner));
  const ready = (owner: number): number | undefined => owners.members[owner]!.find((i) => !painted[i] && waiting[i] === 0);
  const paint = (i: number): void => {
    painted[i] = 1;
    order.push(i);
    for (const k of above[i]!) {
      if (--waiting[k]! === 0 && !painted[k]) freeFaces.push(k);
      if (owners.of[k] !== owners.of[i] && --outside[owners.of[k]!]! === 0) freeOwners.push(owners.of[k]!);
    }
  };
  let owner = -1;
  while (order.length < n) {
    let next = owner < 0 ? undefined : ready(owner);
    while (next === undefined && freeOwners.size > 0) next = ready(freeOwners.pop());
    while (next === undefined && freeFaces.size > 0) {
      const i = freeFaces.pop();
      if (!painted[i]) next = i;
    }
    if (next === undefined) {
      next = ringBreaker(below, painted);
      for (const k of below[next]!) {
        if (painted[k]) continue;
        const list = cuts.get(k);
        if (list) list.push(next);
        else cuts.set(k, [next]);
      }
    }
    owner = owners.of[next]!;
    paint(next);
  }
  return { order, cuts };
}

/** The owner of each face as a whole number in order of appearance, and the faces of each. */
function ownersOf(faces: readonly DrawnFace[]): { readonly of: Int32Array; readonly members: readonly number[][] } {
  const numbers = new Map<string, number>();
  const of = new Int32Array(faces.length);
  const members: number[][] = [];
  faces.forEach(({ owner }, i) => {
    let number = numbers.get(owner);
    if (number === undefined) {
      number = members.length;
      numbers.set(owner, number);
      members.push([]);
    }
    of[i] = number;
    members[number]!.push(i);
  });
  return { of, members };
}

/** A face of some ring: of those met by walking down from any unpainted face, the one that covers fewest unpainted. */
function ringBreaker(below: readonly number[][], painted: Uint8Array): number {
  const seen = new Map<number, number>();
  const path: number[] = [];
  let at = painted.indexOf(0);
  while (!seen.has(at)) {
    seen.set(at, path.length);
    path.push(at);
    at = below[at]!.find((k) => !painted[k])!;
  }
  const open = (i: number): number => below[i]!.reduce((sum, k) => sum + (painted[k] ? 0 : 1), 0);
  return path.slice(seen.get(at)).reduce((best, i) => (open(i) < open(best) ? i : best));
}

/** A binary heap of whole numbers, the smallest first. */
class MinHeap {
  private readonly items: number[] = [];

  get size(): number {
    return this.items.length;
  }

  push(value: number): void {
    const { items } = this;
    let at = items.push(value) - 1;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (items[parent]! <= value) break;
      items[at] = items[parent]!;
      at = parent;
    }
    items[at] = value;
  }

  pop(): number {
    const { items } = this;
    const top = items[0]!;
    const last = items.pop()!;
    const n = items.length;
    if (n === 0) return top;
    let at = 0;
    for (let child = 1; child < n; child = 2 * at + 1) {
      if (child + 1 < n && items[child + 1]! < items[child]!) child++;
      if (items[child]! >= last) break;
      items[at] = items[child]!;
      at = child;
    }
    items[at] = last;
    return top;
  }
}
