import {
  automaticName,
  edgeLength,
  flattenOutline,
  outlineThrough,
  planeName,
  smoothOutline,
  type Caught,
  type Edit,
  type Outline,
  type Plane,
  type PlanePoint,
  type ShapeNode,
} from '@core';
import { catchPointer, caughtPlace, lengthWords, axisName } from '../../tools/catching';
import type { Ghost, Tool, ToolContext, ToolEvent, ToolStep } from '../../tools/tool';

export interface OutlineState {
  /** The plane of the first point; the outline stays on it. */
  readonly plane: Plane | null;
  readonly points: readonly PlanePoint[];
  readonly caught: Caught | null;
}

const IDLE: OutlineState = { plane: null, points: [], caught: null };

const same = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u && p.v === q.v;

/** What a row of points makes: straight edges, or a smooth curve through them. */
type Making = 'outline' | 'curve';

/** Click by click outlines: the first point or Enter closes, Backspace takes a point back, Escape keeps an open line. */
function pointsTool(making: Making): Tool<OutlineState> {
  return {
    start: () => IDLE,
    step: (state, event, context) => {
      if (event.kind === 'key') return pressKey(making, state, event.key, context);
      if (event.kind === 'typed') return typeLength(making, state, event.lengths[0] ?? null, context);
      return point(making, state, event, context);
    },
    ghost: (state, context) => ghostOf(making, state, context),
    fields: (state) => (state.points.length > 0 ? ['length'] : []),
  };
}

export const outlineTool = pointsTool('outline');
export const curveTool = pointsTool('curve');

const made = (making: Making, points: readonly PlanePoint[], closed: boolean): Outline =>
  making === 'curve' ? smoothOutline(points, closed) : outlineThrough(points, closed);

/** Takes up an outline that was being drawn when the page was left. */
export function resumeOutline(plane: Plane, points: readonly PlanePoint[]): OutlineState {
  return { plane, points, caught: null };
}

function point(making: Making, state: OutlineState, event: Extract<ToolEvent, { at: unknown }>, context: ToolContext): ToolStep<OutlineState> {
  const on = context.on(state.plane ?? context.plane);
  const caught = catchPointer(on, event.at, state.points, event);
  const next = { ...state, caught };
  return event.kind === 'down' && caught ? addPoint(making, next, caught, context) : { state: next };
}

function addPoint(making: Making, state: OutlineState, at: PlanePoint, context: ToolContext): ToolStep<OutlineState> {
  const { points } = state;
  const [first] = points;
  const last = points.at(-1);
  if (last && same(last, at)) return { state };
  if (first && points.length >= 3 && same(first, at)) return finish(making, state, true, context);
  return { state: { ...state, plane: state.plane ?? context.plane, points: [...points, { u: at.u, v: at.v }] } };
}

function pressKey(making: Making, state: OutlineState, key: 'Backspace' | 'Enter' | 'Escape', context: ToolContext): ToolStep<OutlineState> {
  const { points } = state;
  if (key === 'Backspace') {
    const left = points.slice(0, -1);
    return { state: { ...state, points: left, plane: left.length > 0 ? state.plane : null } };
  }
  if (key === 'Enter') return points.length >= 3 ? finish(making, state, true, context) : { state };
  return points.length >= 2 ? finish(making, state, false, context) : { state: { ...IDLE, caught: state.caught } };
}

/** The next point at a typed distance from the last, towards what is caught now. */
function typeLength(making: Making, state: OutlineState, length: number | null, context: ToolContext): ToolStep<OutlineState> {
  const last = state.points.at(-1);
  const { caught } = state;
  if (!last || !caught || length === null) return { state };
  const reach = edgeLength(last, caught);
  if (reach === 0) return { state };
  const along = (from: number, to: number): number => from + ((to - from) / reach) * length;
  return addPoint(making, state, { u: along(last.u, caught.u), v: along(last.v, caught.v) }, context);
}

function finish(making: Making, state: OutlineState, closed: boolean, context: ToolContext): ToolStep<OutlineState> {
  const plane = state.plane ?? context.plane;
  const line = context.paint.line ?? { colour: '#2a2333', width: 0.4 };
  const node: ShapeNode = {
    kind: 'shape',
    id: context.newId(),
    name: automaticName(context.document, making === 'curve' ? 'curve' : closed ? 'outline' : 'line', planeName(plane.kind, context.document.projection)),
    hidden: false,
    locked: false,
    plane,
    outline: made(making, state.points, closed),
    depth: 0,
    paint: closed ? context.paint : { fill: null, line },
  };
  const edit: Edit = { kind: 'add', nodes: [node], artworks: [] };
  return { state: { ...IDLE, caught: state.caught }, commit: { edit, label: `draw ${node.name}` }, select: [node.id] };
}

function ghostOf(making: Making, { plane: started, points, caught }: OutlineState, context: ToolContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return points.length ? { plane, caught, points, closed: false, closes: false, words: [] } : null;
  const [first] = points;
  const last = points.at(-1);
  const closes = first !== undefined && points.length >= 3 && same(first, caught);
  const words: string[] = [];
  if (last && !same(last, caught)) {
    words.push(lengthWords(context, edgeLength(last, caught)));
    const axis = caught.v === last.v ? 'u' : caught.u === last.u ? 'v' : null;
    if (axis) words.push(axisName(plane, axis));
  }
  words.push(closes ? 'closes' : caughtPlace(context, plane, caught));
  const shown = closes ? points : [...points, caught];
  const smooth = making === 'curve';
  return { plane, caught, points: smooth ? flattenOutline(made(making, shown, closes), 0.02) : shown, closed: closes, closes, words, smooth };
}
