import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { Outline, OutlinePoint } from './outline';
import { SAME_PLACE } from '../math/tolerances';

/** A place that a pen passed: where, and how hard it was pressed, 0 to 1. */
export interface PenPoint extends PlanePoint {
  readonly press: number;
}

/** A stroke cleaned to a curve, and how far the pen's places lie off it at most, in cells. */
export interface Cleaned {
  readonly outline: Outline;
  readonly deviation: number;
}

/** Most times that places are given other parameters before a stretch is halved. */
const ROUNDS = 6;
/** Two tangents that turn by more than this many degrees between neighbouring places of a thinned stroke make a corner. */
const CORNER_DEG = 55;

/**
 * A pen's path as a curve of few points: cubic pieces fitted by least squares, halved where they stray further than a
 * tolerance, smooth but at corners (Schneider 1990, "An Algorithm for Automatically Fitting Digitized Curves"). The pen's
 * pressure is kept at the points where it varies at all.
 * @param tolerance in cells
 * @returns null for fewer than two places
 */
export function cleanStroke(pen: readonly PenPoint[], tolerance: number): Cleaned | null {
  const places = pen.filter((p, i) => i === 0 || p.u !== pen[i - 1]!.u || p.v !== pen[i - 1]!.v);
  const [first] = places;
  if (!first || places.length < 2) return null;
  const curves: Cubic[] = [];
  const corners = cornersOf(places, tolerance);
  for (let k = 0; k + 1 < corners.length; k++) {
    const run = places.slice(corners[k]!, corners[k + 1]! + 1);
    fit(run, unit(run[0]!, run[Math.min(2, run.length - 1)]!), unit(run.at(-1)!, run[Math.max(0, run.length - 3)]!), tolerance, curves, 0);
  }
  const varied = places.some((p) => Math.abs(p.press - first.press) > 0.05);
  const pressAt = (p: PlanePoint): number => places.reduce((best, q) => (distance(p, q) < distance(p, best) ? q : best)).press;
  const point = (id: number, p: PlanePoint, into?: PlanePoint, out?: PlanePoint): OutlinePoint => ({
    id,
    ...exact(p),
    ...(into && { into: exact(into) }),
    ...(out && { out: exact(out) }),
    ...(varied && { press: Math.round(pressAt(p) * 100) / 100 }),
  });
  const points = curves.map((c, i) => point(i + 1, c[0], curves[i - 1]?.[2], c[1]));
  const last = curves.at(-1)!;
  points.push(point(points.length + 1, last[3], last[2]));
  const deviation = places.reduce((most, p) => Math.max(most, Math.min(...curves.map((c) => offCurve(c, p)))), 0);
  return { outline: { points, closed: false }, deviation };
}

type Cubic = readonly [PlanePoint, PlanePoint, PlanePoint, PlanePoint];

const exact = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });
const distance = (p: PlanePoint, q: PlanePoint): number => Math.hypot(p.u - q.u, p.v - q.v);

function unit(from: PlanePoint, to: PlanePoint): PlanePoint {
  const length = distance(from, to);
  return length === 0 ? { u: 0, v: 0 } : { u: (to.u - from.u) / length, v: (to.v - from.v) / length };
}

/** Indices of places where the stroke turns sharply, its ends included. */
function cornersOf(places: readonly PlanePoint[], tolerance: number): readonly number[] {
  const reach = 4 * tolerance;
  const corners = [0];
  for (let i = 1; i + 1 < places.length; i++) {
    const before = walk(places, i, -1, reach);
    const after = walk(places, i, 1, reach);
    const [p, q] = [unit(before, places[i]!), unit(places[i]!, after)];
    const cos = p.u * q.u + p.v * q.v;
    const sharp = cos < Math.cos((CORNER_DEG * Math.PI) / 180);
    if (sharp && distance(places[corners.at(-1)!]!, places[i]!) > reach && distance(places.at(-1)!, places[i]!) > reach) corners.push(i);
  }
  return [...corners, places.length - 1];
}

function walk(places: readonly PlanePoint[], i: number, step: 1 | -1, reach: number): PlanePoint {
  let k = i;
  while (places[k + step] && distance(places[i]!, places[k]!) < reach) k += step;
  return places[k]!;
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
  const along = unit(run[i - 1]!, run[i + 1]!);
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

function on([p, q, r, s]: Cubic, t: number): PlanePoint {
  const k = 1 - t;
  const [a, b, c, d] = [k * k * k, 3 * k * k * t, 3 * k * t * t, t * t * t];
  return { u: a * p.u + b * q.u + c * r.u + d * s.u, v: a * p.v + b * q.v + c * r.v + d * s.v };
}

function farthest(run: readonly PlanePoint[], at: readonly number[], curve: Cubic): { readonly index: number; readonly off: number } {
  let [index, off] = [0, 0];
  run.forEach((p, i) => {
    const d = distance(p, on(curve, at[i]!));
    if (d > off) [index, off] = [i, d];
  });
  return { index, off };
}

/** A better parameter for a place by one step of Newton's method. */
function nearer(curve: Cubic, p: PlanePoint, t: number): number {
  const h = 1e-4;
  const [before, here, after] = [on(curve, t - h), on(curve, t), on(curve, t + h)];
  const d1 = { u: (after.u - before.u) / (2 * h), v: (after.v - before.v) / (2 * h) };
  const d2 = { u: (after.u - 2 * here.u + before.u) / (h * h), v: (after.v - 2 * here.v + before.v) / (h * h) };
  const off = { u: here.u - p.u, v: here.v - p.v };
  const slope = d1.u * d1.u + d1.v * d1.v + off.u * d2.u + off.v * d2.v;
  return slope === 0 ? t : Math.max(0, Math.min(1, t - (off.u * d1.u + off.v * d1.v) / slope));
}

/** Distance of a place from a curve, by chords that stray from it far less than any tolerance. */
function offCurve(curve: Cubic, p: PlanePoint): number {
  let least = Infinity;
  let from = curve[0];
  for (let k = 1; k <= 48; k++) {
    const to = on(curve, k / 48);
    const [x, y] = [to.u - from.u, to.v - from.v];
    const square = x * x + y * y;
    const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((p.u - from.u) * x + (p.v - from.v) * y) / square));
    least = Math.min(least, Math.hypot(p.u - from.u - t * x, p.v - from.v - t * y));
    from = to;
  }
  return least;
}

/**
 * A pen's path held to directions: straight runs, each along the direction that the pen keeps to, a new one where it
 * leaves that for another by more than a threshold.
 * @param directions at a place, as unit vectors; opposite ones count as the same
 * @param threshold in cells
 */
export function straightenStroke(pen: readonly PlanePoint[], directions: (at: PlanePoint) => readonly PlanePoint[], threshold: number): readonly PlanePoint[] {
  const [first] = pen;
  if (!first) return [];
  const corners: PlanePoint[] = [first];
  let along: PlanePoint | null = null;
  let tip = first;
  for (const p of pen) {
    const from = corners.at(-1)!;
    if (!along) {
      if (distance(from, p) < threshold) continue;
      along = nearest(directions(from), from, p);
    }
    const foot = onto(from, along, p);
    if (distance(foot, p) <= threshold) {
      tip = foot;
      continue;
    }
    // The pen has left the line: what it did since its tip goes along another direction.
    const next = nearest(directions(tip), tip, p);
    if (Math.abs(next.u * along.v - next.v * along.u) < SAME_PLACE) continue;
    corners.push(tip);
    along = next;
    tip = onto(tip, along, p);
  }
  if (distance(tip, corners.at(-1)!) > 0) corners.push(tip);
  return corners.map(exact);
}

function nearest(directions: readonly PlanePoint[], from: PlanePoint, to: PlanePoint): PlanePoint {
  const d = unit(from, to);
  return directions.reduce((best, next) => (Math.abs(next.u * d.u + next.v * d.v) > Math.abs(best.u * d.u + best.v * d.v) ? next : best));
}

function onto(from: PlanePoint, along: PlanePoint, p: PlanePoint): PlanePoint {
  const t = (p.u - from.u) * along.u + (p.v - from.v) * along.v;
  return { u: from.u + along.u * t, v: from.v + along.v * t };
}
