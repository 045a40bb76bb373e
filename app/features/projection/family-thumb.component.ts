import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, DestroyRef, inject, input, viewChild } from '@angular/core';
import { gridMarks, PictureMaker, projectionFrom, roomOf, subjectOf, type CheminDocument, type ProjectionSetup } from '@core';
import { paintMarksOnCanvas } from '../../drawing/canvas-paint';
import { sampleNodes } from './sample';

/** Size in px of the canvas behind a thumbnail. */
const WIDTH = 144;
const HEIGHT = 100;

/** The present drawing in a projection, in small; a sample while nothing is drawn. Painted when there is time. */
@Component({
  selector: 'chemin-family-thumb',
  template: '<canvas #canvas aria-hidden="true" width="144" height="100"></canvas>',
  styles: ':host, canvas { display: block; width: 100%; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FamilyThumbComponent {
  readonly document = input.required<CheminDocument>();
  readonly setup = input.required<ProjectionSetup>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    afterRenderEffect(() => {
      const [document, setup, canvas] = [this.document(), this.setup(), this.canvas().nativeElement];
      clearTimeout(this.timer);
      this.timer = setTimeout(() => paintThumb(canvas, document, setup), 20);
    });
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
  }
}

function paintThumb(canvas: HTMLCanvasElement, kept: CheminDocument, projection: ProjectionSetup): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const document = { ...kept, projection, nodes: kept.nodes.length > 0 ? kept.nodes : sampleNodes() };
  const maker = new PictureMaker();
  const picture = maker.make(document);
  const room = roomOf(projectionFrom(projection), subjectOf(document, maker.stageOf(document)));
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.fillStyle = '#fffefb';
  context.fillRect(0, 0, WIDTH, HEIGHT);
  if (!room) return;
  const k = Math.min(WIDTH / room.width, HEIGHT / room.height) * 0.86;
  context.setTransform(k, 0, 0, k, WIDTH / 2 - room.middle.x * k, HEIGHT / 2 - room.middle.y * k);
  const [halfX, halfY] = [WIDTH / 2 / k, HEIGHT / 2 / k];
  const seen = { minX: room.middle.x - halfX, minY: room.middle.y - halfY, maxX: room.middle.x + halfX, maxY: room.middle.y + halfY };
  const grid = { ...document.grid, planes: 'active', closest: 7, extents: { floor: null, left: null, right: null } } as const;
  paintMarksOnCanvas(context, gridMarks(projectionFrom(projection), grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: k, leastWidth: 1 / k }));
  paintMarksOnCanvas(context, picture.marks);
}
