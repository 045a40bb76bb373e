import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { IconComponent } from '../../controls/icon.component';
import { SteeringService } from '../../state/steering.service';
import { ViewStore, type SteeredName } from '../../state/view.store';

/** One handle of a perspective by name: its figures, and the lock that keeps it where it is. */
@Component({
  selector: 'chemin-locked-point',
  imports: [IconComponent],
  template: `
    <div class="point" role="group" [attr.aria-label]="what()">
      <div class="head">
        <strong>{{ name() }}</strong>
        <ng-content select="[heading]" />
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
    .head .plain,
    .head ::ng-deep .plain {
      min-height: 24px;
      font-size: 12.5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LockedPointComponent {
  protected readonly steering = inject(SteeringService);
  private readonly view = inject(ViewStore);
  readonly name = input.required<string>();
  readonly key = input.required<SteeredName>();
  readonly what = input.required<string>();
  protected readonly locked = computed(() => this.view.locks().includes(this.key()));
}
