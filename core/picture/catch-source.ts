import { flattenTree } from '../document/tree';
import type { CheminDocument, ShapeNode } from '../document/types';
import { dotWorld, subtractWorld, type PlanePoint } from '../math/points';
import { planeFrame, type Plane, type PlaneFrame } from '../projection/planes';
import { boxAround, outlineCentre, outlineEdges } from '../shape/outline';
import { joinSources, type CatchSource } from '../snap/snap';
import { chordsOf, isCurved, outlineSegments } from '../shape/segments';
import { FACET, type WorldFace } from '../solid/faces';
import { worldFaces, type Stage } from './things';

/**
 * Everything of a document that lies in a plane and can be caught there: the outlines drawn on it, and the faces
 * and edges of solids that lie in it. Hidden things are left out.
 */
export function catchSource(document: CheminDocument, stage: Stage, plane: Plane): CatchSource {
  const frame = planeFrame(plane, stage.cell);
  const sources: CatchSource[] = [];
  for (const { node, hidden } of flattenTree(document.nodes)) {
    if (hidden || node.kind !== 'shape') continue;
    if (node.plane.kind === plane.kind && node.plane.offset === plane.offset) sources.push(ofOutline(node));
    if (frame && node.depth !== 0) for (const face of worldFaces(stage, node)) sources.push(ofFace(face, frame, stage.cell));
  }
  return joinSources(sources);
}

function ofOutline({ outline }: ShapeNode): CatchSource {
  const centre = outline.closed ? outlineCentre(outline) : null;
  const centres = centre ? [centre] : [];
  if (!isCurved(outline)) return { points: outline.points, edges: outlineEdges(outline), centres, chords: [] };
  const edges: [PlanePoint, PlanePoint][] = [];
  const chords: [PlanePoint, PlanePoint][] = [];
  for (const segment of outlineSegments(outline)) {
    if (segment.kind === 'line') edges.push([segment.from, segment.to]);
    else [segment.from, ...chordsOf(segment, FACET)].forEach((p, i, all) => i > 0 && chords.push([all[i - 1]!, p]));
  }
  return { points: outline.points, edges, centres, chords };
}

/** The corners of a face that lie in a plane, the edges between such neighbours, and its middle where all do. */
function ofFace(face: WorldFace, frame: PlaneFrame, cell: number): CatchSource {
  const inPlane = face.corners.map((corner): PlanePoint | null => {
    const from = subtractWorld(corner, frame.origin);
    if (Math.abs(dotWorld(from, frame.normal)) > 1e-9 * cell) return null;
    return { u: dotWorld(from, frame.u) / (cell * cell), v: dotWorld(from, frame.v) / (cell * cell) };
  });
  const points = inPlane.filter((p) => p !== null);
  const edges = inPlane.flatMap((p, i): [PlanePoint, PlanePoint][] => {
    const next = inPlane[(i + 1) % inPlane.length];
    return p && next ? [[p, next]] : [];
  });
  const box = points.length === inPlane.length ? boxAround(points) : null;
  return { points, edges, centres: box ? [{ u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 }] : [], chords: [] };
}
