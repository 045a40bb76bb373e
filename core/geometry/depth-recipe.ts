import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { planeFrame, worldFromPlane, type Plane, type PlaneFrame } from '../projection/planes';
import { doubleAreaTicks, ringsOf, type Outline } from '../shape/outline';
import { boundsArea, flattenOutline, isCurved, outlineSegments, type Segment } from '../shape/segments';
import { tangentAt } from '../shape/split';
import { boundsOf, flatPoints, type Body, type Surface, type Wire } from './body';
import { FACET, flatFacets, ruledFacets } from './facets';
import { BASE, END, roundName, sideName, type SurfaceName } from './names';
import type { Ruled } from './ruled';

/** Sine of the angle under which two curves count as running on smoothly: what rounding handles to ticks leaves. */
const SMOOTH = 1e-3;

/** What depth is given to. */
export interface Extruded {
  readonly plane: Plane;
  readonly outline: Outline;
  /** In cells along the plane's normal: positive towards the viewer; 0 for what stays flat. */
  readonly depth: number;
}

/**
 * The body of a shape: a solid of two ends and a side for each edge where it has depth, a surface seen from both sides
 * where it has none, a wire where its outline bounds no area. Null on the sheet, which has no place in the world.
 * Neighbouring curves that run on smoothly make one side, named after the first of them.
 */
export function depthBody({ plane, outline, depth }: Extruded): Body | null {
  const frame = planeFrame(plane, 1);
  if (!frame) return null;
  if (!boundsArea(outline)) return wireBody(outline, frame);
  if (depth === 0) return flatBody(outline, frame);
  return solidBody(outline, frame, depth);
}

function wireBody(outline: Outline, frame: PlaneFrame): Body | null {
  const flat = flattenOutline(outline, FACET);
  const along = outline.closed && flat[0] ? [...flat, flat[0]] : flat;
  if (along.length < 2) return null;
  const points = flatPoints(along.map((p) => worldFromPlane(frame, p)));
  const wire: Wire = { frame, segments: outlineSegments(outline), closed: outline.closed, points };
  return { surfaces: [], wires: [wire], points, bounds: boundsOf(points), closed: false, convex: false };
}

function flatBody(outline: Outline, frame: PlaneFrame): Body {
  const surface = flatSurface(END, outline, frame, true);
  const [points] = surface.loops;
  return { surfaces: [surface], wires: [], points: points!, bounds: boundsOf(points!), closed: false, convex: surface.facets.length === 1 };
}

/**
 * A flat surface over an outline.
 * @param frame in cells, with the outward normal
 */
export function flatSurface(name: SurfaceName, outline: Outline, frame: PlaneFrame, bothSides: boolean): Surface {
  const rings = ringsOf(outline);
  const flat = rings.map((ring, i) => {
    const points = flattenOutline(ring, FACET);
    const turns = doubleAreaTicks(points) * dotWorld(crossWorld(frame.u, frame.v), frame.normal) > 0;
    return turns === (i === 0) ? points : [...points].reverse();
  });
  const loops = flat.map((points) => flatPoints(points.map((p) => worldFromPlane(frame, p))));
  return {
    name,
    also: [],
    form: { kind: 'flat', frame },
    rings: rings.map(outlineSegments),
    loops,
    facets: flatFacets(flat, loops, frame.normal),
    straight: !outline.holes && !isCurved(outline),
    bothSides,
  };
}

function solidBody(outline: Outline, frame: PlaneFrame, depth: number): Body {
  const run = scaleWorld(frame.normal, depth);
  const forward = scaleWorld(frame.normal, Math.sign(depth));
  const far: PlaneFrame = { ...frame, origin: addWorld(frame.origin, run) };
  const base = flatSurface(BASE, outline, { ...frame, normal: scaleWorld(forward, -1) }, false);
  const end = flatSurface(END, outline, { ...far, normal: forward }, false);
  const sides = ringsOf(outline).flatMap((ring, i) => sidesOver(ring, i === 0, frame, far, forward));
  const points = [...base.loops[0]!, ...end.loops[0]!];
  return { surfaces: [base, end, ...sides], wires: [], points, bounds: boundsOf(points), closed: true, convex: end.facets.length === 1 };
}

/** The sides over a ring: flat ones over straight edges, ruled ones over stretches of curves. */
function sidesOver(ring: Outline, outer: boolean, frame: PlaneFrame, far: PlaneFrame, forward: WorldPoint): readonly Surface[] {
  const anticlockwise = doubleAreaTicks(flattenOutline(ring, FACET)) * dotWorld(crossWorld(frame.u, frame.v), forward) > 0;
  const sense = anticlockwise === outer ? 1 : -1;
  return stretchesOf(ring).flatMap(({ name, also, segments, closed }): readonly Surface[] => {
    const [first] = segments;
    if (first?.kind === 'line') return flatSide(name, first, frame, far, forward, sense);
    const form: Ruled = { kind: 'cylinder', directrix: segments, closed, rims: [frame, far], sense };
    return [{ name, also, form, rings: [], loops: [], facets: ruledFacets(form), straight: false, bothSides: false }];
  });
}

const NONE: readonly never[] = [];

function flatSide(name: SurfaceName, edge: Segment, frame: PlaneFrame, far: PlaneFrame, forward: WorldPoint, sense: 1 | -1): readonly Surface[] {
  const [p, q] = sense > 0 ? [edge.from, edge.to] : [edge.to, edge.from];
  const [from, to] = [worldFromPlane(frame, p), worldFromPlane(frame, q)];
  const along = subtractWorld(to, from);
  const u = unitWorld(along);
  const normal = unitWorld(crossWorld(along, forward));
  if (!u || !normal) return [];
  const corners = flatPoints([from, to, worldFromPlane(far, q), worldFromPlane(far, p)]);
  const form = { kind: 'flat', frame: { origin: from, u, v: forward, normal } } as const;
  return [{ name, also: NONE, form, rings: NONE, loops: [corners], facets: [{ corners, normal }], straight: true, bothSides: false }];
}

interface Stretch {
  readonly name: SurfaceName;
  readonly also: readonly SurfaceName[];
  readonly segments: readonly Segment[];
  readonly closed: boolean;
}

/** A ring as what makes one side each: straight edges, roundings, and runs of curves that go on smoothly. */
function stretchesOf(ring: Outline): readonly Stretch[] {
  const segments = outlineSegments(ring);
  const n = segments.length;
  const joins = (i: number): boolean => runsOn(segments[(i + n - 1) % n]!, segments[i]!);
  // The run that comes round the ring's start begins before it.
  let start = 0;
  while (start < n && joins(start)) start++;
  const closed = start === n;
  const stretches: { segments: Segment[] }[] = [];
  for (let k = 0; k < n; k++) {
    const i = closed ? k : (start + k) % n;
    if (k > 0 && joins(i)) stretches.at(-1)!.segments.push(segments[i]!);
    else stretches.push({ segments: [segments[i]!] });
  }
  return stretches.map((stretch) => {
    const [name, ...also] = stretch.segments.map((segment) => nameOver(segment, ring));
    return { name: name!, also, segments: stretch.segments, closed };
  });
}

function nameOver(segment: Segment, ring: Outline): SurfaceName {
  const bevelled = segment.kind === 'line' && ring.points.some((p) => p.id === segment.id && p.corner?.kind === 'bevel' && !isSame(p, segment.from));
  return (segment.kind === 'conic' && segment.corner) || bevelled ? roundName(segment.id) : sideName(segment.id);
}

const isSame = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u && p.v === q.v;

/** Whether two curves, neither of them a rounding, go on from one to the other without a corner. */
function runsOn(p: Segment, q: Segment): boolean {
  const isCurve = (segment: Segment): boolean => segment.kind === 'cubic' || (segment.kind === 'conic' && !segment.corner);
  if (!isCurve(p) || !isCurve(q)) return false;
  const [s, t] = [tangentAt(p, 1), tangentAt(q, 0)];
  const lengths = Math.hypot(s.u, s.v) * Math.hypot(t.u, t.v);
  return lengths > 0 && s.u * t.u + s.v * t.v > 0 && Math.abs(s.u * t.v - s.v * t.u) < SMOOTH * lengths;
}
