import type { SheetPoint, WorldPoint } from '../math/points';

/** What can be chosen by name. Values may be changed afterwards; the choice is remembered so that this can be said. */
export type FamilyKey =
  | 'isometric'
  | 'pixel'
  | 'dimetric'
  | 'trimetric'
  | 'axonometric'
  | 'cavalier'
  | 'cabinet'
  | 'oblique'
  | 'planometric'
  | 'one-point'
  | 'two-point'
  | 'three-point';

/** Axonometry by the angles of its floor axes; h is drawn upright. */
export interface AxonometricSetup {
  readonly kind: 'axonometric';
  readonly chosen: FamilyKey;
  /** Degrees of a above the horizontal to the right, and of b above the horizontal to the left; negative below it. */
  readonly aDeg: number;
  readonly bDeg: number;
  /** `orthographic`: foreshortened as seen square on (Gauss); `parallel`: every axis at full length (Pohlke). */
  readonly method: 'orthographic' | 'parallel';
  /** `true`: the foreshortenings of the true projection; `drawing`: enlarged until the longest axis has full length. */
  readonly measure: 'drawing' | 'true';
  /** Degrees by which the whole picture is turned anticlockwise on screen. */
  readonly rollDeg: number;
  /** Where the world's origin lies on the sheet, in mm. */
  readonly origin: SheetPoint;
}

/** Oblique projection: the facing wall a·h in true shape, b receding at an angle and a ratio. */
export interface ObliqueSetup {
  readonly kind: 'oblique';
  readonly chosen: FamilyKey;
  /** Degrees of b anticlockwise from the sheet's x. */
  readonly angleDeg: number;
  /** Drawn over true length along b. */
  readonly ratio: number;
  readonly origin: SheetPoint;
}

/** Planometric projection: the floor in true shape, turned; h upright at a ratio. */
export interface PlanometricSetup {
  readonly kind: 'planometric';
  readonly chosen: FamilyKey;
  /** Degrees of a anticlockwise from the sheet's x; b stands square to it. */
  readonly turnDeg: number;
  /** Drawn over true length along h. */
  readonly ratio: number;
  readonly origin: SheetPoint;
}

/** Perspective by a pinhole camera. How many vanishing points it has follows from its turn and tilt. */
export interface PerspectiveSetup {
  readonly kind: 'perspective';
  readonly chosen: FamilyKey;
  /** Distance of the eye from the picture plane, in mm of the sheet. */
  readonly focal: number;
  /** The foot of the eye on the picture plane, in mm of the sheet; away from the sheet's middle it is a shifted view. */
  readonly principal: SheetPoint;
  /** Degrees by which a recedes from the picture plane: 0 along it, 45 as much as b. */
  readonly turnDeg: number;
  /** Degrees that the line of sight looks down. */
  readonly tiltDeg: number;
  /** Degrees by which the picture is turned anticlockwise about the principal point. */
  readonly rollDeg: number;
  /** The eye in the world, in mm. */
  readonly eye: WorldPoint;
}

/** A projection as a person sets it up: what is kept in documents and set-ups. */
export type ProjectionSetup = AxonometricSetup | ObliqueSetup | PlanometricSetup | PerspectiveSetup;

/** The isometric projection at drawing scale with its origin at a point of the sheet. */
export function isometricSetup(origin: SheetPoint, measure: AxonometricSetup['measure'] = 'drawing'): AxonometricSetup {
  return { kind: 'axonometric', chosen: 'isometric', aDeg: 30, bDeg: 30, method: 'orthographic', measure, rollDeg: 0, origin };
}

/** Where a is drawn to run along the picture, so that walls are a side wall and a facing wall. */
export function facesPicture(setup: ProjectionSetup): boolean {
  return setup.kind === 'oblique' || (setup.kind === 'perspective' && setup.turnDeg % 180 === 0);
}
