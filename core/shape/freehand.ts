import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { distance, fitCurve, onCubic, unitTo, type Cubic } from './fit-curve';
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
    curves.push(...fitCurve(run, unitTo(run[0]!, run[Math.min(2, run.length - 1)]!), unitTo(run.at(-1)!, run[Math.max(0, run.length - 3)]!), tolerance));
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

const exact = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });
/** Indices of places where the stroke turns sharply, its ends included. */
function cornersOf(places: readonly PlanePoint[], tolerance: number): readonly number[] {
  const reach = 4 * tolerance;
  const corners = [0];
  for (let i = 1; i + 1 < places.length; i++) {
    const before = walk(places, i, -1, reach);
    const after = walk(places, i, 1, reach);
    const [p, q] = [unitTo(before, places[i]!), unitTo(places[i]!, after)];
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

/** Distance of a place from a curve, by chords that stray from it far less than any tolerance. */
function offCurve(curve: Cubic, p: PlanePoint): number {
  let least = Infinity;
  let from = curve[0];
  for (let k = 1; k <= 48; k++) {
    const to = onCubic(curve, k / 48);
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
  const d = unitTo(from, to);
  return directions.reduce((best, next) => (Math.abs(next.u * d.u + next.v * d.v) > Math.abs(best.u * d.u + best.v * d.v) ? next : best));
}

function onto(from: PlanePoint, along: PlanePoint, p: PlanePoint): PlanePoint {
  const t = (p.u - from.u) * along.u + (p.v - from.v) * along.v;
  return { u: from.u + along.u * t, v: from.v + along.v * t };
}
