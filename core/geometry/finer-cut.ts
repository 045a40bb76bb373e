import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type WorldPoint } from '../math/points';
import { SAME_PLACE } from '../math/tolerances';
import { flatPoints, worldPoints, type Facet, type Form, type Surface } from './body';
import { generatorAt, placeOn } from './contact';

/** Rounds in which edges are halved, at most: each brings facets four times closer. */
const ROUNDS = 6;

/**
 * The facets of a round surface from which something was cut, closer to the true one: edges whose middle lies farther from
 * it are halved, those of the boundary on the curve that it is, so that neighbours still share their edges. Boundaries that
 * no plane holds stay as they are: their places lie close together.
 * @param within distance in cells
 */
export function finerCutFacets({ form, facets, cut = [] }: Surface, within: number): readonly Facet[] {
  const bounds = cut.flat().flatMap((rim): readonly Form[] => ('points' in rim ? [] : [{ kind: 'flat', frame: rim.frame }]));
  let corners = facets.map((facet) => worldPoints(facet.corners));
  for (let round = 0; round < ROUNDS; round++) {
    const middles = halvedEdges(corners, form, bounds, within);
    if (middles.size === 0) break;
    corners = corners.flatMap((triangle) => halved(triangle, middles));
  }
  return corners.flatMap((triangle): readonly Facet[] => {
    const normal = unitWorld(crossWorld(subtractWorld(triangle[1]!, triangle[0]!), subtractWorld(triangle[2]!, triangle[0]!)));
    if (!normal) return [];
    const middle = scaleWorld(triangle.reduce(addWorld), 1 / triangle.length);
    const s = form.kind === 'flat' || form.kind === 'sphere' ? null : generatorAt(form, middle);
    return [{ corners: flatPoints(triangle), normal, ...(s !== null && { from: s, to: s }) }];
  });
}

const name = ({ a, b, h }: WorldPoint): string => [a, b, h].map((x) => Math.round(x / SAME_PLACE)).join(' ');
const edgeName = (p: WorldPoint, q: WorldPoint): string => [name(p), name(q)].sort().join('|');

/** The middles of the edges that are to be halved, by their names. */
function halvedEdges(triangles: readonly (readonly WorldPoint[])[], form: Form, bounds: readonly Form[], within: number): ReadonlyMap<string, WorldPoint> {
  const edges = new Map<string, { readonly p: WorldPoint; readonly q: WorldPoint; count: number }>();
  for (const triangle of triangles) {
    triangle.forEach((p, i) => {
      const q = triangle[(i + 1) % triangle.length]!;
      const known = edges.get(edgeName(p, q));
      if (known) known.count++;
      else edges.set(edgeName(p, q), { p, q, count: 1 });
    });
  }
  const middles = new Map<string, WorldPoint>();
  for (const [key, { p, q, count }] of edges) {
    const chord = scaleWorld(addWorld(p, q), 0.5);
    const bound = count > 1 ? null : bounds.find((plane) => isOn(plane, p) && isOn(plane, q));
    if (count === 1 && !bound) continue;
    const on = placeOn(bound ? [bound, form] : [form], chord);
    if (lengthWorld(subtractWorld(on, chord)) > within) middles.set(key, on);
  }
  return middles;
}

const isOn = (plane: Form, p: WorldPoint): boolean =>
  plane.kind === 'flat' && Math.abs(dotWorld(subtractWorld(p, plane.frame.origin), plane.frame.normal)) < SAME_PLACE;

/** A triangle cut at the middles of its edges: into four, three or two, or as it is. */
function halved(triangle: readonly WorldPoint[], middles: ReadonlyMap<string, WorldPoint>): readonly (readonly WorldPoint[])[] {
  const at = triangle.map((p, i) => middles.get(edgeName(p, triangle[(i + 1) % 3]!)) ?? null);
  const count = at.filter((middle) => middle !== null).length;
  if (count === 0 || triangle.length !== 3) return [triangle];
  const [p, q, r] = triangle as [WorldPoint, WorldPoint, WorldPoint];
  if (count === 3) return [[p, at[0]!, at[2]!], [at[0]!, q, at[1]!], [at[2]!, at[1]!, r], [at[0]!, at[1]!, at[2]!]]; // prettier-ignore
  // Turned so that the first edge is the only one that is cut, or the only one that is not.
  const lone = at.findIndex((middle) => (middle !== null) === (count === 1));
  const [x, y, z] = [0, 1, 2].map((k) => triangle[(lone + k) % 3]!) as [WorldPoint, WorldPoint, WorldPoint];
  if (count === 1) return [[x, at[lone]!, z], [at[lone]!, y, z]]; // prettier-ignore
  const [yz, zx] = [at[(lone + 1) % 3]!, at[(lone + 2) % 3]!];
  return [[x, y, yz], [x, yz, zx], [zx, yz, z]]; // prettier-ignore
}
