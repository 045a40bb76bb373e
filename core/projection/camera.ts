import { cosDeg, degrees, sinDeg } from '../math/figures';
import type { Mat34 } from '../math/matrix';
import type { SheetPoint, WorldPoint } from '../math/points';
import { dotWorld } from '../math/points';
import type { ByAxis } from './gauss';
import type { PerspectiveSetup } from './setup';

/** A direction in the camera's frame: x right, y down, z away from the eye. */
export interface CameraVector {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

/** The turn, tilt and roll of a camera. */
export type Orientation = Pick<PerspectiveSetup, 'turnDeg' | 'tiltDeg' | 'rollDeg'>;

/**
 * The unit directions of the world's axes in the camera's frame: the columns of its rotation. First a recedes by the
 * turn, then the line of sight looks down by the tilt, then the picture turns anticlockwise by the roll. Exact at
 * multiples of 90 degrees, so that what runs along the picture has no vanishing point at all.
 */
export function axesInCamera({ turnDeg, tiltDeg, rollDeg }: Orientation): ByAxis<CameraVector> {
  const [ct, st] = [cosDeg(tiltDeg), sinDeg(tiltDeg)];
  const [cr, sr] = [cosDeg(rollDeg), sinDeg(rollDeg)];
  const turned = (x: number, y: number, z: number): CameraVector => {
    const [ty, tz] = [y * ct - z * st, y * st + z * ct];
    return { x: x * cr + ty * sr, y: -x * sr + ty * cr, z: tz };
  };
  return {
    a: turned(cosDeg(turnDeg), 0, sinDeg(turnDeg)),
    b: turned(-sinDeg(turnDeg), 0, cosDeg(turnDeg)),
    h: turned(0, -1, 0),
  };
}

/** The matrix K R [I | -C] of a perspective (Hartley & Zisserman, 6.1), from world mm to sheet mm; w is the depth in mm. */
export function perspectiveMatrix(setup: PerspectiveSetup): Mat34 {
  const axes = axesInCamera(setup);
  const { focal: f, principal: p, eye } = setup;
  const x = { a: f * axes.a.x + p.x * axes.a.z, b: f * axes.b.x + p.x * axes.b.z, h: f * axes.h.x + p.x * axes.h.z };
  const y = { a: f * axes.a.y + p.y * axes.a.z, b: f * axes.b.y + p.y * axes.b.z, h: f * axes.h.y + p.y * axes.h.z };
  const w = { a: axes.a.z, b: axes.b.z, h: axes.h.z };
  return [x.a, x.b, x.h, -dotWorld(x, eye), y.a, y.b, y.h, -dotWorld(y, eye), w.a, w.b, w.h, -dotWorld(w, eye)];
}

/** Depth of a world point from the eye along the line of sight, in mm; negative behind the eye. */
export function depthOf(setup: PerspectiveSetup, { a, b, h }: WorldPoint): number {
  const axes = axesInCamera(setup);
  const { eye } = setup;
  return axes.a.z * (a - eye.a) + axes.b.z * (b - eye.b) + axes.h.z * (h - eye.h);
}

/**
 * The same camera with its eye moved until a world point is drawn at a sheet point, at a depth. Orientation, focal
 * length and principal point stay, and with them every vanishing point.
 */
export function withPointAt(setup: PerspectiveSetup, point: WorldPoint, at: SheetPoint, depth: number): PerspectiveSetup {
  const axes = axesInCamera(setup);
  const k = depth / setup.focal;
  const ray: CameraVector = { x: (at.x - setup.principal.x) * k, y: (at.y - setup.principal.y) * k, z: depth };
  const along = (axis: CameraVector): number => axis.x * ray.x + axis.y * ray.y + axis.z * ray.z;
  return { ...setup, eye: { a: point.a - along(axes.a), b: point.b - along(axes.b), h: point.h - along(axes.h) } };
}

/** The angle in degrees under which the eye sees a width of the sheet about the principal point. */
export function viewAngleDeg(focal: number, width: number): number {
  return 2 * degrees(Math.atan2(width / 2, focal));
}

/** The focal length in mm that shows a width of the sheet under an angle. Inverse of `viewAngleDeg`. */
export function focalFromView(angleDeg: number, width: number): number {
  return width / 2 / Math.tan((angleDeg * Math.PI) / 360);
}

/** Radius on the sheet of the cone of vision with a full angle in degrees, about the principal point. */
export function coneRadius({ focal }: PerspectiveSetup, fullDeg = 60): number {
  return focal * Math.tan((fullDeg * Math.PI) / 360);
}
