import { addWorld, crossWorld, scaleWorld, unitWorld, type WorldPoint } from '../math/points';
import { UNIT } from '../math/tolerances';
import type { PlaneFrame } from '../projection/planes';
import type { Segment } from '../shape/segments';
import { flatPoints, type Facet } from './body';

/** A part of a sphere: what of it lies at `low` radii from its centre, or farther, along a direction. */
export interface Cap {
  /** Unit direction from the centre to the cap's top. */
  readonly axis: WorldPoint;
  /** From -1, the whole sphere, over 0, a half, to 1, its top alone. */
  readonly low: number;
}

/** A ball's surface, or a cap of one; its outside lies away from the centre. It cannot be unrolled. */
export interface Sphere extends Cap {
  readonly kind: 'sphere';
  /** In cells of the world. */
  readonly centre: WorldPoint;
  /** In cells. */
  readonly radius: number;
  /** Seen from within: its outside is towards the centre. */
  readonly hollow?: true;
}

/** The part of the radius by which facets may lie inside the sphere where no other is asked for: some 2,500 of a ball then. */
export const SPHERE_MISS = 1 / 500;

/** The point of a sphere in a direction from its centre. */
export const onSphere = ({ centre, radius }: Sphere, unit: WorldPoint): WorldPoint => addWorld(centre, scaleWorld(unit, radius));

/** Two unit directions square to a direction and to each other; the three are right-handed. */
export function directionsAcross(axis: WorldPoint): readonly [WorldPoint, WorldPoint] {
  const [a, b, h] = [Math.abs(axis.a), Math.abs(axis.b), Math.abs(axis.h)];
  const other = a <= b && a <= h ? { a: 1, b: 0, h: 0 } : b <= h ? { a: 0, b: 1, h: 0 } : { a: 0, b: 0, h: 1 };
  const u = unitWorld(crossWorld(axis, other))!;
  return [u, crossWorld(axis, u)];
}

/**
 * Flat pieces of a sphere between parallels about its axis: four-cornered ones, and three-cornered ones at its ends.
 * @param within distance in cells from the true surface
 */
export function sphereFacets(sphere: Sphere, within: number, across: readonly [WorldPoint, WorldPoint] = directionsAcross(sphere.axis)): readonly Facet[] {
  const { axis, low, radius } = sphere;
  const miss = within / radius;
  // A piece misses by its sagittas along both of its directions together.
  const step = 2 * Math.acos(1 - Math.min(0.3, miss / 2));
  const bottom = Math.acos(Math.max(-1, low));
  const rows = Math.max(2, Math.ceil(bottom / step));
  const columns = 4 * Math.max(2, Math.ceil((Math.PI / 2 / step) * Math.sin(Math.min(bottom, Math.PI / 2))));
  const place = (row: number, column: number): WorldPoint => {
    const down = (bottom * row) / rows;
    const turn = (2 * Math.PI * column) / columns;
    const out = row === 0 || (row === rows && low <= -1) ? 0 : Math.sin(down);
    const around = addWorld(scaleWorld(across[0], out * Math.cos(turn)), scaleWorld(across[1], out * Math.sin(turn)));
    return onSphere(sphere, addWorld(around, scaleWorld(axis, Math.cos(down))));
  };
  const facets: Facet[] = [];
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const corners = [place(row, column), place(row + 1, column), place(row + 1, (column + 1) % columns), place(row, (column + 1) % columns)];
      const distinct = row === 0 ? corners.slice(0, 3) : row === rows - 1 && low <= -1 ? [corners[0]!, corners[1]!, corners[3]!] : corners;
      const normal = unitWorld(crossWorld(difference(distinct[1]!, distinct[0]!), difference(distinct[2]!, distinct[0]!)));
      if (normal) facets.push({ corners: flatPoints(distinct), normal });
    }
  }
  return facets;
}

const difference = (p: WorldPoint, q: WorldPoint): WorldPoint => ({ a: p.a - q.a, b: p.b - q.b, h: p.h - q.h });

/** A piece of a circle on a sphere: its boundary as conics in a frame of its own, in cells of the world. */
export interface Arc {
  readonly frame: PlaneFrame;
  readonly segments: readonly Segment[];
  /** The whole circle. */
  readonly closed: boolean;
}

/**
 * What two caps of a sphere have in common, as its boundary: each inner list is one ring, its pieces end to end. Null
 * for nothing, no rings for the whole sphere.
 */
export function commonCap(sphere: Sphere, p: Cap, q: Cap): readonly (readonly Arc[])[] | null {
  if (p.low >= 1 || q.low >= 1) return null;
  const rims = [p, q].filter(({ low }) => low > -1).map((cap) => rimOf(sphere, cap));
  if (rims.length < 2) return rims.map((rim) => [wholeRim(rim)]);
  const [rp, rq] = rims as [Rim, Rim];
  // About one direction the smaller cap lies in the larger one, be they of one size; about opposite ones they leave a band.
  const along = dot(p.axis, q.axis);
  if (1 - along * along < UNIT) {
    if (along > 0) return [[wholeRim(p.low >= q.low ? rp : rq)]];
    return p.low + q.low > -UNIT ? null : [[wholeRim(rp)], [wholeRim(rq)]];
  }
  const crossings = crossingsOf(p, q);
  if (!crossings) {
    const inP = isIn(p, rq.u, rq.shift, rq.size, q.axis);
    const inQ = isIn(q, rp.u, rp.shift, rp.size, p.axis);
    if (inP) return inQ ? [[wholeRim(rp)], [wholeRim(rq)]] : [[wholeRim(rq)]];
    return inQ ? [[wholeRim(rp)]] : null;
  }
  const [first, second] = crossings;
  return [[arcWithin(rp, q, first, second), arcWithin(rq, p, second, first)]];
}

/**
 * What is seen of the band between two circles about one direction, as the rings of its boundary, which share no piece:
 * what `outer` has and `inner`, a cap about the same direction within it, has not. Null for nothing.
 */
export function bandOfCaps(sphere: Sphere, seen: Cap, outer: Cap, inner: Cap): readonly (readonly Arc[])[] | null {
  const whole = commonCap(sphere, seen, outer);
  if (!whole) return null;
  const less = commonCap(sphere, seen, inner);
  if (!less) return whole;
  const rim = rimOf(sphere, seen);
  const [out, into] = [outer.low <= -1 ? null : crossingsOf(seen, outer), crossingsOf(seen, inner)];
  const circle = (cap: Cap): readonly Arc[] => [wholeRim(rimOf(sphere, cap))];
  const isAll = (rings: readonly (readonly Arc[])[]): boolean => rings.length === 1 && rings[0]!.length === 1 && holdsRim(inner, rim);
  if (!into) {
    // The inner circle is seen whole, or not at all: then what is seen is all within it.
    if (isAll(less)) return null;
    const around = less.length === 2 ? whole.slice(1) : whole;
    return [...around, circle(inner)];
  }
  const [first, second] = into;
  const across = arcWithin(rimOf(sphere, inner), seen, first, second);
  const beside = (from: WorldPoint, to: WorldPoint): Arc => arcWhere(rim, from, to, (p) => dot(p, outer.axis) <= inner.low);
  if (!out) return [[across, beside(second, first)], ...(whole.length === 2 ? [circle(outer)] : [])];
  return [[across, beside(second, out[1]), arcWithin(rimOf(sphere, outer), seen, out[1], out[0]), beside(out[0], first)]];
}

/** Whether a rim lies in a cap that it does not cross. */
const holdsRim = (cap: Cap, { frame, u, shift, size }: Rim): boolean => isIn(cap, u, shift, size, frame.normal);

/** The piece of a rim from one place to another whose middle is where it is wanted. */
function arcWhere({ frame, u, v, shift, size }: Rim, from: WorldPoint, to: WorldPoint, wanted: (unit: WorldPoint) => boolean): Arc {
  const angle = (p: WorldPoint): number => Math.atan2(dot(p, v), dot(p, u));
  const start = angle(from);
  let end = angle(to);
  if (end < start) end += 2 * Math.PI;
  const middle = (start + end) / 2;
  const around = addWorld(scaleWorld(u, size * Math.cos(middle)), scaleWorld(v, size * Math.sin(middle)));
  const inside = wanted(addWorld(scaleWorld(frame.normal, shift), around));
  return { frame, segments: arcSegments(start, inside ? end : end - 2 * Math.PI), closed: false };
}

/** The circle that bounds a cap; sizes in radii of the sphere. */
interface Rim {
  readonly frame: PlaneFrame;
  readonly u: WorldPoint;
  readonly v: WorldPoint;
  readonly shift: number;
  readonly size: number;
}

function rimOf(sphere: Sphere, { axis, low }: Cap): Rim {
  const [u, v] = directionsAcross(axis);
  const size = Math.sqrt(Math.max(0, 1 - low * low));
  const along = size * sphere.radius;
  const frame = { origin: onSphere(sphere, scaleWorld(axis, low)), u: scaleWorld(u, along), v: scaleWorld(v, along), normal: axis };
  return { frame, u, v, shift: low, size };
}

function wholeRim({ frame }: Rim): Arc {
  return { frame, segments: arcSegments(0, 2 * Math.PI), closed: true };
}

/** Whether the point of a rim in the direction `u` lies in a cap. */
function isIn(cap: Cap, u: WorldPoint, shift: number, size: number, axis: WorldPoint): boolean {
  return dot(addWorld(scaleWorld(axis, shift), scaleWorld(u, size)), cap.axis) >= cap.low;
}

const dot = (p: WorldPoint, q: WorldPoint): number => p.a * q.a + p.b * q.b + p.h * q.h;

/** The two directions in which the rims of two caps cross: where both planes meet the unit sphere. */
function crossingsOf(p: Cap, q: Cap): readonly [WorldPoint, WorldPoint] | null {
  const g = dot(p.axis, q.axis);
  const square = 1 - g * g;
  if (square < UNIT) return null;
  const [alpha, beta] = [(p.low - q.low * g) / square, (q.low - p.low * g) / square];
  const rest = 1 - (alpha * alpha + beta * beta + 2 * alpha * beta * g);
  if (rest <= UNIT) return null;
  const foot = addWorld(scaleWorld(p.axis, alpha), scaleWorld(q.axis, beta));
  const along = scaleWorld(crossWorld(p.axis, q.axis), Math.sqrt(rest / square));
  return [addWorld(foot, along), addWorld(foot, scaleWorld(along, -1))];
}

/** The piece of a rim from one crossing to the other that lies in the other cap. */
const arcWithin = (rim: Rim, other: Cap, from: WorldPoint, to: WorldPoint): Arc => arcWhere(rim, from, to, (p) => dot(p, other.axis) >= other.low);

/** A piece of the unit circle about the origin, between two angles in radians, as conics of at most a quarter turn each. */
export function arcSegments(from: number, to: number): readonly Segment[] {
  const count = Math.max(1, Math.ceil(Math.abs(to - from) / (Math.PI / 2) - 1e-9));
  const step = (to - from) / count;
  const at = (angle: number, r = 1): { u: number; v: number } => ({ u: r * Math.cos(angle), v: r * Math.sin(angle) });
  const weight = Math.cos(step / 2);
  return Array.from({ length: count }, (_, i): Segment => {
    const start = from + i * step;
    return { kind: 'conic', id: i + 1, from: at(start), via: at(start + step / 2, 1 / weight), weight, to: at(start + step), corner: false };
  });
}
