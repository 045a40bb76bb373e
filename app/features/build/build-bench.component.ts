import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { exactCells, figure, findShape } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { canHaveDepth } from './depth.tool';

/** Depth of the selected shape, typed, and the faces that it makes. */
@Component({
  selector: 'chemin-build-bench',
  imports: [MeasureFieldComponent],
  template: `
    <section aria-label="Depth">
      <h3 class="panel-title">Depth</h3>
      @if (shape(); as shape) {
        <p class="note">{{ shape.name }}</p>
        <chemin-measure label="Depth" [cell]="store.shown().grid.cell" [value]="shape.depth" (taken)="setDepth(shape.id, $event)" />
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
  private readonly view = inject(ViewStore);
  protected readonly figure = figure;

  protected readonly shape = computed(() => {
    const shape = findShape(this.store.shown(), this.view.selection()[0] ?? '');
    return shape && canHaveDepth(shape) ? shape : null;
  });
  protected setDepth(id: string, depth: number): void {
    const name = findShape(this.store.kept(), id)?.name ?? '';
    this.store.commit({ kind: 'depth', id, depth: exactCells(depth) }, `set depth of ${name}`);
  }
}
