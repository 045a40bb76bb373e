/**
 * Points of the four frames. The field names tell the frames apart, so that one cannot be handed in for another.
 */

/** World, right-handed, in document units: a right and away, b left and away, h up. */
export interface WorldPoint {
  readonly a: number;
  readonly b: number;
  readonly h: number;
}

/** A point of a plane, in cells along the plane's own u and v. */
export interface PlanePoint {
  readonly u: number;
  readonly v: number;
}

/** A point of the sheet in document units, x right, y down, origin at the top left corner. */
export interface SheetPoint {
  readonly x: number;
  readonly y: number;
}

/** An axis of the world. */
export type Axis = 'a' | 'b' | 'h';

/** The sum of two vectors of the world. */
export function addWorld(p: WorldPoint, q: WorldPoint): WorldPoint {
  return { a: p.a + q.a, b: p.b + q.b, h: p.h + q.h };
}

/** A vector of the world times a number. */
export function scaleWorld(p: WorldPoint, k: number): WorldPoint {
  return { a: p.a * k, b: p.b * k, h: p.h * k };
}

/** The vector from `q` to `p`. */
export function subtractWorld(p: WorldPoint, q: WorldPoint): WorldPoint {
  return { a: p.a - q.a, b: p.b - q.b, h: p.h - q.h };
}

/** The inner product; of unit vectors, the cosine between them. */
export function dotWorld(p: WorldPoint, q: WorldPoint): number {
  return p.a * q.a + p.b * q.b + p.h * q.h;
}

/** The cross product p x q in the right-handed world. */
export function crossWorld(p: WorldPoint, q: WorldPoint): WorldPoint {
  return { a: p.b * q.h - p.h * q.b, b: p.h * q.a - p.a * q.h, h: p.a * q.b - p.b * q.a };
}

/** The length of a vector of the world, in its units. */
export function lengthWorld(p: WorldPoint): number {
  return Math.hypot(p.a, p.b, p.h);
}

/** The unit vector along `p`, or null for a vector without length. */
export function unitWorld(p: WorldPoint): WorldPoint | null {
  const length = lengthWorld(p);
  return length > 0 && Number.isFinite(length) ? scaleWorld(p, 1 / length) : null;
}

/** The distance of two places of the sheet, in its units. */
export function sheetDistance(p: SheetPoint, q: SheetPoint): number {
  return Math.hypot(p.x - q.x, p.y - q.y);
}
