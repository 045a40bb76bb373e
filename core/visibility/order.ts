import FlatQueue from 'flatqueue';
import { TOUCHING } from '../math/tolerances';
import type { Area, DrawnBody, DrawnSurface } from './drawn-body';
import { rangesOverlap, relate, type Relation } from './relation';
import { relateBodies, watcherOf, type Watcher } from './separate';

/** The order to paint in, and what must be cut away where no order alone is right. */
export interface PaintOrder {
  /** Every surface once, the farthest first. */
  readonly order: readonly OrderedSurface[];
  /** Bodies that cut through each other, by their places among those given. */
  readonly through: ReadonlySet<number>;
}

/** A surface in its turn. */
export interface OrderedSurface {
  readonly surface: DrawnSurface;
  /** The place of its body among those given, and its own among the body's. */
  readonly body: number;
  readonly index: number;
  /** Areas of the sheet in which something painted before lies in front: cut out of the surface. */
  readonly cuts: readonly Area[] | null;
}

/** A surface of one body and one of another (or of the same) that overlap on the sheet, and how. */
interface Detail {
  readonly f: number;
  readonly g: number;
  readonly relation: Relation;
}

/** Two bodies that overlap on the sheet. */
interface Pair {
  readonly f: Links;
  readonly g: Links;
  /** Which is wholly in front; null where their surfaces have to be compared one by one. */
  front: Links | null;
  details: readonly Detail[] | null;
}

/** What is known of one body: the bodies that it overlaps, as links, so that no look-up stands in the way. */
interface Links {
  readonly drawn: DrawnBody;
  /** Its place among the bodies given last; the document's order. */
  index: number;
  /** The update that it was last part of. */
  stamp: number;
  readonly pairs: Pair[];
  /** How its own surfaces lie to one another, where it is not convex. */
  own: readonly Detail[] | null;
}

/**
 * Keeps what is in front of what from one picture to the next, so that moving one thing compares only that thing.
 *
 * Sorting by any distance is wrong for things of mixed sizes. Bodies that overlap on the sheet are compared as wholes by
 * a plane that has them on its two sides, which settles nearly all of them (Fuchs, Kedem & Naylor 1980 use such planes
 * in a tree; taken pair by pair they need no tree to be built, nothing is ever split, and what is dragged is compared
 * alone). Where no plane parts two bodies, and within a body that is not convex, surfaces are compared inside their
 * overlap (Newell, Newell & Sancha 1972). The pairs are then put in order; rings are resolved by cutting.
 */
export class OrderKeeper {
  private readonly known = new Map<DrawnBody, Links>();
  private stamp = 0;

  /** The paint order of these bodies; the same objects as last time cost nothing to compare again. */
  update(bodies: readonly DrawnBody[]): PaintOrder {
    const { known } = this;
    const stamp = ++this.stamp;
    const all = new Array<Links>(bodies.length);
    const fresh: Links[] = [];
    for (let index = 0; index < bodies.length; index++) {
      const drawn = bodies[index]!;
      let links = known.get(drawn);
      if (!links) {
        links = { drawn, index, stamp, pairs: [], own: null };
        fresh.push(links);
        known.set(drawn, links);
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
        forget(links);
        known.delete(links.drawn);
      }
    }
    const seen = bodies.find(({ surfaces }) => surfaces.length > 0);
    if (seen) {
      const watcher = watcherOf(seen.surfaces[0]!.view.sight.projection.eye);
      if (fresh.length * 8 > all.length) compareBySweep(watcher, all, new Set(fresh));
      else compareEach(watcher, all, fresh);
    }
    return new Sorting(all).run();
  }
}

function forget(links: Links): void {
  for (const pair of links.pairs) {
    const { pairs } = pair.f === links ? pair.g : pair.f;
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
  if (f.drawn.surfaces.length === 0 || g.drawn.surfaces.length === 0) return;
  const relation = relateBodies(watcher, f.drawn.body, g.drawn.body);
  if (relation === 'apart') return;
  const pair: Pair = { f, g, front: relation === 'front' ? f : relation === 'behind' ? g : null, details: null };
  f.pairs.push(pair);
  g.pairs.push(pair);
}

/** How the surfaces of a pair lie to one another, compared once. */
function detailsOf(pair: Pair): readonly Detail[] {
  return (pair.details ??= compared(pair.f.drawn.surfaces, pair.g.drawn.surfaces, false));
}

function compared(some: readonly DrawnSurface[], others: readonly DrawnSurface[], same: boolean): readonly Detail[] {
  const details: Detail[] = [];
  for (let i = 0; i < some.length; i++) {
    for (let j = same ? i + 1 : 0; j < others.length; j++) {
      if (!rangesOverlap(some[i]!.ranges, others[j]!.ranges)) continue;
      const relation = relate(some[i]!, others[j]!);
      if (relation.kind !== 'apart') details.push({ f: i, g: j, relation });
    }
  }
  return details;
}

function ownDetails(links: Links): readonly Detail[] {
  const { body, surfaces } = links.drawn;
  return (links.own ??= body.convex || surfaces.length < 2 ? [] : compared(surfaces, surfaces, true));
}

/** One surface that waits until another is painted, and where the other is cut if it cannot wait. */
interface Wait {
  readonly below: number;
  readonly above: number;
  /** Where the one above is in front; null for all of it. */
  readonly areas: readonly Float64Array[] | null;
}

/**
 * The farthest first, by Kahn's topological sort, body by body where that is right: one all of whose surfaces wait for
 * nothing but each other comes whole, so that a solid stays one group. Where bodies interlock, single surfaces come as
 * they get free. Where bodies wait for each other in a ring, their surfaces are compared one by one; where even those
 * wait in a ring, one is painted early and cut out of what lies behind it.
 */
class Sorting {
  private readonly first: Int32Array;
  private readonly total: number;
  private readonly owner: Int32Array;
  private readonly painted: Uint8Array;
  /** Surfaces: how many others must come before. Bodies: how many whole bodies, how many of its surfaces' waits are for others, how many surfaces are left. */
  private readonly waiting: Int32Array;
  private readonly behind: Int32Array;
  private readonly outside: Int32Array;
  private readonly left: Int32Array;
  private readonly aboveOf: (Wait[] | undefined)[];
  private readonly belowOf: (Wait[] | undefined)[];
  private readonly opened = new Set<Pair>();
  private readonly free = new FlatQueue<number>();
  private readonly partly = new FlatQueue<number>();
  private readonly cuts = new Map<number, Area[]>();
  private readonly through = new Set<number>();
  private readonly order: OrderedSurface[] = [];

  constructor(private readonly all: readonly Links[]) {
    this.first = new Int32Array(all.length + 1);
    all.forEach(({ drawn }, i) => (this.first[i + 1] = this.first[i]! + drawn.surfaces.length));
    this.total = this.first[all.length]!;
    this.owner = new Int32Array(this.total);
    all.forEach((_, i) => this.owner.fill(i, this.first[i], this.first[i + 1]));
    this.painted = new Uint8Array(this.total);
    this.waiting = new Int32Array(this.total);
    this.behind = new Int32Array(all.length);
    this.outside = new Int32Array(all.length);
    this.left = new Int32Array(all.length);
    this.aboveOf = new Array<Wait[] | undefined>(this.total);
    this.belowOf = new Array<Wait[] | undefined>(this.total);
  }

  run(): PaintOrder {
    for (const links of this.all) {
      const i = links.index;
      this.left[i] = links.drawn.surfaces.length;
      for (const { f, g, relation } of ownDetails(links)) this.await(this.first[i]! + f, this.first[i]! + g, relation);
      for (const pair of links.pairs) {
        if (pair.front === links) this.behind[i]!++;
        else if (!pair.front && pair.f === links) this.open(pair);
      }
    }
    for (let i = 0; i < this.all.length; i++) this.offer(i);
    while (this.order.length < this.total) {
      const next = this.free.length > 0 ? this.free.pop()! : this.partly.length > 0 ? this.partly.pop()! : -1;
      if (next >= 0) this.paintBody(next);
      else this.breakRing();
    }
    return { order: this.order, through: this.through };
  }

  /** Notes how two surfaces lie to one another, where neither is painted. */
  private await(f: number, g: number, { kind, reversed, agreed }: Relation): void {
    if (kind === 'apart') return;
    // Of what lies in one plane, the later in the document is on top.
    const above = kind === 'front' || (kind === 'level' && f > g) ? f : g;
    const below = above === f ? g : f;
    if (reversed) {
      this.cut(above, reversed);
      this.through.add(this.owner[above]!);
      this.through.add(this.owner[below]!);
    }
    if (this.painted[below]) return;
    const wait: Wait = { below, above, areas: agreed };
    (this.aboveOf[below] ??= []).push(wait);
    (this.belowOf[above] ??= []).push(wait);
    this.waiting[above]!++;
    if (this.owner[above] !== this.owner[below]) this.outside[this.owner[above]!]!++;
  }

  private cut(surface: number, areas: readonly Float64Array[]): void {
    const cuts = this.cuts.get(surface) ?? [];
    for (const polygon of areas) cuts.push({ polygon });
    this.cuts.set(surface, cuts);
  }

  private open(pair: Pair): void {
    this.opened.add(pair);
    const [f, g] = [this.first[pair.f.index]!, this.first[pair.g.index]!];
    for (const detail of detailsOf(pair)) this.await(f + detail.f, g + detail.g, detail.relation);
  }

  /** Puts a body in the queue that it belongs to, if it can be painted at all. */
  private offer(i: number): void {
    if (this.behind[i]! > 0 || this.left[i] === 0) return;
    if (this.outside[i] === 0) this.free.push(i, i);
    else if (this.ready(i) >= 0) this.partly.push(i, i);
  }

  private ready(i: number): number {
    for (let s = this.first[i]!; s < this.first[i + 1]!; s++) if (!this.painted[s] && this.waiting[s] === 0) return s;
    return -1;
  }

  private paintBody(i: number): void {
    if (this.behind[i]! > 0) return;
    for (let s = this.ready(i); s >= 0; s = this.ready(i)) this.paint(s);
  }

  private paint(s: number): void {
    const body = this.owner[s]!;
    this.painted[s] = 1;
    const index = s - this.first[body]!;
    const surface = this.all[body]!.drawn.surfaces[index]!;
    this.order.push({ surface, body, index, cuts: this.cuts.get(s) ?? null });
    for (const { above } of this.aboveOf[s] ?? []) {
      this.waiting[above]!--;
      const other = this.owner[above]!;
      if (other === body) continue;
      this.outside[other]!--;
      this.offer(other);
    }
    if (--this.left[body]! > 0) return;
    for (const pair of this.all[body]!.pairs) {
      const { front } = pair;
      if (!front || front.index === body || this.opened.has(pair)) continue;
      if (--this.behind[front.index]! === 0) this.offer(front.index);
    }
  }

  /** Follows what waits for what until it comes round, compares the surfaces there, or paints one of them early. */
  private breakRing(): void {
    const path: number[] = [];
    const by: (Pair | null)[] = [];
    const seen = new Map<number, number>();
    let at = this.painted.indexOf(0);
    while (!seen.has(at)) {
      seen.set(at, path.length);
      path.push(at);
      const pair = this.behind[this.owner[at]!]! > 0 ? this.unfinished(this.owner[at]!) : null;
      by.push(pair);
      const body = pair && (pair.f === pair.front ? pair.g : pair.f).index;
      at = body === null ? (this.belowOf[at] ?? []).find(({ below }) => !this.painted[below])!.below : this.unpainted(body);
    }
    const start = seen.get(at)!;
    const pairs = by.slice(start).filter((pair) => pair !== null);
    if (pairs.length > 0) return pairs.forEach((pair) => this.reopen(pair));
    const open = (s: number): number => (this.belowOf[s] ?? []).filter(({ below }) => !this.painted[below]).length;
    const early = path.slice(start).reduce((best, s) => (open(s) < open(best) ? s : best));
    const body = this.owner[early]!;
    for (const { below, areas } of this.belowOf[early] ?? []) {
      if (this.painted[below]) continue;
      if (areas) this.cut(below, areas);
      else this.cuts.set(below, [...(this.cuts.get(below) ?? []), ...this.all[body]!.drawn.surfaces[early - this.first[body]!]!.outline]);
    }
    this.paint(early);
    this.offer(body);
  }

  private unfinished(i: number): Pair {
    const links = this.all[i]!;
    return links.pairs.find((pair) => pair.front === links && !this.opened.has(pair) && this.left[(pair.f === links ? pair.g : pair.f).index]! > 0)!;
  }

  private unpainted(i: number): number {
    let s = this.first[i]!;
    while (this.painted[s]) s++;
    return s;
  }

  /** Compares the surfaces of two bodies that were compared as wholes. */
  private reopen(pair: Pair): void {
    if (this.opened.has(pair)) return;
    this.behind[pair.front!.index]!--;
    this.open(pair);
    this.offer(pair.front!.index);
  }
}
