import { exactCells, ticksFromCells } from '../math/exact';
import type { PlanePoint } from '../math/points';

/** A corner of an outline. The id is unique in its outline and survives edits: a solid's side is named after it. */
export interface OutlinePoint extends PlanePoint {
  readonly id: number;
  /** Handles of the curves that end and begin here, in cells of the plane; without them edges are straight. */
  readonly into?: PlanePoint;
  readonly out?: PlanePoint;
  /** The edge that begins here is a piece of a conic: where its end tangents meet, and its weight. */
  readonly arc?: PlanePoint & { readonly weight: number };
  /** Rounding by a radius, or bevelling by a length along both edges, in cells; kept as a number. */
  readonly corner?: { readonly kind: 'round' | 'bevel'; readonly size: number };
  /** How hard the pen was pressed here, 0 to 1 of the line's width; all of it without. */
  readonly press?: number;
}

/** A boundary on a plane, in cells. Closed outlines do not repeat their first point. */
export interface Outline {
  readonly points: readonly OutlinePoint[];
  readonly closed: boolean;
  /** Boundaries of what is left out inside a closed outline, each closed itself; ids are unique over all of them. */
  readonly holes?: readonly (readonly OutlinePoint[])[];
}

/** Every ring of an outline as an outline of its own: the outer boundary first, then the holes. */
export function ringsOf(outline: Outline): readonly Outline[] {
  if (!outline.holes) return [outline];
  return [{ points: outline.points, closed: outline.closed }, ...outline.holes.map((points) => ({ points, closed: true }))];
}

/** Every corner of an outline, those of its holes included. */
export function allPoints({ points, holes }: Outline): readonly OutlinePoint[] {
  return holes ? [...points, ...holes.flat()] : points;
}

/** The outline with each corner changed, its holes' too. */
export function mapOutline(outline: Outline, change: (p: OutlinePoint) => OutlinePoint): Outline {
  const points = outline.points.map(change);
  return outline.holes ? { ...outline, points, holes: outline.holes.map((hole) => hole.map(change)) } : { ...outline, points };
}

/** An outline of these rings: the first bounds it, the others are holes. Ids are given anew where two are the same. */
export function outlineOfRings(rings: readonly (readonly OutlinePoint[])[], closed: boolean): Outline {
  const all = rings.flat();
  let next = 0;
  const fresh = new Set(all.map((p) => p.id)).size < all.length ? rings.map((ring) => ring.map((p) => ({ ...p, id: ++next }))) : rings;
  const [points = [], ...holes] = fresh;
  return holes.length > 0 ? { points, closed, holes } : { points, closed };
}

/** The extent of points in cells. */
export interface PlaneBox {
  readonly minU: number;
  readonly minV: number;
  readonly maxU: number;
  readonly maxV: number;
}

/** An outline through points, with fresh ids from 1 and every coordinate made exact. */
export function outlineThrough(points: readonly PlanePoint[], closed: boolean): Outline {
  return { points: points.map((p, i) => ({ id: i + 1, u: exactCells(p.u), v: exactCells(p.v) })), closed };
}

/** The four corners of the box between two opposite corners, starting at the first and running along u first. */
export function rectangleOutline(from: PlanePoint, to: PlanePoint): Outline {
  return outlineThrough([from, { u: to.u, v: from.v }, to, { u: from.u, v: to.v }], true);
}

/** The outline moved by whole amounts of cells; lengths stay exactly what they were. */
export function moveOutline(outline: Outline, du: number, dv: number): Outline {
  const at = (p: PlanePoint): PlanePoint => ({ u: exactCells(p.u + du), v: exactCells(p.v + dv) });
  return mapOutline(outline, (p) => mapPoint(p, at));
}

/** A corner with its handles under a map of the plane that keeps straight lines straight. */
export function mapPoint(p: OutlinePoint, map: (at: PlanePoint) => PlanePoint): OutlinePoint {
  return {
    ...p,
    ...map(p),
    ...(p.into && { into: map(p.into) }),
    ...(p.out && { out: map(p.out) }),
    ...(p.arc && { arc: { ...map(p.arc), weight: p.arc.weight } }),
  };
}

/** Exact differences in cells between two stored points, along u and v. */
export function spanBetween(p: PlanePoint, q: PlanePoint): PlanePoint {
  return { u: exactCells(q.u - p.u), v: exactCells(q.v - p.v) };
}

/** Length in cells; exact for edges along an axis. */
export function edgeLength(p: PlanePoint, q: PlanePoint): number {
  const span = spanBetween(p, q);
  if (span.u === 0) return Math.abs(span.v);
  return span.v === 0 ? Math.abs(span.u) : Math.hypot(span.u, span.v);
}

/** The edges of an outline as pairs of corners, holes left out; a closed one has as many edges as points. */
export function outlineEdges(outline: Outline): readonly (readonly [OutlinePoint, OutlinePoint])[] {
  const { points, closed } = outline;
  const edges: [OutlinePoint, OutlinePoint][] = [];
  points.forEach((p, i) => {
    const next = points[i + 1] ?? (closed ? points[0] : undefined);
    if (next && next !== p) edges.push([p, next]);
  });
  return edges;
}

/** The box around points, or null for none. */
export function boxAround(points: readonly PlanePoint[]): PlaneBox | null {
  const [first] = points;
  if (!first) return null;
  let { u: minU, v: minV } = first;
  let maxU = minU;
  let maxV = minV;
  for (const p of points) {
    minU = Math.min(minU, p.u);
    maxU = Math.max(maxU, p.u);
    minV = Math.min(minV, p.v);
    maxV = Math.max(maxV, p.v);
  }
  return { minU, minV, maxU, maxV };
}

/**
 * Twice the signed area in square ticks, positive for outlines that turn from u to v. Computed on whole numbers,
 * so its sign is right and zero means no area at all (exact while the extent stays below 2,600 cells).
 */
export function doubleAreaTicks(points: readonly PlanePoint[]): number {
  const [first] = points;
  if (!first) return 0;
  const u0 = ticksFromCells(first.u);
  const v0 = ticksFromCells(first.v);
  let twice = 0;
  for (let i = 1; i + 1 < points.length; i++) {
    const p = points[i]!;
    const q = points[i + 1]!;
    twice += (ticksFromCells(p.u) - u0) * (ticksFromCells(q.v) - v0) - (ticksFromCells(q.u) - u0) * (ticksFromCells(p.v) - v0);
  }
  return twice;
}

/** The middle of the box around an outline, in cells. */
export function outlineCentre(outline: Outline): PlanePoint | null {
  const box = boxAround(outline.points);
  return box && { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 };
}
