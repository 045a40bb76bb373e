import { TOUCHING } from '../math/tolerances';
import type { DrawnBody, DrawnSurface } from './drawn-body';
import { rangesOverlap, relate, type Budget, type Relation } from './relation';
import { relateBodies, watcherOf, type Watcher } from './separate';

/** A surface of one body and one of another (or of the same) that overlap on the sheet, and how. */
export interface Detail {
  readonly f: number;
  readonly g: number;
  readonly relation: Relation;
}

/** Two bodies that overlap on the sheet, the earlier one first. */
export interface Pair {
  f: Links;
  g: Links;
  /** Which is wholly in front; null where their surfaces have to be compared one by one. */
  front: Links | null;
  details: Details | null;
  /** The details were compared quickly. */
  quick: boolean;
}

/** How the surfaces of two bodies, or of one, lie to one another. */
export interface Details {
  /** None where it would have taken too long to tell. */
  readonly all: readonly Detail[];
  /** Overlaps of facets that were looked at. */
  readonly cost: number;
  /** It was too much to compare. */
  readonly beyond: boolean;
}

/** Overlaps of facets that are compared between two bodies: some tenths of a second's worth. */
export const MOST_OVERLAPS = 200_000;

/** What is known of one body: the bodies that it overlaps, as links, so that no look-up stands in the way. */
export interface Links {
  readonly drawn: DrawnBody;
  /** Its place among the bodies given last; the document's order. */
  index: number;
  /** The update that it was last part of, and that at which a pair of it was new or gone. */
  stamp: number;
  touched: number;
  readonly pairs: Pair[];
  /** How its own surfaces lie to one another, where it is not convex. */
  own: Details | null;
}

/**
 * Keeps which bodies overlap for an eye, and which of them is in front, from one time to the next, so that moving one
 * thing compares only that thing.
 *
 * Bodies that overlap on the sheet are compared as wholes by a plane that has them on its two sides, which settles
 * nearly all of them (Fuchs, Kedem & Naylor 1980 use such planes in a tree; taken pair by pair they need no tree to be
 * built, nothing is ever split, and what is dragged is compared alone). Where no plane parts two bodies, and within a
 * body that is not convex, surfaces are compared inside their overlap (Newell, Newell & Sancha 1972), when they are
 * asked for.
 */
export class PairKeeper {
  private readonly known = new Map<DrawnBody, Links>();
  private stamp = 0;
  /** Whether bodies that were there before stand in another order since the last update. */
  reordered = false;

  /** Whether nothing that lies in front of a body can be other than before the last update. */
  isSame({ touched }: Links): boolean {
    return touched !== this.stamp && !this.reordered;
  }

  /** What is known of each of these bodies, in their order; the same objects as last time cost nothing to compare again. */
  update(bodies: readonly DrawnBody[]): readonly Links[] {
    const { known } = this;
    const stamp = ++this.stamp;
    const all = new Array<Links>(bodies.length);
    const fresh: Links[] = [];
    let last = -1;
    this.reordered = false;
    for (let index = 0; index < bodies.length; index++) {
      const drawn = bodies[index]!;
      let links = known.get(drawn);
      if (!links) {
        links = { drawn, index, stamp, touched: stamp, pairs: [], own: null };
        fresh.push(links);
        known.set(drawn, links);
      } else {
        if (links.index < last) this.reordered = true;
        last = links.index;
      }
      links.index = index;
      links.stamp = stamp;
      all[index] = links;
    }
    if (fresh.length === all.length && known.size > all.length) {
      // Nothing of what was known is left.
      known.clear();
      for (const links of all) known.set(links.drawn, links);
    } else if (known.size > all.length) {
      for (const links of known.values()) {
        if (links.stamp === stamp) continue;
        forget(links, stamp);
        known.delete(links.drawn);
      }
    }
    const seen = bodies.find(({ surfaces }) => surfaces.length > 0);
    if (seen) {
      const watcher = watcherOf(seen.surfaces[0]!.view.sight.projection.eye);
      if (fresh.length * 8 > all.length) compareBySweep(watcher, all, new Set(fresh));
      else compareEach(watcher, all, fresh);
    }
    for (const links of all) if (this.reordered || links.touched === stamp) inOrderOf(links);
    return all;
  }
}

/** Puts what overlaps a body in the order of the bodies, so that nothing depends on the way by which a document came to be. */
function inOrderOf(links: Links): void {
  for (const pair of links.pairs) {
    if (pair.f.index <= pair.g.index) continue;
    [pair.f, pair.g] = [pair.g, pair.f];
    pair.details = null;
  }
  if (links.pairs.length > 1) links.pairs.sort((p, q) => otherOf(p, links).index - otherOf(q, links).index);
}

const otherOf = ({ f, g }: Pair, links: Links): Links => (f === links ? g : f);

function forget(links: Links, stamp: number): void {
  for (const pair of links.pairs) {
    const other = otherOf(pair, links);
    other.touched = stamp;
    const { pairs } = other;
    const at = pairs.indexOf(pair);
    pairs[at] = pairs[pairs.length - 1]!;
    pairs.pop();
  }
}

function compareEach(watcher: Watcher, all: readonly Links[], fresh: readonly Links[]): void {
  const waiting = new Set(fresh);
  for (const links of fresh) {
    waiting.delete(links);
    for (const other of all) {
      if (rangesOverlap(links.drawn.ranges, other.drawn.ranges) && other !== links && !waiting.has(other)) link(watcher, links, other);
    }
  }
}

/**
 * Compares every pair with a fresh body in it whose ranges overlap. Bodies are swept in the order of their smallest x;
 * their ranges lie in one array in that order, already narrowed by what counts as touching, so that the inner loop
 * reads memory in a row. The plain form of the test is `rangesOverlap`.
 */
function compareBySweep(watcher: Watcher, all: readonly Links[], fresh: ReadonlySet<Links>): void {
  const sorted = all.filter((links) => links.drawn.surfaces.length > 0).sort((f, g) => f.drawn.ranges[0]! - g.drawn.ranges[0]!);
  const n = sorted.length;
  const every = fresh.size === all.length;
  const stride = sorted[0]?.drawn.ranges.length ?? 0;
  const ranges = narrowedRanges(sorted, stride);
  for (let i = 0; i < n; i++) {
    const links = sorted[i]!;
    const isFresh = every || fresh.has(links);
    const at = i * stride;
    const reach = ranges[at + 1]!;
    for (let j = i + 1, to = at + stride; j < n; j++, to += stride) {
      if (ranges[to]! >= reach) break;
      let d = 2;
      while (d < stride && ranges[at + d]! < ranges[to + d + 1]! && ranges[to + d]! < ranges[at + d + 1]!) d += 2;
      if (d >= stride && (isFresh || fresh.has(sorted[j]!))) link(watcher, links, sorted[j]!);
    }
  }
}

function narrowedRanges(sorted: readonly Links[], stride: number): Float64Array {
  const ranges = new Float64Array(sorted.length * stride);
  let largest = 1;
  sorted.forEach(({ drawn }, i) => {
    ranges.set(drawn.ranges, i * stride);
    for (const value of drawn.ranges) if (Math.abs(value) > largest) largest = Math.abs(value);
  });
  const slack = TOUCHING * largest;
  for (let k = 0; k < ranges.length; k += 2) {
    ranges[k]! += slack;
    ranges[k + 1]! -= slack;
  }
  return ranges;
}

function link(watcher: Watcher, f: Links, g: Links): void {
  const pair = f.index < g.index ? pairOf(watcher, f, g) : pairOf(watcher, g, f);
  if (!pair) return;
  f.pairs.push(pair);
  g.pairs.push(pair);
  f.touched = f.stamp;
  g.touched = g.stamp;
}

/** How two bodies lie to one another; null where neither can be in front of the other. */
export function pairOf(watcher: Watcher, f: Links, g: Links): Pair | null {
  if (f.drawn.surfaces.length === 0 || g.drawn.surfaces.length === 0) return null;
  // A body and itself: each of its surfaces with each other.
  const relation = f.drawn.body === g.drawn.body ? 'mixed' : relateBodies(watcher, f.drawn.body, g.drawn.body);
  return relation === 'apart' ? null : { f, g, front: relation === 'front' ? f : relation === 'behind' ? g : null, details: null, quick: false };
}

/** How the surfaces of a pair lie to one another, compared once; once more where it was compared quickly before. */
export function detailsOf(pair: Pair, quick = false): Details {
  if (!pair.details || (pair.quick && !quick)) {
    pair.details = compared(pair.f.drawn.surfaces, pair.g.drawn.surfaces, false, quick);
    pair.quick = quick;
  }
  return pair.details;
}

function compared(some: readonly DrawnSurface[], others: readonly DrawnSurface[], same: boolean, quick: boolean): Details {
  const all: Detail[] = [];
  const budget: Budget = { left: MOST_OVERLAPS };
  for (let i = 0; i < some.length; i++) {
    for (let j = same ? i + 1 : 0; j < others.length; j++) {
      if (!rangesOverlap(some[i]!.ranges, others[j]!.ranges)) continue;
      const relation = relate(some[i]!, others[j]!, quick, budget);
      if (budget.left <= 0) return { all: [], cost: MOST_OVERLAPS, beyond: true };
      if (relation.kind !== 'apart') all.push({ f: i, g: j, relation });
    }
  }
  return { all, cost: MOST_OVERLAPS - budget.left, beyond: false };
}

/** Nothing to compare. */
export const ALONE: Details = { all: [], cost: 0, beyond: false };

/** How the surfaces of one body lie to one another; none for a convex one. */
export function ownDetails(links: Links): Details {
  const { body, surfaces } = links.drawn;
  return (links.own ??= body.convex || surfaces.length < 2 ? ALONE : compared(surfaces, surfaces, true, false));
}
