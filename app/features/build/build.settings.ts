import { computed } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { USUAL_BUILD, type BuildSettings } from './build-set';

export const BuildSettingsStore = signalStore(
  { providedIn: 'root' },
  withState<{ readonly set: BuildSettings }>({ set: USUAL_BUILD }),
  withComputed((store) => ({ current: computed((): BuildSettings => store.set()) })),
  withMethods((store) => ({
    patch(part: Partial<BuildSettings>): void {
      patchState(store, ({ set }) => ({ set: { ...set, ...part } }));
    },
  })),
);
