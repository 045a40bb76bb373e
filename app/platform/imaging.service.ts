import { inject, Injectable, signal } from '@angular/core';
import { pyramidOf, type Bitmap, type ImageMark, type PxBox, type Pyramid, type ToneTable } from '@core';
import type { GivenBitmap, ImageLook, ImagingWorker } from '../../workers/imaging.worker';
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

/** A bitmap with those of the lights that lie on it, in their order. */
export interface WithLights {
  readonly bitmap: Bitmap;
  readonly lights: readonly Bitmap[];
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
  map({ bitmap, lights }: WithLights, mark: ImageMark, box: PxBox): Promise<ImageBitmap> {
    return this.with([bitmap, ...lights], (given) => this.runner.run('map', [given, lookOf(mark), box]));
  }

  /** The same as a PNG. */
  png({ bitmap, lights }: WithLights, mark: ImageMark, box: PxBox): Promise<Uint8Array> {
    return this.with([bitmap, ...lights], (given) => this.runner.run('png', [given, lookOf(mark), box]));
  }

  /** A whole bitmap as a PNG, in other tones where there are any. */
  whole(bitmap: Bitmap, tones: ToneTable | undefined): Promise<Uint8Array> {
    return this.with([bitmap], ([given]) => this.runner.run('whole', [given!, tones ?? null]));
  }

  /** The bytes are sent once; a worker that was started anew, or has let go of them, is sent them again. */
  private async with<T>(bitmaps: readonly Bitmap[], run: (given: readonly GivenBitmap[]) => Promise<T | null>): Promise<T> {
    const known = bitmaps.every(({ id }) => this.sent.has(id));
    const first = known ? await run(bitmaps.map(({ id }) => ({ id, blob: null }))) : null;
    if (first !== null) return first;
    const given = await Promise.all(bitmaps.map(async ({ id, asset }) => ({ id, blob: await this.drawings.assetBlob(asset) })));
    if (given.some(({ blob }) => !blob)) throw new Error('the bytes of a picture are not there');
    for (const { id } of bitmaps) this.sent.add(id);
    const second = await run(given);
    if (second === null) throw new Error('a picture cannot be decoded');
    return second;
  }
}

const lookOf = ({ place, tones, lights }: ImageMark): ImageLook => ({ place, ...(tones && { tones }), ...(lights && { lights }) });
