import {
  edgeLength,
  exactCells,
  flattenOutline,
  outlineThrough,
  smoothOutline,
  type Caught,
  type Outline,
  type OutlinePoint,
  type Plane,
  type PlanePoint,
} from '@core';
import { axisName, carried, catchPointer, caughtPlace, lengthWords } from '../../tools/catching';
import type { Ghost, ToolEvent } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool } from './draw-set';
import { drawnShape } from './new-shape';

/** A point of an outline that is being drawn; the handles of a smooth one mirror each other. */
export interface DrawnPoint extends PlanePoint {
  readonly into?: PlanePoint;
  readonly out?: PlanePoint;
}

export interface OutlineState {
  /** The plane of the first point; the outline stays on it. */
  readonly plane: Plane | null;
  readonly points: readonly DrawnPoint[];
  readonly caught: Caught | null;
  /** The last point is still pressed: dragging away from it makes it smooth. */
  readonly pulling?: boolean;
}

const IDLE: OutlineState = { plane: null, points: [], caught: null };

const same = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u && p.v === q.v;

/** What a row of points makes: edges, straight or smooth as each point was set, or one smooth curve through them all. */
type Making = 'outline' | 'curve';

/**
 * Click by click outlines: a press sets a corner, a press and drag a smooth point; the first point or Enter closes,
 * Backspace takes a point back, Escape keeps an open line.
 */
function pointsTool(making: Making): DrawTool<OutlineState> {
  return {
    start: () => IDLE,
    step: (state, event, context) => {
      if (event.kind === 'key') return pressKey(making, { ...state, pulling: false }, event.key, context);
      if (event.kind === 'typed') return typeLengths(making, state, event.lengths, context);
      return point(making, state, event, context);
    },
    ghost: (state, context) => ghostOf(making, state, context),
    fields: (state) =>
      state.points.length === 0 ? [] : ['length', 'angle', ...(state.plane ? (['u', 'v'] as const).map((d) => axisName(state.plane!, d)) : [])],
  };
}

export const outlineTool = pointsTool('outline');
export const curveTool = pointsTool('curve');

function made(making: Making, points: readonly DrawnPoint[], closed: boolean): Outline {
  if (making === 'curve') return smoothOutline(points, closed);
  const plain = outlineThrough(points, closed);
  return {
    closed,
    points: plain.points.map((p, i): OutlinePoint => {
      const { into, out } = points[i]!;
      return { ...p, ...(into && { into }), ...(out && { out }) };
    }),
  };
}

/** Takes up an outline that was being drawn when the page was left. */
export function resumeOutline(plane: Plane, points: readonly DrawnPoint[]): OutlineState {
  return { plane, points, caught: null };
}

function point(making: Making, state: OutlineState, event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): DrawStep<OutlineState> {
  const on = context.on(state.plane ?? context.plane);
  const caught = catchPointer(on, event.at, state.points, event);
  if (event.kind === 'up') return { state: { ...state, pulling: false } };
  if (state.pulling && caught) return { state: { ...pulled(making, state, caught), caught } };
  const points = event.carry && caught ? carried(state.points, state.caught, caught) : state.points;
  const next = { ...state, points, caught };
  if (event.kind !== 'down' || !caught) return { state: next };
  const step = addPoint(making, next, caught, context);
  return step.commit ? step : { ...step, state: { ...step.state, pulling: making === 'outline' } };
}

/** The last point made smooth, its handle where the pointer is. */
function pulled(making: Making, state: OutlineState, at: PlanePoint): OutlineState {
  const last = state.points.at(-1);
  if (!last || making === 'curve' || same(last, at)) return state;
  const mirror = { u: exactCells(2 * last.u - at.u), v: exactCells(2 * last.v - at.v) };
  const smooth: DrawnPoint = { u: last.u, v: last.v, out: { u: at.u, v: at.v }, ...(state.points.length > 1 && { into: mirror }) };
  return { ...state, points: [...state.points.slice(0, -1), smooth] };
}

function addPoint(making: Making, state: OutlineState, at: PlanePoint, context: DrawContext): DrawStep<OutlineState> {
  const { points } = state;
  const [first] = points;
  const last = points.at(-1);
  if (last && same(last, at)) return { state };
  if (first && points.length >= 3 && same(first, at)) return finish(making, state, true, context);
  return { state: { ...state, plane: state.plane ?? context.plane, points: [...points, { u: exactCells(at.u), v: exactCells(at.v) }] } };
}

function pressKey(making: Making, state: OutlineState, key: 'Backspace' | 'Enter' | 'Escape', context: DrawContext): DrawStep<OutlineState> {
  const { points } = state;
  if (key === 'Backspace') {
    const left = points.slice(0, -1);
    return { state: { ...state, points: left, plane: left.length > 0 ? state.plane : null } };
  }
  if (key === 'Enter') return points.length >= 3 ? finish(making, state, true, context) : { state };
  return points.length >= 2 ? finish(making, state, false, context) : { state: { ...IDLE, caught: state.caught } };
}

/**
 * The next point as it is typed: at a length towards the pointer, at a length and an angle from the plane's first
 * direction, or by steps along its two directions.
 */
export function typedPoint(from: PlanePoint, towards: PlanePoint, lengths: readonly (number | null)[]): PlanePoint | null {
  const [length = null, deg = null, du = null, dv = null] = lengths;
  const reach = edgeLength(from, towards);
  if (deg !== null) {
    const r = length ?? reach;
    const rad = (deg * Math.PI) / 180;
    return r === 0 ? null : { u: from.u + r * Math.cos(rad), v: from.v + r * Math.sin(rad) };
  }
  if (du !== null || dv !== null) return { u: from.u + (du ?? 0), v: from.v + (dv ?? 0) };
  if (length === null || reach === 0) return null;
  const along = (start: number, end: number): number => start + ((end - start) / reach) * length;
  return { u: along(from.u, towards.u), v: along(from.v, towards.v) };
}

function typeLengths(making: Making, state: OutlineState, lengths: readonly (number | null)[], context: DrawContext): DrawStep<OutlineState> {
  const last = state.points.at(-1);
  const at = last && state.caught && typedPoint(last, state.caught, lengths);
  return at ? addPoint(making, { ...state, pulling: false }, at, context) : { state };
}

function finish(making: Making, state: OutlineState, closed: boolean, context: DrawContext): DrawStep<OutlineState> {
  const plane = state.plane ?? context.plane;
  const what = making === 'curve' ? 'curve' : closed ? 'outline' : 'line';
  return { state: { ...IDLE, caught: state.caught }, ...drawnShape(context, what, plane, made(making, state.points, closed)) };
}

function ghostOf(making: Making, { plane: started, points, caught, pulling }: OutlineState, context: DrawContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return points.length ? { plane, caught, points, closed: false, closes: false, words: [] } : null;
  const [first] = points;
  const last = points.at(-1);
  const closes = first !== undefined && points.length >= 3 && same(first, caught);
  const words: string[] = [];
  if (last && !same(last, caught)) {
    words.push(pulling ? 'smooth point' : lengthWords(context, edgeLength(last, caught)));
    const axis = caught.v === last.v ? 'u' : caught.u === last.u ? 'v' : null;
    if (axis) words.push(axisName(plane, axis));
  }
  words.push(closes ? 'closes' : caughtPlace(context, plane, caught));
  const shown = closes || pulling ? points : [...points, caught];
  const bent = making === 'curve' || points.some((p) => p.out);
  const arms = last?.out && pulling ? [[last.into ?? last, last.out]] : [];
  return { plane, caught, points: bent ? flattenOutline(made(making, shown, closes), 0.02) : shown, closed: closes, closes, words, smooth: bent, more: arms };
}
