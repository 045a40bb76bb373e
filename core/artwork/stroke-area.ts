import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';
import { IDENTITY, invertAffine } from '../math/matrix';
import type { Path64 } from '../shape/flat-areas';
import { ClipType, combineRings, FillRule } from '../shape/flat-areas';
import { COORDS_OF, cubicPoint, flattenPath, joinPaths, mapPath, polygonPath, splitPath, type Path } from '../shape/path';
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
  const lines = splitPath(own).flatMap((piece): readonly Line[] => {
    const closed = piece.verbs.endsWith('Z');
    const points = distinct(pointsOf(piece, fine), closed);
    return dashes.length === 0
      ? [{ points, closed }]
      : dashed(closed ? [...points, points[0]!] : points, dashes, closed).map((piece) => ({ points: piece, closed: false }));
  });
  const largest = lines.reduce((most, { points }) => points.reduce((sum, { x, y }) => Math.max(sum, Math.abs(x), Math.abs(y)), most), width);
  const k = LARGEST / (2 * largest);
  const whole = (points: readonly Point[]): Path64 => points.map(({ x, y }) => ({ x: Math.round(x * k), y: Math.round(y * k) }));
  const areas: Path64[] = [];
  for (const closed of [true, false]) {
    const some = lines.filter((line) => line.closed === closed);
    for (let i = 0; i < some.length; i += TOGETHER) {
      const offset = new ClipperOffset(miterLimit, Math.min(fine * k, (width * k) / 8));
      const out: Path64[] = [];
      offset.addPaths(
        some.slice(i, i + TOGETHER).map(({ points }) => whole(points)),
        JOINS[join],
        closed ? EndType.Joined : CAPS[cap],
      );
      offset.execute((width * k) / 2, out);
      areas.push(...out);
    }
    for (const line of some) areas.push(...[...(join === 'miter' ? tipsOf(line, width / 2, miterLimit) : []), ...fansOf(line, width / 2, fine)].map(whole));
  }
  const united = areas.length > 1 ? combineRings(ClipType.Union, areas, [], FillRule.NonZero) : areas;
  const flat = joinPaths(united.map((ring) => polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
  return pen === IDENTITY ? flat : mapPath(flat, pen);
}

/** Where a line turns: the place, the ways there and on, and the sine and cosine of the turn. */
interface Turn {
  readonly at: Point;
  readonly ways: readonly [Point, Point];
  readonly cross: number;
  readonly dot: number;
}

function turnsOf({ points, closed }: Line, corners: boolean): readonly Turn[] {
  const n = points.length;
  return points.flatMap((at, i): readonly Turn[] => {
    if (at.corner !== corners || (!closed && (i === 0 || i === n - 1))) return [];
    const [one, two] = [unit(points[(i + n - 1) % n]!, at), unit(at, points[(i + 1) % n]!)];
    return [{ at, ways: [one, two], cross: one.x * two.y - one.y * two.x, dot: one.x * two.x + one.y * two.y }];
  });
}

/** The tips of a line's corners as far as they are no longer than the limit: what a mitre has more than a bevel. */
function tipsOf(line: Line, half: number, limit: number): readonly (readonly Point[])[] {
  return turnsOf(line, true).flatMap(({ at, ways: [one, two], cross, dot }): readonly (readonly Point[])[] => {
    // A mitre is as many widths long as one over the cosine of half the turn.
    if (Math.sqrt(2 / Math.max(1e-12, 1 + dot)) > limit) return [];
    const side = cross > 0 ? half : -half;
    const [a, b] = [one, two].map(({ x, y }): Point => ({ x: at.x + y * side, y: at.y - x * side })) as [Point, Point];
    const tip = { x: at.x + ((one.y + two.y) * side) / (1 + dot), y: at.y - ((one.x + two.x) * side) / (1 + dot) };
    return [cross > 0 ? [at, a, tip, b] : [at, b, tip, a]];
  });
}

/** What the pen sweeps on both sides where a curve turns so sharply that its chords make a corner of it. */
function fansOf(line: Line, half: number, fine: number): readonly (readonly Point[])[] {
  return turnsOf(line, false).flatMap(({ at, ways: [one], cross, dot }): readonly (readonly Point[])[] => {
    const turn = Math.atan2(cross, dot);
    // What a bevel leaves open there is less than chords may stray.
    if (half * (1 - Math.cos(turn / 2)) <= fine) return [];
    const count = Math.ceil(Math.abs(turn) / (2 * Math.acos(Math.max(0.9, 1 - fine / half))));
    return [half, -half].map((side) => {
      const arc = Array.from({ length: count + 1 }, (_, i): Point => {
        const [cos, sin] = [Math.cos((turn * i) / count), Math.sin((turn * i) / count)];
        const [x, y] = [one.x * cos - one.y * sin, one.x * sin + one.y * cos];
        return { x: at.x + y * side, y: at.y - x * side };
      });
      return turn > 0 ? [at, ...arc] : [at, ...arc.reverse()];
    });
  });
}

function unit(from: Point, to: Point): Point {
  const length = distance(from, to) || 1;
  return { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
}

const distance = (p: Point, q: Point): number => Math.hypot(q.x - p.x, q.y - p.y);

interface Point {
  readonly x: number;
  readonly y: number;
}

/** A place of a line: a corner of its path, or one of a curve's chords. */
interface LinePoint extends Point {
  readonly corner: boolean;
}

interface Line {
  readonly points: readonly LinePoint[];
  readonly closed: boolean;
}

/** The part of a curve's first and last chords that shows the way at its ends. */
const NEAR = 0.05;

/** The corners of a path of one piece, and of the chords of its curves. */
function pointsOf({ verbs, coords }: Path, tolerance: number): readonly LinePoint[] {
  const points: LinePoint[] = [{ x: coords[0]!, y: coords[1]!, corner: true }];
  let at = 2;
  for (const verb of verbs.slice(1)) {
    const size = COORDS_OF[verb]!;
    if (size === 0) continue;
    const own = coords.slice(at - 2, at + size);
    const flat = flattenPath({ verbs: `M${verb}`, coords: own }, tolerance)[0]!;
    const chords = flat.length / 2 - 1;
    // Mitres and caps follow the way at an end, which a curve's first and last chords are only near: they are made short.
    const near = (t: number): void => void (verb === 'C' && points.push({ ...cubicPoint(own, t), corner: false }));
    near(NEAR / chords);
    for (let i = 2; i < flat.length - 2; i += 2) points.push({ x: flat[i]!, y: flat[i + 1]!, corner: false });
    near(1 - NEAR / chords);
    points.push({ x: own.at(-2)!, y: own.at(-1)!, corner: true });
    at += size;
  }
  return points;
}

/** The places of a line without those that are one with the one before. */
function distinct(all: readonly LinePoint[], closed: boolean): readonly LinePoint[] {
  const points: LinePoint[] = [];
  for (const point of all) {
    const last = points.at(-1);
    if (last?.x !== point.x || last.y !== point.y) points.push(point);
    else if (point.corner) points[points.length - 1] = point;
  }
  const [first, last] = [points[0]!, points.at(-1)!];
  return closed && points.length > 1 && first.x === last.x && first.y === last.y ? points.slice(0, -1) : points;
}

/** The pieces that dashes leave of a line; the whole of it where they would be too many. */
function dashed(points: readonly LinePoint[], lengths: readonly number[], closed: boolean): readonly (readonly LinePoint[])[] {
  const pattern = lengths.length % 2 === 0 ? lengths : [...lengths, ...lengths];
  const period = pattern.reduce((sum, length) => sum + length, 0);
  const whole = points.slice(1).reduce((sum, p, i) => sum + distance(p, points[i]!), 0);
  if (!(period > 0) || (whole / period) * (pattern.length / 2) > MOST_DASHES) return [points];
  const pieces: LinePoint[][] = [];
  let [index, left] = [0, pattern[0]!];
  let open: LinePoint[] | null = [points[0]!];
  for (let i = 1; i < points.length; i++) {
    const [p, q] = [points[i - 1]!, points[i]!];
    const length = distance(p, q);
    let done = 0;
    while (length - done > left) {
      done += left;
      const at: LinePoint = { x: p.x + ((q.x - p.x) * done) / length, y: p.y + ((q.y - p.y) * done) / length, corner: false };
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
