import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { Outline, OutlinePoint } from './outline';
import { SAME_PARAMETER, SQUARE } from '../math/tolerances';

const QUARTER = Math.SQRT1_2;

/**
 * An ellipse along the plane's directions as four exact quarters, starting where u is largest and turning towards v.
 * @param radii in cells along u and v
 */
export function ellipseOutline(centre: PlanePoint, radii: PlanePoint): Outline {
  const [a, b] = [Math.abs(radii.u), Math.abs(radii.v)];
  const around = [[1, 0], [0, 1], [-1, 0], [0, -1]] as const; // prettier-ignore
  const points = around.map(([u, v], i): OutlinePoint => {
    const [nu, nv] = around[(i + 1) % 4]!;
    const at = (x: number, y: number): PlanePoint => ({ u: exactCells(centre.u + x * a), v: exactCells(centre.v + y * b) });
    return { id: i + 1, ...at(u, v), arc: { ...at(u + nu, v + nv), weight: QUARTER } };
  });
  return { points, closed: true };
}

/** The circle through three points, or null where they lie on one line. */
export function circleThrough(p: PlanePoint, q: PlanePoint, r: PlanePoint): { readonly centre: PlanePoint; readonly radius: number } | null {
  const [ax, ay, bx, by] = [q.u - p.u, q.v - p.v, r.u - p.u, r.v - p.v];
  const d = 2 * (ax * by - ay * bx);
  if (d === 0) return null;
  const [a2, b2] = [ax * ax + ay * ay, bx * bx + by * by];
  const [x, y] = [(by * a2 - ay * b2) / d, (ax * b2 - bx * a2) / d];
  const radius = Math.hypot(x, y);
  return Number.isFinite(radius) ? { centre: { u: p.u + x, v: p.v + y }, radius } : null;
}

/** Whether an outline is an ellipse along the plane's directions, and its measures; null for anything else. */
export function ellipseOf4(outline: Outline): { readonly centre: PlanePoint; readonly radii: PlanePoint } | null {
  const { points, closed } = outline;
  if (!closed || points.length !== 4 || points.some((p) => !p.arc || Math.abs(p.arc.weight - QUARTER) > SQUARE)) return null;
  const [east, north, west, south] = points as [OutlinePoint, OutlinePoint, OutlinePoint, OutlinePoint];
  const centre = { u: exactCells((east.u + west.u) / 2), v: exactCells((north.v + south.v) / 2) };
  const along = east.v === west.v && north.u === south.u && east.arc!.u === east.u && east.arc!.v === north.v;
  return along ? { centre, radii: { u: exactCells(Math.abs(east.u - west.u) / 2), v: exactCells(Math.abs(north.v - south.v) / 2) } } : null;
}

/** A regular polygon around a centre with one corner at a point. */
export function polygonOutline(centre: PlanePoint, corner: PlanePoint, count: number): Outline {
  const [x, y] = [corner.u - centre.u, corner.v - centre.v];
  const points = Array.from({ length: count }, (_, i): OutlinePoint => {
    if (i === 0) return { id: 1, u: exactCells(corner.u), v: exactCells(corner.v) };
    const rad = (2 * Math.PI * i) / count;
    const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
    return { id: i + 1, u: exactCells(centre.u + x * cos - y * sin), v: exactCells(centre.v + x * sin + y * cos) };
  });
  return { points, closed: true };
}

/** The arc of a circle from one point over a second to a third, in pieces of at most a quarter turn; null on one line. */
export function arcOutline(from: PlanePoint, over: PlanePoint, to: PlanePoint): Outline | null {
  const circle = circleThrough(from, over, to);
  if (!circle) return null;
  const { centre, radius } = circle;
  const angle = (p: PlanePoint): number => Math.atan2(p.v - centre.v, p.u - centre.u);
  const turn = (rad: number): number => ((rad % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  const start = angle(from);
  const anticlockwise = turn(angle(over) - start) < turn(angle(to) - start);
  const sweep = anticlockwise ? turn(angle(to) - start) : -turn(start - angle(to));
  const count = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 2) - SAME_PARAMETER));
  const step = sweep / count;
  const at = (rad: number, r: number): PlanePoint => ({ u: exactCells(centre.u + r * Math.cos(rad)), v: exactCells(centre.v + r * Math.sin(rad)) });
  const points = Array.from({ length: count + 1 }, (_, i): OutlinePoint => {
    const place = i === 0 ? from : i === count ? to : at(start + step * i, radius);
    const exact = { id: i + 1, u: exactCells(place.u), v: exactCells(place.v) };
    if (i === count) return exact;
    return { ...exact, arc: { ...at(start + step * (i + 0.5), radius / Math.cos(step / 2)), weight: Math.cos(step / 2) } };
  });
  return { points, closed: false };
}

/** How far handles of a smooth curve stand along its tangents, in parts of the distance to the neighbour (Catmull & Rom 1974). */
const TENSION = 1 / 3;

/**
 * A smooth curve through points: at each the tangent runs along the line between its neighbours, and the handles
 * stand in proportion to the distances, so that the curve does not swing out beside close points.
 */
export function smoothOutline(points: readonly PlanePoint[], closed: boolean): Outline {
  const n = points.length;
  const at = (i: number): PlanePoint | undefined => (closed ? points[(i + n) % n] : points[i]);
  return {
    closed,
    points: points.map((p, i): OutlinePoint => {
      const [before, after] = [at(i - 1), at(i + 1)];
      const base = { id: i + 1, u: exactCells(p.u), v: exactCells(p.v) };
      if (n < 3 || (!before && !after)) return base;
      const [x, y] = [(after ?? p).u - (before ?? p).u, (after ?? p).v - (before ?? p).v];
      const length = Math.hypot(x, y);
      if (length === 0) return base;
      const handle = (to: PlanePoint, sign: number): PlanePoint => {
        const k = (sign * TENSION * Math.hypot(to.u - p.u, to.v - p.v)) / length;
        return { u: exactCells(p.u + x * k), v: exactCells(p.v + y * k) };
      };
      return { ...base, ...(before && { into: handle(before, -1) }), ...(after && { out: handle(after, 1) }) };
    }),
  };
}
