import { exactCells } from '../math/exact';
import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { TICKS_PER_CELL, UNIT } from '../math/tolerances';
import { mapPaint } from '../paint/paint';
import { axesOf, planeFrame, readingDirections, type AxisPlaneKind, type Plane, type PlaneFrame } from '../projection/planes';
import { mapOutline, mapPoint, type Outline } from '../shape/outline';
import type { DepthWays } from '../geometry/depth-recipe';
import { artworkFrame, type ArtworkAnchor } from '../geometry/anchor';
import { carriedFrame } from '../geometry/moved-body';
import { carryDirection, carryPoint, type RigidMap } from '../geometry/rigid';
import { planeReadingFrame } from '../geometry/reading';
import type { Anchor, DimensionNode, GroupNode, PlacementNode, ShapeNode } from './types';

/** A plane carried along, and where its points come to lie on the plane that then has them. */
interface CarriedPlane {
  readonly plane: Plane;
  readonly point: (p: PlanePoint) => PlanePoint;
  /** 1 where depth still grows the same way, and where u still turns towards v. */
  readonly depth: 1 | -1;
  readonly turns: 1 | -1;
}

/** A place on whole ticks, as documents keep it. */
export const exactPoint = ({ a, b, h }: WorldPoint): WorldPoint => ({ a: exactCells(a), b: exactCells(b), h: exactCells(h) });

/** A plane of the axes stays one where the move allows it; any other becomes a free plane. Null on the sheet. */
function carriedPlane(plane: Plane, map: RigidMap): CarriedPlane | null {
  const own = planeFrame(plane, 1);
  if (!own) return null;
  const there = carriedFrame(own, map);
  const target = axisPlaneOf(there) ?? freePlaneOf(there);
  const frame = planeFrame(target, 1)!;
  const point = (p: PlanePoint): PlanePoint => {
    const from = subtractWorld(addWorld(there.origin, addWorld(scaleWorld(there.u, p.u), scaleWorld(there.v, p.v))), frame.origin);
    return { u: exactCells(dotWorld(from, frame.u)), v: exactCells(dotWorld(from, frame.v)) };
  };
  const turned = dotWorld(there.u, frame.u) * dotWorld(there.v, frame.v) - dotWorld(there.u, frame.v) * dotWorld(there.v, frame.u);
  return { plane: target, point, depth: dotWorld(there.normal, frame.normal) < 0 ? -1 : 1, turns: turned < 0 ? -1 : 1 };
}

const AXIS_PLANES: readonly AxisPlaneKind[] = ['floor', 'left', 'right'];

function axisPlaneOf({ origin, u, normal }: PlaneFrame): Plane | null {
  const along = (p: WorldPoint): boolean => [p.a, p.b, p.h].filter((n) => Math.abs(n) > UNIT).length === 1;
  if (!along(u)) return null;
  for (const kind of AXIS_PLANES) {
    const { across } = axesOf({ kind, offset: 0 })!;
    if (Math.abs(Math.abs(normal[across]) - 1) < UNIT) return { kind, offset: exactCells(origin[across]) };
  }
  return null;
}

function freePlaneOf({ origin, u, v }: PlaneFrame): Plane {
  return { kind: 'free', offset: 0, stance: { at: exactPoint(origin), u, v } };
}

/** A shape carried along as a shape of its own; null on the sheet, which has no place in the world. */
export function carriedShape(node: ShapeNode, map: RigidMap): ShapeNode | null {
  const carried = carriedPlane(node.plane, map);
  if (!carried) return null;
  const { plane, point, depth } = carried;
  const outline: Outline = mapOutline(node.outline, (p) => mapPoint(p, point));
  const surfaces = node.surfaces && Object.fromEntries(Object.entries(node.surfaces).map(([name, paint]) => [name, mapPaint(paint, point)]));
  const ways = mapWays(node, (n) => n * depth, point);
  return {
    ...node,
    plane,
    outline,
    depth: node.depth === 0 ? 0 : node.depth * depth,
    ...ways,
    paint: mapPaint(node.paint, point),
    ...(surfaces && { surfaces }),
  };
}

/** How depth runs where lengths along the normal and places of the plane are mapped. */
export function mapWays({ start, lean }: DepthWays, along: (cells: number) => number, point: (p: PlanePoint) => PlanePoint): DepthWays {
  const [to, from] = lean ? [point(lean), point({ u: 0, v: 0 })] : [null, null];
  return {
    ...(start !== undefined && { start: start === 0 ? 0 : along(start) }),
    ...(to && { lean: { u: exactCells(to.u - from.u), v: exactCells(to.v - from.v) } }),
  };
}

/** How far the end is shifted after the outline was turned or mirrored in its plane: it turns with it. */
export function turnedLean({ lean }: DepthWays, before: Outline, after: Outline): Pick<DepthWays, 'lean'> {
  const turned = lean && before.points.length === after.points.length ? planeMove(before.points, after.points) : null;
  if (!lean || !turned) return lean ? { lean } : {};
  const { cos, sin, flip } = turned;
  return { lean: { u: exactCells(lean.u * cos - lean.v * flip * sin), v: exactCells(lean.u * sin + lean.v * flip * cos) } };
}

/** Text around a round side with its line carried along; a mirror leaves it to be read backwards. */
export function carriedLettering({ lettering }: GroupNode, map: RigidMap): Pick<GroupNode, 'lettering'> {
  if (!lettering?.around) return {};
  const { mirrored, ...around } = lettering.around;
  const up = exactPoint(around.meets ? carryPoint(map, around.up) : carryDirection(map, around.up));
  const [u, v] = [carryDirection(map, around.u), carryDirection(map, around.v)];
  const carried = { ...around, at: exactPoint(carryPoint(map, around.at)), u, v, up, ...((mirrored ?? false) !== map.mirrors && { mirrored: true as const }) };
  return { lettering: { ...lettering, around: carried } };
}

/** A dimension carried along; null on the sheet. */
export function carriedDimension(node: DimensionNode, map: RigidMap): DimensionNode | null {
  const carried = carriedPlane(node.plane, map);
  if (!carried) return null;
  const { plane, point, turns } = carried;
  const [origin, along] = [point({ u: 0, v: 0 }), point({ u: 1, v: 0 })];
  const swapped = Math.abs(along.v - origin.v) > Math.abs(along.u - origin.u);
  const anchor = (at: Anchor): Anchor => ({ ...at, ...point(at) });
  return {
    ...node,
    plane,
    from: anchor(node.from),
    to: anchor(node.to),
    apart: node.apart === 0 ? 0 : node.apart * turns,
    along: node.along === 'line' || !swapped ? node.along : node.along === 'u' ? 'v' : 'u',
  };
}

/** A placement on a plane in space carried along; null on faces, whose hosts are carried, and on the sheet. */
export function carriedPlacement(node: PlacementNode, map: RigidMap): PlacementNode | null {
  if (node.target.kind === 'face') return null;
  const frame = planeReadingFrame(node.target.plane);
  const carried = carriedPlane(node.target.plane, map);
  if (!frame || !carried) return null;
  const normal = planeReadingFrame(carried.plane)!.normal;
  return { ...node, target: { kind: 'plane', plane: carried.plane }, anchor: carriedAnchor(node.anchor, frame.normal, frame.origin, map, normal) };
}

/**
 * An anchor carried along with its plane.
 * @param normal of the plane now, with a place `on` it
 * @param then the normal by which it is read afterwards: the carried one, or its opposite
 */
export function carriedAnchor(anchor: ArtworkAnchor, normal: WorldPoint, on: WorldPoint, map: RigidMap, then = carryDirection(map, normal)): ArtworkAnchor {
  const own = artworkFrame(anchor, normal, on);
  const { width, height } = anchor;
  const middle = addWorld(own.origin, addWorld(scaleWorld(own.u, width / 2), scaleWorld(own.v, height / 2)));
  const { right, down } = readingDirections(then);
  const [centre, u, v] = [carryPoint(map, middle), carryDirection(map, own.u), carryDirection(map, own.v)];
  const mirrored = dotWorld(crossWorld(u, v), crossWorld(right, down)) < 0;
  const along = mirrored ? scaleWorld(u, -1) : u;
  const turn = (Math.atan2(dotWorld(along, down), dotWorld(along, right)) * 180) / Math.PI;
  const whole = Math.abs(turn - Math.round(turn)) < 1e-9 ? Math.round(turn) : turn;
  const at = subtractWorld(centre, addWorld(scaleWorld(right, width / 2), scaleWorld(down, height / 2)));
  return { at: exactPoint(at), width, height, ...(whole !== 0 && { turn: whole }), ...(mirrored && { mirrored: true }) };
}

/** Cells by which corners may miss a rigid move and still follow it: what rounding to ticks leaves on both sides. */
const RIGID = 3 / TICKS_PER_CELL;

/**
 * The rigid move that carried a shape into what it is now: a displacement, a turn in its plane, a mirror, another plane,
 * or all of them. Null where it was not only moved; exact for displacements.
 */
export function rigidBetween(before: ShapeNode, after: ShapeNode): RigidMap | null {
  const [from, to] = [planeFrame(before.plane, 1), planeFrame(after.plane, 1)];
  const [p, q] = [before.outline.points, after.outline.points];
  if (!from || !to || p.length !== q.length || p.length < 2 || p.some((point, i) => point.id !== q[i]!.id)) return null;
  const inPlane = planeMove(p, q);
  if (!inPlane) return null;
  const { cos, sin, flip } = inPlane;
  // Images of the plane's own directions, then of the world's.
  const u = addWorld(scaleWorld(to.u, cos), scaleWorld(to.v, sin));
  const v = scaleWorld(addWorld(scaleWorld(to.u, -sin), scaleWorld(to.v, cos)), flip);
  const n = scaleWorld(to.normal, before.depth * after.depth < 0 ? -1 : 1);
  const image = (e: WorldPoint): WorldPoint =>
    addWorld(addWorld(scaleWorld(u, dotWorld(e, from.u)), scaleWorld(v, dotWorld(e, from.v))), scaleWorld(n, dotWorld(e, from.normal)));
  const columns = [image({ a: 1, b: 0, h: 0 }), image({ a: 0, b: 1, h: 0 }), image({ a: 0, b: 0, h: 1 })] as const;
  const corner = addWorld(to.origin, addWorld(scaleWorld(to.u, q[0]!.u), scaleWorld(to.v, q[0]!.v)));
  const was = addWorld(from.origin, addWorld(scaleWorld(from.u, p[0]!.u), scaleWorld(from.v, p[0]!.v)));
  const by = exactPoint(subtractWorld(corner, image(was)));
  const mirrors = dotWorld(crossWorld(columns[0], columns[1]), columns[2]) < 0;
  return { columns, by, mirrors };
}

interface PlaneMove {
  readonly cos: number;
  readonly sin: number;
  readonly flip: 1 | -1;
}

function planeMove(p: readonly PlanePoint[], q: readonly PlanePoint[]): PlaneMove | null {
  const [first, there] = [p[0]!, q[0]!];
  const shifts = (i: number): boolean => Math.abs(q[i]!.u - p[i]!.u - (there.u - first.u)) + Math.abs(q[i]!.v - p[i]!.v - (there.v - first.v)) < 1e-9;
  if (p.every((_, i) => shifts(i))) return { cos: 1, sin: 0, flip: 1 };
  // The farthest corner from the first tells the turn best.
  const far = p.reduce((best, point, i) => (distance(point, first) > distance(p[best]!, first) ? i : best), 0);
  const [x, y, s, t] = [p[far]!.u - first.u, p[far]!.v - first.v, q[far]!.u - there.u, q[far]!.v - there.v];
  const square = x * x + y * y;
  if (square === 0) return null;
  for (const flip of [1, -1] as const) {
    const [cos, sin] = [(x * s + flip * y * t) / square, (x * t - flip * y * s) / square];
    const length = Math.hypot(cos, sin);
    if (Math.abs(length - 1) * Math.sqrt(square) > RIGID) continue;
    const [c, d] = [cos / length, sin / length];
    const fits = p.every((point, i) => {
      const [u, v] = [point.u - first.u, (point.v - first.v) * flip];
      return Math.abs(there.u + u * c - v * d - q[i]!.u) < RIGID && Math.abs(there.v + u * d + v * c - q[i]!.v) < RIGID;
    });
    if (fits) return { cos: c, sin: d, flip };
  }
  return null;
}

const distance = (p: PlanePoint, q: PlanePoint): number => Math.hypot(p.u - q.u, p.v - q.v);

/** Whether a move carries every direction onto itself. */
export function keepsDirections({ columns: [p, q, r] }: RigidMap): boolean {
  return p.a === 1 && q.b === 1 && r.h === 1 && !p.b && !p.h && !q.a && !q.h && !r.a && !r.b;
}
