import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { exactCells, isOwnFont, readColour, shapesIn, SHIPPED_FONTS, type FontLettering, type Lettering, type ShapeNode, type Unit } from '@core';
import { FONT_ENDINGS, letteringFault, turnedLine } from '@later';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { chooseFile } from '../../platform/files';
import { MessageStore } from '../../platform/messages.store';
import { TextService } from '../../platform/text.service';
import { BuildSettingsStore } from './build.settings';
import { letterColours, withLetterColour, type LetterPart } from './letter-colours';
import { LetteringStore, onNoLine } from './lettering.store';

/** Ms without a key after which what is typed is drawn. */
const PAUSE_MS = 90;

/** What is written to try a font. */
const SAMPLE = 'Aa1';
/** The measures that letters are drawn by. */
const MEASURES = ['cap', 'word', 'stem', 'width', 'height', 'letter', 'line', 'bend'] as const;

/** Radius in cells of a round baseline at first. */
const ROUND = 8;

/** Text as it is typed, and what its letters are drawn by. */
@Component({
  selector: 'chemin-lettering-panel',
  imports: [ColourFieldComponent, FormsModule, MeasureFieldComponent, SelectModule],
  templateUrl: './lettering-panel.component.html',
  styleUrl: '../../styles/bench.css',
  styles: `
    textarea {
      width: 100%;
      box-sizing: border-box;
      padding: 4px 6px;
      border: 1px solid var(--stone-3);
      border-radius: 3px;
      background: var(--field);
      color: var(--ink);
      font: inherit;
      resize: vertical;
    }
    .font {
      width: 176px;
    }
    .warn {
      color: var(--warn);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetteringPanelComponent {
  protected readonly store = inject(LetteringStore);
  private readonly documents = inject(DocumentStore);
  private readonly settings = inject(BuildSettingsStore);
  private readonly view = inject(ViewStore);
  private readonly texts = inject(TextService);
  private readonly messages = inject(MessageStore);
  private readonly field = viewChild.required<ElementRef<HTMLTextAreaElement>>('text');

  protected readonly read = readColour;
  /** The fonts that ship, those brought in, and the one that the text is written in. */
  protected readonly fonts = computed(() => {
    const recipe = this.recipe();
    const named = recipe.kind === 'font' && isOwnFont(recipe.font) ? [{ key: recipe.font, title: recipe.title ?? 'imported' }] : [];
    const own = [...this.texts.fonts(), ...named].filter(({ key }, i, all) => all.findIndex((font) => font.key === key) === i);
    return [...SHIPPED_FONTS.map(({ key, title, character }) => ({ key, title: `${title}, ${character}` })), ...own];
  });
  protected readonly corners = [
    { key: 'square', title: 'Square' },
    { key: 'cut', title: 'Cut' },
    { key: 'round', title: 'Round' },
  ] as const;
  protected readonly baselines = [
    { key: 'straight', title: 'Straight' },
    { key: 'round', title: 'Round' },
    { key: 'line', title: 'Along a line' },
  ] as const;
  protected readonly aligns = [
    { key: 'left', title: 'Left' },
    { key: 'centre', title: 'Centred' },
    { key: 'right', title: 'Right' },
  ] as const;

  /** What is typed and not yet taken. */
  private readonly text = signal<string | null>(null);
  private pause: ReturnType<typeof setTimeout> | undefined;

  protected readonly isOpen = computed(() => this.store.writing() !== null || this.store.selected() !== null);
  /** What the letters are drawn by: of the selected text, else of the next. */
  protected readonly recipe = computed((): Lettering => this.store.selected()?.lettering ?? this.store.recipe(''));
  protected readonly shownText = computed(() => this.text() ?? (this.store.writing() ? '' : (this.store.selected()?.lettering?.text ?? '')));
  protected readonly depth = computed(() => this.first()?.depth ?? this.store.next().depth);

  private readonly letters = computed((): readonly ShapeNode[] => shapesIn(this.store.selected()?.children ?? []));
  private readonly first = computed((): ShapeNode | null => this.letters()[0] ?? null);

  constructor() {
    // A press of the tool begins text there, and what is typed next is for it.
    this.settings.writes((place) => {
      if (!this.store.begin(place)) return;
      this.field().nativeElement.value = '';
      this.text.set('');
      this.field().nativeElement.focus();
    });
    inject(DestroyRef).onDestroy(() => this.settings.writes(null));
  }

  protected typing(text: string): void {
    this.text.set(text);
    this.store.typing(this.store.writing() ? this.store.recipe(text) : { ...plain(this.recipe()), text });
    clearTimeout(this.pause);
    this.pause = setTimeout(() => void this.draw(text, false), PAUSE_MS);
  }

  protected take(text: string): void {
    clearTimeout(this.pause);
    const begun = this.store.writing()?.id ?? null;
    void this.store.queue(async () => {
      await this.draw(text, true);
      if ((this.store.writing()?.id ?? null) === begun || this.store.writing() === null) this.text.set(null);
    });
  }

  private draw(text: string, keep: boolean): Promise<void> {
    if (this.store.writing()) return this.store.write(text, keep);
    return this.store.change({ ...plain(this.recipe()), text }, keep);
  }

  /** Enter makes another line; with Ctrl, or by Escape, writing ends and what was written stays. */
  protected key(event: KeyboardEvent): void {
    event.stopPropagation();
    if (event.key !== 'Escape' && !(event.key === 'Enter' && (event.ctrlKey || event.metaKey))) return;
    event.preventDefault();
    (event.target as HTMLTextAreaElement).blur();
  }

  /** Changes the letters that are selected, or those that are being written. */
  private redraw(recipe: () => Lettering): void {
    void this.store.queue(() => {
      if (this.store.selected()) return this.store.change(recipe(), true);
      const text = this.text();
      return this.store.writing() && text ? this.store.write(text, false) : null;
    });
  }

  /** Why a measure of letters cannot be taken with the others as they are; nothing is changed then. */
  protected readonly refused = Object.fromEntries(
    MEASURES.map((measure) => [measure, (value: number) => letteringFault({ ...plain(this.recipe()), [measure]: value } as Lettering)]),
  ) as Readonly<Record<(typeof MEASURES)[number], (value: number) => string | null>>;

  /** Changes what letters are drawn by: of the selected text, and of the next. */
  protected set(part: Partial<Record<string, unknown>>, from: (recipe: Lettering) => Lettering = plain): void {
    const { kind } = this.recipe();
    this.store.next.update((next) =>
      kind === 'font' ? { ...next, kind, font: { ...next.font, ...part } } : { ...next, kind, cells: { ...next.cells, ...part } },
    );
    this.redraw(() => ({ ...from(this.recipe()), ...part }) as Lettering);
  }

  /** The unit that was typed with the height: it is kept with it. */
  protected typed: Unit | null = null;

  protected setCap(cap: number): void {
    const { typed } = this;
    this.typed = null;
    this.set({ cap, ...(typed && { capUnit: typed }) });
  }

  /** Another font, once what is written in it can be drawn. */
  protected setFont(font: string): void {
    void this.store.queue(async () => {
      const recipe = plain(this.recipe()) as FontLettering;
      const { title: _, ...trial } = { ...recipe, font, text: recipe.text || (this.text() ?? '') || SAMPLE };
      const fault = await this.store.whyNot(trial);
      if (fault === null) this.takeFont(font);
      else this.store.said.set(fault);
    });
  }

  private takeFont(font: string): void {
    const title = this.texts.fonts().find(({ key }) => key === font)?.title;
    this.store.next.update(({ font: { title: _, ...rest }, ...next }) => ({ ...next, font: rest }));
    this.set({ font, ...(title !== undefined && { title }) }, (recipe) => {
      const { title: _, ...rest } = plain(recipe) as FontLettering;
      return rest;
    });
  }

  /** Asks for a font's file, and writes in it. */
  protected async importFont(): Promise<void> {
    const file = await chooseFile(FONT_ENDINGS.map((ending) => `.${ending}`).join(','));
    if (!file) return;
    try {
      this.setFont((await this.texts.bring(file)).key);
    } catch (error) {
      this.messages.say('bad', `“${file.name}” was not imported`, [error instanceof Error ? error.message : String(error), 'Nothing was changed.']);
    }
  }

  /** What the text stands on. */
  protected readonly baseline = computed(() => {
    const { along, around, bend } = this.recipe();
    return this.settings.current().onLine || along ? 'line' : around ? 'side' : bend ? 'round' : 'straight';
  });

  /** A straight or a round baseline at once; a line is pressed next. */
  protected setBaseline(baseline: 'straight' | 'round' | 'line'): void {
    const selected = this.store.selected();
    this.settings.patch({ onLine: baseline === 'line' });
    this.store.moving.set(baseline === 'line' ? (selected?.id ?? null) : null);
    if (baseline === 'line') return this.view.setTool('lettering');
    this.store.straighten();
    this.set({ bend: baseline === 'round' ? ROUND : 0 }, onNoLine);
  }

  /** Text along a line on its other side, read the other way. */
  protected otherWay(): void {
    const { along } = this.recipe();
    if (!along) return;
    const turned = turnedLine(along);
    this.store.run(turned);
    this.redraw(() => ({ ...plain(this.recipe()), along: turned }) as Lettering);
  }

  protected setKind(kind: Lettering['kind']): void {
    this.store.next.update((next) => ({ ...next, kind }));
    this.redraw(() => {
      const { text, bend, along, around } = this.recipe();
      return { ...this.store.recipe(text), ...(bend !== undefined && { bend }), ...(along && { along }), ...(around && { around }) };
    });
  }

  protected setDepth(typed: number): void {
    const depth = exactCells(typed);
    this.store.next.update((next) => ({ ...next, depth }));
    void this.store.queue(() => {
      if (this.store.selected()) return this.store.eachLetter('set depth of', (shape) => ({ ...shape, depth }));
      const text = this.text();
      return this.store.writing() && text ? this.store.write(text, false) : null;
    });
  }

  protected readonly colours = computed(() => letterColours(this.letters(), this.documents.shown().swatches));

  /** The front, the outer sides or the walls of the counters of every letter in one colour. */
  protected setColour(part: LetterPart, fill: string): void {
    this.store.eachLetter(`paint the ${part} of`, (shape) => withLetterColour(shape, part, fill));
  }
}

/** A recipe without where it was drawn. */
function plain(lettering: Lettering & { readonly marks?: unknown }): Lettering {
  const { marks: _, ...recipe } = lettering;
  return recipe as Lettering;
}
