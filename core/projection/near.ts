import type { WorldPoint } from '../math/points';
import type { EyeMatrix } from './projection';
import { CLEAR_OF_NEAR } from '../math/tolerances';

/** Homogeneous w of a world point: its depth in mm in perspective, 1 in parallel projections. */
export function wOf({ matrix: m }: EyeMatrix, { a, b, h }: WorldPoint): number {
  return m[8] * a + m[9] * b + m[10] * h + m[11];
}

/**
 * A closed polygon of the world without the part before the near plane (Sutherland & Hodgman 1974); the same array
 * where nothing is cut, empty where nothing is left.
 */
export function clipNear(projection: EyeMatrix, corners: readonly WorldPoint[]): readonly WorldPoint[] {
  const near = projection.near * CLEAR_OF_NEAR;
  if (near === 0) return corners;
  const depths = corners.map((c) => wOf(projection, c) - near);
  if (depths.every((d) => d >= 0)) return corners;
  const kept: WorldPoint[] = [];
  corners.forEach((to, i) => {
    const from = corners[(i + corners.length - 1) % corners.length]!;
    const [d, e] = [depths[(i + corners.length - 1) % corners.length]!, depths[i]!];
    if (d >= 0 !== e >= 0) kept.push(mix(from, to, d / (d - e)));
    if (e >= 0) kept.push(to);
  });
  return kept;
}

/** An open line of the world in the pieces that lie behind the near plane. */
export function clipLineNear(projection: EyeMatrix, points: readonly WorldPoint[]): readonly (readonly WorldPoint[])[] {
  const near = projection.near * CLEAR_OF_NEAR;
  if (near === 0) return [points];
  const pieces: WorldPoint[][] = [];
  let open: WorldPoint[] | null = null;
  points.forEach((to, i) => {
    const e = wOf(projection, to) - near;
    const from = points[i - 1];
    const d = from ? wOf(projection, from) - near : -1;
    if (from && d < 0 && e >= 0) pieces.push((open = [mix(from, to, d / (d - e))]));
    if (from && d >= 0 && e < 0) {
      open?.push(mix(from, to, d / (d - e)));
      open = null;
    }
    if (e < 0) return;
    if (!open) pieces.push((open = []));
    open.push(to);
  });
  return pieces.filter((piece) => piece.length > 1);
}

function mix(p: WorldPoint, q: WorldPoint, t: number): WorldPoint {
  return { a: p.a + (q.a - p.a) * t, b: p.b + (q.b - p.b) * t, h: p.h + (q.h - p.h) * t };
}
