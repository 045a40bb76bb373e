import { exactCells } from '../math/exact';
import { crossWorld, dotWorld, scaleWorld, subtractWorld, unitWorld, type Axis, type PlanePoint, type SheetPoint, type WorldPoint } from '../math/points';
import type { Plane, Stance } from './planes';
import type { Projection } from './projection';
import { SQUARE, UNIT } from '../math/tolerances';

const exact = ({ a, b, h }: WorldPoint): WorldPoint => ({ a: exactCells(a), b: exactCells(b), h: exactCells(h) });

/**
 * The free plane through three points in cells: u runs from the first to the second, v to the side of the third. Null
 * where they lie on one line.
 */
export function planeThrough(p: WorldPoint, q: WorldPoint, r: WorldPoint): Plane | null {
  const u = unitWorld(subtractWorld(q, p));
  const across = subtractWorld(r, p);
  const v = u && unitWorld(subtractWorld(across, scaleWorld(u, dotWorld(across, u))));
  if (!u || !v || Math.abs(dotWorld(u, v)) > SQUARE) return null;
  return { kind: 'free', offset: 0, stance: { at: exact(p), u, v } };
}

/**
 * The free plane through an edge, at an angle to the level: u runs along the edge, v rises by the angle to the left of
 * it. Null for an upright edge, to the left of which there is no level direction.
 * @param deg from -180 to 180; 0 is level, 90 upright
 */
export function planeAtAngle(p: WorldPoint, q: WorldPoint, deg: number): Plane | null {
  const u = unitWorld(subtractWorld(q, p));
  const level = u && unitWorld(crossWorld({ a: 0, b: 0, h: 1 }, u));
  if (!u || !level) return null;
  const up = crossWorld(u, level);
  const rad = (deg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
  const v = { a: level.a * cos + up.a * sin, b: level.b * cos + up.b * sin, h: level.h * cos + up.h * sin };
  return { kind: 'free', offset: 0, stance: { at: exact(p), u, v: unitWorld(v)! } };
}

/** The free plane in which a slanting face lies, with u level where it can be, and its normal pointing out of the face. */
export function planeAlongFace(face: { readonly corners: readonly WorldPoint[]; readonly normal: WorldPoint }, cell: number): Plane | null {
  const [corner] = face.corners;
  const level = unitWorld(crossWorld({ a: 0, b: 0, h: 1 }, face.normal)) ?? { a: 1, b: 0, h: 0 };
  const v = unitWorld(crossWorld(face.normal, level));
  if (!corner || !v) return null;
  return { kind: 'free', offset: 0, stance: { at: exact(scaleWorld(corner, 1 / cell)), u: level, v } };
}

/** The plane in which a face lies: one that two axes span, or a free one. Null for a face without corners. */
export function planeOfCorners(face: { readonly corners: readonly WorldPoint[]; readonly normal: WorldPoint }, cell: number): Plane | null {
  const [corner] = face.corners;
  if (!corner) return null;
  for (const [axis, kind] of [
    ['h', 'floor'],
    ['a', 'left'],
    ['b', 'right'],
  ] as const) {
    if (Math.abs(Math.abs(face.normal[axis]) - 1) < UNIT) return { kind, offset: exactCells(corner[axis] / cell) };
  }
  return planeAlongFace(face, cell);
}

/** How steep a free plane is, in degrees from the level, 0 to 90. */
export function slopeOf({ u, v }: Stance): number {
  const normal = crossWorld(u, v);
  return (Math.acos(Math.min(1, Math.abs(normal.h))) * 180) / Math.PI;
}

/**
 * The directions in which the axes are drawn at a point of the sheet plane, in cells of the sheet: parallel everywhere,
 * or to their vanishing points.
 */
export function axesAt(projection: Projection, cell: number, at: PlanePoint): readonly { readonly along: Axis; readonly du: number; readonly dv: number }[] {
  const here: SheetPoint = { x: at.u * cell, y: at.v * cell };
  return (['a', 'b', 'h'] as const).flatMap((along) => {
    const m = projection.matrix;
    const k = { a: 0, b: 1, h: 2 }[along];
    // The image of the axis's direction: a point at infinity, or its vanishing point.
    const [x, y, w] = [m[k]!, m[k + 4]!, m[k + 8]!];
    const [dx, dy] = Math.abs(w) < 1e-15 ? [x, y] : [x / w - here.x, y / w - here.y];
    const length = Math.hypot(dx, dy);
    return length > 0 ? [{ along, du: dx / length, dv: dy / length }] : [];
  });
}
