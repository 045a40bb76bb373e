import type { Mat33 } from '../math/matrix';
import type { PlanePoint } from '../math/points';
import { MAX_DASHES, MIN_DASH_MM } from '../math/tolerances';

/** The part of the sheet's plane in mm outside of which nothing is made for the eye. */
export interface SeenBox {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** Sheets around the sheet, in each direction, in which lines are still drawn in detail. */
const SHEETS_AROUND = 2;

/** What can be seen of a sheet and the work around it. @param width, height of the sheet in mm */
export function seenBox({ width, height }: { readonly width: number; readonly height: number }): SeenBox {
  const around = SHEETS_AROUND * Math.max(width, height);
  return { minX: -around, minY: -around, maxX: width + around, maxY: height + around };
}

/** An interval of a straight piece, as parameters from 0 to 1. */
interface Span {
  readonly from: number;
  readonly to: number;
}

/** A linear function of the parameter: `at + slope * t`. */
interface Linear {
  readonly at: number;
  readonly slope: number;
}

/** The part of a span on which a linear function is not negative, or null. */
function whereNotNegative(span: Span, { at, slope }: Linear): Span | null {
  const [p, q] = [at + slope * span.from, at + slope * span.to];
  if (p >= 0 && q >= 0) return span;
  if (p < 0 && q < 0) return null;
  const root = Math.max(span.from, Math.min(span.to, -at / slope));
  return p < 0 ? { from: root, to: span.to } : { from: span.from, to: root };
}

/**
 * The pieces of a chain of chords that its dashes leave, where they can be seen: what lies before the near plane or
 * off the seen part of the sheet gives none, and where dashes would be drawn shorter than can be told apart the line
 * runs unbroken. So their number is bounded by what is drawn, not by the line's length.
 * @param points corners in cells
 * @param dashes lengths of dashes and gaps in turn, in cells, not all of them 0
 * @param map homography from cells to mm of the sheet
 * @param near smallest homogeneous w that is drawn
 */
export function seenDashes(points: readonly PlanePoint[], dashes: readonly number[], map: Mat33, near: number, seen: SeenBox): PlanePoint[][] {
  const pattern = patternOf(dashes);
  const pieces: PlanePoint[][] = [];
  let done = 0;
  for (let i = 0; i + 1 < points.length; i++) {
    const [p, q] = [points[i]!, points[i + 1]!];
    const length = Math.hypot(q.u - p.u, q.v - p.v);
    if (length === 0) continue;
    for (const [from, to] of piecesOf(p, q, length, done, pattern, map, near, seen)) {
      const at = (s: number): PlanePoint => ({ u: p.u + ((q.u - p.u) * s) / length, v: p.v + ((q.v - p.v) * s) / length });
      const last = pieces.at(-1)?.at(-1);
      // A dash goes on round a corner of the chain.
      if (from === 0 && last && last.u === p.u && last.v === p.v) pieces.at(-1)!.push(at(to));
      else pieces.push([at(from), to === length ? q : at(to)]);
    }
    done += length;
  }
  return pieces;
}

interface Pattern {
  /** Where dashes begin and end in one period. */
  readonly strokes: readonly (readonly [number, number])[];
  readonly period: number;
}

function patternOf(dashes: readonly number[]): Pattern {
  const even = dashes.length % 2 === 0 ? dashes : [...dashes, ...dashes];
  const strokes: (readonly [number, number])[] = [];
  let period = 0;
  even.forEach((length, i) => {
    if (i % 2 === 0) strokes.push([period, period + length]);
    period += length;
  });
  return { strokes, period };
}

/** Stretches of one chord, as lengths from its start. @param done length of the chain before it */
function piecesOf(
  p: PlanePoint,
  q: PlanePoint,
  length: number,
  done: number,
  { strokes, period }: Pattern,
  map: Mat33,
  near: number,
  { minX, minY, maxX, maxY }: SeenBox,
): (readonly [number, number])[] {
  const row = (k: number): Linear => {
    const at = map[k]! * p.u + map[k + 1]! * p.v + map[k + 2]!;
    return { at, slope: map[k]! * (q.u - p.u) + map[k + 1]! * (q.v - p.v) };
  };
  const [x, y, w] = [row(0), row(3), row(6)];
  const less = (f: Linear, k: number): Linear => ({ at: f.at - k * w.at, slope: f.slope - k * w.slope });
  const minus = ({ at, slope }: Linear): Linear => ({ at: -at, slope: -slope });
  const limits = [{ at: w.at - near, slope: w.slope }, less(x, minX), minus(less(x, maxX)), less(y, minY), minus(less(y, maxY))];
  let shown: Span | null = { from: 0, to: 1 };
  for (const limit of limits) shown = shown && whereNotNegative(shown, limit);
  if (!shown) return [];
  // The drawn length of a period is period * pace / w^2 along the chord: long enough as long as w is small enough.
  const pace = Math.hypot(x.slope * w.at - x.at * w.slope, y.slope * w.at - y.at * w.slope) / length;
  const farthest = Math.sqrt((period * pace) / MIN_DASH_MM);
  const dashed = whereNotNegative(shown, { at: farthest - w.at, slope: -w.slope });
  const fits = dashed !== null && ((dashed.to - dashed.from) * length) / period <= MAX_DASHES;
  if (!dashed || !fits) return [[shown.from * length, shown.to * length]];
  const parts: (readonly [number, number])[] = [];
  if (dashed.from > shown.from) parts.push([shown.from * length, dashed.from * length]);
  const [start, end] = [dashed.from * length, dashed.to * length];
  for (let k = Math.floor((done + start) / period); k * period < done + end; k++) {
    for (const [from, to] of strokes) {
      const [s, e] = [Math.max(start, k * period + from - done), Math.min(end, k * period + to - done)];
      if (e > s) parts.push([s, e]);
      else if (from === to && s === e && s < end) parts.push([s, e]);
    }
  }
  if (dashed.to < shown.to) parts.push([dashed.to * length, shown.to * length]);
  return parts;
}
