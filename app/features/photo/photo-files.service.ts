import { inject, Injectable } from '@angular/core';
import type { Artwork } from '@core';
import { DocumentStore } from '../../state/document.store';
import { ImportsService } from '../../state/imports.service';
import { PICTURE_FILES } from '../../state/references.service';
import { PhotoDressService } from './photo-dress.service';
import { PhotosService } from './photos.service';

/** Artwork from files onto photographed surfaces. */
@Injectable({ providedIn: 'root' })
export class PhotoFilesService {
  private readonly imports = inject(ImportsService);
  private readonly documents = inject(DocumentStore);
  private readonly dress = inject(PhotoDressService);
  private readonly photos = inject(PhotosService);

  /** Lays a file on the surface. */
  async lay(): Promise<void> {
    for (const artwork of await this.added()) this.dress.lay(artwork);
  }

  /** Puts a file in the place of artwork that lies on the surface. */
  async exchange(id: string): Promise<void> {
    const [artwork] = await this.added();
    if (artwork) this.dress.exchange(id, artwork);
  }

  /**
   * Takes pictures that were dropped or pasted: photographs until there is a fitted surface, then artwork that is laid on it;
   * two of px at once are always a pair. @returns false where they are none
   */
  async dropped(files: readonly File[]): Promise<boolean> {
    if (this.documents.sheetOf() !== null || !files.every(({ name, type }) => PICTURE_FILES.test(name) || type.startsWith('image/'))) return false;
    const ofPx = files.every(({ name, type }) => !/\.svg$/i.test(name) && type !== 'image/svg+xml');
    const fitted = this.photos.there()?.surface.fit !== undefined;
    if (ofPx && (!fitted || files.length === 2)) await this.photos.take(files);
    else if (fitted) for (const artwork of await this.added(files)) this.dress.lay(artwork);
    else return false;
    return true;
  }

  /** What was added from files, which are asked for where none are given. */
  private async added(files: readonly File[] | null = null): Promise<readonly Artwork[]> {
    const before = new Set(this.documents.whole().artworks.map(({ id }) => id));
    await this.imports.addArtwork(false, files);
    return this.documents.whole().artworks.filter(({ id }) => !before.has(id));
  }
}
