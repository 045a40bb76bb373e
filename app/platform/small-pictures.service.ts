import { inject, Injectable } from '@angular/core';
import { bitmapsOf, bitmapsOfPhoto, type CheminDocument, type ProjectionSetup, type SmallKind } from '@core';
import type { PictureWorker, SmallPx } from '../../workers/picture.worker';
import { ImagingService } from './imaging.service';
import { startPictureWorker } from './start-picture-worker';
import { WorkerRunner } from './worker-runner';

/** A picture that is wanted on a canvas. */
export interface SmallWish {
  readonly canvas: HTMLCanvasElement;
  readonly document: CheminDocument;
  readonly projection: ProjectionSetup;
  readonly kind: SmallKind;
  /** Told when it cannot be made, such as of a damaged drawing. */
  readonly failed?: () => void;
}

/** Longest time in ms that one picture may take. */
const LIMIT_MS = 30_000;

/**
 * Pictures of whole drawings, made in a worker one after the other: those that are in sight first, from above down; what
 * is out of sight waits. A canvas has one wish at a time, and keeps what it shows until the next picture is there.
 */
@Injectable({ providedIn: 'root' })
export class SmallPicturesService {
  private readonly runner = new WorkerRunner<PictureWorker>(startPictureWorker, LIMIT_MS);
  private readonly imaging = inject(ImagingService);
  private readonly wishes = new Map<HTMLCanvasElement, SmallWish>();
  private busy = false;
  private readonly inSight = new Set<Element>();
  private readonly observer =
    typeof IntersectionObserver === 'undefined'
      ? null
      : new IntersectionObserver((entries) => {
          for (const { target, isIntersecting } of entries) this.inSight[isIntersecting ? 'add' : 'delete'](target);
          void this.work();
        });
  /** Drawings by number, so that one is sent to the worker once for all its pictures. */
  private readonly keys = new WeakMap<CheminDocument, number>();
  private lastKey = 0;
  private sent = 0;

  wish(wish: SmallWish): void {
    if (!this.wishes.has(wish.canvas)) this.observer?.observe(wish.canvas);
    this.wishes.set(wish.canvas, wish);
    void this.work();
  }

  /** Nothing is wanted on a canvas any more. */
  forget(canvas: HTMLCanvasElement): void {
    this.wishes.delete(canvas);
    this.inSight.delete(canvas);
    this.observer?.unobserve(canvas);
  }

  /** The next wish: of those in sight the one that is highest up. */
  private next(): SmallWish | null {
    const seen = [...this.wishes.values()].filter(({ canvas }) => !this.observer || this.inSight.has(canvas));
    const top = (wish: SmallWish): number => wish.canvas.getBoundingClientRect().top;
    return seen.reduce<SmallWish | null>((best, wish) => (best === null || top(wish) < top(best) ? wish : best), null);
  }

  private async work(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (let wish = this.next(); wish; wish = this.next()) {
      const { canvas } = wish;
      try {
        const bitmap = await this.made(wish);
        if (this.wishes.get(canvas) === wish) canvas.getContext('bitmaprenderer')?.transferFromImageBitmap(bitmap);
        else bitmap.close();
      } catch {
        wish.failed?.();
      }
      if (this.wishes.get(canvas) === wish) this.wishes.delete(canvas);
    }
    this.busy = false;
  }

  /** The bitmaps that a drawing's artworks and photographs show, in small. */
  private async smallsOf({ artworks, bitmaps, photos = [] }: CheminDocument): Promise<readonly SmallPx[]> {
    const shown = new Set([...artworks.flatMap(bitmapsOf), ...photos.flatMap(bitmapsOfPhoto)]);
    const wanted = bitmaps.filter(({ id }) => shown.has(id));
    await Promise.all(wanted.map((bitmap) => this.imaging.ask(bitmap)));
    return wanted.flatMap(({ id }): readonly SmallPx[] => {
      const small = this.imaging.smalls().get(id)?.pyramid;
      return small ? [{ id, width: small.width, height: small.height, px: small.straight }] : [];
    });
  }

  private async made({ document, projection, kind, canvas: { width, height } }: SmallWish): Promise<ImageBitmap> {
    const key = this.keys.get(document) ?? ++this.lastKey;
    this.keys.set(document, key);
    // References are not painted; bitmaps of artworks in small.
    const whole = (): CheminDocument => ({ ...document, references: [] });
    const smalls = await this.smallsOf(document);
    const first = await this.runner.run('paint', [key, key === this.sent ? null : whole(), smalls, projection, kind, width, height]);
    this.sent = key;
    // A worker that was started anew knows nothing.
    const bitmap = first ?? (await this.runner.run('paint', [key, whole(), smalls, projection, kind, width, height]));
    if (!bitmap) throw new Error('the picture was not made');
    return bitmap;
  }
}
