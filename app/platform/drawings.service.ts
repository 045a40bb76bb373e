import { inject, Injectable } from '@angular/core';
import {
  commitEdit,
  digestOf,
  fontsOfDocument,
  noteRight,
  openKept,
  presentDocument,
  startHistory,
  svgsOfKept,
  withSvgs,
  type Assets,
  type CheminDocument,
  type History,
  type OpenedKept,
  type Step,
} from '@core';
import type { OpeningWorker } from '../../workers/opening.worker';
import type { CheminDatabase, Draft, StoredAsset, StoredDrawing, StoredStep } from './database';
import { MessageStore } from './messages.store';
import { inTime } from './patience';
import { openStorage } from './storage';
import { storageWords } from './storage-words';
import { assetsNamed, currentFormat, slimDocument, slimStep } from './slim';
import { startOpeningWorker } from './start-opening-worker';
import { WorkerRunner } from './worker-runner';

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

interface Found {
  readonly opened: OpenedKept;
  readonly rest: Pick<StoredDrawing, 'name' | 'draft' | 'revision'>;
}

/** Longest time in ms that opening one drawing may take. */
const LIMIT_MS = 60_000;

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
  private readonly messages = inject(MessageStore);
  private readonly storage = openStorage();
  /** Storage has answered since the page was opened. */
  private answered = false;
  private readonly runner = new WorkerRunner<OpeningWorker>(startOpeningWorker, LIMIT_MS, false);

  /** All drawings that are not deleted, or all that are; the last changed first. */
  async list(deleted: boolean): Promise<readonly StoredDrawing[]> {
    const db = await this.storage();
    const all = await db.drawings.orderBy('changed').reverse().toArray();
    return all.filter((drawing) => drawing.deleted > 0 === deleted).map((drawing) => ({ ...drawing, document: currentFormat(drawing.document) }));
  }

  /** @throws UnreadableError where what is kept cannot be read as a drawing; nothing of it is changed */
  async open(id: string): Promise<OpenedDrawing | null> {
    const found = typeof Worker === 'undefined' ? await this.openHere(id) : await this.openThere(id).catch(() => this.openHere(id));
    if (!found) return null;
    const { opened, rest } = found;
    if (!opened.ok) throw new UnreadableError(id, String(rest.name), opened.reason, opened.recovered, opened.lost);
    noteRight(presentDocument(opened.history));
    return { draft: rest.draft, revision: rest.revision, history: opened.history, stepsLost: opened.stepsLost };
  }

  /** In the worker, which reads storage itself, so that nothing of it passes through the page twice; where it stops, the page does it. */
  private async openThere(id: string): Promise<Found | null> {
    const db = await this.storage();
    await db.open();
    return (await this.runner.run('open', [db.name, id])) as Found | null;
  }

  private async openHere(id: string): Promise<Found | null> {
    const db = await this.storage();
    const stored = await db.drawings.get(id);
    if (!stored) return null;
    const rows = await db.steps.where('drawing').equals(id).sortBy('index');
    const opened = openKept(stored, rows.map(({ step }) => step), await this.svgsFor(stored, rows)); // prettier-ignore
    return { opened, rest: stored };
  }

  /** The SVGs that a stored drawing and its steps name. */
  private async svgsFor(stored: StoredDrawing, rows: readonly StoredStep[]): Promise<ReadonlyMap<string, string>> {
    const db = await this.storage();
    const found = await db.assets.bulkGet([...svgsOfKept(stored, rows.map(({ step }) => step))]); // prettier-ignore
    return new Map(found.flatMap((asset) => (asset ? [[asset.hash, new TextDecoder().decode(asset.bytes)] as const] : [])));
  }

  /** Bytes that were brought in here, so that they can be written again where another page gave them up before they were named. */
  private readonly brought = new Map<string, Blob>();

  /** Keeps bytes under their hash, which comes back; where storage refuses them, until they are saved with what names them. */
  async bring(bytes: Uint8Array): Promise<string> {
    const hash = await digestOf(bytes);
    await this.bringAll(new Map([[hash, bytes]]));
    return hash;
  }

  /** Keeps bytes that have their names already. */
  async bringAll(assets: Assets): Promise<void> {
    for (const [hash, bytes] of assets) this.brought.set(hash, new Blob([bytes as Uint8Array<ArrayBuffer>]));
    const put = async (): Promise<void> => {
      const db = await this.storage();
      await db.assets.bulkPut([...assets].map(([hash, bytes]) => ({ hash, bytes })));
    };
    try {
      await inTime(put(), undefined);
    } catch (error) {
      // Saving tries again.
      this.messages.say('warn', 'The browser’s storage did not take what was brought in', [
        storageWords(error),
        'It is in the drawing, but leaves with this page unless there is room later. Save the project as a file.',
      ]);
    }
  }

  /** The bytes of an asset, or null where they are not there. */
  async asset(hash: string): Promise<Uint8Array<ArrayBuffer> | null> {
    const blob = await this.assetBlob(hash);
    return blob && new Uint8Array(await blob.arrayBuffer());
  }

  /** An asset as a blob, at once where it was brought in here; null where it is not there. */
  async assetBlob(hash: string): Promise<Blob | null> {
    const brought = this.brought.get(hash);
    if (brought) return brought;
    const found = this.storage().then((db) => db.assets.get(hash));
    // Storage that has answered before is only slow: what it holds is waited for, or a file would lack it.
    const stored = this.answered ? await found : await inTime(found, undefined);
    return stored ? new Blob([stored.bytes as Uint8Array<ArrayBuffer>]) : null;
  }

  /** The bytes of all bitmaps and fonts of a document that are there. */
  async assetsOf(document: CheminDocument): Promise<Assets> {
    const assets = new Map<string, Uint8Array>();
    for (const asset of bytesNamed(document)) {
      const bytes = assets.has(asset) ? null : await this.asset(asset);
      if (bytes) assets.set(asset, bytes);
    }
    return assets;
  }

  /** Everything that storage keeps of a drawing, as it is, as text: for saving what cannot be read. */
  async raw(id: string): Promise<string> {
    const db = await this.storage();
    const stored = await db.drawings.get(id);
    const steps = await db.steps.where('drawing').equals(id).sortBy('index');
    const svgs = stored ? await this.svgsFor(stored, steps) : new Map<string, string>();
    const drawing = stored && { ...stored, document: withSvgs(stored.document, svgs), base: withSvgs(stored.base, svgs) };
    return JSON.stringify({ format: 'chemin-raw', drawing, steps: steps.map((row) => row.step) }, null, 1) + '\n';
  }

  /**
   * Saves in one transaction: the drawing, and only those steps that storage does not have yet.
   * @returns the new revision
   * @throws BehindError where another page has saved since
   */
  async save({ history, draft, revision, savedSteps }: DrawingToSave): Promise<number> {
    const db = await this.storage();
    const document = presentDocument(history);
    // Where storage was deleted under the page, nothing is there to go on from: all of it is written.
    const there = savedSteps.length === 0 ? 0 : await db.steps.where('drawing').equals(document.id).count();
    const kept = there < savedSteps.length ? [] : savedSteps;
    let same = 0;
    while (same < kept.length && kept[same] === history.steps[same]) same++;
    const fresh = await Promise.all(history.steps.slice(same).map(slimStep));
    const [slim, base] = [await slimDocument(document), await slimDocument(history.base)];
    const missing = await this.missing(document, [slim.assets, base.assets, ...fresh.map((step) => step.assets)]);
    return db.transaction('rw', db.drawings, db.steps, db.assets, async () => {
      if (missing.length > 0) await db.assets.bulkPut(missing);
      const before = await db.drawings.get(document.id);
      if (before && before.revision !== revision) throw new BehindError();
      if (savedSteps.length > same) {
        await db.steps.where('[drawing+index]').between([document.id, same], [document.id, Infinity]).delete();
      }
      await db.steps.bulkPut(fresh.map(({ step }, i) => ({ drawing: document.id, index: same + i, step })));
      await db.drawings.put({
        id: document.id,
        name: document.name,
        changed: Date.now(),
        deleted: 0,
        revision: revision + 1,
        document: slim.document,
        base: base.document,
        position: history.position,
        stepCount: history.steps.length,
        draft,
      });
      return revision + 1;
    });
  }

  /** What has to be written of the assets that a document needs: those that storage does not have. */
  private async missing(document: CheminDocument, svgs: readonly Assets[]): Promise<readonly StoredAsset[]> {
    const db = await this.storage();
    const wanted = new Map(svgs.flatMap((assets) => [...assets]));
    const names = new Set([...wanted.keys(), ...bytesNamed(document)]);
    if (names.size === 0) return [];
    const there = new Set(
      await db.assets
        .where('hash')
        .anyOf([...names])
        .primaryKeys(),
    );
    const missing: StoredAsset[] = [];
    for (const hash of names) {
      if (there.has(hash)) continue;
      const bytes = wanted.get(hash) ?? (await this.asset(hash));
      if (bytes) missing.push({ hash, bytes });
    }
    return missing;
  }

  /** A stored drawing with its artworks, such as for its thumbnail or a copy. */
  async whole(stored: StoredDrawing): Promise<CheminDocument> {
    return withSvgs(stored.document, await this.svgsFor({ ...stored, base: stored.document }, []));
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
    const db = await this.storage();
    await db.drawings.update(id, { deleted: deleted ? Date.now() : 0 });
  }

  /** Deletes for good what was deleted before. */
  async erase(id: string): Promise<void> {
    const db = await this.storage();
    await db.transaction('rw', [db.drawings, db.steps, db.assets, db.objects], async () => {
      await db.steps.where('drawing').equals(id).delete();
      await db.drawings.delete(id);
      await this.dropUnused(db);
    });
  }

  /** Gives up every asset that no drawing, deleted ones too, and none of their steps name any more. */
  private async dropUnused(db: CheminDatabase): Promise<void> {
    const used = new Set<string>();
    const note = (names: readonly string[]): void => names.forEach((name) => used.add(name));
    await db.drawings.each((drawing) => {
      note(assetsNamed(drawing.document, []));
      note(assetsNamed(drawing.base, []));
    });
    await db.steps.each((row) => note(assetsNamed(null, [row.step])));
    // Objects that are kept by name have no bytes of their own either.
    await db.objects.each(({ part }) => note(fontsInText(part)));
    await db.assets.bulkDelete((await db.assets.toCollection().primaryKeys()).filter((key) => !used.has(key)));
  }

  async setting(key: string): Promise<unknown> {
    const db = await this.storage();
    const setting = await db.settings.get(key);
    this.answered = true;
    return setting?.value;
  }

  async setSetting(key: string, value: unknown): Promise<void> {
    const db = await this.storage();
    await db.settings.put({ key, value });
  }
}

/** What a document names among the assets besides its SVGs. */
const bytesNamed = (document: CheminDocument): readonly string[] => [...document.bitmaps.map(({ asset }) => asset), ...fontsOfDocument(document)];

/** The fonts that a part of a drawing names, as it is kept. */
const fontsInText = (part: string): readonly string[] => [...part.matchAll(/"font":"([0-9a-f]{64})"/g)].map((match) => match[1]!);
