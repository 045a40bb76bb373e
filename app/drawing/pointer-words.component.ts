import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { SheetPoint } from '@core';
import { ViewStore } from '../state/view.store';
import type { Ghost } from '../tools/tool';

/** The words at the pointer: lengths, the axis, what is caught. They keep to the drawing area. */
@Component({
  selector: 'chemin-pointer-words',
  template: `
    @if (ghost().words.length > 0) {
      <div class="words" aria-live="off" [class.closes]="ghost().closes" [style.transform]="place()">
        @if (ghost().swatch; as colour) {
          <span class="swatch" [style.background]="colour"></span>
        }
        @for (word of ghost().words; track $index) {
          <span [class.first]="$first">{{ word }}</span>
        }
      </div>
    }
  `,
  styles: `
    .words {
      position: absolute;
      left: 0;
      top: 0;
      display: grid;
      padding: 4px 8px;
      border-radius: 2px;
      background: color-mix(in srgb, var(--paper) 94%, transparent);
      box-shadow: 0 1px 5px rgb(42 35 51 / 22%);
      font-size: 12.5px;
      line-height: 1.3;
      color: var(--ink-2);
    }
    .swatch {
      height: 18px;
      border: 1px solid var(--stone-3);
      border-radius: 2px;
      white-space: nowrap;
      pointer-events: none;
    }
    .first {
      color: var(--ink);
      font-weight: 500;
    }
    .closes {
      background: var(--violet);
    }
    .closes span {
      color: var(--on-violet);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PointerWordsComponent {
  private readonly view = inject(ViewStore);
  readonly ghost = input.required<Ghost>();
  readonly at = input.required<SheetPoint>();
  protected readonly place = computed(() => {
    const { x, y } = this.at();
    const left = x > this.view.width() - 190 ? x - 176 : x + 18;
    const top = y > this.view.height() - 80 ? y - 66 : y + 16;
    return `translate(${Math.round(left)}px, ${Math.round(top)}px)`;
  });
}
