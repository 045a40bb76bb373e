import { keptBy } from '../math/keep';
import { emptyDocument, type CheminDocument, type Sheet } from '../document/types';
import { gridOf, usualPlanes } from '../grid/settings';
import { mmPer } from '../math/units';
import { frameFamily, roomOf, type Room, type WorldBox } from '../projection/framing';
import type { FamilyKey } from '../projection/setup';
import { sheetFromWorld, projectionFrom, type Projection } from '../projection/projection';
import { surfaceRings, worldPoints, type Body } from '../geometry/body';
import { worldFromPlane } from '../projection/planes';
import { scaleWorld, type WorldPoint } from '../math/points';
import { drawnBody, drawnNodes } from './drawn-nodes';
import type { Stage } from './stage';

/** Every corner of what is drawn in space and not hidden, in mm of the world. */
export function drawnPoints(document: CheminDocument, stage: Stage): readonly WorldPoint[] {
  const points: WorldPoint[] = [];
  for (const drawn of drawnNodes(document)) {
    const body = drawn.hidden || drawn.node.kind === 'placement' ? null : drawnBody(drawn);
    if (body) for (const point of worldPoints(body.points)) points.push(scaleWorld(point, stage.cell));
  }
  return points;
}

/** The corners of what is drawn in space and not hidden, in mm of the world: where edges meet, and where curves are joined. */
export function drawnCorners(document: CheminDocument, stage: Stage): readonly WorldPoint[] {
  const points: WorldPoint[] = [];
  for (const drawn of drawnNodes(document)) {
    const body = drawn.hidden || drawn.node.kind === 'placement' ? null : drawnBody(drawn);
    if (body) for (const point of cornersOf(body)) points.push(scaleWorld(point, stage.cell));
  }
  return points;
}

/** The ends of the edges of a body's flat surfaces, each once, and those of its lines. */
const cornersOf = keptBy((body: Body): readonly WorldPoint[] => {
  const found = new Map<string, WorldPoint>();
  const take = (p: WorldPoint): void => void found.set(`${p.a} ${p.b} ${p.h}`, p);
  for (const surface of body.surfaces) {
    const { form } = surface;
    if (form.kind === 'flat') for (const segment of surfaceRings(surface).flat()) take(worldFromPlane(form.frame, segment.from));
  }
  for (const { frame, segments } of body.wires) for (const segment of segments) [segment.from, segment.to].forEach((p) => take(worldFromPlane(frame, p)));
  return [...found.values()];
});

/** Cells of the room in space that stands for the subject while nothing is drawn. */
const EMPTY = 8;

function emptySubject(cell: number): WorldBox {
  const most = EMPTY * cell;
  return { min: { a: 0, b: 0, h: 0 }, max: { a: most, b: most, h: most } };
}

/** Edge of a cell that a new drawing starts with: 8 mm, or 20 px on a sheet measured in px. */
const CELL = { mm: 8, px: 20 } as const;

/**
 * An empty drawing on a sheet, seen in a projection that shows the first cells from the origin. An axonometric one starts
 * with its origin low in the middle, since it is drawn upwards from there.
 */
export function startedDocument(id: string, name: string, sheet: Sheet, family: FamilyKey): CheminDocument {
  const empty = { ...emptyDocument(id, name, { x: sheet.width / 2, y: sheet.height * 0.75 }), sheet };
  const cell = sheet.unit === 'px' ? CELL.px * mmPer('px', sheet.resolution) : CELL.mm;
  const framed = frameFamily(family, emptySubject(cell), usualRoom(sheet));
  // A room seen from above takes more of the sheet than is above that: it stands in the middle.
  const low = framed.kind === 'axonometric';
  return {
    ...empty,
    grid: { ...gridOf(cell), planes: usualPlanes(family) },
    projection: low && empty.projection.kind !== 'perspective' ? { ...framed, origin: empty.projection.origin } : framed,
  };
}

/** The room that something takes on a sheet where nothing else says so: its middle. */
function usualRoom({ width, height }: Sheet): Room {
  return { middle: { x: width / 2, y: height / 2 }, width: width * 0.6, height: height * 0.6 };
}

/** The box around everything drawn in space; a box of eight cells on the floor while there is nothing. */
export function subjectOf(document: CheminDocument, stage: Stage): WorldBox {
  const points = drawnPoints(document, stage);
  if (points.length === 0) return emptySubject(stage.cell);
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
  const room = roomOf(projectionFrom(document.projection), subject);
  return room && room.width > 0 && room.height > 0 && room.width + room.height < 20 * (width + height) ? room : usualRoom(document.sheet);
}

/**
 * The room for showing a subject in another projection: the one that it takes now, or the middle of the sheet where it
 * is not seen well now (rolled, its middle off the sheet, larger than one and a half sheets, or smaller than an eighth).
 */
export function roomForAnother(document: CheminDocument, subject: WorldBox): Room {
  const { width, height } = document.sheet;
  const room = subjectRoom(document, subject);
  const within = room.middle.x > 0 && room.middle.x < width && room.middle.y > 0 && room.middle.y < height;
  const share = Math.max(room.width / width, room.height / height);
  const rolled = 'rollDeg' in document.projection && Math.abs(document.projection.rollDeg) > 1;
  return within && !rolled && share > 1 / 8 && share < 1.5 ? room : usualRoom(document.sheet);
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
