import type { PlanePoint } from '../math/points';
import { doubleAreaTicks, outlineEdges, type Outline, type OutlinePoint } from './outline';
import { SAME_PLACE, SQUARE, UNIT } from '../math/tolerances';

/** A straight piece of a boundary. `id` is that of the point where its edge starts. */
export interface LineSegment {
  readonly kind: 'line';
  readonly id: number;
  readonly from: PlanePoint;
  readonly to: PlanePoint;
}

/** A cubic Bezier curve by its two handles. */
export interface CubicSegment {
  readonly kind: 'cubic';
  readonly id: number;
  readonly from: PlanePoint;
  readonly out: PlanePoint;
  readonly into: PlanePoint;
  readonly to: PlanePoint;
}

/**
 * A piece of a conic as a rational quadratic Bezier curve: its ends, the meeting point of its end tangents, and a
 * weight. Circles and ellipses are exact in this form, and so is what any projection makes of them (Farin, 12).
 */
export interface ConicSegment {
  readonly kind: 'conic';
  readonly id: number;
  readonly from: PlanePoint;
  readonly via: PlanePoint;
  readonly weight: number;
  readonly to: PlanePoint;
  /** The piece is the rounding of the corner `id`, not an edge. */
  readonly corner: boolean;
}

/** A piece of a boundary in cells of its plane. */
export type Segment = LineSegment | CubicSegment | ConicSegment;

/**
 * The boundary of an outline in its order, corners rounded or bevelled as they ask. A rounding that does not fit its
 * edges is made as large as fits; only corners between straight edges are rounded. Edges without length are left out.
 */
export function outlineSegments(outline: Outline): readonly Segment[] {
  const edges = outlineEdges(outline);
  const cuts = new Map(outline.points.map((point, i) => [point.id, cornerCut(outline, i)]));
  const segments: Segment[] = [];
  for (const [p, q] of edges) {
    const start = cuts.get(p.id);
    const end = cuts.get(q.id);
    const edge = edgeSegment(p, q, start?.after ?? p, end?.before ?? q);
    if (edge) segments.push(edge);
    if (end) segments.push(...end.pieces);
  }
  return segments;
}

function edgeSegment(p: OutlinePoint, q: OutlinePoint, from: PlanePoint, to: PlanePoint): Segment | null {
  if (p.arc) return { kind: 'conic', id: p.id, from: p, via: { u: p.arc.u, v: p.arc.v }, weight: p.arc.weight, to: q, corner: false };
  if (p.out || q.into) return { kind: 'cubic', id: p.id, from: p, out: p.out ?? p, into: q.into ?? q, to: q };
  return Math.abs(from.u - to.u) + Math.abs(from.v - to.v) < SHORTEST ? null : { kind: 'line', id: p.id, from, to };
}

/** Shortest straight piece in cells: between two roundings that meet, rounding errors leave less. */
const SHORTEST = SAME_PLACE;

interface CornerCut {
  readonly before: PlanePoint;
  readonly after: PlanePoint;
  readonly pieces: readonly Segment[];
}

/** Whether the edge from p to q is straight. */
export function isStraight(p: OutlinePoint, q: OutlinePoint): boolean {
  return !p.arc && !p.out && !q.into;
}

function cornerCut({ points, closed }: Outline, i: number): CornerCut | undefined {
  const point = points[i]!;
  const before = points[i - 1] ?? (closed ? points.at(-1) : undefined);
  const after = points[i + 1] ?? (closed ? points[0] : undefined);
  if (!point.corner || !before || !after || before === after || !isStraight(before, point) || !isStraight(point, after)) return undefined;
  const [d1, l1] = direction(point, before);
  const [d2, l2] = direction(point, after);
  const cos = d1.u * d2.u + d1.v * d2.v;
  // Half the angle between the edges, by its sine and tangent.
  const sin = Math.sqrt(Math.max(0, (1 - cos) / 2));
  if (l1 === 0 || l2 === 0 || sin < SQUARE || sin > 1 - UNIT) return undefined;
  const tan = sin / Math.sqrt(1 - sin * sin);
  const wanted = point.corner.kind === 'round' ? point.corner.size / tan : point.corner.size;
  const reach = Math.min(wanted, room(l1, before), room(l2, after));
  if (!(reach > 0)) return undefined;
  const at = (d: PlanePoint): PlanePoint => ({ u: point.u + d.u * reach, v: point.v + d.v * reach });
  const [from, to] = [at(d1), at(d2)];
  const piece: Segment =
    point.corner.kind === 'round'
      ? { kind: 'conic', id: point.id, from, via: { u: point.u, v: point.v }, weight: sin, to, corner: true }
      : { kind: 'line', id: point.id, from, to };
  return { before: from, after: to, pieces: [piece] };
}

/** How much of an edge a corner may take: all of it, or half where its other end is cut as well. */
function room(length: number, other: OutlinePoint): number {
  return other.corner ? length / 2 : length;
}

function direction(from: PlanePoint, to: PlanePoint): readonly [PlanePoint, number] {
  const [u, v] = [to.u - from.u, to.v - from.v];
  const length = Math.hypot(u, v);
  return [length === 0 ? { u: 0, v: 0 } : { u: u / length, v: v / length }, length];
}

/** A point of a segment at a parameter from 0 to 1. */
export function pointAt(segment: Segment, t: number): PlanePoint {
  const s = 1 - t;
  if (segment.kind === 'line') return mix(segment.from, segment.to, t);
  if (segment.kind === 'conic') {
    const { from, via, to, weight } = segment;
    const [a, b, c] = [s * s, 2 * s * t * weight, t * t];
    const w = a + b + c;
    return { u: (a * from.u + b * via.u + c * to.u) / w, v: (a * from.v + b * via.v + c * to.v) / w };
  }
  const { from, out, into, to } = segment;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return { u: a * from.u + b * out.u + c * into.u + d * to.u, v: a * from.v + b * out.v + c * into.v + d * to.v };
}

const mix = (p: PlanePoint, q: PlanePoint, t: number): PlanePoint => ({ u: p.u + (q.u - p.u) * t, v: p.v + (q.v - p.v) * t });

/** Most chords of one curve. */
const MOST_CHORDS = 96;

/**
 * A segment as chords that stay within a distance of it, its first point left out and its last kept. The count follows
 * from the second differences of the control points, which bound a curve's distance from its chord (Farin, 5).
 * @param tolerance in cells
 */
export function chordsOf(segment: Segment, tolerance: number): readonly PlanePoint[] {
  if (segment.kind === 'line') return [segment.to];
  const points = segment.kind === 'cubic' ? [segment.from, segment.out, segment.into, segment.to] : [segment.from, segment.via, segment.to];
  let bend = 0;
  for (let i = 1; i + 1 < points.length; i++) {
    const [p, q, r] = [points[i - 1]!, points[i]!, points[i + 1]!];
    bend = Math.max(bend, Math.hypot(p.u - 2 * q.u + r.u, p.v - 2 * q.v + r.v));
  }
  const degree = points.length - 1;
  const count = Math.max(2, Math.min(MOST_CHORDS, Math.ceil(Math.sqrt((degree * (degree - 1) * bend) / (8 * tolerance)))));
  return Array.from({ length: count }, (_, k) => (k === count - 1 ? segment.to : pointAt(segment, (k + 1) / count)));
}

/** The boundary of an outline as corners of a polygon within a distance of it; its own corners where it is straight. */
export function flattenOutline(outline: Outline, tolerance: number): readonly PlanePoint[] {
  if (!isCurved(outline)) return outline.points;
  const segments = outlineSegments(outline);
  const first = segments[0];
  if (!first) return [];
  const points = [first.from, ...segments.flatMap((segment) => chordsOf(segment, tolerance))];
  return outline.closed ? points.slice(0, -1) : points;
}

/** Whether any edge is curved or any corner is rounded or bevelled. */
export function isCurved({ points, holes }: Outline): boolean {
  const bent = (p: OutlinePoint): boolean => p.arc !== undefined || p.out !== undefined || p.into !== undefined || p.corner !== undefined;
  return points.some(bent) || (holes ?? []).some((hole) => hole.some(bent));
}

/** Distance in cells within which a curved boundary is told to have an area. */
const AREA_CHORDS = 0.01;

/** Whether an outline bounds an area: closed, and not all on one line, nor there and back. Lobes that wind against each other bound theirs. */
export function boundsArea(outline: Outline): boolean {
  if (!outline.closed || outline.points.length < 2) return false;
  const points = flattenOutline(outline, AREA_CHORDS);
  return doubleAreaTicks(points) !== 0 || fillsAnything(points);
}

/** Parts of the way between two heights at which it is looked what is filled: where lobes meet, nothing is. */
const LOOKS_BETWEEN = [0.37, 0.71] as const;

/** Whether anything of a ring is filled by the even-odd rule, looked at between every two heights of its corners. */
function fillsAnything(points: readonly PlanePoint[]): boolean {
  const heights = [...new Set(points.map(({ v }) => v))].sort((p, q) => p - q);
  return heights.some((low, i) => {
    const high = heights[i + 1];
    if (high === undefined || high - low < SAME_PLACE) return false;
    return LOOKS_BETWEEN.some((share) => {
      const v = low + (high - low) * share;
      const crossings = points.flatMap((p, k): readonly number[] => {
        const q = points[(k + 1) % points.length]!;
        return p.v > v === q.v > v ? [] : [p.u + ((v - p.v) / (q.v - p.v)) * (q.u - p.u)];
      });
      crossings.sort((p, q) => p - q);
      return crossings.some((u, k) => k % 2 === 0 && crossings[k + 1]! - u > SAME_PLACE);
    });
  });
}
