import type { CheminDocument, PlacementNode, ShapeNode } from '../document/types';
import type { Mat33 } from '../math/matrix';
import { signedArea } from '../math/polygon';
import type { WorldPoint } from '../math/points';
import { addWorld, scaleWorld } from '../math/points';
import { clipLineNear, clipNear } from '../projection/near';
import { planeFrame, readingDirections, sheetFromFrame, worldFromPlane, type Plane, type PlaneFrame } from '../projection/planes';
import { facing, sheetFromWorld, type Projection } from '../projection/projection';
import { nearnessOf, type Sight } from '../projection/sight';
import { drawSegments } from '../shape/draw-segments';
import { joinPaths, type Path } from '../shape/path';
import { ringsOf, type Outline } from '../shape/outline';
import { boundsArea, flattenOutline, isCurved, outlineSegments } from '../shape/segments';
import { depthFaces, FACET, flatFace, readingFrame, type FaceName, type WorldFace } from '../solid/faces';
import type { SeenBox } from './dashes';
import { convexPieces, drawFace, drawPolygon, type DrawnFace } from '../visibility/drawn-face';

/** Everything that a thing's geometry depends on besides itself. Made once a projection and cell size. */
export interface Stage {
  readonly sight: Sight;
  readonly directions: readonly number[];
  readonly cell: number;
  readonly seen: SeenBox;
}

/** A visible part of a thing: a face, a flat shape, a line, or a placement on a plane. */
export interface Thing {
  readonly drawn: DrawnFace;
  readonly node: ShapeNode | PlacementNode;
  /** The face in the world; null for lines and placements. */
  readonly face: WorldFace | null;
  /** Lines only: its corners on the sheet. */
  readonly polyline: readonly number[] | null;
  /** What a curved boundary is drawn as; null where corners tell it all, or where a part lies before the near plane. */
  readonly path: Path | null;
}

/** All faces of a shape in the world, hidden ones too: one for a flat shape, none for an open line or on the sheet. */
export function worldFaces(stage: Stage, node: ShapeNode): readonly WorldFace[] {
  const frame = planeFrame(node.plane, stage.cell);
  if (!frame || !boundsArea(node.outline)) return [];
  return node.depth === 0 ? [flatFace(node.outline, seenFrom(stage, frame))] : depthFaces(node.outline, frame, node.depth, stage.cell);
}

/** The parts of a shape that are turned to the viewer. */
export function shapeThings(stage: Stage, node: ShapeNode): readonly Thing[] {
  const faces = worldFaces(stage, node);
  if (faces.length === 0) return lineThings(stage, node);
  return faces.flatMap((face): Thing[] => {
    const drawn = drawFace(stage.sight, stage.directions, node.id, face.corners, face.normal, face.holes);
    return drawn ? [{ drawn, node, face, polyline: null, path: curvedPath(stage, node, face) }] : [];
  });
}

/** A plane's frame with its normal turned to the viewer: flat shapes are seen from both sides. */
function seenFrom({ sight: { projection } }: Stage, frame: PlaneFrame): PlaneFrame {
  return facing(projection, frame.normal, frame.origin) < 0 ? { ...frame, normal: scaleWorld(frame.normal, -1) } : frame;
}

function lineThings(stage: Stage, node: ShapeNode): readonly Thing[] {
  const { projection } = stage.sight;
  const frame = planeFrame(node.plane, stage.cell);
  const near = frame && nearnessOf(stage.sight, frame.normal, frame.origin);
  if (!frame || !near) return [];
  const half = Math.max(0.05, (node.paint.line?.width ?? 0.2) / 2);
  const flat = flattenOutline(node.outline, FACET);
  const line = (node.outline.closed && flat[0] ? [...flat, flat[0]] : flat).map((p) => worldFromPlane(frame, p));
  const whole = isCurved(node.outline)
    ? drawSegments(outlineSegments(node.outline), node.outline.closed, sheetFromFrame(projection, frame), projection.near)
    : null;
  return clipLineNear(projection, line).map((piece): Thing => {
    const polyline = projectPoints(projection, piece);
    const pieces: Float64Array[] = [];
    for (let i = 0; i + 3 < polyline.length; i += 2) pieces.push(...ribbon(polyline.slice(i, i + 4), half));
    return { drawn: drawPolygon(stage.directions, node.id, Float64Array.from(polyline), pieces, near), node, face: null, polyline, path: whole };
  });
}

/** The path of a boundary with its holes under a homography; null where a part comes nearer than `near`. */
export function drawRings(outline: Outline, map: Mat33, near: number): Path | null {
  const paths = ringsOf(outline).map((ring) => drawSegments(outlineSegments(ring), ring.closed, map, near));
  return paths.every((path) => path !== null) ? joinPaths(paths) : null;
}

/** The exact path of an end that is bounded by curves or has holes. */
function curvedPath({ sight: { projection }, cell }: Stage, { outline, plane, depth }: ShapeNode, { name }: WorldFace): Path | null {
  const frame = (outline.holes ?? isCurved(outline)) && (name === 'end' || name === 'base') ? planeFrame(plane, cell) : null;
  if (!frame) return null;
  const origin = name === 'end' ? addWorld(frame.origin, scaleWorld(frame.normal, depth * cell)) : frame.origin;
  return drawRings(outline, sheetFromFrame(projection, { ...frame, origin }), projection.near);
}

/** Flat sheet coordinates of world points; those before the near plane are left out. */
function projectPoints(projection: Projection, points: readonly WorldPoint[]): number[] {
  return points.flatMap((point) => {
    const p = sheetFromWorld(projection, point);
    return p ? [p.x, p.y] : [];
  });
}

/** A line's own area on the sheet, so that it can be compared with faces like one. */
function ribbon(ends: readonly number[], half: number): Float64Array[] {
  const [x0, y0, x1, y1] = ends as [number, number, number, number];
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (length === 0) return [];
  const nx = (-(y1 - y0) / length) * half;
  const ny = ((x1 - x0) / length) * half;
  return [Float64Array.of(x0 - nx, y0 - ny, x1 - nx, y1 - ny, x1 + nx, y1 + ny, x0 + nx, y0 + ny)];
}

/** The reading frame of a plane: x right and y down as text stands on it, one cell long, from the world's origin. */
export function planeReadingFrame(stage: Stage, plane: Plane): PlaneFrame | null {
  const frame = planeFrame(plane, stage.cell);
  if (!frame) return null;
  const { right, down } = readingDirections(frame.normal);
  return { origin: frame.origin, u: scaleWorld(right, stage.cell), v: scaleWorld(down, stage.cell), normal: frame.normal };
}

/** A placement's reading frame: its face's, its plane's, or null where the face is gone or it lies on the sheet. */
export function placementFrame(stage: Stage, node: PlacementNode, hosts: ReadonlyMap<string, ShapeNode>): PlaneFrame | null {
  if (node.target.kind === 'plane') return planeReadingFrame(stage, node.target.plane);
  const host = hosts.get(node.target.node);
  const face = host && faceNamed(stage, host, node.target.face);
  return face ? readingFrame(face, stage.cell) : null;
}

/** The face of a shape with this name, or null where it has none (any more). */
export function faceNamed(stage: Stage, host: ShapeNode, name: FaceName): WorldFace | null {
  return worldFaces(stage, host).find((face) => face.name === name) ?? null;
}

/** The homography from a placement's reading frame, in cells, to the sheet; null where it cannot be drawn. */
export function placementMap(stage: Stage, node: PlacementNode, hosts: ReadonlyMap<string, ShapeNode>): Mat33 | null {
  const { cell } = stage;
  if (node.target.kind === 'plane' && node.target.plane.kind === 'sheet') return [cell, 0, 0, 0, cell, 0, 0, 0, 1];
  const frame = placementFrame(stage, node, hosts);
  return frame && sheetFromFrame(stage.sight.projection, frame);
}

/** The thing that a placement on a plane is for the order: its box. */
export function placementThing(stage: Stage, node: PlacementNode): Thing | null {
  if (node.target.kind !== 'plane') return null;
  const frame = planeReadingFrame(stage, node.target.plane);
  if (!frame) return null;
  const near = nearnessOf(stage.sight, frame.normal, frame.origin);
  const corners = boxCorners(node).map(([x, y]) => addWorld(frame.origin, addWorld(scaleWorld(frame.u, x), scaleWorld(frame.v, y))));
  const flat = projectPoints(stage.sight.projection, clipNear(stage.sight.projection, corners));
  if (!near || flat.length < 6) return null;
  const polygon = Float64Array.from(flat);
  const area = signedArea(polygon);
  if (area === 0) return null;
  // Seen from behind its corners run the other way; it is there all the same, mirrored.
  if (area < 0) reversePoints(polygon);
  return { drawn: drawPolygon(stage.directions, node.id, polygon, convexPieces(polygon), near), node, face: null, polyline: null, path: null };
}

function reversePoints(polygon: Float64Array): void {
  for (let i = 0, j = polygon.length - 2; i < j; i += 2, j -= 2) {
    [polygon[i], polygon[j]] = [polygon[j]!, polygon[i]!];
    [polygon[i + 1], polygon[j + 1]] = [polygon[j + 1]!, polygon[i + 1]!];
  }
}

/** The corners of a placement's box in its reading frame, clockwise as it is read. */
export function boxCorners({ box }: Pick<PlacementNode, 'box'>): readonly (readonly [number, number])[] {
  return [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x + box.width, box.y + box.height],
    [box.x, box.y + box.height],
  ];
}

/** All shapes of a document by id, for what lies on their faces. */
export function shapesById(nodes: CheminDocument['nodes'], into = new Map<string, ShapeNode>()): Map<string, ShapeNode> {
  for (const node of nodes) {
    if (node.kind === 'shape') into.set(node.id, node);
    else if (node.kind === 'group') shapesById(node.children, into);
  }
  return into;
}
