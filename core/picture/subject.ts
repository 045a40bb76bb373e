import type { CheminDocument } from '../document/types';
import type { WorldBox, Room } from '../projection/framing';
import { roomOf } from '../projection/framing';
import { planeFrame, worldFromPlane } from '../projection/planes';
import { sheetFromWorld, projectionFrom, type Projection } from '../projection/projection';
import { drawnNodes } from './drawn-nodes';
import { worldFaces, type Stage } from './things';
import type { WorldPoint } from '../math/points';

/** Every corner of what is drawn in space and not hidden, in mm of the world. */
export function drawnPoints(document: CheminDocument, stage: Stage): readonly WorldPoint[] {
  const points: WorldPoint[] = [];
  for (const { node, hidden } of drawnNodes(document)) {
    if (hidden || node.kind !== 'shape' || node.plane.kind === 'sheet') continue;
    const faces = worldFaces(stage, node);
    for (const face of faces) points.push(...face.corners);
    const frame = faces.length === 0 ? planeFrame(node.plane, stage.cell) : null;
    if (frame) for (const p of node.outline.points) points.push(worldFromPlane(frame, p));
  }
  return points;
}

/** Cells of the room in space that stands for the subject while nothing is drawn. */
const EMPTY = 8;

/** The box around everything drawn in space; a box of eight cells on the floor while there is nothing. */
export function subjectOf(document: CheminDocument, stage: Stage): WorldBox {
  const points = drawnPoints(document, stage);
  const most = EMPTY * stage.cell;
  if (points.length === 0) return { min: { a: 0, b: 0, h: 0 }, max: { a: most, b: most, h: most } };
  const min = { a: Infinity, b: Infinity, h: Infinity };
  const max = { a: -Infinity, b: -Infinity, h: -Infinity };
  for (const point of points) {
    for (const axis of ['a', 'b', 'h'] as const) {
      min[axis] = Math.min(min[axis], point[axis]);
      max[axis] = Math.max(max[axis], point[axis]);
    }
  }
  return { min, max };
}

/** The room that the subject takes on the sheet now; the middle half of the sheet where it is not wholly drawn. */
export function subjectRoom(document: CheminDocument, subject: WorldBox): Room {
  const { width, height } = document.sheet;
  const usual: Room = { middle: { x: width / 2, y: height / 2 }, width: width * 0.6, height: height * 0.6 };
  const room = roomOf(projectionFrom(document.projection), subject);
  return room && room.width > 0 && room.height > 0 && room.width + room.height < 20 * (width + height) ? room : usual;
}

/** How many corners of the drawing lie outside a circle of the sheet, such as the cone of vision. */
export function pointsOutside(projection: Projection, points: readonly WorldPoint[], centre: { x: number; y: number }, radius: number): number {
  let count = 0;
  for (const point of points) {
    const p = sheetFromWorld(projection, point);
    if (!p || Math.hypot(p.x - centre.x, p.y - centre.y) > radius) count++;
  }
  return count;
}
