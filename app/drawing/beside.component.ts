import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import { paintOnCanvas, paintSheetOnTable } from '../platform/canvas-paint';
import { FlatService } from '../state/flat.service';
import { PictureService } from '../state/picture.service';
import { RasterSet } from '../state/raster-set';
import { RastersService } from '../state/rasters.service';
import { ViewStore } from '../state/view.store';
import type { SheetPoint } from '@core';
import { paintSpot } from './paint-spot';

/** Px that the pointer moves before a press is a drag that pans. */
const STILL_PX = 4;
/** Px of room round a sheet that is shown whole. */
const MARGIN = 28;

/**
 * The view that is not worked on: the drawing beside a flat sheet, or the sheet beside the drawing. It follows every
 * change in the same frame, marks what is pointed at in the other one, and is gone over to by a press.
 */
@Component({
  selector: 'chemin-beside',
  template: `
    <button
      type="button"
      class="view"
      [attr.aria-label]="words()"
      (pointerdown)="down($event)"
      (pointermove)="move($event)"
      (pointerup)="up($event)"
      (pointerleave)="flat.besidePointer.set(null)"
      (click)="press($event)"
      (wheel)="wheel($event)"
    >
      <canvas #canvas aria-hidden="true"></canvas>
    </button>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      overflow: hidden;
    }
    .view {
      display: block;
      width: 100%;
      height: 100%;
      padding: 0;
      border: 0;
      background: var(--table);
      cursor: pointer;
      touch-action: none;
    }
    .view:focus-visible {
      outline: 2px solid var(--violet);
      outline-offset: -2px;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BesideComponent {
  protected readonly flat = inject(FlatService);
  private readonly pictures = inject(PictureService);
  private readonly rasters = inject(RastersService);
  private readonly view = inject(ViewStore);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly size = signal<{ readonly width: number; readonly height: number }>({ width: 0, height: 0 });
  private readonly sharper = signal(0);
  private readonly bitmaps = new RasterSet(this.rasters, () => this.sharper.update((n) => n + 1));
  private held: { readonly x: number; readonly y: number; readonly panX: number; readonly panY: number; moved: boolean } | null = null;

  protected readonly words = computed(() =>
    this.flat.worked()
      ? 'The drawing, as the artwork is seen in it. Press to work on the drawing.'
      : `The flat sheet of ${this.flat.artwork()?.name ?? ''}. Press to work on it.`,
  );
  private readonly picture = computed(() => {
    const artwork = this.flat.artwork();
    if (this.flat.worked()) return this.pictures.wholePicture();
    return artwork && this.pictures.flatBeside(artwork.id);
  });
  /** As it was looked at last; whole at first. */
  private readonly look = computed(() => {
    const known = this.flat.besideLook();
    if (known) return known;
    const [sheet, { width, height }] = [this.flat.besideSheet(), this.size()];
    const zoom = Math.max(0.01, Math.min((width - 2 * MARGIN) / sheet.width, (height - 2 * MARGIN) / sheet.height));
    return { zoom, panX: Math.round((width - sheet.width * zoom) / 2), panY: Math.round((height - sheet.height * zoom) / 2) };
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterRenderEffect(() => this.paint());
    let observer: ResizeObserver | null = null;
    afterRenderEffect(() => {
      const canvas = this.canvas().nativeElement;
      if (observer) return;
      observer = new ResizeObserver(([entry]) => {
        const { width = 0, height = 0 } = entry?.contentRect ?? {};
        this.size.set({ width: Math.round(width), height: Math.round(height) });
      });
      observer.observe(canvas);
    });
    destroy.onDestroy(() => observer?.disconnect());
  }

  private paint(): void {
    const [picture, { width, height }, look] = [this.picture(), this.size(), this.look()];
    this.view.theme();
    this.sharper();
    this.rasters.smalls();
    const marks = this.flat.marks();
    const canvas = this.canvas().nativeElement;
    const context = canvas.getContext('2d');
    if (!picture || !context || width === 0) return;
    const ratio = devicePixelRatio;
    [canvas.width, canvas.height] = [Math.round(width * ratio), Math.round(height * ratio)];
    context.setTransform(look.zoom * ratio, 0, 0, look.zoom * ratio, look.panX * ratio, look.panY * ratio);
    paintSheetOnTable(context, picture.sheet, 14 * ratio);
    paintOnCanvas(context, picture, () => undefined, this.bitmaps.images({ ...look, width, height, ratio }));
    for (const at of marks.beside) paintSpot(context, at, look.zoom);
  }

  private at(event: MouseEvent): SheetPoint {
    const box = this.canvas().nativeElement.getBoundingClientRect();
    const { zoom, panX, panY } = this.look();
    return { x: (event.clientX - box.left - panX) / zoom, y: (event.clientY - box.top - panY) / zoom };
  }

  protected down(event: PointerEvent): void {
    const { panX, panY } = this.look();
    this.held = { x: event.clientX, y: event.clientY, panX, panY, moved: false };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  protected move(event: PointerEvent): void {
    const { held } = this;
    if (held && (held.moved || Math.hypot(event.clientX - held.x, event.clientY - held.y) > STILL_PX)) {
      held.moved = true;
      this.flat.besideLook.set({
        zoom: this.look().zoom,
        panX: held.panX + Math.round(event.clientX - held.x),
        panY: held.panY + Math.round(event.clientY - held.y),
      });
    }
    this.flat.besidePointer.set(this.at(event));
  }

  protected up(event: PointerEvent): void {
    (event.currentTarget as Element).releasePointerCapture(event.pointerId);
  }

  /** A press goes over, and takes how it is looked at along; the end of a drag does not. */
  protected press(event: MouseEvent): void {
    const moved = this.held?.moved;
    this.held = null;
    if (moved) return;
    this.flat.besideLook.set(this.look());
    // Pressed by the keyboard there is no place.
    this.flat.goTo(event.detail === 0 ? null : this.at(event));
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const { zoom, panX, panY } = this.look();
    const box = this.canvas().nativeElement.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const next = Math.max(0.05, Math.min(240, zoom * Math.exp(-Math.max(-200, Math.min(200, event.deltaY)) * 0.0016)));
    const k = next / zoom;
    this.flat.besideLook.set({ zoom: next, panX: Math.round(x - (x - panX) * k), panY: Math.round(y - (y - panY) * k) });
  }
}
