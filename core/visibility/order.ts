import FlatQueue from 'flatqueue';
import type { Area, DrawnBody, DrawnSurface } from './drawn-body';
import { detailsOf, MOST_OVERLAPS, ownDetails, PairKeeper, type Detail, type Details, type Links, type Pair } from './pairs';
import type { Relation } from './relation';

/** The order to paint in, and what must be cut away where no order alone is right. */
export interface PaintOrder {
  /** Every surface once, the farthest first. */
  readonly order: readonly OrderedSurface[];
  /** Pairs of bodies that cut through each other, by their places among those given; a pair may be told more than once. */
  readonly through: readonly (readonly [number, number])[];
  /** Bodies that it would have taken too long to compare with each other, or with themselves: painted as they come. */
  readonly beyond: readonly number[];
}

/** Overlaps of facets that are compared for one picture; what comes later in the document is painted as it comes. */
const MOST_FOR_ALL = 3 * MOST_OVERLAPS;

/** A surface in its turn. */
export interface OrderedSurface {
  readonly surface: DrawnSurface;
  /** The place of its body among those given, and its own among the body's. */
  readonly body: number;
  readonly index: number;
  /** Areas of the sheet in which something painted before lies in front: cut out of the surface. */
  readonly cuts: readonly Area[] | null;
}

/**
 * The order in which bodies are painted, kept from one picture to the next. Sorting by any distance is wrong for things
 * of mixed sizes: pairs that overlap are compared (`PairKeeper`) and put in order; rings are resolved by cutting.
 */
export class OrderKeeper {
  private readonly pairs = new PairKeeper();

  /**
   * The paint order of these bodies; the same objects as last time cost nothing to compare again.
   * @param quick for a picture that lasts a frame: see `relate`
   */
  update(bodies: readonly DrawnBody[], quick = false): PaintOrder {
    return new Sorting(this.pairs.update(bodies), quick).run();
  }
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
  private readonly through: (readonly [number, number])[] = [];
  private readonly order: OrderedSurface[] = [];
  private readonly beyond = new Set<number>();
  /** Overlaps of facets that may be compared still. What is known already counts as if it were not, so that nothing depends on what was drawn before. */
  private budget = MOST_FOR_ALL;

  constructor(
    private readonly all: readonly Links[],
    private readonly quick: boolean,
  ) {
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
      for (const { f, g, relation } of this.within(() => ownDetails(links), i)) this.await(this.first[i]! + f, this.first[i]! + g, relation);
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
    return { order: this.order, through: this.through, beyond: [...this.beyond] };
  }

  /** What is told by comparing some bodies, within what may be compared. */
  private within(compare: () => Details, ...bodies: readonly number[]): readonly Detail[] {
    const details = this.budget > 0 ? compare() : null;
    this.budget -= details?.cost ?? 0;
    if (details && !details.beyond) return details.all;
    for (const body of bodies) this.beyond.add(body);
    return [];
  }

  /** Notes how two surfaces lie to one another, where neither is painted. */
  private await(f: number, g: number, { kind, reversed, agreed, through }: Relation): void {
    if (kind === 'apart') return;
    // Of what lies in one plane, the later in the document is on top.
    const above = kind === 'front' || (kind === 'level' && f > g) ? f : g;
    const below = above === f ? g : f;
    if (reversed) {
      this.cut(above, reversed);
      if (through) this.through.push([this.owner[above]!, this.owner[below]!]);
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
    for (const detail of this.within(() => detailsOf(pair, this.quick), pair.f.index, pair.g.index)) this.await(f + detail.f, g + detail.g, detail.relation);
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
