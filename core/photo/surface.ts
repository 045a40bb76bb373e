import type { SheetPoint } from '../math/points';

/** A camera that took a photograph: square px, its axis through the middle of the picture. */
export interface PhotoCamera {
  /** Size of the photograph in px. */
  readonly width: number;
  readonly height: number;
  /** Distance of the picture behind the lens, in px. */
  readonly focal: number;
  /** How far the lens bends straight lines: a place at r focal lengths off the axis is shown at r (1 + bend r²). */
  readonly bend: number;
}

/** How a thing stands before a camera: `turn X + at`, in mm, x to the right, y down, z away from the lens. */
export interface Pose {
  /** Turn about an axis: its direction, as long as the angle in radians. */
  readonly turn: readonly [number, number, number];
  readonly at: readonly [number, number, number];
}

/**
 * A flat sheet bent round a thing: not at all, round a cylinder, or round a cone. At its middle it touches the plane
 * z = 0 of the thing's own frame, whose y axis runs along the generator there.
 */
export interface Bent {
  /** Curvature in the middle, 1/mm: one over the radius, 0 of a flat one, below 0 where it is hollow towards the camera. */
  readonly curvature: number;
  /** Half the angle at the apex of a cone in radians; 0 of a cylinder; below 0 where it narrows downwards. */
  readonly taper: number;
  /** Turn of the sheet about its middle against the generator, in radians. */
  readonly skew: number;
}

/** The turn of a pose as rows of a matrix (Rodrigues). */
export function turnMatrix([x, y, z]: Pose['turn']): readonly number[] {
  const angle = Math.hypot(x, y, z);
  if (angle < 1e-12) return [1, -z, y, z, 1, -x, -y, x, 1];
  const [a, b, c] = [x / angle, y / angle, z / angle];
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const k = 1 - cos;
  return [cos + a * a * k, a * b * k - c * sin, a * c * k + b * sin, b * a * k + c * sin, cos + b * b * k, b * c * k - a * sin, c * a * k - b * sin, c * b * k + a * sin, cos + c * c * k]; // prettier-ignore
}

/** The turn that a matrix is, given by rows. Inverse of `turnMatrix` for turns of less than half a circle. */
export function turnOf(m: readonly number[]): Pose['turn'] {
  const angle = Math.acos(Math.max(-1, Math.min(1, (m[0]! + m[4]! + m[8]! - 1) / 2)));
  const k = angle < 1e-9 ? 0.5 : angle / (2 * Math.sin(angle));
  return [(m[7]! - m[5]!) * k, (m[2]! - m[6]!) * k, (m[3]! - m[1]!) * k];
}

/** Curvatures, in 1/mm, and tapers below which a sheet counts as flat or as round a cylinder: series replace quotients. */
const FLAT = 1e-9;

/**
 * The place in a thing's own frame of a place of the sheet bent round it. Lengths on the sheet are kept.
 * @param u to the right of its middle; @param v below it, in mm
 */
export function bentPoint({ curvature, taper, skew }: Bent, u: number, v: number, out: number[] | Float64Array): void {
  const [cos, sin] = [Math.cos(skew), Math.sin(skew)];
  const [x, y] = [cos * u - sin * v, sin * u + cos * v];
  if (Math.abs(curvature) < FLAT) {
    [out[0], out[1], out[2]] = [x, y, 0];
    return;
  }
  const narrowing = Math.sin(taper);
  if (Math.abs(narrowing * curvature) < FLAT * 1e-3) {
    const angle = x * curvature;
    [out[0], out[1], out[2]] = [Math.sin(angle) / curvature, y, (1 - Math.cos(angle)) / curvature];
    return;
  }
  // Unrolled, a cone is a sector: the apex lies so far above the middle, by its sign.
  const apex = 1 / (curvature * narrowing);
  const sign = Math.sign(apex);
  const far = sign * Math.hypot(x, y + apex);
  const angle = Math.atan2(x * sign, (y + apex) * sign) / narrowing;
  const radius = far * narrowing;
  [out[0], out[1], out[2]] = [radius * Math.sin(angle), (far - apex) * Math.cos(taper), 1 / curvature - radius * Math.cos(angle)];
}

/** Where a place before the camera is shown, in px; null behind the lens. */
export function shownAt({ width, height, focal, bend }: PhotoCamera, x: number, y: number, z: number): SheetPoint | null {
  if (!(z > 1e-9)) return null;
  const [p, q] = [x / z, y / z];
  const k = focal * (1 + bend * (p * p + q * q));
  return { x: width / 2 + p * k, y: height / 2 + q * k };
}

/** The direction x/z, y/z that is seen at a place of the photograph. Inverse of `shownAt`; by Newton's steps. */
export function seenAt({ width, height, focal, bend }: PhotoCamera, { x, y }: SheetPoint): readonly [number, number] {
  const [p, q] = [(x - width / 2) / focal, (y - height / 2) / focal];
  const shown = Math.hypot(p, q);
  if (bend === 0 || shown === 0) return [p, q];
  let r = shown;
  for (let i = 0; i < 8; i++) r -= (r * (1 + bend * r * r) - shown) / (1 + 3 * bend * r * r);
  return [(p * r) / shown, (q * r) / shown];
}
