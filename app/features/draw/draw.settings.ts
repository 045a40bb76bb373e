import { computed } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import type { Edit, Outline } from '@core';
import type { Tool, ToolContext, ToolStep } from '../../tools/tool';

/** What is set for the tools that draw. */
export interface DrawSettings {
  /** Corners of the next regular polygon. */
  readonly sides: number;
  /** How the next circle is given. */
  readonly circleBy: 'centre' | 'three points' | 'box' | 'face';
  /** Freehand: kept to the axes, and how far in px of the screen a cleaned stroke may lie from the pen's. */
  readonly assisted: boolean;
  readonly cleaning: number;
  /** The last shape that was drawn, for drawing it again. */
  readonly lastShape: Outline | null;
  /** What was last measured, a line each. */
  readonly measured: readonly string[];
}

/** Tools that draw, and what they are given and give back. */
export type DrawTool<S> = Tool<S, DrawSettings>;
export type DrawContext = ToolContext<DrawSettings>;
export type DrawStep<S> = ToolStep<S, DrawSettings>;

export const DrawSettingsStore = signalStore(
  { providedIn: 'root' },
  withState<DrawSettings>({ sides: 6, circleBy: 'centre', assisted: false, cleaning: 2, lastShape: null, measured: [] }),
  withComputed((store) => ({
    current: computed((): DrawSettings => ({
      sides: store.sides(),
      circleBy: store.circleBy(),
      assisted: store.assisted(),
      cleaning: store.cleaning(),
      lastShape: store.lastShape(),
      measured: store.measured(),
    })),
  })),
  withMethods((store) => ({
    patch(part: Partial<DrawSettings>): void {
      patchState(store, part);
    },
    /** Remembers what was drawn last. */
    made(edit: Edit): void {
      const drawn = edit.kind === 'add' ? edit.nodes[0] : undefined;
      if (drawn?.kind === 'shape') patchState(store, { lastShape: drawn.outline });
    },
  })),
);
