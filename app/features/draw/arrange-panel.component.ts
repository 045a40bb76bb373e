import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { gapOf, outlineBox, planeName, sideNames, type AxisPlaneKind } from '@core';
import { FoldComponent } from '../../controls/fold.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { RepeatComponent } from '../../controls/repeat.component';
import { ArrangingService } from '../../state/arranging.service';
import { CommandsService } from '../../state/commands.service';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';

const KINDS: readonly (AxisPlaneKind | 'sheet')[] = ['floor', 'left', 'right', 'sheet'];

/** What can be done to the selection as a whole: another plane, turning, mirroring, scaling, aligning, repeating. */
@Component({
  selector: 'chemin-arrange-panel',
  imports: [FoldComponent, MeasureFieldComponent, RepeatComponent],
  templateUrl: './arrange-panel.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangePanelComponent {
  protected readonly arranging = inject(ArrangingService);
  protected readonly commands = inject(CommandsService);
  protected readonly view = inject(ViewStore);
  private readonly store = inject(DocumentStore);
  protected readonly cell = computed(() => this.store.shown().grid.cell);
  protected readonly sheet = computed(() => this.store.shown().sheet);
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
}
