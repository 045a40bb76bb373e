import { addWorld, dotWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import type { WorldBox } from '../projection/framing';
import type { PlaneFrame } from '../projection/planes';
import { pointAt, type Segment } from '../shape/segments';
import type { SurfaceName } from './names';
import type { Ruled } from './ruled';
import type { Sphere } from './sphere';

/** A flat surface: u and v of its own coordinates are in cells along the frame's directions. */
export interface FlatForm {
  readonly kind: 'flat';
  /** In cells of the world; its normal is the surface's own outward unit normal, whichever way u and v turn. */
  readonly frame: PlaneFrame;
}

/**
 * How a surface lies in the world. All but spheres can be unrolled without stretching: lengths in their own coordinates
 * are true lengths in cells.
 */
export type Form = FlatForm | Ruled | Sphere;

/** A flat convex piece of a surface, for order and regions only; it is never seen. */
export interface Facet {
  /** Corners `[a0, b0, h0, a1, ...]` in cells of the world, anticlockwise seen from outside. */
  readonly corners: readonly number[];
  /** Outward unit normal. */
  readonly normal: WorldPoint;
  /** Of ruled surfaces: the piece of the directrix that it stands for. */
  readonly from?: number;
  readonly to?: number;
}

/** A part of a body's boundary that can be named, painted and drawn on by itself. */
export interface Surface {
  readonly name: SurfaceName;
  /** Names of further edges that it runs over: a smooth round side has one name for all of them. */
  readonly also: readonly SurfaceName[];
  readonly form: Form;
  /**
   * The exact boundary of a flat surface in its own coordinates, the outer ring first; the others have their rims, and
   * those with straight edges alone may leave it to their loops: see `surfaceRings`.
   */
  readonly rings: readonly (readonly Segment[])[];
  /** Of flat surfaces: the rings as corners in cells of the world, the outer one anticlockwise seen from outside. */
  readonly loops: readonly (readonly number[])[];
  readonly facets: readonly Facet[];
  /** Flat, bounded by one ring of straight edges. */
  readonly straight: boolean;
  /** Seen from both sides, such as a flat shape. */
  readonly bothSides: boolean;
  /** Of round surfaces that something was cut out of: their boundary, ring by ring, each piece beginning where the one before it ends. */
  readonly cut?: readonly (readonly Rim[])[];
  /** Of joined bodies: the surface of a part that it is a piece of, on which paint and artwork hang. */
  readonly from?: SurfaceOrigin;
}

/** A surface by the thing that has it. */
export interface SurfaceOrigin {
  readonly node: string;
  readonly name: SurfaceName;
  /** It is seen from within that thing, such as the wall of what was taken away. */
  readonly inside?: true;
}

/** A piece of a round surface's boundary: a curve in a plane, or `[a0, b0, h0, ...]` close together where it lies in none. */
export type Rim = { readonly frame: PlaneFrame; readonly segments: readonly Segment[] } | { readonly points: readonly number[] };

/** A line in space that bounds nothing. */
export interface Wire {
  readonly frame: PlaneFrame;
  readonly segments: readonly Segment[];
  readonly closed: boolean;
  /** Its points `[a0, b0, h0, ...]` in cells of the world, curves as chords; a closed one comes back to its start. */
  readonly points: readonly number[];
}

/** What a recipe evaluates to, in cells of the world. Immutable; its identity is what others keep results by. */
export interface Body {
  readonly surfaces: readonly Surface[];
  readonly wires: readonly Wire[];
  /** Points whose convex hull holds the body, up to the distance between curves and facets. */
  readonly points: readonly number[];
  readonly bounds: WorldBox;
  /** It has an inside. */
  readonly closed: boolean;
  /** No two of its points see each other through its outside: its surfaces never hide each other. */
  readonly convex: boolean;
}

/** A surface's form turned inside out, as the walls of what is taken away are. */
export function flippedForm(form: Form): Form {
  if (form.kind === 'flat') return { ...form, frame: { ...form.frame, normal: scaleWorld(form.frame.normal, -1) } };
  if (form.kind !== 'sphere') return { ...form, sense: -form.sense as 1 | -1 };
  const { hollow, ...sphere } = form;
  return hollow ? sphere : { ...sphere, hollow: true };
}

/** The surface with a name, or the one that runs over the edge with that name; null where there is none (any more). */
export function surfaceNamed(body: Body | null, name: SurfaceName): Surface | null {
  return body?.surfaces.find((surface) => surface.name === name || surface.also.includes(name)) ?? null;
}

/** The exact boundary of a flat surface in its own coordinates, the outer ring first; none for ruled ones. */
export function surfaceRings({ form, rings, loops }: Surface): readonly (readonly Segment[])[] {
  if (rings.length > 0 || form.kind !== 'flat') return rings;
  const { origin, u, v } = form.frame;
  return loops.map((loop) => {
    const points = worldPoints(loop).map((point) => {
      const from = subtractWorld(point, origin);
      return { u: dotWorld(from, u), v: dotWorld(from, v) };
    });
    return points.map((from, i): Segment => ({ kind: 'line', id: i + 1, from, to: points[(i + 1) % points.length]! }));
  });
}

/** The world box around points `[a0, b0, h0, ...]`. */
export function boundsOf(points: readonly number[]): WorldBox {
  const min = { a: Infinity, b: Infinity, h: Infinity };
  const max = { a: -Infinity, b: -Infinity, h: -Infinity };
  for (let i = 0; i < points.length; i += 3) {
    const [a, b, h] = [points[i]!, points[i + 1]!, points[i + 2]!];
    if (a < min.a) min.a = a;
    if (a > max.a) max.a = a;
    if (b < min.b) min.b = b;
    if (b > max.b) max.b = b;
    if (h < min.h) min.h = h;
    if (h > max.h) max.h = h;
  }
  return { min, max };
}

/** Points of the world as flat coordinates. */
export function flatPoints(points: readonly WorldPoint[]): readonly number[] {
  const flat: number[] = [];
  for (const { a, b, h } of points) flat.push(a, b, h);
  return flat;
}

/** Flat coordinates as points of the world. */
export function worldPoints(flat: readonly number[]): readonly WorldPoint[] {
  const points: WorldPoint[] = [];
  for (let i = 0; i < flat.length; i += 3) points.push({ a: flat[i]!, b: flat[i + 1]!, h: flat[i + 2]! });
  return points;
}

/** The box around some bodies, round surfaces exactly; null for none. */
export function boundsAll(bodies: readonly Body[]): WorldBox | null {
  let [min, max] = [
    { a: Infinity, b: Infinity, h: Infinity },
    { a: -Infinity, b: -Infinity, h: -Infinity },
  ];
  for (const body of bodies) {
    const box = roundBounds(body);
    min = { a: Math.min(min.a, box.min.a), b: Math.min(min.b, box.min.b), h: Math.min(min.h, box.min.h) };
    max = { a: Math.max(max.a, box.max.a), b: Math.max(max.b, box.max.b), h: Math.max(max.h, box.max.h) };
  }
  return min.a <= max.a ? { min, max } : null;
}

/** A body's bounds widened to what round surfaces reach beyond their facets. */
function roundBounds({ surfaces, bounds }: Body): WorldBox {
  let { min, max } = bounds;
  const take = (p: WorldPoint): void => {
    min = { a: Math.min(min.a, p.a), b: Math.min(min.b, p.b), h: Math.min(min.h, p.h) };
    max = { a: Math.max(max.a, p.a), b: Math.max(max.b, p.b), h: Math.max(max.h, p.h) };
  };
  for (const { form, rings } of surfaces) {
    if (form.kind === 'sphere') farthestOfSphere(form).forEach(take);
    // Rims of what is round bound its flat ends too.
    else if (form.kind === 'flat') for (const segment of rings.flat()) if (segment.kind !== 'line') farthestOfSegment(form.frame, segment).forEach(take);
  }
  return { min, max };
}

/** Where a sphere's cap reaches farthest along the axes, as far as those places lie on it. */
function farthestOfSphere({ centre, radius, axis, low }: Sphere): readonly WorldPoint[] {
  const along = (['a', 'b', 'h'] as const).flatMap((name) => [-1, 1].map((sign) => ({ a: 0, b: 0, h: 0, [name]: sign })));
  return along.filter((unit) => dotWorld(unit, axis) >= low).map((unit) => addWorld(centre, scaleWorld(unit, radius)));
}

/** Places along a curve in the world, close enough together to tell how far it reaches to a ten-thousandth of its size. */
function farthestOfSegment({ origin, u, v }: PlaneFrame, segment: Segment): readonly WorldPoint[] {
  return Array.from({ length: REACH_PLACES + 1 }, (_, i) => {
    const p = pointAt(segment, i / REACH_PLACES);
    return addWorld(origin, addWorld(scaleWorld(u, p.u), scaleWorld(v, p.v)));
  });
}

const REACH_PLACES = 64;
