import { computed, DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { applyAffine, composeAffine, photoSide, photoToSheet, type SheetPoint } from '@core';
import { unregisteredPlace } from '@later';
import { AidsStore, type AidPicture, type AidTrail } from '../../state/aids.store';
import { ViewStore } from '../../state/view.store';
import { PhotosService } from './photos.service';

/** Places along a line of the lattice, to the box. */
const FINE = 4;
/** Length of an arrow's head in parts of it, and half its width. */
const [HEAD, HALF] = [0.3, 0.16];

/** Shows the fitted lattice and the misses of its crossings over the drawing, for as long as the stage is open. */
@Injectable()
export class PhotoAids {
  private readonly photos = inject(PhotosService);
  private readonly aids = inject(AidsStore);

  private readonly view = inject(ViewStore);
  private readonly image = signal<{ readonly bitmap: string; readonly image: ImageBitmap } | null>(null);
  /** The photograph with the lattice, while crossings are set. */
  private readonly wanted = computed(() => (this.view.tool() === 'crossing' ? (this.photos.there()?.surface.latticed ?? null) : null));

  constructor() {
    effect(() => this.aids.patch({ trails: [...this.lattice(), ...this.arrows()], over: this.latticed() }));
    effect(() => {
      const bitmap = this.wanted();
      if (bitmap !== null && this.image()?.bitmap !== bitmap) void this.load(bitmap);
    });
    inject(DestroyRef).onDestroy(() => this.aids.patch({ trails: [], over: null }));
  }

  private async load(bitmap: string): Promise<void> {
    try {
      const image = await createImageBitmap(await this.photos.blobOf(bitmap), { imageOrientation: 'from-image' });
      this.image.set({ bitmap, image });
    } catch {
      // Crossings are set on the bare one then.
    }
  }

  private latticed(): AidPicture | null {
    const [there, loaded] = [this.photos.there(), this.image()];
    if (!there || !loaded || loaded.bitmap !== this.wanted()) return null;
    const { registration } = there.surface;
    const [width, height] = [there.width, there.height];
    const corners = [{ x: 0, y: 0 }, { x: width, y: 0 }, { x: 0, y: height }] as const; // prettier-ignore
    const [p, q, r] = corners.map((at) => (registration ? unregisteredPlace(registration, there, at) : at)) as [SheetPoint, SheetPoint, SheetPoint];
    const { image } = loaded;
    // From its own px to those of the bare one: turned and scaled about the middle.
    const across = [(q.x - p.x) / image.width, (q.y - p.y) / image.width] as const;
    const down = [(r.x - p.x) / image.height, (r.y - p.y) / image.height] as const;
    return { image, map: composeAffine(photoToSheet(there), [...across, ...down, p.x, p.y]) };
  }

  private lattice(): readonly AidTrail[] {
    const there = this.photos.there();
    if (!this.photos.guide() || !there?.surface.fit) return [];
    const { columns, rows, box } = there.surface.fit.lattice;
    const side = photoSide(there.surface.fit);
    const map = photoToSheet(there);
    // Sheets without a lattice have a line to the millimetre: of these the tenths.
    const [stepU, stepV] = [stepOf(columns), stepOf(rows)];
    const trail = (at: (t: number) => readonly [number, number], parts: number): AidTrail => ({
      tone: 'soft',
      points: Array.from({ length: parts + 1 }, (_, i) => {
        const [u, v] = at(i / parts);
        const p = side.shown(u * box, v * box);
        return p && applyAffine(map, p.x, p.y);
      }).flatMap((p) => (p ? [p.x, p.y] : [])),
    });
    const seen = (u: number): boolean => {
      const [from, to] = side.limits((rows * box) / 2);
      return u * box >= from - 1e-6 && u * box <= to + 1e-6;
    };
    const across = Array.from({ length: stepV + 1 }, (_, j) => trail((t) => [t * columns, (j * rows) / stepV], Math.min(60, stepU * FINE)));
    const down = Array.from({ length: stepU + 1 }, (_, i) => (i * columns) / stepU).filter(seen).map((u) => trail((t) => [u, t * rows], Math.min(60, stepV * FINE))); // prettier-ignore
    return [...across, ...down];
  }

  private arrows(): readonly AidTrail[] {
    const there = this.photos.there();
    if (!this.photos.arrows() || !there) return [];
    const map = photoToSheet(there);
    const long = this.photos.enlarged();
    const [worst] = this.photos.misses();
    return this.photos.misses().flatMap((miss): readonly AidTrail[] => {
      const { dx, dy, crossing, wrong } = miss;
      // A wrong crossing is as far off as it is: its arrow leads to it from where it should be.
      const k = wrong ? 1 : long;
      const from = { x: crossing.x - dx, y: crossing.y - dy };
      const at = (t: number, aside: number): readonly number[] => {
        const p = applyAffine(map, from.x + k * (dx * t - dy * aside), from.y + k * (dy * t + dx * aside));
        return [p.x, p.y];
      };
      const tone = wrong || miss === worst ? 'warn' : 'strong';
      return [{ tone, points: [...at(0, 0), ...at(1, 0), ...at(1 - HEAD, HALF), ...at(1, 0), ...at(1 - HEAD, -HALF)] }];
    });
  }
}

const stepOf = (count: number): number => (count <= 60 ? count : Math.round(count / 10));
