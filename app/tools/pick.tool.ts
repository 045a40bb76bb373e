import {
  addWorld,
  dotWorld,
  exactCells,
  figure,
  findNode,
  idsWithin,
  invert33,
  apply33,
  pickAt,
  axesOf,
  anchorOfBox,
  photoPlace,
  placementGround,
  placementLines,
  wayToLine,
  readBox,
  readUnder,
  readWay,
  readingFrameOf,
  readingMap,
  scaleWorld,
  SHEET_READING,
  surfaceUnder,
  thingsInFrame,
  type CellMove,
  type CheminDocument,
  type DocumentNode,
  type Edit,
  type Mat33,
  type Plane,
  type PlanePoint,
  type SheetFrame,
  type SheetPoint,
  type Visible,
} from '@core';
import { lockedIds, type Ghost, type Tool, type ToolContext, type ToolStep } from './tool';

interface Drag {
  readonly from: SheetPoint;
  readonly ids: readonly string[];
  /** The node that was pressed, whose plane or frame the movement keeps to. */
  readonly node: string;
  readonly moved: PlanePoint;
}

/** A frame that is pulled over empty ground. */
interface Framing {
  readonly from: SheetPoint;
  readonly to: SheetPoint;
  /** What was chosen before it, which it adds to or takes away from; null where it chooses anew. */
  readonly before: readonly string[] | null;
  readonly found: readonly string[];
}

export interface PickState {
  readonly drag: Drag | null;
  readonly frame?: Framing;
}

/**
 * One tool to choose and to move everything, flat or in space: along the plane that the pressed thing lies in. From empty
 * ground, or anywhere with the key for free places, it pulls a frame that chooses.
 */
export const pickTool: Tool<PickState> = {
  start: () => ({ drag: null }),
  step: (state, event, context) => {
    if (event.kind === 'key') {
      if (event.key !== 'Escape') return { state };
      return { state: { drag: null }, preview: null, select: state.frame ? (state.frame.before ?? []) : state.drag ? context.selection : [] };
    }
    if (event.kind === 'typed') return { state };
    if (event.kind === 'down') return press(event.at, event, context);
    if (state.frame) return framed(state.frame, event, context);
    if (!state.drag) return { state };
    const moved = displacement(state.drag, event.at, event, context);
    const edit = moveEdit(state.drag, moved, context);
    if (event.kind === 'move') return { state: { drag: { ...state.drag, moved } }, preview: edit };
    return edit ? { state: { drag: null }, preview: null, commit: { edit, label: 'move' } } : { state: { drag: null }, preview: null };
  },
  ghost: ({ drag, frame }, context) => {
    if (frame) return frameGhost(frame, context);
    if (!drag || (drag.moved.u === 0 && drag.moved.v === 0)) return null;
    const { plane } = frameOf(drag.node, context);
    return { plane, caught: null, points: [], closed: false, closes: false, words: [`moved ${figure(drag.moved.u)} and ${figure(drag.moved.v)}\u2009cells`] };
  },
  fields: () => [],
};

function press(at: SheetPoint, { lock: add, free }: { readonly lock: boolean; readonly free: boolean }, context: ToolContext): ToolStep<PickState> {
  const locked = lockedIds(context.document.nodes);
  const under = free ? null : pickAt(context.picture, at, context.reach, (id) => locked.has(id));
  const hit = chosenPart(under, context.selection);
  if (!hit)
    return { state: { drag: null, frame: { from: at, to: at, before: add ? context.selection : null, found: [] } }, select: add ? context.selection : [] };
  const holder = context.selection.find((id) => {
    const node = findNode(context.document, id);
    return node !== null && idsWithin(node).includes(hit.node);
  });
  if (add) {
    const select = holder ? context.selection.filter((id) => id !== holder) : [...context.selection, hit.node];
    return { state: { drag: null }, select };
  }
  const ids = holder ? context.selection : [hit.node];
  return {
    state: { drag: { from: at, ids, node: hit.node, moved: { u: 0, v: 0 } } },
    select: ids,
    face: ids.length === 1 && ids[0] === hit.node ? hit.face : null,
  };
}

const frameOfTwo = (p: SheetPoint, q: SheetPoint): SheetFrame => ({
  minX: Math.min(p.x, q.x),
  minY: Math.min(p.y, q.y),
  maxX: Math.max(p.x, q.x),
  maxY: Math.max(p.y, q.y),
});

/** A frame that is pulled on, or let go: what it takes is chosen, or added; where all of it was chosen already, taken away. */
function framed(frame: Framing, { kind, at }: { readonly kind: 'move' | 'down' | 'up'; readonly at: SheetPoint }, context: ToolContext): ToolStep<PickState> {
  // A press that only trembles chooses nothing.
  const still = Math.hypot(at.x - frame.from.x, at.y - frame.from.y) < context.reach / 2;
  const locked = lockedIds(context.document.nodes);
  const found = still
    ? []
    : thingsInFrame(context.document, context.picture, context.geometry, frameOfTwo(frame.from, at), context.frameTakes, (id) => locked.has(id));
  if (kind === 'move') return { state: { drag: null, frame: { ...frame, to: at, found } } };
  return { state: { drag: null }, select: chosenBy({ ...frame, found }) };
}

function chosenBy({ before, found }: Framing): readonly string[] {
  if (!before) return found;
  const rest = found.filter((id) => !before.includes(id));
  return rest.length > 0 || found.length === 0 ? [...before, ...rest] : before.filter((id) => !found.includes(id));
}

function frameGhost(frame: Framing, context: ToolContext): Ghost | null {
  const { from, to, found } = frame;
  if (from.x === to.x && from.y === to.y) return null;
  const { minX, minY, maxX, maxY } = frameOfTwo(from, to);
  const all = chosenBy(frame).length;
  const count = found.length === 1 ? 'one thing' : `${found.length} things`;
  const words = [`${context.frameTakes === 'within' ? 'within' : 'touched'}: ${count}`, ...(frame.before ? [`chosen then: ${all}`] : [])];
  return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words, part: [minX, minY, maxX, minY, maxX, maxY, minX, maxY] };
}

/** A part of solids that are one in their place, where it is what is chosen. */
function chosenPart(hit: Visible | null, selection: readonly string[]): Visible | null {
  return hit?.part && selection.includes(hit.part.node) ? { ...hit, node: hit.part.node, face: hit.part.name } : hit;
}

/** The plane that a node moves in, and the map from its cells to the sheet. */
function frameOf(id: string, context: ToolContext): { readonly map: Mat33 | null; readonly plane: Plane } {
  const node = findNode(context.document, id);
  if (node?.kind === 'placement') {
    const ground = placementGround(context.document, node);
    return { map: ground && readingMap(context.geometry, ground), plane: node.target.kind === 'plane' ? node.target.plane : context.plane };
  }
  const plane = node?.kind === 'shape' ? node.plane : context.plane;
  return { map: context.on(plane).options.sheetFromPlane, plane };
}

function displacement(drag: Drag, at: SheetPoint, how: { readonly lock: boolean; readonly free: boolean }, context: ToolContext): PlanePoint {
  const way = wayBetween(drag.node, drag.from, at, context);
  if (!way) return { u: 0, v: 0 };
  const step = (cells: number): number => (how.free ? exactCells(cells) : Math.round(cells) + 0);
  const near = how.free ? null : nearLine(drag.node, way, context);
  // Of a line and the next whole cell the nearer one.
  const nearer = (line: number | null | undefined, wanted: number): number =>
    line !== null && line !== undefined && Math.abs(line - wanted) < Math.abs(step(wanted) - wanted) ? line : step(wanted);
  const [u, v] = [nearer(near?.x, way.x), nearer(near?.y, way.y)];
  if (!how.lock) return { u, v };
  return Math.abs(way.x) >= Math.abs(way.y) ? { u, v: 0 } : { u: 0, v };
}

/** Artwork comes to lie on edges, thirds and middles of its face, and of other artwork there. */
function nearLine(id: string, way: SheetPoint, context: ToolContext): ReturnType<typeof wayToLine> | null {
  const node = findNode(context.document, id);
  const ground = node?.kind === 'placement' ? placementGround(context.document, node) : null;
  if (node?.kind !== 'placement' || !ground || node.anchor.turn || surfaceUnder(context.document, node)) return null;
  const reach = Math.min(0.45, context.reach / context.geometry.cell);
  const { x, y } = wayToLine(readBox(ground, node.anchor), way, placementLines(context.document, node, ground), reach);
  return { x: x === null ? null : exactCells(x), y: y === null ? null : exactCells(y) };
}

/** The way between two places of the sheet in the frame that a node moves in, in cells. */
function wayBetween(id: string, from: SheetPoint, to: SheetPoint, context: ToolContext): SheetPoint | null {
  const node = findNode(context.document, id);
  const there = node?.kind === 'placement' ? surfaceUnder(context.document, node) : null;
  if (there) {
    const [p, q] = [photoPlace(there, from), photoPlace(there, to)];
    const { cell } = context.geometry;
    return p && q && { x: (q.u - p.u) / cell, y: (q.v - p.v) / cell };
  }
  const ground = node?.kind === 'placement' ? placementGround(context.document, node) : null;
  if (ground) {
    const [p, q] = [readUnder(context.geometry, ground, from), readUnder(context.geometry, ground, to)];
    return p && q && readWay(ground, p, q);
  }
  const { map } = frameOf(id, context);
  const inverse = map && invert33(map);
  const [p, q] = inverse ? [apply33(inverse, from.x, from.y), apply33(inverse, to.x, to.y)] : [null, null];
  return p && q && { x: q.x - p.x, y: q.y - p.y };
}

function moveEdit(drag: Drag, moved: PlanePoint, context: ToolContext): Edit | null {
  if (moved.u === 0 && moved.v === 0) return null;
  const node = findNode(context.document, drag.node);
  const plane = node?.kind === 'shape' ? node.plane : context.plane;
  // Artwork is dragged in the frame in which it is read, shapes in their plane.
  const ground = node?.kind === 'placement' ? placementGround(context.document, node) : plane;
  const frame = (ground && readingFrameOf(ground)) ?? SHEET_READING;
  const along = moveOnPlane(plane, moved.u, moved.v);
  const by = node?.kind === 'placement' ? addWorld(scaleWorld(frame.u, moved.u), scaleWorld(frame.v, moved.v)) : along;
  // Round sides have no frame of their own: artwork on them moves as it is read.
  const isRound = ground !== null && 'form' in ground && ground.form.kind !== 'flat';
  const read = isRound ? { x: moved.u, y: moved.v } : { x: exactCells(dotWorld(by, frame.u)), y: exactCells(dotWorld(by, frame.v)) };
  return moveAll(context.document, drag.ids, { a: exactCells(by.a), b: exactCells(by.b), h: exactCells(by.h) }, read);
}

/**
 * The edit that moves all of these things: by cells along the world's axes, and artwork on faces whose host stays where
 * it is by cells of its own reading frame.
 */
export function moveAll(document: CheminDocument, ids: readonly string[], by: CellMove, read: { readonly x: number; readonly y: number }): Edit | null {
  const moving = new Set(ids.flatMap((id) => idsWithin(findNode(document, id) ?? ({ id, kind: 'copy' } as DocumentNode))));
  const placed = ids.flatMap((id) => {
    const node = findNode(document, id);
    if (node?.kind !== 'placement' || node.target.kind !== 'face' || moving.has(node.target.node)) return [];
    const ground = placementGround(document, node);
    if (!ground) return [];
    const box = readBox(ground, node.anchor);
    const anchor = anchorOfBox(ground, { ...box, x: box.x + read.x, y: box.y + read.y }, node.anchor);
    return [{ kind: 'place' as const, id, target: node.target, anchor, ...(node.overhangs && { overhangs: node.overhangs }) }];
  });
  const onFaces = new Set(placed.map((edit) => edit.id));
  const others = ids.filter((id) => !onFaces.has(id) && findNode(document, id) !== null);
  const edits = [...(others.length > 0 ? [{ kind: 'move' as const, ids: [...others], by }] : []), ...placed];
  if (edits.length === 0) return null;
  return edits.length === 1 ? edits[0]! : { kind: 'all', edits };
}

/** A movement along a plane's u and v as cells along the world's axes (on the sheet: a right, b down). */
export function moveOnPlane(plane: Plane, du: number, dv: number): { a: number; b: number; h: number } {
  const by = { a: 0, b: 0, h: 0 };
  if (plane.stance) {
    const { u, v } = plane.stance;
    return { a: exactCells(u.a * du + v.a * dv), b: exactCells(u.b * du + v.b * dv), h: exactCells(u.h * du + v.h * dv) };
  }
  const axes = axesOf(plane) ?? ({ u: 'a', v: 'b' } as const);
  by[axes.u] += du;
  by[axes.v] += dv;
  return by;
}
