import type { PlanePoint } from '../math/points';
import type { Path } from './path';

/** A cubic Bezier curve by its four points. */
export type Cubic = readonly [PlanePoint, PlanePoint, PlanePoint, PlanePoint];

/** Most times that places are given other parameters before a stretch is halved. */
const ROUNDS = 6;
/** Cosine of the turn between two edges of a ring above which they meet smoothly: 20 degrees. */
const SMOOTH = Math.cos(Math.PI / 9);
/** Edges that are longer than their neighbour by this factor are straight, not chords of a curve. */
const LONG = 3;

export const distance = (p: PlanePoint, q: PlanePoint): number => Math.hypot(p.u - q.u, p.v - q.v);

/** The unit direction from one place to another; nothing between places that are one. */
export function unitTo(from: PlanePoint, to: PlanePoint): PlanePoint {
  const length = distance(from, to);
  return length === 0 ? { u: 0, v: 0 } : { u: (to.u - from.u) / length, v: (to.v - from.v) / length };
}

/**
 * A run of places as cubic pieces fitted by least squares, halved where they stray further than a tolerance (Schneider
 * 1990, "An Algorithm for Automatically Fitting Digitized Curves").
 * @param start unit direction in which it sets out; @param end the one back from its end
 */
export function fitCurve(run: readonly PlanePoint[], start: PlanePoint, end: PlanePoint, tolerance: number): readonly Cubic[] {
  const out: Cubic[] = [];
  fit(run, start, end, tolerance, out, 0);
  return out;
}

function fit(run: readonly PlanePoint[], start: PlanePoint, end: PlanePoint, tolerance: number, out: Cubic[], depth: number): void {
  const [first, last] = [run[0]!, run.at(-1)!];
  if (run.length === 2) {
    const third = distance(first, last) / 3;
    out.push([first, ahead(first, start, third), ahead(last, end, third), last]);
    return;
  }
  let at = chordLengths(run);
  let curve = fitted(run, at, start, end);
  let worst = farthest(run, at, curve);
  for (let round = 0; round < ROUNDS && worst.off > tolerance && worst.off < 4 * tolerance; round++) {
    at = at.map((t, i) => nearer(curve, run[i]!, t));
    curve = fitted(run, at, start, end);
    worst = farthest(run, at, curve);
  }
  if (worst.off <= tolerance || depth > 24) {
    out.push(curve);
    return;
  }
  const i = Math.max(1, Math.min(run.length - 2, worst.index));
  const along = unitTo(run[i - 1]!, run[i + 1]!);
  fit(run.slice(0, i + 1), start, { u: -along.u, v: -along.v }, tolerance, out, depth + 1);
  fit(run.slice(i), along, end, tolerance, out, depth + 1);
}

const ahead = (p: PlanePoint, d: PlanePoint, length: number): PlanePoint => ({ u: p.u + d.u * length, v: p.v + d.v * length });

function chordLengths(run: readonly PlanePoint[]): number[] {
  const at = [0];
  for (let i = 1; i < run.length; i++) at.push(at[i - 1]! + distance(run[i - 1]!, run[i]!));
  const total = at.at(-1)!;
  return at.map((length) => (total === 0 ? 0 : length / total));
}

/** The cubic with given ends and end directions that is nearest to the places in the least-squares sense. */
function fitted(run: readonly PlanePoint[], at: readonly number[], start: PlanePoint, end: PlanePoint): Cubic {
  const [p0, p3] = [run[0]!, run.at(-1)!];
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0];
  run.forEach((p, i) => {
    const t = at[i]!;
    const s = 1 - t;
    const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    const [a1, a2] = [
      { u: start.u * b1, v: start.v * b1 },
      { u: end.u * b2, v: end.v * b2 },
    ];
    const rest = { u: p.u - (b0 + b1) * p0.u - (b2 + b3) * p3.u, v: p.v - (b0 + b1) * p0.v - (b2 + b3) * p3.v };
    c00 += a1.u * a1.u + a1.v * a1.v;
    c01 += a1.u * a2.u + a1.v * a2.v;
    c11 += a2.u * a2.u + a2.v * a2.v;
    x0 += a1.u * rest.u + a1.v * rest.v;
    x1 += a2.u * rest.u + a2.v * rest.v;
  });
  const det = c00 * c11 - c01 * c01;
  const length = distance(p0, p3);
  const least = 1e-6 * length;
  let [alpha, beta] = det === 0 ? [0, 0] : [(x0 * c11 - x1 * c01) / det, (c00 * x1 - c01 * x0) / det];
  // Handles that point backwards, or far away, come of too few places: a third of the way is always sound.
  if (!(alpha > least) || !(beta > least) || alpha > 3 * length || beta > 3 * length) [alpha, beta] = [length / 3, length / 3];
  return [p0, ahead(p0, start, alpha), ahead(p3, end, beta), p3];
}

/** The place of a cubic at a parameter. */
export function onCubic([p, q, r, s]: Cubic, t: number): PlanePoint {
  const k = 1 - t;
  const [a, b, c, d] = [k * k * k, 3 * k * k * t, 3 * k * t * t, t * t * t];
  return { u: a * p.u + b * q.u + c * r.u + d * s.u, v: a * p.v + b * q.v + c * r.v + d * s.v };
}

function farthest(run: readonly PlanePoint[], at: readonly number[], curve: Cubic): { readonly index: number; readonly off: number } {
  let [index, off] = [0, 0];
  run.forEach((p, i) => {
    const d = distance(p, onCubic(curve, at[i]!));
    if (d > off) [index, off] = [i, d];
  });
  return { index, off };
}

/** A better parameter for a place by one step of Newton's method. */
function nearer(curve: Cubic, p: PlanePoint, t: number): number {
  const h = 1e-4;
  const [before, here, after] = [onCubic(curve, t - h), onCubic(curve, t), onCubic(curve, t + h)];
  const d1 = { u: (after.u - before.u) / (2 * h), v: (after.v - before.v) / (2 * h) };
  const d2 = { u: (after.u - 2 * here.u + before.u) / (h * h), v: (after.v - 2 * here.v + before.v) / (h * h) };
  const off = { u: here.u - p.u, v: here.v - p.v };
  const slope = d1.u * d1.u + d1.v * d1.v + off.u * d2.u + off.v * d2.v;
  return slope === 0 ? t : Math.max(0, Math.min(1, t - (off.u * d1.u + off.v * d1.v) / slope));
}

/**
 * A closed ring of corners `[x0, y0, ...]` that lie close together along curves as lines and cubics that stray from them
 * no further than a tolerance; true corners stay.
 */
export function fitRing(ring: ArrayLike<number>, tolerance: number): Path {
  const places = spaced(ring, tolerance / 2);
  const n = places.length;
  if (n < 3) return { verbs: '', coords: [] };
  const turn = (i: number): number => {
    const [p, q] = [unitTo(places[(i + n - 1) % n]!, places[i]!), unitTo(places[i]!, places[(i + 1) % n]!)];
    return p.u * q.u + p.v * q.v;
  };
  const corners = places.flatMap((_, i) => (turn(i) < SMOOTH ? [i] : []));
  const starts = corners.length > 0 ? corners : [0];
  let verbs = 'M';
  const coords = [places[starts[0]!]!.u, places[starts[0]!]!.v];
  starts.forEach((from, k) => {
    const to = k + 1 < starts.length ? starts[k + 1]! : starts[0]! + n;
    const run = Array.from({ length: to - from + 1 }, (_, i) => places[(from + i) % n]!);
    const [first, last] = [run[0]!, run.at(-1)!];
    if (corners.length > 0 && isStraight(run, tolerance / 2)) {
      verbs += 'L';
      coords.push(last.u, last.v);
      return;
    }
    // A ring without corners goes on where it began.
    const through = corners.length > 0 ? null : unitTo(places[n - 1]!, places[1]!);
    const start = through ?? unitTo(first, run[1]!);
    const end = through ? { u: -through.u, v: -through.v } : unitTo(last, run.at(-2)!);
    for (const [, p, q, r] of fitCurve(filled(run), start, end, tolerance)) {
      verbs += 'C';
      coords.push(p.u, p.v, q.u, q.v, r.u, r.v);
    }
  });
  return { verbs: `${verbs}Z`, coords };
}

/** The corners of a ring without those that lie closer to the one before than some distance. */
function spaced(ring: ArrayLike<number>, apart: number): readonly PlanePoint[] {
  const places: PlanePoint[] = [];
  for (let i = 0; i < ring.length; i += 2) {
    const p = { u: ring[i]!, v: ring[i + 1]! };
    if (places.length === 0 || distance(p, places.at(-1)!) > apart) places.push(p);
  }
  while (places.length > 1 && distance(places[0]!, places.at(-1)!) <= apart) places.pop();
  return places;
}

function isStraight(run: readonly PlanePoint[], within: number): boolean {
  const [first, last] = [run[0]!, run.at(-1)!];
  const along = unitTo(first, last);
  return distance(first, last) > 0 && run.every((p) => Math.abs((p.u - first.u) * along.v - (p.v - first.v) * along.u) <= within);
}

/** A run with places along its long edges, so that a curve which is fitted to it follows them. */
function filled(run: readonly PlanePoint[]): readonly PlanePoint[] {
  const lengths = run.slice(1).map((p, i) => distance(run[i]!, p));
  return run.flatMap((p, i) => {
    const q = run[i + 1];
    if (!q) return [p];
    const beside = Math.min(lengths[i - 1] ?? Infinity, lengths[i + 1] ?? Infinity);
    const count = Number.isFinite(beside) && lengths[i]! > LONG * beside ? 4 : 1;
    return Array.from({ length: count }, (_, k) => ({ u: p.u + ((q.u - p.u) * k) / count, v: p.v + ((q.v - p.v) * k) / count }));
  });
}
