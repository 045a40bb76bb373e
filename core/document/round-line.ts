import { exactCells } from '../math/exact';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type WorldPoint } from '../math/points';
import { apexOf, ruledPoint, ruledUnitNormal, type Ruled } from '../geometry/ruled';
import { readingDirections, worldFromPlane, type Plane } from '../projection/planes';
import { pointsOfSegments } from '../shape/from-segments';
import { pointAt, type Segment } from '../shape/segments';
import { lineWalk } from '../shape/walk';
import type { RoundLine } from '../lettering/baseline';

/** Where text begins on a round side: around it, or, where it is read along the side's straight lines, on the plane that touches it. */
export type RoundStart = { readonly kind: 'round'; readonly round: RoundLine } | { readonly kind: 'plane'; readonly plane: Plane };

const lerp = (p: WorldPoint, q: WorldPoint, k: number): WorldPoint => addWorld(scaleWorld(p, 1 - k), scaleWorld(q, k));
const exact = ({ a, b, h }: WorldPoint): WorldPoint => ({ a: exactCells(a), b: exactCells(b), h: exactCells(h) });

/** Text that begins at a place of a round side, upright as text stands on a surface that faces as the side does there. Null at an apex. */
export function roundStart(ruled: Ruled, s: number, k: number): RoundStart | null {
  const normal = ruledUnitNormal(ruled, s);
  const at = ruledPoint(ruled, s, k);
  const generator = unitWorld(subtractWorld(ruledPoint(ruled, s, 1), ruledPoint(ruled, s, 0)));
  if (!normal || !generator) return null;
  const { right, down } = readingDirections(normal);
  const up = scaleWorld(down, -1);
  if (Math.abs(dotWorld(generator, right)) > Math.abs(dotWorld(generator, up))) {
    return { kind: 'plane', plane: { kind: 'free', offset: 0, stance: { at: exact(at), u: right, v: up } } };
  }
  const [from, to] = ruled.rims;
  const [across, upwards] = [lerp(from.u, to.u, k), lerp(from.v, to.v, k)];
  const size = lengthWorld(across);
  const [u, v] = [unitWorld(across), unitWorld(upwards)];
  if (!u || !v || size < 1e-6) return null;
  const points = pointsOfSegments(
    ruled.directrix.map((segment) => scaled(segment, size)),
    ruled.closed,
  );
  const line = { points, closed: ruled.closed };
  const walk = lineWalk(line);
  const i = Math.max(0, Math.min(ruled.directrix.length - 1, Math.floor(s)));
  const here = pointAt(ruled.directrix[i]!, s - i);
  if (!walk) return null;
  const near = walk.nearest({ u: here.u * size, v: here.v * size });
  const { along } = walk.place(near);
  const against = dotWorld(addWorld(scaleWorld(u, along.u), scaleWorld(v, along.v)), right) < 0;
  const origin = lerp(worldFromPlane(from, { u: 0, v: 0 }), worldFromPlane(to, { u: 0, v: 0 }), k);
  const start = { line, from: exactCells(against ? walk.length - near : near), ...(against && { against: true as const }) };
  const round = { ...start, at: exact(origin), u, v };
  if (ruled.kind === 'cylinder') return { kind: 'round', round: { ...round, up: exact(scaleWorld(generator, dotWorld(generator, up) < 0 ? -1 : 1)) } };
  const apex = apexOf(ruled);
  return { kind: 'round', round: { ...round, up: exact(apex), meets: dotWorld(subtractWorld(apex, at), up) > 0 ? 'above' : 'below' } };
}

function scaled(segment: Segment, size: number): Segment {
  const p = ({ u, v }: { readonly u: number; readonly v: number }): { u: number; v: number } => ({ u: u * size, v: v * size });
  const ends = { from: p(segment.from), to: p(segment.to) };
  if (segment.kind === 'line') return { ...segment, ...ends };
  return segment.kind === 'cubic' ? { ...segment, ...ends, out: p(segment.out), into: p(segment.into) } : { ...segment, ...ends, via: p(segment.via) };
}
