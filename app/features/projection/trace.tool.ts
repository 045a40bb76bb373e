import { figure, guessAxis, type Axis, type CheminDocument, type SheetPoint, type Stroke } from '@core';
import type { Tool, ToolContext, ToolStep } from '../../tools/tool';

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
  /** The place where the pointer was pressed, to tell a press from a drag. */
  readonly pressed: SheetPoint | null;
}

const IDLE: TraceState = { from: null, at: null, held: null, pressed: null };
const NEXT: Readonly<Record<Axis, Axis>> = { a: 'b', b: 'h', h: 'a' };

/**
 * Traces edges over a picture, snapping to nothing: two presses or one drag make a stroke, ends are dragged to refine
 * it, a press on its middle tells its next axis. Backspace takes the last stroke back.
 */
export const traceTool: Tool<TraceState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'typed') return { state };
    if (event.kind === 'key') return key(state, event.key, context);
    if (event.kind === 'down') return press(state, event.at, context);
    if (event.kind === 'move') return move({ ...state, at: event.at }, context);
    return release({ ...state, at: event.at }, context);
  },
  ghost: ({ from, at, held }, context) => {
    if (!at) return null;
    const words = from
      ? [`along ${axisFor(from, at, context)}`, `${figure(Math.hypot(at.x - from.x, at.y - from.y), 1)}\u2009mm`]
      : held
        ? []
        : [hint(at, context)];
    return {
      plane: { kind: 'sheet', offset: 0 },
      caught: null,
      points: [],
      closed: false,
      closes: false,
      words,
      ...(from && { line: [from.x, from.y, at.x, at.y] }),
    };
  },
  fields: () => [],
};

function hint(at: SheetPoint, context: ToolContext): string {
  const near = endNear(at, context);
  if (near) return 'drag this end';
  const middle = middleNear(at, context);
  return middle ? `along ${middle.axis}: press for along ${NEXT[middle.axis]}` : 'trace an edge';
}

function key(state: TraceState, pressed: 'Backspace' | 'Enter' | 'Escape', { document }: ToolContext): ToolStep<TraceState> {
  if (pressed === 'Escape') return { state: { ...IDLE, at: state.at }, preview: null };
  if (pressed !== 'Backspace') return { state };
  if (state.from) return { state: { ...IDLE, at: state.at } };
  return document.strokes.length === 0 ? { state } : commit({ ...IDLE, at: state.at }, document.strokes.slice(0, -1), 'take a stroke back');
}

function press(state: TraceState, at: SheetPoint, context: ToolContext): ToolStep<TraceState> {
  if (state.from) return add(state.from, at, context);
  const held = endNear(at, context);
  if (held) return { state: { ...IDLE, at, held, pressed: at } };
  const middle = middleNear(at, context);
  if (middle) {
    const strokes = context.document.strokes.map((s) => (s.id === middle.id ? { ...s, axis: NEXT[s.axis] } : s));
    return commit({ ...IDLE, at }, strokes, 'change the axis of a stroke');
  }
  return { state: { from: at, at, held: null, pressed: at } };
}

function move(state: TraceState, context: ToolContext): ToolStep<TraceState> {
  if (!state.held || !state.at) return { state };
  return { state, preview: { kind: 'strokes', strokes: withEnd(context.document, state.held, state.at) } };
}

function release(state: TraceState, context: ToolContext): ToolStep<TraceState> {
  const { at, held, from, pressed } = state;
  if (!at) return { state };
  if (held) return commit({ ...IDLE, at }, withEnd(context.document, held, at), 'move a stroke');
  // A press without a drag has set the first end; the next press sets the other.
  if (from && pressed && Math.hypot(at.x - pressed.x, at.y - pressed.y) > context.reach) return add(from, at, context);
  return { state: { ...state, pressed: null } };
}

function add(from: SheetPoint, to: SheetPoint, context: ToolContext): ToolStep<TraceState> {
  if (Math.hypot(to.x - from.x, to.y - from.y) < context.reach) return { state: { ...IDLE, at: to } };
  const stroke: Stroke = { id: context.newId(), from, to, axis: axisFor(from, to, context) };
  return commit({ ...IDLE, at: to }, [...context.document.strokes, stroke], `trace an edge along ${stroke.axis}`);
}

function commit(state: TraceState, strokes: readonly Stroke[], label: string): ToolStep<TraceState> {
  return { state, preview: null, commit: { edit: { kind: 'strokes', strokes: [...strokes] }, label } };
}

function axisFor(from: SheetPoint, to: SheetPoint, { traced }: ToolContext): Axis {
  return guessAxis(from, to, traced);
}

function withEnd(document: CheminDocument, { id, end }: Held, at: SheetPoint): Stroke[] {
  return document.strokes.map((s) => (s.id === id ? { ...s, [end]: at } : s));
}

const near = (p: SheetPoint, q: SheetPoint, reach: number): boolean => Math.hypot(p.x - q.x, p.y - q.y) <= reach;

function endNear(at: SheetPoint, { document, reach }: ToolContext): Held | null {
  for (const { id, from, to } of [...document.strokes].reverse()) {
    if (near(at, from, reach)) return { id, end: 'from' };
    if (near(at, to, reach)) return { id, end: 'to' };
  }
  return null;
}

function middleNear(at: SheetPoint, { document, reach }: ToolContext): Stroke | null {
  return document.strokes.find(({ from, to }) => near(at, { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }, reach)) ?? null;
}
