import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, inject, input, viewChild } from '@angular/core';
import { flatArtworks, flatInBox, type Artwork } from '@core';
import { paintOnCanvas } from '../../platform/canvas-paint';
import { DocumentStore } from '../../state/document.store';
import { RastersService } from '../../state/rasters.service';

const WIDTH = 340;
const HEIGHT = 160;

/** Flat artwork in small, painted from its marks; its markup never enters the page. */
@Component({
  selector: 'chemin-artwork-thumb',
  template: '<canvas #canvas width="340" height="160" aria-hidden="true"></canvas>',
  styles: 'canvas { display: block; width: 100%; aspect-ratio: 340 / 160; background: #fff; border-radius: 2px; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtworkThumbComponent {
  readonly artwork = input.required<Artwork>();
  private readonly documents = inject(DocumentStore);
  private readonly rasters = inject(RastersService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    afterRenderEffect(() => {
      const flat = flatArtworks(this.documents.wholeShown()).get(this.artwork().id);
      this.rasters.smalls();
      const context = this.canvas().nativeElement.getContext('2d');
      if (!flat || !context) return;
      const scale = Math.min((WIDTH - 12) / flat.width, (HEIGHT - 12) / flat.height);
      const [width, height] = [flat.width * scale, flat.height * scale];
      const marks = flatInBox(flat, (WIDTH - width) / 2, (HEIGHT - height) / 2, width, height);
      context.setTransform(1, 0, 0, 1, 0, 0);
      const sheet = { width: WIDTH, height: HEIGHT, unit: 'mm' as const, resolution: 96, scale: 1, background: '#ffffff' };
      const group = { kind: 'group', node: null, name: '', clip: null, strength: 1, marks } as const;
      paintOnCanvas(context, { sheet, marks: [group] }, () => undefined, this.rasters.thumbs);
    });
  }
}
