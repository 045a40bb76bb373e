import { figure, type Axis, type CheminDocument, type PlanePoint, type SheetPoint, type Stroke } from '@core';
import { guessAxis } from '@later';
import type { Tool, ToolContext, ToolStep } from '../../tools/tool';
import type { TraceSettings } from './trace.settings';

type Context = ToolContext<TraceSettings>;
type Step = ToolStep<TraceState, TraceSettings>;

/** What of a stroke is held. */
interface Held {
  readonly id: string;
  readonly end: 'from' | 'to';
}

export interface TraceState {
  /** Where a new stroke begins, once its first end is set. */
  readonly from: SheetPoint | null;
  readonly at: SheetPoint | null;
  readonly held: Held | null;
  /** The stroke whose ends can be dragged: the one whose middle was pressed last. */
  readonly chosen: string | null;
  /** The place where the pointer was pressed, to tell a press from a drag. */
  readonly pressed: SheetPoint | null;
}

const IDLE: TraceState = { from: null, at: null, held: null, chosen: null, pressed: null };
const NEXT: Readonly<Record<Axis, Axis>> = { a: 'b', b: 'h', h: 'a' };

/**
 * Traces edges over a picture, snapping to nothing: two presses or one drag make a stroke, also from a corner where
 * another ends. A press on a stroke's middle chooses it: then its ends can be dragged, and a further press tells its
 * next axis. Backspace takes the last stroke back.
 */
export const traceTool: Tool<TraceState, TraceSettings> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'typed') return { state };
    if (event.kind === 'key') return key(state, event.key, context);
    if (event.kind === 'down') return press(state, event.at, context);
    if (event.kind === 'move') return move({ ...state, at: event.at }, context);
    return release({ ...state, at: event.at }, context);
  },
  ghost: (state, context) => {
    const { from, at, held } = state;
    if (!at) return null;
    const words = from
      ? [`along ${axisFor(from, at, context)}`, `${figure(Math.hypot(at.x - from.x, at.y - from.y), 1)}\u2009mm`]
      : held
        ? []
        : [hint(state, at, context)];
    return {
      plane: { kind: 'sheet', offset: 0 },
      caught: null,
      points: chosenEnds(state, context),
      closed: false,
      closes: false,
      words,
      ...(from && { line: [from.x, from.y, at.x, at.y] }),
    };
  },
  fields: () => [],
};

function hint({ chosen }: TraceState, at: SheetPoint, context: Context): string {
  if (endNear(chosen, at, context)) return 'drag this end';
  const middle = middleNear(at, context);
  if (!middle) return 'trace an edge';
  return middle.id === chosen ? `along ${middle.axis}: press for along ${NEXT[middle.axis]}` : `choose this edge along ${middle.axis}`;
}

/** The ends of the chosen stroke, in cells of the sheet, as the ghost shows points. */
function chosenEnds({ chosen }: TraceState, { document }: Context): PlanePoint[] {
  const { cell } = document.grid;
  return document.strokes.filter((s) => s.id === chosen).flatMap(({ from, to }) => [from, to].map(({ x, y }) => ({ u: x / cell, v: y / cell })));
}

function key(state: TraceState, pressed: 'Backspace' | 'Enter' | 'Escape', { document }: Context): Step {
  if (pressed === 'Escape') return { state: { ...IDLE, at: state.at }, preview: null };
  if (pressed !== 'Backspace') return { state };
  if (state.from) return { state: { ...IDLE, at: state.at } };
  return document.strokes.length === 0 ? { state } : commit({ ...IDLE, at: state.at }, document.strokes.slice(0, -1), 'take an edge back');
}

function press(state: TraceState, at: SheetPoint, context: Context): Step {
  if (state.from) return add(state.from, at, context);
  const held = endNear(state.chosen, at, context);
  if (held) return { state: { ...IDLE, at, held, chosen: state.chosen, pressed: at } };
  const middle = middleNear(at, context);
  if (middle && middle.id !== state.chosen) return { state: { ...IDLE, at, chosen: middle.id } };
  if (middle) {
    const strokes = context.document.strokes.map((s) => (s.id === middle.id ? { ...s, axis: NEXT[s.axis] } : s));
    return commit({ ...IDLE, at, chosen: middle.id }, strokes, 'change the axis of an edge');
  }
  return { state: { ...IDLE, from: at, at, pressed: at } };
}

function move(state: TraceState, context: Context): Step {
  if (!state.held || !state.at) return { state };
  return { state, preview: { kind: 'strokes', strokes: withEnd(context.document, state.held, state.at) } };
}

function release(state: TraceState, context: Context): Step {
  const { at, held, from, pressed } = state;
  if (!at) return { state };
  if (held) return commit({ ...IDLE, at, chosen: held.id }, withEnd(context.document, held, at), 'move an edge');
  // A press without a drag has set the first end; the next press sets the other.
  if (from && pressed && Math.hypot(at.x - pressed.x, at.y - pressed.y) > context.reach) return add(from, at, context);
  return { state: { ...state, pressed: null } };
}

function add(from: SheetPoint, to: SheetPoint, context: Context): Step {
  if (Math.hypot(to.x - from.x, to.y - from.y) < context.reach) return { state: { ...IDLE, at: to } };
  const stroke: Stroke = { id: context.newId(), from, to, axis: axisFor(from, to, context) };
  return commit({ ...IDLE, at: to }, [...context.document.strokes, stroke], `trace an edge along ${stroke.axis}`);
}

function commit(state: TraceState, strokes: readonly Stroke[], label: string): Step {
  return { state, preview: null, commit: { edit: { kind: 'strokes', strokes: [...strokes] }, label } };
}

/** Until enough is traced the horizon is taken to lie in the middle of the picture that is traced, or of the sheet. */
function axisFor(from: SheetPoint, to: SheetPoint, { settings: { traced }, document }: Context): Axis {
  const [x, y] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
  const under = document.references.find((r) => !r.hidden && x >= r.x && y >= r.y && x <= r.x + r.width && y <= r.y + r.height);
  const middle = under ? { x: under.x + under.width / 2, y: under.y + under.height / 2 } : { x: document.sheet.width / 2, y: document.sheet.height / 2 };
  return guessAxis(from, to, traced, middle, document.strokes);
}

function withEnd(document: CheminDocument, { id, end }: Held, at: SheetPoint): Stroke[] {
  return document.strokes.map((s) => (s.id === id ? { ...s, [end]: at } : s));
}

const near = (p: SheetPoint, q: SheetPoint, reach: number): boolean => Math.hypot(p.x - q.x, p.y - q.y) <= reach;

function endNear(chosen: string | null, at: SheetPoint, { document, reach }: Context): Held | null {
  const stroke = document.strokes.find((s) => s.id === chosen);
  if (!stroke) return null;
  if (near(at, stroke.from, reach)) return { id: stroke.id, end: 'from' };
  return near(at, stroke.to, reach) ? { id: stroke.id, end: 'to' } : null;
}

function middleNear(at: SheetPoint, { document, reach }: Context): Stroke | null {
  return document.strokes.find(({ from, to }) => near(at, { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }, reach)) ?? null;
}
