import type { SheetPoint } from '@core';
import type { Tool, ToolContext } from '../../tools/tool';
import type { PhotoToolSettings } from './photo.settings';

/** What is made of places that were pressed. */
export type PressedKind = 'outline' | 'front' | 'panel' | 'round';

interface CornersState {
  readonly places: readonly SheetPoint[];
  readonly at: SheetPoint | null;
}

const IDLE: CornersState = { places: [], at: null };

/** What is pressed next, in words, of tools with so many places; any number of corners where there are none. */
const NEXT: Readonly<Record<PressedKind, readonly string[] | null>> = {
  outline: null,
  front: null,
  panel: ['upper left corner', 'upper right corner', 'lower right corner', 'lower left corner'],
  round: [
    'left side, upper end',
    'right side, upper end',
    'right side, lower end',
    'left side, lower end',
    'middle of the upper rim',
    'middle of the lower rim',
  ],
};

/** Collects places of a photograph: as many as it takes, or until the first is pressed again, or Enter. Backspace takes the last back. */
export function cornersTool(kind: PressedKind): Tool<CornersState, PhotoToolSettings> {
  const names = NEXT[kind];
  const done = (places: readonly SheetPoint[]): ReturnType<Tool<CornersState, PhotoToolSettings>['step']> => ({
    state: IDLE,
    settings: { pressed: { kind, places } },
  });
  const isClosed = ({ places }: CornersState, at: SheetPoint, { reach }: ToolContext<PhotoToolSettings>): boolean =>
    !names && places.length >= 3 && Math.hypot(places[0]!.x - at.x, places[0]!.y - at.y) <= reach;
  return {
    start: () => IDLE,
    step: (state, event, context) => {
      if (event.kind === 'typed') return { state };
      if (event.kind === 'key') {
        if (event.key === 'Escape') return { state: IDLE };
        if (event.key === 'Backspace') return { state: { ...state, places: state.places.slice(0, -1) } };
        return !names && state.places.length >= 3 ? done(state.places) : { state };
      }
      if (event.kind !== 'down') return { state: { ...state, at: event.at } };
      if (isClosed(state, event.at, context)) return done(state.places);
      const places = [...state.places, event.at];
      return names && places.length === names.length ? done(places) : { state: { places, at: event.at } };
    },
    ghost: (state, context) => {
      const { places, at } = state;
      if (!at) return null;
      const { cell } = context.document.grid;
      const closes = isClosed(state, at, context);
      const words = names ? [names[places.length]!] : closes ? ['close the outline'] : [places.length === 0 ? 'first corner' : `corner ${places.length + 1}`];
      const points = [...places.slice(0, kind === 'round' ? 4 : undefined), ...(places.length < 4 || kind !== 'round' ? [at] : [])];
      return {
        plane: { kind: 'sheet', offset: 0 },
        caught: null,
        points: points.map(({ x, y }) => ({ u: x / cell, v: y / cell })),
        closed: kind === 'round' && places.length >= 4,
        closes,
        words,
      };
    },
    fields: () => [],
  };
}
