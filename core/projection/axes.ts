import { cosDeg, sinDeg } from '../math/figures';
import type { SheetPoint } from '../math/points';
import { orthographicRatios, type ByAxis } from './gauss';
import type { AxonometricSetup, ProjectionSetup } from './setup';

/** How an axis is drawn by a parallel projection: its direction on the sheet and drawn over true length. */
export interface DrawnAxis {
  /** Degrees anticlockwise on screen from the sheet's x. */
  readonly angleDeg: number;
  /** Foreshortening: drawn length over true length. */
  readonly ratio: number;
}

/** A set-up of a parallel projection. */
export type ParallelSetup = Exclude<ProjectionSetup, { kind: 'perspective' }>;

/** Foreshortening of every axis in the isometric projection, sqrt(2/3) (ISO 5456-3:1996, 5.2). */
export const ISOMETRIC_FORESHORTENING = Math.sqrt(2 / 3);

/** How a parallel projection draws its three axes. */
export function drawnAxes(setup: ParallelSetup): ByAxis<DrawnAxis> {
  switch (setup.kind) {
    case 'axonometric':
      return axonometricAxes(setup);
    case 'oblique':
      return { a: { angleDeg: 0, ratio: 1 }, b: { angleDeg: setup.angleDeg, ratio: setup.ratio }, h: { angleDeg: 90, ratio: 1 } };
    case 'planometric':
      return { a: { angleDeg: setup.turnDeg, ratio: 1 }, b: { angleDeg: setup.turnDeg + 90, ratio: 1 }, h: { angleDeg: 90, ratio: setup.ratio } };
  }
}

/** Where no orthographic projection has these angles, the axes come at full length, as with `parallel`. */
function axonometricAxes({ aDeg, bDeg, rollDeg, method, measure }: AxonometricSetup): ByAxis<DrawnAxis> {
  const angles = { a: aDeg, b: 180 - bDeg, h: 90 };
  const found = method === 'orthographic' ? orthographicRatios(angles.a, angles.b, angles.h) : null;
  const ratios = found?.ok ? found.ratios : { a: 1, b: 1, h: 1 };
  const enlarged = measure === 'drawing' ? 1 / Math.max(ratios.a, ratios.b, ratios.h) : 1;
  const axis = (angleDeg: number, ratio: number): DrawnAxis => ({ angleDeg: angleDeg + rollDeg, ratio: ratio * enlarged });
  return { a: axis(angles.a, ratios.a), b: axis(angles.b, ratios.b), h: axis(angles.h, ratios.h) };
}

/** The sheet vector (y down) of one true unit along a drawn axis. */
export function drawnVector({ angleDeg, ratio }: DrawnAxis): SheetPoint {
  return { x: cosDeg(angleDeg) * ratio, y: -sinDeg(angleDeg) * ratio };
}
