import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';
import { IDENTITY, invertAffine } from '../math/matrix';
import type { Path64 } from '../shape/flat-areas';
import { ClipType, combineRings, FillRule } from '../shape/flat-areas';
import { flattenPath, joinPaths, mapPath, polygonPath, type Path } from '../shape/path';
import type { LineStyle } from './marks';

// Beyond its limit a mitre is cut off (SVG 2, 13.5.6), which offsets square instead: tips are added to bevels.
const JOINS = { round: JoinType.Round, miter: JoinType.Bevel, bevel: JoinType.Bevel } as const;
const CAPS = { round: EndType.Round, butt: EndType.Butt, square: EndType.Square } as const;

/** Largest whole number that coordinates are brought to. */
const LARGEST = 2 ** 29;
/** Dashes whose areas are united at once. */
const TOGETHER = 64;
/** Most dashes of one path: more cannot be told apart. */
const MOST_DASHES = 20_000;

/**
 * The area that a line covers along a path, in the path's own units, by the rule of windings: what is mapped onto a
 * receding or a round surface in place of the line, whose width is then another everywhere along it. Joins, caps and
 * dashes are the pen's. Offsets by Clipper's (Chen & McMains 2005 for the union).
 * @param tolerance how far chords may stray from curves, in the path's units
 */
export function strokeArea(path: Path, { width, cap, join, miterLimit, dashes, pen }: LineStyle, tolerance: number): Path {
  const back = invertAffine(pen);
  if (!back) return { verbs: '', coords: [] };
  const scale = Math.sqrt(Math.abs(pen[0] * pen[3] - pen[1] * pen[2]));
  const own = pen === IDENTITY ? path : mapPath(path, back);
  const fine = tolerance / scale;
  const kinds = own.verbs.match(/M[LC]*Z?/g) ?? [];
  const lines = flattenPath(own, fine).flatMap((flat, i): readonly Line[] => {
    const closed = kinds[i]?.endsWith('Z') ?? false;
    const points = distinct(flat, closed);
    return dashes.length === 0
      ? [{ points, closed }]
      : dashed(closed ? [...points, points[0]!] : points, dashes, closed).map((piece) => ({ points: piece, closed: false }));
  });
  const largest = lines.reduce((most, { points }) => points.reduce((sum, [x, y]) => Math.max(sum, Math.abs(x), Math.abs(y)), most), width);
  const k = LARGEST / (2 * largest);
  const areas: Path64[] = [];
  for (const closed of [true, false]) {
    const some = lines.filter((line) => line.closed === closed);
    for (let i = 0; i < some.length; i += TOGETHER) {
      const offset = new ClipperOffset(miterLimit, Math.min(fine * k, (width * k) / 8));
      const whole = some.slice(i, i + TOGETHER).map(({ points }) => points.map(([x, y]) => ({ x: Math.round(x * k), y: Math.round(y * k) })));
      const out: Path64[] = [];
      offset.addPaths(whole, JOINS[join], closed ? EndType.Joined : CAPS[cap]);
      offset.execute((width * k) / 2, out);
      areas.push(...out);
      if (join === 'miter')
        for (const line of some.slice(i, i + TOGETHER))
          areas.push(...tipsOf(line, width / 2, miterLimit).map((tip) => tip.map(([x, y]) => ({ x: Math.round(x * k), y: Math.round(y * k) }))));
    }
  }
  const united = areas.length > 1 ? combineRings(ClipType.Union, areas, [], FillRule.NonZero) : areas;
  const flat = joinPaths(united.map((ring) => polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
  return pen === IDENTITY ? flat : mapPath(flat, pen);
}

/** Turns in radians below which a corner is one of a curve's chords. */
const CHORD = 0.05;

/** The tips of a line's corners as far as they are no longer than the limit: what a mitre has more than a bevel. */
function tipsOf({ points, closed }: Line, half: number, limit: number): readonly (readonly Point[])[] {
  const n = points.length;
  return points.flatMap((v, i): readonly (readonly Point[])[] => {
    if (!closed && (i === 0 || i === n - 1)) return [];
    const [p, q] = [points[(i + n - 1) % n]!, points[(i + 1) % n]!];
    const [one, two] = [unit(p, v), unit(v, q)];
    const [cross, dot] = [one[0] * two[1] - one[1] * two[0], one[0] * two[0] + one[1] * two[1]];
    // A mitre is as many widths long as one over the cosine of half the turn.
    if (Math.abs(Math.atan2(cross, dot)) < CHORD || Math.sqrt(2 / Math.max(1e-12, 1 + dot)) > limit) return [];
    const side = cross > 0 ? half : -half;
    const [a, b]: readonly [Point, Point] = [[v[0] + one[1] * side, v[1] - one[0] * side], [v[0] + two[1] * side, v[1] - two[0] * side]]; // prettier-ignore
    const tip: Point = [v[0] + ((one[1] + two[1]) * side) / (1 + dot), v[1] - ((one[0] + two[0]) * side) / (1 + dot)];
    return [cross > 0 ? [v, a, tip, b] : [v, b, tip, a]];
  });
}

function unit([x, y]: Point, [p, q]: Point): Point {
  const length = Math.hypot(p - x, q - y) || 1;
  return [(p - x) / length, (q - y) / length];
}

type Point = readonly [number, number];

interface Line {
  readonly points: readonly Point[];
  readonly closed: boolean;
}

/** The corners of a line without those that are one with the one before. */
function distinct(flat: readonly number[], closed: boolean): readonly Point[] {
  const points: Point[] = [];
  for (let i = 0; i < flat.length; i += 2) {
    const [x, y] = [flat[i]!, flat[i + 1]!];
    const last = points.at(-1);
    if (!last || last[0] !== x || last[1] !== y) points.push([x, y]);
  }
  const [first, last] = [points[0]!, points.at(-1)!];
  return closed && points.length > 1 && first[0] === last[0] && first[1] === last[1] ? points.slice(0, -1) : points;
}

/** The pieces that dashes leave of a line; the whole of it where they would be too many. */
function dashed(points: readonly Point[], lengths: readonly number[], closed: boolean): readonly (readonly Point[])[] {
  const pattern = lengths.length % 2 === 0 ? lengths : [...lengths, ...lengths];
  const period = pattern.reduce((sum, length) => sum + length, 0);
  const whole = points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1]), 0);
  if (!(period > 0) || (whole / period) * (pattern.length / 2) > MOST_DASHES) return [points];
  const pieces: Point[][] = [];
  let [index, left] = [0, pattern[0]!];
  let open: Point[] | null = [points[0]!];
  for (let i = 1; i < points.length; i++) {
    const [p, q] = [points[i - 1]!, points[i]!];
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    let done = 0;
    while (length - done > left) {
      done += left;
      const at: Point = [p[0] + ((q[0] - p[0]) * done) / length, p[1] + ((q[1] - p[1]) * done) / length];
      if (open) {
        open.push(at);
        pieces.push(open);
        open = null;
      } else open = [at];
      index = (index + 1) % pattern.length;
      left = pattern[index]!;
    }
    left -= length - done;
    open?.push(q);
  }
  // Round a ring the last dash goes on in the first.
  const [first] = pieces;
  if (closed && open && first) pieces[0] = [...open, ...first.slice(1)];
  else if (open && open.length > 1) pieces.push(open);
  return pieces;
}
