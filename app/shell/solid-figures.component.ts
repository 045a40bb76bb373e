import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { bodyOf, boundsAll, exactCells, figure, surfaceNamed, surfaceWord, type Axis, type ShapeNode } from '@core';
import { bodyVolume, measuresOf, MEASURES, SOLID_FORMS, surfaceArea, withMeasure, withSurfaceMoved, type MeasureName } from '@later';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { MessageStore } from '../platform/messages.store';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** What a solid measures: the measures of the form that it was drawn as, typed here; where it is; what it encloses; the face that was pressed. */
@Component({
  selector: 'chemin-solid-figures',
  imports: [MeasureFieldComponent],
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
    @if (face(); as face) {
      <p class="note">{{ face.words }}: {{ face.area }} square cells.</p>
      <chemin-measure in="cells" label="Move the face out by" [value]="0" (taken)="moveFace(face.name, $event)" />
    }
    <p class="note">{{ words() }}</p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    p {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SolidFiguresComponent {
  readonly shape = input.required<ShapeNode>();
  /** Whether its place along the axes is told and typed here. */
  readonly places = input(true);

  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
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
  protected readonly face = computed(() => {
    const name = this.view.face();
    const surface = name === null ? null : surfaceNamed(this.body(), name);
    return surface && { name: surface.name, words: surfaceWord(surface).replace(/^./, (letter) => letter.toUpperCase()), area: figure(surfaceArea(surface)) };
  });
  protected readonly words = computed(() => {
    const body = this.body();
    if (!body) return '';
    const box = this.bounds()!;
    const size = this.axes.map((axis) => figure(box.max[axis] - box.min[axis])).join(' × ');
    const volume = bodyVolume(body);
    const faces = body.surfaces.length === 1 ? 'one face' : `${body.surfaces.length} faces`;
    return `${size}\u2009cells along a, b and h; ${faces}; ${volume === null ? 'open' : `closed, ${figure(volume)} cubic cells`}.`;
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

  protected moveFace(name: string, by: number): void {
    const shape = this.shape();
    if (by === 0) return;
    const moved = withSurfaceMoved(shape, name, by);
    if (!moved.ok) this.messages.say('warn', `${shape.name}: ${moved.reason}`);
    else this.documents.commit({ kind: 'change', nodes: [moved.value] }, `move a face of ${shape.name}`);
  }
}
