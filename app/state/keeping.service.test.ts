import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import { documentAt, emptyDocument } from '@core';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { CheminDatabase } from '../platform/database';
import { DrawingsService } from '../platform/drawings.service';
import { KeepingService } from './keeping.service';

const settle = async (ms = 0): Promise<void> => {
  await new Promise((done) => setTimeout(done, ms));
  TestBed.tick();
};

beforeEach(async () => {
  // Pages of the test before still hold the database; asking them to let go is what is meant here.
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  await Dexie.delete('chemin');
  let serial = 0;
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: { randomUUID: () => `uuid-${++serial}` } });
  TestBed.resetTestingModule();
});

/** Begins while storage is asked what was open last and does not answer; what comes back makes it answer. */
async function beginUnanswered(): Promise<() => void> {
  let answer = (): void => undefined;
  const asked = jest.spyOn(TestBed.inject(DrawingsService), 'setting').mockReturnValueOnce(new Promise((done) => (answer = () => done(undefined))));
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'nextTick', 'queueMicrotask'] });
  const begun = TestBed.inject(KeepingService).begin();
  await jest.advanceTimersByTimeAsync(3100);
  jest.useRealTimers();
  await begun;
  asked.mockRestore();
  return () => answer();
}

describe('keeping', () => {
  it('opens the demo at the first visit and what was open last at the next', async () => {
    await TestBed.inject(KeepingService).begin();
    expect(TestBed.inject(DocumentStore).kept().name).toBe('Quay Nine: landing');
    await TestBed.inject(KeepingService).adopt(emptyDocument('x', 'mine'));
    TestBed.resetTestingModule();
    await TestBed.inject(KeepingService).begin();
    expect(TestBed.inject(DocumentStore).kept().name).toBe('mine');
  });

  it('saves within a second of a change, and says how long ago', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const store = TestBed.inject(DocumentStore);
    store.commit({ kind: 'title', name: 'changed' });
    TestBed.tick();
    await settle(600);
    const [kept] = await TestBed.inject(DrawingsService).list(false);
    expect(kept!.name).toBe('changed');
    expect(keeping.words()).toMatch(/^saved \d+\u2009s ago, in this browser$/);
  });

  it('goes on and offers a copy when another page has changed the drawing', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const store = TestBed.inject(DocumentStore);
    await TestBed.inject(DrawingsService).rename(store.kept().id, 'changed elsewhere');
    store.commit({ kind: 'title', name: 'changed here' });
    await keeping.saveNow();
    expect(keeping.saving()).toBe('behind');
    const message = TestBed.inject(MessageStore).messages().at(-1)!;
    expect(message.title).toContain('changed in another page');
    message.action!.run();
    await settle(300);
    const names = (await TestBed.inject(DrawingsService).list(false)).map((d) => d.name).sort();
    expect(names).toEqual(['changed elsewhere', 'changed here, copy']);
  });

  it('says at once when storage refuses, and work goes on', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const drawings = TestBed.inject(DrawingsService);
    jest.spyOn(drawings, 'save').mockRejectedValue(new Error('The quota is used up.'));
    const store = TestBed.inject(DocumentStore);
    store.commit({ kind: 'title', name: 'unsaved' });
    await keeping.saveNow();
    expect(keeping.saving()).toBe('failed');
    expect(keeping.words()).toBe('not saved');
    expect(TestBed.inject(MessageStore).messages().at(-1)!.lines).toContain('The quota is used up.');
    store.commit({ kind: 'title', name: 'still working' });
    expect(store.kept().name).toBe('still working');
  });

  it('is tried again when there may be room, told once, and told in words', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const save = jest.spyOn(TestBed.inject(DrawingsService), 'save').mockRejectedValue(new DOMException('x', 'QuotaExceededError'));
    TestBed.inject(DocumentStore).commit({ kind: 'title', name: 'no room' });
    await keeping.saveNow();
    expect(keeping.reason()).toMatch(/is full/);
    const { messages, close } = TestBed.inject(MessageStore);
    close(messages().at(-1)!.id);
    const tries = save.mock.calls.length;
    const tick = (keeping as unknown as { tick: () => void }).tick.bind(keeping);
    for (let second = 0; second < 10; second++) tick();
    await keeping.saveNow();
    expect(save.mock.calls.length).toBeGreaterThan(tries);
    expect(messages().filter(({ title }) => title.includes('could not keep'))).toHaveLength(0);
    save.mockRestore();
    for (let second = 0; second < 10; second++) tick();
    await keeping.saveNow();
    expect(keeping.saving()).toBe('saved');
  });

  it('is not left without storage that answers while the demo is being fetched', async () => {
    const drawings = TestBed.inject(DrawingsService);
    let answer = (): void => undefined;
    jest.spyOn(drawings, 'setting').mockReturnValueOnce(new Promise((done) => (answer = () => done(undefined))));
    const keeping = TestBed.inject(KeepingService);
    const demo = jest.spyOn(keeping as unknown as { firstDemo: () => Promise<unknown> }, 'firstDemo').mockImplementationOnce(async () => {
      answer();
      return emptyDocument('demo', 'fetched late');
    });
    jest.useFakeTimers({ doNotFake: ['setImmediate', 'nextTick', 'queueMicrotask'] });
    const begun = keeping.begin();
    await jest.advanceTimersByTimeAsync(3100);
    jest.useRealTimers();
    await begun;
    expect(demo).toHaveBeenCalled();
    expect(TestBed.inject(DocumentStore).kept().name).toBe('Quay Nine: landing');
    expect(TestBed.inject(MessageStore).messages()).toEqual([]);
    TestBed.inject(DocumentStore).commit({ kind: 'title', name: 'kept' });
    await keeping.saveNow();
    expect((await drawings.list(false)).map(({ name }) => name)).toEqual(['kept']);
  });

  it('begins a new drawing without storage, which is kept when it answers', async () => {
    const drawings = TestBed.inject(DrawingsService);
    const save = jest.spyOn(drawings, 'save');
    const keeping = TestBed.inject(KeepingService);
    const answer = await beginUnanswered();
    await keeping.startEmpty();
    const store = TestBed.inject(DocumentStore);
    expect(store.kept().name).toBe('Untitled drawing');
    expect(save).not.toHaveBeenCalled();
    answer();
    while (keeping.saving() !== 'saved') await settle(20);
    expect(store.kept().name).toBe('Untitled drawing');
    expect((await drawings.list(false)).map(({ name }) => name)).toEqual(['Untitled drawing']);
  });

  it('works without storage that does not answer, and keeps what was made when it does', async () => {
    const drawings = TestBed.inject(DrawingsService);
    const keeping = TestBed.inject(KeepingService);
    const answer = await beginUnanswered();
    const store = TestBed.inject(DocumentStore);
    expect([store.open(), keeping.saving()]).toEqual([true, 'failed']);
    expect(TestBed.inject(MessageStore).messages().at(-1)!.title).toMatch(/does not answer/);
    store.commit({ kind: 'title', name: 'made meanwhile' });
    answer();
    while (keeping.saving() !== 'saved') await settle(20);
    expect((await drawings.list(false)).map(({ name }) => name)).toEqual(['made meanwhile']);
    expect(store.kept().name).toBe('made meanwhile');
  });

  it('writes all steps anew where storage was deleted under the page', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.adopt(emptyDocument('gone', 'first'));
    const store = TestBed.inject(DocumentStore);
    store.commit({ kind: 'title', name: 'second' });
    await keeping.saveNow();
    const db = new CheminDatabase();
    await db.drawings.clear();
    await db.steps.clear();
    store.commit({ kind: 'title', name: 'third' });
    await keeping.saveNow();
    const opened = (await TestBed.inject(DrawingsService).open(store.kept().id))!;
    expect([opened.stepsLost, opened.history.steps.length]).toEqual([false, 2]);
    expect(documentAt(opened.history, 1).name).toBe('second');
  });

  it('waits with a project file until something is open', async () => {
    const keeping = TestBed.inject(KeepingService);
    let saved = false;
    const file = jest
      .spyOn(TestBed.inject(DrawingsService), 'assetsOf')
      .mockImplementation(() => Promise.resolve(((saved = true), new Map<string, Uint8Array>())));
    void keeping.saveFile().catch(() => undefined);
    await settle();
    expect(saved).toBe(false);
    await keeping.begin();
    await settle();
    expect(saved).toBe(true);
    file.mockRestore();
  });

  it('asks before work that cannot be saved is left, and keeps it as a copy, lets it go, or stays', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const drawings = TestBed.inject(DrawingsService);
    const store = TestBed.inject(DocumentStore);
    const full = jest.spyOn(drawings, 'save').mockRejectedValue(new Error('The quota is used up.'));
    store.commit({ kind: 'title', name: 'precious' });
    const staying = keeping.startEmpty();
    await settle(50);
    keeping.asking()!('stay');
    await staying;
    expect(store.kept().name).toBe('precious');
    const copying = keeping.startEmpty();
    await settle(50);
    full.mockRestore();
    keeping.asking()!('copy');
    await copying;
    expect((await drawings.list(false)).map((d) => d.name)).toEqual(expect.arrayContaining(['precious, copy', 'Untitled drawing']));
    expect(store.kept().name).toBe('Untitled drawing');
    const again = jest.spyOn(drawings, 'save').mockRejectedValue(new Error('The quota is used up.'));
    store.commit({ kind: 'title', name: 'not so precious' });
    const leaving = keeping.startEmpty();
    await settle(50);
    again.mockRestore();
    keeping.asking()!('leave');
    await leaving;
    expect(store.kept().name).toBe('Untitled drawing');
  });

  it('asks a page that is behind another before it leaves, and keeps its steps in the copy', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.begin();
    const store = TestBed.inject(DocumentStore);
    const drawings = TestBed.inject(DrawingsService);
    await drawings.rename(store.kept().id, 'changed elsewhere');
    store.commit({ kind: 'title', name: 'changed here' });
    for (let i = 0; i < 6; i++) TestBed.inject(MessageStore).say('warn', `message ${i}`);
    const leaving = keeping.startEmpty();
    await settle(50);
    expect(
      TestBed.inject(MessageStore)
        .messages()
        .some((m) => m.action?.label === 'Keep as a copy'),
    ).toBe(true);
    keeping.asking()!('copy');
    await leaving;
    const copy = (await drawings.list(false)).find((d) => d.name === 'changed here, copy')!;
    expect((await drawings.open(copy.id))!.history.steps).toHaveLength(2);
  });

  it('opens the last good state of a damaged drawing as one of its own, and leaves the damaged one as it is', async () => {
    const keeping = TestBed.inject(KeepingService);
    await keeping.adopt(emptyDocument('x', 'good'));
    const store = TestBed.inject(DocumentStore);
    store.commit({ kind: 'title', name: 'better' });
    await keeping.saveNow();
    const { id } = store.kept();
    const db = new CheminDatabase();
    const damaged = { ...store.kept(), sheet: { ...store.kept().sheet, width: -1 } };
    await db.drawings.update(id, { document: damaged, stepCount: 2 });
    await db.steps.put({ drawing: id, index: 1, step: { label: 'x', edit: { kind: 'sheet', sheet: damaged.sheet } } });
    TestBed.resetTestingModule();
    const next = TestBed.inject(KeepingService);
    await next.begin();
    const opened = TestBed.inject(DocumentStore);
    expect(opened.kept().name).toBe('better, recovered');
    expect(opened.kept().id).not.toBe(id);
    expect(opened.history().documents.map((_, i) => documentAt(opened.history(), i).name)).toEqual(['good', 'better', 'better, recovered']);
    const message = TestBed.inject(MessageStore).messages().at(-1)!;
    expect([message.title, message.action?.label]).toEqual(['“better” cannot be read', 'Save its raw file']);
    expect((await db.drawings.get(id))!.document).toEqual(damaged);
    expect(JSON.parse(await TestBed.inject(DrawingsService).raw(id))).toMatchObject({ drawing: { id }, steps: [{}, {}] });
    // The next visit opens what was recovered, not one more of it.
    const count = await db.drawings.count();
    TestBed.resetTestingModule();
    await TestBed.inject(KeepingService).begin();
    expect([TestBed.inject(DocumentStore).kept().name, await db.drawings.count()]).toEqual(['better, recovered', count]);
  });

  it('passes over a drawing of which nothing can be read, and keeps what is done instead at every visit', async () => {
    const db = new CheminDatabase();
    await db.drawings.put({ id: 'bad', name: 'bad', changed: 9e15, deleted: 0, revision: 1, document: null, base: null, position: 0, stepCount: 0, draft: null } as never); // prettier-ignore
    for (const name of ['first visit', 'second visit']) {
      TestBed.resetTestingModule();
      await TestBed.inject(DrawingsService).setSetting('open', 'bad');
      const keeping = TestBed.inject(KeepingService);
      await keeping.begin();
      await keeping.adopt(emptyDocument('x', name));
    }
    expect((await db.drawings.toArray()).map((d) => d.name)).toEqual(expect.arrayContaining(['bad', 'first visit', 'second visit']));
  });
});
