import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { canHaveDepth, figure } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { ArrangingService } from '../../state/arranging.service';

/** Depth of the selected shape, typed, and the faces that it makes. */
@Component({
  selector: 'chemin-build-bench',
  imports: [MeasureFieldComponent],
  template: `
    <section aria-label="Depth">
      <h3 class="panel-title">Depth</h3>
      @if (shape(); as shape) {
        <p class="note">{{ words() }}</p>
        <chemin-measure in="cells" label="Depth" [value]="shape.depth" (taken)="arranging.setDepth($event)" />
        <p class="note">
          Towards you from its plane; a minus sign goes the other way. Sums are allowed, and {{ figure(store.shown().grid.cell) }} mm is a cell.
        </p>
      } @else {
        <p class="note">Select a closed shape on the floor or a wall, then type its depth here. Or take the Depth tool and drag any shape along its normal.</p>
      }
    </section>
  `,
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BuildBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly arranging = inject(ArrangingService);
  protected readonly figure = figure;

  protected readonly shape = computed(() => this.arranging.shown().find(canHaveDepth) ?? null);
  protected readonly words = computed(() => {
    const shapes = this.arranging.shown();
    const able = shapes.filter(canHaveDepth).length;
    if (shapes.length === 1) return shapes[0]!.name;
    return able === shapes.length ? `All ${able} selected shapes` : `${able} of ${shapes.length} selected shapes; the others cannot have depth`;
  });
}
