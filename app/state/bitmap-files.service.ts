import { inject, Injectable } from '@angular/core';
import { readBoundedHeader, type Bitmap, type PictureHeader } from '@core';
import { requiredBytes } from '../platform/files';
import { DrawingsService } from '../platform/drawings.service';

/** Largest file that is read. */
const MAX_BYTES = 200_000_000;

/** What a picture may be at most: its longest side and its px. */
export interface BitmapLimits {
  readonly side: number;
  readonly px: number;
}

/** A picture from a file, ready to be named by a drawing, and what was made of it. */
export interface TakenBitmap {
  readonly bitmap: Bitmap;
  readonly notes: readonly string[];
}

/** Reads pictures from files: looked at by their first bytes before anything is decoded, kept upright and in sRGB. */
@Injectable({ providedIn: 'root' })
export class BitmapFilesService {
  private readonly drawings = inject(DrawingsService);

  /** What a file is, or why it is refused. @throws Error in words for people */
  async look(file: Blob): Promise<{ readonly header: PictureHeader; readonly bytes: Uint8Array<ArrayBuffer> }> {
    if (file.size > MAX_BYTES) throw new Error(`The file has ${Math.round(file.size / 1e6)}\u2009MB; at most ${MAX_BYTES / 1e6}\u2009MB are read.`);
    const bytes = await requiredBytes(file);
    const read = readBoundedHeader(bytes);
    if (!read.ok) throw new Error(read.problems[0]?.message ?? 'It is no picture.');
    return { header: read.value, bytes };
  }

  /** Keeps a picture, made smaller where it is larger than it may be. @throws Error in words for people */
  async take({ header, bytes }: { readonly header: PictureHeader; readonly bytes: Uint8Array<ArrayBuffer> }, most: BitmapLimits): Promise<TakenBitmap> {
    const image = await decoded(bytes, header);
    const size = sizeWithin(image, most);
    const smaller = size.width < image.width;
    const notes = [
      ...(smaller ? [`It was made smaller: ${size.width.toLocaleString('en')} × ${size.height.toLocaleString('en')}\u2009px.`] : []),
      ...(header.moves ? ['It moves; its first picture was taken.'] : []),
      ...(header.converted ? ['Its colours were brought to sRGB with 8 bits.'] : []),
    ];
    // What programs read in different ways is written anew: turned, moving, of other colours.
    if (!smaller && !header.turned && !header.moves && !header.converted) return { bitmap: await this.kept(bytes, header.type, image), notes };
    const canvas = new OffscreenCanvas(size.width, size.height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('The browser gave no canvas to draw on.');
    context.imageSmoothingQuality = 'high';
    context.drawImage(image, 0, 0, size.width, size.height);
    image.close();
    const type = header.type === 'image/jpeg' ? 'image/jpeg' : 'image/png';
    const blob = await canvas.convertToBlob({ type, quality: 0.94 });
    return { bitmap: await this.kept(new Uint8Array(await blob.arrayBuffer()), type, canvas), notes };
  }

  /** The bitmap of some bytes, which are kept under their hash. */
  async kept(bytes: Uint8Array, type: Bitmap['type'], { width, height }: { readonly width: number; readonly height: number }): Promise<Bitmap> {
    const asset = await this.drawings.bring(bytes);
    return { id: asset.slice(0, 32), asset, type, width, height };
  }
}

/** The size of a picture within limits, its proportions kept. */
export function sizeWithin(
  { width, height }: { readonly width: number; readonly height: number },
  { side, px }: BitmapLimits,
): { width: number; height: number } {
  const k = Math.min(1, side / Math.max(width, height), Math.sqrt(px / (width * height)));
  return { width: Math.max(1, Math.floor(width * k)), height: Math.max(1, Math.floor(height * k)) };
}

async function decoded(bytes: Uint8Array<ArrayBuffer>, { type }: PictureHeader): Promise<ImageBitmap> {
  try {
    return await createImageBitmap(new Blob([bytes], { type }), { imageOrientation: 'from-image' });
  } catch {
    throw new Error('The picture is damaged, or too large to be decoded.');
  }
}
