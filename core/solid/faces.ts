import type { Axis, PlanePoint, WorldPoint } from '../math/points';
import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, unitWorld } from '../math/points';
import { readingDirections, worldFromPlane, type PlaneFrame } from '../projection/planes';
import { doubleAreaTicks, ringsOf, type Outline } from '../shape/outline';
import { chordsOf, flattenOutline, outlineSegments } from '../shape/segments';

/**
 * A face's name within its solid. `base` lies in the drawn plane, `end` at full depth, `side:3` over the outline's
 * edge that starts at point 3, `round:3` over the rounding of that corner; a curved side is many facets of one name.
 * Names survive moves, depth changes and edits of other points.
 */
export type FaceName = 'base' | 'end' | `side:${number}` | `round:${number}`;

/** A flat face in the world. */
export interface WorldFace {
  readonly name: FaceName;
  /** Corners in document units, anticlockwise seen from outside. */
  readonly corners: readonly WorldPoint[];
  /** Corners of the holes, clockwise seen from outside. */
  readonly holes?: readonly (readonly WorldPoint[])[];
  /** Unit normal pointing out of the solid; for a flat shape, to the viewer. */
  readonly normal: WorldPoint;
}

/** The face of a flat shape: its outline laid into the world, turned to the viewer. */
export function flatFace(outline: Outline, frame: PlaneFrame): WorldFace {
  return { name: 'end', ...cornersOf(outline, frame, frame.normal, (p) => p), normal: frame.normal };
}

/** The corners of a face over an outline, and those of its holes. */
function cornersOf(outline: Outline, frame: PlaneFrame, normal: WorldPoint, place: (p: WorldPoint) => WorldPoint): Pick<WorldFace, 'corners' | 'holes'> {
  const [outer, ...holes] = ringsOf(outline).map((ring) => turned(flattenOutline(ring, FACET), frame, normal).map(place));
  const corners = outer ?? [];
  return holes.length > 0 ? { corners, holes: holes.map((hole) => hole.reverse()) } : { corners };
}

/**
 * The faces of the solid that a closed outline makes by running along its plane's normal: the two ends first, then
 * one side for each edge in the outline's order. Edges without length give no side. An outline without area gives
 * no faces.
 * @param depth in cells; positive comes towards the viewer, negative goes away, 0 gives no faces
 * @param cell edge of a cell in document units
 */
export function depthFaces(outline: Outline, frame: PlaneFrame, depth: number, cell: number): readonly WorldFace[] {
  const points = flattenOutline(outline, FACET);
  if (depth === 0 || !outline.closed || doubleAreaTicks(points) === 0) return [];
  const run = scaleWorld(frame.normal, depth * cell);
  const forward = scaleWorld(frame.normal, Math.sign(depth));
  const backward = scaleWorld(forward, -1);
  const shift = (p: WorldPoint): WorldPoint => addWorld(p, run);
  const faces: WorldFace[] = [
    { name: 'base', ...cornersOf(outline, frame, backward, (p) => p), normal: backward },
    { name: 'end', ...cornersOf(outline, frame, forward, shift), normal: forward },
  ];
  ringsOf(outline).forEach((ring, i) => {
    const outwards = turnsWith(i === 0 ? points : flattenOutline(ring, FACET), frame, forward);
    addSides(faces, ring, frame, forward, shift, outwards === (i === 0) ? 1 : -1);
  });
  return faces;
}

/** The sides over a ring. @param sense 1 where the solid lies to the left of the ring, seen against `forward` */
function addSides(faces: WorldFace[], ring: Outline, frame: PlaneFrame, forward: WorldPoint, shift: (p: WorldPoint) => WorldPoint, sense: 1 | -1): void {
  for (const [p, q, name] of sideEdges(ring)) {
    const from = worldFromPlane(frame, p);
    const to = worldFromPlane(frame, q);
    const normal = unitWorld(scaleWorld(crossWorld(subtractWorld(to, from), forward), sense));
    if (!normal) continue;
    const corners = sense > 0 ? [from, to, shift(to), shift(from)] : [to, from, shift(from), shift(to)];
    faces.push({ name, corners, normal });
  }
}

/** Distance in cells between curved sides and their facets. */
export const FACET = 0.004;

/** The straight pieces of a boundary, each with the name of its side. */
function sideEdges(outline: Outline): readonly (readonly [PlanePoint, PlanePoint, FaceName])[] {
  return outlineSegments(outline).flatMap((segment) => {
    const isCorner = segment.kind === 'conic' && segment.corner;
    const bevel = segment.kind === 'line' && outline.points.some((p) => p.id === segment.id && p.corner?.kind === 'bevel' && !same(p, segment.from));
    const name: FaceName = isCorner || bevel ? `round:${segment.id}` : `side:${segment.id}`;
    let from = segment.from;
    return chordsOf(segment, FACET).map((to) => {
      const edge = [from, to, name] as const;
      from = to;
      return edge;
    });
  });
}

const same = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u && p.v === q.v;

function turnsWith(points: readonly PlanePoint[], frame: PlaneFrame, normal: WorldPoint): boolean {
  return doubleAreaTicks(points) * dotWorld(crossWorld(frame.u, frame.v), normal) > 0;
}

function turned(points: readonly PlanePoint[], frame: PlaneFrame, normal: WorldPoint): WorldPoint[] {
  const corners = points.map((p) => worldFromPlane(frame, p));
  return turnsWith(points, frame, normal) ? corners : corners.reverse();
}

/** The axis that a direction runs along and its sense, or null for a slanting one. */
export function axisOf(direction: WorldPoint): { readonly axis: Axis; readonly sense: 1 | -1 } | null {
  for (const axis of ['a', 'b', 'h'] as const) {
    if (Math.abs(Math.abs(direction[axis]) - 1) < 1e-12) return { axis, sense: direction[axis] > 0 ? 1 : -1 };
  }
  return null;
}

/** What people call a face with this outward normal: top, underside, left, right, back left, back right, or slanting side. */
export function faceWord(normal: WorldPoint): string {
  const along = axisOf(normal);
  if (!along) return normal.h > 1e-12 ? 'slope' : normal.h < -1e-12 ? 'overhang' : 'slanting side';
  if (along.axis === 'h') return along.sense > 0 ? 'top' : 'underside';
  if (along.axis === 'a') return along.sense < 0 ? 'left side' : 'far right side';
  return along.sense < 0 ? 'right side' : 'far left side';
}

/**
 * The frame in which a face is read: x to the right, y down, as text would stand on it, in world vectors of one
 * cell, with the origin at the top left of the face's box. Upright faces have y straight down; level faces have x
 * along a.
 */
export function readingFrame(face: WorldFace, cell: number): PlaneFrame & { readonly width: number; readonly height: number } {
  const { right, down } = readingDirections(face.normal);
  let minX = Infinity;
  let minY = Infinity;
  let maxX = -Infinity;
  let maxY = -Infinity;
  for (const corner of face.corners) {
    const x = dotWorld(corner, right);
    const y = dotWorld(corner, down);
    minX = Math.min(minX, x);
    maxX = Math.max(maxX, x);
    minY = Math.min(minY, y);
    maxY = Math.max(maxY, y);
  }
  const level = face.corners[0] ? dotWorld(face.corners[0], face.normal) : 0;
  const origin = addWorld(addWorld(scaleWorld(right, minX), scaleWorld(down, minY)), scaleWorld(face.normal, level));
  return {
    origin,
    u: scaleWorld(right, cell),
    v: scaleWorld(down, cell),
    normal: face.normal,
    width: (maxX - minX) / cell,
    height: (maxY - minY) / cell,
  };
}
