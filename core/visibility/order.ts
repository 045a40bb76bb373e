import FlatQueue from 'flatqueue';
import type { DrawnFace } from './drawn-face';
import { TOUCHING } from '../math/tolerances';
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
  /** The update that it was last part of. */
  stamp: number;
  /** How many faces of other owners it hides. */
  foreign: number;
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
  private readonly known = new Map<DrawnFace, Links>();
  private stamp = 0;

  /** The paint order of these faces; the same face objects as last time cost nothing to compare again. */
  update(faces: readonly DrawnFace[]): PaintOrder {
    const { known } = this;
    const stamp = ++this.stamp;
    const all = new Array<Links>(faces.length);
    const fresh: Links[] = [];
    for (let index = 0; index < faces.length; index++) {
      const face = faces[index]!;
      let links = known.get(face);
      if (!links) {
        links = { face, index, stamp, foreign: 0, hides: [], hiddenBy: [], level: [] };
        fresh.push(links);
        known.set(face, links);
      }
      links.index = index;
      links.stamp = stamp;
      all[index] = links;
    }
    if (known.size > all.length) {
      for (const links of known.values()) {
        if (links.stamp === stamp) continue;
        forget(links);
        known.delete(links.face);
      }
    }
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
  for (const other of links.hiddenBy) {
    drop(other.hides);
    if (other.face.owner !== links.face.owner) other.foreign--;
  }
  for (const other of links.level) drop(other.level);
}

function compareEach(all: readonly Links[], fresh: readonly Links[]): void {
  const waiting = new Set(fresh);
  for (const links of fresh) {
    waiting.delete(links);
    for (const other of all) {
      if (rangesOverlap(links.face, other.face) && other !== links && !waiting.has(other)) link(links, other);
    }
  }
}

/**
 * Compares every pair with a fresh face in it whose ranges overlap. Faces are swept in the order of their smallest x;
 * their ranges lie in one array in that order, already narrowed by what counts as touching, so that the inner loop
 * reads memory in a row. The plain form of the test is `rangesOverlap`.
 */
function compareBySweep(all: readonly Links[], fresh: ReadonlySet<Links>): void {
  const sorted = [...all].sort((f, g) => f.face.ranges[0]! - g.face.ranges[0]!);
  const n = sorted.length;
  const stride = sorted[0]?.face.ranges.length ?? 0;
  const ranges = narrowedRanges(sorted, stride);
  for (let i = 0; i < n; i++) {
    const links = sorted[i]!;
    const isFresh = fresh.has(links);
    const at = i * stride;
    const reach = ranges[at + 1]!;
    for (let j = i + 1, to = at + stride; j < n; j++, to += stride) {
      if (ranges[to]! >= reach) break;
      let d = 2;
      while (d < stride && ranges[at + d]! < ranges[to + d + 1]! && ranges[to + d]! < ranges[at + d + 1]!) d += 2;
      if (d >= stride && (isFresh || fresh.has(sorted[j]!))) link(links, sorted[j]!);
    }
  }
}

function narrowedRanges(sorted: readonly Links[], stride: number): Float64Array {
  const ranges = new Float64Array(sorted.length * stride);
  let largest = 1;
  sorted.forEach(({ face }, i) => {
    ranges.set(face.ranges, i * stride);
    for (const value of face.ranges) if (Math.abs(value) > largest) largest = Math.abs(value);
  });
  const slack = TOUCHING * largest;
  for (let k = 0; k < ranges.length; k += 2) {
    ranges[k]! += slack;
    ranges[k + 1]! -= slack;
  }
  return ranges;
}

function link(links: Links, other: Links): void {
  const relation = relate(links.face, other.face);
  if (relation === 'front' || relation === 'behind') {
    const [front, behind] = relation === 'front' ? [links, other] : [other, links];
    front.hides.push(behind);
    behind.hiddenBy.push(front);
    if (front.face.owner !== behind.face.owner) front.foreign++;
  } else if (relation === 'level') {
    links.level.push(other);
    other.level.push(links);
  }
}

/** The faces that have to be painted before this one: what it hides, and what lies below it in its own plane. */
function forEachBelow(links: Links, visit: (other: Links) => void): void {
  for (const other of links.hides) visit(other);
  for (const other of links.level) if (other.index < links.index) visit(other);
}

/**
 * The farthest first, by Kahn's topological sort, owner by owner where that is right: an owner all of whose faces
 * wait for nothing but each other comes whole, so that a solid stays one group. Where owners interlock, single faces
 * come as they get free, and where even those wait for each other in a ring, one is painted early and cut out of what
 * lies behind it.
 */
function sort(all: readonly Links[]): PaintOrder {
  const order: number[] = [];
  const cuts = new Map<number, number[]>();
  const painted = new Uint8Array(all.length);
  const waiting = new Int32Array(all.length);
  const owners = ownersOf(all);
  const outside = new Int32Array(owners.members.length);
  const freeFaces = new FlatQueue<number>();
  const freeOwners = new FlatQueue<number>();
  for (const { index, foreign, hides, level } of all) {
    const owner = owners.of[index]!;
    let count = hides.length;
    outside[owner]! += foreign;
    for (const other of level) {
      if (other.index > index) continue;
      count++;
      if (owners.of[other.index] !== owner) outside[owner]!++;
    }
    waiting[index] = count;
    if (count === 0) freeFaces.push(index, index);
  }
  outside.forEach((count, owner) => count === 0 && freeOwners.push(owner, owner));
  const ready = (owner: number): number | undefined => owners.members[owner]!.find((i) => !painted[i] && waiting[i] === 0);
  const release = (k: number, mine: number): void => {
    const owner = owners.of[k]!;
    if (--waiting[k]! === 0 && !painted[k]) freeFaces.push(k, k);
    if (owner !== mine && --outside[owner]! === 0) freeOwners.push(owner, owner);
  };
  const paint = (index: number): void => {
    painted[index] = 1;
    order.push(index);
    const { hiddenBy, level } = all[index]!;
    const mine = owners.of[index]!;
    for (let i = 0; i < hiddenBy.length; i++) release(hiddenBy[i]!.index, mine);
    for (const other of level) if (other.index > index) release(other.index, mine);
  };
  let owner = -1;
  while (order.length < all.length) {
    let next = owner < 0 ? undefined : ready(owner);
    while (next === undefined && freeOwners.length > 0) next = ready(freeOwners.pop()!);
    while (next === undefined && freeFaces.length > 0) {
      const i = freeFaces.pop()!;
      if (!painted[i]) next = i;
    }
    if (next === undefined) {
      const early = ringBreaker(all, painted);
      forEachBelow(early, ({ index: k }) => {
        if (!painted[k]) cuts.set(k, [...(cuts.get(k) ?? []), early.index]);
      });
      next = early.index;
    }
    owner = owners.of[next]!;
    paint(next);
  }
  return { order, cuts };
}

/** The owner of each face as a whole number in order of appearance, and the faces of each. */
function ownersOf(all: readonly Links[]): { readonly of: Int32Array; readonly members: readonly number[][] } {
  const numbers = new Map<string, number>();
  const of = new Int32Array(all.length);
  const members: number[][] = [];
  for (const { face, index } of all) {
    let number = numbers.get(face.owner);
    if (number === undefined) {
      number = members.length;
      numbers.set(face.owner, number);
      members.push([]);
    }
    of[index] = number;
    members[number]!.push(index);
  }
  return { of, members };
}

/** A face of some ring: of those met by walking down from any unpainted face, the one that covers fewest unpainted. */
function ringBreaker(all: readonly Links[], painted: Uint8Array): Links {
  const open = (links: Links): Links[] => {
    const below: Links[] = [];
    forEachBelow(links, (other) => painted[other.index] === 0 && below.push(other));
    return below;
  };
  const path: Links[] = [];
  const seen = new Set<Links>();
  let at = all[painted.indexOf(0)]!;
  while (!seen.has(at)) {
    seen.add(at);
    path.push(at);
    at = open(at)[0]!;
  }
  const ring = path.slice(path.indexOf(at));
  return ring.reduce((best, links) => (open(links).length < open(best).length ? links : best));
}
