import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { bodyOf, boundsAll, exactCells, type Axis, type ShapeNode } from '@core';
import { measuresOf, MEASURES, SOLID_FORMS, withMeasure, type MeasureName } from '@later';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { MessageStore } from '../platform/messages.store';
import { DocumentStore } from '../state/document.store';
import { BodyFiguresComponent } from './body-figures.component';

/** What a solid measures: the measures of the form that it was drawn as, typed here; where it is; and the figures of its body. */
@Component({
  selector: 'chemin-solid-figures',
  imports: [BodyFiguresComponent, MeasureFieldComponent],
  template: `
    @if (measures(); as measured) {
      @for (measure of measured; track measure.name) {
        <chemin-measure
          [in]="measure.kind === 'length' ? 'cells' : 'number'"
          [unit]="''"
          [label]="measure.label"
          [least]="0"
          [value]="measure.value"
          (taken)="setMeasure(measure.name, $event)"
        />
      }
    }
    @if (places() && bounds(); as box) {
      @for (axis of axes; track axis) {
        <chemin-measure in="cells" [label]="'Position along ' + axis" [value]="box.min[axis]" (taken)="moveTo(axis, $event)" />
      }
    }
    <chemin-body-figures [nodes]="[shape()]" />
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SolidFiguresComponent {
  readonly shape = input.required<ShapeNode>();
  /** Whether its place along the axes is told and typed here. */
  readonly places = input(true);

  private readonly documents = inject(DocumentStore);
  private readonly messages = inject(MessageStore);
  protected readonly axes = ['a', 'b', 'h'] as const;

  private readonly body = computed(() => bodyOf(this.shape()));
  protected readonly bounds = computed(() => {
    const body = this.body();
    return body && boundsAll([body]);
  });
  protected readonly measures = computed(() => {
    const measured = measuresOf(this.shape());
    return (
      measured &&
      SOLID_FORMS[measured.kind].measures.flatMap((name) => {
        const value = measured.measures[name];
        return value === undefined ? [] : [{ name, value, ...MEASURES[name] }];
      })
    );
  });
  protected setMeasure(name: MeasureName, value: number): void {
    const shape = this.shape();
    const { solid } = shape;
    if (!solid) return;
    const changed = withMeasure({ ...shape, solid }, name, value);
    if (!changed.ok) this.messages.say('warn', `${shape.name}: ${changed.reason}`);
    else this.documents.commit({ kind: 'change', nodes: [{ ...shape, ...changed.value }] }, `set ${MEASURES[name].label.toLowerCase()} of ${shape.name}`);
  }

  protected moveTo(axis: Axis, to: number): void {
    const shape = this.shape();
    const by = exactCells(to - this.bounds()!.min[axis]);
    if (by !== 0) this.documents.commit({ kind: 'move', ids: [shape.id], by: { a: 0, b: 0, h: 0, [axis]: by } }, `move ${shape.name}`);
  }
}
