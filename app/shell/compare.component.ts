import type { ElementRef } from '@angular/core';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { FAMILIES, nameProjection, type FamilyKey, type ProjectionSetup } from '@core';
import { returnFocusAtEnd } from '../controls/return-focus';
import { SmallPictureComponent } from '../controls/small-picture.component';
import { DocumentStore } from '../state/document.store';
import { SteeringService } from '../state/steering.service';
import { AidsStore } from '../state/aids.store';
import { ViewStore } from '../state/view.store';

/** Up to four projections of the drawing side by side; each can be adopted, and no size changes. */
@Component({
  selector: 'chemin-compare',
  imports: [SmallPictureComponent, FormsModule, SelectModule],
  template: `
    <section aria-label="Compare projections">
      <header>
        <h2>Compare</h2>
        <p class="note">The same drawing in several projections. Adopting one changes no size.</p>
        <button #closer type="button" class="plain" (click)="close()">Close</button>
      </header>
      <div class="panes">
        @for (pane of panes(); track $index; let i = $index) {
          <div class="pane" role="group" [attr.aria-label]="pane.name">
            <chemin-small-picture
              class="fills"
              kind="sheet with grid"
              [width]="size().width"
              [height]="size().height"
              [document]="store.whole()"
              [projection]="pane.setup"
            />
            <div class="bar">
              @if (i === 0) {
                <strong>now: {{ pane.name }}</strong>
              } @else {
                <p-select
                  [options]="families"
                  optionLabel="name"
                  optionValue="key"
                  [ariaLabel]="'Projection of view ' + (i + 1)"
                  appendTo="body"
                  [ngModel]="chosen()[i - 1]"
                  (ngModelChange)="choose(i - 1, $event)"
                />
                <button type="button" class="plain adopt" (click)="adopt(pane.setup)">Adopt</button>
              }
            </div>
          </div>
        }
      </div>
    </section>
  `,
  styleUrl: './compare.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CompareComponent {
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly aids = inject(AidsStore);
  private readonly steering = inject(SteeringService);
  private readonly closer = viewChild.required<ElementRef<HTMLButtonElement>>('closer');
  /** Size of each picture in px, two to a px of CSS; about half of the drawing area each way. */
  protected readonly size = computed(() => ({
    width: Math.max(64, Math.round(this.view.width())),
    height: Math.max(64, Math.round(this.view.height() - 120)),
  }));
  protected readonly families = [...FAMILIES];
  protected readonly chosen = signal<readonly FamilyKey[]>(this.others());
  protected readonly panes = computed(() => {
    const now = this.store.whole().projection;
    const setups = [now, ...this.chosen().map((key) => this.steering.framed(key))];
    return setups.map((setup) => ({ setup, name: nameProjection(setup).name }));
  });

  constructor() {
    returnFocusAtEnd();
    afterNextRender(() => this.closer().nativeElement.focus());
  }

  private others(): readonly FamilyKey[] {
    const { key } = nameProjection(this.store.whole().projection);
    return (['isometric', 'planometric', 'two-point', 'three-point', 'dimetric'] as const).filter((family) => family !== key).slice(0, 3);
  }

  protected choose(view: number, key: FamilyKey): void {
    this.chosen.set(this.chosen().map((other, i) => (i === view ? key : other)));
  }

  protected adopt(setup: ProjectionSetup): void {
    this.steering.set(setup, `adopt ${nameProjection(setup).name}`);
    this.close();
  }

  protected close(): void {
    this.aids.patch({ comparing: false });
  }
}
