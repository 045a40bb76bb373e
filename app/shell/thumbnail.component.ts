import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, input, viewChild } from '@angular/core';
import { PictureMaker, type CheminDocument } from '@core';
import { paintOnCanvas } from '../drawing/canvas-paint';

const WIDTH = 240;
const HEIGHT = 160;

/** A drawing in small, computed from its document whenever it is shown. */
@Component({
  selector: 'chemin-thumbnail',
  template: '<canvas #canvas width="480" height="320" aria-hidden="true"></canvas>',
  styles: 'canvas { display: block; width: 100%; aspect-ratio: 3 / 2; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThumbnailComponent {
  readonly document = input.required<CheminDocument>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    afterRenderEffect(() => {
      const document = this.document();
      const context = this.canvas().nativeElement.getContext('2d');
      if (!context) return;
      const { width, height } = document.sheet;
      const scale = 2 * Math.min((WIDTH - 16) / width, (HEIGHT - 16) / height);
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, 2 * WIDTH, 2 * HEIGHT);
      context.setTransform(scale, 0, 0, scale, WIDTH - (width * scale) / 2, HEIGHT - (height * scale) / 2);
      paintOnCanvas(context, new PictureMaker().make(document));
    });
  }
}
