import { inject, Injectable } from '@angular/core';
import type { PhotoSurface, SheetPoint } from '@core';
import { MessageStore } from '../../platform/messages.store';
import { PhotoWorkService } from '../../platform/photo-work.service';
import { PhotosService } from './photos.service';
import { inOrder } from './surface-parts';

/** Surfaces that are fitted without a lattice, by their edges. */
@Injectable({ providedIn: 'root' })
export class EdgeFitService {
  private readonly photos = inject(PhotosService);
  private readonly messages = inject(MessageStore);
  private readonly work = inject(PhotoWorkService);

  /** A flat panel by its corners, or a round thing by the ends of its side edges and the middles of its rims, without a lattice. */
  async fit(kind: 'panel' | 'round', places: readonly SheetPoint[], size: { readonly width: number; readonly height: number }): Promise<void> {
    const there = this.photos.there();
    if (!there) return void this.messages.say('info', 'Take a photograph first');
    await this.photos.busy(
      'Looking for the edges …',
      async () => {
        const blob = await this.photos.blobOf(there.photo.bitmap);
        const photo = { width: there.width, height: there.height };
        const reach = Math.max(6, there.width / 80);
        const drawn = places.slice(0, 4);
        const snapped = kind === 'panel' ? await this.work.run('edges', blob, drawn, reach) : { corners: drawn, found: 0 };
        if (!snapped) return;
        const { corners } = snapped;
        const fit =
          kind === 'panel'
            ? await this.work.run('panel', corners, size, photo)
            : await this.work.run('round', corners, [places[4]!, places[5]!], { diameter: size.width, height: size.height }, photo);
        if (!fit) return void this.messages.say('warn', 'No surface has such edges', ['Press its corners from the upper left clockwise, then try again.']);
        const lit = await this.photos.lightOf(blob, fit, there.surface.light);
        const outline = kind === 'panel' ? corners.flatMap(({ x, y }) => [x, y]) : null;
        const fitted = ({ fit: _, outline: __, ...own }: PhotoSurface): PhotoSurface =>
          inOrder({ ...own, lattice: fit.lattice, crossings: [], fit, ...(outline && { outline }), ...(lit && { light: lit.light }) });
        if (!this.photos.change(fitted, `fit ${there.surface.name} by its edges`, lit?.bitmaps)) return;
        const words = kind === 'panel' ? `${snapped.found} of 4 edges were found in the photograph` : 'The round thing was fitted by its edges';
        this.messages.say(
          kind === 'panel' && snapped.found < 4 ? 'warn' : 'good',
          words,
          kind === 'panel' && snapped.found < 4 ? ['The others lie where they were drawn.'] : [],
        );
      },
      'The surface was not fitted',
    );
  }
}
