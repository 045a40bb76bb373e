import type { SheetPoint, WorldPoint } from '../math/points';
import { drawnVector, FAMILIES, type ProjectionSetup } from './families';

/** A 3 x 4 matrix in rows, from homogeneous world (a, b, h, 1) to homogeneous sheet (x, y, w). */
export type Mat34 = readonly [
  number, number, number, number,
  number, number, number, number,
  number, number, number, number,
]; // prettier-ignore

/** A homogeneous point of the world; w = 0 is a direction. */
export type Homogeneous = readonly [number, number, number, number];

/**
 * A projection: one matrix, and the eye as its null vector. Parallel projections have their eye at infinity
 * (w = 0, pointing to the viewer), so that nothing downstream needs to know the family.
 */
export interface Projection {
  readonly setup: ProjectionSetup;
  readonly matrix: Mat34;
  readonly eye: Homogeneous;
}

/** The projection of a set-up. Cheap; keep it by identity of the set-up where it is asked for often. */
export function projectionFrom(setup: ProjectionSetup): Projection {
  const axes = FAMILIES[setup.family].axes(setup);
  const a = drawnVector(axes.a);
  const b = drawnVector(axes.b);
  const h = drawnVector(axes.h);
  const { x, y } = setup.origin;
  const matrix: Mat34 = [a.x, b.x, h.x, x, a.y, b.y, h.y, y, 0, 0, 0, 1];
  return { setup, matrix, eye: eyeOf(matrix) };
}

/**
 * The eye of a projection matrix: its null vector, by the four 3 x 3 minors (Hartley & Zisserman, Multiple View
 * Geometry, 6.2.4), turned so that for a parallel projection it points from the drawing to the viewer.
 */
export function eyeOf(m: Mat34): Homogeneous {
  const minor = (i: number, j: number, k: number): number => {
    const c = (row: number, col: number): number => m[row * 4 + col] ?? 0;
    return (
      c(0, i) * (c(1, j) * c(2, k) - c(1, k) * c(2, j)) - c(0, j) * (c(1, i) * c(2, k) - c(1, k) * c(2, i)) + c(0, k) * (c(1, i) * c(2, j) - c(1, j) * c(2, i))
    );
  };
  const e = [minor(1, 2, 3), -minor(0, 2, 3), minor(0, 1, 3), -minor(0, 1, 2)] as const;
  // Sheet y runs down, so the minors of the rows (right, down) point away from the viewer.
  return e[3] === 0 ? [-e[0], -e[1], -e[2], 0] : [e[0] / e[3], e[1] / e[3], e[2] / e[3], 1];
}

/** The sheet point of a world point, or null where it lies in or behind the eye's plane. */
export function sheetFromWorld({ matrix: m }: Projection, p: WorldPoint): SheetPoint | null {
  const w = m[8] * p.a + m[9] * p.b + m[10] * p.h + m[11];
  if (!(w > 0)) return null;
  return {
    x: (m[0] * p.a + m[1] * p.b + m[2] * p.h + m[3]) / w,
    y: (m[4] * p.a + m[5] * p.b + m[6] * p.h + m[7]) / w,
  };
}

/** Positive where a face with this outward normal, through this point, is turned to the viewer. */
export function facing({ eye }: Projection, normal: WorldPoint, on: WorldPoint): number {
  const w = eye[3];
  return normal.a * (eye[0] - w * on.a) + normal.b * (eye[1] - w * on.b) + normal.h * (eye[2] - w * on.h);
}
