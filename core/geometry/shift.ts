import { exactCells } from '../math/exact';
import { subtractWorld, type WorldPoint } from '../math/points';
import { SAME_PLACE } from '../math/tolerances';
import { planeFrame, worldFromPlane } from '../projection/planes';
import { allPoints, type OutlinePoint } from '../shape/outline';
import type { Extruded } from './depth-recipe';

/** Things as a group has them. */
type Things = readonly { readonly kind: string; readonly id: string; readonly hidden: boolean }[];

/**
 * By how many cells along a, b and h all solids of a group were moved, in the same order and otherwise as they were; null
 * where anything else is different.
 */
export function shiftBetween(before: Things, after: Things): WorldPoint | null {
  let shift: WorldPoint | null = null;
  const same = (p: WorldPoint, q: WorldPoint): boolean => Math.abs(p.a - q.a) + Math.abs(p.b - q.b) + Math.abs(p.h - q.h) < SAME_PLACE;
  const compare = (some: Things, others: Things): boolean =>
    some.length === others.length &&
    some.every((thing, i) => {
      const other = others[i]!;
      if (thing.kind !== other.kind || thing.id !== other.id || thing.hidden !== other.hidden) return false;
      if (thing.kind === 'group') {
        const [p, q] = [thing, other] as unknown as readonly { readonly joined?: string; readonly children: Things }[];
        return p!.joined === q!.joined && compare(p!.children, q!.children);
      }
      if (thing.kind !== 'shape') return true;
      const own = shapeShift(thing as unknown as Extruded, other as unknown as Extruded);
      if (!own || (shift && !same(shift, own))) return false;
      shift ??= own;
      return true;
    });
  return compare(before, after) ? shift : null;
}

function shapeShift(before: Extruded, after: Extruded): WorldPoint | null {
  const alike =
    before.plane.kind === after.plane.kind &&
    before.depth === after.depth &&
    before.start === after.start &&
    before.taper === after.taper &&
    before.round === after.round &&
    before.lean?.u === after.lean?.u &&
    before.lean?.v === after.lean?.v &&
    before.outline.closed === after.outline.closed;
  const [from, to] = alike ? [planeFrame(before.plane, 1), planeFrame(after.plane, 1)] : [null, null];
  const [p, q] = [allPoints(before.outline), allPoints(after.outline)];
  if (!from || !to || p.length !== q.length || !p[0] || !q[0]) return null;
  if ((['u', 'v'] as const).some((side) => (['a', 'b', 'h'] as const).some((axis) => from[side][axis] !== to[side][axis]))) return null;
  const [du, dv] = [q[0].u - p[0].u, q[0].v - p[0].v];
  if (!p.every((point, i) => isShifted(point, q[i]!, du, dv))) return null;
  const by = subtractWorld(worldFromPlane(to, q[0]), worldFromPlane(from, p[0]));
  return { a: exactCells(by.a), b: exactCells(by.b), h: exactCells(by.h) };
}

function isShifted(p: OutlinePoint, q: OutlinePoint, du: number, dv: number): boolean {
  const near = (s: { readonly u: number; readonly v: number } | undefined, t: typeof s): boolean =>
    s && t ? Math.abs(t.u - s.u - du) + Math.abs(t.v - s.v - dv) < SAME_PLACE : s === t;
  return (
    p.id === q.id &&
    near(p, q) &&
    near(p.into, q.into) &&
    near(p.out, q.out) &&
    near(p.arc, q.arc) &&
    p.arc?.weight === q.arc?.weight &&
    p.corner?.kind === q.corner?.kind &&
    p.corner?.size === q.corner?.size
  );
}
