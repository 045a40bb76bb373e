import { orient2d } from 'robust-predicates';
import type { PlanePoint } from '../math/points';
import { combineOutlines } from './combine';
import { ringsOf, type Outline } from './outline';
import { flattenOutline } from './segments';

/** Distance in cells between curves and the chords by which it is told whether they cross. */
const CHORDS = 0.004;
/** Lobes beyond which nobody tells one from another: their outline stays as it is. */
const MOST_LOBES = 64;

interface Edge {
  readonly from: PlanePoint;
  readonly to: PlanePoint;
  readonly minU: number;
  readonly maxU: number;
  readonly minV: number;
  readonly maxV: number;
}

/**
 * Whether edges of rings cross each other, of one ring or of several; what only touches does not. Exact signs. Edges are
 * compared along u while they lie over each other, so the cost is that of sorting and of what is over one u.
 */
export function ringsCross(rings: readonly (readonly PlanePoint[])[]): boolean {
  const edges = rings.flatMap((ring) => ring.map((from, i) => edgeOf(from, ring[(i + 1) % ring.length]!))).sort((p, q) => p.minU - q.minU);
  let over: Edge[] = [];
  for (const edge of edges) {
    over = over.filter(({ maxU }) => maxU >= edge.minU);
    if (over.some((other) => other.maxV >= edge.minV && other.minV <= edge.maxV && cross(edge, other))) return true;
    over.push(edge);
  }
  return false;
}

const edgeOf = (from: PlanePoint, to: PlanePoint): Edge => ({
  from,
  to,
  minU: Math.min(from.u, to.u),
  maxU: Math.max(from.u, to.u),
  minV: Math.min(from.v, to.v),
  maxV: Math.max(from.v, to.v),
});

function cross({ from: a, to: b }: Edge, { from: c, to: d }: Edge): boolean {
  const side = (p: PlanePoint, q: PlanePoint, r: PlanePoint): number => orient2d(p.u, p.v, q.u, q.v, r.u, r.v);
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/**
 * An outline as outlines that bound the same area by the even-odd rule and cross nothing; itself where it crosses
 * nothing, or too often. Points of later pieces get ids of their own where they would share one.
 */
export function withoutCrossings(outline: Outline): readonly Outline[] {
  if (!outline.closed || !ringsCross(ringsOf(outline).map((ring) => flattenOutline(ring, CHORDS)))) return [outline];
  const taken = new Set<number>();
  let fresh = Math.max(0, ...ringsOf(outline).flatMap(({ points }) => points.map(({ id }) => id)));
  const own = (id: number): number => {
    const one = taken.has(id) ? ++fresh : id;
    taken.add(one);
    fresh = Math.max(fresh, one);
    return one;
  };
  const named = (points: Outline['points']): Outline['points'] => points.map((point) => ({ ...point, id: own(point.id) }));
  const lobes = combineOutlines('union', outline, []);
  if (lobes.length === 0 || lobes.length > MOST_LOBES) return [outline];
  return lobes.map(({ points, holes, closed }) => ({
    points: named(points),
    closed,
    ...(holes && { holes: holes.map(named) }),
  }));
}
