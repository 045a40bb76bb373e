import type { PlanePoint } from '../math/points';
import { outlineOfRings, ringsOf, type Outline } from './outline';
import { pointsOfSegments } from './from-segments';
import { outlineSegments, pointAt, type Segment } from './segments';
import { crossSegments, nearestParameter, sliceSegment } from './split';
import { FOUND_PARAMETER, SAME_FOUND } from '../math/tolerances';

/** A place along a line: a segment by its index, and a parameter on it, as one growing number. */
interface Along {
  readonly segment: number;
  readonly t: number;
}

const order = (p: Along, q: Along): number => p.segment - q.segment || p.t - q.t;

/** Parameters closer than this to an edge's end are its end; rounding of crossings is a hundred times smaller. */
const END = 1e-7;

/** What is cut away where a line is pressed: the stretch between its two nearest crossings with other lines. */
export interface Trim {
  /** What is left: no outline, one, or two. */
  readonly left: readonly Outline[];
  /** The stretch that goes, for showing it before. */
  readonly gone: Outline;
}

/**
 * A line without the stretch around a place, up to the nearest crossings with others on both sides, or its ends. A
 * closed outline becomes a line. Curves stay curves. Null where nothing crosses the line and it is closed, or it has no
 * length.
 */
export function trimAt(line: Outline, at: PlanePoint, others: readonly Outline[]): Trim | null {
  const ring = nearestRing(line, at);
  const segments = outlineSegments(ring);
  if (segments.length === 0) return null;
  const pressed = placeNearest(segments, at);
  const cuts = crossings(segments, others, ring);
  const before = [...cuts].reverse().find((cut) => order(cut, pressed) < 0) ?? (ring.closed ? cuts.at(-1) : undefined);
  const after = cuts.find((cut) => order(cut, pressed) > 0) ?? (ring.closed ? cuts[0] : undefined);
  if (ring.closed) {
    if (!before || !after || order(before, after) === 0) return null;
    return { left: [open(stretch(segments, after, before))], gone: open(stretch(segments, before, after)) };
  }
  const [start, end] = [
    { segment: 0, t: 0 },
    { segment: segments.length - 1, t: 1 },
  ];
  const left = [...(before ? [stretch(segments, start, before)] : []), ...(after ? [stretch(segments, after, end)] : [])];
  return { left: left.map(open), gone: open(stretch(segments, before ?? start, after ?? end)) };
}

const open = (segments: readonly Segment[]): Outline => outlineOfRings([pointsOfSegments(segments, false)], false);

function nearestRing(outline: Outline, at: PlanePoint): Outline {
  const rings = ringsOf(outline);
  const off = (ring: Outline): number => {
    const segments = outlineSegments(ring);
    const place = placeNearest(segments, at);
    const p = segments[place.segment] ? pointAt(segments[place.segment]!, place.t) : { u: Infinity, v: 0 };
    return Math.hypot(p.u - at.u, p.v - at.v);
  };
  return rings.reduce((best, ring) => (off(ring) < off(best) ? ring : best));
}

function placeNearest(segments: readonly Segment[], at: PlanePoint): Along {
  let best: Along = { segment: 0, t: 0 };
  let least = Infinity;
  segments.forEach((s, segment) => {
    const t = nearestParameter(s, at);
    const p = pointAt(s, t);
    const d = Math.hypot(p.u - at.u, p.v - at.v);
    if (d < least) [best, least] = [{ segment, t }, d];
  });
  return best;
}

function crossings(segments: readonly Segment[], others: readonly Outline[], own: Outline): readonly Along[] {
  const found: Along[] = [];
  const foreign = others.flatMap(ringsOf).flatMap(outlineSegments);
  segments.forEach((p, segment) => {
    for (const q of foreign) for (const { t } of crossSegments(p, q)) found.push({ segment, t });
    // Where a line crosses itself; neighbours meet at their common end only.
    segments.forEach((q, k) => {
      const neighbours = Math.abs(k - segment) === 1 || (own.closed && Math.abs(k - segment) === segments.length - 1);
      if (k === segment || neighbours) return;
      for (const { t } of crossSegments(p, q)) found.push({ segment, t });
    });
  });
  // On a closed line the end of one edge is the start of the next: a crossing there is one place.
  const n = segments.length;
  const placed = own.closed ? found.map(({ segment, t }) => (t > 1 - END ? { segment: (segment + 1) % n, t: 0 } : { segment, t: t < END ? 0 : t })) : found;
  const sorted = placed.sort(order);
  return sorted.filter((cut, i) => i === 0 || cut.segment !== sorted[i - 1]!.segment || cut.t - sorted[i - 1]!.t > END);
}

/** The segments from one place to another, round the start of a closed line where the second comes first. */
function stretch(segments: readonly Segment[], from: Along, to: Along): readonly Segment[] {
  if (order(from, to) <= 0) {
    if (from.segment === to.segment) return [sliceSegment(segments[from.segment]!, from.t, to.t)];
    return [
      ...(from.t < 1 ? [sliceSegment(segments[from.segment]!, from.t, 1)] : []),
      ...segments.slice(from.segment + 1, to.segment),
      ...(to.t > 0 ? [sliceSegment(segments[to.segment]!, 0, to.t)] : []),
    ];
  }
  const end = { segment: segments.length - 1, t: 1 };
  return [...stretch(segments, from, end), ...stretch(segments, { segment: 0, t: 0 }, to)];
}

/**
 * A line with one of its ends run on straight to the nearest crossing with others: the end that is nearer to a place.
 * Null where it is closed, ends in a curve that has no direction, or nothing lies ahead.
 */
export function extendAt(line: Outline, at: PlanePoint, others: readonly Outline[]): Outline | null {
  const { points, closed } = line;
  const [first, last] = [points[0], points.at(-1)];
  if (closed || !first || !last || points.length < 2) return null;
  const off = (p: PlanePoint): number => Math.hypot(p.u - at.u, p.v - at.v);
  const atEnd = off(last) <= off(first);
  const tip = atEnd ? last : first;
  const segments = outlineSegments(line);
  const edge = atEnd ? segments.at(-1) : segments[0];
  if (!edge) return null;
  const [back, ahead] = atEnd ? [pointAt(edge, 1 - FOUND_PARAMETER), tip] : [pointAt(edge, FOUND_PARAMETER), tip];
  const inner = edge.kind === 'line' ? (atEnd ? edge.from : edge.to) : back;
  const length = Math.hypot(ahead.u - inner.u, ahead.v - inner.v);
  if (length === 0) return null;
  const far = 1e5 / length;
  const beam: Segment = { kind: 'line', id: 1, from: tip, to: { u: tip.u + (ahead.u - inner.u) * far, v: tip.v + (ahead.v - inner.v) * far } };
  const hits = others.flatMap(ringsOf).flatMap(outlineSegments).flatMap((q) => crossSegments(beam, q)); // prettier-ignore
  const reached = hits.filter((hit) => off2(hit.at, tip) > SAME_FOUND).sort((p, q) => p.t - q.t)[0];
  if (!reached) return null;
  const straight: Segment = { kind: 'line', id: 0, from: atEnd ? tip : reached.at, to: atEnd ? reached.at : tip };
  const all = atEnd ? [...segments, straight] : [straight, ...segments];
  return open(all.map((segment, i) => ({ ...segment, id: i + 1 })));
}

const off2 = (p: PlanePoint, q: PlanePoint): number => Math.hypot(p.u - q.u, p.v - q.v);
