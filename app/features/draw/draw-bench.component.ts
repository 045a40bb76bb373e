import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { projectionFacts, type ProjectionSetup } from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

/** Settings for drawing: the paint of what comes next, and the grid that it is drawn on. */
@Component({
  selector: 'chemin-draw-bench',
  imports: [ColourFieldComponent, FormsModule, MeasureFieldComponent, SelectModule, ToggleSwitchModule],
  templateUrl: './draw-bench.component.html',
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly facts = computed(() => projectionFacts(this.store.shown().projection));
  protected readonly measures: { label: string; value: ProjectionSetup['measure'] }[] = [
    { label: 'full length', value: 'drawing' },
    { label: 'true projection', value: 'true' },
  ];

  protected setLine(on: boolean): void {
    this.view.patch({ paint: { ...this.view.paint(), line: on ? { colour: '#2a2333', width: 0.4 } : null } });
  }

  protected setLinePart(part: { readonly colour?: string; readonly width?: number }): void {
    const { line } = this.view.paint();
    if (line) this.view.patch({ paint: { ...this.view.paint(), line: { ...line, ...part } } });
  }

  protected setFill(fill: string): void {
    this.view.patch({ paint: { ...this.view.paint(), fill } });
  }

  protected setCell(cell: number): void {
    this.store.commit({ kind: 'grid', grid: { ...this.store.kept().grid, cell } });
  }

  protected setBold(bold: number): void {
    this.store.commit({ kind: 'grid', grid: { ...this.store.kept().grid, bold: Math.round(bold) } });
  }

  protected setMeasure(measure: ProjectionSetup['measure']): void {
    const { projection } = this.store.kept();
    if (measure !== projection.measure) this.store.commit({ kind: 'projection', projection: { ...projection, measure } });
  }
}
