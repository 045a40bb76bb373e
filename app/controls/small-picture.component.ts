import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, DestroyRef, inject, input, output, viewChild } from '@angular/core';
import type { CheminDocument, ProjectionSetup, SmallKind } from '@core';
import { SmallPicturesService } from '../platform/small-pictures.service';

/** A drawing in small, in any projection, made away from the page from its document when it comes into sight. */
@Component({
  selector: 'chemin-small-picture',
  template: '<canvas #canvas aria-hidden="true"></canvas>',
  styles: ':host, canvas { display: block; width: 100%; } :host(.fills) { min-height: 0; } :host(.fills) canvas { height: 100%; object-fit: contain; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SmallPictureComponent {
  readonly document = input.required<CheminDocument>();
  /** Another projection than the drawing's own. */
  readonly projection = input<ProjectionSetup | null>(null);
  readonly kind = input.required<SmallKind>();
  /** Size of the canvas in px. */
  readonly width = input(144);
  readonly height = input(100);
  /** The drawing is too damaged to be shown. */
  readonly damaged = output();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    const pictures = inject(SmallPicturesService);
    let shown: HTMLCanvasElement | null = null;
    afterRenderEffect(() => {
      const [document, kind, width, height] = [this.document(), this.kind(), this.width(), this.height()];
      const canvas = (shown = this.canvas().nativeElement);
      if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
      pictures.wish({ canvas, document, projection: this.projection() ?? document.projection, kind, failed: () => this.damaged.emit() });
    });
    inject(DestroyRef).onDestroy(() => shown && pictures.forget(shown));
  }
}
