import { inject, Injectable } from '@angular/core';
import { applyAffine, photoToSheet, type SheetPoint } from '@core';
import { ViewStore } from '../../state/view.store';
import type { StageHandles } from '../../state/stage';
import type { SheetHandle } from '../../tools/handle';
import { CrossingsService } from './crossings.service';
import { PhotoSettings } from './photo.settings';
import { PhotosService } from './photos.service';

/** The crossings of a lattice as handles: those that were found as points, those that were not where the fit has them. */
@Injectable({ providedIn: 'root' })
export class PhotoHandlesService implements StageHandles {
  private readonly photos = inject(PhotosService);
  private readonly crossings = inject(CrossingsService);
  private readonly settings = inject(PhotoSettings);
  private readonly view = inject(ViewStore);

  handles(current: boolean): readonly SheetHandle[] {
    const there = this.photos.there();
    if (!current || !there || this.view.tool() !== 'crossing') return [];
    const { lattice, crossings } = there.surface;
    const map = photoToSheet(there);
    const known = new Map(crossings.map((one) => [`${one.column} ${one.row}`, one]));
    const chosen = this.photos.chosenCrossing();
    const handles: SheetHandle[] = [];
    for (let row = 0; row <= lattice.rows; row++)
      for (let column = 0; column <= lattice.columns; column++) {
        const found = known.get(`${column} ${row}`);
        const at = found ?? this.photos.predicted(column, row);
        if (!at) continue;
        const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
          const px = this.settings.toPx(to);
          const still = px && found && Math.hypot(px.x - found.x, px.y - found.y) < 1e-6;
          if (end && px && !still) void this.crossings.set(column, row, px, free);
        };
        handles.push({
          name: `${found ? '' : 'missing '}crossing ${column}, ${row}`,
          at: applyAffine(map, at.x, at.y),
          quiet: found ? 'point' : 'curve',
          ...(chosen?.column === column && chosen.row === row && { chosen: true }),
          press: () => this.photos.chosenCrossing.set({ column, row }),
          drag,
        });
      }
    return handles;
  }
}
