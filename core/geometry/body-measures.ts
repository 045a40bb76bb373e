import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type WorldPoint } from '../math/points';
import { worldFromPlane, type PlaneFrame } from '../projection/planes';
import { ringsCross, withoutCrossings } from '../shape/crossing';
import { pointsOfSegments } from '../shape/from-segments';
import { outlineOfRings, ringsOf } from '../shape/outline';
import { chordsOf, outlineSegments, pointAt, type Segment } from '../shape/segments';
import { tangentAt } from '../shape/split';
import { boundsOf, surfaceRings, worldPoints, type Body, type Form, type Rim, type Surface } from './body';
import { contactOf, generatorAt, onFirstRim } from './contact';
import { apexOf, ruledNormal, ruledPoint, ruledUnitNormal, type Ruled } from './ruled';
import { FACET } from './facets';
import { directionsAcross, type Sphere } from './sphere';

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
  if (surface.cut) return cutSums(form, surface.cut, NOWHERE).area;
  if (form.kind === 'sphere') return sphereArea(form);
  if (form.kind !== 'flat') return ruledSum(form, ({ across }) => lengthWorld(across));
  const rings = surfaceRings(surface);
  // A flat outline that crosses itself; solids over one have its lobes.
  if (surface.bothSides && ringsCross(rings.map((ring) => ring.flatMap((segment) => chordsOf(segment, FACET))))) {
    const outline = outlineOfRings(
      rings.map((ring) => pointsOfSegments(ring, true)),
      true,
    );
    return withoutCrossings(outline).reduce((sum, piece) => sum + areaWithin(ringsOf(piece).map(outlineSegments)), 0);
  }
  return areaWithin(rings);
}

/** What a ring bounds without those in it, in square cells. */
function areaWithin(rings: readonly (readonly Segment[])[]): number {
  const [outer = 0, ...holes] = rings.map((ring) => Math.abs(ringArea(ring)) / 2);
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
    if (surface.cut) return sum + cutSums(form, surface.cut, origin).flux;
    if (form.kind === 'sphere') {
      // A place is the centre and the radius along the normal; normals sum up to what the cap's rim bounds.
      const { centre, radius, axis, low } = form;
      const rim = Math.PI * radius * radius * (1 - low * low);
      return sum + (form.hollow ? -1 : 1) * (radius * sphereArea(form) + rim * dotWorld(subtractWorld(centre, origin), axis));
    }
    if (form.kind !== 'flat') return sum + ruledSum(form, ({ place, across }) => dotWorld(subtractWorld(place, origin), across));
    return sum + surfaceArea(surface) * dotWorld(subtractWorld(form.frame.origin, origin), form.frame.normal);
  }, 0);
  return flux / 3;
}

const NOWHERE: WorldPoint = { a: 0, b: 0, h: 0 };

/** A place along a boundary, how it moves with the parameter, and the weight by which what is taken there is summed up. */
interface Along {
  readonly at: WorldPoint;
  readonly speed: WorldPoint;
  readonly weight: number;
}

function* alongRims(cut: readonly (readonly Rim[])[]): Generator<Along> {
  for (const rim of cut.flat()) {
    if ('points' in rim) {
      const points = worldPoints(rim.points);
      for (let i = 0; i + 1 < points.length; i++) {
        const [from, speed] = [points[i]!, subtractWorld(points[i + 1]!, points[i]!)];
        for (const [t, weight] of GAUSS) yield { at: addWorld(from, scaleWorld(speed, t)), speed, weight };
      }
      continue;
    }
    const { u, v } = rim.frame;
    for (const segment of rim.segments) {
      for (let i = 0; i < PIECES; i++) {
        for (const [node, weight] of GAUSS) {
          const t = (i + node) / PIECES;
          const d = tangentAt(segment, t);
          yield { at: worldFromPlane(rim.frame, pointAt(segment, t)), speed: addWorld(scaleWorld(u, d.u), scaleWorld(v, d.v)), weight: weight / PIECES };
        }
      }
    }
  }
}

/**
 * The area of a cut round surface, and what passes through it of the places told from an origin (three times what it
 * adds to the volume), as integrals along its boundary (Green's theorem in the surface's own parameters).
 */
function cutSums(form: Form, cut: readonly (readonly Rim[])[], origin: WorldPoint): { readonly area: number; readonly flux: number } {
  if (form.kind === 'flat') return { area: 0, flux: 0 };
  return form.kind === 'sphere' ? cutSphere(form, cut, origin) : cutRuled(form, cut, origin);
}

function cutRuled(form: Ruled, cut: readonly (readonly Rim[])[], origin: WorldPoint): { readonly area: number; readonly flux: number } {
  const { area, flux } = form.kind === 'cone' ? cutCone(form, cut, origin) : cutCylinder(form, cut, origin);
  return area < 0 ? { area: -area, flux: -flux } : { area, flux };
}

function cutCylinder(form: Ruled, cut: readonly (readonly Rim[])[], origin: WorldPoint): { readonly area: number; readonly flux: number } {
  let [area, flux] = [0, 0];
  for (const { at, speed, weight } of alongRims(cut)) {
    const [s, here, there] = [generatorAt(form, at), onFirstRim(form, at), onFirstRim(form, addWorld(at, speed))];
    if (s === null || !here || !there) continue;
    // How fast the parameter runs is told by how fast the place runs along the directrix, on which it is carried without bending.
    const i = Math.min(form.directrix.length - 1, Math.floor(s));
    const d = tangentAt(form.directrix[i]!, s - i);
    const turn = ((there.u - here.u) * d.u + (there.v - here.v) * d.v) / (d.u * d.u + d.v * d.v);
    const [from, to] = [ruledPoint(form, s, 0), ruledPoint(form, s, 1)];
    const generator = subtractWorld(to, from);
    const k = dotWorld(subtractWorld(at, from), generator) / dotWorld(generator, generator);
    const across = ruledNormal(form, s);
    const part = k * turn * weight;
    area += part * lengthWorld(across);
    flux += part * dotWorld(subtractWorld(from, origin), across);
  }
  return { area, flux };
}

/**
 * Seen from its apex every place of a cone lies along it: what the boundary sweeps from there is the area, whether the apex
 * lies inside, on the boundary or outside, and nothing of the places told from the apex passes through it. Told from
 * elsewhere that is the way to the apex times the area as a vector.
 */
function cutCone(form: Ruled, cut: readonly (readonly Rim[])[], origin: WorldPoint): { readonly area: number; readonly flux: number } {
  const apex = apexOf(form);
  let area = 0;
  let vector = NOWHERE;
  for (const { at, speed, weight } of alongRims(cut)) {
    const swept = scaleWorld(crossWorld(subtractWorld(at, apex), speed), weight / 2);
    vector = addWorld(vector, swept);
    const contact = contactOf(form, at);
    if (contact) area += Math.sign(dotWorld(swept, contact.normal)) * lengthWorld(swept);
  }
  return { area, flux: dotWorld(subtractWorld(apex, origin), vector) };
}

/** Directions among which an axis is chosen. */
const POLES = [-1, 0, 1].flatMap((a) => [-1, 0, 1].flatMap((b) => [-1, 0, 1].flatMap((h) => unitWorld({ a: a + 0.1, b: b + 0.2, h: h + 0.3 }) ?? [])));

/** The axis that keeps farthest from all of some directions and their opposites: angles about it then change slowly. */
function clearPole(units: readonly WorldPoint[]): WorldPoint {
  const nearest = (pole: WorldPoint): number => units.reduce((most, unit) => Math.max(most, Math.abs(dotWorld(unit, pole))), 0);
  return POLES.reduce((best, pole) => (nearest(pole) < nearest(best) ? pole : best));
}

function cutSphere({ centre, radius, hollow }: Sphere, cut: readonly (readonly Rim[])[], origin: WorldPoint): { readonly area: number; readonly flux: number } {
  // The patch lies to the left of its boundary, which tells the way round; angles are taken about an axis that no ring passes.
  let vector: WorldPoint = NOWHERE;
  const places = [...alongRims(cut)];
  for (const { at, speed, weight } of places)
    vector = addWorld(vector, scaleWorld(crossWorld(subtractWorld(at, centre), speed), (hollow ? -0.5 : 0.5) * weight));
  const pole = clearPole(places.map(({ at }) => scaleWorld(subtractWorld(at, centre), 1 / radius)));
  const [x] = directionsAcross(pole);
  const y = crossWorld(pole, x);
  let area = 0;
  for (const { at, speed, weight } of places) {
    const from = subtractWorld(at, centre);
    const [px, py] = [dotWorld(from, x), dotWorld(from, y)];
    // How fast the angle about the axis runs.
    const turn = (px * dotWorld(speed, y) - py * dotWorld(speed, x)) / (px * px + py * py);
    area += (1 - dotWorld(from, pole) / radius) * turn * weight * radius * radius * (hollow ? -1 : 1);
  }
  const whole = 4 * Math.PI * radius * radius;
  area -= whole * Math.floor(area / whole);
  const sign = hollow ? -1 : 1;
  return { area, flux: sign * (radius * area + dotWorld(subtractWorld(centre, origin), vector)) };
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
