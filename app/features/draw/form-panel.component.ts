import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { figure, formFault, outlineFigures, placedForm, type MeasuredForm, type PlacedForm, type ShapeNode } from '@core';
import { FoldComponent } from '../../controls/fold.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { DocumentStore } from '../../state/document.store';
import { reformed } from './reformed';

/** The measures of a star or a spiral that is selected, as long as its outline is one. */
@Component({
  selector: 'chemin-form-panel',
  imports: [FoldComponent, MeasureFieldComponent],
  template: `
    @if (placed(); as now) {
      <chemin-fold name="form" [title]="now.form.kind === 'star' ? 'Star' : 'Spiral'" [open]="true">
        @switch (now.form.kind) {
          @case ('star') {
            <chemin-measure
              in="number"
              label="Points"
              [least]="3"
              [most]="120"
              [value]="now.form.points"
              [refuses]="tried('points', true)"
              (taken)="set({ points: whole($event) })"
            />
            <chemin-measure
              in="cells"
              label="Outer radius"
              [least]="0.001"
              [value]="now.form.outer"
              [refuses]="tried('outer')"
              (taken)="set({ outer: $event })"
            />
            <chemin-measure
              in="cells"
              label="Inner radius"
              [least]="0.001"
              [value]="now.form.inner"
              [refuses]="tried('inner')"
              (taken)="set({ inner: $event })"
            />
            <chemin-measure
              in="number"
              label="Inner corners turned"
              unit="°"
              [least]="-180"
              [most]="180"
              [value]="now.form.turnedDeg"
              (taken)="set({ turnedDeg: $event })"
            />
            <chemin-measure in="cells" label="Points rounded" [least]="0" [value]="now.rounded.outer ?? 0" (taken)="round({ outer: $event })" />
            <chemin-measure in="cells" label="Inner corners rounded" [least]="0" [value]="now.rounded.inner ?? 0" (taken)="round({ inner: $event })" />
          }
          @case ('spiral') {
            <chemin-measure
              in="number"
              label="Turns"
              [least]="0.05"
              [most]="60"
              [value]="now.form.turns"
              [refuses]="tried('turns')"
              (taken)="set({ turns: $event })"
            />
            <chemin-measure
              in="cells"
              label="Outer radius"
              [least]="0.001"
              [value]="now.form.outer"
              [refuses]="tried('outer')"
              (taken)="set({ outer: $event })"
            />
            <chemin-measure in="cells" label="Inner radius" [least]="0" [value]="now.form.inner" [refuses]="tried('inner')" (taken)="set({ inner: $event })" />
            <chemin-measure in="cells" label="Band, 0 for a line" [least]="0" [value]="now.form.band" [refuses]="tried('band')" (taken)="setBand($event)" />
            <div class="chips" role="group" aria-label="Steps of the spiral">
              <button type="button" class="plain" [attr.aria-pressed]="now.form.steps === 'even'" (click)="set({ steps: 'even' })">Even steps</button>
              <button type="button" class="plain" [attr.aria-pressed]="now.form.steps === 'growing'" (click)="grow()">Growing</button>
            </div>
            <button type="button" class="plain bordered" (click)="turnOver()">Turn the other way</button>
          }
        }
        <p class="note">{{ figures() }}</p>
        <button type="button" class="plain bordered" (click)="free()">Move its points one by one</button>
      </chemin-fold>
    }
  `,
  styleUrl: '../../styles/bench.css',
  // Without a form it takes no room among the parts of the bench.
  styles: ':host:empty { display: none; }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormPanelComponent {
  private readonly arranging = inject(ArrangingService);
  private readonly documents = inject(DocumentStore);

  private readonly shape = computed((): ShapeNode | null => {
    const shapes = this.arranging.shapes();
    return shapes.length === 1 ? (this.arranging.shown()[0] ?? shapes[0]!) : null;
  });
  protected readonly placed = computed(() => {
    const shape = this.shape();
    return shape?.form ? placedForm(shape.outline, shape.form) : null;
  });
  protected readonly figures = computed(() => {
    const shape = this.shape();
    const { length, area } = outlineFigures(shape!.outline);
    const around = `${shape!.outline.closed ? 'around' : 'long'} ${figure(length)} cells`;
    return area === null ? around : `${around}, area ${figure(area)} square cells`;
  });

  protected whole(value: number): number {
    return Math.round(value);
  }

  /** Why a measure cannot be another together with the others. */
  protected tried(name: 'points' | 'outer' | 'inner' | 'turns' | 'band', isCount = false): (value: number) => string | null {
    return (value) => {
      const now = this.placed();
      return now && formFault({ ...now.form, [name]: isCount ? Math.round(value) : value } as MeasuredForm);
    };
  }

  protected set(part: Readonly<Record<string, number | string>>): void {
    this.change((now) => ({ ...now, form: { ...now.form, ...part } as MeasuredForm }));
  }

  protected round(part: Partial<PlacedForm['rounded']>): void {
    this.change((now) => ({ ...now, rounded: { outer: now.rounded.outer ?? 0, inner: now.rounded.inner ?? 0, ...part } }));
  }

  /** A line becomes an area and back; a line that had none is given one. */
  protected setBand(band: number): void {
    this.change((now) => ({ ...now, form: { ...now.form, band } as MeasuredForm }));
  }

  /** Growing steps begin above 0: where it began there, at a hundredth of the outer radius. */
  protected grow(): void {
    this.change(({ form, ...now }) => ({ ...now, form: { ...form, steps: 'growing', inner: form.inner || form.outer / 100 } as MeasuredForm }));
  }

  protected turnOver(): void {
    this.change((now) => ({ ...now, way: now.way === 1 ? -1 : 1 }));
  }

  protected free(): void {
    const shape = this.shape();
    if (!shape) return;
    const { form: _, ...rest } = shape;
    this.documents.commit({ kind: 'change', nodes: [rest] }, `free the points of ${shape.name}`);
  }

  private change(change: (now: PlacedForm) => PlacedForm): void {
    const [shape, now] = [this.shape(), this.placed()];
    const next = shape && now && reformed(shape, change(now));
    if (next && typeof next !== 'string') this.documents.commit({ kind: 'change', nodes: [next] }, `change form of ${next.name}`);
  }
}
