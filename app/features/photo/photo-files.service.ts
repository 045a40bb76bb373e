import { inject, Injectable } from '@angular/core';
import type { Artwork } from '@core';
import { DocumentStore } from '../../state/document.store';
import { ImportsService } from '../../state/imports.service';
import { PhotoDressService } from './photo-dress.service';

/** Artwork from files onto photographed surfaces. */
@Injectable({ providedIn: 'root' })
export class PhotoFilesService {
  private readonly imports = inject(ImportsService);
  private readonly documents = inject(DocumentStore);
  private readonly dress = inject(PhotoDressService);

  /** Lays a file on the surface. */
  async lay(): Promise<void> {
    for (const artwork of await this.added()) this.dress.lay(artwork);
  }

  /** Puts a file in the place of artwork that lies on the surface. */
  async exchange(id: string): Promise<void> {
    const [artwork] = await this.added();
    if (artwork) this.dress.exchange(id, artwork);
  }

  /** What was added from files that were chosen. */
  private async added(): Promise<readonly Artwork[]> {
    const before = new Set(this.documents.whole().artworks.map(({ id }) => id));
    await this.imports.addArtwork(false);
    return this.documents.whole().artworks.filter(({ id }) => !before.has(id));
  }
}
