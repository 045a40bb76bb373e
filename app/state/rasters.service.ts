import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { bitmapsOf, bitmapsOfPhoto, type Bitmap, type CanvasImages, type ImageMark, type PxBox } from '@core';
import { imageKey, imagesWanted, withMapped, type HandedImage, type HandedSheet } from '@later';
import { DrawingsService } from '../platform/drawings.service';
import { ImagingService, type SmallBitmap } from '../platform/imaging.service';
import { DocumentStore } from './document.store';
import { smallImages, type RasterSource } from './raster-set';

/** The document's bitmaps as painters need them: in small at once, exact ones for the screen and for files. */
@Injectable({ providedIn: 'root' })
export class RastersService implements RasterSource {
  private readonly documents = inject(DocumentStore);
  private readonly imaging = inject(ImagingService);
  private readonly drawings = inject(DrawingsService);
  private readonly bitmaps = computed(() => new Map(this.documents.wholeShown().bitmaps.map((bitmap) => [bitmap.id, bitmap])));
  /** Bitmaps that artworks and photographs show. */
  private readonly shown = computed(() => {
    const { artworks, photos = [] } = this.documents.wholeShown();
    return [...artworks.flatMap(bitmapsOf), ...photos.flatMap(bitmapsOfPhoto)];
  });
  /** Grows when another bitmap is there in small. */
  readonly smalls = this.imaging.smalls;
  /** Bitmaps in small, for thumbnails. */
  readonly thumbs: CanvasImages = smallImages((bitmap) => this.small(bitmap));

  constructor() {
    effect(() => {
      for (const id of this.shown()) {
        const bitmap = this.bitmaps().get(id);
        if (bitmap) untracked(() => void this.imaging.ask(bitmap));
      }
    });
  }

  small(bitmap: string): SmallBitmap | null {
    return this.imaging.smalls().get(bitmap) ?? null;
  }

  async sharp(mark: ImageMark, box: PxBox): Promise<ImageBitmap> {
    return this.imaging.map(this.bitmapOf(mark), mark, box);
  }

  private bitmapOf({ bitmap: id }: ImageMark): Bitmap {
    const bitmap = untracked(this.bitmaps).get(id);
    if (!bitmap) throw new Error('a picture is not part of the drawing');
    return bitmap;
  }

  /** Bitmaps as a canvas of so many px to the mm shows them, all of them exact. */
  async exact({ marks, sheet }: HandedSheet, pxPerMm: number): Promise<CanvasImages> {
    const made = new Map<ImageMark, { readonly image: ImageBitmap; readonly box: PxBox }>();
    for (const { mark, box } of imagesWanted(marks, sheet, pxPerMm, true).mapped) {
      const image = await there(() => this.sharp(mark, box));
      if (image) made.set(mark, { image, box });
    }
    return (mark) => {
      const found = made.get(mark);
      return found ? { image: found.image, map: [found.box.perPx, 0, 0, found.box.perPx, found.box.x, found.box.y], sharp: true } : null;
    };
  }

  /**
   * A sheet with its bitmaps as files take them up: whole ones by their own bytes where files have a matrix for them,
   * the others made as they are seen.
   * @param pxPerInch resolution of those that are made
   */
  async handed(sheet: HandedSheet, pxPerInch: number): Promise<HandedSheet> {
    const wishes = imagesWanted(sheet.marks, sheet.sheet, pxPerInch / 25.4);
    const images = new Map<string, HandedImage>();
    for (const mark of wishes.whole) {
      const image = await there(() => this.wholeImage(mark));
      if (image) images.set(imageKey(mark), image);
    }
    const made = new Map<ImageMark, { readonly key: string; readonly box: PxBox }>();
    for (const [i, { mark, box }] of wishes.mapped.entries()) {
      const key = `mapped ${i}`;
      const bytes = await there(() => this.imaging.png(this.bitmapOf(mark), mark.place, box, mark.tones));
      if (!bytes) continue;
      images.set(key, { type: 'image/png', bytes, width: box.width, height: box.height });
      made.set(mark, { key, box });
    }
    return images.size === 0 ? sheet : { ...sheet, marks: withMapped(sheet.marks, made), images };
  }

  /** JPEG and PNG as they are; other kinds, and those in other tones, as PNG. */
  private async wholeImage(mark: ImageMark): Promise<HandedImage> {
    const bitmap = this.bitmapOf(mark);
    const { type, width, height } = bitmap;
    const bytes = type === 'image/webp' || mark.tones ? null : await this.drawings.asset(bitmap.asset);
    if (bytes && type !== 'image/webp') return { type, bytes, width, height };
    return { type: 'image/png', bytes: await this.imaging.png(bitmap, null, null, mark.tones), width, height };
  }
}

/** What is made of a picture; null where it is not there or cannot be decoded: a damaged picture spoils no file, its place is shown. */
async function there<T>(make: () => Promise<T>): Promise<T | null> {
  try {
    return await make();
  } catch {
    return null;
  }
}
