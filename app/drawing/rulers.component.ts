import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, inject, viewChildren } from '@angular/core';
import { figure, mmPer } from '@core';
import { DocumentStore } from '../state/document.store';
import { GuidesService } from '../state/guides.service';
import { PictureService } from '../state/picture.service';
import { catchPointer } from '../tools/catching';
import { ViewStore } from '../state/view.store';

/** Width of a ruler in px. */
const BAND = 20;

/** Rulers along the top and the left of the drawing, in the sheet's unit from its top left corner; guides are pulled out of them. */
@Component({
  selector: 'chemin-rulers',
  template: `
    @for (side of sides; track side) {
      <canvas
        #band
        [class]="side"
        aria-hidden="true"
        (pointerdown)="begin($event)"
        (pointermove)="pull($event, side, false)"
        (pointerup)="pull($event, side, true)"
        (pointercancel)="cancel()"
      ></canvas>
    }
  `,
  styles: `
    canvas {
      position: absolute;
      left: 0;
      top: 0;
      touch-action: none;
    }
    .across {
      width: 100%;
      height: 20px;
      cursor: row-resize;
    }
    .down {
      width: 20px;
      height: 100%;
      cursor: col-resize;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulersComponent {
  private readonly view = inject(ViewStore);
  private readonly store = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly guides = inject(GuidesService);
  private readonly bands = viewChildren<ElementRef<HTMLCanvasElement>>('band');
  protected readonly sides = ['across', 'down'] as const;
  private pulling = false;

  constructor() {
    afterRenderEffect(() => {
      this.view.theme();
      const { unit, resolution } = this.store.shown().sheet;
      const perUnit = mmPer(unit, resolution) * this.view.zoom();
      const [across, down] = this.bands();
      if (across) paintRuler(across.nativeElement, this.view.width(), this.view.panX(), perUnit, false);
      if (down) paintRuler(down.nativeElement, this.view.height(), this.view.panY(), perUnit, true);
    });
  }

  protected begin(event: PointerEvent): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.preventDefault();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    this.pulling = true;
  }

  /** A guide is pulled onto the plane that is drawn on, along its first direction from the top, its second from the left; back on the ruler it is dropped. */
  protected pull(event: PointerEvent, side: 'across' | 'down', end: boolean): void {
    if (!this.pulling) return;
    event.stopPropagation();
    const box = (event.target as HTMLElement).getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    if (end) this.pulling = false;
    const plane = this.view.plane();
    const at = { x: (x - this.view.panX()) / this.view.zoom(), y: (y - this.view.panY()) / this.view.zoom() };
    const isOver = (side === 'across' ? y : x) < BAND;
    const caught = isOver ? null : catchPointer(this.pictures.planeContext(plane), at, [], { lock: false, free: event.altKey });
    if (!caught) this.guides.drop();
    else this.guides.add(plane, caught, side === 'across' ? { u: 1, v: 0 } : { u: 0, v: 1 }, end);
  }

  protected cancel(): void {
    this.pulling = false;
    this.guides.drop();
  }
}

/** Steps of 1, 2 or 5 times a power of ten, labelled where they lie 60 px apart or more, each in five or ten parts. */
export function rulerStep(pxPerUnit: number): { readonly step: number; readonly parts: number } {
  const least = 60 / pxPerUnit;
  const power = 10 ** Math.floor(Math.log10(least));
  const factor = [1, 2, 5, 10].find((f) => f * power >= least) ?? 10;
  return { step: factor * power, parts: factor === 2 ? 4 : 5 };
}

function paintRuler(canvas: HTMLCanvasElement, length: number, zero: number, perUnit: number, upright: boolean): void {
  const dense = devicePixelRatio || 1;
  canvas.width = (upright ? BAND : length) * dense;
  canvas.height = (upright ? length : BAND) * dense;
  const context = canvas.getContext('2d');
  if (!context) return;
  const style = getComputedStyle(document.documentElement);
  context.scale(dense, dense);
  context.fillStyle = style.getPropertyValue('--paper');
  context.fillRect(0, 0, upright ? BAND : length, upright ? length : BAND);
  context.fillStyle = style.getPropertyValue('--ink-2');
  context.strokeStyle = style.getPropertyValue('--stone-3');
  context.font = "11px 'Hanken Grotesk', sans-serif";
  const { step, parts } = rulerStep(perUnit);
  const small = step / parts;
  context.beginPath();
  for (let i = Math.floor(-zero / perUnit / small); i * small * perUnit + zero < length; i++) {
    const at = Math.round(zero + i * small * perUnit) + 0.5;
    const whole = i % parts === 0;
    const depth = whole ? BAND : 5;
    if (upright) {
      context.moveTo(BAND, at);
      context.lineTo(BAND - depth, at);
    } else {
      context.moveTo(at, BAND);
      context.lineTo(at, BAND - depth);
    }
    if (whole) label(context, figure(i * small, 4), at, upright);
  }
  context.stroke();
}

function label(context: CanvasRenderingContext2D, text: string, at: number, upright: boolean): void {
  if (!upright) return context.fillText(text, at + 3, 11);
  context.save();
  context.translate(11, at + 3);
  context.rotate(Math.PI / 2);
  context.fillText(text, 0, 0);
  context.restore();
}
