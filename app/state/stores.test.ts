import { TestBed } from '@angular/core/testing';
import { emptyDocument, rectangleOutline, startHistory, type DocumentNode } from '@core';
import { openDrawing } from '../testing/page';
import { DocumentStore } from './document.store';
import { CommandsService } from './commands.service';
import { HELD_KEYS, keyName } from './keys';
import { MessageStore } from '../platform/messages.store';
import { PX_PER_MM, ViewStore } from './view.store';

const box: DocumentNode = {
  kind: 'shape', id: 'box', name: 'box', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), depth: 1, paint: { fill: '#c98a4b', line: null },
}; // prettier-ignore

beforeEach(() => TestBed.resetTestingModule());

describe('the document store', () => {
  it('shows a gesture before it is made, and keeps one step of it', () => {
    const store = TestBed.inject(DocumentStore);
    store.load(startHistory({ ...emptyDocument('d', 'd'), nodes: [box] }));
    for (const depth of [2, 3, 4]) store.show({ kind: 'depth', id: 'box', depth });
    expect(store.shown().nodes[0]).toMatchObject({ depth: 4 });
    expect(store.kept().nodes[0]).toMatchObject({ depth: 1 });
    store.commit({ kind: 'depth', id: 'box', depth: 4 }, 'set depth of box');
    expect(store.undoLabel()).toBe('set depth of box');
    store.undo();
    expect([store.canUndo(), store.canRedo(), store.redoLabel()]).toEqual([false, true, 'set depth of box']);
    store.redo();
    expect(store.shown().nodes[0]).toMatchObject({ depth: 4 });
  });

  it('shows nothing that does not fit', () => {
    const store = TestBed.inject(DocumentStore);
    store.load(startHistory(emptyDocument('d', 'd')));
    store.show({ kind: 'depth', id: 'nobody', depth: 1 });
    expect(store.preview()).toBeNull();
    expect(store.entries()).toEqual([]);
  });
});

describe('the view store', () => {
  it('zooms about a point that stays where it is, within limits', () => {
    const view = TestBed.inject(ViewStore);
    view.look(2, 100, 50);
    view.zoomAt(2, 300, 150);
    expect([view.zoom(), view.panX(), view.panY()]).toEqual([4, -100, -50]);
    view.zoomAt(1e9, 0, 0);
    expect(view.zoom()).toBeCloseTo(64 * PX_PER_MM, 6);
  });

  it('fits a sheet, and keeps a tool that the next stage has too', () => {
    const view = TestBed.inject(ViewStore);
    view.patch({ width: 672, height: 600 });
    view.fit(300, 200);
    expect(view.zoom()).toBe(2);
    view.setTool('rectangle');
    view.setStage('build', ['pick', 'depth']);
    expect(view.tool()).toBe('pick');
    view.setPlane('left');
    expect(view.plane()).toEqual({ kind: 'left', offset: 0 });
    // Each plane is drawn on again where it was last.
    view.putPlane({ kind: 'left', offset: 7 });
    view.setPlane('sheet');
    expect(view.plane()).toEqual({ kind: 'sheet', offset: 0 });
    view.setPlane('floor');
    view.setPlane('left');
    expect(view.plane()).toEqual({ kind: 'left', offset: 7 });
    view.setPlane('floor');
    view.forgetOffsets();
    view.setPlane('left');
    expect(view.plane().offset).toBe(0);
  });
});

describe('keys', () => {
  beforeEach(() => {
    TestBed.resetTestingModule();
    openDrawing();
  });
  const commands = (): CommandsService => TestBed.inject(CommandsService);
  const all = (): ReturnType<CommandsService['all']> => commands().all();

  it('belong to one command each', () => {
    const keys = all().flatMap((command) => command.keys);
    expect(new Set(keys).size).toBe(keys.length);
    expect(HELD_KEYS.length).toBeGreaterThan(8);
  });

  it('are no letters in the way of other programs: planes and views alone', () => {
    const letters = all().filter((command) => command.keys.some((k) => /^[A-Z]$/.test(k)));
    expect(letters.every(({ id }) => /^(plane|view)\./.test(id))).toBe(true);
  });

  it('are read with their held keys', () => {
    const event = (key: string, held: object = {}): Parameters<typeof keyName>[0] => ({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held });
    expect(keyName(event('z', { metaKey: true, shiftKey: true }))).toBe('Ctrl+Shift+Z');
    expect(commands().forKey(event('f'))).toBe('plane.floor');
    expect(commands().forKey(event('?', { shiftKey: true }))).toBe('keys');
    expect(commands().forKey(event('y'))).toBeNull();
  });
});

describe('messages', () => {
  it('leave by themselves when all is well, and stay when it is not', () => {
    jest.useFakeTimers();
    const store = TestBed.inject(MessageStore);
    store.say('good', 'done');
    store.say('bad', 'broken', ['why']);
    jest.advanceTimersByTime(10_000);
    expect(store.messages().map((m) => m.title)).toEqual(['broken']);
    store.say('bad', 'broken', ['again']);
    expect(store.messages()).toHaveLength(1);
    jest.useRealTimers();
  });
});
