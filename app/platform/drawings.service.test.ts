import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import { commitEdit, documentAt, DOCUMENT_VERSION, emptyDocument, goToStep, presentDocument, startHistory, type DocumentNode, type History } from '@core';
import { CheminDatabase } from './database';
import { BehindError, DrawingsService } from './drawings.service';

let service: DrawingsService;

beforeEach(async () => {
  // The pages of the test before still hold the database; they are made to let go.
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  await Dexie.delete('chemin');
  TestBed.resetTestingModule();
  service = TestBed.inject(DrawingsService);
});

function titled(...names: string[]): History {
  return names.reduce((history, name) => commitEdit(history, { kind: 'title', name }), startHistory(emptyDocument('one', 'start')));
}

describe('kept drawings', () => {
  it('come back with all their steps, at the step where they were left', async () => {
    const history = goToStep(titled('a', 'b', 'c'), 2);
    const draft = { plane: { kind: 'floor', offset: 0 }, points: [{ u: 1, v: 2 }] } as const;
    expect(await service.save({ history, draft, revision: 0, savedSteps: [] })).toBe(1);
    const opened = (await service.open('one'))!;
    expect(opened.stepsLost).toBe(false);
    expect(opened.history.position).toBe(2);
    expect(opened.history.steps.map((s) => s.edit)).toEqual(history.steps.map((s) => s.edit));
    expect(presentDocument(opened.history).name).toBe('b');
    expect(opened.draft).toEqual(draft);
    expect(await service.open('nobody')).toBeNull();
  });

  it('write only the steps that are new, and drop those that were undone', async () => {
    const first = titled('a', 'b', 'c');
    await service.save({ history: first, draft: null, revision: 0, savedSteps: [] });
    const second = commitEdit(goToStep(first, 1), { kind: 'title', name: 'other' });
    await service.save({ history: second, draft: null, revision: 1, savedSteps: first.steps });
    const rows = await new CheminDatabase().steps.toArray();
    expect(rows.map((row) => row.index)).toEqual([0, 1]);
    expect(presentDocument((await service.open('one'))!.history).name).toBe('other');
  });

  it('are never overwritten unseen by a second page', async () => {
    await service.save({ history: titled('a'), draft: null, revision: 0, savedSteps: [] });
    await service.save({ history: titled('a', 'mine'), draft: null, revision: 1, savedSteps: [] });
    await expect(service.save({ history: titled('a', 'theirs'), draft: null, revision: 1, savedSteps: [] })).rejects.toThrow(BehindError);
    expect(presentDocument((await service.open('one'))!.history).name).toBe('mine');
  });

  it('are renamed as a step of their own, with their undo whole', async () => {
    await service.save({ history: goToStep(titled('a', 'b'), 1), draft: null, revision: 0, savedSteps: [] });
    await service.rename('one', 'c');
    const opened = (await service.open('one'))!;
    expect(opened.stepsLost).toBe(false);
    expect(opened.history.documents.map((_, i) => documentAt(opened.history, i).name)).toEqual(['start', 'a', 'c']);
    await service.rename('nobody', 'x');
    expect((await service.list(false)).length).toBe(1);
  });

  it('survive broken steps as a drawing without a past', async () => {
    await service.save({ history: titled('a', 'b'), draft: null, revision: 0, savedSteps: [] });
    const db = new CheminDatabase();
    await db.steps.put({ drawing: 'one', index: 0, step: { edit: { kind: 'nonsense' }, label: 'x' } as never });
    const opened = (await service.open('one'))!;
    expect(opened.stepsLost).toBe(true);
    expect(opened.history.steps).toEqual([]);
    expect(presentDocument(opened.history).name).toBe('b');
  });

  it('are refused with the reason when the drawing itself is broken', async () => {
    await service.save({ history: titled('a'), draft: null, revision: 0, savedSteps: [] });
    await new CheminDatabase().drawings.update('one', { document: { format: 'other' } as never });
    await expect(service.open('one')).rejects.toThrow(/not a Chemin project/);
  });

  it('are listed, renamed, deleted, brought back and erased', async () => {
    await service.add({ ...emptyDocument('one', 'first') });
    await service.add({ ...emptyDocument('two', 'second') });
    expect((await service.list(false)).map((d) => d.name).sort()).toEqual(['first', 'second']);
    await service.rename('one', 'renamed');
    await service.setDeleted('two', true);
    expect((await service.list(false)).map((d) => d.name)).toEqual(['renamed']);
    expect((await service.list(true)).map((d) => d.name)).toEqual(['second']);
    expect(presentDocument((await service.open('one'))!.history).name).toBe('renamed');
    await service.setDeleted('two', false);
    expect(await service.list(true)).toEqual([]);
    await service.erase('two');
    expect((await service.list(false)).length).toBe(1);
    await service.setSetting('open', 'one');
    expect(await service.setting('open')).toBe('one');
    expect(await service.setting('nothing')).toBeUndefined();
  });

  it('keep a bitmap once, apart from what is written at every change, and give it up with the last drawing that needs it', async () => {
    const asset = await service.bring(Uint8Array.of(137, 80, 78, 71, 13));
    const bitmap = { id: 'hash', type: 'image/png', width: 2, height: 2, asset } as const;
    const reference = { id: 'r', name: 'quay', bitmap: 'hash', x: 0, y: 0, width: 9, height: 9, strength: 1, over: false, hidden: false, locked: false };
    const history = commitEdit(startHistory(emptyDocument('pictured', 'p')), { kind: 'add-reference', reference, bitmap });
    await service.save({ history, draft: null, revision: 0, savedSteps: [] });
    const db = new CheminDatabase();
    expect((await db.assets.toArray()).map(({ hash, bytes }) => [hash, bytes.length])).toEqual([[asset, 5]]);
    const opened = (await service.open('pictured'))!;
    expect(opened.stepsLost).toBe(false);
    expect(presentDocument(opened.history).bitmaps).toEqual([bitmap]);
    expect(presentDocument(goToStep(opened.history, 0)).bitmaps).toEqual([]);
    const [listed] = await service.list(false);
    await service.add({ ...(await service.whole(listed!)), id: 'copy' });
    await service.erase('pictured');
    expect(await db.assets.count()).toBe(1);
    await service.erase('copy');
    expect(await db.assets.count()).toBe(0);
  });

  it('are brought up from the first format, their steps too', async () => {
    const now = emptyDocument('old', 'old');
    const { width, height, unit, background } = now.sheet;
    const { format, id, name, light, artworks, nodes } = now;
    const projection = { family: 'isometric', measure: 'drawing', origin: { x: 150, y: 150 } };
    const document = {
      format,
      id,
      name,
      light,
      artworks,
      nodes,
      version: 1,
      sheet: { width, height, unit, background },
      projection,
      grid: { cell: 8, bold: 5 },
    };
    const after = { ...document, projection: { ...projection, measure: 'true' } };
    const step = { edit: { kind: 'projection', projection: after.projection }, label: 'set projection' };
    const db = new CheminDatabase();
    await db.drawings.put({
      id: 'old',
      name: 'old',
      changed: 1,
      deleted: 0,
      revision: 1,
      document: after,
      base: document,
      position: 1,
      stepCount: 1,
      draft: null,
    } as never);
    await db.steps.put({ drawing: 'old', index: 0, step } as never);
    const opened = (await service.open('old'))!;
    expect(opened.stepsLost).toBe(false);
    expect(presentDocument(opened.history).projection).toMatchObject({ kind: 'axonometric', measure: 'true' });
    expect((await service.list(false))[0]!.document.version).toBe(DOCUMENT_VERSION);
  });
});

describe('writing that is cut off', () => {
  /** Lets a number of writes through, then fails every one, as a browser does that is closed. */
  function cutAfter(writes: number): { readonly made: () => number } {
    let made = 0;
    for (const method of ['put', 'add', 'delete'] as const) {
      const whole = IDBObjectStore.prototype[method] as (...args: unknown[]) => IDBRequest;
      jest.spyOn(IDBObjectStore.prototype, method).mockImplementation(function (this: IDBObjectStore, ...args: unknown[]): never {
        if (++made > writes) throw new DOMException('the browser was closed', 'AbortError');
        return whole.apply(this, args) as never;
      });
    }
    return { made: () => made };
  }

  it('leaves a drawing that can be opened, with all that it names, wherever it is cut', async () => {
    const bring = async (fill: number): Promise<string> => service.bring(new Uint8Array(20).fill(fill));
    const svg = `<svg viewBox="0 0 9 9">${'<path d="M0 0L9 0L9 9Z"/>'.repeat(300)}</svg>`;
    const reference = (id: string): never => ({ id, name: id, bitmap: id, x: 0, y: 0, width: 9, height: 9, strength: 1, over: false, hidden: false, locked: false }) as never; // prettier-ignore
    let cut = 0;
    for (let done = false; !done; cut++) {
      await Dexie.delete('chemin');
      TestBed.resetTestingModule();
      service = TestBed.inject(DrawingsService);
      const bitmap = { id: 'first', asset: await bring(1), type: 'image/png', width: 2, height: 2 } as const;
      const first = commitEdit(titled('before'), { kind: 'add-reference', reference: reference('first'), bitmap });
      await service.save({ history: first, draft: null, revision: 0, savedSteps: [] });
      const count = cutAfter(cut);
      const other = { id: 'second', asset: await bring(2), type: 'image/png', width: 2, height: 2 } as const;
      const second = commitEdit(commitEdit(first, { kind: 'add-reference', reference: reference('second'), bitmap: other }), { kind: 'add', nodes: [], artworks: [{ id: 'art', name: 'art', svg, width: 9, height: 9 }] }); // prettier-ignore
      await service.save({ history: second, draft: null, revision: 1, savedSteps: first.steps }).catch(() => undefined);
      done = count.made() <= cut;
      jest.restoreAllMocks();
      // Another page, which has nothing in its memory.
      TestBed.resetTestingModule();
      const fresh = TestBed.inject(DrawingsService);
      const opened = (await fresh.open('one'))!;
      const document = presentDocument(opened.history);
      expect([opened.stepsLost, document.name]).toEqual([false, 'before']);
      expect([1, 2]).toContain(document.bitmaps.length);
      for (const { asset } of document.bitmaps) expect(await fresh.asset(asset)).toHaveLength(20);
      for (const artwork of document.artworks) expect(artwork.svg).toBe(svg);
      if (done) expect([document.bitmaps.length, document.artworks.length]).toEqual([2, 1]);
    }
    expect(cut).toBeGreaterThan(4);
  });
});

describe('fonts of lettering', () => {
  it('stay as long as a drawing, its undo or a kept object names them', async () => {
    const written = (key: string, id: string): DocumentNode => ({ kind: 'group', id, name: id, hidden: false, locked: false, children: [], lettering: { kind: 'font', text: 'A', font: key, cap: 1, letter: 0, word: 0, line: 1, align: 'left' } }); // prettier-ignore
    const [here, undone, kept, gone] = await Promise.all([1, 2, 3, 4].map((n) => service.bring(Uint8Array.of(n))));
    let history = commitEdit(startHistory(emptyDocument('one', 'start')), { kind: 'add', nodes: [written(undone!, 'x')], artworks: [] });
    history = commitEdit(history, { kind: 'change', nodes: [written(here!, 'x')] });
    await service.save({ history, draft: null, revision: 0, savedSteps: [] });
    const db = new CheminDatabase();
    await db.objects.put({ id: 'o', name: 'o', part: JSON.stringify({ nodes: [written(kept!, 'y')] }) });
    await service.add({ ...emptyDocument('two', 'two'), nodes: [written(gone!, 'z')] });
    expect(await service.assetsOf(presentDocument(history))).toEqual(new Map([[here, Uint8Array.of(1)]]));
    await service.erase('two');
    expect((await db.assets.toCollection().primaryKeys()).sort()).toEqual([here, undone, kept].sort());
  });
});

describe('what was kept before pictures were assets', () => {
  it('is brought up, bytes and all', async () => {
    const old = new Dexie('chemin');
    old.version(1).stores({ drawings: 'id, changed, deleted', steps: '[drawing+index], drawing', settings: 'key' });
    old.version(2).stores({ bitmaps: 'id', setups: 'id, name' });
    const id = 'ab'.repeat(16);
    const bitmap = { id, type: 'image/png', width: 2, height: 2, data: '' };
    const reference = { id: 'r', name: 'quay', bitmap: id, x: 0, y: 0, width: 9, height: 9, strength: 1, over: false, hidden: false, locked: false };
    const base = { ...emptyDocument('old', 'old'), version: 3 };
    await old.table('bitmaps').put({ ...bitmap, data: btoa('bytes') });
    await old.table('drawings').put({ id: 'old', name: 'old', changed: 1, deleted: 0, revision: 1, document: { ...base, bitmaps: [bitmap], references: [reference] }, base, position: 1, stepCount: 1, draft: null }); // prettier-ignore
    await old.table('steps').put({ drawing: 'old', index: 0, step: { edit: { kind: 'add-reference', reference, bitmap }, label: 'add reference' } });
    old.close();
    const opened = (await service.open('old'))!;
    expect(opened.stepsLost).toBe(false);
    const [there] = presentDocument(opened.history).bitmaps;
    expect(new TextDecoder().decode((await service.asset(there!.asset))!)).toBe('bytes');
  });
});
