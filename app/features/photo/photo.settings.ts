import { computed, inject, Injectable, signal } from '@angular/core';
import { applyAffine, invertAffine, photoToSheet, type SheetPoint } from '@core';
import { MessageStore } from '../../platform/messages.store';
import { ViewStore } from '../../state/view.store';
import type { ToolSettings } from '../../state/stage';
import type { PressedKind } from './corners.tool';
import { CrossingsService } from './crossings.service';
import { EdgeFitService } from './edge-fit.service';
import { PhotoDressService } from './photo-dress.service';
import { PhotosService } from './photos.service';

/** What the tools of photographs are told, and what they tell. */
export interface PhotoToolSettings {
  /** Places that were pressed, and what they are to be. */
  readonly pressed?: { readonly kind: PressedKind; readonly places: readonly SheetPoint[] };
  /** A place at which a crossing was pressed. */
  readonly crossing?: SheetPoint;
  /** It is to stay exactly there. */
  readonly free?: boolean;
  /** The crossing that would be set at a place, in words. */
  readonly crossingAt?: (at: SheetPoint) => string;
}

/** Hands what is pressed on a photograph to what is made of it. */
@Injectable({ providedIn: 'root' })
export class PhotoSettings implements ToolSettings<PhotoToolSettings> {
  private readonly photos = inject(PhotosService);
  private readonly crossings = inject(CrossingsService);
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

  patch({ pressed, crossing, free }: Partial<PhotoToolSettings>): void {
    if (crossing) this.setCrossing(crossing, free ?? false);
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

  private setCrossing(at: SheetPoint, free: boolean): void {
    const shown = this.crossings.registration();
    void this.crossings.inTurn(async () => {
      const [px, crossing] = [this.toPx(at), this.crossingNear(at)];
      this.wished.set(null);
      if (px && crossing) await this.crossings.setNow(crossing.column, crossing.row, px, free, shown);
    });
  }

  private readonly wished = signal<{ readonly column: number; readonly row: number } | null>(null);

  /** While nothing is fitted: the crossing that is pressed next, a corner of the lattice unless another is said; null once there is a fit. */
  readonly next = computed(() => {
    const surface = this.photos.there()?.surface;
    if (!surface || surface.fit) return null;
    const { columns, rows } = surface.lattice;
    const corners = [[0, 0], [columns, 0], [columns, rows], [0, rows]].map(([column, row]) => ({ column: column!, row: row! })); // prettier-ignore
    const left = corners.find((one) => !surface.crossings.some(({ column, row }) => column === one.column && row === one.row));
    return this.wished() ?? left ?? { column: 0, row: 0 };
  });

  /** @param number as it is printed beside the crossing */
  setNext(number: number): void {
    const across = (this.photos.there()?.surface.lattice.columns ?? 0) + 1;
    const k = Math.max(0, Math.round(number) - 1);
    this.wished.set({ column: k % across, row: Math.floor(k / across) });
  }

  /** The crossing that a place belongs to: the nearest by the fit, or the next corner of the lattice. */
  private crossingNear(at: SheetPoint): { readonly column: number; readonly row: number } | null {
    const surface = this.photos.there()?.surface;
    const px = this.toPx(at);
    if (!surface || !px) return null;
    if (!surface.fit) return this.next();
    const { columns, rows } = surface.lattice;
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
    const lattice = this.photos.there()?.surface.lattice;
    if (!crossing || !lattice) return 'take a photograph first';
    const { column, row } = crossing;
    const corner = (column === 0 || column === lattice.columns) && (row === 0 || row === lattice.rows);
    const words = corner ? `, ${row === 0 ? 'upper' : 'lower'} ${column === 0 ? 'left' : 'right'} of the lattice` : '';
    return `crossing at number ${row * (lattice.columns + 1) + column + 1}${words}`;
  }
}
