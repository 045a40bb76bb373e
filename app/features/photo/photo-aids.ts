import { DestroyRef, effect, inject, Injectable } from '@angular/core';
import { applyAffine, photoSide, photoToSheet } from '@core';
import { AidsStore, type AidTrail } from '../../state/aids.store';
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

  constructor() {
    effect(() => this.aids.patch({ trails: [...this.lattice(), ...this.arrows()] }));
    inject(DestroyRef).onDestroy(() => this.aids.patch({ trails: [] }));
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
