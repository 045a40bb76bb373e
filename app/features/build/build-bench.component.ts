import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { exactCells, figure, findShape, worldFaces, faceWord } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
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
        <p class="note">Towards you from its plane; a minus sign goes the other way. Sums are allowed, and {{ figure(store.shown().grid.cell) }} mm is a cell.</p>
        @if (faces().length > 0) {
          <h3 class="panel-title">Faces</h3>
          <p class="note">{{ faces() }}</p>
        }
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
  private readonly pictures = inject(PictureService);
  protected readonly figure = figure;

  protected readonly shape = computed(() => {
    const shape = findShape(this.store.shown(), this.view.selection()[0] ?? '');
    return shape && canHaveDepth(shape) ? shape : null;
  });
  protected readonly faces = computed(() => {
    const shape = this.shape();
    if (!shape || shape.depth === 0) return '';
    const counts = new Map<string, number>();
    for (const face of worldFaces(this.pictures.geometry(), shape)) {
      const word = faceWord(face.normal);
      counts.set(word, (counts.get(word) ?? 0) + 1);
    }
    return [...counts].map(([word, n]) => (n > 1 ? `${n} × ${word}` : word)).join(', ');
  });

  protected setDepth(id: string, depth: number): void {
    const name = findShape(this.store.kept(), id)?.name ?? '';
    this.store.commit({ kind: 'depth', id, depth: exactCells(depth) }, `set depth of ${name}`);
  }
}
