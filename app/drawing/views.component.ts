import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, viewChild } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { figure, sizeMm } from '@core';
import { FlatService } from '../state/flat.service';
import { BesideComponent } from './beside.component';
import { DrawingComponent } from './drawing.component';

/** Steps by which the keyboard moves the line between two views. */
const STEP = 0.05;

/**
 * The drawing, and beside it the flat sheet of an artwork where one is open. The one that is worked on is the drawing
 * area; the other follows it. The line between them is made by hand: the library's splitter keeps its panels in the order
 * in which they stand in the page, and here they change places.
 */
@Component({
  selector: 'chemin-views',
  imports: [BesideComponent, ButtonModule, DrawingComponent],
  template: `
    <div #room class="views" [class.two]="flat.artwork()" [style.--share]="flat.share()">
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
              <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="flat.work('drawing')">See it there</button>
            } @else {
              <strong>The drawing</strong>
              <span class="gap"></span>
              <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="flat.work('flat')">Edit flat</button>
            }
            <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="flat.close()">Close the flat sheet</button>
          </header>
        }
        <chemin-drawing />
      </section>
      @if (flat.artwork(); as artwork) {
        <div
          class="line"
          role="separator"
          tabindex="0"
          aria-orientation="vertical"
          aria-label="Room of the drawing beside the flat sheet"
          [attr.aria-valuenow]="percent()"
          aria-valuemin="20"
          aria-valuemax="80"
          (pointerdown)="hold($event)"
          (pointermove)="drag($event)"
          (keydown.arrowleft)="flat.setShare(flat.share() - STEP)"
          (keydown.arrowright)="flat.setShare(flat.share() + STEP)"
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
      grid-template-columns: minmax(0, calc(var(--share) * 1fr)) 7px minmax(0, calc((1 - var(--share)) * 1fr));
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
      border-inline: 1px solid var(--stone-3);
      background: var(--stone-1);
      cursor: col-resize;
      touch-action: none;
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ViewsComponent {
  protected readonly flat = inject(FlatService);
  protected readonly STEP = STEP;
  private readonly room = viewChild.required<ElementRef<HTMLElement>>('room');
  protected readonly percent = computed(() => Math.round(100 * this.flat.share()));
  protected readonly size = computed(() => {
    const artwork = this.flat.artwork();
    if (!artwork) return '';
    const { width, height } = sizeMm(artwork);
    return `${figure(width, 1)} × ${figure(height, 1)}\u2009mm`;
  });

  protected hold(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    if (!(event.currentTarget as Element).hasPointerCapture(event.pointerId)) return;
    const box = this.room().nativeElement.getBoundingClientRect();
    this.flat.setShare((event.clientX - box.left) / box.width);
  }
}
