import { computed } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import type { Edit } from '@core';
import { USUAL_DRAW, type DrawSettings } from './draw-set';

export const DrawSettingsStore = signalStore(
  { providedIn: 'root' },
  withState<DrawSettings>(USUAL_DRAW),
  withComputed((store) => ({
    current: computed((): DrawSettings => ({
      sides: store.sides(),
      star: store.star(),
      spiral: store.spiral(),
      guide: store.guide(),
      circleBy: store.circleBy(),
      assisted: store.assisted(),
      cleaning: store.cleaning(),
      lastShape: store.lastShape(),
      lastForm: store.lastForm(),
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
      if (drawn?.kind === 'shape') patchState(store, { lastShape: drawn.outline, lastForm: drawn.form ?? null });
    },
  })),
);
