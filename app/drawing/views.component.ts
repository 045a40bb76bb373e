import type { ElementRef } from '@angular/core';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import { figure, sizeMm } from '@core';
import { FlatService } from '../state/flat.service';
import { BesideComponent } from './beside.component';
import { DrawingComponent } from './drawing.component';

/** How much wider than high a room is in which two views stand side by side. */
const STACKED = 1.25;
/** Steps by which the keyboard moves the line between two views. */
const STEP = 0.05;

/**
 * The drawing, and beside it the flat sheet of an artwork where one is open. The one that is worked on is the drawing
 * area; the other follows it. The line between them is made by hand: the library's splitter keeps its panels in the order
 * in which they stand in the page, and here they change places.
 */
@Component({
  selector: 'chemin-views',
  imports: [BesideComponent, DrawingComponent],
  template: `
    <div
      #room
      class="views"
      [class.two]="flat.artwork()"
      [class.stacked]="stacked()"
      [style.--first]="flat.share() + 'fr'"
      [style.--second]="1 - flat.share() + 'fr'"
    >
      <section
        class="pane worked"
        [class.right]="flat.worked()"
        [attr.aria-label]="flat.artwork() ? (flat.worked() ? 'Flat sheet' : 'Drawing in space') : null"
      >
        @if (flat.artwork(); as artwork) {
          <header>
            @if (flat.worked()) {
              <strong>{{ artwork.name }}</strong>
              <span class="note">flat, {{ size() }}</span>
              <span class="gap"></span>
              <button type="button" class="plain" (click)="flat.work('drawing')">See it there</button>
            } @else {
              <strong>The drawing</strong>
              <span class="gap"></span>
              <button type="button" class="plain" (click)="flat.work('flat')">Edit flat</button>
            }
            <button type="button" class="plain" aria-label="Close the flat sheet" (click)="flat.close()">Close</button>
          </header>
        }
        <chemin-drawing />
      </section>
      @if (flat.artwork(); as artwork) {
        <div
          class="line"
          role="separator"
          tabindex="0"
          [attr.aria-orientation]="stacked() ? 'horizontal' : 'vertical'"
          aria-label="Room of the drawing beside the flat sheet"
          [attr.aria-valuenow]="percent()"
          aria-valuemin="20"
          aria-valuemax="80"
          (pointerdown)="hold($event)"
          (pointermove)="drag($event)"
          (keydown.arrowleft)="flat.setShare(flat.share() - STEP)"
          (keydown.arrowright)="flat.setShare(flat.share() + STEP)"
          (keydown.arrowup)="flat.setShare(flat.share() - STEP)"
          (keydown.arrowdown)="flat.setShare(flat.share() + STEP)"
        ></div>
        <section class="pane other" [class.right]="!flat.worked()" [attr.aria-label]="flat.worked() ? 'Drawing in space' : 'Flat sheet'">
          <header>
            <strong>{{ flat.worked() ? 'The drawing' : artwork.name }}</strong>
            <span class="note">{{ flat.worked() ? 'press it to work there' : 'flat, ' + size() }}</span>
          </header>
          <chemin-beside />
        </section>
      }
    </div>
  `,
  styles: `
    :host,
    .views {
      display: block;
      height: 100%;
    }
    .pane {
      height: 100%;
      min-width: 0;
      min-height: 0;
    }
    .two {
      display: grid;
      grid-template-columns: minmax(0, var(--first)) 7px minmax(0, var(--second));
    }
    .two .pane {
      display: grid;
      grid-template-rows: 32px minmax(0, 1fr);
      grid-row: 1;
      grid-column: 1;
    }
    .two .pane.right {
      grid-column: 3;
    }
    .line {
      grid-row: 1;
      grid-column: 2;
      border: 1px solid var(--stone-3);
      background: var(--stone-1);
      cursor: col-resize;
      touch-action: none;
    }
    /* In a narrow room one below the other, where both are larger so. */
    .two.stacked {
      grid-template-rows: minmax(0, var(--first)) 7px minmax(0, var(--second));
      grid-template-columns: minmax(0, 1fr);
    }
    .two.stacked .pane {
      grid-column: 1;
    }
    .two.stacked .pane.right {
      grid-row: 3;
      grid-column: 1;
    }
    .stacked .line {
      grid-row: 2;
      grid-column: 1;
      cursor: row-resize;
    }
    .line:focus-visible {
      background: var(--violet);
      outline: none;
    }
    header {
      display: flex;
      align-items: center;
      gap: 8px;
      min-width: 0;
      padding: 0 4px 0 10px;
      border-bottom: 1px solid var(--stone-2);
      background: var(--paper);
      white-space: nowrap;
      overflow: hidden;
    }
    header .plain {
      flex: none;
      color: var(--violet);
      font-size: 13px;
    }
    strong {
      overflow: hidden;
      font-weight: 500;
      text-overflow: ellipsis;
    }
    .worked header strong {
      color: var(--violet);
    }
    .note {
      color: var(--ink-2);
      font-size: 12px;
    }
    .gap {
      flex: 1;
    }
    .note {
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    /* In small windows the buttons of the folded panels lie over the upper right. */
    @media (max-width: 900px), (max-height: 540px) {
      .two:not(.stacked) .pane.right header,
      .two.stacked .pane:not(.right) header {
        padding-right: 160px;
      }
      .note {
        display: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ViewsComponent {
  protected readonly flat = inject(FlatService);
  protected readonly STEP = STEP;
  private readonly room = viewChild.required<ElementRef<HTMLElement>>('room');
  private readonly space = signal({ width: 0, height: 0 });
  /** Whether the views lie one below the other. */
  protected readonly stacked = computed(() => this.space().width < STACKED * this.space().height);
  protected readonly percent = computed(() => Math.round(100 * this.flat.share()));
  protected readonly size = computed(() => {
    const artwork = this.flat.artwork();
    if (!artwork) return '';
    const { width, height } = sizeMm(artwork);
    return `${figure(width, 1)} × ${figure(height, 1)}\u2009mm`;
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const observer = new ResizeObserver(([entry]) => entry && this.space.set({ width: entry.contentRect.width, height: entry.contentRect.height }));
      observer.observe(this.room().nativeElement);
      destroy.onDestroy(() => observer.disconnect());
    });
  }

  protected hold(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    if (!(event.currentTarget as Element).hasPointerCapture(event.pointerId)) return;
    const box = this.room().nativeElement.getBoundingClientRect();
    this.flat.setShare(this.stacked() ? (event.clientY - box.top) / box.height : (event.clientX - box.left) / box.width);
  }
}
