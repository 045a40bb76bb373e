import { computed, inject, Injectable } from '@angular/core';
import type { ToolSettings } from '../../state/stage';
import { ViewStore } from '../../state/view.store';

/** What placing is told. */
export interface PlaceToolSettings {
  /** The artwork that the next press places, or null. */
  readonly artwork: string | null;
}

@Injectable({ providedIn: 'root' })
export class PlaceSettings implements ToolSettings<PlaceToolSettings> {
  private readonly view = inject(ViewStore);

  readonly current = computed((): PlaceToolSettings => ({ artwork: this.view.artwork() }));

  patch(part: Partial<PlaceToolSettings>): void {
    this.view.patch(part);
  }
}
