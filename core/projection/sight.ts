import { invert33, type Mat33 } from '../math/matrix';
import type { WorldPoint } from '../math/points';
import type { EyeMatrix } from './projection';

/** The lines of sight of a projection: for every sheet point, the world points that are drawn there. */
export interface Sight<Seen extends EyeMatrix = EyeMatrix> {
  /** A 4 x 3 matrix in rows, from homogeneous sheet points to what is drawn there. */
  readonly back: readonly number[];
  /** What nearness is multiplied by, so that it is of the order of mm. */
  readonly unit: number;
  readonly projection: Seen;
}

/** Coefficients of a nearness over the sheet: `x * p + y * q + r`. Larger is nearer to the viewer. */
export interface Nearness {
  readonly p: number;
  readonly q: number;
  readonly r: number;
}

/**
 * The lines of sight: for a parallel projection the right inverse P^T (P P^T)^-1 of its matrix, for a perspective the
 * rays M^-1 s from the eye (Hartley & Zisserman, 6.2.2), both as a 4 x 3 matrix.
 */
export function sightFrom<Seen extends EyeMatrix>(projection: Seen): Sight<Seen> {
  const m = projection.matrix;
  if (projection.eye[3] !== 0) {
    const rays = invert33([m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]]);
    return { back: rays ? [...rays, 0, 0, 0] : new Array<number>(12).fill(0), unit: unitDepth(projection), projection };
  }
  const gram = Array.from({ length: 9 }, (_, k) => {
    const [i, j] = [Math.floor(k / 3) * 4, (k % 3) * 4];
    return m[i]! * m[j]! + m[i + 1]! * m[j + 1]! + m[i + 2]! * m[j + 2]! + m[i + 3]! * m[j + 3]!;
  }) as unknown as Mat33;
  const inverse = invert33(gram);
  const back: number[] = [];
  for (let row = 0; row < 4; row++) {
    for (let col = 0; col < 3; col++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) sum += m[k * 4 + row]! * (inverse?.[k * 3 + col] ?? 0);
      back.push(sum);
    }
  }
  return { back, unit: 1, projection };
}

/** Square of the depth of the world's origin, so that nearness differs there by mm as it does in parallel projections. */
function unitDepth({ matrix: m, near }: EyeMatrix): number {
  return Math.max(m[11] * m[11], near * near);
}

/**
 * How near a plane is to the viewer, as an affine function over the sheet, or null for a plane seen edge-on.
 *
 * In a parallel projection the points drawn at sheet point s are B s + t E with the right inverse B and the direction
 * E to the eye; the plane pi is met at t = -(pi B s) / (pi E). In perspective they are C + z M^-1 s with depth z, and
 * the plane is met at 1/z = -(n M^-1 s) / (pi C). Both are affine in s and grow towards the eye, so two flat faces
 * can be compared everywhere by comparing two affine functions.
 */
export function nearnessOf({ back, unit, projection: { eye } }: Sight, normal: WorldPoint, on: WorldPoint): Nearness | null {
  const w = eye[3];
  // Differences from the point first: planes far from the origin then lose no digits.
  const toEye = normal.a * (eye[0] - w * on.a) + normal.b * (eye[1] - w * on.b) + normal.h * (eye[2] - w * on.h);
  if (toEye === 0) return null;
  const d = w === 0 ? -(normal.a * on.a + normal.b * on.b + normal.h * on.h) : 0;
  const along = (col: number): number => (-(normal.a * back[col]! + normal.b * back[3 + col]! + normal.h * back[6 + col]! + d * back[9 + col]!) / toEye) * unit;
  return { p: along(0), q: along(1), r: along(2) };
}
