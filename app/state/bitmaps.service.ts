import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { Bitmap } from '@core';
import { DrawingsService } from '../platform/drawings.service';
import { DocumentStore } from './document.store';

/** The bitmaps of the document's references, decoded once each and ready to be painted. */
@Injectable({ providedIn: 'root' })
export class BitmapsService {
  private readonly store = inject(DocumentStore);
  private readonly drawings = inject(DrawingsService);
  private readonly decoded = signal<ReadonlyMap<string, ImageBitmap>>(new Map());
  private readonly asked = new Set<string>();

  /** What has been decoded so far, by the bitmap's id. */
  readonly images = this.decoded.asReadonly();
  private readonly bitmaps = computed(() => {
    const { bitmaps, references } = this.store.shown();
    const wanted = new Set(references.map(({ bitmap }) => bitmap));
    return bitmaps.filter(({ id }) => wanted.has(id));
  });

  constructor() {
    effect(() => {
      for (const bitmap of this.bitmaps()) untracked(() => void this.decode(bitmap));
    });
  }

  private async decode(bitmap: Bitmap): Promise<void> {
    if (this.asked.has(bitmap.id)) return;
    this.asked.add(bitmap.id);
    try {
      const blob = await this.drawings.assetBlob(bitmap.asset);
      if (!blob) return;
      const image = await createImageBitmap(blob, { imageOrientation: 'from-image' });
      this.decoded.set(new Map(this.decoded()).set(bitmap.id, image));
    } catch {
      // A bitmap that cannot be decoded was refused when it was added; one from a damaged file shows its frame alone.
      this.asked.delete(bitmap.id);
    }
  }
}
