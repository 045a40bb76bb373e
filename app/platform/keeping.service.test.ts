import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import { emptyDocument } from '@core';
import { DocumentStore } from '../state/document.store';
import { MessageStore } from '../state/messages.store';
import { DrawingsService } from './drawings.service';
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
    expect(keeping.words()).toBe('not saved: export the project');
    expect(TestBed.inject(MessageStore).messages().at(-1)!.lines).toContain('The quota is used up.');
    store.commit({ kind: 'title', name: 'still working' });
    expect(store.kept().name).toBe('still working');
  });
});
