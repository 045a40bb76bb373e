import type { CheminDocument, ShapeNode } from '../document/types';
import { surfaceRings, type Body, type Surface } from '../geometry/body';
import { FACET } from '../geometry/facets';
import { keptBy, keptByKey } from '../math/keep';
import { addWorld, dotWorld, scaleWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { axesOf, planeFrame, planeKey, samePlane, type Plane, type PlaneFrame } from '../projection/planes';
import { boxAround, outlineCentre, outlineEdges, ringsOf } from '../shape/outline';
import { guideInPlane, guideReach, type Guide } from '../projection/guides';
import { projectionFrom } from '../projection/projection';
import { joinSources, type CatchSource } from '../snap/source';
import { chordsOf, isCurved, outlineSegments, type Segment } from '../shape/segments';
import { drawnBody, drawnNodes, shapeInPlace } from './drawn-nodes';
import { SAME_PLACE } from '../math/tolerances';

/**
 * Everything of a document that lies in a plane and can be caught there: the outlines drawn on it, and the surfaces and
 * edges of solids that lie in it. Hidden things are left out. A round side gives its rims, where they lie in the plane.
 * @param skip nodes that are not caught, such as what is being moved
 */
export function catchSource(document: CheminDocument, plane: Plane, skip: ReadonlySet<string> = NOTHING): CatchSource {
  const frame = planeFrame(plane, 1);
  const sources: CatchSource[] = [];
  for (const drawn of drawnNodes(document)) {
    const { node, owner, hidden } = drawn;
    if (hidden || node.kind === 'placement' || skip.has(owner)) continue;
    const shape = shapeInPlace(drawn);
    if (shape && samePlane(shape.plane, plane)) sources.push(ownSource(shape));
    const body = frame && (node.kind === 'group' || node.depth !== 0) ? drawnBody(drawn) : null;
    if (frame && body && reaches(body, plane)) sources.push(...onPlanes(body)(plane));
  }
  if (document.guides) sources.push(ofGuides(document.guides, document, plane, skip));
  return joinSources(sources);
}

/** What of the sheet's surroundings guides are caught in, in parts of its size to each side. */
const AROUND = 2;

/** Guides that lie in a plane, along what is seen of them, and the points in which others go through it. */
function ofGuides(guides: readonly Guide[], { projection, grid, sheet }: CheminDocument, plane: Plane, skip: ReadonlySet<string>): CatchSource {
  const eye = projectionFrom(projection);
  const box = { minX: -AROUND * sheet.width, minY: -AROUND * sheet.height, maxX: (1 + AROUND) * sheet.width, maxY: (1 + AROUND) * sheet.height };
  const [points, chords]: [PlanePoint[], [PlanePoint, PlanePoint][]] = [[], []];
  for (const guide of guides) {
    const there = guide.hidden || skip.has(guide.id) ? null : guideInPlane(guide, plane);
    if (there?.kind === 'point') points.push(there.at);
    const reach = there?.kind === 'line' ? guideReach(eye, guide, grid.cell, box) : null;
    if (there?.kind !== 'line' || !reach) continue;
    const on = (t: number): PlanePoint => ({ u: there.at.u + there.along.u * t, v: there.at.v + there.along.v * t });
    chords.push([on(reach[0]), on(reach[1])]);
  }
  return { points, edges: [], centres: [], chords };
}

const NOTHING: ReadonlySet<string> = new Set();

const ownSource = keptBy((node: ShapeNode): CatchSource => joinSources(ringsOf(node.outline).map((ring) => ofOutline({ ...node, outline: ring }))));

function ofOutline({ outline }: ShapeNode): CatchSource {
  const centre = outline.closed ? outlineCentre(outline) : null;
  const centres = centre ? [centre] : [];
  if (!isCurved(outline)) return { points: outline.points, edges: outlineEdges(outline), centres, chords: [] };
  return { points: outline.points, centres, ...drawnAlong(outlineSegments(outline)) };
}

function drawnAlong(segments: readonly Segment[], place: (p: PlanePoint) => PlanePoint = (p) => p): Pick<CatchSource, 'edges' | 'chords'> {
  const edges: [PlanePoint, PlanePoint][] = [];
  const chords: [PlanePoint, PlanePoint][] = [];
  for (const segment of segments) {
    if (segment.kind === 'line') edges.push([place(segment.from), place(segment.to)]);
    else [segment.from, ...chordsOf(segment, FACET)].map(place).forEach((p, i, all) => i > 0 && chords.push([all[i - 1]!, p]));
  }
  return { edges, chords };
}

/** Whether a body comes to a plane at all: a quick look before its surfaces are. */
function reaches({ bounds: { min, max } }: Body, plane: Plane): boolean {
  const axes = axesOf(plane);
  return !axes || (min[axes.across] - IN_PLANE <= plane.offset && plane.offset <= max[axes.across] + IN_PLANE);
}

/** Cells from a plane within which a corner lies in it: rounding of exact places. */
const IN_PLANE = SAME_PLACE;

/** Most planes that what a body gives on them is remembered of. */
const MOST_PLANES = 64;

/** What bodies give on planes that lie in space, made once for both. */
const onPlanes = keptBy((body: Body) =>
  keptByKey(MOST_PLANES, planeKey, (plane: Plane) => body.surfaces.flatMap((surface) => ofSurface(surface, planeFrame(plane, 1)!))),
);

/** The corners of a flat surface that lie in a plane, the edges between such neighbours, and its middle where all do. */
function ofSurface(surface: Surface, frame: PlaneFrame): readonly CatchSource[] {
  const { form } = surface;
  if (form.kind !== 'flat') return [];
  const own = form.frame;
  const world = (p: PlanePoint): WorldPoint => addWorld(own.origin, addWorld(scaleWorld(own.u, p.u), scaleWorld(own.v, p.v)));
  const place = (p: PlanePoint): PlanePoint => {
    const from = subtractWorld(world(p), frame.origin);
    return { u: dotWorld(from, frame.u), v: dotWorld(from, frame.v) };
  };
  const lies = (p: PlanePoint): boolean => Math.abs(dotWorld(subtractWorld(world(p), frame.origin), frame.normal)) <= IN_PLANE;
  return surfaceRings(surface).flatMap((ring): readonly CatchSource[] => {
    const inside = ring.filter((segment) => lies(segment.from));
    if (inside.length === 0) return [];
    const points = inside.map((segment) => place(segment.from));
    const whole = inside.length === ring.length;
    const along = whole ? ring : ring.filter((segment) => segment.kind === 'line' && lies(segment.from) && lies(segment.to));
    const box = whole ? boxAround(points) : null;
    const centres = box ? [{ u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 }] : [];
    return [{ points, centres, ...drawnAlong(along, place) }];
  });
}
