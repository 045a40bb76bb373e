import { exactCells } from '../math/exact';
import { apply33, invert33, type Mat33 } from '../math/matrix';
import type { PlanePoint, SheetPoint } from '../math/points';
import { sheetDistance } from '../math/points';
import { ALIGN_PX, CATCH_PX, NO_DETERMINANT, SAME_PLACE } from '../math/tolerances';
import { indexOf, type PlaneReach } from './catch-index';
import type { CatchSource } from './source';

/** A direction in which things are aligned or locked: the plane's own two, or on the sheet a drawn axis. */
export type Along = 'u' | 'v' | 'a' | 'b' | 'h';

/** What the pointer can take. `free`: nothing was near, or snapping is off. */
export type CatchKind =
  'point' | 'intersection' | 'middle' | 'centre' | 'crossing' | 'part' | 'perpendicular' | 'spacing' | 'edge' | 'grid line' | `along ${Along}` | 'free';

/** The kinds that can be switched off, by the names of their groups. */
export const CATCH_GROUPS = ['point', 'intersection', 'middle', 'centre', 'crossing', 'perpendicular', 'spacing', 'edge', 'grid line', 'alignment'] as const;
/** A kind of thing that catching can be switched off for. */
export type CatchGroup = (typeof CATCH_GROUPS)[number];

/** What was caught: the plane point that takes the pointer's place, and what it belongs to. */
export interface Caught extends PlanePoint {
  readonly kind: CatchKind;
  /** For alignments, the point that it is aligned with. */
  readonly with: PlanePoint | null;
  /** A second point that it is aligned with, along another direction. */
  readonly also?: PlanePoint;
}

/** How the pointer catches: the plane on the sheet, screen px to a sheet unit, and what is left out. */
export interface CatchOptions {
  /** Homography from the plane's cells to the sheet. */
  readonly sheetFromPlane: Mat33;
  /** Screen px per sheet unit, so that nearness means what the eye means by it. */
  readonly pxPerUnit: number;
  /** Whether grid crossings are taken. */
  readonly grid: boolean;
  /** Kinds that are not taken. */
  readonly off?: ReadonlySet<CatchGroup>;
  /** Parts of a cell that count as crossings too: 2 for halves, 3, 10; 1 or nothing for whole cells. */
  readonly parts?: number;
  /** The points drawn so far; the last is where the next edge begins. */
  readonly drawn?: readonly PlanePoint[];
  /** Points that the pointer has passed over, with which it may be aligned. */
  readonly hints?: readonly PlanePoint[];
  /** The directions in which the axes are drawn at a point of the sheet plane. */
  readonly axes?: (at: PlanePoint) => readonly { readonly along: Along; readonly du: number; readonly dv: number }[];
}

/**
 * How much nearer in px a lesser kind must be to win over a better one. A point beats a middle at the same place,
 * and both beat an edge that runs through them.
 */
const HANDICAP = { point: 0, intersection: 1, middle: 2, centre: 2, perpendicular: 3, spacing: 3, edge: 5 } as const;

/** Px by which a crossing must be nearer than a point, a middle or the like to be taken instead. */
const CROSSING_YIELDS = 5;

/** Most edges near the pointer whose intersections are looked for. */
const MOST_EDGES = 40;

/**
 * What the pointer takes at a plane point, in this rank: the best of points, intersections, middles and centres within
 * reach, unless a crossing is much nearer; the grid's nearest crossing where it is near; the foot of a perpendicular or an equal spacing; an edge; a
 * place aligned with one or two points that were passed over; a grid line; else the nearest crossing however far it is,
 * for on squared paper every press belongs to a crossing; without the grid, the pointer itself. Coordinates come back
 * exact. What is near is found through an index, so that thousands of points cost no more than a few.
 */
export function catchAt(at: PlanePoint, source: CatchSource, options: CatchOptions): Caught {
  const here = apply33(options.sheetFromPlane, at.u, at.v);
  if (!here) return { ...exact(at), kind: 'free', with: null };
  const off = options.off ?? NONE;
  const grid = options.grid && !off.has('crossing');
  const crossing = nearestCrossing(at, options.parts ?? 1);
  const reach = reachAround(here, options);
  const best = new Best(here, options);

  const near = indexOf(source).within(reach);
  const drawn = options.drawn ?? [];
  const edges = [...near.edges, ...near.chords, ...drawnEdges(drawn)];
  if (!off.has('point')) for (const p of [...near.points, ...drawn]) best.offer(p, 'point');
  if (!off.has('middle')) for (const [p, q] of near.middles) best.offer({ u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 }, 'middle');
  if (!off.has('centre')) for (const p of near.centres) best.offer(p, 'centre');
  if (!off.has('intersection')) offerIntersections(best, edges);
  const toCrossing = grid ? best.distance(crossing) : Infinity;
  if (best.caught && best.score <= toCrossing + CROSSING_YIELDS) return best.caught;
  if (toCrossing <= CATCH_PX) return { ...exact(crossing), kind: kindOfCrossing(crossing), with: null };

  const from = drawn.at(-1);
  if (from && !off.has('perpendicular')) for (const [p, q] of edges) offerPerpendicular(best, from, p, q);
  if (!off.has('spacing')) offerSpacings(best, options.hints ?? [], drawn);
  if (best.caught) return best.caught;
  if (!off.has('edge')) {
    for (const [p, q] of edges) {
      const foot = footOnEdge(at, p, q, options);
      if (foot) best.offer(foot, 'edge');
    }
  }
  if (best.caught) return best.caught;
  const aligned = off.has('alignment') ? null : alignment(at, best, options, grid ? crossing : null);
  if (aligned) return aligned;
  if (!grid) return { ...exact(at), kind: 'free', with: null };
  return gridLine(at, crossing, best, off) ?? { ...exact(crossing), kind: kindOfCrossing(crossing), with: null };
}

const NONE: ReadonlySet<CatchGroup> = new Set();

/** The best of what was offered so far, by its distance on the screen. */
class Best {
  caught: Caught | null = null;
  score = Infinity;

  constructor(
    private readonly here: SheetPoint,
    private readonly options: CatchOptions,
  ) {}

  distance(p: PlanePoint): number {
    return pxBetween(this.here, p, this.options);
  }

  offer(p: PlanePoint, kind: keyof typeof HANDICAP, other: PlanePoint | null = null): void {
    const d = this.distance(p);
    const score = d + HANDICAP[kind];
    if (!(d <= CATCH_PX) || score >= this.score) return;
    this.caught = { ...exact(p), kind, with: other };
    this.score = score;
  }
}

function exact(p: PlanePoint): PlanePoint {
  return { u: exactCells(p.u), v: exactCells(p.v) };
}

function nearestCrossing({ u, v }: PlanePoint, parts: number): PlanePoint {
  return { u: Math.round(u * parts) / parts + 0, v: Math.round(v * parts) / parts + 0 };
}

const kindOfCrossing = ({ u, v }: PlanePoint): CatchKind => (Number.isInteger(u) && Number.isInteger(v) ? 'crossing' : 'part');

function pxBetween(here: SheetPoint, p: PlanePoint, { sheetFromPlane, pxPerUnit }: CatchOptions): number {
  const there = apply33(sheetFromPlane, p.u, p.v);
  return there ? sheetDistance(here, there) * pxPerUnit : Infinity;
}

/** The box in cells around everything that lies within reach of the pointer on the screen. */
function reachAround(here: SheetPoint, { sheetFromPlane, pxPerUnit }: CatchOptions): PlaneReach {
  const inverse = invert33(sheetFromPlane);
  const r = CATCH_PX / pxPerUnit;
  let [minU, minV, maxU, maxV] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [dx, dy] of [
    [-r, -r],
    [r, -r],
    [r, r],
    [-r, r],
  ] as const) {
    const p = inverse && apply33(inverse, here.x + dx, here.y + dy);
    // A corner beyond the horizon: everything may be near.
    if (!p) return { minU: -Infinity, minV: -Infinity, maxU: Infinity, maxV: Infinity };
    [minU, minV, maxU, maxV] = [Math.min(minU, p.x), Math.min(minV, p.y), Math.max(maxU, p.x), Math.max(maxV, p.y)];
  }
  return { minU, minV, maxU, maxV };
}

function drawnEdges(drawn: readonly PlanePoint[]): (readonly [PlanePoint, PlanePoint])[] {
  return drawn.slice(1).map((q, i) => [drawn[i]!, q] as const);
}

function offerIntersections(best: Best, edges: readonly (readonly [PlanePoint, PlanePoint])[]): void {
  const near = edges.slice(0, MOST_EDGES);
  near.forEach(([p, q], i) => {
    for (const [r, s] of near.slice(i + 1)) {
      const at = sharesEnd(p, q, r, s) ? null : crossingOf(p, q, r, s);
      if (at) best.offer(at, 'intersection');
    }
  });
}

/** Whether one edge goes on where another ends: that is a corner, or a curve's next chord, and no crossing. */
function sharesEnd(p: PlanePoint, q: PlanePoint, r: PlanePoint, s: PlanePoint): boolean {
  const same = (a: PlanePoint, b: PlanePoint): boolean => Math.abs(a.u - b.u) < SAME_PLACE && Math.abs(a.v - b.v) < SAME_PLACE;
  return same(p, r) || same(p, s) || same(q, r) || same(q, s);
}

/** Where two edges cross, ends included; null where they do not, or run along each other. */
export function crossingOf(p: PlanePoint, q: PlanePoint, r: PlanePoint, s: PlanePoint): PlanePoint | null {
  const [ax, ay, bx, by] = [q.u - p.u, q.v - p.v, s.u - r.u, s.v - r.v];
  const cross = ax * by - ay * bx;
  if (cross === 0) return null;
  const t = ((r.u - p.u) * by - (r.v - p.v) * bx) / cross;
  const w = ((r.u - p.u) * ay - (r.v - p.v) * ax) / cross;
  return t >= 0 && t <= 1 && w >= 0 && w <= 1 ? { u: p.u + t * ax, v: p.v + t * ay } : null;
}

function offerPerpendicular(best: Best, from: PlanePoint, p: PlanePoint, q: PlanePoint): void {
  const [x, y] = [q.u - p.u, q.v - p.v];
  const square = x * x + y * y;
  if (square === 0) return;
  const t = ((from.u - p.u) * x + (from.v - p.v) * y) / square;
  const foot = { u: p.u + t * x, v: p.v + t * y };
  // From a point on the edge itself, nothing is perpendicular to it.
  if (t > 0 && t < 1 && Math.hypot(foot.u - from.u, foot.v - from.v) > SAME_PLACE) best.offer(foot, 'perpendicular', from);
}

/** Places that go on with the spacing of two points, or lie in the middle between them. */
function offerSpacings(best: Best, hints: readonly PlanePoint[], drawn: readonly PlanePoint[]): void {
  const known = [...hints, ...drawn.slice(-3)];
  for (const p of known) {
    for (const q of known) {
      if (p === q || (p.u === q.u && p.v === q.v)) continue;
      best.offer({ u: 2 * q.u - p.u, v: 2 * q.v - p.v }, 'spacing', q);
      best.offer({ u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 }, 'spacing', q);
    }
  }
}

/** The point of an edge that is nearest on the sheet. */
function footOnEdge(at: PlanePoint, p: PlanePoint, q: PlanePoint, { sheetFromPlane }: CatchOptions): PlanePoint | null {
  const here = apply33(sheetFromPlane, at.u, at.v);
  const from = apply33(sheetFromPlane, p.u, p.v);
  const to = apply33(sheetFromPlane, q.u, q.v);
  if (!here || !from || !to) return null;
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const square = dx * dx + dy * dy;
  if (square === 0) return null;
  const s = Math.max(0, Math.min(1, ((here.x - from.x) * dx + (here.y - from.y) * dy) / square));
  // Back into the plane by the cross-ratio of the depths at both ends.
  const depth = (o: PlanePoint): number => sheetFromPlane[6] * o.u + sheetFromPlane[7] * o.v + sheetFromPlane[8];
  const [w0, w1] = [depth(p), depth(q)];
  const t = (s * w0) / ((1 - s) * w1 + s * w0);
  return { u: p.u + t * (q.u - p.u), v: p.v + t * (q.v - p.v) };
}

interface Alignment extends PlanePoint {
  readonly along: Along;
  readonly with: PlanePoint;
  readonly px: number;
}

/** With one point that was passed over, or with two along different directions where both are near. */
function alignment(at: PlanePoint, best: Best, options: CatchOptions, crossing: PlanePoint | null): Caught | null {
  const found: Alignment[] = [];
  for (const p of [...(options.hints ?? []), ...(options.drawn ?? [])]) {
    const lines = [{ along: 'u' as Along, du: 1, dv: 0 }, { along: 'v' as Along, du: 0, dv: 1 }, ...(options.axes?.(p) ?? [])];
    for (const { along, du, dv } of lines) {
      const t = ((at.u - p.u) * du + (at.v - p.v) * dv) / (du * du + dv * dv);
      const foot = { u: p.u + t * du, v: p.v + t * dv };
      const px = best.distance(foot);
      if (px <= ALIGN_PX) found.push({ ...foot, along, with: p, px });
    }
  }
  found.sort((p, q) => p.px - q.px);
  const [first] = found;
  if (!first) return null;
  for (const second of found.slice(1)) {
    const both = second.along === first.along ? null : meeting(first, second);
    if (both && best.distance(both) <= CATCH_PX) return { ...exact(both), kind: `along ${first.along}`, with: first.with, also: second.with };
  }
  // On squared paper the other coordinate still belongs to the grid.
  const [u, v] = [crossing && first.along === 'u' ? crossing.u : first.u, crossing && first.along === 'v' ? crossing.v : first.v];
  if (crossing && first.along !== 'u' && first.along !== 'v') return null;
  return { ...exact({ u, v }), kind: `along ${first.along}`, with: first.with };
}

/** Where two alignment lines meet: each runs from its point through its foot. */
function meeting(p: Alignment, q: Alignment): PlanePoint | null {
  const direction = ({ with: from, u, v, along }: Alignment): readonly [number, number] =>
    along === 'u' ? [1, 0] : along === 'v' ? [0, 1] : [u - from.u, v - from.v];
  const [[ax, ay], [bx, by]] = [direction(p), direction(q)];
  const cross = ax * by - ay * bx;
  if (Math.abs(cross) < NO_DETERMINANT) return null;
  const t = ((q.with.u - p.with.u) * by - (q.with.v - p.with.v) * bx) / cross;
  return { u: p.with.u + t * ax, v: p.with.v + t * ay };
}

/** The nearest grid line, where no crossing is near; only where grid lines are asked for. */
function gridLine(at: PlanePoint, crossing: PlanePoint, best: Best, off: ReadonlySet<CatchGroup>): Caught | null {
  if (off.has('grid line')) return null;
  const onU = { u: crossing.u, v: at.v };
  const onV = { u: at.u, v: crossing.v };
  const nearer = best.distance(onU) <= best.distance(onV) ? onU : onV;
  return best.distance(nearer) <= ALIGN_PX ? { ...exact(nearer), kind: 'grid line', with: null } : null;
}

/**
 * The point that keeps to an axis through `from`: of the plane's two directions, and on the sheet the drawn axes too,
 * the one nearest to the pointer. Along u or v the caught coordinate is kept.
 */
export function lockToAxis(from: PlanePoint, caught: Caught, pointer: PlanePoint, options: CatchOptions): Caught & { readonly axis: Along } {
  const here = apply33(options.sheetFromPlane, pointer.u, pointer.v);
  const off = (p: PlanePoint): number => (here ? pxBetween(here, p, options) : 0);
  const lines: { axis: Along; at: PlanePoint; px: number }[] = [
    { axis: 'u', at: { u: caught.u, v: from.v }, px: off({ u: pointer.u, v: from.v }) },
    { axis: 'v', at: { u: from.u, v: caught.v }, px: off({ u: from.u, v: pointer.v }) },
  ];
  for (const { along, du, dv } of options.axes?.(from) ?? []) {
    const on = (p: PlanePoint): PlanePoint => {
      const t = ((p.u - from.u) * du + (p.v - from.v) * dv) / (du * du + dv * dv);
      return { u: from.u + t * du, v: from.v + t * dv };
    };
    lines.push({ axis: along, at: exact(on(caught)), px: off(on(pointer)) });
  }
  const nearest = lines.reduce((p, q) => (q.px < p.px ? q : p));
  return { ...nearest.at, kind: `along ${nearest.axis}`, with: from, axis: nearest.axis };
}
