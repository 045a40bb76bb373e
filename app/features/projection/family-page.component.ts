import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FAMILIES, familyOf, nameProjection, type FamilyKey } from '@core';
import { SmallPictureComponent } from '../../controls/small-picture.component';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { SteeringService } from '../../state/steering.service';
import { ParallelValuesComponent } from './parallel-values.component';
import { PerspectiveValuesComponent } from './perspective-values.component';
import { SetupsComponent } from './setups.component';
import { TrialBoxComponent } from './trial-box.component';

/** The families as living thumbnails, what the projection is called now and why, and its values. */
@Component({
  selector: 'chemin-family-page',
  imports: [SmallPictureComponent, ParallelValuesComponent, PerspectiveValuesComponent, SetupsComponent, TrialBoxComponent],
  template: `
    <section aria-label="Name of the projection" class="naming">
      <strong>{{ naming().changed ?? naming().name }}</strong>
      <p class="note">{{ naming().reason }}.</p>
      @if (steering.refusal()) {
        <p class="refusal" role="status">{{ steering.refusal() }}</p>
      }
    </section>
    <section aria-label="Families">
      <ul class="families" (mouseleave)="pointed.set(null)">
        @for (family of families(); track family.key) {
          <li>
            <button
              type="button"
              [attr.aria-pressed]="family.key === naming().key"
              [attr.aria-label]="family.name"
              [attr.aria-description]="family.purpose"
              (click)="steering.choose(family.key)"
              (mouseenter)="pointed.set(family.key)"
              (focus)="pointed.set(family.key)"
            >
              <chemin-small-picture kind="family" [document]="store.kept()" [projection]="family.setup" />
              <span class="name">{{ family.name }}</span>
            </button>
          </li>
        }
      </ul>
      <p class="note purpose">
        <strong>{{ purpose().name }}</strong> {{ purpose().purpose }}
      </p>
      <button type="button" class="plain wide" (click)="commands.run('view.compare')">Compare side by side</button>
    </section>
    <section aria-label="Values of the projection">
      @if (steering.perspective(); as setup) {
        <chemin-perspective-values [setup]="setup" />
      } @else {
        <chemin-parallel-values />
      }
    </section>
    <chemin-trial-box />
    <chemin-setups />
  `,
  styleUrls: ['../../styles/bench.css', './family-page.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FamilyPageComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly steering = inject(SteeringService);
  protected readonly commands = inject(CommandsService);
  protected readonly naming = computed(() => nameProjection(this.steering.setup()));
  /** The family under the pointer, or the one in use: what it is for stands below. */
  protected readonly pointed = signal<FamilyKey | null>(null);
  protected readonly purpose = computed(() => familyOf(this.pointed() ?? this.steering.setup().chosen));
  /** Each family with the set-up that choosing it would give. */
  protected readonly families = computed(() => {
    this.store.kept();
    return FAMILIES.map((family) => ({ ...family, setup: this.steering.framed(family.key) }));
  });
}
