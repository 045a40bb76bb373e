import type { Axis, SheetPoint, WorldPoint } from '../math/points';
import type { Mat34 } from '../math/matrix';
import { NEAR_PLANE } from '../math/tolerances';
import { drawnAxes, drawnVector } from './axes';
import { perspectiveMatrix } from './camera';
import type { ProjectionSetup } from './setup';

/** A homogeneous point of the world; w = 0 is a direction. */
export type Homogeneous = readonly [number, number, number, number];

/**
 * What an eye sees, and where on its sheet: one matrix, and the eye as its null vector. Parallel projections have their
 * eye at infinity (w = 0, pointing to the viewer), so that nothing downstream needs to know the family; the sun and
 * lamps have eyes as viewers have (`eyeAt`).
 */
export interface EyeMatrix {
  readonly matrix: Mat34;
  readonly eye: Homogeneous;
  /** Smallest homogeneous w that is drawn: the near plane of a perspective in mm of depth, 0 for parallel projections. */
  readonly near: number;
}

/** The projection of a drawing: what the viewer sees, and the set-up that it was made from. */
export interface Projection extends EyeMatrix {
  readonly setup: ProjectionSetup;
}

/** The projection of a set-up. Cheap; keep it by identity of the set-up where it is asked for often. */
export function projectionFrom(setup: ProjectionSetup): Projection {
  if (setup.kind === 'perspective') {
    const { a, b, h } = setup.eye;
    return { setup, matrix: perspectiveMatrix(setup), eye: [a, b, h, 1], near: NEAR_PLANE * setup.focal };
  }
  const axes = drawnAxes(setup);
  const [a, b, h] = [drawnVector(axes.a), drawnVector(axes.b), drawnVector(axes.h)];
  const { x, y } = setup.origin;
  const matrix: Mat34 = [a.x, b.x, h.x, x, a.y, b.y, h.y, y, 0, 0, 0, 1];
  return { setup, matrix, eye: eyeOf(matrix), near: 0 };
}

/** The same projection for world points given in cells. @param cell edge of a cell in document units */
export function inCells({ setup, matrix: m, eye, near }: Projection, cell: number): Projection {
  const k = eye[3] === 0 ? 1 : 1 / cell;
  return {
    setup,
    matrix: [m[0] * cell, m[1] * cell, m[2] * cell, m[3], m[4] * cell, m[5] * cell, m[6] * cell, m[7], m[8] * cell, m[9] * cell, m[10] * cell, m[11]],
    eye: [eye[0] * k, eye[1] * k, eye[2] * k, eye[3]],
    near,
  };
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

/** The sheet point of a world point, or null where it lies before the near plane or behind the eye. */
export function sheetFromWorld({ matrix: m, near }: EyeMatrix, p: WorldPoint): SheetPoint | null {
  const w = m[8] * p.a + m[9] * p.b + m[10] * p.h + m[11];
  if (!(w > near)) return null;
  return {
    x: (m[0] * p.a + m[1] * p.b + m[2] * p.h + m[3]) / w,
    y: (m[4] * p.a + m[5] * p.b + m[6] * p.h + m[7]) / w,
  };
}

/** Positive where a face with this outward normal, through this point, is turned to the viewer. */
export function facing({ eye }: EyeMatrix, normal: WorldPoint, on: WorldPoint): number {
  const w = eye[3];
  return normal.a * (eye[0] - w * on.a) + normal.b * (eye[1] - w * on.b) + normal.h * (eye[2] - w * on.h);
}

/** How an axis is drawn at a world point: the sheet vector of one true mm along it, or null where the point is not drawn. */
export function drawnAt({ matrix: m, near }: EyeMatrix, { a, b, h }: WorldPoint, axis: Axis): SheetPoint | null {
  const w = m[8] * a + m[9] * b + m[10] * h + m[11];
  if (!(w > near)) return null;
  const x = (m[0] * a + m[1] * b + m[2] * h + m[3]) / w;
  const y = (m[4] * a + m[5] * b + m[6] * h + m[7]) / w;
  const k = axis === 'a' ? 0 : axis === 'b' ? 1 : 2;
  return { x: (m[k]! - x * m[8 + k]!) / w, y: (m[4 + k]! - y * m[8 + k]!) / w };
}
