import { Clipper, ClipType, FillRule, PolyTree64, type Path64, type PolyPath64 } from 'clipper2-ts';
import type { DrawnFace } from '../visibility/drawn-face';

/** An area of the sheet: flat coordinates in mm of its boundary and of what is left out inside. */
export interface Area {
  readonly polygon: ArrayLike<number>;
  readonly holes?: readonly ArrayLike<number>[];
}

/** What is left of a face, or the whole face where cutting failed. */
export interface CutFace {
  readonly parts: readonly Area[];
  /** Nothing could be cut: the face is shown whole, in front of what should hide it. */
  readonly failed: boolean;
}

/**
 * Largest whole number that coordinates are brought to. Products of two differences then stay below 2^53, so every
 * sign in the combining is exact.
 */
const LARGEST = 2 ** 25;

/**
 * A face without what lies in front of it, combined on whole numbers (Clipper's Vatti sweep), so that edges which
 * touch or coincide are no special case. Areas check the result: what is left must be the face less what the others
 * share with it, up to what rounding explains. Never throws.
 */
export function cutFace(face: DrawnFace, others: readonly DrawnFace[]): CutFace {
  const whole: CutFace = { parts: [face], failed: true };
  const k = scaleFor([face, ...others]);
  if (k === null) return whole;
  const [subject, clip] = [ringsOf(face, k), others.flatMap((other) => ringsOf(other, k))];
  try {
    // Others may overlap each other: they are united first, so that even-odd cannot leave holes between them.
    const united = others.length > 1 ? others.map((other) => ringsOf(other, k)).reduce(unite, []) : clip;
    const tree = new PolyTree64();
    Clipper.booleanOpWithPolyTree(ClipType.Difference, subject, united, tree, FillRule.EvenOdd);
    const parts = areasOf(tree, k);
    const common = Clipper.booleanOp(ClipType.Intersection, subject, united, FillRule.EvenOdd);
    const left = Clipper.areaPaths(pathsOf(tree));
    const own = Clipper.areaPaths(Clipper.booleanOp(ClipType.Union, subject, [], FillRule.EvenOdd));
    const allowed = 4 * [...subject, ...united].reduce((sum, ring) => sum + lengthOf(ring), 16);
    return Math.abs(own - Clipper.areaPaths(common) - left) <= allowed ? { parts, failed: false } : whole;
  } catch {
    return whole;
  }
}

const unite = (p: Path64[], q: Path64[]): Path64[] => Clipper.booleanOp(ClipType.Union, p, q, FillRule.EvenOdd);

function scaleFor(faces: readonly DrawnFace[]): number | null {
  let largest = 1;
  for (const { polygon } of faces) for (let i = 0; i < polygon.length; i++) largest = Math.max(largest, Math.abs(polygon[i]!));
  return Number.isFinite(largest) ? 2 ** Math.floor(Math.log2(LARGEST / largest)) : null;
}

function ringsOf({ polygon, holes = [] }: Area, k: number): Path64[] {
  return [polygon, ...holes].map((flat) => {
    const ring: Path64 = [];
    for (let i = 0; i < flat.length; i += 2) ring.push({ x: Math.round(flat[i]! * k), y: Math.round(flat[i + 1]! * k) });
    return ring;
  });
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
