import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import type { CellMove } from '@core';
import { ArrangingService } from '../state/arranging.service';
import { BenchSettings } from '../state/bench-settings';
import { CommandsService } from '../state/commands.service';
import { MeasureFieldComponent } from './measure-field.component';

const AXES = ['a', 'b', 'h'] as const;
/** Cells from one copy to the next before a step is set. */
const USUAL_STEP = 2;

/** Copies of the selection in rows along the axes: how many, and how far apart. */
@Component({
  selector: 'chemin-repeat',
  imports: [CheckboxModule, FormsModule, MeasureFieldComponent],
  templateUrl: './repeat.component.html',
  styleUrl: '../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RepeatComponent {
  protected readonly arranging = inject(ArrangingService);
  protected readonly commands = inject(CommandsService);
  private readonly settings = inject(BenchSettings);
  protected readonly axes = AXES;
  protected readonly count = this.settings.count;
  protected readonly step = computed((): CellMove => {
    const [shape] = this.arranging.shapes();
    // On the left wall a row runs along b; everywhere else along a.
    return this.settings.step() ?? (shape?.plane.kind === 'left' ? { a: 0, b: USUAL_STEP, h: 0 } : { a: USUAL_STEP, b: 0, h: 0 });
  });
  protected readonly rows = this.settings.rows;
  protected readonly rowStep = this.settings.rowStep;
  protected readonly whole = this.settings.whole;
  protected readonly linked = this.settings.linked;

  protected setStep(axis: 'a' | 'b' | 'h', length: number): void {
    this.settings.step.set({ ...this.step(), [axis]: length });
  }

  protected setRowStep(axis: 'a' | 'b' | 'h', length: number): void {
    this.rowStep.set({ ...this.rowStep(), [axis]: length });
  }

  protected repeat(): void {
    const share = (step: CellMove, count: number): CellMove => {
      const k = this.whole() && count > 0 ? 1 / count : 1;
      return { a: step.a * k, b: step.b * k, h: step.h * k };
    };
    const [count, rows] = [Math.round(this.count()), Math.round(this.rows())];
    this.arranging.repeat({ count, step: share(this.step(), count) }, { count: rows, step: share(this.rowStep(), rows) }, this.linked());
  }
}
