import type { DemoKey } from '@demo';
import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { commitEdit, derivedName, emptyDocument, historyAs, presentDocument, startHistory, type CheminDocument, type History, type Step } from '@core';
import type { Draft } from '../platform/database';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { AidsStore } from './aids.store';
import { PictureService } from './picture.service';
import { ViewStore } from './view.store';
import { BehindError, DrawingsService, UnreadableError, type OpenedDrawing } from '../platform/drawings.service';
import { download, downloadText, fileName } from '../platform/files';
import { inTime } from '../platform/patience';
import { shown } from '../platform/shown';
import { storageWords } from '../platform/storage-words';
import { ProjectsService } from '../platform/projects.service';

/** Longest time in ms between a change and its saving. */
const SAVE_AFTER_MS = 300;

/** Seconds after which saving that failed is tried again. */
const TRY_AGAIN_S = 10;
const NO_ANSWER = Symbol('no answer');

/** Something that is waited for until it is signalled. */
function signalled(): { readonly done: Promise<void>; readonly signal: () => void } {
  let signal = (): void => undefined;
  const done = new Promise<void>((resolve) => (signal = resolve));
  return { done, signal: () => signal() };
}

type Saving = 'saved' | 'waiting' | 'failed' | 'behind';

/** What to do with work that is not saved: keep it as a copy, leave it, or stay with it. */
export type UnsavedAnswer = 'copy' | 'leave' | 'stay';

/** Which drawing is open, and its continuous saving in this browser. */
@Injectable({ providedIn: 'root' })
export class KeepingService {
  private readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly aids = inject(AidsStore);
  private readonly drawings = inject(DrawingsService);
  private readonly projects = inject(ProjectsService);
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
  /** Storage has not answered yet. */
  private without = false;
  /** Seconds since saving failed last. */
  private waited = 0;
  private readonly begun = signalled();

  readonly saving = this.state.asReadonly();
  /** Whether what is here is not in storage, and will not be by itself. */
  readonly stuck = computed(() => this.state() === 'failed' || this.state() === 'behind');
  /** Why it is not, in a sentence. */
  readonly reason = signal('');
  /** Set while the person is asked what to do with unsaved work. */
  readonly asking = signal<((answer: UnsavedAnswer) => void) | null>(null);
  /** `saved 2 s ago, in this browser`, or what stands in the way. */
  readonly words = computed(() => {
    if (this.state() === 'failed') return 'not saved';
    if (this.state() === 'behind') return 'not saved: changed in another page';
    if (this.state() === 'waiting') return 'saving\u2026';
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
    setInterval(() => this.tick(), 1000);
    const flush = (): void => void this.saveNow();
    addEventListener('pagehide', flush);
    addEventListener('beforeunload', (event) => {
      if (this.unsaved() && this.stuck()) event.preventDefault();
    });
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'hidden') flush();
    });
  }

  /** Once a second: how long ago it was saved, and another try where it was not, for there may be room again. */
  private tick(): void {
    this.now.set(Date.now());
    if (this.state() === 'failed' && ++this.waited >= TRY_AGAIN_S) void this.saveNow();
  }

  /** Opens what was open last, else what was changed last and can be read; on the first visit, the first demo drawing. */
  async begin(): Promise<void> {
    try {
      const answer = this.drawings.setting('open');
      if ((await inTime(answer, NO_ANSWER)) === NO_ANSWER) {
        const fresh = startHistory({ ...(await this.firstDemo()), id: crypto.randomUUID() });
        // It may have answered while that was fetched.
        if ((await inTime(answer, NO_ANSWER, 0)) === NO_ANSWER) {
          this.beginWithout(fresh);
          return void this.beginLate(answer);
        }
      }
      const last = await answer;
      if (typeof last === 'string' && (await this.open(last))) return;
      for (const { id } of await this.drawings.list(false)) if (id !== last && (await this.open(id))) return;
      await this.addDemos();
    } catch (error) {
      this.trouble(error);
      if (!this.store.open()) this.show(startHistory({ ...(await this.firstDemo()), id: crypto.randomUUID() }), null);
    } finally {
      shown.next();
    }
  }

  /** The message that storage does not answer. */
  private silent: number | null = null;

  /** Works on the first demo drawing without storage, which does not answer: another page holds it, or it is stuck. */
  private beginWithout(fresh: History): void {
    this.without = true;
    this.savedHistory = fresh;
    this.show(fresh, null);
    this.state.set('failed');
    this.reason.set('The browser’s storage does not answer.');
    const lines = ['Another page of Chemin may hold it: close the others.', 'Work goes on here; it is kept as soon as storage answers.'];
    this.silent = this.messages.say('warn', 'The browser’s storage does not answer', lines, { label: 'Save as a file', run: () => void this.saveFile() });
  }

  /** Storage answers after all: what was worked on meanwhile is kept as a drawing of its own, else what was open last is opened. */
  private async beginLate(answer: Promise<unknown>): Promise<void> {
    try {
      await answer;
    } catch {
      // Saving tells of it, and is tried again.
    }
    this.without = false;
    // What was said of it holds no longer.
    if (this.silent !== null) this.messages.close(this.silent);
    this.silent = null;
    if (!this.unsaved()) {
      this.state.set('saved');
      return this.begin();
    }
    try {
      await this.addAndTake(this.store.history(), this.store.draft());
      this.messages.say('good', 'The browser’s storage answers again', [`What was made meanwhile is kept as “${this.store.whole().name}”.`]);
    } catch (error) {
      this.trouble(error);
    }
  }

  /**
   * Opens a kept drawing. One that cannot be read is left as it is; its last good state opens as a drawing of its own.
   * @returns whether something was opened
   */
  async open(id: string): Promise<boolean> {
    let opened;
    try {
      opened = await this.drawings.open(id);
    } catch (error) {
      if (error instanceof UnreadableError) return this.recover(error);
      throw error;
    }
    if (!opened) return false;
    // What is worked on meanwhile is kept afterwards.
    const show = await this.pictures.prepare(presentDocument(opened.history));
    if (!(await this.mayLeave())) return false;
    await this.take(id, opened, show);
    return true;
  }

  /** @param ready makes what is shown first ready to be shown */
  private async take(id: string, opened: OpenedDrawing, ready: () => void): Promise<void> {
    if (opened.stepsLost) this.messages.say('warn', 'The steps of this drawing could not be read', ['The drawing itself is whole. Undo starts from here.']);
    this.revision = opened.revision;
    this.savedSteps = opened.history.steps;
    this.savedHistory = opened.history;
    this.savedDraft = opened.draft;
    this.savedAt.set(Date.now());
    this.state.set('saved');
    ready();
    this.show(opened.history, opened.draft);
    await this.drawings.setSetting('open', id);
  }

  /** Keeps a document, or a whole history, as a drawing of its own and opens it. */
  async adopt(what: CheminDocument | History): Promise<boolean> {
    if (!(await this.mayLeave())) return false;
    const fresh = historyAs('steps' in what ? what : startHistory(what), crypto.randomUUID());
    if (this.without) {
      // Kept when storage answers.
      this.showUnkept(fresh);
      return true;
    }
    try {
      await this.addAndTake(fresh, null);
    } catch (error) {
      this.showUnkept(fresh);
      this.trouble(error);
    }
    return true;
  }

  /** Shows what storage has nothing of. */
  private showUnkept(history: History): void {
    this.revision = 0;
    this.savedSteps = [];
    this.savedHistory = null;
    this.savedDraft = null;
    this.show(history, null);
  }

  /** Keeps what is here as a drawing of its own, with its steps; what another page wrote stays as it is. */
  async keepAsCopy(): Promise<boolean> {
    const copy = historyAs(this.store.history(), crypto.randomUUID());
    const name = derivedName(presentDocument(copy).name, ', copy');
    try {
      await this.addAndTake(commitEdit(copy, { kind: 'title', name }), this.store.draft());
      return true;
    } catch (error) {
      this.trouble(error);
      return false;
    }
  }

  private async addAndTake(history: History, draft: Draft | null): Promise<void> {
    await this.drawings.add(history, draft);
    const opened = await this.drawings.open(history.base.id);
    if (!opened) return;
    const ready = await this.pictures.prepare(presentDocument(opened.history));
    await this.take(history.base.id, opened, ready);
  }

  /** Saves what is here as a project file, whose name comes back; before anything was opened it waits for that. */
  async saveFile(): Promise<string> {
    if (!this.store.open()) await this.begun.done;
    const document = this.store.whole();
    const name = fileName(document.name, 'chemin');
    download(name, await this.projects.write(document));
    return name;
  }

  /** Saves, and where that cannot be, asks before what is here is left. */
  private async mayLeave(): Promise<boolean> {
    await this.saveNow();
    if (!this.unsaved()) return true;
    const answer = await new Promise<UnsavedAnswer>((resolve) => this.asking.set(resolve));
    this.asking.set(null);
    if (answer === 'copy') return this.keepAsCopy();
    return answer === 'leave';
  }

  private unsaved(): boolean {
    return this.store.open() && (this.store.history() !== this.savedHistory || this.store.draft() !== this.savedDraft);
  }

  private async recover({ id, drawing, message, recovered, lost }: UnreadableError): Promise<boolean> {
    const raw = { label: 'Save its raw file', run: () => void this.saveRaw(id, drawing) };
    const title = `“${drawing}” cannot be read`;
    if (!recovered) {
      this.messages.say('bad', title, [message, 'Nothing of it was changed. Its raw file can be saved.'], raw);
      return false;
    }
    const name = derivedName(drawing, ', recovered');
    if (!(await this.adopt(commitEdit(recovered, { kind: 'title', name })))) return false;
    const steps = lost === 1 ? 'one step' : `${lost} steps`;
    this.messages.say('bad', title, [message, `Its last good state, ${steps} back, is open as “${name}”. The damaged one is kept as it is.`], raw);
    return true;
  }

  /** Saves all that storage has of a drawing, readable or not. */
  async saveRaw(id: string, name: string): Promise<void> {
    downloadText(fileName(name, 'raw.json'), await this.drawings.raw(id), 'application/json');
  }

  /** Starts an empty drawing, by default an isometric one; of another, everything but its id and name is what is given. */
  async startEmpty(from: CheminDocument = emptyDocument('new', '')): Promise<void> {
    await this.adopt({ ...from, name: 'Untitled drawing' });
  }

  async addDemos(key: DemoKey = 'landing'): Promise<void> {
    const { DEMOS, demoAssets } = await import('@demo');
    await this.drawings.bringAll(demoAssets(key));
    await this.adopt(DEMOS[key]());
  }

  /** Saves at once; resolves when storage has it. */
  saveNow(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.running = this.running.then(() => this.save());
    return this.running;
  }

  private saveSoon(): void {
    if (this.state() === 'behind') return;
    // What stands in the way stays told until a saving has gone well.
    this.state.update((state) => (state === 'saved' ? 'waiting' : state));
    this.timer ??= setTimeout(() => void this.saveNow(), SAVE_AFTER_MS);
  }

  private async save(): Promise<void> {
    const history = this.store.history();
    const draft = this.store.draft();
    if (this.state() === 'behind' || this.without) return;
    if (!this.unsaved()) return this.state.update((state) => (state === 'waiting' ? 'saved' : state));
    try {
      this.revision = await this.drawings.save({ history, draft, revision: this.revision, savedSteps: this.savedSteps });
      this.savedSteps = history.steps;
      this.savedHistory = history;
      this.savedDraft = draft;
      this.savedAt.set(Date.now());
      this.now.set(Date.now());
      this.state.set(this.unsaved() ? 'waiting' : 'saved');
    } catch (error) {
      if (error instanceof BehindError) this.behind();
      else this.trouble(error);
    }
  }

  private behind(): void {
    this.state.set('behind');
    this.reason.set('This drawing was changed in another page. Nothing was overwritten.');
    const lines = ['Nothing was overwritten. Keep what is here as a drawing of its own; the other stays as it is.'];
    this.messages.say('warn', `“${this.store.whole().name}” was changed in another page`, lines, {
      label: 'Keep as a copy',
      run: () => void this.keepAsCopy(),
    });
  }

  private trouble(error: unknown): void {
    this.waited = 0;
    const reason = storageWords(error);
    const told = `This browser could not keep the drawing: ${reason}`;
    // What was said, and perhaps closed, is not said again at every further try.
    const again = this.state() === 'failed' && this.reason() === told;
    this.state.set('failed');
    this.reason.set(told);
    if (again) return;
    const save = { label: 'Save as a file', run: () => void this.saveFile() };
    this.messages.say('bad', 'This browser could not keep the drawing', [reason, 'Work goes on, and saving is tried again at every change.'], save);
  }

  private show(history: History, draft: Draft | null): void {
    this.store.load(history, draft);
    this.begun.signal();
    this.view.select([]);
    // Aids and locks belong to the drawing that they were set for.
    this.aids.forget();
    this.view.forgetOffsets();
    const { sheet } = presentDocument(history);
    this.view.fit(sheet.width, sheet.height);
  }

  private async firstDemo(): Promise<CheminDocument> {
    const { landing } = await import('@demo');
    return landing();
  }
}
