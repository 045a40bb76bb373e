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

interface Links {
  /** Faces that this one hides. */
  readonly hides: Set<DrawnFace>;
  readonly hiddenBy: Set<DrawnFace>;
  /** Faces of the same plane that overlap this one: the document's order decides. */
  readonly level: Set<DrawnFace>;
}

/**
 * Keeps what is in front of what from one picture to the next, so that moving one thing compares only that thing.
 *
 * Sorting by any distance is wrong for faces of mixed sizes; here each overlapping pair is compared inside its
 * overlap, and the pairs are put in order afterwards (Newell, Newell & Sancha 1972, with the pair test of
 * `relate`). Rings are resolved by cutting instead of splitting.
 */
export class OrderKeeper {
  private readonly links = new Map<DrawnFace, Links>();

  /** The paint order of these faces; the same face objects as last time cost nothing to compare again. */
  update(faces: readonly DrawnFace[]): PaintOrder {
    const wanted = new Set(faces);
    for (const face of this.links.keys()) if (!wanted.has(face)) this.remove(face);
    const fresh = faces.filter((face) => !this.links.has(face));
    if (fresh.length > 0) {
      if (fresh.length * 8 > faces.length) this.compareBySweep(faces, new Set(fresh));
      else this.compareEach(faces, fresh);
    }
    return this.sort(faces);
  }

  private remove(face: DrawnFace): void {
    const links = this.links.get(face);
    if (!links) return;
    for (const other of links.hides) this.links.get(other)?.hiddenBy.delete(face);
    for (const other of links.hiddenBy) this.links.get(other)?.hides.delete(face);
    for (const other of links.level) this.links.get(other)?.level.delete(face);
    this.links.delete(face);
  }

  private add(face: DrawnFace): void {
    this.links.set(face, { hides: new Set(), hiddenBy: new Set(), level: new Set() });
  }

  private compareEach(faces: readonly DrawnFace[], fresh: readonly DrawnFace[]): void {
    for (const face of fresh) {
      this.add(face);
      for (const other of faces) {
        if (other !== face && this.links.has(other) && rangesOverlap(face, other)) this.link(face, other);
      }
    }
  }

  private compareBySweep(faces: readonly DrawnFace[], fresh: ReadonlySet<DrawnFace>): void {
    const sorted = [...faces].sort((f, g) => f.ranges[0]! - g.ranges[0]!);
    for (const face of fresh) this.add(face);
    for (let i = 0; i < sorted.length; i++) {
      const face = sorted[i]!;
      const isFresh = fresh.has(face);
      const reach = face.ranges[1]!;
      for (let j = i + 1; j < sorted.length; j++) {
        const other = sorted[j]!;
        if (other.ranges[0]! >= reach) break;
        if ((isFresh || fresh.has(other)) && rangesOverlap(face, other)) this.link(face, other);
      }
    }
  }

  private link(face: DrawnFace, other: DrawnFace): void {
    const relation = relate(face, other);
    if (relation === 'apart') return;
    const mine = this.links.get(face)!;
    const theirs = this.links.get(other)!;
    if (relation === 'front') {
      mine.hides.add(other);
      theirs.hiddenBy.add(face);
    } else if (relation === 'behind') {
      mine.hiddenBy.add(other);
      theirs.hides.add(face);
    } else {
      mine.level.add(other);
      theirs.level.add(face);
    }
  }

  /** The links as lists of numbers, put in order by Kahn's topological sort, farthest first. */
  private sort(faces: readonly DrawnFace[]): PaintOrder {
    const n = faces.length;
    const index = new Map<DrawnFace, number>();
    faces.forEach((face, i) => index.set(face, i));
    const above: number[][] = new Array<number[]>(n);
    const below: number[][] = new Array<number[]>(n);
    const waiting = new Int32Array(n);
    for (let i = 0; i < n; i++) {
      above[i] = [];
      below[i] = [];
    }
    for (let i = 0; i < n; i++) {
      const links = this.links.get(faces[i]!)!;
      const mine = below[i]!;
      for (const other of links.hides) mine.push(index.get(other)!);
      for (const other of links.level) {
        const k = index.get(other)!;
        if (k < i) mine.push(k);
      }
      for (const k of mine) above[k]!.push(i);
      waiting[i] = mine.length;
    }
    return drain(faces, above, below, waiting);
  }
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
