import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { exactCells } from '../math/exact';
import { SAME_PLACE } from '../math/tolerances';
import { planeFrame, worldFromPlane, type Plane, type PlaneFrame } from '../projection/planes';
import { ellipseOutline } from '../shape/forms';
import { boxAround, doubleAreaTicks, mapOutline, mapPoint, ringsOf, type Outline } from '../shape/outline';
import { withoutCrossings } from '../shape/crossing';
import { boundsArea, flattenOutline, isCurved, outlineSegments, type Segment } from '../shape/segments';
import { tangentAt } from '../shape/split';
import { boundsOf, flatPoints, worldPoints, type Body, type Surface, type Wire } from './body';
import { FACET, flatFacets, ruledFacets } from './facets';
import { BASE, END, roundName, sideName, type SurfaceName } from './names';
import type { Ruled } from './ruled';
import { SPHERE_MISS, sphereFacets, type Sphere } from './sphere';

/** Sine of the angle under which two curves count as running on smoothly: what rounding handles to ticks leaves. */
const SMOOTH = 1e-3;

/** What depth is given to. */
export interface Extruded extends DepthWays {
  readonly plane: Plane;
  readonly outline: Outline;
  /** In cells along the plane's normal: positive towards the viewer; 0 for what stays flat. */
  readonly depth: number;
}

/** How depth runs besides straight along the normal from the plane. */
export interface DepthWays {
  /** How far along the normal from the plane depth begins, in cells; 0 without. */
  readonly start?: number;
  /** How far the end is shifted within its plane, in cells: depth along another direction than the normal. */
  readonly lean?: PlanePoint;
  /** The size of the end in parts of the outline, scaled about its centroid: 0 makes it a point. */
  readonly taper?: number;
  /** In place of straight sides: a ball that lies on the plane, or a dome as high as the depth, over the circle in the outline's box. */
  readonly round?: 'ball' | 'dome';
}

/**
 * The body of a shape: a solid of two ends and a side for each edge where it has depth, a surface seen from both sides
 * where it has none, a wire where its outline bounds no area. Null on the sheet, which has no place in the world.
 * Neighbouring curves that run on smoothly make one side, named after the first of them. A solid that narrows to a point
 * has no end, a ball no base either.
 */
export function depthBody(shape: Extruded): Body | null {
  const { plane, outline, depth, start = 0, round } = shape;
  const drawn = planeFrame(plane, 1);
  if (!drawn) return null;
  if (!boundsArea(outline)) return wireBody(outline, drawn);
  if (depth === 0) return flatBody(outline, drawn);
  const frame = start === 0 ? drawn : { ...drawn, origin: addWorld(drawn.origin, scaleWorld(drawn.normal, start)) };
  if (round) return roundBody(outline, frame, depth, round);
  const pieces = withoutCrossings(outline);
  if (pieces.length <= 1) return solidBody(frame, shape, outline);
  // Lobes of one outline: each is a solid for itself, and they are one body.
  const bodies = pieces.map((piece) => solidBody(frame, shape, piece));
  const points = bodies.flatMap((body) => [...body.points]);
  return { surfaces: bodies.flatMap(({ surfaces }) => surfaces), wires: [], points, bounds: boundsOf(points), closed: true, convex: false };
}

/** The frame in which the end of a tapering solid has the drawn outline's coordinates: a point p goes to about + to (p - about). */
function taperedFrame(level: PlaneFrame, to: number, about: PlanePoint): PlaneFrame {
  const origin = worldFromPlane(level, { u: about.u * (1 - to), v: about.v * (1 - to) });
  return { origin, u: scaleWorld(level.u, to), v: scaleWorld(level.v, to), normal: level.normal };
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
 * @param within distance in cells of its corners from curves
 */
export function flatSurface(name: SurfaceName, outline: Outline, frame: PlaneFrame, bothSides: boolean, within = FACET): Surface {
  const rings = ringsOf(outline);
  const flat = rings.map((ring, i) => {
    const points = flattenOutline(ring, within);
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
    facets: flatFacets(flat, loops, frame),
    straight: !outline.holes && !isCurved(outline),
    bothSides,
  };
}

/** @param outline the shape's, or a piece of it */
function solidBody(frame: PlaneFrame, { outline: whole, depth, lean, taper }: Extruded, outline: Outline): Body {
  const forward = scaleWorld(frame.normal, Math.sign(depth));
  const run = scaleWorld(frame.normal, depth);
  const level: PlaneFrame = { ...frame, origin: addWorld(lean ? worldFromPlane(frame, lean) : frame.origin, run), normal: forward };
  const about = taper === undefined ? null : centroidOf(whole);
  const far = about ? taperedFrame(level, taper!, about) : level;
  const base = flatSurface(BASE, outline, { ...frame, normal: scaleWorld(forward, -1) }, false);
  const end = taper === 0 ? null : flatSurface(END, about ? scaledOutline(outline, taper!, about) : outline, level, false, FACET * (taper ?? 1));
  const sides = ringsOf(outline).flatMap((ring, i) => sidesOver(ring, i === 0, frame, far, forward, about !== null));
  const points = [...base.loops[0]!, ...(end?.loops[0] ?? flatPoints([worldFromPlane(far, about!)]))];
  const surfaces = end ? [base, end, ...sides] : [base, ...sides];
  return { surfaces, wires: [], points, bounds: boundsOf(points), closed: true, convex: base.facets.length === 1 };
}

function scaledOutline(outline: Outline, to: number, about: PlanePoint): Outline {
  const at = (p: PlanePoint): PlanePoint => ({ u: about.u + to * (p.u - about.u), v: about.v + to * (p.v - about.v) });
  return mapOutline(outline, (p) => ({ ...mapPoint(p, at), ...(p.corner && { corner: { ...p.corner, size: p.corner.size * to } }) }));
}

/** Parts of a cell within which a centroid that rounding has moved off a tick is put back onto it. */
const ON_TICK = 1e-7;

/** The centroid of the area within an outline's outer ring, by the even-odd rule where it crosses itself, in cells. */
export function centroidOf(outline: Outline): PlanePoint {
  const pieces = withoutCrossings({ points: outline.points, closed: true }).map((piece) => flattenOutline({ points: piece.points, closed: true }, FACET));
  const first = pieces[0]?.[0];
  let [twice, u, v] = [0, 0, 0];
  for (const points of pieces) {
    points.forEach((p, i) => {
      const q = points[(i + 1) % points.length]!;
      const [pu, pv, qu, qv] = [p.u - first!.u, p.v - first!.v, q.u - first!.u, q.v - first!.v];
      const cross = pu * qv - qu * pv;
      twice += cross;
      u += cross * (pu + qu);
      v += cross * (pv + qv);
    });
  }
  const onTick = (x: number): number => (Math.abs(exactCells(x) - x) < ON_TICK ? exactCells(x) : x);
  return { u: onTick(first!.u + u / (3 * twice)), v: onTick(first!.v + v / (3 * twice)) };
}

/** A ball on the plane, or a dome over it, by the circle in the middle of the outline's box. */
function roundBody(outline: Outline, frame: PlaneFrame, depth: number, round: 'ball' | 'dome'): Body {
  const { centre, radius } = circleIn(outline);
  const forward = scaleWorld(frame.normal, Math.sign(depth));
  const foot = worldFromPlane(frame, centre);
  const name = roundName(outline.points[0]!.id);
  const also = outline.points.slice(1).map((p) => roundName(p.id));
  const surfaceOf = (form: Sphere): Surface => {
    const facets = sphereFacets(form, Math.max(FACET, form.radius * SPHERE_MISS), [
      frame.u,
      scaleWorld(frame.v, Math.sign(dotWorld(crossWorld(frame.u, frame.v), forward))),
    ]);
    return { name, also, form, rings: [], loops: [], facets, straight: false, bothSides: false };
  };
  if (round === 'ball') {
    const ball = surfaceOf({ kind: 'sphere', centre: addWorld(foot, scaleWorld(forward, radius)), radius, axis: forward, low: -1 });
    return bodyOfRound([ball]);
  }
  // No dome is wider than its base: it is at most as high as half of it is wide.
  const height = Math.min(Math.abs(depth), radius);
  const size = (radius * radius + height * height) / (2 * height);
  const form: Sphere = { kind: 'sphere', centre: addWorld(foot, scaleWorld(forward, height - size)), radius: size, axis: forward, low: 1 - height / size };
  const dome = surfaceOf(form);
  // The base has the rim's corners, so that both close without a gap.
  const base = flatSurface(BASE, ellipseOutline(centre, { u: radius, v: radius }), { ...frame, normal: scaleWorld(forward, -1) }, false);
  const rim = dome.facets.filter(({ corners }) => corners.length === 12).slice(-columnsOf(dome)).flatMap(({ corners }) => corners.slice(3, 6)); // prettier-ignore
  const loop = flatPoints([...worldPoints(rim)].reverse());
  return bodyOfRound([{ ...base, loops: [loop], facets: [{ corners: loop, normal: scaleWorld(forward, -1) }] }, dome]);
}

/** How many pieces a sphere's facets make from pole to rim in each row: as many as there are three-cornered ones at its top. */
const columnsOf = ({ facets }: Surface): number => facets.filter(({ corners }) => corners.length === 9).length;

function bodyOfRound(surfaces: readonly Surface[]): Body {
  const points = surfaces.at(-1)!.facets.flatMap(({ corners }) => corners.slice(0, 6));
  return { surfaces, wires: [], points, bounds: boundsOf(points), closed: true, convex: true };
}

/** The largest circle in the middle of an outline's box: the outline itself where it is a circle. */
export function circleIn(outline: Outline): { readonly centre: PlanePoint; readonly radius: number } {
  const box = boxAround(isCurved(outline) ? flattenOutline(outline, FACET) : outline.points)!;
  return { centre: { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 }, radius: Math.min(box.maxU - box.minU, box.maxV - box.minV) / 2 };
}

/** The sides over a ring: flat ones over straight edges, ruled ones over stretches of curves. */
function sidesOver(ring: Outline, outer: boolean, frame: PlaneFrame, far: PlaneFrame, forward: WorldPoint, tapers: boolean): readonly Surface[] {
  const anticlockwise = doubleAreaTicks(flattenOutline(ring, FACET)) * dotWorld(crossWorld(frame.u, frame.v), forward) > 0;
  const sense = anticlockwise === outer ? 1 : -1;
  return stretchesOf(ring).flatMap(({ name, also, segments, closed }): readonly Surface[] => {
    const [first] = segments;
    if (first?.kind === 'line') return flatSide(name, first, frame, far, sense);
    const form: Ruled = { kind: tapers ? 'cone' : 'cylinder', directrix: segments, closed, rims: [frame, far], sense };
    return [{ name, also, form, rings: [], loops: [], facets: ruledFacets(form), straight: false, bothSides: false }];
  });
}

const NONE: readonly never[] = [];

function flatSide(name: SurfaceName, edge: Segment, frame: PlaneFrame, far: PlaneFrame, sense: 1 | -1): readonly Surface[] {
  const [p, q] = sense > 0 ? [edge.from, edge.to] : [edge.to, edge.from];
  const [from, to] = [worldFromPlane(frame, p), worldFromPlane(frame, q)];
  const [end, start] = [worldFromPlane(far, q), worldFromPlane(far, p)];
  const along = subtractWorld(to, from);
  const u = unitWorld(along);
  const up = subtractWorld(start, from);
  const normal = unitWorld(crossWorld(along, subtractWorld(end, from)));
  const v = unitWorld(subtractWorld(up, scaleWorld(u ?? along, u ? dotWorld(up, u) : 0)));
  if (!u || !v || !normal) return [];
  const pointed = samePlace(start, end);
  const corners = flatPoints(pointed ? [from, to, end] : [from, to, end, start]);
  const form = { kind: 'flat', frame: { origin: from, u, v, normal } } as const;
  return [{ name, also: NONE, form, rings: NONE, loops: [corners], facets: [{ corners, normal }], straight: true, bothSides: false }];
}

const samePlace = (p: WorldPoint, q: WorldPoint): boolean => lengthWorld(subtractWorld(p, q)) < SAME_PLACE;

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
