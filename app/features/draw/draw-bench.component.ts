import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { ArrangePanelComponent } from './arrange-panel.component';

/** Settings for drawing: the paint of what comes next. */
@Component({
  selector: 'chemin-draw-bench',
  imports: [ArrangePanelComponent, ColourFieldComponent, FormsModule, MeasureFieldComponent, ToggleSwitchModule],
  templateUrl: './draw-bench.component.html',
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);

  protected setLine(on: boolean): void {
    this.view.patch({ paint: { ...this.view.paint(), line: on ? { colour: '#2a2333', width: 0.4 } : null } });
  }

  protected setLinePart(part: { readonly colour?: string; readonly width?: number }): void {
    const { line } = this.view.paint();
    if (line) this.view.patch({ paint: { ...this.view.paint(), line: { ...line, ...part } } });
  }

  protected setSides(sides: number): void {
    this.view.patch({ sides: Math.round(sides) });
  }

  protected setFill(fill: string): void {
    this.view.patch({ paint: { ...this.view.paint(), fill } });
  }
}
