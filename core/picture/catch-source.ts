import type { CheminDocument, ShapeNode } from '../document/types';
import { dotWorld, subtractWorld, type PlanePoint } from '../math/points';
import { planeFrame, samePlane, type Plane, type PlaneFrame } from '../projection/planes';
import { boxAround, outlineCentre, outlineEdges, ringsOf } from '../shape/outline';
import { joinSources, type CatchSource } from '../snap/source';
import { chordsOf, isCurved, outlineSegments } from '../shape/segments';
import { FACET, type WorldFace } from '../solid/faces';
import { drawnNodes } from './drawn-nodes';
import { worldFaces, type Stage } from './things';

/** What a shape gives to be caught on its own plane, made once a shape. */
const outlines = new WeakMap<ShapeNode, CatchSource>();

/**
 * Everything of a document that lies in a plane and can be caught there: the outlines drawn on it, and the faces
 * and edges of solids that lie in it. Hidden things are left out.
 * @param skip nodes that are not caught, such as what is being moved
 */
export function catchSource(document: CheminDocument, stage: Stage, plane: Plane, skip: ReadonlySet<string> = NOTHING): CatchSource {
  const frame = planeFrame(plane, stage.cell);
  const sources: CatchSource[] = [];
  for (const { node, owner, hidden } of drawnNodes(document)) {
    if (hidden || node.kind !== 'shape' || skip.has(owner)) continue;
    if (samePlane(node.plane, plane)) sources.push(kept(node));
    if (frame && node.depth !== 0) for (const face of solidFaces(stage, node)) sources.push(ofFace(face, frame, stage.cell));
  }
  return joinSources(sources);
}

/** The faces of solids, which depend on nothing but the cell. */
const faces = new WeakMap<ShapeNode, { readonly cell: number; readonly faces: readonly WorldFace[] }>();

function solidFaces(stage: Stage, node: ShapeNode): readonly WorldFace[] {
  let known = faces.get(node);
  if (known?.cell !== stage.cell) faces.set(node, (known = { cell: stage.cell, faces: worldFaces(stage, node) }));
  return known.faces;
}

const NOTHING: ReadonlySet<string> = new Set();

function kept(node: ShapeNode): CatchSource {
  let source = outlines.get(node);
  if (!source) outlines.set(node, (source = joinSources(ringsOf(node.outline).map((ring) => ofOutline({ ...node, outline: ring })))));
  return source;
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
