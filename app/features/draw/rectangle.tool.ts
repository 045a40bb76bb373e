import { boundsArea, rectangleOutline, spanBetween, type Caught, type Plane, type PlanePoint } from '@core';
import { areaWords, carried, catchPointer, caughtPlace } from '../../tools/catching';
import { drawnShape } from './new-shape';
import type { Ghost } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool } from './draw-set';

export interface RectangleState {
  readonly plane: Plane | null;
  readonly from: PlanePoint | null;
  readonly caught: Caught | null;
}

const IDLE: RectangleState = { plane: null, from: null, caught: null };

/** Rectangles by two opposite corners: two presses, or one drag. Both sides can be typed. */
export const rectangleTool: DrawTool<RectangleState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Enter' ? finish(state, state.caught, context) : { state: { ...IDLE, caught: state.caught } };
    if (event.kind === 'typed') return finish(state, typedCorner(state, event.lengths), context);
    const on = context.on(state.plane ?? context.plane);
    const caught = catchPointer(on, event.at, state.from ? [state.from] : [], { lock: false, free: event.free });
    const from = event.carry && state.from && caught ? (carried([state.from], state.caught, caught)[0] ?? null) : state.from;
    const next = { ...state, from, caught };
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

function finish(state: RectangleState, to: PlanePoint | null, context: DrawContext): DrawStep<RectangleState> {
  if (!state.from || !to) return { state };
  const outline = rectangleOutline(state.from, to);
  if (!boundsArea(outline)) return { state };
  const plane = state.plane ?? context.plane;
  return { state: { ...IDLE, caught: state.caught }, ...drawnShape(context, 'rectangle', plane, outline) };
}

function ghostOf({ plane: started, from, caught }: RectangleState, context: DrawContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return null;
  if (!from) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught)] };
  const span = spanBetween(from, caught);
  const words = [...areaWords(context, Math.abs(span.u), Math.abs(span.v)), caughtPlace(context, plane, caught)];
  return { plane, caught, points: rectangleOutline(from, caught).points, closed: true, closes: false, words };
}
