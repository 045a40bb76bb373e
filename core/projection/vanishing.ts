import { degrees } from '../math/figures';
import type { Axis, SheetPoint } from '../math/points';
import { axesInCamera, type CameraVector } from './camera';
import type { ByAxis } from './gauss';
import type { PerspectiveSetup } from './setup';

/** A homogeneous point of the sheet: a point where w is 1, the direction of a pencil of parallels where w is 0. */
export interface VanishingPoint {
  readonly x: number;
  readonly y: number;
  readonly w: 0 | 1;
}

/** Where z counts as none: an axis within 1e-12 rad of the picture plane has its vanishing point 1e12 focal lengths away. */
const ALONG_PICTURE = 1e-12;

/** The vanishing point of a direction in the camera's frame. */
function vanishingOf({ focal, principal }: PerspectiveSetup, d: CameraVector): VanishingPoint {
  if (Math.abs(d.z) < ALONG_PICTURE) return { x: d.x, y: d.y, w: 0 };
  return { x: principal.x + (focal * d.x) / d.z, y: principal.y + (focal * d.y) / d.z, w: 1 };
}

/** The vanishing points of the three axes. */
export function vanishingPoints(setup: PerspectiveSetup): ByAxis<VanishingPoint> {
  const axes = axesInCamera(setup);
  return { a: vanishingOf(setup, axes.a), b: vanishingOf(setup, axes.b), h: vanishingOf(setup, axes.h) };
}

/** A line of the sheet by a point on it and its unit direction. */
export interface SheetLine {
  readonly at: SheetPoint;
  readonly along: SheetPoint;
}

/** The horizon: its point nearest to the principal point, and its direction; null when looking straight down or up. */
export function horizonOf(setup: PerspectiveSetup): SheetLine | null {
  const { focal, principal } = setup;
  const level = axesInCamera({ ...setup, turnDeg: 0 });
  // The level direction straight away meets the picture on the horizon; a of an unturned camera runs along it.
  if (Math.abs(level.b.z) < ALONG_PICTURE) return null;
  return {
    at: { x: principal.x + (focal * level.b.x) / level.b.z, y: principal.y + (focal * level.b.y) / level.b.z },
    along: { x: level.a.x, y: level.a.y },
  };
}

/** A camera without its place: everything that vanishing points tell. */
export type CameraAngles = Pick<PerspectiveSetup, 'focal' | 'principal' | 'turnDeg' | 'tiltDeg' | 'rollDeg'>;

/** A camera from vanishing points, or why there is none. */
export type FromVanishing = { readonly ok: true; readonly camera: CameraAngles } | { readonly ok: false; readonly reason: string };

/** The orthocentre of a triangle, or null where its corners lie on one line. */
export function orthocentre(p: SheetPoint, q: SheetPoint, r: SheetPoint): SheetPoint | null {
  // The altitudes through p and q: (x - p).(r - q) = 0 and (x - q).(p - r) = 0.
  const [ax, ay, c] = [r.x - q.x, r.y - q.y, p.x * (r.x - q.x) + p.y * (r.y - q.y)];
  const [bx, by, d] = [p.x - r.x, p.y - r.y, q.x * (p.x - r.x) + q.y * (p.y - r.y)];
  const det = ax * by - ay * bx;
  if (det === 0 || !Number.isFinite(1 / det)) return null;
  return { x: (c * by - d * ay) / det, y: (ax * d - bx * c) / det };
}

/**
 * The camera that has three finite vanishing points: its principal point is the orthocentre of their triangle, and
 * the focal length follows from f^2 = -(va - p).(vb - p) (Caprile & Torre 1990). Only an acute triangle has one.
 */
export function cameraFromThree({ a, b, h }: ByAxis<SheetPoint>): FromVanishing {
  const p = orthocentre(a, b, h);
  if (!p) return { ok: false, reason: 'the three vanishing points lie on one line' };
  const square = -((a.x - p.x) * (b.x - p.x) + (a.y - p.y) * (b.y - p.y));
  if (!(square > 0)) {
    const corner = obtuseCorner({ a, b, h });
    return { ok: false, reason: `the triangle of the vanishing points is not acute: its corner at ${corner} has 90° or more` };
  }
  return anglesFrom(Math.sqrt(square), p, a, b);
}

/**
 * The camera with vanishing points a and b whose principal point is known; the third follows, at infinity where the
 * principal point lies on the horizon. The two must be seen at a right angle: one on each side of the principal point.
 */
export function cameraFromTwo(a: SheetPoint, b: SheetPoint, principal: SheetPoint): FromVanishing {
  const square = -((a.x - principal.x) * (b.x - principal.x) + (a.y - principal.y) * (b.y - principal.y));
  if (!Number.isFinite(square)) return { ok: false, reason: 'a place that is given is not a number' };
  if (!(square > 0)) return { ok: false, reason: 'the vanishing points a and b have to lie more than a right angle apart as seen from the principal point' };
  return anglesFrom(Math.sqrt(square), principal, a, b);
}

function obtuseCorner(points: ByAxis<SheetPoint>): Axis {
  const angle = (o: SheetPoint, p: SheetPoint, q: SheetPoint): number => (p.x - o.x) * (q.x - o.x) + (p.y - o.y) * (q.y - o.y);
  if (angle(points.a, points.b, points.h) <= 0) return 'a';
  return angle(points.b, points.h, points.a) <= 0 ? 'b' : 'h';
}

/** Turn, tilt and roll from the directions of a and b, of which b recedes. */
function anglesFrom(focal: number, principal: SheetPoint, a: SheetPoint, b: SheetPoint): FromVanishing {
  const direction = (v: SheetPoint): CameraVector => {
    const [x, y] = [v.x - principal.x, v.y - principal.y];
    const length = Math.hypot(x, y, focal);
    return { x: x / length, y: y / length, z: focal / length };
  };
  const da = direction(a);
  const db = direction(b);
  // h = a x b in the right-handed frame x right, y down, z away.
  const h = { x: da.y * db.z - da.z * db.y, y: da.z * db.x - da.x * db.z, z: da.x * db.y - da.y * db.x };
  if (h.y >= 0) return { ok: false, reason: 'the vanishing point a has to lie to the right of b' };
  return {
    ok: true,
    camera: {
      focal,
      principal,
      turnDeg: degrees(Math.atan2(da.z, db.z)),
      tiltDeg: degrees(Math.atan2(-h.z, Math.hypot(h.x, h.y))),
      rollDeg: degrees(Math.atan2(-h.x, -h.y)),
    },
  };
}

/**
 * The sheet points that divide a receding stretch into equal true steps, its ends included. On the line, with t = 0
 * at the near end, 1 at the far end and v at the vanishing point, true distance is the projective map that sends
 * v to infinity: the k-th step of n lies at t = k v / (n v - n + k), by the cross-ratio (0, 1; t, v). Where the line
 * runs along the picture (v infinite) the steps are drawn equal.
 * @param count whole number of steps, 1 or more
 * @returns null where there is no such count, or the stretch reaches its vanishing point: it is infinitely long
 */
export function equalSteps(from: SheetPoint, to: SheetPoint, vanishing: VanishingPoint, count: number): readonly SheetPoint[] | null {
  if (!Number.isInteger(count) || count < 1) return null;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const square = dx * dx + dy * dy;
  const v = vanishing.w === 0 || square === 0 ? Infinity : ((vanishing.x - from.x) * dx + (vanishing.y - from.y) * dy) / square;
  if (Number.isNaN(v) || (v >= 0 && v <= 1)) return null;
  return Array.from({ length: count + 1 }, (_, k) => {
    const t = Number.isFinite(v) ? (k * v) / (count * v - count + k) : k / count;
    return { x: from.x + dx * t, y: from.y + dy * t };
  });
}
