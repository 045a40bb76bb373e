import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import {
  canHaveDepth,
  exactCells,
  findNode,
  isPart,
  figure,
  sideNames,
  SOLID_KINDS,
  type Axis,
  type PlanePoint,
  type ShapeNode,
  type Side,
  type SolidKind,
} from '@core';
import { measuresOf, SOLID_FORMS } from '@later';
import { FoldComponent } from '../../controls/fold.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { RepeatComponent } from '../../controls/repeat.component';
import { DocumentStore } from '../../state/document.store';
import { ArrangingService } from '../../state/arranging.service';
import { BenchSettings } from '../../state/bench-settings';
import { SpaceService } from '../../state/space.service';
import { ShapingService } from '../../state/shaping.service';
import { ViewStore } from '../../state/view.store';
import { axisName } from '../../tools/catching';
import { BuildSettingsStore } from './build.settings';
import { KeptObjectsComponent } from './kept-objects.component';
import { LetteringPanelComponent } from './lettering-panel.component';
import { LetteringStore } from './lettering.store';

const NOTHING = { kind: 'copy', hidden: true };

/** What is set for the solid that is drawn next, and the depth of the selected shapes. */
@Component({
  selector: 'chemin-build-bench',
  imports: [CheckboxModule, FoldComponent, FormsModule, KeptObjectsComponent, LetteringPanelComponent, MeasureFieldComponent, RepeatComponent],
  templateUrl: './build-bench.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BuildBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly arranging = inject(ArrangingService);
  protected readonly settings = inject(BuildSettingsStore);
  protected readonly letters = inject(LetteringStore);
  protected readonly view = inject(ViewStore);
  protected readonly shaping = inject(ShapingService);
  protected readonly space = inject(SpaceService);
  protected readonly rows = inject(BenchSettings);
  protected readonly axes = ['a', 'b', 'h'] as const;
  protected readonly figure = figure;
  protected readonly round = Math.round;
  protected readonly stepsBy = [
    { key: 'count', title: 'Count' },
    { key: 'rise', title: 'Rise' },
    { key: 'run', title: 'Run' },
  ] as const;
  protected readonly ridges = [
    { at: 1, title: 'At the back' },
    { at: 0.5, title: 'In the middle' },
  ] as const;

  protected readonly openings = [
    { key: 'rectangle', title: 'Rectangle' },
    { key: 'ellipse', title: 'Ellipse' },
  ] as const;
  protected readonly exact = exactCells;

  /** Depth along another direction than the normal: how far its end is shifted. */
  protected lean({ lean }: ShapeNode, part: Partial<PlanePoint>): void {
    const next = { u: exactCells(part.u ?? lean?.u ?? 0), v: exactCells(part.v ?? lean?.v ?? 0) };
    this.arranging.setWays({ lean: next.u === 0 && next.v === 0 ? null : next }, 'lean');
  }

  /** Copies of the selection in a row along an axis; against it where they are less than 0 apart. */
  protected row(axis: Axis): void {
    this.arranging.repeat({ count: this.rows.count(), step: { a: 0, b: 0, h: 0, [axis]: exactCells(this.rows.apart()) } });
  }

  /** The sides along an axis as they are called on the wall that it runs along. */
  protected sidesOf(axis: Axis): readonly { readonly key: Side; readonly title: string }[] {
    const { lowU, highU, lowV, highV } = sideNames({ kind: axis === 'b' ? 'left' : 'right', offset: 0 });
    const [low, high] = axis === 'h' ? [lowV, highV] : [lowU, highU];
    return [
      { key: 'low', title: low },
      { key: 'middle', title: 'Middle' },
      { key: 'high', title: high },
    ];
  }

  /** How many solids are chosen. */
  protected readonly solids = computed(() => this.view.selection().filter((id) => isPart(findNode(this.store.kept(), id) ?? NOTHING)).length);

  /** The solid that the tool in use draws. */
  protected readonly kind = computed(() => SOLID_KINDS.find((kind) => kind === this.view.tool()) ?? null);

  protected titleOf(kind: SolidKind): string {
    return SOLID_FORMS[kind].title;
  }

  /** Whether it looks another way after a quarter turn. */
  protected turns(kind: SolidKind): boolean {
    return SOLID_FORMS[kind].lies !== 'flat';
  }

  /** Which way it faces on the chosen plane, in words. */
  protected readonly direction = computed(() => {
    const { turn } = this.settings.current();
    const word = this.kind() === 'arch' ? 'Leads' : 'Rises';
    const along = axisName(this.view.plane(), turn % 2 === 0 ? 'v' : 'u');
    return this.kind() === 'arch' ? `${word} ${along}` : `${word} ${turn === 1 || turn === 2 ? along.replace('along', 'against') : along}`;
  });

  protected how(kind: SolidKind): string {
    if (kind === 'ball') return 'Drag its base on a plane or a face, or press two corners.';
    return 'Drag its base, or press two corners; then press at its height. Any measure can be typed on the way: Tab goes to the next.';
  }

  protected readonly shape = computed(() => this.arranging.shown().find(canHaveDepth) ?? null);
  protected readonly isMeasured = computed(() => {
    const shapes = this.arranging.shown();
    return shapes.length === 1 && measuresOf(shapes[0]!) !== null;
  });
  protected readonly words = computed(() => {
    const shapes = this.arranging.shown();
    const able = shapes.filter(canHaveDepth).length;
    if (shapes.length === 1) return shapes[0]!.name;
    return able === shapes.length ? `All ${able} selected shapes` : `${able} of ${shapes.length} selected shapes; the others cannot have depth`;
  });
}
