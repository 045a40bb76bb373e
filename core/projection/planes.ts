import { apply33, invert33, type Mat33 } from '../math/matrix';
import { addWorld, crossWorld, scaleWorld, unitWorld, type Axis, type PlanePoint, type SheetPoint, type WorldPoint } from '../math/points';
import type { EyeMatrix, Projection } from './projection';
import { facesPicture, type ProjectionSetup } from './setup';
import { UNIT } from '../math/tolerances';

/**
 * The planes of the rosette, and `free` planes that stand at any angle. `left`: the left wall b·h; `right`: the right
 * wall a·h; `sheet`: the flat sheet.
 */
export type PlaneKind = 'floor' | 'left' | 'right' | 'sheet' | 'free';

/** The planes that two of the world's axes span. */
export type AxisPlaneKind = 'floor' | 'left' | 'right';

/** Where a free plane stands: a point of it in cells, and the unit directions of its u and v, square to each other. */
export interface Stance {
  readonly at: WorldPoint;
  readonly u: WorldPoint;
  readonly v: WorldPoint;
}

/**
 * A plane to draw on. `offset` is in cells along the axis that crosses the plane: h for the floor, a for the left
 * wall, b for the right wall; so it is the third coordinate of everything drawn there. Along a free plane's own normal
 * from its stance. 0 for the sheet.
 */
export interface Plane {
  readonly kind: PlaneKind;
  readonly offset: number;
  /** Of free planes only. */
  readonly stance?: Stance;
}

/** Whether two planes are the same place. */
export function samePlane(p: Plane, q: Plane): boolean {
  return p.kind === q.kind && p.offset === q.offset && (p.stance === q.stance || planeKey(p) === planeKey(q));
}

/** A text that is the same for the same plane. */
export function planeKey({ kind, offset, stance }: Plane): string {
  if (!stance) return `${kind} ${offset}`;
  const { at, u, v } = stance;
  return `${kind} ${offset} ${[at, u, v].map((p) => `${p.a},${p.b},${p.h}`).join(' ')}`;
}

/** The axes of a plane that two axes span; null for the sheet and for free planes. */
export function axesOf({ kind }: Plane): (typeof PLANE_AXES)[AxisPlaneKind] | null {
  return kind === 'sheet' || kind === 'free' ? null : PLANE_AXES[kind];
}

/** The flat sheet itself. */
export const SHEET_PLANE: Plane = { kind: 'sheet', offset: 0 };

/** The axes that u, v and the normal of a plane run along. */
export const PLANE_AXES: Readonly<Record<AxisPlaneKind, { readonly u: Axis; readonly v: Axis; readonly across: Axis }>> = {
  floor: { u: 'a', v: 'b', across: 'h' },
  left: { u: 'b', v: 'h', across: 'a' },
  right: { u: 'a', v: 'h', across: 'b' },
};

/** What planes are called. */
export const PLANE_NAMES: Readonly<Record<PlaneKind, string>> = {
  floor: 'floor',
  left: 'left wall',
  right: 'right wall',
  sheet: 'sheet',
  free: 'free plane',
};

/** What a plane is called in a projection: where a runs along the picture, the walls are a side wall and a facing wall. */
export function planeName(kind: PlaneKind, setup: ProjectionSetup): string {
  if (!facesPicture(setup)) return PLANE_NAMES[kind];
  return kind === 'left' ? 'side wall' : kind === 'right' ? 'facing wall' : PLANE_NAMES[kind];
}

/** What the directions and sides of a plane are called: by the axes that run along it, on the sheet by left, right, top and bottom. */
export interface SideNames {
  readonly u: string;
  readonly v: string;
  readonly lowU: string;
  readonly highU: string;
  readonly lowV: string;
  readonly highV: string;
}

/** The names of a plane's directions and sides; those of the sheet where there is none. */
export function sideNames(plane: Plane | null): SideNames {
  const axes = plane && axesOf(plane);
  if (!axes && plane?.kind !== 'free') return { u: 'across', v: 'down', lowU: 'Left', highU: 'Right', lowV: 'Top', highV: 'Bottom' };
  if (!axes) return { u: 'u', v: 'v', lowU: 'Low u', highU: 'High u', lowV: 'Low v', highV: 'High v' };
  // b runs to the left: what is high in b is seen on the left. The floor has no bottom; walls have.
  const [left, right] = axes.u === 'b' ? ['Right', 'Left'] : ['Left', 'Right'];
  if (axes.v === 'h') return { u: axes.u, v: axes.v, lowU: left, highU: right, lowV: 'Bottom', highV: 'Top' };
  return { u: axes.u, v: axes.v, lowU: `Low ${axes.u}`, highU: `High ${axes.u}`, lowV: `Low ${axes.v}`, highV: `High ${axes.v}` };
}

/** A plane laid out in the world: its origin, the world vectors of one cell along u and v, and a unit normal. */
export interface PlaneFrame {
  readonly origin: WorldPoint;
  readonly u: WorldPoint;
  readonly v: WorldPoint;
  /**
   * Unit normal along which depth grows: up from the floor, and from the walls to the side from which they are seen in
   * the common views, against a and b. It belongs to the plane, not to the view, so that no size changes with it.
   */
  readonly normal: WorldPoint;
}

/**
 * The frame of a plane in the world, in document units, or null for the sheet, which has no place in the world.
 * @param cell edge of a grid cell in document units
 */
export function planeFrame(plane: Plane, cell: number): PlaneFrame | null {
  if (plane.kind === 'free') return freeFrame(plane, cell);
  const axes = axesOf(plane);
  if (!axes) return null;
  const along = (axis: Axis, length: number): WorldPoint => ({ a: axis === 'a' ? length : 0, b: axis === 'b' ? length : 0, h: axis === 'h' ? length : 0 });
  const origin = along(axes.across, plane.offset * cell);
  const normal = along(axes.across, plane.kind === 'floor' ? 1 : -1);
  return { origin, u: along(axes.u, cell), v: along(axes.v, cell), normal };
}

function freeFrame({ offset, stance }: Plane, cell: number): PlaneFrame | null {
  const normal = stance && unitWorld(crossWorld(stance.u, stance.v));
  if (!stance || !normal) return null;
  const origin = scaleWorld(addWorld(stance.at, scaleWorld(normal, offset)), cell);
  return { origin, u: scaleWorld(stance.u, cell), v: scaleWorld(stance.v, cell), normal };
}

/** The world point of a plane point given in cells. */
export function worldFromPlane({ origin, u, v }: PlaneFrame, p: PlanePoint): WorldPoint {
  return {
    a: origin.a + u.a * p.u + v.a * p.v,
    b: origin.b + u.b * p.u + v.b * p.v,
    h: origin.h + u.h * p.u + v.h * p.v,
  };
}

/** The homography from a frame's (u, v) to the sheet. For a parallel projection its last row is (0, 0, 1). */
export function sheetFromFrame({ matrix: m }: EyeMatrix, { origin: o, u, v }: PlaneFrame): Mat33 {
  const row = (r: number, p: WorldPoint, w: number): number => (m[r] ?? 0) * p.a + (m[r + 1] ?? 0) * p.b + (m[r + 2] ?? 0) * p.h + (m[r + 3] ?? 0) * w;
  return [row(0, u, 0), row(0, v, 0), row(0, o, 1), row(4, u, 0), row(4, v, 0), row(4, o, 1), row(8, u, 0), row(8, v, 0), row(8, o, 1)];
}

/** The homography from plane points in cells to the sheet, the sheet plane included (u right, v down there). */
export function sheetFromPlane(projection: Projection, plane: Plane, cell: number): Mat33 {
  const frame = planeFrame(plane, cell);
  return frame ? sheetFromFrame(projection, frame) : [cell, 0, 0, 0, cell, 0, 0, 0, 1];
}

/** The plane point, in cells, under a sheet point; null where the plane is seen edge-on. Inverse of `sheetFromPlane`. */
export function planeFromSheet(projection: Projection, plane: Plane, cell: number, at: SheetPoint): PlanePoint | null {
  const inverse = invert33(sheetFromPlane(projection, plane, cell));
  const p = inverse && apply33(inverse, at.x, at.y);
  return p ? { u: p.x, v: p.y } : null;
}

const NOWHERE: PlaneFrame = { origin: { a: 0, b: 0, h: 0 }, u: { a: 1, b: 0, h: 0 }, v: { a: 0, b: 1, h: 0 }, normal: { a: 0, b: 0, h: 1 } };

/** Drawn area over true area of a plane under a parallel projection; 0 where it is seen edge-on. */
export function planeDeterminant(projection: Projection, plane: Plane, cell: number): number {
  const m = sheetFromPlane(projection, plane, cell);
  return Math.abs(m[0] * m[4] - m[1] * m[3]) / (m[8] * m[8]) / (cell * cell);
}

/** A plane point as a, b, h in cells; on the sheet only u and v have a meaning, given as a and b. */
export function cellsFromPlane(plane: Plane, p: PlanePoint): Readonly<Record<Axis, number>> {
  if (plane.kind === 'free') return worldFromPlane(freeFrame(plane, 1) ?? NOWHERE, p);
  const axes = axesOf(plane);
  if (!axes) return { a: p.u, b: p.v, h: 0 };
  const cells: Record<Axis, number> = { a: 0, b: 0, h: 0 };
  cells[axes.u] = p.u;
  cells[axes.v] = p.v;
  cells[axes.across] = plane.offset;
  return cells;
}

/** The unit directions in which text on a surface with this normal runs (`right`) and stacks its lines (`down`). */
export function readingDirections(normal: WorldPoint): { readonly right: WorldPoint; readonly down: WorldPoint } {
  const level = Math.abs(normal.a) + Math.abs(normal.b) < UNIT;
  const right = level ? { a: 1, b: 0, h: 0 } : (unitWorld({ a: -normal.b, b: normal.a, h: 0 }) ?? { a: 1, b: 0, h: 0 });
  const up = crossWorld(normal, right);
  return { right, down: scaleWorld(up, -1) };
}
