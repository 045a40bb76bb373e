import { invert33, type Mat33 } from '../math/matrix';
import type { WorldPoint } from '../math/points';
import type { Projection } from './projection';

/** The lines of sight of a projection: for every sheet point, the world points that are drawn there. */
export interface Sight {
  /** A 4 x 3 matrix in rows: the right inverse of the projection's matrix. */
  readonly back: readonly number[];
  readonly projection: Projection;
}

/** Coefficients of a nearness over the sheet: `x * p + y * q + r`. Larger is nearer to the viewer. */
export interface Nearness {
  readonly p: number;
  readonly q: number;
  readonly r: number;
}

/** The right inverse P^T (P P^T)^-1 of a projection's matrix (Hartley & Zisserman, 6.2.2). */
export function sightFrom(projection: Projection): Sight {
  const m = projection.matrix;
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
  return { back, projection };
}

/**
 * How near a plane is to the viewer, as an affine function over the sheet, or null for a plane seen edge-on.
 *
 * The points drawn at sheet point s are B s + t E with the right inverse B and the eye E; the plane pi is met at
 * t = -(pi B s) / (pi E), which is affine in s for parallel projections and in perspective alike, and grows towards
 * the eye. So two flat faces can be compared everywhere by comparing two affine functions.
 */
export function nearnessOf({ back, projection: { eye } }: Sight, normal: WorldPoint, on: WorldPoint): Nearness | null {
  const d = -(normal.a * on.a + normal.b * on.b + normal.h * on.h);
  const toEye = normal.a * eye[0] + normal.b * eye[1] + normal.h * eye[2] + d * eye[3];
  if (toEye === 0) return null;
  const along = (col: number): number => -(normal.a * back[col]! + normal.b * back[3 + col]! + normal.h * back[6 + col]! + d * back[9 + col]!) / toEye;
  return { p: along(0), q: along(1), r: along(2) };
}
