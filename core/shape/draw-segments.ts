import type { Mat33 } from '../math/matrix';
import { ringsOf, type Outline } from './outline';
import { joinPaths, type Path } from './path';
import { outlineSegments, type ConicSegment, type Segment } from './segments';

/** Largest distance in sheet units between a drawn curve and the true one: a hundredth of a px at 96 to the inch. */
export const CURVE_ERROR = 0.01 * (25.4 / 96);
/** Most halvings of one piece of a conic or curve. */
const MAX_HALVINGS = 8;
/**
 * The same for conics, of which each halving leaves a sixty-fourth: less than a millionth of a cell, so that round things
 * are true at any zoom and where their surfaces meet.
 */
export const CONIC_ERROR = 4e-6;

/** A homogeneous point of the sheet. */
type Homogeneous = readonly [number, number, number];

/**
 * The path that a boundary is drawn as: straight edges exactly, conics and curves as few cubics as keep to them within
 * a distance. Conics are carried through the homography as they are, for a conic's projection is a conic with other
 * weights, and only then turned into cubics. Null where a part comes nearer than `near`.
 * @param error largest distance in sheet units from the true curve; null for what each kind of curve has by itself
 */
export function drawSegments(segments: readonly Segment[], closed: boolean, h: Mat33, near: number, error: number | null = null): Path | null {
  const first = segments[0];
  const start = first && lift(h, first.from.u, first.from.v);
  if (!first || !start || !(start[2] > near)) return null;
  let verbs = 'M';
  const coords: number[] = [start[0] / start[2], start[1] / start[2]];
  for (let i = 0; i < segments.length; i++) {
    const segment = segments[i]!;
    const to = lift(h, segment.to.u, segment.to.v);
    if (!(to[2] > near)) return null;
    if (segment.kind === 'line') {
      // The edge that leads back to the start is what closing draws.
      if (closed && i === segments.length - 1) continue;
      verbs += 'L';
      coords.push(to[0] / to[2], to[1] / to[2]);
      continue;
    }
    const before = coords.length;
    const whole =
      segment.kind === 'conic' ? conicCubics(segment, h, near, error ?? CONIC_ERROR, coords) : rationalCubics(segment, h, near, error ?? CURVE_ERROR, coords);
    if (!whole) return null;
    verbs += 'C'.repeat((coords.length - before) / 6);
  }
  return { verbs: verbs + (closed ? 'Z' : ''), coords };
}

/** The path of a boundary with its holes under a homography; null where a part comes nearer than `near`. */
export function drawRings(outline: Outline, map: Mat33, near: number): Path | null {
  const paths = ringsOf(outline).map((ring) => drawSegments(outlineSegments(ring), ring.closed, map, near));
  return paths.every((path) => path !== null) ? joinPaths(paths) : null;
}

const lift = (h: Mat33, x: number, y: number, w = 1): Homogeneous => [
  h[0] * x + h[1] * y + h[2] * w,
  h[3] * x + h[4] * y + h[5] * w,
  h[6] * x + h[7] * y + h[8] * w,
];

function conicCubics({ from, via, weight, to }: ConicSegment, h: Mat33, near: number, error: number, out: number[]): boolean {
  const p = lift(h, from.u, from.v);
  const r = lift(h, to.u, to.v);
  const q = lift(h, via.u * weight, via.v * weight, weight);
  if (!(p[2] > near) || !(r[2] > near)) return false;
  // The same conic with both end weights 1.
  const middle = q[2] / Math.sqrt(p[2] * r[2]);
  if (!(q[2] > 0)) return false;
  pieceCubics([p[0] / p[2], p[1] / p[2]], [q[0] / q[2], q[1] / q[2]], [r[0] / r[2], r[1] / r[2]], middle, error, 0, out);
  return true;
}

type Pair = readonly [number, number];

/**
 * A conic with end weights 1 as cubics: the cubic with the same ends, end tangents and shoulder, where that is near
 * enough, else both halves. Handles stand at 4w / 3(1 + w) of the way to the tangents' meeting point, which puts the
 * cubic's middle on the conic's shoulder; the rest is measured at the quarters (Goldapp 1991 for circles).
 */
function pieceCubics(p: Pair, q: Pair, r: Pair, w: number, error: number, halvings: number, out: number[]): void {
  const k = (4 * w) / (3 * (1 + w));
  const c1: Pair = [p[0] + (q[0] - p[0]) * k, p[1] + (q[1] - p[1]) * k];
  const c2: Pair = [r[0] + (q[0] - r[0]) * k, r[1] + (q[1] - r[1]) * k];
  if (halvings >= MAX_HALVINGS || offConic(p, c1, c2, r, q, w) <= error) {
    out.push(c1[0], c1[1], c2[0], c2[1], r[0], r[1]);
    return;
  }
  const shoulder: Pair = [(p[0] + 2 * w * q[0] + r[0]) / (2 + 2 * w), (p[1] + 2 * w * q[1] + r[1]) / (2 + 2 * w)];
  const left: Pair = [(p[0] + w * q[0]) / (1 + w), (p[1] + w * q[1]) / (1 + w)];
  const right: Pair = [(r[0] + w * q[0]) / (1 + w), (r[1] + w * q[1]) / (1 + w)];
  const half = Math.sqrt((1 + w) / 2);
  pieceCubics(p, left, shoulder, half, error, halvings + 1, out);
  pieceCubics(shoulder, right, r, half, error, halvings + 1, out);
}

/**
 * Largest distance of a cubic from a conic at eight places: with barycentric coordinates (a, b, c) in the triangle of
 * ends and tangents' meeting, the conic is b^2 = 4 w^2 a c; the value over its gradient is the distance to first order.
 */
function offConic(p: Pair, c1: Pair, c2: Pair, r: Pair, q: Pair, w: number): number {
  const area = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  if (area === 0) return 0;
  let most = 0;
  for (let i = 1; i < 16; i++) {
    const t = i / 16;
    const s = 1 - t;
    const x = s * s * s * p[0] + 3 * s * s * t * c1[0] + 3 * s * t * t * c2[0] + t * t * t * r[0];
    const y = s * s * s * p[1] + 3 * s * s * t * c1[1] + 3 * s * t * t * c2[1] + t * t * t * r[1];
    const b = ((x - p[0]) * (r[1] - p[1]) - (y - p[1]) * (r[0] - p[0])) / area;
    const c = ((q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0])) / area;
    const a = 1 - b - c;
    const value = b * b - 4 * w * w * a * c;
    // Gradients of the barycentric coordinates over the sheet.
    const [bx, by] = [(r[1] - p[1]) / area, -(r[0] - p[0]) / area];
    const [cx, cy] = [-(q[1] - p[1]) / area, (q[0] - p[0]) / area];
    const gx = 2 * b * bx - 4 * w * w * ((-bx - cx) * c + a * cx);
    const gy = 2 * b * by - 4 * w * w * ((-by - cy) * c + a * cy);
    const slope = Math.hypot(gx, gy);
    if (slope > 0) most = Math.max(most, Math.abs(value) / slope);
  }
  return most;
}

/** A cubic of the plane under a homography: rational there, halved until plain cubics follow it. */
function rationalCubics(segment: Extract<Segment, { kind: 'cubic' }>, h: Mat33, near: number, error: number, out: number[]): boolean {
  const points = [segment.from, segment.out, segment.into, segment.to].map((p) => lift(h, p.u, p.v));
  if (points.some((p) => !(p[2] > near))) return false;
  rationalPiece(points as unknown as readonly [Homogeneous, Homogeneous, Homogeneous, Homogeneous], error, 0, out);
  return true;
}

function rationalPiece(c: readonly [Homogeneous, Homogeneous, Homogeneous, Homogeneous], error: number, halvings: number, out: number[]): void {
  const flat = (p: Homogeneous): Pair => [p[0] / p[2], p[1] / p[2]];
  const [p, q, r, s] = [flat(c[0]), flat(c[1]), flat(c[2]), flat(c[3])];
  const [k, l] = [c[1][2] / c[0][2], c[2][2] / c[3][2]];
  // The rational curve's own end tangents (Farin, 13).
  const c1: Pair = [p[0] + k * (q[0] - p[0]), p[1] + k * (q[1] - p[1])];
  const c2: Pair = [s[0] + l * (r[0] - s[0]), s[1] + l * (r[1] - s[1])];
  const mid = (a: Homogeneous, b: Homogeneous): Homogeneous => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
  const [ab, bc, cd] = [mid(c[0], c[1]), mid(c[1], c[2]), mid(c[2], c[3])];
  const [abc, bcd] = [mid(ab, bc), mid(bc, cd)];
  const middle = mid(abc, bcd);
  const [mx, my] = flat(middle);
  const off = Math.hypot((p[0] + 3 * c1[0] + 3 * c2[0] + s[0]) / 8 - mx, (p[1] + 3 * c1[1] + 3 * c2[1] + s[1]) / 8 - my);
  const even = Math.max(c[0][2], c[1][2], c[2][2], c[3][2]) <= 1.0000001 * Math.min(c[0][2], c[1][2], c[2][2], c[3][2]);
  if (even || off <= error || halvings >= MAX_HALVINGS) {
    out.push(c1[0], c1[1], c2[0], c2[1], s[0], s[1]);
    return;
  }
  rationalPiece([c[0], ab, abc, middle], error, halvings + 1, out);
  rationalPiece([middle, bcd, cd, c[3]], error, halvings + 1, out);
}
