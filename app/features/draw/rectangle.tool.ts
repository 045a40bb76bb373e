import {
  automaticName,
  boundsArea,
  planeName,
  rectangleOutline,
  spanBetween,
  type Caught,
  type Edit,
  type Plane,
  type PlanePoint,
  type ShapeNode,
} from '@core';
import { areaWords, catchPointer, caughtPlace } from '../../tools/catching';
import type { Ghost, Tool, ToolContext, ToolStep } from '../../tools/tool';

export interface RectangleState {
  readonly plane: Plane | null;
  readonly from: PlanePoint | null;
  readonly caught: Caught | null;
}

const IDLE: RectangleState = { plane: null, from: null, caught: null };

/** Rectangles by two opposite corners: two presses, or one drag. Both sides can be typed. */
export const rectangleTool: Tool<RectangleState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Enter' ? finish(state, state.caught, context) : { state: { ...IDLE, caught: state.caught } };
    if (event.kind === 'typed') return finish(state, typedCorner(state, event.lengths), context);
    const on = context.on(state.plane ?? context.plane);
    const caught = catchPointer(on, event.at, state.from ? [state.from] : [], { lock: false, free: event.free });
    const next = { ...state, caught };
    if (event.kind === 'move' || !caught) return { state: next };
    if (event.kind === 'down' && !state.from) return { state: { plane: context.plane, from: { u: caught.u, v: caught.v }, caught } };
    return finish(next, caught, context);
  },
  ghost: (state, context) => ghostOf(state, context),
  fields: ({ from, plane }) =>
    from ? (plane?.kind === 'sheet' ? ['width', 'height'] : plane?.kind === 'floor' ? ['along a', 'along b'] : ['width', 'height']) : [],
};

/** The far corner at typed sides, on the side of the first corner where the pointer is. */
function typedCorner({ from, caught }: RectangleState, [width = null, height = null]: readonly (number | null)[]): PlanePoint | null {
  if (!from || !caught) return null;
  const side = (start: number, end: number, typed: number | null): number => (typed === null ? end : start + (end < start ? -typed : typed));
  return { u: side(from.u, caught.u, width), v: side(from.v, caught.v, height) };
}

function finish(state: RectangleState, to: PlanePoint | null, context: ToolContext): ToolStep<RectangleState> {
  if (!state.from || !to) return { state };
  const outline = rectangleOutline(state.from, to);
  if (!boundsArea(outline)) return { state };
  const plane = state.plane ?? context.plane;
  const node: ShapeNode = {
    kind: 'shape',
    id: context.newId(),
    name: automaticName(context.document, 'rectangle', planeName(plane.kind, context.document.projection)),
    hidden: false,
    locked: false,
    plane,
    outline,
    depth: 0,
    paint: context.paint,
  };
  const edit: Edit = { kind: 'add', nodes: [node], artworks: [] };
  return { state: { ...IDLE, caught: state.caught }, commit: { edit, label: `draw ${node.name}` }, select: [node.id] };
}

function ghostOf({ plane: started, from, caught }: RectangleState, context: ToolContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return null;
  if (!from) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught)] };
  const span = spanBetween(from, caught);
  const words = [...areaWords(context, Math.abs(span.u), Math.abs(span.v)), caughtPlace(context, plane, caught)];
  return { plane, caught, points: rectangleOutline(from, caught).points, closed: true, closes: false, words };
}
