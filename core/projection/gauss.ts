import { sinDeg } from '../math/figures';
import type { Axis } from '../math/points';

/** A value for each axis. */
export type ByAxis<T> = Readonly<Record<Axis, T>>;

/** Foreshortenings, or why there are none. */
export type Foreshortenings = { readonly ok: true; readonly ratios: ByAxis<number> } | { readonly ok: false; readonly reason: string };

/**
 * The foreshortenings of the orthographic axonometry that draws its axes in these directions, or the reason why no
 * orthographic projection does.
 *
 * Gauss's fundamental theorem of axonometry: with the drawn axes as complex numbers, the sum of their squares is zero.
 * For directions alone this gives k_a^2 : k_b^2 : k_h^2 = sin 2(b - h) : sin 2(h - a) : sin 2(a - b), of which all
 * must have one sign; the squares add up to 2. For an upright h and floor angles above the horizontal this is the
 * textbook's condition that the two add up to less than 90 degrees.
 *
 * @param aDeg directions in degrees anticlockwise from the sheet's x
 */
export function orthographicRatios(aDeg: number, bDeg: number, hDeg: number): Foreshortenings {
  const squares = [sinDeg(2 * (bDeg - hDeg)), sinDeg(2 * (hDeg - aDeg)), sinDeg(2 * (aDeg - bDeg))] as const;
  const sum = squares[0] + squares[1] + squares[2];
  const least = 1e-9;
  if (squares.every((s) => s > least) || squares.every((s) => s < -least)) {
    const [a, b, h] = squares.map((s) => Math.sqrt((2 * s) / sum)) as [number, number, number];
    return { ok: true, ratios: { a, b, h } };
  }
  return { ok: false, reason: refusal(aDeg - hDeg + 90, 90 - (bDeg - hDeg)) };
}

/** Which condition fails, for floor angles above the horizontal (of an upright h). */
function refusal(a: number, b: number): string {
  if (Math.abs(a) < 1e-6 || Math.abs(b) < 1e-6) return 'an axis along the horizontal is square to the line of sight, so that the other would be seen end-on';
  if (a > 0 !== b > 0) return 'one floor axis rises and the other falls; seen square on, both do the same';
  return 'the two floor angles add up to 90° or more; seen square on, they add up to less';
}
