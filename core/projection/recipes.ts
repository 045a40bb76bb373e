import { degrees, figure, plainNumber } from '../math/figures';
import { affineOf, invert33, type Mat33 } from '../math/matrix';
import type { AxisPlaneKind } from './planes';
import { planeFrame, readingDirections, sheetFromFrame } from './planes';
import type { Projection } from './projection';
import { NO_DETERMINANT } from '../math/tolerances';

/** The walls and the floor. */
export type WorldPlaneKind = AxisPlaneKind;

/**
 * How flat art becomes what is drawn on a plane, as other software does it: first scaled, then sheared along x, then
 * turned. Art has x to the right and y down, as it is read on the plane.
 */
export interface Recipe {
  readonly scaleX: number;
  readonly scaleY: number;
  /** Shear along x in radians: x grows by tan(shear) times y. */
  readonly shearRad: number;
  /** Turn in radians, clockwise on screen as SVG and CSS have it. */
  readonly turnRad: number;
}

/** The 2 x 2 map of art on a plane, as `[a, b, c, d]` of SVG's matrix, with no unit. */
export type ArtMap = readonly [number, number, number, number];

/** The recipe of a map: R(turn) * [1 tan(shear); 0 1] * S(scaleX, scaleY), which always exists for a map with an area. */
export function recipeOf([a, b, c, d]: ArtMap): Recipe {
  const scaleX = Math.hypot(a, b);
  const turnRad = Math.atan2(b, a);
  const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
  const sheared = c * cos + d * sin;
  const scaleY = -c * sin + d * cos;
  // A map that mirrors has a negative height; its shear is still less than a right angle.
  return { scaleX, scaleY, shearRad: Math.atan(sheared / scaleY), turnRad };
}

/** The map that a recipe makes. Inverse of `recipeOf`. */
export function mapOfRecipe({ scaleX, scaleY, shearRad, turnRad }: Recipe): ArtMap {
  const [cos, sin] = [Math.cos(turnRad), Math.sin(turnRad)];
  const sheared = scaleY * Math.tan(shearRad);
  return [scaleX * cos, scaleX * sin, sheared * cos - scaleY * sin, sheared * sin + scaleY * cos];
}

/**
 * The homography from flat art in mm, read upright on a plane through the world's origin, to the sheet in mm; null
 * for a plane seen edge-on, also where the eye lies in it. For a parallel projection its last row is (0, 0, 1).
 */
export function artMap(projection: Projection, kind: WorldPlaneKind): Mat33 | null {
  const frame = planeFrame({ kind, offset: 0 }, 1);
  if (!frame) return null;
  const { right, down } = readingDirections(frame.normal);
  const map = sheetFromFrame(projection, { ...frame, u: right, v: down });
  const affine = affineOf(map);
  if (affine ? Math.abs(affine[0] * affine[3] - affine[1] * affine[2]) < NO_DETERMINANT : invert33(map) === null) return null;
  return map;
}

/** SVG's `transform` of a map without displacement. */
export function svgTransform([a, b, c, d]: ArtMap): string {
  return `matrix(${[a, b, c, d, 0, 0].map((n) => plainNumber(n, 6)).join(' ')})`;
}

/** The CSS `transform` of a map, origin at the art's top left. */
export function cssMatrix([a, b, c, d]: ArtMap): string {
  return `matrix(${[a, b, c, d, 0, 0].map((n) => plainNumber(n, 6)).join(', ')})`;
}

/** A homography with a last element of 1, or of −1 where the art's origin lies behind the eye; scaled by its largest element where that is 0. */
export function normalised(h: Mat33): readonly number[] {
  const largest = Math.max(...h.map(Math.abs));
  const k = Math.abs(h[8]) > NO_DETERMINANT * largest ? Math.abs(h[8]) : largest;
  return h.map((n) => n / k);
}

/**
 * The CSS `matrix3d` of a homography in px of 1/96 inch (CSS Transforms 2): flat art at the top left of its box comes
 * to lie where it is drawn on the sheet. Written with as many digits as a vanishing point far away needs.
 * @param pxPerMm CSS px to the mm
 */
export function cssMatrix3d(h: Mat33, pxPerMm: number): string {
  const m = normalised(h);
  const p = pxPerMm;
  const columns = [m[0]!, m[3]!, 0, m[6]! / p, m[1]!, m[4]!, 0, m[7]! / p, 0, 0, 1, 0, m[2]! * p, m[5]! * p, 0, m[8]!];
  return `matrix3d(${columns.map((n) => plainNumber(n, 9)).join(', ')})`;
}

/** The recipe in words and figures: `scale 100 × 86.6 %, shear 30°, turn −30°`; turns that look anticlockwise are positive. */
export function recipeWords({ scaleX, scaleY, shearRad, turnRad }: Recipe): string {
  const percent = (n: number): string => figure(n * 100, 3);
  return `scale ${percent(scaleX)} × ${percent(scaleY)}\u2009%, shear ${figure(degrees(shearRad), 3)}°, turn ${figure(-degrees(turnRad), 3)}°`;
}
