import { isConvex } from '../math/polygon';
import { ClipType, combineRings, cutLines, FillRule, ringArea, ringsArea, type Path64 } from '../shape/flat-areas';
import { nestRings } from '../shape/nest';
import { flattenPath, joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import type { Area, DrawnSurface } from './drawn-body';
import { restoreCurves, traceCurves } from './restore-curves';
import { CORNERS } from '../math/tolerances';

/** What is left of an area or a line, or the whole of it where cutting failed. */
export interface Cut {
  /** What is left as corners, for pointing. */
  readonly parts: readonly Area[];
  /** What is left as it is painted: with the curves that it was bounded by. */
  readonly path: Path;
  /** Nothing could be cut: it is shown whole, in front of what should hide it. */
  readonly failed: boolean;
}

/**
 * Largest whole number that coordinates are brought to. Products of two differences then stay below 2^53, so every
 * sign in the combining is exact.
 */
const LARGEST = 2 ** 25;
/** Areas beyond which nothing is cut: it would take seconds. */
const MOST_AREAS = 80_000;
/** Areas beyond which they have to have room, and the least whole places that each has then. */
const [MANY_AREAS, PLACES_AN_AREA] = [64, 64];

/** What is left of a surface, or of a line, without some areas of the sheet. */
export function cutSurface({ path, wire }: DrawnSurface, others: readonly Area[]): Cut {
  return wire ? cutOpenPath(path, others) : cutPath(path, others);
}

/**
 * What is left of a line without some areas, as lines; a closed one is cut like one that comes back to its start. On
 * whole numbers, as areas are. Never throws.
 */
export function cutOpenPath(path: Path, others: readonly Area[]): Cut {
  const pieces = path.verbs.match(/M[LC]*Z?/g) ?? [];
  const lines = flattenPath(path, CORNERS).map((line, i) => (pieces[i]?.endsWith('Z') ? [...line, line[0]!, line[1]!] : line));
  const whole: Cut = { parts: lines.map((polygon) => ({ polygon })), path, failed: true };
  const k = scaleFor(lines, others);
  if (k === null) return whole;
  try {
    const left = cutLines(
      lines.map((line) => scaled(line, k)),
      others.flatMap(({ polygon, holes = [] }) => wound([polygon, ...holes], k)),
    );
    if (!left) return whole;
    const traced = path.verbs.includes('C') ? traceCurves(path, CORNERS, k) : null;
    const flat = left.map((line) => line.flatMap(({ x, y }) => [x / k, y / k]));
    const paths = left.map((line, i) => (traced ? restoreCurves(line, false, traced, k) : polylinePath(flat[i]!)));
    return { parts: flat.map((polygon) => ({ polygon })), path: joinPaths(paths), failed: false };
  } catch {
    return whole;
  }
}

/**
 * What is left of the lines of a path, closed ones too, outside of rings on whole numbers by the rule of windings; the
 * whole of it where it cannot be cut.
 * @param k whole numbers to a unit of the path
 */
export function cutLinesBy(path: Path, rings: readonly Path64[], k: number): Path {
  const pieces = path.verbs.match(/M[LC]*Z?/g) ?? [];
  const lines = flattenPath(path, CORNERS).map((line, i) => (pieces[i]?.endsWith('Z') ? [...line, line[0]!, line[1]!] : line));
  const left = cutLines(
    lines.map((line) => scaled(line, k)),
    rings,
  );
  if (!left) return path;
  const traced = path.verbs.includes('C') ? traceCurves(path, CORNERS, k) : null;
  return joinPaths(left.map((line) => (traced ? restoreCurves(line, false, traced, k) : polylinePath(line.flatMap(({ x, y }) => [x / k, y / k])))));
}

/**
 * What a path bounds (by the even-odd rule) without some areas, combined on whole numbers (Clipper's Vatti sweep), so
 * that edges which touch or coincide are no special case; curves that are left come back as curves. Areas check the
 * result: what is left must be the path less what the others share with it, up to what rounding explains. Never throws.
 * All areas are taken away at once, so the cost is that of one sweep over all their edges, twice for the check.
 */
export function cutPath(path: Path, others: readonly Area[]): Cut {
  const rings = flattenPath(path, CORNERS).filter((ring) => ring.length >= 6);
  const whole: Cut = { parts: areasOfRings(rings), path, failed: true };
  const k = scaleFor(rings, others);
  if (k === null) return whole;
  // Things so far away that whole numbers hardly tell them apart cannot be swept.
  if (others.length > MOST_AREAS || (others.length > MANY_AREAS && placesIn(others, k) < others.length * PLACES_AN_AREA)) return whole;
  try {
    const subject = wound(rings, k);
    const clip = together(others.map(({ polygon, holes = [] }) => wound([polygon, ...holes], k)));
    const left = combineRings(ClipType.Difference, subject, clip, FillRule.NonZero);
    const common = combineRings(ClipType.Intersection, subject, clip, FillRule.NonZero);
    const allowed = 4 * [...subject, ...clip].reduce((sum, ring) => sum + lengthOf(ring), 16);
    if (Math.abs(ringsArea(subject) - ringsArea(common) - ringsArea(left)) > allowed) return whole;
    const traced = path.verbs.includes('C') ? traceCurves(path, CORNERS, k) : null;
    const pieces = left.map((ring) => (traced ? restoreCurves(ring, true, traced, k) : polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
    return { parts: nestRings(left).map((part) => areaOf(part, k)), path: joinPaths(pieces), failed: false };
  } catch {
    return whole;
  }
}

/** How many areas are brought together at once: a sweep takes longer the more edges it meets at one height. */
const AT_ONCE = 32;

/**
 * Areas as rings. Many are first brought together in groups, which are brought together again: round solids that cut
 * through each other hide each other in tens of thousands of pieces, of which neighbours have edges in common.
 */
function together(areas: readonly (readonly Path64[])[]): Path64[] {
  let parts = areas;
  while (parts.length > AT_ONCE * 4) {
    const groups: Path64[][] = [];
    for (let i = 0; i < parts.length; i += AT_ONCE) groups.push(combineRings(ClipType.Union, parts.slice(i, i + AT_ONCE).flat(), [], FillRule.NonZero));
    parts = groups;
  }
  return parts.flat();
}

/** What a path has in common with some areas. */
export interface Common {
  /** As corners. */
  readonly parts: readonly Area[];
  /** With the curves that it is bounded by, the path's own and those of the areas; by the even-odd rule. */
  readonly path: Path;
}

/** An area with the path that it was made of, so that its curves come back. */
export interface CurvedArea {
  readonly areas: readonly Area[];
  /** Flattened as `flattenPath` does with `CORNERS`; null for what has no curves. */
  readonly path: Path | null;
}

/** By how many times the size of what they are compared with areas may be larger before they are clipped to it. */
const MUCH_LARGER = 4;

/**
 * What a path bounds (by the even-odd rule) within some areas taken together, on whole numbers as in `cutPath`. Areas
 * that are much larger are clipped to the path's box first, so that the whole numbers are fine enough for it.
 */
export function commonPart(path: Path, others: readonly CurvedArea[]): Common {
  const rings = flattenPath(path, CORNERS).filter((ring) => ring.length >= 6);
  const box = boxOfRings(rings);
  const near = others.flatMap(({ areas }) => areas).flatMap((area) => clippedArea(area, box));
  const k = scaleFor(rings, near);
  if (k === null || near.length === 0) return { parts: [], path: joinPaths([]) };
  const subject = wound(rings, k);
  const clip = near.flatMap(({ polygon, holes = [] }) => wound([polygon, ...holes], k));
  const common = combineRings(ClipType.Intersection, subject, clip, FillRule.NonZero);
  const curved = [path, ...others.flatMap((other) => other.path ?? [])].filter(({ verbs }) => verbs.includes('C'));
  const traced = curved.length > 0 ? traceCurves(joinPaths(curved), CORNERS, k) : null;
  const pieces = common.map((ring) => (traced ? restoreCurves(ring, true, traced, k) : polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
  return { parts: nestRings(common).map((part) => areaOf(part, k)), path: joinPaths(pieces) };
}

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

/** The box of some rings, with room of its own size on each side. */
function boxOfRings(rings: readonly ArrayLike<number>[]): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i += 2) {
      minX = Math.min(minX, ring[i]!);
      maxX = Math.max(maxX, ring[i]!);
      minY = Math.min(minY, ring[i + 1]!);
      maxY = Math.max(maxY, ring[i + 1]!);
    }
  }
  const [x, y] = [(maxX - minX) / 2, (maxY - minY) / 2];
  return [minX - x, minY - y, maxX + x, maxY + y];
}

/** An area as far as it lies in a box, where it is much larger than that; none where it lies beside it. */
function clippedArea(area: Area, box: Box): readonly Area[] {
  const own = boxOfRings([area.polygon]);
  const room = MUCH_LARGER * Math.max(box[2] - box[0], box[3] - box[1]);
  const beyond = own[0] < box[0] - room || own[1] < box[1] - room || own[2] > box[2] + room || own[3] > box[3] + room;
  if (!beyond) return [area];
  const polygon = clippedRing(area.polygon, box);
  const holes = (area.holes ?? []).map((hole) => clippedRing(hole, box)).filter((hole) => hole.length >= 6);
  return polygon.length < 6 ? [] : [holes.length > 0 ? { polygon, holes } : { polygon }];
}

/** A ring clipped to a box, edge by edge (Sutherland & Hodgman 1974); what it leaves along the box bounds nothing. */
function clippedRing(ring: ArrayLike<number>, box: Box): readonly number[] {
  let kept = Array.from(ring);
  for (let side = 0; side < 4; side++) {
    const [axis, sign, limit] = [side % 2, side < 2 ? 1 : -1, box[side]!];
    const room = (i: number): number => sign * (kept[i + axis]! - limit);
    const next: number[] = [];
    for (let i = 0, before = kept.length - 2; i < kept.length; before = i, i += 2) {
      const [d, e] = [room(before), room(i)];
      if (d >= 0 !== e >= 0) {
        const t = d / (d - e);
        next.push(kept[before]! + t * (kept[i]! - kept[before]!), kept[before + 1]! + t * (kept[i + 1]! - kept[before + 1]!));
      }
      if (e >= 0) next.push(kept[i]!, kept[i + 1]!);
    }
    kept = next;
  }
  return kept;
}

/**
 * Rings on whole numbers that wind once round what they bound by the even-odd rule, so that several such areas can be
 * taken together by counting windings: what two of them share is then no hole.
 */
function wound(rings: readonly ArrayLike<number>[], k: number): Path64[] {
  const [only] = rings;
  if (rings.length === 1 && isConvex(only!)) {
    const ring = scaled(only!, k);
    return [ringArea(ring) < 0 ? ring.reverse() : ring];
  }
  return combineRings(
    ClipType.Union,
    rings.map((ring) => scaled(ring, k)),
    [],
    FillRule.EvenOdd,
  );
}

function areasOfRings(rings: readonly number[][]): readonly Area[] {
  const [polygon, ...holes] = rings;
  return polygon ? [holes.length > 0 ? { polygon, holes } : { polygon }] : [];
}

function scaleFor(rings: readonly number[][], others: readonly Area[]): number | null {
  let largest = 1;
  const look = (ring: ArrayLike<number>): void => {
    for (let i = 0; i < ring.length; i++) largest = Math.max(largest, Math.abs(ring[i]!));
  };
  rings.forEach(look);
  for (const { polygon, holes = [] } of others) [polygon, ...holes].forEach(look);
  return Number.isFinite(largest) ? 2 ** Math.floor(Math.log2(LARGEST / largest)) : null;
}

/** On whole numbers; corners that come to lie on the one before are left out, for sweeps take time for each. */
function scaled(flat: ArrayLike<number>, k: number): Path64 {
  const ring: Path64 = [];
  for (let i = 0; i < flat.length; i += 2) {
    const [x, y, last] = [Math.round(flat[i]! * k), Math.round(flat[i + 1]! * k), ring[ring.length - 1]];
    if (!last || last.x !== x || last.y !== y) ring.push({ x, y });
  }
  return ring;
}

/** How many whole places the box of areas has. */
function placesIn(areas: readonly Area[], k: number): number {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { polygon } of areas)
    for (let i = 0; i < polygon.length; i += 2)
      [minX, minY, maxX, maxY] = [Math.min(minX, polygon[i]!), Math.min(minY, polygon[i + 1]!), Math.max(maxX, polygon[i]!), Math.max(maxY, polygon[i + 1]!)];
  return ((maxX - minX) * k + 1) * ((maxY - minY) * k + 1);
}

function areaOf([outer, ...holes]: readonly Path64[], k: number): Area {
  const flat = (ring: Path64): number[] => ring.flatMap(({ x, y }) => [x / k, y / k]);
  return holes.length > 0 ? { polygon: flat(outer!), holes: holes.map(flat) } : { polygon: flat(outer!) };
}

function lengthOf(ring: Path64): number {
  return ring.reduce((sum, p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return sum + Math.hypot(q.x - p.x, q.y - p.y);
  }, 0);
}
