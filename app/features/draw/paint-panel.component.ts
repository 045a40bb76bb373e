import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SelectModule } from 'primeng/select';
import { FormsModule } from '@angular/forms';
import { ToggleSwitchModule } from 'primeng/toggleswitch';
import {
  BLENDS,
  blendColours,
  cssFromPalette,
  followSwatch,
  isUnseen,
  tokensFromPalette,
  type Gradient,
  type LinePaint,
  type Paint,
  type PaintStop,
  type Unit,
  UNITS,
} from '@core';
import { IconComponent } from '../../controls/icon.component';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { FoldComponent } from '../../controls/fold.component';
import { MissingDirective } from '../../controls/missing.directive';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { PaintColourComponent } from '../../controls/paint-colour.component';
import { chooseFile, textOfFile, downloadText, fileName } from '../../platform/files';
import { DocumentStore } from '../../state/document.store';
import { PaintingService } from '../../state/painting.service';
import { ViewStore } from '../../state/view.store';
import { TextFieldDirective } from '../../controls/text-field.directive';

/** A part of a line's paint; what is undefined goes back to the usual. */
type LinePart = { readonly [K in keyof LinePaint]?: LinePaint[K] | undefined };

/** Fill, line, strength, blend and the palette, for the selection or for what is drawn next. */
@Component({
  selector: 'chemin-paint-panel',
  imports: [
    ColourFieldComponent,
    FoldComponent,
    FormsModule,
    IconComponent,
    MeasureFieldComponent,
    MissingDirective,
    PaintColourComponent,
    SelectModule,
    TextFieldDirective,
    ToggleSwitchModule,
  ],
  templateUrl: './paint-panel.component.html',
  styleUrls: ['../../styles/bench.css', './paint-panel.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PaintPanelComponent {
  protected readonly view = inject(ViewStore);
  protected readonly painting = inject(PaintingService);
  private readonly store = inject(DocumentStore);

  protected readonly blends = [...BLENDS];
  protected readonly units = [...UNITS];
  protected readonly fills = [
    { key: 'none', title: 'No fill' },
    { key: 'colour', title: 'Colour' },
    { key: 'linear', title: 'Linear' },
    { key: 'radial', title: 'Radial' },
    { key: 'conic', title: 'Around a point' },
  ] as const;
  protected readonly caps = [
    { key: undefined, title: 'Round ends' },
    { key: 'butt', title: 'Flat ends' },
    { key: 'square', title: 'Square ends' },
  ] as const;
  protected readonly joins = [
    { key: undefined, title: 'Round corners' },
    { key: 'miter', title: 'Mitred' },
    { key: 'bevel', title: 'Bevelled' },
  ] as const;
  protected readonly dashes: readonly { readonly title: string; readonly pattern: readonly number[] | undefined }[] = [
    { title: 'Unbroken', pattern: undefined },
    { title: 'Dashed', pattern: [5, 3] },
    { title: 'Dotted', pattern: [0, 2.5] },
    { title: 'Dash and dot', pattern: [6, 3, 0, 3] },
  ];

  protected readonly line = computed(() => this.painting.paint().line);
  protected readonly gradient = computed((): Gradient | null => {
    const { fill } = this.painting.paint();
    return fill !== null && typeof fill !== 'string' ? fill : null;
  });
  protected readonly handleWords = computed(() => {
    const kind = this.gradient()?.kind;
    if (kind === 'conic') return 'Drag “centre” and “start” on the shape: they lie in its plane.';
    return kind === 'radial' ? 'Drag “centre” and “rim” on the shape: they lie in its plane.' : 'Drag “from” and “to” on the shape: they lie in its plane.';
  });
  protected readonly fillKind = computed(() => this.gradient()?.kind ?? (this.painting.paint().fill === null ? 'none' : 'colour'));
  protected readonly strength = computed(() => (this.painting.paint().strength ?? 1) * 100);
  protected readonly unit = computed((): Unit => this.line()?.unit ?? 'mm');
  protected readonly unseen = computed(() => isUnseen(this.painting.paint(), this.store.shown().sheet.background, this.painting.swatches()));
  protected readonly slotWord = computed(() => {
    const slot = this.view.colourSlot();
    return slot.kind === 'stop' ? `colour of stop ${slot.index + 1}` : slot.kind === 'line' ? 'line colour' : 'fill';
  });
  protected readonly canKeep = computed(() => this.painting.colourOf(this.view.colourSlot())?.startsWith('#') === true);

  protected readonly noSwatches = computed(() => (this.painting.swatches().length === 0 ? 'The palette is empty: keep a colour as a swatch first.' : null));

  protected setStop(index: number, part: Partial<PaintStop>): void {
    this.stops((stops) => stops.map((stop, i) => (i === index ? { ...stop, ...part } : stop)));
  }

  /** One more stop between the last two, in the colour that is there. */
  protected addStop(): void {
    this.stops((stops) => {
      const [before, last] = [stops.at(-2)!, stops.at(-1)!];
      const colour = blendColours(this.painting.plain(before.colour), this.painting.plain(last.colour), 0.5);
      return [...stops.slice(0, -1), { at: (before.at + last.at) / 2, colour, strength: (before.strength + last.strength) / 2 }, last];
    });
  }

  protected dropStop(): void {
    this.stops((stops) => [...stops.slice(0, -2), stops.at(-1)!]);
  }

  protected turnStops(): void {
    this.stops((stops) => stops.map((stop) => ({ ...stop, at: 1 - stop.at })).reverse());
  }

  private stops(change: (stops: readonly PaintStop[]) => readonly PaintStop[]): void {
    this.painting.change((paint) => {
      const { fill } = paint;
      return fill === null || typeof fill === 'string' ? paint : { ...paint, fill: { ...fill, stops: change(fill.stops) } };
    }, 'change gradient of');
  }

  protected setLine(on: boolean): void {
    this.painting.change((paint) => ({ ...paint, line: on ? (paint.line ?? { colour: '#2a2333', width: 0.4 }) : null }));
  }

  protected setLinePart(part: LinePart): void {
    this.painting.change((paint) => ({ ...paint, line: paint.line && withPart(paint.line, part) }), 'line of');
  }

  /** The unit that was typed with a width: it is kept with it. */
  protected typed: Unit | null = null;

  protected setWidth(width: number): void {
    const { typed } = this;
    this.typed = null;
    this.setLinePart({ width, ...(typed && { unit: typed === 'mm' ? undefined : typed }) });
  }

  protected setUnit(unit: Unit): void {
    this.setLinePart({ unit: unit === 'mm' ? undefined : unit });
  }

  protected setStrength(percent: number): void {
    this.painting.change((paint): Paint => {
      const { strength, ...rest } = paint;
      return percent >= 100 ? rest : { ...rest, strength: percent / 100 };
    }, 'strength of');
  }

  protected setBlend(mode: (typeof BLENDS)[number]): void {
    this.painting.change((paint): Paint => {
      const { blend, ...rest } = paint;
      return mode === 'normal' ? rest : { ...rest, blend: mode };
    }, 'blend of');
  }

  protected sameDashes(p: readonly number[] | undefined, q: readonly number[] | undefined): boolean {
    return (p ?? []).join() === (q ?? []).join();
  }

  protected follow(id: string): void {
    this.painting.setColour(this.view.colourSlot(), followSwatch(id));
  }

  protected rename(id: string, text: string): void {
    const name = text.trim().slice(0, 200);
    if (name) this.painting.changeSwatch(id, { name });
  }

  protected async importFile(): Promise<void> {
    const file = await chooseFile('.css,.json,text/css,application/json');
    if (file) this.painting.importPalette(await textOfFile(file), file.name);
  }

  protected exportCss(): void {
    downloadText(fileName(`${this.store.kept().name} palette`, 'css'), cssFromPalette(this.painting.swatches()), 'text/css');
  }

  protected exportTokens(): void {
    downloadText(fileName(`${this.store.kept().name} palette`, 'json'), tokensFromPalette(this.painting.swatches()), 'application/json');
  }
}

/** A line's paint with a part changed, undefined parts left out. */
function withPart(line: LinePaint, part: LinePart): LinePaint {
  return Object.fromEntries(Object.entries({ ...line, ...part }).filter(([, value]) => value !== undefined)) as unknown as LinePaint;
}
