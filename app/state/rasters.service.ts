import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import { bitmapsOf, bitmapsOfPhoto, paintMarks, type Bitmap, type CanvasImages, type CanvasLike, type GroupMark, type ImageMark, type PxBox } from '@core';
import { blurredIn, imageKey, imagesWanted, withMapped, withoutBlur, type HandedImage, type HandedSheet } from '@later';
import { layersOver } from '../platform/canvas-layers';
import { DrawingsService } from '../platform/drawings.service';
import { ImagingService, type SmallBitmap, type WithLights } from '../platform/imaging.service';
import { DocumentStore } from './document.store';
import { smallImages, type RasterSource } from './raster-set';

/** Pictures of groups, by their keys. */
interface Pictures {
  readonly made: ReadonlyMap<GroupMark, { readonly key: string; readonly box: PxBox }>;
  readonly images: ReadonlyMap<string, HandedImage>;
}

const NO_PICTURES: Pictures = { made: new Map(), images: new Map() };

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
    return this.imaging.map(this.bitmapsFor(mark), mark, box);
  }

  private bitmapsFor({ bitmap, lights = [] }: ImageMark): WithLights {
    return { bitmap: this.bitmapOf(bitmap), lights: lights.map((light) => this.bitmapOf(light.bitmap)) };
  }

  private bitmapOf(id: string): Bitmap {
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
   * @param sharpOnly whether the file has no blur: what is blurred becomes pictures
   */
  async handed(given: HandedSheet, pxPerInch: number, sharpOnly = false): Promise<HandedSheet> {
    const blurred = sharpOnly ? await this.blurred(given, pxPerInch / 25.4) : NO_PICTURES;
    const sheet = { ...given, marks: withoutBlur(given.marks, blurred.made) as HandedSheet['marks'] };
    const wishes = imagesWanted(sheet.marks, sheet.sheet, pxPerInch / 25.4);
    const images = new Map<string, HandedImage>(blurred.images);
    for (const mark of wishes.whole.filter(({ bitmap }) => !images.has(bitmap))) {
      const image = await there(() => this.wholeImage(mark));
      if (image) images.set(imageKey(mark), image);
    }
    const made = new Map<ImageMark, { readonly key: string; readonly box: PxBox }>();
    for (const [i, { mark, box }] of wishes.mapped.entries()) {
      const key = `mapped ${i}`;
      const bytes = await there(() => this.imaging.png(this.bitmapsFor(mark), mark, box));
      if (!bytes) continue;
      images.set(key, { type: 'image/png', bytes, width: box.width, height: box.height });
      made.set(mark, { key, box });
    }
    return images.size === 0 ? sheet : { ...sheet, marks: withMapped(sheet.marks, made) as HandedSheet['marks'], images };
  }

  /** Blurred groups as pictures, painted as on the screen. */
  private async blurred({ marks, sheet, ...handed }: HandedSheet, pxPerMm: number): Promise<Pictures> {
    const [made, images] = [new Map<GroupMark, { readonly key: string; readonly box: PxBox }>(), new Map<string, HandedImage>()];
    for (const [i, { group, box }] of blurredIn(marks, sheet, pxPerMm).entries()) {
      const { width, height, x, y } = box;
      const canvas = new OffscreenCanvas(width, height);
      const context = canvas.getContext('2d');
      if (!context) throw new Error('The browser has no room for a picture of what is blurred.');
      context.setTransform(pxPerMm, 0, 0, pxPerMm, -x * pxPerMm, -y * pxPerMm);
      // Alone it is neither thinned nor mixed: that stays with the group.
      const { blend: _, ...alone } = group;
      const one = { ...alone, strength: 1 };
      const rasters = await this.exact({ ...handed, sheet, marks: [one] }, pxPerMm);
      paintMarks(context as unknown as CanvasLike, [one], layersOver(context, rasters));
      const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
      images.set(`blurred ${i}`, { type: 'image/png', bytes, width, height });
      made.set(group, { key: `blurred ${i}`, box });
    }
    return { made, images };
  }

  /** JPEG and PNG as they are; other kinds, and those in other tones, as PNG. */
  private async wholeImage(mark: ImageMark): Promise<HandedImage> {
    const bitmap = this.bitmapOf(mark.bitmap);
    const { type, width, height } = bitmap;
    const bytes = type === 'image/webp' || mark.tones ? null : await this.drawings.asset(bitmap.asset);
    if (bytes && type !== 'image/webp') return { type, bytes, width, height };
    return { type: 'image/png', bytes: await this.imaging.whole(bitmap, mark.tones), width, height };
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
