import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, inject, signal, viewChild } from '@angular/core';
import { registeredPlace, unregisteredPlace } from '@later';
import type { SheetPoint } from '@core';
import { decodedPicture } from '../../platform/decoded-picture';
import { DrawingsService } from '../../platform/drawings.service';
import { DocumentStore } from '../../state/document.store';
import { CrossingsService } from './crossings.service';
import { PhotosService } from './photos.service';
import { px } from './surface-parts';

/** Size of the loupe in px of the screen, and px of the screen to one of the photograph. */
const [SIZE, TIMES] = [228, 12];
/** Px that an arrow key moves a crossing by; ten times as far with Shift. */
const NUDGE = 0.1;

/** A chosen crossing from near: pressed to its place, or moved with the arrow keys. Made by hand: no control magnifies a photograph. */
@Component({
  selector: 'chemin-crossing-loupe',
  template: `
    @if (chosen(); as one) {
      <p class="note">Crossing {{ one.column }}, {{ one.row }}: {{ words() }}</p>
      <canvas
        #view
        tabindex="0"
        role="application"
        [width]="size"
        [height]="size"
        [attr.aria-label]="'Loupe at crossing ' + one.column + ', ' + one.row + '. Press its place, or move it with the arrow keys.'"
        (click)="press($event)"
        (keydown)="nudge($event)"
      ></canvas>
      <div class="chips">
        <button type="button" class="plain bordered" (click)="crossings.findAgain(one.column, one.row)">Find it again</button>
        <button type="button" class="plain bordered" (click)="crossings.remove(one.column, one.row)">Leave it out</button>
      </div>
    }
  `,
  styles: `
    canvas {
      display: block;
      width: 228px;
      height: 228px;
      border: 1px solid var(--line);
      border-radius: 4px;
      cursor: crosshair;
      image-rendering: pixelated;
    }
  `,
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CrossingLoupeComponent {
  protected readonly photos = inject(PhotosService);
  protected readonly crossings = inject(CrossingsService);
  private readonly documents = inject(DocumentStore);
  private readonly drawings = inject(DrawingsService);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('view');
  private readonly image = signal<{ readonly id: string; readonly image: ImageBitmap } | null>(null);
  protected readonly size = SIZE;
  protected readonly chosen = this.photos.chosenCrossing;

  /** The photograph in which the crossings are seen. */
  private readonly bitmap = computed(() => {
    const there = this.photos.there();
    return there ? (there.surface.latticed ?? there.photo.bitmap) : null;
  });
  private readonly miss = computed(() => {
    const one = this.chosen();
    return this.photos.misses().find((miss) => miss.column === one?.column && miss.row === one.row) ?? null;
  });
  protected readonly words = computed(() => {
    const miss = this.miss();
    return miss ? `${px(miss.far)} off${miss.wrong ? ', left out as wrong' : ''}` : 'not found';
  });
  /** Where it is, in px of the bare photograph: as found, or as the fit has it. */
  private readonly at = computed(() => {
    const [one, there] = [this.chosen(), this.photos.there()];
    if (!one || !there) return null;
    return there.surface.crossings.find(({ column, row }) => column === one.column && row === one.row) ?? this.photos.predicted(one.column, one.row);
  });

  constructor() {
    effect(() => {
      const id = this.bitmap();
      const asset = this.documents.whole().bitmaps.find((one) => one.id === id)?.asset;
      if (id !== null && asset !== undefined && this.image()?.id !== id) void this.load(id, asset);
    });
    effect(() => this.paint());
  }

  private async load(id: string, asset: string): Promise<void> {
    const image = await decodedPicture(await this.drawings.assetBlob(asset));
    if (image) this.image.set({ id, image });
  }

  /** From px of the bare photograph to px of the one that is shown. */
  private carried(p: SheetPoint, back = false): SheetPoint {
    const there = this.photos.there();
    const registration = there?.surface.registration;
    if (!there || !registration) return p;
    return (back ? unregisteredPlace : registeredPlace)(registration, there, p);
  }

  private paint(): void {
    const [view, image, at] = [this.canvas()?.nativeElement, this.image(), this.at()];
    const context = view?.getContext('2d');
    if (!context || !image || !at) return;
    const p = this.carried(at);
    context.imageSmoothingEnabled = false;
    context.fillStyle = '#808080';
    context.fillRect(0, 0, SIZE, SIZE);
    const span = SIZE / TIMES;
    context.drawImage(image.image, p.x - span / 2, p.y - span / 2, span, span, 0, 0, SIZE, SIZE);
    context.strokeStyle = '#7b3ff2';
    context.lineWidth = 1;
    context.beginPath();
    for (const [x0, y0, x1, y1] of [[0, 0.5, 0.44, 0.5], [0.56, 0.5, 1, 0.5], [0.5, 0, 0.5, 0.44], [0.5, 0.56, 0.5, 1]]) {
      context.moveTo(x0! * SIZE, y0! * SIZE);
      context.lineTo(x1! * SIZE, y1! * SIZE);
    } // prettier-ignore
    context.stroke();
    const miss = this.miss();
    if (!miss) return;
    // Where the fit has it.
    context.beginPath();
    context.arc(SIZE / 2 - miss.dx * TIMES, SIZE / 2 - miss.dy * TIMES, 4, 0, 2 * Math.PI);
    context.stroke();
  }

  protected press(event: MouseEvent): void {
    this.move((event.offsetX - SIZE / 2) / TIMES, (event.offsetY - SIZE / 2) / TIMES);
  }

  protected nudge(event: KeyboardEvent): void {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const k = event.shiftKey ? 10 * NUDGE : NUDGE;
    this.move(way[0]! * k, way[1]! * k);
  }

  private move(dx: number, dy: number): void {
    const [one, at] = [this.chosen(), this.at()];
    if (!one || !at) return;
    const p = this.carried(at);
    void this.crossings.set(one.column, one.row, this.carried({ x: p.x + dx, y: p.y + dy }, true), true);
  }
}
