import type { SheetPoint } from './points';
import { SINGULAR } from './tolerances';

/** A 3 x 3 matrix in rows: `[m00, m01, m02, m10, ... m22]`. */
export type Mat33 = readonly [number, number, number, number, number, number, number, number, number];

/** A 3 x 4 matrix in rows, from homogeneous world (a, b, h, 1) to homogeneous sheet (x, y, w). */
export type Mat34 = readonly [
  number, number, number, number,
  number, number, number, number,
  number, number, number, number,
]; // prettier-ignore

/** A 2 x 3 affine map in the order of SVG's `matrix(a b c d e f)`: x' = a x + c y + e, y' = b x + d y + f. */
export type Affine = readonly [number, number, number, number, number, number];

/** The map that changes nothing. */
export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0];

/** The map that does `second` after `first`. */
export function composeAffine(second: Affine, first: Affine): Affine {
  const [a, b, c, d, e, f] = second;
  const [p, q, r, s, t, w] = first;
  return [a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * w + e, b * t + d * w + f];
}

/** The inverse of an affine map, or null where it flattens the plane. */
export function invertAffine(m: Affine): Affine | null {
  const [a, b, c, d, e, f] = m;
  const det = a * d - b * c;
  if (det === 0 || !Number.isFinite(1 / det)) return null;
  return [d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det];
}

/** A point under an affine map. */
export function applyAffine(m: Affine, x: number, y: number): SheetPoint {
  return { x: m[0] * x + m[2] * y + m[4], y: m[1] * x + m[3] * y + m[5] };
}

/** The product p q: q is applied first. */
export function multiply33(p: Mat33, q: Mat33): Mat33 {
  const cell = (row: number, col: number): number =>
    (p[row * 3] ?? 0) * (q[col] ?? 0) + (p[row * 3 + 1] ?? 0) * (q[3 + col] ?? 0) + (p[row * 3 + 2] ?? 0) * (q[6 + col] ?? 0);
  return [cell(0, 0), cell(0, 1), cell(0, 2), cell(1, 0), cell(1, 1), cell(1, 2), cell(2, 0), cell(2, 1), cell(2, 2)];
}

/** The determinant; its sign tells whether the map keeps the sense of turning. */
export function determinant33(m: Mat33): number {
  return m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6]);
}

/**
 * The inverse by cofactors, or null where the matrix is singular (a plane seen edge-on): where its determinant is not
 * told apart from the rounding of the six products that it is the sum of, whatever the entries' size.
 */
export function invert33(m: Mat33): Mat33 | null {
  const det = determinant33(m);
  const n = m.map(Math.abs) as unknown as Mat33;
  const products = n[0] * (n[4] * n[8] + n[5] * n[7]) + n[1] * (n[3] * n[8] + n[5] * n[6]) + n[2] * (n[3] * n[7] + n[4] * n[6]);
  if (!(Math.abs(det) > SINGULAR * products) || !Number.isFinite(1 / det)) return null;
  const k = 1 / det;
  return [
    k * (m[4] * m[8] - m[5] * m[7]),
    k * (m[2] * m[7] - m[1] * m[8]),
    k * (m[1] * m[5] - m[2] * m[4]),
    k * (m[5] * m[6] - m[3] * m[8]),
    k * (m[0] * m[8] - m[2] * m[6]),
    k * (m[2] * m[3] - m[0] * m[5]),
    k * (m[3] * m[7] - m[4] * m[6]),
    k * (m[1] * m[6] - m[0] * m[7]),
    k * (m[0] * m[4] - m[1] * m[3]),
  ];
}

/** Maps a point of a plane homogeneously; null where it goes to infinity or behind the eye (w not positive). */
export function apply33(m: Mat33, x: number, y: number): SheetPoint | null {
  const w = m[6] * x + m[7] * y + m[8];
  if (!(w > 0)) return null;
  return { x: (m[0] * x + m[1] * y + m[2]) / w, y: (m[3] * x + m[4] * y + m[5]) / w };
}

/** The 3 x 3 matrix of an affine map. */
export function matrixOf([a, b, c, d, e, f]: Affine): Mat33 {
  return [a, c, e, b, d, f, 0, 0, 1];
}

/** The affine map that a homography is, or null for one with vanishing points. */
export function affineOf(m: Mat33): Affine | null {
  if (m[6] !== 0 || m[7] !== 0 || m[8] === 0) return null;
  const w = m[8];
  return [m[0] / w, m[3] / w, m[1] / w, m[4] / w, m[2] / w, m[5] / w];
}
