import { computed, inject, Injectable } from '@angular/core';
import { ArrangingService } from './arranging.service';
import { CommandsService } from './commands.service';
import type { Setting } from './settings';
import { StagesService } from './stages.service';

/** Something that can be found by words: a command that runs, or a setting that is gone to. */
export interface Found {
  readonly title: string;
  readonly keys: readonly string[];
  /** Why it cannot be done now, or null. */
  readonly why: string | null;
  readonly go: () => void;
}

interface Entry {
  readonly title: string;
  readonly text: string;
  readonly found: () => Found;
}

/** Frames for which a control that has just been asked for may take to appear. */
const PATIENCE = 120;

/** Finds commands and settings by what different trades call them, and goes there. */
@Injectable({ providedIn: 'root' })
export class FindingService {
  private readonly commands = inject(CommandsService);
  private readonly stages = inject(StagesService);
  private readonly arranging = inject(ArrangingService);

  private readonly entries = computed((): readonly Entry[] => [
    ...this.commands.all().map(({ id, title, group, keys, words }): Entry => ({
      title,
      text: `${title} ${group} ${words ?? ''}`.toLowerCase(),
      found: () => ({ title, keys, why: this.commands.why(id), go: () => this.run(id) }),
    })),
    ...this.stages
      .here()
      .flatMap(({ settings }) => settings)
      .map((setting): Entry => ({
        title: setting.title,
        text: `${setting.title} ${setting.words}`.toLowerCase(),
        found: () => ({ title: setting.title, keys: [], why: this.whyNot(setting), go: () => this.goTo(setting) }),
      })),
  ]);

  /** Everything whose words hold every word of a question: titles that begin with it first, then those that hold it. */
  find(question: string): readonly Found[] {
    const asked = question.toLowerCase().trim();
    const words = asked.split(/\s+/).filter(Boolean);
    const rank = ({ title, text }: Entry): number => {
      const name = title.toLowerCase();
      if (asked === '') return 4;
      if (name === asked) return 0;
      if (name.startsWith(asked)) return 1;
      if (name.includes(asked)) return 2;
      return new RegExp(`(^|\\s)${asked.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(\\s|$)`).test(text) ? 3 : 4;
    };
    return this.entries()
      .filter(({ text }) => words.every((word) => text.includes(word)))
      .map((entry, i) => ({ entry, order: rank(entry) * 1e4 + i }))
      .sort((p, q) => p.order - q.order)
      .map(({ entry }) => entry.found());
  }

  private run(id: string): void {
    this.going++;
    this.commands.run(id);
  }

  private whyNot({ wants }: Setting): string | null {
    if (wants === 'things' && this.arranging.nodes().length === 0) return 'Select something first.';
    if (wants === 'several' && this.arranging.nodes().length < 2) return 'Select two or more things first.';
    if (wants === 'shapes' && this.arranging.shapes().length === 0) return 'Select a shape first.';
    return null;
  }

  /** Grows with everything that is gone to: an older one that still looks for its control gives up. */
  private going = 0;

  private goTo({ stage, tool, controls }: Setting): void {
    const mine = ++this.going;
    this.stages.go(stage, tool);
    let frames = 0;
    const look = (): void => {
      if (mine !== this.going) return;
      // The wanted control has half of the time for itself; after that the next may stand in.
      const control = firstOf(frames < PATIENCE / 2 ? controls.slice(0, 1) : controls);
      if (control) return reveal(control);
      if (++frames < PATIENCE) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }
}

/** Where controls stand. */
const PANELS = 'chemin-bench, chemin-selection';
const CONTROLS = 'input, button, select, textarea, [role=combobox], [role=slider], [role=switch], [tabindex="0"]';

/** A shown control by one of several names, those given first before others. */
function firstOf(names: readonly string[]): HTMLElement | null {
  const all = Array.from(document.querySelectorAll<HTMLElement>(PANELS)).flatMap((panel) => Array.from(panel.querySelectorAll<HTMLElement>(CONTROLS)));
  for (const name of names) {
    const named = all.find((control) => nameOf(control) === name) ?? all.find((control) => nameOf(control).startsWith(name));
    if (named) return named;
  }
  return null;
}

function nameOf(control: HTMLElement): string {
  const text = (element: Element | null | undefined): string => element?.textContent?.trim() ?? '';
  const by = control.getAttribute('aria-labelledby');
  const label = control.id ? document.querySelector(`label[for="${CSS.escape(control.id)}"]`) : null;
  return (by ? text(document.getElementById(by)) : '') || control.getAttribute('aria-label') || text(label) || text(control.closest('label')) || text(control);
}

function reveal(control: HTMLElement): void {
  const folded = control.closest('[role=region][hidden]');
  if (folded) document.querySelector<HTMLElement>(`[aria-controls="${folded.id}"]`)?.click();
  requestAnimationFrame(() => {
    control.scrollIntoView({ block: 'center' });
    control.focus();
  });
}
