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
  try {
    const subject = wound(rings, k);
    const clip = others.flatMap(({ polygon, holes = [] }) => wound([polygon, ...holes], k));
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

function scaled(flat: ArrayLike<number>, k: number): Path64 {
  const ring: Path64 = [];
  for (let i = 0; i < flat.length; i += 2) ring.push({ x: Math.round(flat[i]! * k), y: Math.round(flat[i + 1]! * k) });
  return ring;
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
