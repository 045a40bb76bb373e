import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { worldFromPlane, type PlaneFrame } from '../projection/planes';
import { pointAt, type Segment } from '../shape/segments';
import { tangentAt } from '../shape/split';
import { boundsOf, surfaceRings, type Body, type Surface } from './body';
import { ruledPoint, ruledUnitNormal, type Ruled } from './ruled';
import type { Sphere } from './sphere';

/** Places and weights of Gauss and Legendre's rule of five places on 0 to 1 (Abramowitz & Stegun, 25.4.30). */
const GAUSS = [
  [0.5, 0.2844444444444444],
  [0.23076534494715845, 0.23931433524968324],
  [0.7692346550528415, 0.23931433524968324],
  [0.046910077030668, 0.11846344252809454],
  [0.953089922969332, 0.11846344252809454],
] as const;

/** Pieces into which conics are cut for summing up: quarters of circles are then right to 1e-13. */
const PIECES = 8;

/** The sum of a value along a segment's parameter; exact for lines and cubics as long as its degree is at most nine. */
function alongSegment(segment: Segment, value: (t: number) => number): number {
  const pieces = segment.kind === 'conic' ? PIECES : 1;
  let sum = 0;
  for (let i = 0; i < pieces; i++) for (const [place, weight] of GAUSS) sum += weight * value((i + place) / pieces);
  return sum / pieces;
}

/** Twice the area that a ring bounds, signed, in cells of its frame. */
function ringArea(ring: readonly Segment[]): number {
  return ring.reduce((sum, segment) => {
    const twice = (t: number): number => {
      const [p, d] = [pointAt(segment, t), tangentAt(segment, t)];
      return p.u * d.v - p.v * d.u;
    };
    return sum + alongSegment(segment, twice);
  }, 0);
}

/** The area of a surface in square cells; of flat ones without their holes. Exact to rounding for straight edges. */
export function surfaceArea(surface: Surface): number {
  const { form } = surface;
  if (form.kind === 'sphere') return sphereArea(form);
  if (form.kind !== 'flat') return ruledSum(form, ({ across }) => lengthWorld(across));
  const [outer = 0, ...holes] = surfaceRings(surface).map((ring) => Math.abs(ringArea(ring)) / 2);
  return holes.reduce((sum, hole) => sum - hole, outer);
}

const sphereArea = ({ radius, low }: Sphere): number => 2 * Math.PI * radius * radius * (1 - low);

/** A value summed over a ruled surface: `across` is the product of its two tangents, outwards, whose length is the area's. */
function ruledSum({ directrix, rims: [near, far], sense }: Ruled, value: (at: { readonly place: WorldPoint; readonly across: WorldPoint }) => number): number {
  const carried = ({ u, v }: PlaneFrame, d: { readonly u: number; readonly v: number }): WorldPoint => addWorld(scaleWorld(u, d.u), scaleWorld(v, d.v));
  return directrix.reduce((sum, segment) => {
    const across = (t: number): number => {
      const [p, d] = [pointAt(segment, t), tangentAt(segment, t)];
      const [from, to] = [worldFromPlane(near, p), worldFromPlane(far, p)];
      const [start, end] = [carried(near, d), carried(far, d)];
      const generator = subtractWorld(to, from);
      return GAUSS.reduce((along, [k, weight]) => {
        const tangent = addWorld(scaleWorld(start, 1 - k), scaleWorld(end, k));
        const place = addWorld(from, scaleWorld(generator, k));
        return along + weight * value({ place, across: scaleWorld(crossWorld(tangent, generator), sense) });
      }, 0);
    };
    return sum + alongSegment(segment, across);
  }, 0);
}

/** What a body encloses in cubic cells, by the divergence theorem; null for one without an inside. */
export function bodyVolume({ surfaces, closed, bounds }: Body): number | null {
  if (!closed) return null;
  // From a place near by, so that bodies far from the origin lose no digits.
  const origin: WorldPoint = bounds.min;
  const flux = surfaces.reduce((sum, surface) => {
    const { form } = surface;
    if (form.kind === 'sphere') {
      // A place is the centre and the radius along the normal; normals sum up to what the cap's rim bounds.
      const { centre, radius, axis, low } = form;
      const rim = Math.PI * radius * radius * (1 - low * low);
      return sum + radius * sphereArea(form) + rim * dotWorld(subtractWorld(centre, origin), axis);
    }
    if (form.kind !== 'flat') return sum + ruledSum(form, ({ place, across }) => dotWorld(subtractWorld(place, origin), across));
    return sum + surfaceArea(surface) * dotWorld(subtractWorld(form.frame.origin, origin), form.frame.normal);
  }, 0);
  return flux / 3;
}

/** A place in the middle of a surface, and its outward normal there; of flat ones the middle of their corners' box. Null where it has no normal. */
export function surfaceMiddle({ form, loops }: Surface): { readonly at: WorldPoint; readonly normal: WorldPoint } | null {
  if (form.kind === 'sphere') {
    const { centre, axis, radius } = form;
    return { at: addWorld(centre, scaleWorld(axis, radius)), normal: axis };
  }
  if (form.kind !== 'flat') {
    const s = form.directrix.length / 2;
    const normal = ruledUnitNormal(form, s);
    return normal && { at: ruledPoint(form, s, 0.5), normal };
  }
  const { min, max } = boundsOf(loops[0] ?? []);
  const middle = scaleWorld(addWorld(min, max), 0.5);
  const { origin, normal } = form.frame;
  // The box of a slanting surface has its middle beside it.
  return { at: subtractWorld(middle, scaleWorld(normal, dotWorld(subtractWorld(middle, origin), normal))), normal };
}
