import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { worldFromPlane, type PlaneFrame } from '../projection/planes';
import type { Segment } from '../shape/segments';
import { sliceSegment } from '../shape/split';
import { apexOf, type Ruled } from '../geometry/ruled';
import { arcSegments, type Sphere } from '../geometry/sphere';
import { generatorAt } from '../geometry/contact';

/** Cells by which a curve's place may be off where a plane meets a round side along straight lines. */
const ALONG = 1e-6;

/** A frame's coordinates of a place in its plane; its directions have length 1. */
export function placeIn({ origin, u, v }: PlaneFrame, p: WorldPoint): PlanePoint {
  const from = subtractWorld(p, origin);
  return { u: dotWorld(from, u), v: dotWorld(from, v) };
}

/**
 * The curve in which a plane cuts a ruled surface, from one place to another over those between: exact for conics, and
 * for other curves of cylinders. Null where it runs along generators, or cannot be told as such segments.
 * @param points along it, at least two; a closed one ends where it starts
 */
export function ruledCut(frame: PlaneFrame, ruled: Ruled, points: readonly WorldPoint[]): readonly Segment[] | null {
  const n = ruled.directrix.length;
  const s = points.map((p) => generatorAt(ruled, p));
  if (s.some((at) => at === null)) return null;
  // Parameters that go on without a jump where the directrix starts anew.
  const run: number[] = [];
  for (const at of s as number[]) {
    const before = run.at(-1);
    run.push(before === undefined || !ruled.closed ? at : at + n * Math.round((before - at) / n));
  }
  const [from, to] = [run[0]!, run.at(-1)!];
  if (Math.max(...run) - Math.min(...run) < ALONG) return null;
  const forward = to > from;
  const monotone = run.every((at, i) => i === 0 || (forward ? at >= run[i - 1]! - ALONG : at <= run[i - 1]! + ALONG));
  if (!monotone) return null;
  const [low, high] = forward ? [from, to] : [to, from];
  const slices: Segment[] = [];
  for (let i = Math.floor(low + ALONG); i < high - ALONG; i++) {
    const [start, end] = [Math.max(low - i, 0), Math.min(high - i, 1)];
    const segment = ruled.directrix[((i % n) + n) % n];
    if (!segment) return null;
    if (end - start > ALONG) slices.push(start < ALONG && end > 1 - ALONG ? segment : sliceSegment(segment, start, end));
  }
  const cut: Segment[] = [];
  for (const slice of slices) {
    const carried = carriedPieces(frame, ruled, slice, HALVINGS);
    if (!carried) return null;
    cut.push(...carried);
  }
  return ended(forward ? cut : cut.reverse().map(reversed), placeIn(frame, points[0]!), placeIn(frame, points.at(-1)!));
}

/** Ends put exactly where the neighbouring edges have them. */
function ended(segments: readonly Segment[], from: PlanePoint, to: PlanePoint): readonly Segment[] {
  const last = segments.length - 1;
  return segments.map((segment, i) => ({ ...segment, id: i + 1, ...(i === 0 && { from }), ...(i === last && { to }) }));
}

function reversed(segment: Segment): Segment {
  if (segment.kind === 'cubic') return { ...segment, from: segment.to, out: segment.into, into: segment.out, to: segment.from };
  return { ...segment, from: segment.to, to: segment.from };
}

/** Most halvings of a piece whose tangents meet where the plane is not reached. */
const HALVINGS = 5;

/** A piece of the directrix carried into a plane, in halves where one piece cannot be: of hyperbolas, tangents may meet beyond. */
function carriedPieces(frame: PlaneFrame, ruled: Ruled, segment: Segment, halvings: number): readonly Segment[] | null {
  const whole = carriedAlong(frame, ruled, segment);
  if (whole) return [whole];
  if (halvings === 0 || segment.kind === 'line') return null;
  const halves = [sliceSegment(segment, 0, 0.5), sliceSegment(segment, 0.5, 1)].map((half) => carriedPieces(frame, ruled, half, halvings - 1));
  return halves.every((half) => half !== null) ? halves.flat() : null;
}

/** A piece of the directrix carried along the generators into a plane: an affine map from a cylinder, a projective one from a cone. */
function carriedAlong(frame: PlaneFrame, ruled: Ruled, segment: Segment): Segment | null {
  const [rim, far] = ruled.rims;
  const { origin, normal } = frame;
  const apex = ruled.kind === 'cone' ? apexOf(ruled) : null;
  const generator = subtractWorld(far.origin, rim.origin);
  const speed = dotWorld(generator, normal);
  if (!apex && Math.abs(speed) < 1e-9 * lengthWorld(generator)) return null;
  /** Where a rim's point is carried to, and its weight there. */
  const carry = (p: PlanePoint): readonly [PlanePoint, number] => {
    const on = worldFromPlane(rim, p);
    if (!apex) return [placeIn(frame, addWorld(on, scaleWorld(generator, -dotWorld(subtractWorld(on, origin), normal) / speed))), 1];
    const ray = subtractWorld(on, apex);
    const weight = dotWorld(ray, normal);
    return [placeIn(frame, addWorld(apex, scaleWorld(ray, dotWorld(subtractWorld(origin, apex), normal) / weight))), weight];
  };
  const [[from, first], [to, last]] = [carry(segment.from), carry(segment.to)];
  if (segment.kind === 'line') return { ...segment, from, to };
  if (segment.kind === 'cubic') {
    if (apex) return null;
    return { ...segment, from, to, out: carry(segment.out)[0], into: carry(segment.into)[0] };
  }
  const [via, middle] = carry(segment.via);
  const weight = (segment.weight * middle * Math.sign(first)) / Math.sqrt(first * last);
  return first * last > 0 && weight > 0 && Number.isFinite(weight) ? { ...segment, from, to, via, weight, corner: false } : null;
}

/** The arc of the circle in which a plane cuts a sphere, from one place over another to a third. */
export function sphereCut(frame: PlaneFrame, { centre, radius }: Sphere, points: readonly WorldPoint[], closed: boolean): readonly Segment[] | null {
  const level = dotWorld(subtractWorld(centre, frame.origin), frame.normal);
  const square = radius * radius - level * level;
  if (!(square > 0)) return null;
  const middle = placeIn(frame, subtractWorld(centre, scaleWorld(frame.normal, level)));
  const size = Math.sqrt(square);
  const angles: number[] = [];
  for (const p of points) {
    const at = placeIn(frame, p);
    const angle = Math.atan2(at.v - middle.v, at.u - middle.u);
    const before = angles.at(-1);
    angles.push(before === undefined ? angle : angle + 2 * Math.PI * Math.round((before - angle) / (2 * Math.PI)));
  }
  const [from, to] = [angles[0]!, angles.at(-1)!];
  const end = closed ? from + 2 * Math.PI * Math.sign(angles[1]! - from) : to;
  const arcs = arcSegments(from, end).map((segment): Segment => mapSegment(segment, (p) => ({ u: middle.u + p.u * size, v: middle.v + p.v * size })));
  return ended(arcs, placeIn(frame, points[0]!), placeIn(frame, points.at(-1)!));
}

/** A segment under a map of the plane that keeps lines straight and parallels parallel. */
export function mapSegment(segment: Segment, map: (p: PlanePoint) => PlanePoint): Segment {
  const ends = { from: map(segment.from), to: map(segment.to) };
  if (segment.kind === 'line') return { ...segment, ...ends };
  if (segment.kind === 'cubic') return { ...segment, ...ends, out: map(segment.out), into: map(segment.into) };
  return { ...segment, ...ends, via: map(segment.via) };
}
