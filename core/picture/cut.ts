import { Clipper, ClipType, FillRule, PolyTree64, type Path64, type PolyPath64 } from 'clipper2-ts';
import { flattenPath, joinPaths, polygonPath, type Path } from '../shape/path';
import type { Area } from '../visibility/drawn-body';
import { restoreCurves, traceCurves } from './restore-curves';

/** What is left of an area, or the whole of it where cutting failed. */
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

/** Distance in mm between a curve and the chords that it is cut as. */
const CHORDS = 0.004;

/**
 * What a path bounds (by the even-odd rule) without some areas, combined on whole numbers (Clipper's Vatti sweep), so
 * that edges which touch or coincide are no special case; curves that are left come back as curves. Areas check the
 * result: what is left must be the path less what the others share with it, up to what rounding explains. Never throws.
 */
export function cutPath(path: Path, others: readonly Area[]): Cut {
  const rings = flattenPath(path, CHORDS).filter((ring) => ring.length >= 6);
  const whole: Cut = { parts: areasOfRings(rings), path, failed: true };
  const k = scaleFor(rings, others);
  if (k === null) return whole;
  const [subject, clip] = [rings.map((ring) => scaled(ring, k)), others.map((other) => [other.polygon, ...(other.holes ?? [])].map((ring) => scaled(ring, k)))];
  try {
    // Others may overlap each other: they are united first, so that even-odd cannot leave holes between them.
    const united = clip.length > 1 ? clip.reduce(unite, []) : (clip[0] ?? []);
    const tree = new PolyTree64();
    Clipper.booleanOpWithPolyTree(ClipType.Difference, subject, united, tree, FillRule.EvenOdd);
    const common = Clipper.booleanOp(ClipType.Intersection, subject, united, FillRule.EvenOdd);
    const left = pathsOf(tree);
    const own = Clipper.areaPaths(Clipper.booleanOp(ClipType.Union, subject, [], FillRule.EvenOdd));
    const allowed = 4 * [...subject, ...united].reduce((sum, ring) => sum + lengthOf(ring), 16);
    if (Math.abs(own - Clipper.areaPaths(common) - Clipper.areaPaths(left)) > allowed) return whole;
    const traced = path.verbs.includes('C') ? traceCurves(path, CHORDS, k) : null;
    const pieces = left.map((ring) => (traced ? restoreCurves(ring, traced, k) : polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
    return { parts: areasOf(tree, k), path: joinPaths(pieces), failed: false };
  } catch {
    return whole;
  }
}

function areasOfRings(rings: readonly number[][]): readonly Area[] {
  const [polygon, ...holes] = rings;
  return polygon ? [holes.length > 0 ? { polygon, holes } : { polygon }] : [];
}

const unite = (p: Path64[], q: Path64[]): Path64[] => Clipper.booleanOp(ClipType.Union, p, q, FillRule.EvenOdd);

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

const children = (node: PolyPath64): readonly PolyPath64[] => Array.from({ length: node.count }, (_, i) => node.child(i));

function pathsOf(node: PolyPath64): Path64[] {
  return children(node).flatMap((child) => [...(child.poly ? [child.poly] : []), ...pathsOf(child)]);
}

function areasOf(node: PolyPath64, k: number): Area[] {
  const flat = (ring: Path64): number[] => ring.flatMap(({ x, y }) => [x / k, y / k]);
  return children(node).flatMap((outer): Area[] => {
    const holes = children(outer);
    const inner = holes.flatMap((hole) => areasOf(hole, k));
    if (!outer.poly) return inner;
    const left = holes.flatMap((hole) => (hole.poly ? [flat(hole.poly)] : []));
    return [left.length > 0 ? { polygon: flat(outer.poly), holes: left } : { polygon: flat(outer.poly) }, ...inner];
  });
}

function lengthOf(ring: Path64): number {
  return ring.reduce((sum, p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return sum + Math.hypot(q.x - p.x, q.y - p.y);
  }, 0);
}
