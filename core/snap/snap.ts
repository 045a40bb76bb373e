import { exactCells } from '../math/exact';
import { apply33, type Mat33 } from '../math/matrix';
import type { PlanePoint, SheetPoint } from '../math/points';
import { sheetDistance } from '../math/points';
import { ALIGN_PX, CATCH_PX } from '../math/tolerances';

/** What the pointer can take. `free`: nothing was near, or snapping is off. */
export type CatchKind = 'point' | 'middle' | 'centre' | 'edge' | 'crossing' | 'along u' | 'along v' | 'free';

/** What was caught: the plane point that takes the pointer's place, and what it belongs to. */
export interface Caught extends PlanePoint {
  readonly kind: CatchKind;
  /** For alignments, the point that it is aligned with. */
  readonly with: PlanePoint | null;
}

/** What lies in the active plane, in cells: outlines, faces, the points drawn so far. */
export interface CatchSource {
  readonly points: readonly PlanePoint[];
  readonly edges: readonly (readonly [PlanePoint, PlanePoint])[];
  readonly centres: readonly PlanePoint[];
  /** Chords of curves: caught anywhere along them, without middles of their own. */
  readonly chords: readonly (readonly [PlanePoint, PlanePoint])[];
}

export const NO_SOURCE: CatchSource = { points: [], edges: [], centres: [], chords: [] };

/** Everything of several sources. */
export function joinSources(sources: readonly CatchSource[]): CatchSource {
  return {
    points: sources.flatMap((s) => s.points),
    edges: sources.flatMap((s) => s.edges),
    centres: sources.flatMap((s) => s.centres),
    chords: sources.flatMap((s) => s.chords),
  };
}

export interface CatchOptions {
  /** Homography from the plane's cells to the sheet. */
  readonly sheetFromPlane: Mat33;
  /** Screen px per sheet unit, so that nearness means what the eye means by it. */
  readonly pxPerUnit: number;
  /** Whether grid crossings are taken. */
  readonly grid: boolean;
}

/**
 * How much nearer in px a lesser kind must be to win over a better one. A point beats a middle at the same place,
 * and both beat an edge that runs through them.
 */
const HANDICAP: Readonly<Record<CatchKind, number>> = { point: 0, middle: 2, centre: 2, edge: 5, crossing: 0, 'along u': 0, 'along v': 0, free: 0 };

/**
 * What the pointer takes at a plane point: the best of points, middles and centres within reach; else the grid's
 * nearest crossing where it is near too; else an edge; else an alignment along u or v with a known point; else the
 * nearest crossing however far it is, for on squared paper every press belongs to a crossing; without the grid, the
 * pointer itself. Coordinates come back exact.
 */
export function catchAt(at: PlanePoint, source: CatchSource, options: CatchOptions): Caught {
  const here = apply33(options.sheetFromPlane, at.u, at.v);
  if (!here) return { ...exact(at), kind: 'free', with: null };
  const distance = (p: PlanePoint): number => pxBetween(here, p, options);
  const crossing = { u: Math.round(at.u), v: Math.round(at.v) };
  const nearCrossing = options.grid && distance(crossing) <= CATCH_PX;

  let best: Caught | null = null;
  let bestScore = Infinity;
  const offer = (p: PlanePoint, kind: CatchKind): void => {
    const d = distance(p);
    const score = d + HANDICAP[kind];
    if (d <= CATCH_PX && score < bestScore) {
      best = { ...exact(p), kind, with: null };
      bestScore = score;
    }
  };
  for (const p of source.points) offer(p, 'point');
  for (const [p, q] of source.edges) offer({ u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 }, 'middle');
  for (const p of source.centres) offer(p, 'centre');
  if (best) return best;
  if (nearCrossing) return { ...exact(crossing), kind: 'crossing', with: null };
  for (const lines of [source.edges, source.chords]) {
    for (const [p, q] of lines) {
      const foot = footOnEdge(at, p, q, options);
      if (foot) offer(foot, 'edge');
    }
  }
  return (
    best ?? alignment(at, source.points, here, options) ?? { ...exact(options.grid ? crossing : at), kind: options.grid ? 'crossing' : 'free', with: null }
  );
}

function exact(p: PlanePoint): PlanePoint {
  return { u: exactCells(p.u), v: exactCells(p.v) };
}

function pxBetween(here: SheetPoint, p: PlanePoint, { sheetFromPlane, pxPerUnit }: CatchOptions): number {
  const there = apply33(sheetFromPlane, p.u, p.v);
  return there ? sheetDistance(here, there) * pxPerUnit : Infinity;
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
  const t = Math.max(0, Math.min(1, ((here.x - from.x) * dx + (here.y - from.y) * dy) / square));
  return { u: p.u + t * (q.u - p.u), v: p.v + t * (q.v - p.v) };
}

function alignment(at: PlanePoint, points: readonly PlanePoint[], here: SheetPoint, options: CatchOptions): Caught | null {
  if (options.grid) return null;
  let best: Caught | null = null;
  let nearest = ALIGN_PX;
  for (const p of points) {
    const alongU = { u: at.u, v: p.v };
    const alongV = { u: p.u, v: at.v };
    for (const [foot, kind] of [
      [alongU, 'along u'],
      [alongV, 'along v'],
    ] as const) {
      const d = pxBetween(here, foot, options);
      if (d < nearest) {
        nearest = d;
        best = { ...exact(foot), kind, with: p };
      }
    }
  }
  return best;
}

/**
 * The point that keeps to an axis through `from`: of u and v the one nearer to the pointer on the sheet, with the
 * other coordinate kept.
 */
export function lockToAxis(from: PlanePoint, caught: Caught, pointer: PlanePoint, options: CatchOptions): Caught & { readonly axis: 'u' | 'v' } {
  const here = apply33(options.sheetFromPlane, pointer.u, pointer.v);
  const offU = here ? pxBetween(here, { u: pointer.u, v: from.v }, options) : 0;
  const offV = here ? pxBetween(here, { u: from.u, v: pointer.v }, options) : 0;
  const axis = offU <= offV ? 'u' : 'v';
  const point = axis === 'u' ? { u: caught.u, v: from.v } : { u: from.u, v: caught.v };
  return { ...point, kind: axis === 'u' ? 'along u' : 'along v', with: from, axis };
}
