import type { SheetPoint } from '@core';
import type { Tool } from '../../tools/tool';
import type { PhotoToolSettings } from './photo.settings';

interface CrossingState {
  readonly at: SheetPoint | null;
}

/** Sets the crossing that belongs to a place: the nearest by the fit, or the next corner of the lattice while there is none. */
export const crossingTool: Tool<CrossingState, PhotoToolSettings> = {
  start: () => ({ at: null }),
  step: (state, event) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const next = { at: event.at };
    return event.kind === 'down' ? { state: next, settings: { crossing: event.at, free: event.free } } : { state: next };
  },
  ghost: ({ at }, { settings, document }) => {
    if (!at) return null;
    const { cell } = document.grid;
    return {
      plane: { kind: 'sheet', offset: 0 },
      caught: null,
      points: [{ u: at.x / cell, v: at.y / cell }],
      closed: false,
      closes: false,
      words: [settings.crossingAt?.(at) ?? 'take a photograph first'],
    };
  },
  fields: () => [],
};
