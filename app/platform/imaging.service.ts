import { inject, Injectable, signal } from '@angular/core';
import { pyramidOf, type Bitmap, type ImageMark, type ImagePlace, type PxBox, type Pyramid, type ToneTable } from '@core';
import type { ImagingWorker } from '../../workers/imaging.worker';
import { DrawingsService } from './drawings.service';
import { startImagingWorker } from './start-imaging-worker';
import { WorkerRunner } from './worker-runner';

/** Longest time in ms that one bitmap may take, and the longest side in px of the small ones that the page keeps itself. */
const LIMIT_MS = 60_000;
const SMALL_SIDE = 768;

/** A bitmap in small, for looks that are wanted at once. */
export interface SmallBitmap {
  readonly pyramid: Pyramid;
  readonly image: ImageBitmap;
}

/** Bitmaps: exact ones as they are seen, made in a worker that keeps them decoded, and small ones on the page. */
@Injectable({ providedIn: 'root' })
export class ImagingService {
  private readonly drawings = inject(DrawingsService);
  private readonly runner = new WorkerRunner<ImagingWorker>(startImagingWorker, LIMIT_MS);
  private readonly sent = new Set<string>();
  private readonly asked = new Set<string>();
  private readonly decoded = signal<ReadonlyMap<string, SmallBitmap>>(new Map());

  /** The small bitmaps that are there, by the id of the bitmap. */
  readonly smalls = this.decoded.asReadonly();

  /** Has a bitmap decoded in small, once. */
  async ask(bitmap: Bitmap): Promise<void> {
    if (this.asked.has(bitmap.id) || typeof createImageBitmap === 'undefined') return;
    this.asked.add(bitmap.id);
    try {
      const blob = await this.drawings.assetBlob(bitmap.asset);
      if (!blob) return;
      const k = Math.min(1, SMALL_SIDE / Math.max(bitmap.width, bitmap.height));
      const [width, height] = [Math.max(1, Math.round(bitmap.width * k)), Math.max(1, Math.round(bitmap.height * k))];
      const image = await createImageBitmap(blob, { imageOrientation: 'from-image', resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' });
      const canvas = new OffscreenCanvas(width, height);
      const context = canvas.getContext('2d', { willReadFrequently: true });
      if (!context) return;
      context.drawImage(image, 0, 0);
      const pyramid = pyramidOf(context.getImageData(0, 0, width, height));
      this.decoded.set(new Map(this.decoded()).set(bitmap.id, { pyramid, image }));
    } catch {
      // What cannot be decoded was refused when it was added; of a damaged file the place is shown.
      this.asked.delete(bitmap.id);
    }
  }

  /** A bitmap as it is seen in a box of the sheet, in full quality. */
  map(bitmap: Bitmap, { place, tones }: ImageMark, box: PxBox): Promise<ImageBitmap> {
    return this.with(bitmap, (blob) => this.runner.run('map', [bitmap.id, blob, place, box, tones ?? null]));
  }

  /** The same as a PNG; the whole bitmap without a place. */
  png(bitmap: Bitmap, place: ImagePlace | null, box: PxBox | null, tones: ToneTable | undefined): Promise<Uint8Array> {
    return this.with(bitmap, (blob) => this.runner.run('png', [bitmap.id, blob, place, box, tones ?? null]));
  }

  /** The bytes are sent once; a worker that was started anew, or has let go of them, is sent them again. */
  private async with<T>(bitmap: Bitmap, run: (blob: Blob | null) => Promise<T | null>): Promise<T> {
    const first = this.sent.has(bitmap.id) ? await run(null) : null;
    if (first !== null) return first;
    const blob = await this.drawings.assetBlob(bitmap.asset);
    if (!blob) throw new Error('the bytes of a picture are not there');
    this.sent.add(bitmap.id);
    const second = await run(blob);
    if (second === null) throw new Error('a picture cannot be decoded');
    return second;
  }
}
