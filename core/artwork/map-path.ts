import { MAPPED_CURVES } from '../math/tolerances';
import { COORDS_OF, type Path } from '../shape/path';

/** A place of the sheet in mm. */
export type Spot = readonly [x: number, y: number];

/** A smooth map from the flat plane of artwork to the sheet; null where it leads nowhere. */
export type FlatMap = (x: number, y: number) => Spot | null;

/** Most halvings of a piece. */
const MOST_HALVINGS = 12;
/** Step in parts of a piece by which its direction on the sheet is measured. */
const STEP = 1e-4;
/** Of the tolerance: how far a piece may stray from its chord to be a straight line. */
const STRAIGHT = 0.25;

/**
 * A path under a smooth map: straight lines and curves become cubics that stray from their true images by no more than a
 * tolerance in mm of the sheet, and lines where those are straight. Where the map leads nowhere the path ends before.
 */
export function mappedPath({ verbs, coords }: Path, map: FlatMap, tolerance = MAPPED_CURVES): Path {
  let out = '';
  const places: number[] = [];
  let at = 0;
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const piece = (curve: Curve): void => {
    for (const [verb, ...c] of mappedPiece(curve, map, tolerance)) {
      out += verb;
      places.push(...c);
    }
  };
  for (const verb of verbs) {
    const size = COORDS_OF[verb] ?? 0;
    const c = coords.slice(at, at + size);
    if (verb === 'M') {
      const spot = map(c[0]!, c[1]!);
      if (spot) {
        out += 'M';
        places.push(...spot);
      }
      [startX, startY] = [c[0]!, c[1]!];
    } else if (verb === 'L') piece(lineOf(x, y, c[0]!, c[1]!));
    else if (verb === 'C') piece(cubicOf([x, y, ...c]));
    else {
      // What closes a ring is straight on the flat, not on the sheet.
      if (x !== startX || y !== startY) piece(lineOf(x, y, startX, startY));
      out += 'Z';
    }
    if (size > 0) [x, y] = [c[size - 2]!, c[size - 1]!];
    else [x, y] = [startX, startY];
    at += size;
  }
  return { verbs: out, coords: places };
}

/** A curve of the flat plane by its parameter from 0 to 1. */
export type Curve = (t: number) => Spot;

const lineOf =
  (x0: number, y0: number, x1: number, y1: number): Curve =>
  (t) => [x0 + (x1 - x0) * t, y0 + (y1 - y0) * t];

/** A cubic by the coordinates of its four points. */
export const cubicOf =
  (c: readonly number[]): Curve =>
  (t) => {
    const s = 1 - t;
    const [p, q, r, w] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    return [p * c[0]! + q * c[2]! + r * c[4]! + w * c[6]!, p * c[1]! + q * c[3]! + r * c[5]! + w * c[7]!];
  };

type Piece = readonly ['L', number, number] | readonly ['C', number, number, number, number, number, number];

/** One piece of a curve under a map, as the verbs and coordinates that follow where it begins. */
export function mappedPiece(curve: Curve, map: FlatMap, tolerance = MAPPED_CURVES): readonly Piece[] {
  const on = (t: number): Spot | null => map(...curve(t));
  const pieces: Piece[] = [];
  const halve = (t0: number, p0: Spot, t1: number, p1: Spot, halvings: number): void => {
    const span = t1 - t0;
    const step = span * STEP;
    const [d0, d1] = [slope(on, t0, step, p0, 1), slope(on, t1, step, p1, -1)];
    const [q, r]: readonly [Spot, Spot] = [[p0[0] + (d0[0] * span) / 3, p0[1] + (d0[1] * span) / 3], [p1[0] - (d1[0] * span) / 3, p1[1] - (d1[1] * span) / 3]]; // prettier-ignore
    const inside = [0.25, 0.5, 0.75].map((t) => ({ t, spot: on(t0 + span * t) }));
    const missed = inside.some(({ t, spot }) => !spot || off(spot, cubicAt([p0, q, r, p1], t)) > tolerance);
    if (missed && halvings < MOST_HALVINGS) {
      const middle = (t0 + t1) / 2;
      const spot = on(middle);
      if (spot) {
        halve(t0, p0, middle, spot, halvings + 1);
        halve(middle, spot, t1, p1, halvings + 1);
        return;
      }
    }
    const straight = [q, r, ...inside.flatMap(({ spot }) => (spot ? [spot] : []))].every((spot) => aside(spot, p0, p1) <= tolerance * STRAIGHT);
    pieces.push(straight ? ['L', ...p1] : ['C', ...q, ...r, ...p1]);
  };
  const [from, to] = [on(0), on(1)];
  if (from && to) halve(0, from, 1, to, 0);
  return pieces;
}

/** The direction and speed of a curve on the sheet at one of its ends. */
function slope(on: (t: number) => Spot | null, t: number, step: number, here: Spot, side: 1 | -1): Spot {
  const [one, two] = [on(t + side * step), on(t + 2 * side * step)];
  if (!one || !two) return [0, 0];
  // The second-order difference to one side.
  const rate = (i: 0 | 1): number => (side * (4 * one[i] - two[i] - 3 * here[i])) / (2 * step);
  return [rate(0), rate(1)];
}

const off = (p: Spot, q: Spot): number => Math.hypot(p[0] - q[0], p[1] - q[1]);

/** How far a place lies beside a chord, or beyond its ends. */
function aside(p: Spot, from: Spot, to: Spot): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy);
  if (length === 0) return off(p, from);
  const along = ((p[0] - from[0]) * dx + (p[1] - from[1]) * dy) / length;
  return Math.hypot(Math.abs((p[0] - from[0]) * dy - (p[1] - from[1]) * dx) / length, Math.max(0, -along, along - length));
}

function cubicAt([p, q, r, w]: readonly [Spot, Spot, Spot, Spot], t: number): Spot {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [a * p[0] + b * q[0] + c * r[0] + d * w[0], a * p[1] + b * q[1] + c * r[1] + d * w[1]];
}
