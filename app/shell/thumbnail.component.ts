import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, input, output, viewChild } from '@angular/core';
import { PictureMaker, type CheminDocument, type Picture } from '@core';
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
  /** The drawing is too damaged to be shown. */
  readonly damaged = output();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    afterRenderEffect(() => {
      const document = this.document();
      const context = this.canvas().nativeElement.getContext('2d');
      if (!context) return;
      const picture = pictureOf(document);
      if (!picture) return this.damaged.emit();
      const { width, height } = document.sheet;
      const scale = 2 * Math.min((WIDTH - 16) / width, (HEIGHT - 16) / height);
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, 2 * WIDTH, 2 * HEIGHT);
      context.setTransform(scale, 0, 0, scale, WIDTH - (width * scale) / 2, HEIGHT - (height * scale) / 2);
      paintOnCanvas(context, picture);
    });
  }
}

/** The picture of what storage keeps, which may be damaged; null where none can be made of it. */
function pictureOf(document: CheminDocument): Picture | null {
  try {
    return new PictureMaker().make(document);
  } catch {
    return null;
  }
}
