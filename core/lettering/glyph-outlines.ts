import { exactCells } from '../math/exact';
import { containsPoint } from '../math/polygon';
import type { PlanePoint } from '../math/points';
import { combineOutlines } from '../shape/combine';
import { ClipType, combineRings, FillRule } from '../shape/flat-areas';
import { nestRings } from '../shape/nest';
import { TICKS_PER_CELL } from '../math/tolerances';
import { doubleAreaTicks, outlineOfRings, type Outline, type OutlinePoint } from '../shape/outline';
import { flattenOutline } from '../shape/segments';

/** A step of a glyph's path in the font's own units, y up. */
export interface PathCommand {
  readonly command: string;
  readonly args: readonly number[];
}

/** How finely contours are followed to tell which lies in which, in cells. */
const CHORDS = 0.002;

/**
 * The outlines of a glyph by the non-zero rule, each connected area with its holes, curves as they are: contours that
 * overlap are united. A contour that crosses itself is united by chords.
 * @param place where a point of the font comes to lie, in cells
 */
export function glyphOutlines(commands: readonly PathCommand[], place: (x: number, y: number) => PlanePoint): readonly Outline[] {
  const contours = contoursOf(commands, place).flatMap(contour);
  const areas = contours.flatMap((own, i): readonly Outline[] => {
    const around = contours.filter((other, k) => k !== i && holds(other, own));
    const outside = around.reduce((sum, { turn }) => sum + turn, 0);
    if (outside !== 0) return [];
    const holes = contours.filter((other, k) => k !== i && other.turn === -own.turn && holds(own, other) && windingAround(contours, k) + other.turn === 0);
    return [outlineOfRings([own.points, ...holes.map(({ points }) => points)], true)];
  });
  return numbered(united(areas));
}

interface Contour {
  readonly points: readonly OutlinePoint[];
  readonly flat: readonly number[];
  readonly turn: 1 | -1;
}

function contour(points: readonly OutlinePoint[]): readonly Contour[] {
  const chords = flattenOutline({ points, closed: true }, CHORDS);
  const area = doubleAreaTicks(chords);
  if (area === 0) return [];
  const flat = chords.flatMap(({ u, v }) => [u, v]);
  if (!crossesItself(flat)) return [{ points, flat, turn: area > 0 ? 1 : -1 }];
  const ring = chords.map(({ u, v }) => ({ x: Math.round(u * TICKS_PER_CELL), y: Math.round(v * TICKS_PER_CELL) }));
  const parts = nestRings(combineRings(ClipType.Union, [area > 0 ? ring : ring.reverse()], [], FillRule.NonZero)).flat();
  return parts.map((part): Contour => {
    const corners = part.map(({ x, y }, i): OutlinePoint => ({ id: i + 1, u: exactCells(x / TICKS_PER_CELL), v: exactCells(y / TICKS_PER_CELL) }));
    const turns = doubleAreaTicks(corners) > 0 === area > 0 ? 1 : -1;
    return { points: corners, flat: corners.flatMap(({ u, v }) => [u, v]), turn: turns as 1 | -1 };
  });
}

/** How often the other contours wind round one. */
function windingAround(contours: readonly Contour[], index: number): number {
  const own = contours[index]!;
  return contours.reduce((sum, other, k) => (k !== index && holds(other, own) ? sum + other.turn : sum), 0);
}

/** Whether a contour lies within another: told by most of its corners, for they may touch. */
function holds(outer: Contour, inner: Contour): boolean {
  let inside = 0;
  const { flat } = inner;
  for (let i = 0; i < flat.length; i += 2) inside += containsPoint(outer.flat, flat[i]!, flat[i + 1]!) ? 1 : -1;
  return inside > 0;
}

/** Areas that overlap made one, their curves kept. */
function united(areas: readonly Outline[]): readonly Outline[] {
  const flats = areas.map(({ points }) => flattenOutline({ points, closed: true }, CHORDS).flatMap(({ u, v }) => [u, v]));
  const groups: number[][] = [];
  areas.forEach((_, i) => {
    const touched = groups.filter((group) => group.some((k) => crosses(flats[i]!, flats[k]!)));
    const merged = [i, ...touched.flat()];
    for (const group of touched) groups.splice(groups.indexOf(group), 1);
    groups.push(merged);
  });
  return groups.flatMap((group) => {
    const [first, ...others] = group.sort((p, q) => p - q).map((k) => areas[k]!);
    return others.length === 0 ? [first!] : combineOutlines('union', first!, others);
  });
}

/** Points of a letter's outlines counted on from one to the next, so that no two sides of the letter have one name. */
function numbered(outlines: readonly Outline[]): readonly Outline[] {
  return outlines.map(({ points, holes, closed }) => {
    let id = 0;
    const fresh = (ring: readonly OutlinePoint[]): readonly OutlinePoint[] => ring.map((p) => ({ ...p, id: ++id }));
    const outer = fresh(points);
    return holes ? { points: outer, closed, holes: holes.map(fresh) } : { points: outer, closed };
  });
}

function contoursOf(commands: readonly PathCommand[], place: (x: number, y: number) => PlanePoint): readonly (readonly OutlinePoint[])[] {
  const contours: OutlinePoint[][] = [];
  let [x, y] = [0, 0];
  const exact = (px: number, py: number): PlanePoint => {
    const { u, v } = place(px, py);
    return { u: exactCells(u), v: exactCells(v) };
  };
  const add = (point: Omit<OutlinePoint, 'id'>): void => void contours.at(-1)?.push({ id: contours.at(-1)!.length + 1, ...point });
  const leave = (handle: PlanePoint): void => {
    const ring = contours.at(-1);
    const last = ring?.at(-1);
    if (last) ring![ring!.length - 1] = { ...last, out: handle };
  };
  for (const { command, args } of commands) {
    const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] = args;
    if (command === 'moveTo') {
      contours.push([]);
      add(exact(a, b));
      [x, y] = [a, b];
    } else if (command === 'lineTo') {
      add(exact(a, b));
      [x, y] = [a, b];
    } else if (command === 'quadraticCurveTo') {
      // The same curve as a cubic.
      leave(exact(x + (2 / 3) * (a - x), y + (2 / 3) * (b - y)));
      add({ ...exact(c, d), into: exact(c + (2 / 3) * (a - c), d + (2 / 3) * (b - d)) });
      [x, y] = [c, d];
    } else if (command === 'bezierCurveTo') {
      leave(exact(a, b));
      add({ ...exact(e, f), into: exact(c, d) });
      [x, y] = [e, f];
    }
  }
  return contours.map(closedRing).filter((ring) => ring.length >= 2);
}

/** A ring without a last point that only comes back to the first, and without points that follow each other in one place. */
function closedRing(points: readonly OutlinePoint[]): readonly OutlinePoint[] {
  const ring: OutlinePoint[] = [];
  const same = (p: OutlinePoint, q: OutlinePoint): boolean => p.u === q.u && p.v === q.v;
  for (const point of points) {
    const last = ring.at(-1);
    if (last && same(last, point)) ring[ring.length - 1] = { ...last, ...(point.out && { out: point.out }) };
    else ring.push(point);
  }
  const [first, last] = [ring[0], ring.at(-1)];
  if (first && last && first !== last && same(first, last)) {
    ring.pop();
    ring[0] = { ...first, ...(last.into && { into: last.into }) };
  }
  return ring.map((point, i) => ({ ...point, id: i + 1 }));
}

/** Whether two closed rings of flat coordinates cross. */
function crosses(p: readonly number[], q: readonly number[]): boolean {
  for (let i = 0; i < p.length; i += 2) {
    for (let k = 0; k < q.length; k += 2) if (edgesCross(p, i, q, k)) return true;
  }
  return false;
}

function crossesItself(p: readonly number[]): boolean {
  const n = p.length;
  for (let i = 0; i < n; i += 2) {
    for (let k = i + 4; k < n; k += 2) if ((i !== 0 || k !== n - 2) && edgesCross(p, i, p, k)) return true;
  }
  return false;
}

/** Whether the edges that start at two places cross within both. */
function edgesCross(p: readonly number[], i: number, q: readonly number[], k: number): boolean {
  const [ax, ay] = [p[i]!, p[i + 1]!];
  const [bx, by] = [p[(i + 2) % p.length]!, p[(i + 3) % p.length]!];
  const [cx, cy] = [q[k]!, q[k + 1]!];
  const [dx, dy] = [q[(k + 2) % q.length]!, q[(k + 3) % q.length]!];
  if (Math.max(ax, bx) < Math.min(cx, dx) || Math.max(cx, dx) < Math.min(ax, bx)) return false;
  if (Math.max(ay, by) < Math.min(cy, dy) || Math.max(cy, dy) < Math.min(ay, by)) return false;
  const side = (x: number, y: number, s: number, t: number, u: number, v: number): number => (s - x) * (v - y) - (t - y) * (u - x);
  const [o1, o2] = [side(ax, ay, bx, by, cx, cy), side(ax, ay, bx, by, dx, dy)];
  const [o3, o4] = [side(cx, cy, dx, dy, ax, ay), side(cx, cy, dx, dy, bx, by)];
  return o1 * o2 < 0 && o3 * o4 < 0;
}
