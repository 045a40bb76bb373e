import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { SheetPoint } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { DocumentStore } from '../../state/document.store';
import { SteeringService } from '../../state/steering.service';
import { AidsStore, type SteeredName } from '../../state/aids.store';
import { ViewStore } from '../../state/view.store';

/** One handle of a perspective by name: its figures, and the lock that keeps it where it is. */
@Component({
  selector: 'chemin-locked-point',
  imports: [IconComponent],
  template: `
    <div class="point" role="group" [attr.aria-label]="what()">
      <div class="head">
        <strong>{{ name() }}</strong>
        @if (at(); as there) {
          <button type="button" class="plain" [attr.aria-label]="'Bring ' + what().toLowerCase() + ' into view'" (click)="bringIntoView(there)">
            Into view
          </button>
        }
        <button
          type="button"
          class="plain"
          [attr.aria-pressed]="locked()"
          [attr.aria-label]="(locked() ? 'Unlock ' : 'Lock ') + what().toLowerCase()"
          (click)="steering.toggleLock(key())"
        >
          <chemin-icon [name]="locked() ? 'locked' : 'unlocked'" />
        </button>
      </div>
      <ng-content />
    </div>
  `,
  styles: `
    .point {
      display: grid;
      gap: 2px;
      padding-top: 4px;
      border-top: 1px solid var(--stone-1);
    }
    .head {
      display: flex;
      align-items: center;
      gap: 4px;
    }
    .head strong {
      flex: 1;
      font-size: 13px;
      font-weight: 600;
    }
    .head .plain {
      min-height: 24px;
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LockedPointComponent {
  protected readonly steering = inject(SteeringService);
  private readonly view = inject(ViewStore);
  private readonly aids = inject(AidsStore);
  readonly name = input.required<string>();
  readonly key = input.required<SteeredName>();
  readonly what = input.required<string>();
  /** Where it is on the sheet, in mm; nothing where it is nowhere. */
  readonly at = input<SheetPoint | null>(null);
  private readonly store = inject(DocumentStore);
  protected bringIntoView(at: SheetPoint): void {
    const { width, height } = this.store.shown().sheet;
    this.view.bringIntoView(at, width, height);
  }

  protected readonly locked = computed(() => this.aids.locks().includes(this.key()));
}
