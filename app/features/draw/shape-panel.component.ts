import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { edgeLength, ringsOf, samePlane } from '@core';
import { FoldComponent } from '../../controls/fold.component';
import { TextFieldDirective } from '../../controls/text-field.directive';
import { MissingDirective } from '../../controls/missing.directive';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ArrangingService } from '../../state/arranging.service';
import { BenchSettings } from '../../state/bench-settings';
import { DocumentStore } from '../../state/document.store';
import { ShapingService } from '../../state/shaping.service';
import { ViewStore } from '../../state/view.store';

/** What can be done to boundaries: points, corners, edges by their length, ends, combining and dividing. */
@Component({
  selector: 'chemin-shape-panel',
  imports: [FoldComponent, MeasureFieldComponent, MissingDirective, TextFieldDirective],
  templateUrl: './shape-panel.component.html',
  styleUrl: '../../styles/bench.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShapePanelComponent {
  protected readonly shaping = inject(ShapingService);
  private readonly arranging = inject(ArrangingService);
  private readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);

  protected readonly settings = inject(BenchSettings);
  protected readonly moving = this.settings.moving;
  protected readonly fault = signal('');
  protected readonly divideFault = signal('');
  protected readonly cell = computed(() => this.store.shown().grid.cell);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  protected readonly open = computed(() => this.shaping.lines().length > 0);
  protected readonly combinable = computed(() => {
    const shapes = this.arranging.shapes().filter((shape) => shape.outline.closed && shape.depth === 0);
    return shapes.length > 1 && shapes.every((shape) => samePlane(shape.plane, shapes[0]!.plane));
  });
  protected readonly edgeLength = computed(() => {
    const edge = this.shaping.edge();
    return edge ? edgeLength(edge.from, edge.to) : 0;
  });
  /** What is missing for what is done to chosen points. */
  protected readonly pointMissing = computed(() => (this.shaping.pointCount() === 0 ? 'Choose a point of the shape first: press it.' : null));
  protected readonly words = computed(() => {
    const count = this.shaping.pointCount();
    if (count > 0) return `${count} ${count === 1 ? 'point' : 'points'} chosen. Shift adds more.`;
    return 'Press points to choose them; without, all corners change. Press the bar in an edge’s middle for its length.';
  });

  /** The size by which the chosen corners are rounded or bevelled; 0 where they differ. */
  protected corner(kind: 'round' | 'bevel'): number {
    const chosen = new Set(this.view.points());
    const points = this.arranging
      .shapes()
      .flatMap((shape) => ringsOf(shape.outline).flatMap((ring) => ring.points.filter((p) => chosen.size === 0 || chosen.has(`${shape.id} ${p.id}`))));
    const sizes = new Set(points.map((p) => (p.corner?.kind === kind ? p.corner.size : 0)));
    return sizes.size === 1 ? [...sizes][0]! : 0;
  }

  protected divideEdge(text: string): void {
    this.fault.set(this.shaping.divideEdge(text) ?? '');
  }

  protected divide(): void {
    const { columns, lines, gap, margin } = this.settings;
    this.divideFault.set(this.shaping.divideShape(columns(), lines(), gap(), margin()) ?? '');
  }
}
