import { inject, Injectable } from '@angular/core';
import type { KeptCrossing, KeptFit, SheetPoint } from '@core';
import { unregisteredPlace, type Registration } from '@later';
import { MessageStore } from '../../platform/messages.store';
import { PhotoWorkService } from '../../platform/photo-work.service';
import { PhotosService } from './photos.service';

/** Error in px of a crossing that was set by hand. */
const BY_HAND = 0.3;

/** Crossings of a lattice that are set, found again and left out one by one; the surface is fitted anew after each. */
@Injectable({ providedIn: 'root' })
export class CrossingsService {
  private readonly photos = inject(PhotosService);
  private readonly messages = inject(MessageStore);
  private readonly work = inject(PhotoWorkService);
  private last: Promise<void> = Promise.resolve();

  /** Does one thing after the other, however fast they are asked for: each is told what the one before came to. */
  inTurn(run: () => Promise<void>): Promise<void> {
    // What went wrong with one is no reason to leave out the next.
    return (this.last = this.last.then(run, run));
  }

  /**
   * Sets a crossing by hand, in px of the bare photograph. It snaps to the lines of the photograph near it; the first four
   * once there is a fit that says how they run.
   * @param free whether it stays exactly where it was set
   */
  set(column: number, row: number, at: SheetPoint, free = false): Promise<void> {
    const shown = this.registration();
    return this.inTurn(() => this.setNow(column, row, at, free, shown));
  }

  remove(column: number, row: number): Promise<void> {
    return this.inTurn(async () => {
      const surface = this.photos.there()?.surface;
      if (!surface) return;
      const left = this.others(column, row);
      await this.photos.busy('Fitting surfaces …', () => this.photos.refit(left, surface.fit?.kind, 'leave a crossing out'), 'The crossing was not removed');
    });
  }

  /** Looks into the photograph once more where the fit has a crossing. */
  findAgain(column: number, row: number): Promise<void> {
    return this.inTurn(async () => {
      const surface = this.photos.there()?.surface;
      const at = this.photos.predicted(column, row);
      if (!surface?.fit || !at) return;
      const { fit } = surface;
      this.photos.chosenCrossing.set({ column, row });
      await this.photos.busy(
        'Looking for the crossing …',
        async () => {
          const [found] = await this.near([{ column, row, ...at }], fit, surface.registration ?? null);
          if (!found) return void this.messages.say('info', 'There is no crossing to be seen there', ['Set it by hand, or leave it out.']);
          await this.photos.refit([...this.others(column, row), found], fit.kind, 'find a crossing again');
        },
        'The crossing was not looked for',
      );
    });
  }

  /** How the photograph with the lattice is shown to lie on the bare one now: as it is where nothing is known. */
  registration(): Registration | null {
    return this.photos.there()?.surface.registration ?? null;
  }

  /** Sets a crossing now; only to be called in turn. @param shown how the photograph lay when the place was pressed */
  async setNow(column: number, row: number, at: SheetPoint, free: boolean, shown: Registration | null): Promise<void> {
    const there = this.photos.there();
    if (!there) return;
    const { surface, width, height } = there;
    this.photos.chosenCrossing.set({ column, row });
    await this.photos.busy(
      'Fitting surfaces …',
      async () => {
        const found = await this.laidOn();
        const registration = found ?? surface.registration ?? null;
        const { x, y } = registration && !shown ? unregisteredPlace(registration, there, at) : at;
        const own: KeptCrossing = { column, row, x, y, error: BY_HAND, hand: true };
        const others = this.others(column, row);
        let all: readonly KeptCrossing[] = [...others, own];
        if (surface.fit && !free) all = [...others, ...(await this.snapped([own], surface.fit, registration))];
        else if (!free && all.length >= 4) {
          const fit = (await this.work.run('kinds', all, surface.lattice, { width, height }))?.[0]?.fit;
          if (fit) all = await this.snapped(all, fit, registration);
        }
        await this.photos.refit(all, surface.fit?.kind, 'set a crossing', found);
      },
      'The crossing was not set',
    );
  }

  private others(column: number, row: number): readonly KeptCrossing[] {
    return (this.photos.there()?.surface.crossings ?? []).filter((one) => one.column !== column || one.row !== row);
  }

  /** How the photograph with the lattice lies on the bare one, where that is not known yet: crossings are set on it, and kept on the bare one. */
  private async laidOn(): Promise<Registration | null> {
    const { photo, surface } = this.photos.there()!;
    if (surface.latticed === undefined || surface.registration || surface.crossings.length > 0) return null;
    return this.work.run('register', await this.photos.blobOf(photo.bitmap), await this.photos.blobOf(surface.latticed));
  }

  /** Crossings where the lines of the photograph cross near them; as they are where none do. */
  private async snapped(crossings: readonly KeptCrossing[], fit: KeptFit, registration: Registration | null): Promise<readonly KeptCrossing[]> {
    const found = await this.near(crossings, fit, registration);
    return crossings.map((one, i) => {
      const near = found[i];
      return near ? { ...near, ...(one.hand && { hand: true as const }) } : one;
    });
  }

  private async near(
    crossings: readonly Pick<KeptCrossing, 'column' | 'row' | 'x' | 'y'>[],
    fit: KeptFit,
    registration: Registration | null,
  ): Promise<readonly (KeptCrossing | null)[]> {
    const { surface, photo } = this.photos.there()!;
    return (await this.work.run('snap', await this.photos.blobOf(surface.latticed ?? photo.bitmap), registration, fit, crossings)) ?? [];
  }
}
