import { computed, inject, Injectable, signal } from '@angular/core';
import { applyAffine, invertAffine, photoToSheet, type SheetPoint } from '@core';
import { MessageStore } from '../../platform/messages.store';
import { ViewStore } from '../../state/view.store';
import type { ToolSettings } from '../../state/stage';
import type { PressedKind } from './corners.tool';
import { EdgeFitService } from './edge-fit.service';
import { PhotoDressService } from './photo-dress.service';
import { PhotosService } from './photos.service';

/** What the tools of photographs are told, and what they tell. */
export interface PhotoToolSettings {
  /** Places that were pressed, and what they are to be. */
  readonly pressed?: { readonly kind: PressedKind; readonly places: readonly SheetPoint[] };
  /** A place at which a crossing was pressed. */
  readonly crossing?: SheetPoint;
  /** The crossing that would be set at a place, in words. */
  readonly crossingAt?: (at: SheetPoint) => string;
}

/** The corners of a lattice in the order in which they are pressed where nothing is known of it. */
const CORNERS = ['upper left', 'upper right', 'lower right', 'lower left'] as const;

/** Hands what is pressed on a photograph to what is made of it. */
@Injectable({ providedIn: 'root' })
export class PhotoSettings implements ToolSettings<PhotoToolSettings> {
  private readonly photos = inject(PhotosService);
  private readonly edges = inject(EdgeFitService);
  private readonly dress = inject(PhotoDressService);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);

  /** Size in mm of what is fitted by its edges: width, or diameter, and height. */
  readonly size = signal({ width: 120, height: 80 });
  /** Px over which the edge of what stands in front fades. */
  readonly soft = signal(3);

  readonly current = computed((): PhotoToolSettings => {
    const there = this.photos.there();
    return there ? { crossingAt: (at): string => this.wordsAt(at) } : {};
  });

  patch({ pressed, crossing }: Partial<PhotoToolSettings>): void {
    if (crossing) this.setCrossing(crossing);
    if (!pressed) return;
    const places = pressed.places.flatMap((place) => this.toPx(place) ?? []);
    if (places.length === 0) return void this.messages.say('info', 'Take a photograph first');
    const flat = places.flatMap(({ x, y }) => [x, y]);
    this.view.setTool('pick');
    if (pressed.kind === 'outline') this.dress.setOutline(flat);
    else if (pressed.kind === 'front') void this.dress.addMask(flat, this.soft());
    else void this.edges.fit(pressed.kind, places, this.size());
  }

  /** A place of the sheet in px of the photograph. */
  toPx({ x, y }: SheetPoint): SheetPoint | null {
    const there = this.photos.there();
    const back = there && invertAffine(photoToSheet(there));
    return back && applyAffine(back, x, y);
  }

  private setCrossing(at: SheetPoint): void {
    const [px, crossing] = [this.toPx(at), this.crossingNear(at)];
    if (px && crossing) void this.photos.setCrossing(crossing.column, crossing.row, px);
  }

  /** The crossing that a place belongs to: the nearest by the fit, or the next corner of the lattice. */
  private crossingNear(at: SheetPoint): { readonly column: number; readonly row: number } | null {
    const surface = this.photos.there()?.surface;
    const px = this.toPx(at);
    if (!surface || !px) return null;
    const { columns, rows } = surface.lattice;
    if (!surface.fit) {
      const corners = [[0, 0], [columns, 0], [columns, rows], [0, rows]].map(([column, row]) => ({ column: column!, row: row! })); // prettier-ignore
      return corners.find((one) => !surface.crossings.some(({ column, row }) => column === one.column && row === one.row)) ?? null;
    }
    let [nearest, least]: [{ column: number; row: number } | null, number] = [null, Infinity];
    for (let row = 0; row <= rows; row++)
      for (let column = 0; column <= columns; column++) {
        const p = this.photos.predicted(column, row);
        const far = p ? Math.hypot(p.x - px.x, p.y - px.y) : Infinity;
        if (far < least) [nearest, least] = [{ column, row }, far];
      }
    return nearest;
  }

  private wordsAt(at: SheetPoint): string {
    const crossing = this.crossingNear(at);
    const surface = this.photos.there()?.surface;
    if (!crossing || !surface) return 'all corners are set';
    if (!surface.fit) return `${CORNERS[surface.crossings.length] ?? 'next'} crossing of the lattice`;
    return `crossing ${crossing.column}, ${crossing.row}`;
  }
}
