import { radians } from '../math/figures';
import type { Axis, SheetPoint } from '../math/points';

/** How an axis is drawn by a parallel projection: its direction on the sheet and drawn over true length. */
export interface DrawnAxis {
  /** Degrees anticlockwise on screen from the sheet's x. */
  readonly angleDeg: number;
  /** Foreshortening: drawn length over true length. */
  readonly ratio: number;
}

/** The projections that can be set up. Isometric: whether its edges keep full length or are truly foreshortened. */
export interface ProjectionSetup {
  readonly family: 'isometric';
  /** `drawing`: edges full length; `true`: edges times sqrt(2/3), as seen along the cube's diagonal. */
  readonly measure: 'drawing' | 'true';
  /** Where the world's origin lies on the sheet, in document units. */
  readonly origin: SheetPoint;
}

export type Family = ProjectionSetup['family'];

/** Foreshortening of every axis in the isometric projection, sqrt(2/3) (ISO 5456-3:1996, 5.2). */
export const ISOMETRIC_FORESHORTENING = Math.sqrt(2 / 3);

/** A family of projections: its name, what it is for, and how it draws the axes. */
export interface FamilyFacts {
  readonly name: string;
  readonly reason: string;
  readonly axes: (setup: ProjectionSetup) => Readonly<Record<Axis, DrawnAxis>>;
}

/** All families by key. A further parallel family is a further entry here, nothing else. */
export const FAMILIES: Readonly<Record<Family, FamilyFacts>> = {
  isometric: {
    name: 'isometric',
    reason: 'the three axes are drawn 120° apart and shortened alike',
    axes: ({ measure }) => {
      const ratio = measure === 'true' ? ISOMETRIC_FORESHORTENING : 1;
      return { a: { angleDeg: 30, ratio }, b: { angleDeg: 150, ratio }, h: { angleDeg: 90, ratio } };
    },
  },
};

/** The sheet vector (y down) of one true unit along a drawn axis. */
export function drawnVector(axis: DrawnAxis): SheetPoint {
  const angle = radians(axis.angleDeg);
  return { x: Math.cos(angle) * axis.ratio, y: -Math.sin(angle) * axis.ratio };
}
