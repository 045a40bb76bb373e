import { keptBy } from '../math/keep';
import type { PlanePoint } from '../math/points';
import { pointAt, type ConicSegment, type CubicSegment, type Segment } from './segments';

const mix = (p: PlanePoint, q: PlanePoint, t: number): PlanePoint => ({ u: p.u + (q.u - p.u) * t, v: p.v + (q.v - p.v) * t });

/**
 * A segment in two at a parameter from 0 to 1, both of the same kind and together exactly the same curve: by de
 * Casteljau's construction, for conics with their weights (Farin, 13.4), brought back to end weights of 1.
 */
export function splitSegment(segment: Segment, t: number): readonly [Segment, Segment] {
  if (segment.kind === 'line') {
    const at = mix(segment.from, segment.to, t);
    return [
      { ...segment, to: at },
      { ...segment, from: at },
    ];
  }
  if (segment.kind === 'cubic') {
    const { from, out, into, to } = segment;
    const [ab, bc, cd] = [mix(from, out, t), mix(out, into, t), mix(into, to, t)];
    const [abc, bcd] = [mix(ab, bc, t), mix(bc, cd, t)];
    const at = mix(abc, bcd, t);
    return [
      { ...segment, out: ab, into: abc, to: at },
      { ...segment, from: at, out: bcd, into: cd },
    ];
  }
  const { from, via, weight, to } = segment;
  // Homogeneous control points (w u, w v, w) with weights 1, weight, 1.
  const [w0, w1] = [1 - t + t * weight, (1 - t) * weight + t];
  const left = { u: ((1 - t) * from.u + t * weight * via.u) / w0, v: ((1 - t) * from.v + t * weight * via.v) / w0 };
  const right = { u: ((1 - t) * weight * via.u + t * to.u) / w1, v: ((1 - t) * weight * via.v + t * to.v) / w1 };
  const w = (1 - t) * w0 + t * w1;
  const at = { u: ((1 - t) * w0 * left.u + t * w1 * right.u) / w, v: ((1 - t) * w0 * left.v + t * w1 * right.v) / w };
  const root = Math.sqrt(w);
  return [
    { ...segment, via: left, weight: w0 / root, to: at },
    { ...segment, from: at, via: right, weight: w1 / root },
  ];
}

/** The part of a segment between two parameters, the first smaller. */
export function sliceSegment(segment: Segment, from: number, to: number): Segment {
  const tail = from <= 0 ? segment : splitSegment(segment, from)[1];
  if (to >= 1) return tail;
  return splitSegment(tail, tailParameter(segment, from, to))[0];
}

/** Where a parameter of a whole segment lies in its tail from another; conics are split by another measure than lines. */
function tailParameter(segment: Segment, from: number, to: number): number {
  if (from <= 0) return to;
  if (segment.kind !== 'conic') return (to - from) / (1 - from);
  // A conic's tail is brought back to end weights of 1, which moves its parameter projectively.
  const { weight } = segment;
  const w1 = (1 - from) * weight + from;
  const root = Math.sqrt((1 - from) * (1 - from + from * weight) + from * w1);
  const s = (to - from) / (1 - from);
  return (s * 1) / ((1 - s) * root + s);
}

/** A segment run the other way; its id is that of the point at which it then starts. */
export function reverseSegment(segment: Segment, id = segment.id): Segment {
  if (segment.kind === 'cubic') return { ...segment, id, from: segment.to, out: segment.into, into: segment.out, to: segment.from };
  return { ...segment, id, from: segment.to, to: segment.from };
}

/** The parameter of the point of a segment that is nearest to a point, by sampling and refining. */
export function nearestParameter(segment: Segment, p: PlanePoint): number {
  if (segment.kind === 'line') return lineParameter(segment.from, segment.to, p);
  const squared = (t: number): number => {
    const at = pointAt(segment, t);
    return (at.u - p.u) ** 2 + (at.v - p.v) ** 2;
  };
  const samples = 48;
  let best = 0;
  let least = Infinity;
  for (let k = 0; k <= samples; k++) {
    const d = squared(k / samples);
    if (d < least) [best, least] = [k / samples, d];
  }
  // Golden-section search in the two steps around the best sample.
  let [low, high] = [Math.max(0, best - 1 / samples), Math.min(1, best + 1 / samples)];
  const ratio = (Math.sqrt(5) - 1) / 2;
  for (let k = 0; k < 60; k++) {
    const [x, y] = [high - ratio * (high - low), low + ratio * (high - low)];
    if (squared(x) < squared(y)) high = y;
    else low = x;
  }
  return (low + high) / 2;
}

function lineParameter(from: PlanePoint, to: PlanePoint, p: PlanePoint): number {
  const [x, y] = [to.u - from.u, to.v - from.v];
  const square = x * x + y * y;
  return square === 0 ? 0 : Math.max(0, Math.min(1, ((p.u - from.u) * x + (p.v - from.v) * y) / square));
}

/** The derivative of a segment at a parameter. */
export function tangentAt(segment: Segment, t: number): PlanePoint {
  if (segment.kind === 'line') return { u: segment.to.u - segment.from.u, v: segment.to.v - segment.from.v };
  if (segment.kind === 'cubic') return cubicTangent(segment, t);
  return conicTangent(segment, t);
}

function cubicTangent({ from, out, into, to }: CubicSegment, t: number): PlanePoint {
  const s = 1 - t;
  const part = (a: number, b: number, c: number, d: number): number => 3 * (s * s * (b - a) + 2 * s * t * (c - b) + t * t * (d - c));
  return { u: part(from.u, out.u, into.u, to.u), v: part(from.v, out.v, into.v, to.v) };
}

function conicTangent({ from, via, to, weight }: ConicSegment, t: number): PlanePoint {
  const s = 1 - t;
  const w = s * s + 2 * s * t * weight + t * t;
  const dw = -2 * s + 2 * weight * (1 - 2 * t) + 2 * t;
  const part = (a: number, b: number, c: number): number => {
    const n = s * s * a + 2 * s * t * weight * b + t * t * c;
    const dn = -2 * s * a + 2 * weight * (1 - 2 * t) * b + 2 * t * c;
    return (dn * w - n * dw) / (w * w);
  };
  return { u: part(from.u, via.u, to.u), v: part(from.v, via.v, to.v) };
}

/** A crossing of two segments: the place and the parameters on both. */
export interface SegmentCrossing {
  readonly at: PlanePoint;
  readonly t: number;
  readonly s: number;
}

/** Chords into which curves are cut to find where they may cross. */
const PIECES = 32;
/** Distance in cells under which two crossings are one, and up to which refining must come. */
const SAME = 1e-7;

/**
 * Where two segments cross or touch: found between chords, then refined on the curves by Newton's method to the last
 * digits. Segments that run along each other for a stretch give its ends where these are ends of a segment.
 */
export function crossSegments(p: Segment, q: Segment): readonly SegmentCrossing[] {
  const [boxP, boxQ] = [hullBox(p), hullBox(q)];
  if (!meet(boxP, boxQ)) return [];
  const [chordsP, chordsQ] = [chordPoints(p), chordPoints(q)];
  const [ps, qs] = [chordsP.length - 1, chordsQ.length - 1];
  const found: SegmentCrossing[] = [];
  const take = (t: number, s: number): void => {
    const at = pointAt(p, t);
    const there = pointAt(q, s);
    if (Math.hypot(at.u - there.u, at.v - there.v) > SAME) return;
    if (!found.some((f) => Math.hypot(f.at.u - at.u, f.at.v - at.v) < SAME)) found.push({ at, t, s });
  };
  for (let i = 0; i < ps; i++) {
    const [p0, p1] = [chordsP[i]!, chordsP[i + 1]!];
    // Chords cross a little beyond their ends at most: what is farther than their own length is passed over.
    const reach = Math.abs(p1.u - p0.u) + Math.abs(p1.v - p0.v);
    for (let k = 0; k < qs; k++) {
      const [q0, q1] = [chordsQ[k]!, chordsQ[k + 1]!];
      const apart = Math.abs(q0.u - p0.u) + Math.abs(q0.v - p0.v);
      if (apart > 1.01 * (reach + Math.abs(q1.u - q0.u) + Math.abs(q1.v - q0.v))) continue;
      const near = chordCrossing(p0, p1, q0, q1);
      if (!near) continue;
      const exact = p.kind === 'line' && q.kind === 'line';
      const [t, s] = exact ? [near[0], near[1]] : refineCrossing(p, q, (i + near[0]) / ps, (k + near[1]) / qs);
      take(t, s);
    }
  }
  // Ends that lie on the other segment: touching, and stretches in common.
  for (const end of [0, 1]) {
    const [at, there] = [pointAt(p, end), pointAt(q, end)];
    if (holds(boxQ, at)) take(end, nearestParameter(q, at));
    if (holds(boxP, there)) take(nearestParameter(p, there), end);
  }
  return found.sort((a, b) => a.t - b.t);
}

/** The ends of the chords of a segment; a segment meets many others, so they are kept with it. */
const chordPoints = keptBy((segment: Segment): readonly PlanePoint[] => {
  const count = segment.kind === 'line' ? 1 : PIECES;
  return Array.from({ length: count + 1 }, (_, i) => pointAt(segment, i / count));
});

type Box = readonly [number, number, number, number];

/** The box around what a segment's hull is made of, and so around the segment. */
const hullBox = keptBy((s: Segment): Box => {
  const points = s.kind === 'line' ? [s.from, s.to] : s.kind === 'cubic' ? [s.from, s.out, s.into, s.to] : [s.from, s.via, s.to];
  const [us, vs] = [points.map((o) => o.u), points.map((o) => o.v)];
  return [Math.min(...us), Math.min(...vs), Math.max(...us), Math.max(...vs)];
});

const meet = (a: Box, b: Box): boolean => a[0] <= b[2] + SAME && b[0] <= a[2] + SAME && a[1] <= b[3] + SAME && b[1] <= a[3] + SAME;

const holds = ([minU, minV, maxU, maxV]: Box, { u, v }: PlanePoint): boolean => u >= minU - SAME && u <= maxU + SAME && v >= minV - SAME && v <= maxV + SAME;

function chordCrossing(p: PlanePoint, q: PlanePoint, r: PlanePoint, s: PlanePoint): readonly [number, number] | null {
  const [ax, ay, bx, by] = [q.u - p.u, q.v - p.v, s.u - r.u, s.v - r.v];
  const cross = ax * by - ay * bx;
  if (cross === 0) return null;
  const t = ((r.u - p.u) * by - (r.v - p.v) * bx) / cross;
  const w = ((r.u - p.u) * ay - (r.v - p.v) * ax) / cross;
  const slack = 1e-3;
  return t >= -slack && t <= 1 + slack && w >= -slack && w <= 1 + slack ? [t, w] : null;
}

/** The parameters at which two segments truly cross, from near ones, by Newton's method within both. */
export function refineCrossing(p: Segment, q: Segment, t0: number, s0: number): readonly [number, number] {
  let [t, s] = [t0, s0];
  for (let k = 0; k < 12; k++) {
    const [a, b] = [pointAt(p, t), pointAt(q, s)];
    const [da, db] = [tangentAt(p, t), tangentAt(q, s)];
    const [fx, fy] = [a.u - b.u, a.v - b.v];
    const det = -da.u * db.v + da.v * db.u;
    if (Math.abs(det) < 1e-15) break;
    t = clamp(t - (-fx * db.v + fy * db.u) / det);
    s = clamp(s - (da.u * fy - da.v * fx) / det);
    if (fx * fx + fy * fy < 1e-26) break;
  }
  return [t, s];
}

const clamp = (x: number): number => Math.max(0, Math.min(1, x));
