import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import { plainColour, type DrawnLines, type LinePaint, type Unit } from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { LightService } from './light.service';

const INK = '#22303c';

/** Lines that draw themselves: contours, inner edges and hidden ones. */
@Component({
  selector: 'chemin-lines-panel',
  imports: [CheckboxModule, ColourFieldComponent, FormsModule, MeasureFieldComponent, ToggleSwitchModule],
  templateUrl: './lines-panel.component.html',
  styleUrl: '../../styles/bench.css',
  styles: `
    :host {
      gap: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LinesPanelComponent {
  private readonly documents = inject(DocumentStore);
  protected readonly lights = inject(LightService);
  protected readonly lines = computed((): DrawnLines => this.lights.light().lines ?? {});
  protected readonly usualContour: NonNullable<DrawnLines['contour']> = { of: 'thing', line: { colour: INK, width: 0.6 } };
  protected readonly usualInner: NonNullable<DrawnLines['inner']> = { smooth: false, line: { colour: INK, width: 0.25 } };
  protected readonly usualHidden: NonNullable<DrawnLines['hidden']> = { line: { colour: INK, width: 0.18, dashes: [5, 5] } };
  protected readonly usualHighlight: NonNullable<DrawnLines['highlight']> = { line: { colour: '#ffffff', width: 0.25 }, soft: 0.5, strength: 0.7 };
  protected readonly rounds = [
    { key: 'thing', title: 'Each thing' },
    { key: 'group', title: 'Each group' },
    { key: 'all', title: 'Everything' },
  ] as const;
  protected readonly joins = [
    { key: 'round', title: 'Round' },
    { key: 'miter', title: 'Pointed' },
    { key: 'bevel', title: 'Cut' },
  ] as const;
  protected readonly usualOwn: LinePaint = { colour: INK, width: 1 };
  /** The contour that what is selected has of its own. */
  protected readonly own = computed(() => this.lights.own().contour);
  protected readonly lined = computed(() => this.lights.chosen().every((node) => node.lined !== false));

  protected plain({ colour }: LinePaint): string {
    return plainColour(colour, this.documents.shown().swatches);
  }

  /** The unit that was typed with a width: it is kept with it. */
  protected typed: Unit | null = null;

  protected withWidth(line: LinePaint, width: number): LinePaint {
    const { typed } = this;
    this.typed = null;
    return { ...line, width, ...(typed && { unit: typed }) };
  }

  protected withColour(line: LinePaint, colour: string): LinePaint {
    return { ...line, colour };
  }

  protected withJoin({ join: _, ...line }: LinePaint, join: 'round' | 'miter' | 'bevel'): LinePaint {
    return join === 'round' ? line : { ...line, join };
  }

  protected setContour(contour: DrawnLines['contour'] | null, keep = true): void {
    this.set('contour', contour, keep, contour ? 'draw contours' : 'draw no contours');
  }

  protected setInner(inner: DrawnLines['inner'] | null, keep = true): void {
    this.set('inner', inner, keep, inner ? 'draw inner edges' : 'draw no inner edges');
  }

  protected setHighlight(highlight: DrawnLines['highlight'] | null): void {
    this.set('highlight', highlight, true, highlight ? 'highlight lit edges' : 'highlight no edges');
  }

  protected setHidden(hidden: DrawnLines['hidden'] | null, keep = true): void {
    this.set('hidden', hidden, keep, hidden ? 'draw hidden edges' : 'draw no hidden edges');
  }

  private set<K extends keyof DrawnLines>(name: K, value: DrawnLines[K] | null, keep: boolean, label: string): void {
    const { light } = this.documents.kept();
    const { [name]: _, ...others } = light.lines ?? {};
    this.lights.set({ ...light, lines: { ...others, ...(value && { [name]: value }) } }, keep, label);
  }
}
