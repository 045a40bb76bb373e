import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { emptyDocument, presentDocument, startHistory, type CheminDocument, type History, type Step } from '@core';
import { DocumentStore, type Draft } from '../state/document.store';
import { MessageStore } from '../state/messages.store';
import { ViewStore } from '../state/view.store';
import { BehindError, DrawingsService } from './drawings.service';

/** Longest time in ms between a change and its saving. */
const SAVE_AFTER_MS = 300;

type Saving = 'saved' | 'waiting' | 'failed' | 'behind';

/** Which drawing is open, and its continuous saving in this browser. */
@Injectable({ providedIn: 'root' })
export class KeepingService {
  private readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly drawings = inject(DrawingsService);
  private readonly messages = inject(MessageStore);

  private readonly state = signal<Saving>('saved');
  private readonly savedAt = signal(0);
  private readonly now = signal(Date.now());
  private revision = 0;
  private savedSteps: readonly Step[] = [];
  private savedHistory: History | null = null;
  private savedDraft: Draft | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> = Promise.resolve();

  readonly saving = this.state.asReadonly();
  /** `saved 2 s ago, in this browser`, or what stands in the way. */
  readonly words = computed(() => {
    if (this.state() === 'failed') return 'not saved: export the project';
    if (this.state() === 'behind') return 'changed in another page';
    if (this.savedAt() === 0) return 'not saved yet';
    const seconds = Math.max(0, Math.round((this.now() - this.savedAt()) / 1000));
    const ago = seconds < 60 ? `${seconds}\u2009s` : seconds < 3600 ? `${Math.floor(seconds / 60)}\u2009min` : `${Math.floor(seconds / 3600)}\u2009h`;
    return `saved ${ago} ago, in this browser`;
  });

  constructor() {
    effect(() => {
      const history = this.store.history();
      const draft = this.store.draft();
      if (this.store.open() && (history !== this.savedHistory || draft !== this.savedDraft)) this.saveSoon();
    });
    setInterval(() => this.now.set(Date.now()), 1000);
    const flush = (): void => void this.saveNow();
    addEventListener('pagehide', flush);
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'hidden') flush();
    });
  }

  /** Opens what was open last; on the first visit, the first demo drawing. */
  async begin(): Promise<void> {
    try {
      const last = await this.drawings.setting('open');
      if (typeof last === 'string' && (await this.open(last))) return;
      const kept = await this.drawings.list(false);
      if (kept[0] && (await this.open(kept[0].id))) return;
      await this.addDemos();
    } catch (error) {
      this.trouble(error);
      if (!this.store.open()) await this.show(startHistory(await this.firstDemo()), null);
    }
  }

  async open(id: string): Promise<boolean> {
    const opened = await this.drawings.open(id);
    if (!opened) return false;
    await this.saveNow();
    if (opened.stepsLost) this.messages.say('warn', 'The steps of this drawing could not be read', ['The drawing itself is whole. Undo starts from here.']);
    this.revision = opened.revision;
    this.savedSteps = opened.history.steps;
    this.savedHistory = opened.history;
    this.savedDraft = opened.draft;
    this.savedAt.set(Date.now());
    this.state.set('saved');
    await this.show(opened.history, opened.draft);
    await this.drawings.setSetting('open', id);
    return true;
  }

  /** Keeps a document under a fresh id and opens it. */
  async adopt(document: CheminDocument): Promise<void> {
    const fresh = { ...document, id: crypto.randomUUID() };
    try {
      await this.drawings.add(fresh);
      await this.open(fresh.id);
    } catch (error) {
      this.trouble(error);
      await this.show(startHistory(fresh), null);
    }
  }

  async startEmpty(): Promise<void> {
    await this.adopt(emptyDocument('new', 'Untitled drawing'));
  }

  async addDemos(): Promise<void> {
    await this.adopt(await this.firstDemo());
  }

  /** Saves at once; resolves when storage has it. */
  saveNow(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.running = this.running.then(() => this.save());
    return this.running;
  }

  private saveSoon(): void {
    if (this.state() !== 'behind') this.timer ??= setTimeout(() => void this.saveNow(), SAVE_AFTER_MS);
  }

  private async save(): Promise<void> {
    const history = this.store.history();
    const draft = this.store.draft();
    if (!this.store.open() || this.state() === 'behind' || (history === this.savedHistory && draft === this.savedDraft)) return;
    this.state.set('waiting');
    try {
      this.revision = await this.drawings.save({ history, draft, revision: this.revision, savedSteps: this.savedSteps });
      this.savedSteps = history.steps;
      this.savedHistory = history;
      this.savedDraft = draft;
      this.savedAt.set(Date.now());
      this.now.set(Date.now());
      this.state.set('saved');
    } catch (error) {
      if (error instanceof BehindError) this.behind();
      else this.trouble(error);
    }
  }

  private behind(): void {
    this.state.set('behind');
    const { name } = this.store.kept();
    this.messages.say(
      'warn',
      `“${name}” was changed in another page`,
      ['Nothing was overwritten. Keep what is here as a drawing of its own; the other stays as it is.'],
      {
        label: 'Keep as a copy',
        run: () => void this.adopt({ ...presentDocument(this.store.history()), name: `${name}, copy` }),
      },
    );
  }

  private trouble(error: unknown): void {
    this.state.set('failed');
    const reason = error instanceof Error ? error.message : String(error);
    this.messages.say('bad', 'This browser could not keep the drawing', [reason, 'Work goes on. Export the project now and then, under Output.']);
  }

  private async show(history: History, draft: Draft | null): Promise<void> {
    this.store.load(history, draft);
    this.view.select([]);
    // Aids and locks belong to the drawing that they were set for.
    this.view.patch({ figure: false, cone: false, locks: [], reference: null, blink: 'off', comparing: false });
    const { sheet } = presentDocument(history);
    this.view.fit(sheet.width, sheet.height);
  }

  private async firstDemo(): Promise<CheminDocument> {
    const { landing } = await import('@demo');
    return landing();
  }
}
