import { apply33, boundsArea, exactCells, figure, outlineThrough, sheetDistance, type Caught, type Outline, type Plane, type PlanePoint } from '@core';
import { cleanStroke, straightenStroke, type PenPoint } from '@later';
import { catchPointer, caughtPlace, planePointAt } from '../../tools/catching';
import type { PlaneContext, ToolEvent } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool } from './draw-set';
import { drawnShape } from './new-shape';

export interface FreehandState {
  readonly plane: Plane | null;
  readonly pen: readonly PenPoint[];
  readonly caught: Caught | null;
  /** What cleaning did to the last stroke. */
  readonly said: readonly string[];
}

/** Px by which the pen must leave a direction before another is taken, with axis assistance. */
const TURN_PX = 12;
/** Px within which a stroke's end closes it. */
const CLOSE_PX = 12;

/** Px of the screen that a cell takes at a point of a plane, the smaller of both directions. */
function pxOfCell({ options: { sheetFromPlane: map, pxPerUnit } }: PlaneContext, p: PlanePoint): number {
  const at = apply33(map, p.u, p.v);
  const [u, v] = [apply33(map, p.u + 1, p.v), apply33(map, p.u, p.v + 1)];
  return at && u && v ? Math.max(1e-6, Math.min(sheetDistance(at, u), sheetDistance(at, v)) * pxPerUnit) : 1;
}

/** Freehand: what the pen passes, cleaned to few points; with assistance straight runs along the axes. */
export const freehandTool: DrawTool<FreehandState> = {
  start: () => ({ plane: null, pen: [], caught: null, said: [] }),
  step: (state, event, context) => {
    if (event.kind === 'typed') return { state };
    if (event.kind === 'key') return { state: { ...state, pen: [], plane: null } };
    return point(state, event, context);
  },
  ghost: ({ plane: started, pen, caught, said }, context) => {
    const plane = started ?? context.plane;
    if (!caught) return null;
    if (pen.length === 0) return { plane, caught, points: [], closed: false, closes: false, words: [...said, caughtPlace(context, plane, caught)] };
    const shown = context.settings.assisted ? assistedRun(pen, plane, context) : pen;
    const words = [context.settings.assisted ? 'along the axes' : 'freehand', closes(pen, context.on(plane)) ? 'closes' : ''].filter(Boolean);
    return { plane, caught, points: shown, closed: false, closes: false, words, smooth: true };
  },
  fields: () => [],
};

function point(state: FreehandState, event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): DrawStep<FreehandState> {
  const on = context.on(state.plane ?? context.plane);
  const caught = catchPointer(on, event.at, [], event);
  const at = planePointAt(on, event.at);
  const press = event.press ?? 0.5;
  if (event.kind === 'down' && caught && at) {
    // A stroke begins at what is caught nearby, but the grid does not draw it from where the pen is.
    const start = caught.kind === 'crossing' || caught.kind === 'part' ? at : caught;
    return { state: { plane: context.plane, pen: [{ u: start.u, v: start.v, press }], caught, said: [] } };
  }
  if (state.pen.length === 0 || !at) return { state: { ...state, caught } };
  const pen = [...state.pen, { u: at.u, v: at.v, press }];
  return event.kind === 'move' ? { state: { ...state, pen, caught } } : finish({ ...state, pen, caught }, context);
}

function assistedRun(pen: readonly PenPoint[], plane: Plane, context: DrawContext): readonly PlanePoint[] {
  const on = context.on(plane);
  return straightenStroke(pen, (at) => context.directions(plane, at), TURN_PX / pxOfCell(on, pen[0]!));
}

function closes(pen: readonly PenPoint[], { options: { sheetFromPlane: map, pxPerUnit } }: PlaneContext): boolean {
  const [p, q] = [pen[0]!, pen.at(-1)!].map(({ u, v }) => apply33(map, u, v));
  return pen.length > 12 && !!p && !!q && sheetDistance(p, q) * pxPerUnit < CLOSE_PX;
}

function finish(state: FreehandState, context: DrawContext): DrawStep<FreehandState> {
  const plane = state.plane ?? context.plane;
  const on = context.on(plane);
  const idle: FreehandState = { plane: null, pen: [], caught: state.caught, said: [] };
  const close = closes(state.pen, on);
  const tolerance = context.settings.cleaning / pxOfCell(on, state.pen[0]!);
  const cleaned = context.settings.assisted ? null : cleanStroke(state.pen, tolerance);
  const outline = context.settings.assisted ? straight(assistedRun(state.pen, plane, context), close) : cleaned && closed(cleaned.outline, close);
  if (!outline || outline.points.length < 2 || (outline.closed && !boundsArea(outline))) return { state: idle };
  const off = cleaned ? `at most ${figure(cleaned.deviation, 3)}\u2009cells beside the pen` : 'along the axes';
  return { state: { ...idle, said: [`${outline.points.length} points, ${off}`] }, ...drawnShape(context, 'freehand line', plane, outline) };
}

function straight(corners: readonly PlanePoint[], close: boolean): Outline {
  return close && corners.length > 3 ? outlineThrough(corners.slice(0, -1), true) : outlineThrough(corners, false);
}

/** A stroke whose end is drawn to its start. */
function closed(outline: Outline, close: boolean): Outline {
  const [first, ...rest] = outline.points;
  const last = rest.at(-1);
  if (!close || !first || !last || rest.length < 3) return outline;
  const into = last.into && { u: exactCells(last.into.u + first.u - last.u), v: exactCells(last.into.v + first.v - last.v) };
  return { points: [{ ...first, ...(into && { into }) }, ...rest.slice(0, -1)], closed: true };
}
