import { orient2d } from 'robust-predicates';

/** A closed polygon of the sheet as flat coordinates `[x0, y0, x1, y1, ...]`, without repeating the first point. */
export type FlatPolygon = ArrayLike<number>;

/** Signed area in square units; positive for polygons that run clockwise on screen (y down). */
export function signedArea(polygon: FlatPolygon): number {
  let twice = 0;
  const n = polygon.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    twice += (polygon[j] ?? 0) * (polygon[i + 1] ?? 0) - (polygon[i] ?? 0) * (polygon[j + 1] ?? 0);
  }
  return twice / 2;
}

// The predicate of robust-predicates (Shewchuk 1997) takes y as running down, as the sheet has it.

/** Whether every corner turns the same way (straight corners allowed) and the polygon winds once. */
export function isConvex(polygon: FlatPolygon): boolean {
  const n = polygon.length / 2;
  if (n < 3) return false;
  let sign = 0;
  let turns = 0;
  let lastDx = (polygon[0] ?? 0) - (polygon[2 * n - 2] ?? 0);
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const k = (i + 2) % n;
    const side = orient2d(
      polygon[2 * i] ?? 0,
      polygon[2 * i + 1] ?? 0,
      polygon[2 * j] ?? 0,
      polygon[2 * j + 1] ?? 0,
      polygon[2 * k] ?? 0,
      polygon[2 * k + 1] ?? 0,
    );
    if (side !== 0) {
      if (sign !== 0 && Math.sign(side) !== sign) return false;
      sign = Math.sign(side);
    }
    const dx = (polygon[2 * j] ?? 0) - (polygon[2 * i] ?? 0);
    if (dx * lastDx < 0) turns++;
    if (dx !== 0) lastDx = dx;
  }
  return sign !== 0 && turns <= 2;
}

/**
 * Whether a point lies inside a polygon by the even-odd rule, with exact signs. A point on the boundary counts as
 * inside.
 */
export function containsPoint(polygon: FlatPolygon, x: number, y: number): boolean {
  let inside = false;
  const n = polygon.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const xi = polygon[i] ?? 0;
    const yi = polygon[i + 1] ?? 0;
    const xj = polygon[j] ?? 0;
    const yj = polygon[j + 1] ?? 0;
    if ((y < yi && y < yj) || (y > yi && y > yj)) continue;
    const side = orient2d(xi, yi, xj, yj, x, y);
    if (side === 0 && !((x < xi && x < xj) || (x > xi && x > xj))) return true;
    if (yi > y !== yj > y && side > 0 === yj > yi) inside = !inside;
  }
  return inside;
}

/**
 * Clips a polygon to a convex one (Sutherland and Hodgman 1974), both as flat coordinates. The result is written to
 * `out`; the number of its coordinates comes back, 0 where nothing is left. `clip` must run clockwise on screen
 * (positive `signedArea`). On which side of an edge a corner lies is told by exact signs. Allocates nothing; `out` and
 * `scratch` need room for `subject.length + clip.length` numbers each, and more where the subject is not convex.
 */
export function clipToConvex(
  subject: ArrayLike<number>,
  subjectLength: number,
  clip: ArrayLike<number>,
  clipLength: number,
  out: Float64Array,
  scratch: Float64Array,
): number {
  let from = scratch;
  let to = out;
  let length = subjectLength;
  for (let i = 0; i < subjectLength; i++) from[i] = subject[i]!;
  for (let e = 0; e < clipLength; e += 2) {
    const f = e + 2 === clipLength ? 0 : e + 2;
    const ex = clip[e]!;
    const ey = clip[e + 1]!;
    const fx = clip[f]!;
    const fy = clip[f + 1]!;
    let count = 0;
    let px = from[length - 2]!;
    let py = from[length - 1]!;
    let ps = -orient2d(ex, ey, fx, fy, px, py);
    for (let i = 0; i < length; i += 2) {
      const qx = from[i]!;
      const qy = from[i + 1]!;
      const qs = -orient2d(ex, ey, fx, fy, qx, qy);
      if (qs >= 0 !== ps >= 0) {
        const t = ps / (ps - qs);
        to[count++] = px + t * (qx - px);
        to[count++] = py + t * (qy - py);
      }
      if (qs >= 0) {
        to[count++] = qx;
        to[count++] = qy;
      }
      px = qx;
      py = qy;
      ps = qs;
    }
    if (count < 6) return 0;
    length = count;
    const swap = from;
    from = to;
    to = swap;
  }
  if (from !== out) for (let i = 0; i < length; i++) out[i] = from[i]!;
  return length;
}

/** The convex hull of flat coordinates, clockwise on screen (Andrew 1979, monotone chain). */
export function convexHull(flat: readonly number[]): readonly number[] {
  const n = flat.length / 2;
  const order = new Array<number>(n);
  for (let i = 0; i < n; i++) order[i] = 2 * i;
  order.sort((i, k) => flat[i]! - flat[k]! || flat[i + 1]! - flat[k + 1]!);
  const hull: number[] = [];
  // The lower half from the left, then the upper one back.
  for (let side = 0; side < 2; side++) {
    const start = hull.length;
    for (let i = 0; i < n; i++) {
      const at = order[side === 0 ? i : n - 1 - i]!;
      const [x, y] = [flat[at]!, flat[at + 1]!];
      while (hull.length >= start + 4) {
        const end = hull.length;
        const [px, py, qx, qy] = [hull[end - 4]!, hull[end - 3]!, hull[end - 2]!, hull[end - 1]!];
        if ((qx - px) * (y - py) - (qy - py) * (x - px) > 0) break;
        hull.length = end - 2;
      }
      hull.push(x, y);
    }
    hull.length -= 2;
  }
  return hull;
}

/** Whether a convex polygon that runs clockwise has all corners of another inside of it or on its edges. */
export function holdsCorners(outer: readonly number[], inner: readonly number[]): boolean {
  const n = outer.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [x, y] = [outer[j]!, outer[j + 1]!];
    const [dx, dy] = [outer[i]! - x, outer[i + 1]! - y];
    for (let k = 0; k < inner.length; k += 2) if (dx * (inner[k + 1]! - y) - dy * (inner[k]! - x) < 0) return false;
  }
  return true;
}
