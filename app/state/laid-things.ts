import {
  addWorld,
  anchorThrough,
  artworkCorners,
  artworkOnPlane,
  artworkOnSurface,
  cellsOn,
  groundNormal,
  flattenTree,
  movedAll,
  placementGround,
  planeFrame,
  planeOfSurface,
  samePlane,
  scaleWorld,
  type CellMove,
  type CheminDocument,
  type DocumentNode,
  type Laid,
  type PlacementNode,
  type PlacementTarget,
  type Plane,
  type ReadBox,
  type Surface,
  type WorldPoint,
  exactCells,
} from '@core';

/** Cells within which an edge counts as lying on a line. */
const ON_LINE = 1e-4;

const NO_PAINT = { fill: null, line: null } as const;

/** Two displacements one after the other. */
export const plusMove = (p: CellMove, q: CellMove): CellMove => ({ a: exactCells(p.a + q.a), b: exactCells(p.b + q.b), h: exactCells(p.h + q.h) });

/** Why something cannot be turned, scaled or laid elsewhere by itself. */
export function whyFixed({ kind }: DocumentNode): string {
  if (kind === 'copy') return 'is a linked copy: change its original, or make it independent';
  return kind === 'placement' ? 'lies on a face that is gone' : 'follows what it measures';
}

/** Things moved as copies: artwork on a face that is not among them within that face. */
export function movedWithin(nodes: readonly DocumentNode[], by: CellMove): readonly DocumentNode[] {
  const inside = new Set(flattenTree(nodes).map(({ node }) => node.id));
  return movedAll(nodes, by).map((node) => {
    if (node.kind !== 'placement' || node.target.kind !== 'face' || inside.has(node.target.node)) return node;
    return { ...node, anchor: { ...node.anchor, at: plusMove(node.anchor.at, by) } };
  });
}

/** The plane in which artwork lies, be it its own or its face's. */
function planeUnder(ground: Surface | Plane | null): Plane | null {
  return ground && ('kind' in ground ? ground : planeOfSurface(ground));
}

/** A thing's boundary on its plane; a placement's is its corners. Null for groups, and for artwork whose face is gone. */
export function laidOf(node: DocumentNode, document: CheminDocument): Laid | null {
  if (node.kind === 'shape') return { outline: node.outline, plane: node.plane, paint: node.paint };
  if (node.kind !== 'placement') return null;
  const ground = placementGround(document, node);
  const plane = planeUnder(ground);
  const frame = ground && ('kind' in ground ? artworkOnPlane(node.anchor, ground) : artworkOnSurface(node.anchor, ground));
  if (!plane || !frame) return null;
  const corners = artworkCorners(frame, node.anchor);
  const places = cellsOn(plane, corners) ?? corners.map(({ a, b }) => ({ u: a, v: b }));
  return { outline: { points: places.map((p, i) => ({ id: i + 1, ...p })), closed: true }, plane, paint: NO_PAINT };
}

/** A placement whose corners have come to lie elsewhere; on the plane of its face it stays on the face. */
export function placedIn(node: PlacementNode, before: Laid, { outline, plane }: Laid, document: CheminDocument): PlacementNode {
  const frame = planeFrame(plane, 1);
  const corners = outline.points.map((p): WorldPoint =>
    frame ? addWorld(frame.origin, addWorld(scaleWorld(frame.u, p.u), scaleWorld(frame.v, p.v))) : { a: p.u, b: p.v, h: 0 },
  );
  const stays = node.target.kind === 'face' && samePlane(plane, before.plane);
  const ground = stays ? placementGround(document, node)! : plane;
  // On the sheet of a photographed surface it stays on that.
  const photographed = node.target.kind === 'plane' && plane.kind === 'sheet' ? node.target.photographed : undefined;
  const target: PlacementTarget = { kind: 'plane', plane, ...(photographed !== undefined && { photographed }) };
  return { ...node, target: stays ? node.target : target, anchor: anchorThrough(corners, groundNormal(ground)) };
}

/**
 * A box in another size: what lies on an edge of its face stays there, as does what lies on a line of its plane; else
 * its middle does.
 */
export function resizedBox(
  box: ReadBox,
  { width, height }: Pick<ReadBox, 'width' | 'height'>,
  room: { readonly width: number; readonly height: number } | null,
): ReadBox {
  const near = (place: number, line: number): boolean => Math.abs(place - line) < ON_LINE;
  const from = (start: number, length: number, next: number, all: number | undefined): number => {
    const end = start + length;
    const [low, high] = all === undefined ? [near(start, Math.round(start)), near(end, Math.round(end))] : [near(start, 0), near(end, all)];
    if (low && !(high && all !== undefined)) return start;
    return exactCells(high && !low ? end - next : start + (length - next) / 2);
  };
  return { x: from(box.x, box.width, width, room?.width), y: from(box.y, box.height, height, room?.height), width, height };
}
