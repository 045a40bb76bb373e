import { computed } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { USUAL_BUILD, type BuildSettings } from './build-set';

let writer: ((place: NonNullable<BuildSettings['writeAt']>) => void) | null = null;

export const BuildSettingsStore = signalStore(
  { providedIn: 'root' },
  withState<{ readonly set: BuildSettings }>({ set: USUAL_BUILD }),
  withComputed((store) => ({ current: computed((): BuildSettings => store.set()) })),
  withMethods((store) => ({
    patch(part: Partial<BuildSettings>): void {
      patchState(store, ({ set }) => ({ set: { ...set, ...part } }));
      if (part.writeAt) writer?.(part.writeAt);
    },
    /** Who is told at once where text is to begin, so that the next key is already its first letter. */
    writes(begin: typeof writer): void {
      writer = begin;
    },
  })),
);
