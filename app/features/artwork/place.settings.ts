import { computed, inject, Injectable } from '@angular/core';
import type { ToolSettings } from '../../state/stage';
import { ViewStore } from '../../state/view.store';
import { ArtworksService } from './artworks.service';

/** What placing is told. */
export interface PlaceToolSettings {
  /** The artwork that the next press places, or null. */
  readonly artwork: string | null;
  /** Artworks that were dropped together: they lie where they were dropped, in their own sizes. */
  readonly dropped?: readonly string[];
}

@Injectable({ providedIn: 'root' })
export class PlaceSettings implements ToolSettings<PlaceToolSettings> {
  private readonly view = inject(ViewStore);
  private readonly artworks = inject(ArtworksService);

  readonly current = computed((): PlaceToolSettings => {
    const dropped = this.view.dropped();
    return { artwork: this.artworks.chosen()?.id ?? null, ...(dropped && { dropped }) };
  });

  patch(part: Partial<PlaceToolSettings>): void {
    this.view.patch(part);
  }
}
