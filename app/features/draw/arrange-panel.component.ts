import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { gapOf, outlineBox, planeName, sideNames, type AxisPlaneKind, type CellMove } from '@core';
import { FoldComponent } from '../../controls/fold.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { BenchSettings } from '../../state/bench-settings';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

const KINDS: readonly (AxisPlaneKind | 'sheet')[] = ['floor', 'left', 'right', 'sheet'];
const AXES = ['a', 'b', 'h'] as const;

/** What can be done to the selection as a whole: another plane, turning, mirroring, scaling, aligning, repeating. */
@Component({
  selector: 'chemin-arrange-panel',
  imports: [CheckboxModule, FoldComponent, FormsModule, MeasureFieldComponent],
  templateUrl: './arrange-panel.component.html',
  styleUrl: '../bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangePanelComponent {
  protected readonly arranging = inject(ArrangingService);
  protected readonly commands = inject(CommandsService);
  protected readonly view = inject(ViewStore);
  private readonly store = inject(DocumentStore);
  protected readonly axes = AXES;
  protected readonly cell = computed(() => this.store.shown().grid.cell);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  private readonly settings = inject(BenchSettings);
  protected readonly count = this.settings.count;
  protected readonly step = this.settings.step;
  protected readonly rows = this.settings.rows;
  protected readonly rowStep = this.settings.rowStep;
  protected readonly whole = this.settings.whole;
  protected readonly linked = this.settings.linked;
  protected readonly planes = computed(() => {
    const here = new Set(this.arranging.shapes().map((shape) => shape.plane.kind));
    return KINDS.map((kind) => ({ kind, name: planeName(kind, this.store.shown().projection), here: here.has(kind) }));
  });
  /** What the sides of the selection are called, by its plane's own axes. */
  protected readonly sides = computed(() => sideNames(this.arranging.plane()));
  protected readonly gaps = computed(() => {
    const boxes = this.arranging.shapes().flatMap((shape) => outlineBox(shape.outline) ?? []);
    return { u: gapOf(boxes, 'u') ?? 0, v: gapOf(boxes, 'v') ?? 0 };
  });

  protected setStep(axis: 'a' | 'b' | 'h', length: number): void {
    this.step.set({ ...this.step(), [axis]: length });
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
