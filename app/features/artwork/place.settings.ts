import { computed, inject, Injectable } from '@angular/core';
import type { ToolSettings } from '../../state/stage';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

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
  private readonly documents = inject(DocumentStore);

  readonly current = computed((): PlaceToolSettings => {
    const dropped = this.view.dropped();
    return { artwork: this.chosen(), ...(dropped && { dropped }) };
  });

  /** The artwork that was chosen; the last there is where that went, as by undo. */
  private chosen(): string | null {
    const [{ artworks }, chosen] = [this.documents.wholeShown(), this.view.artwork()];
    return artworks.some(({ id }) => id === chosen) ? chosen : (artworks.at(-1)?.id ?? null);
  }

  patch(part: Partial<PlaceToolSettings>): void {
    this.view.patch(part);
  }
}
