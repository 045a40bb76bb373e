import { Injectable } from '@angular/core';
import {
  checkDocument,
  commitEdit,
  presentDocument,
  replayHistory,
  sameData,
  soundHistory,
  startHistory,
  type Bitmap,
  type CheminDocument,
  type History,
  type Step,
} from '@core';
import type { Draft } from '../state/document.store';
import { CheminDatabase, type StoredDrawing, type StoredStep } from './database';
import { bitmapsOf, currentFormat, fullDocument, fullStep, slimDocument, slimStep } from './slim';

export interface OpenedDrawing {
  readonly history: History;
  readonly draft: Draft | null;
  readonly revision: number;
  /** The steps could not be used; only the drawing itself is there. */
  readonly stepsLost: boolean;
}

/** What a save needs; `savedSteps` are the steps that storage has already. */
export interface DrawingToSave {
  readonly history: History;
  readonly draft: Draft | null;
  readonly revision: number;
  readonly savedSteps: readonly Step[];
}

/** Another page has saved the same drawing in the meantime. */
export class BehindError extends Error {
  constructor() {
    super('This drawing was changed in another page.');
    this.name = 'BehindError';
  }
}

/** A kept drawing that cannot be read; what its steps still tell comes with it. */
export class UnreadableError extends Error {
  constructor(
    readonly id: string,
    readonly drawing: string,
    reason: string,
    /** The last good state, with the steps up to it. */
    readonly recovered: History | null,
    /** Steps after it that cannot be used. */
    readonly lost: number,
  ) {
    super(reason);
    this.name = 'UnreadableError';
  }
}

/** Drawings in the browser's storage: kept, listed, renamed, copied, deleted and brought back. */
@Injectable({ providedIn: 'root' })
export class DrawingsService {
  protected readonly db: CheminDatabase = new CheminDatabase();

  /** All drawings that are not deleted, or all that are; the last changed first. */
  async list(deleted: boolean): Promise<readonly StoredDrawing[]> {
    const all = await this.db.drawings.orderBy('changed').reverse().toArray();
    return all.filter((drawing) => drawing.deleted > 0 === deleted).map((drawing) => ({ ...drawing, document: currentFormat(drawing.document) }));
  }

  /** @throws UnreadableError where what is kept cannot be read as a drawing; nothing of it is changed */
  async open(id: string): Promise<OpenedDrawing | null> {
    const stored = await this.db.drawings.get(id);
    if (!stored) return null;
    const rows = await this.db.steps.where('drawing').equals(id).sortBy('index');
    const bitmaps = await this.bitmapsFor(stored, rows);
    const checked = checkDocument(fullDocument(stored.document, bitmaps));
    const base = checkDocument(fullDocument(stored.base, bitmaps));
    const steps = rows.slice(0, stored.stepCount).map((row) => fullStep(row.step, bitmaps));
    const history = base.ok ? replayHistory(base.value, steps, stored.position) : null;
    if (!checked.ok) {
      const recovered = history && soundHistory(history);
      const lost = stored.stepCount - (recovered?.steps.length ?? 0);
      throw new UnreadableError(id, String(stored.name), checked.problems[0]?.message ?? 'It is damaged.', recovered, lost);
    }
    const opened = { draft: stored.draft, revision: stored.revision };
    const whole = history !== null && history.steps.length === stored.stepCount && sameData(presentDocument(history), checked.value);
    return whole ? { ...opened, history, stepsLost: false } : { ...opened, history: startHistory(checked.value), stepsLost: true };
  }

  private async bitmapsFor(stored: StoredDrawing, rows: readonly StoredStep[]): Promise<ReadonlyMap<string, Bitmap>> {
    try {
      const needed = [...bitmapsOf(stored.document, []), ...bitmapsOf(stored.base, rows.map((row) => row.step))]; // prettier-ignore
      const found = await this.db.bitmaps.bulkGet([...new Set(needed.map((bitmap) => bitmap.id))]);
      return new Map(found.flatMap((bitmap) => (bitmap ? [[bitmap.id, bitmap] as const] : [])));
    } catch {
      // What is too damaged to say which bitmaps it needs is told apart when it is checked.
      return new Map();
    }
  }

  /** Everything that storage keeps of a drawing, as it is, as text: for saving what cannot be read. */
  async raw(id: string): Promise<string> {
    const drawing = await this.db.drawings.get(id);
    const steps = await this.db.steps.where('drawing').equals(id).sortBy('index');
    return JSON.stringify({ format: 'chemin-raw', drawing, steps: steps.map((row) => row.step) }, null, 1) + '\n';
  }

  /**
   * Saves in one transaction: the drawing, and only those steps that storage does not have yet.
   * @returns the new revision
   * @throws BehindError where another page has saved since
   */
  async save({ history, draft, revision, savedSteps }: DrawingToSave): Promise<number> {
    const document = presentDocument(history);
    let same = 0;
    while (same < savedSteps.length && savedSteps[same] === history.steps[same]) same++;
    const fresh = history.steps.slice(same);
    return this.db.transaction('rw', this.db.drawings, this.db.steps, this.db.bitmaps, async () => {
      await this.keepBitmaps(bitmapsOf(document, fresh));
      const before = await this.db.drawings.get(document.id);
      if (before && before.revision !== revision) throw new BehindError();
      if (savedSteps.length > same) {
        await this.db.steps.where('[drawing+index]').between([document.id, same], [document.id, Infinity]).delete();
      }
      await this.db.steps.bulkPut(fresh.map((step, i) => ({ drawing: document.id, index: same + i, step: slimStep(step) })));
      await this.db.drawings.put({
        id: document.id,
        name: document.name,
        changed: Date.now(),
        deleted: 0,
        revision: revision + 1,
        document: slimDocument(document),
        base: slimDocument(history.base),
        position: history.position,
        stepCount: history.steps.length,
        draft,
      });
      return revision + 1;
    });
  }

  /** Bitmaps are named by their content, so one that is there already is the same. */
  private async keepBitmaps(bitmaps: readonly Bitmap[]): Promise<void> {
    if (bitmaps.length === 0) return;
    const there = new Set(await this.db.bitmaps.toCollection().primaryKeys());
    await this.db.bitmaps.bulkPut(bitmaps.filter((bitmap) => bitmap.data !== '' && !there.has(bitmap.id)));
  }

  /** A stored drawing with its bitmaps, such as for its thumbnail or a copy. */
  async whole(stored: StoredDrawing): Promise<CheminDocument> {
    const found = await this.db.bitmaps.bulkGet(stored.document.bitmaps?.map((bitmap) => bitmap.id) ?? []);
    return fullDocument(stored.document, new Map(found.flatMap((bitmap) => (bitmap ? [[bitmap.id, bitmap] as const] : []))));
  }

  /** Keeps a document as a new drawing, or a whole history as one. */
  async add(what: CheminDocument | History, draft: Draft | null = null): Promise<void> {
    await this.save({ history: 'steps' in what ? what : startHistory(what), draft, revision: 0, savedSteps: [] });
  }

  /** Renames a drawing that is not open, as one more step of its own, so that its undo stays whole. */
  async rename(id: string, name: string): Promise<void> {
    const opened = await this.open(id);
    if (!opened) return;
    const { history, draft, revision } = opened;
    await this.save({ history: commitEdit(history, { kind: 'title', name }), draft, revision, savedSteps: opened.stepsLost ? [] : history.steps });
  }

  async setDeleted(id: string, deleted: boolean): Promise<void> {
    await this.db.drawings.update(id, { deleted: deleted ? Date.now() : 0 });
  }

  /** Deletes for good what was deleted before. */
  async erase(id: string): Promise<void> {
    await this.db.transaction('rw', this.db.drawings, this.db.steps, this.db.bitmaps, async () => {
      await this.db.steps.where('drawing').equals(id).delete();
      await this.db.drawings.delete(id);
      const used = new Set<string>();
      await this.db.drawings.each((drawing) => bitmapsOf(drawing.document, []).forEach((bitmap) => used.add(bitmap.id)));
      await this.db.drawings.each((drawing) => bitmapsOf(drawing.base, []).forEach((bitmap) => used.add(bitmap.id)));
      await this.db.steps.each((row) => bitmapsOf(null, [row.step]).forEach((bitmap) => used.add(bitmap.id)));
      await this.db.bitmaps.bulkDelete((await this.db.bitmaps.toCollection().primaryKeys()).filter((key) => !used.has(key)));
    });
  }

  async setting(key: string): Promise<unknown> {
    return (await this.db.settings.get(key))?.value;
  }

  async setSetting(key: string, value: unknown): Promise<void> {
    await this.db.settings.put({ key, value });
  }
}
