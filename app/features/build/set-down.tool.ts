import {
  boundsAll,
  dotWorld,
  drawnBody,
  drawnNodes,
  exactCells,
  faceWord,
  findNode,
  idsWithin,
  pickAt,
  planeFrame,
  scaleWorld,
  subtractWorld,
  worldFromPlane,
  worldPoints,
  type CellMove,
  type Plane,
  type SheetPoint,
  type WorldPoint,
} from '@core';
import { catchPointer } from '../../tools/catching';
import { groundAt, outOf, type Ground } from '../../tools/ground';
import { lockedIds, type Tool, type ToolContext, type ToolStep } from '../../tools/tool';

interface Held {
  readonly ids: readonly string[];
  readonly by: CellMove;
  /** What it is set on, in words. */
  readonly words: string;
  readonly plane: Plane;
}

export interface SetDownState {
  /** What is under the pointer, that a press would take. */
  readonly over: string | null;
  readonly held: Held | null;
}

const IDLE: SetDownState = { over: null, held: null };
const FLOOR: Plane = { kind: 'floor', offset: 0 };

/**
 * Moves a solid, a group or all that is selected so that it rests on what lies under the pointer: on the floor, on top of
 * something, against a side. Along the face it goes by whole cells, so that what lay on the grid lies on it again.
 */
export const setDownTool: Tool<SetDownState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Escape' ? { state: IDLE, preview: null } : { state };
    if (event.kind === 'typed') return { state };
    if (event.kind === 'down') return take(event.at, context);
    if (!state.held) return { state: { ...state, over: thingAt(event.at, context) } };
    const held = settle(state.held, event.at, event.free, context);
    const { a, b, h } = held.by;
    const moves = a !== 0 || b !== 0 || h !== 0;
    const edit = { kind: 'move' as const, ids: [...held.ids], by: held.by };
    if (event.kind === 'move') return { state: { ...state, held }, preview: moves ? edit : null };
    return { state: { over: state.over, held: null }, preview: null, ...(moves && { commit: { edit, label: `set down ${held.words}` } }) };
  },
  ghost: ({ over, held }, context) => {
    const words = held ? [held.words] : over ? [`set down ${findNode(context.document, over)?.name ?? ''}`] : [];
    return words.length > 0 ? { plane: held?.plane ?? context.plane, caught: null, points: [], closed: false, closes: false, words } : null;
  },
  fields: () => [],
};

function thingAt(at: SheetPoint, context: ToolContext): string | null {
  const locked = lockedIds(context.document.nodes);
  return pickAt(context.picture, at, context.reach, (id) => locked.has(id))?.node ?? null;
}

function take(at: SheetPoint, context: ToolContext): ToolStep<SetDownState> {
  const over = thingAt(at, context);
  if (over === null) return { state: IDLE, select: [] };
  const isIn = (id: string): boolean => within(id, context).includes(over);
  const ids = context.selection.some(isIn) ? context.selection : [over];
  return { state: { over, held: { ids, by: { a: 0, b: 0, h: 0 }, words: '', plane: FLOOR } }, select: ids };
}

/** A thing and everything in it. */
function within(id: string, { document }: ToolContext): readonly string[] {
  const node = findNode(document, id);
  return node ? idsWithin(node) : [id];
}

/** Where what is held comes to rest for a place of the sheet. */
function settle({ ids }: Held, at: SheetPoint, free: boolean, context: ToolContext): Held {
  const { document } = context;
  const moving = new Set(ids.flatMap((id) => within(id, context)));
  const bodies = drawnNodes(document).flatMap((drawn) => (moving.has(drawn.owner) && !drawn.hidden ? (drawnBody(drawn) ?? []) : []));
  const box = boundsAll(bodies);
  const still = { document, picture: context.picture };
  const ground: Ground = groundAt(still, at, (id) => moving.has(id)) ?? { plane: FLOOR, out: 1, node: null };
  const caught = catchPointer(context.on(ground.plane), at, [], { lock: false, free });
  const nothing: Held = { ids, by: { a: 0, b: 0, h: 0 }, words: 'nothing to set it on there', plane: ground.plane };
  if (!box || !caught) return nothing;
  const out = outOf(ground);
  const frame = planeFrame(ground.plane, 1)!;
  const middle: WorldPoint = { a: (box.min.a + box.max.a) / 2, b: (box.min.b + box.max.b) / 2, h: (box.min.h + box.max.h) / 2 };
  const lowest = Math.min(...bodies.flatMap((body) => worldPoints(body.points).map((p) => dotWorld(p, out))));
  // The place of the thing that touches: below its middle, where it reaches farthest against the face.
  const foot = subtractWorld(middle, scaleWorld(out, dotWorld(middle, out) - lowest));
  const way = subtractWorld(worldFromPlane(frame, caught), foot);
  const step = (cells: number): number => (free ? exactCells(cells) : Math.round(cells));
  const [u, v, n] = [step(dotWorld(way, frame.u)), step(dotWorld(way, frame.v)), dotWorld(way, out)];
  const along = (axis: 'a' | 'b' | 'h'): number => exactCells(frame.u[axis] * u + frame.v[axis] * v + out[axis] * n);
  const by = { a: along('a'), b: along('b'), h: along('h') };
  return { ids, by, words: wordsOf(ground, out, context), plane: ground.plane };
}

function wordsOf({ node }: Ground, out: WorldPoint, { document }: ToolContext): string {
  if (node === null) return 'on the floor';
  const name = findNode(document, node)?.name ?? '';
  const word = faceWord(out);
  return word === 'top' ? `on top of ${name}` : `against the ${word} of ${name}`;
}
