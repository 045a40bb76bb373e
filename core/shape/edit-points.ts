import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { pointsOfSegments } from './from-segments';
import { allPoints, edgeLength, mapOutline, mapPoint, outlineOfRings, ringsOf, type Outline, type OutlinePoint } from './outline';
import { isStraight, outlineSegments, type Segment } from './segments';
import { nearestParameter, reverseSegment, splitSegment } from './split';
import { pointAt } from './segments';
import { SAME_PLACE } from '../math/tolerances';

/** A place on a boundary: the edge by the id of the point at which it starts, and a parameter from 0 to 1 along it. */
export interface EdgePlace {
  readonly edge: number;
  readonly t: number;
  readonly at: PlanePoint;
  /** Distance in cells from the point that was asked about. */
  readonly off: number;
}

/** Changes the one ring that has a point of this id; null where none has. */
function inRing(outline: Outline, id: number, change: (ring: Outline, i: number) => readonly OutlinePoint[] | null): Outline | null {
  const rings = ringsOf(outline);
  const which = rings.findIndex((ring) => ring.points.some((p) => p.id === id));
  const ring = rings[which];
  const points = ring && change(ring, ring.points.findIndex((p) => p.id === id)); // prettier-ignore
  if (!points) return null;
  const all = rings.map((r, k) => (k === which ? points : r.points));
  const [outer = [], ...holes] = all;
  return holes.length > 0 ? { points: outer, closed: outline.closed, holes } : { points: outer, closed: outline.closed };
}

const freshId = (outline: Outline): number => Math.max(0, ...allPoints(outline).map((p) => p.id)) + 1;

/** The place of a boundary that is nearest to a point; corners' roundings belong to no edge. Null for no edge at all. */
export function nearestPlace(outline: Outline, to: PlanePoint): EdgePlace | null {
  let best: EdgePlace | null = null;
  for (const segment of ringsOf(outline).flatMap((ring) => plainSegments(ring))) {
    const t = nearestParameter(segment, to);
    const at = pointAt(segment, t);
    const off = Math.hypot(at.u - to.u, at.v - to.v);
    if (!best || off < best.off) best = { edge: segment.id, t, at, off };
  }
  return best;
}

/** The edges of a ring without roundings. */
function plainSegments(ring: Outline): readonly Segment[] {
  return outlineSegments({ ...ring, points: ring.points.map(({ corner, ...p }) => p) });
}

/** The outline with one more point on an edge, its course unchanged. Null where there is no such edge. */
export function addPoint(outline: Outline, { edge, t, at }: Pick<EdgePlace, 'edge' | 't' | 'at'>): { readonly outline: Outline; readonly id: number } | null {
  const id = freshId(outline);
  const changed = inRing(outline, edge, ({ points, closed }, i) => {
    const p = points[i]!;
    const q = points[i + 1] ?? (closed ? points[0] : undefined);
    if (!q || t <= 0 || t >= 1) return null;
    if (isStraight(p, q)) return [...points.slice(0, i + 1), { id, u: exactCells(at.u), v: exactCells(at.v) }, ...points.slice(i + 1)];
    const segment = plainSegments({ points, closed }).find((s) => s.id === edge);
    if (!segment) return null;
    const [first, second] = splitSegment(segment, t);
    const [a, b] = pointsOfSegments(
      [
        { ...first, id: p.id },
        { ...second, id },
      ],
      false,
    ) as [OutlinePoint, OutlinePoint];
    const into = second.kind === 'cubic' ? { into: exactPoint(second.into) } : {};
    const next = points.map((o, k): OutlinePoint => (k === i ? { ...p, ...curveOf(a) } : o === q && second.kind === 'cubic' ? { ...o, ...into } : o));
    return [...next.slice(0, i + 1), { ...b, id }, ...next.slice(i + 1)];
  });
  return changed && { outline: changed, id };
}

const exactPoint = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });
const curveOf = ({ out, arc }: OutlinePoint): Partial<OutlinePoint> => ({ ...(out && { out }), ...(arc && { arc }) });

/**
 * The outline without some of its points; what was curved into and out of a removed one goes straight, or on along the
 * handles of its neighbours. A hole of which fewer than three points are left goes, an outline of which fewer than two
 * are left is null.
 */
export function removePoints(outline: Outline, ids: ReadonlySet<number>): Outline | null {
  const rings = ringsOf(outline).map(({ points, closed }) => {
    const left = points.filter((p) => !ids.has(p.id));
    return left.map((p): OutlinePoint => {
      const i = points.indexOf(p);
      const next = points[i + 1] ?? (closed ? points[0] : undefined);
      if (!next || !ids.has(next.id) || !p.arc) return p;
      const { arc, ...plain } = p;
      return plain;
    });
  });
  const [outer = [], ...holes] = rings;
  if (outer.length < (outline.closed ? 3 : 2)) return null;
  return outlineOfRings([outer, ...holes.filter((hole) => hole.length >= 3)], outline.closed);
}

/** Chosen points rounded or bevelled by a size in cells, kept as a number; 0 makes them sharp again. */
export function setCorners(outline: Outline, ids: ReadonlySet<number>, kind: 'round' | 'bevel', size: number): Outline {
  return mapOutline(outline, (point) => {
    if (!ids.has(point.id)) return point;
    const { corner, ...sharp } = point;
    return size > 0 ? { ...sharp, corner: { kind, size: exactCells(size) } } : sharp;
  });
}

/** Chosen points turned into smooth ones, with handles along the line between their neighbours; roundings go. */
export function smoothPoints(outline: Outline, ids: ReadonlySet<number>): Outline {
  return mapRings(outline, ({ points, closed }) =>
    points.map((p, i): OutlinePoint => {
      if (!ids.has(p.id)) return p;
      const before = points[i - 1] ?? (closed ? points.at(-1) : undefined);
      const after = points[i + 1] ?? (closed ? points[0] : undefined);
      const [x, y] = [(after ?? p).u - (before ?? p).u, (after ?? p).v - (before ?? p).v];
      const length = Math.hypot(x, y);
      if (length === 0) return p;
      const handle = (to: PlanePoint, sign: number): PlanePoint => {
        const k = (sign * Math.hypot(to.u - p.u, to.v - p.v)) / 3 / length;
        return exactPoint({ u: p.u + x * k, v: p.v + y * k });
      };
      const { corner, arc, ...base } = p;
      return { ...base, ...(before && { into: handle(before, -1) }), ...(after && { out: handle(after, 1) }) };
    }),
  );
}

/** Chosen points without handles or roundings; edges between two such are straight. */
export function sharpenPoints(outline: Outline, ids: ReadonlySet<number>): Outline {
  return mapRings(outline, ({ points, closed }) =>
    points.map((p, i): OutlinePoint => {
      const { into, out, corner, ...sharp } = p;
      const next = points[i + 1] ?? (closed ? points[0] : undefined);
      if (ids.has(p.id) && next && ids.has(next.id)) {
        const { arc, ...straight } = sharp;
        return straight;
      }
      return ids.has(p.id) ? sharp : p;
    }),
  );
}

function mapRings(outline: Outline, change: (ring: Outline) => readonly OutlinePoint[]): Outline {
  const [points = [], ...holes] = ringsOf(outline).map(change);
  return holes.length > 0 ? { points, closed: outline.closed, holes } : { points, closed: outline.closed };
}

/** Chosen points moved, their handles with them, and the arcs between two that both move. */
export function movePoints(outline: Outline, ids: ReadonlySet<number>, du: number, dv: number): Outline {
  const move = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u + du), v: exactCells(v + dv) });
  return mapRings(outline, ({ points, closed }) =>
    points.map((p, i) => {
      if (!ids.has(p.id)) return p;
      const next = points[i + 1] ?? (closed ? points[0] : undefined);
      const moved = mapPoint(p, move);
      return p.arc && !(next && ids.has(next.id)) ? { ...moved, arc: p.arc } : moved;
    }),
  );
}

/** Which end of an edge gives way when its length is set. */
export type MovingEnd = 'start' | 'end';

/**
 * The outline with a straight edge of another length: its far end (or its start) moves along it, and where the next
 * edge runs along one of the plane's directions, that whole edge moves, so that a box stays a box.
 * @param id the point at which the edge starts
 * @param length in cells
 * @returns null where there is no such edge, it is curved, or has no direction
 */
export function setEdgeLength(outline: Outline, id: number, length: number, moving: MovingEnd): Outline | null {
  return inRing(outline, id, ({ points, closed }, i) => {
    const [p, q] = [points[i]!, points[i + 1] ?? (closed ? points[0] : undefined)];
    const now = q && edgeLength(p, q);
    if (!q || !now || !isStraight(p, q) || !(length > 0)) return null;
    const k = (length - now) / now;
    const [du, dv] = [exactCells((q.u - p.u) * k), exactCells((q.v - p.v) * k)];
    const sign = moving === 'end' ? 1 : -1;
    const at = (k0: number): OutlinePoint | undefined => points[closed ? (k0 + points.length) % points.length : k0];
    const moved = moving === 'end' ? q : p;
    const beyond = moving === 'end' ? at(i + 2) : at(i - 1);
    const stays = moving === 'end' ? p : q;
    // The edge beside goes along where it is square to this one and both run along the plane's directions.
    const square = beyond && beyond !== stays && isAlong(moved, beyond) && isAlong(p, q) && !runsOn(p, q, moved, beyond);
    const goes = new Set([moved.id, ...(square ? [beyond.id] : [])]);
    return movePoints({ points, closed }, goes, sign * du, sign * dv).points;
  });
}

const isAlong = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u || p.v === q.v;
const runsOn = (p: PlanePoint, q: PlanePoint, r: PlanePoint, s: PlanePoint): boolean => (p.u === q.u && r.u === s.u) || (p.v === q.v && r.v === s.v);

/** A line closed, or an outline opened at a point, which then is both its ends. Null where nothing changes. */
export function setClosed(outline: Outline, closed: boolean, at?: number): Outline | null {
  if (outline.closed === closed || (closed && outline.points.length < 3)) return null;
  if (closed) return { points: outline.points, closed };
  const i = Math.max(0, outline.points.findIndex((p) => p.id === at)); // prettier-ignore
  const turned = [...outline.points.slice(i), ...outline.points.slice(0, i)];
  const first = turned[0];
  if (!first) return null;
  const { arc, out, ...end } = first;
  return { points: [...turned, { ...end, id: freshId(outline) }], closed };
}

/** A line in two at one of its points, or an outline opened there. Null where the point is an end. */
export function splitAt(outline: Outline, id: number): readonly Outline[] | null {
  if (outline.closed) {
    const opened = setClosed({ points: outline.points, closed: true }, false, id);
    return opened && [opened];
  }
  const i = outline.points.findIndex((p) => p.id === id);
  if (i <= 0 || i >= outline.points.length - 1) return null;
  const { arc, out, ...end } = outline.points[i]!;
  return [
    { points: [...outline.points.slice(0, i), end], closed: false },
    { points: outline.points.slice(i), closed: false },
  ];
}

/** A line run the other way. */
export function reverseOutline(outline: Outline): Outline {
  return mapRings(outline, (ring) => {
    const segments = [...plainSegments(ring)].reverse().map((segment) => reverseSegment(segment));
    const points = pointsOfSegments(segments, ring.closed, () => true);
    return points.map((p) => {
      const old = ring.points.find((o) => o.u === p.u && o.v === p.v);
      return old ? { ...p, id: old.id, ...(old.corner && { corner: old.corner }) } : p;
    });
  });
}

/**
 * Two lines as one, joined at the ends that are nearest to each other: at one point where they meet, else by a straight
 * edge. Where both other ends meet too, the result is closed.
 */
export function joinLines(p: Outline, q: Outline): Outline | null {
  if (p.closed || q.closed || p.points.length === 0 || q.points.length === 0) return null;
  const ends = [p, reverseOutline(p)].flatMap((a) => [q, reverseOutline(q)].map((b) => ({ a, b, gap: edgeLength(a.points.at(-1)!, b.points[0]!) })));
  const { a, b, gap } = ends.reduce((best, next) => (next.gap < best.gap ? next : best));
  const last = a.points.at(-1)!;
  const first = b.points[0]!;
  const meet = gap < SAME_PLACE;
  const seam: OutlinePoint = { ...last, ...(first.out && { out: first.out }), ...(first.arc && { arc: first.arc }) };
  const points = meet ? [...a.points.slice(0, -1), seam, ...b.points.slice(1)] : [...a.points, ...b.points];
  const [start, end] = [points[0]!, points.at(-1)!];
  const closes = points.length > 3 && edgeLength(start, end) < SAME_PLACE;
  const ring = closes ? [{ ...start, ...(end.into && { into: end.into }) }, ...points.slice(1, -1)] : points;
  return outlineOfRings([ring], closes);
}
