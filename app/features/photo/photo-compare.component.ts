import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, type ElementRef, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SliderModule } from 'primeng/slider';
import { DialogComponent } from '../../controls/dialog.component';
import { decodedPicture } from '../../platform/decoded-picture';
import { DrawingsService } from '../../platform/drawings.service';
import { DocumentStore } from '../../state/document.store';
import { PhotosService } from './photos.service';

type Way = 'split' | 'blink' | 'difference';
/** Ms that each photograph is shown for while they blink; none does where motion is unwanted. */
const BLINK_MS = 600;
/** Width in px of the picture. */
const WIDTH = 620;

/** The two photographs of a pair on each other: side by side at a line, by turns, or what differs. */
@Component({
  selector: 'chemin-photo-compare',
  imports: [DialogComponent, FormsModule, SliderModule],
  template: `
    <chemin-dialog title="The two photographs" width="660px" (closed)="photos.comparing.set(false)">
      <div class="chips" role="group" aria-label="Compare by">
        @for (one of ways; track one.way) {
          <button type="button" class="plain" [attr.aria-pressed]="way() === one.way" (click)="way.set(one.way)">{{ one.title }}</button>
        }
        @if (way() === 'blink') {
          <button type="button" class="plain bordered" (click)="second.set(!second())">Show the other</button>
        }
      </div>
      <canvas #view [width]="width" [height]="height()" role="img" [attr.aria-label]="words()"></canvas>
      @if (way() === 'split') {
        <p-slider [min]="0" [max]="100" [ngModel]="at()" (ngModelChange)="at.set($event)" ariaLabel="Where one photograph ends" />
      }
      <p class="note">{{ words() }}</p>
    </chemin-dialog>
  `,
  styles: `
    canvas {
      display: block;
      width: 100%;
      margin: 10px 0;
      border-radius: 4px;
    }
    p-slider {
      display: block;
      margin: 14px 8px;
    }
  `,
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotoCompareComponent {
  protected readonly photos = inject(PhotosService);
  private readonly documents = inject(DocumentStore);
  private readonly drawings = inject(DrawingsService);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('view');
  protected readonly ways = [
    { way: 'split', title: 'Split' },
    { way: 'blink', title: 'Blink' },
    { way: 'difference', title: 'Difference' },
  ] as const satisfies readonly { way: Way; title: string }[];
  protected readonly way = signal<Way>('split');
  protected readonly at = signal(50);
  protected readonly second = signal(false);
  protected readonly width = WIDTH;
  private readonly images = signal<readonly ImageBitmap[]>([]);
  protected readonly height = computed(() => {
    const there = this.photos.there();
    return there ? Math.round((WIDTH * there.height) / there.width) : WIDTH;
  });
  protected readonly words = computed(() => {
    const r = this.photos.there()?.surface.registration;
    if (!r) return 'How one lies on the other is not known before the lattice is found.';
    const turn = (r.turn * 180) / Math.PI;
    return `The second lies ${r.dx.toFixed(2)}, ${r.dy.toFixed(2)}\u2009px beside the first, turned by ${turn.toFixed(3)}°, ${((r.scale - 1) * 100).toFixed(3)} % larger; it is laid on it exactly. ${Math.round(r.agrees * 100)} % of what is clear agrees.`; // prettier-ignore
  });

  constructor() {
    void this.load();
    effect(() => this.paint());
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    const timer = setInterval(() => {
      if (this.way() === 'blink' && !still) this.second.set(!this.second());
    }, BLINK_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  private async load(): Promise<void> {
    const there = this.photos.there();
    const { bitmaps } = this.documents.whole();
    const ids = there ? [there.photo.bitmap, there.surface.latticed] : [];
    const blobs = await Promise.all(ids.map((id) => this.drawings.assetBlob(bitmaps.find((one) => one.id === id)?.asset ?? '')));
    this.images.set((await Promise.all(blobs.map(decodedPicture))).filter((image) => image !== null));
  }

  private paint(): void {
    const [first, other] = this.images();
    const there = this.photos.there();
    const context = this.canvas().nativeElement.getContext('2d');
    if (!context || !first || !other || !there) return;
    const [w, h] = [WIDTH, this.height()];
    const k = w / there.width;
    const bare = (): void => context.drawImage(first, 0, 0, w, h);
    // The second is moved back to where the first has the same things.
    const latticed = (): void => {
      const { dx, dy, turn, scale } = there.surface.registration ?? { dx: 0, dy: 0, turn: 0, scale: 1 };
      context.save();
      context.translate(w / 2, h / 2);
      context.rotate(-turn);
      context.scale(1 / scale, 1 / scale);
      context.translate(-dx * k, -dy * k);
      context.drawImage(other, -w / 2, -h / 2, w, h);
      context.restore();
    };
    context.globalCompositeOperation = 'source-over';
    if (this.way() === 'blink') return this.second() ? latticed() : bare();
    bare();
    if (this.way() === 'difference') {
      context.globalCompositeOperation = 'difference';
      latticed();
      context.globalCompositeOperation = 'source-over';
      return;
    }
    const x = (w * this.at()) / 100;
    context.save();
    context.beginPath();
    context.rect(x, 0, w - x, h);
    context.clip();
    latticed();
    context.restore();
    context.fillStyle = '#7b3ff2';
    context.fillRect(x - 1, 0, 2, h);
  }
}
