import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { checkDocument, PictureMaker, startHistory, type CheminDocument } from '@core';
import { handedSheet, svgFromSheet } from '@later';
import { runs } from '../../core/testing/random';
import { ToolRunnerService } from '../drawing/tool-runner.service';
import { MessageStore } from '../platform/messages.store';
import { AidsStore } from '../state/aids.store';
import { CommandsService } from '../state/commands.service';
import { DocumentStore } from '../state/document.store';
import { PhotosService } from '../features/photo/photos.service';
import { PictureService } from '../state/picture.service';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';
import { lockedIds } from '../tools/tool';
import { chosenOf, drawingOf, KINDS } from '../../core/testing/kinds';
import { openDrawing } from './page';

/** Commands that go beyond the drawing, and why they have no cells here. */
const BEYOND: readonly (readonly [RegExp, string])[] = [
  [/^document\./, 'open and save files and other drawings'],
  [/^(paste|copy|cut)$/, 'need the clipboard of a browser'],
  [/^(reference|artwork)\.add$|^photo\.take$/, 'ask for files'],
  [/^output\.(png|pdf|grid-png)$|^photo\.(png|jpeg|both)$/, 'need a canvas or a worker; what they are made of is checked for every kind here'],
];

/** Where a command is done and nothing is to be seen of it, and why. */
const NOTHING_TO_SEE: Readonly<Record<string, string>> = {
  'plane.floor': 'the floor is drawn on already',
  'plane.under': 'the pointer is nowhere',
  'view.fit': 'the whole sheet is shown already',
  'view.final': 'is shown in its final size already',
  'select.all': 'all is selected already',
  rename: 'opens the name in the contents, which are not here',
  'sheet.centre': 'is in the middle already',
  'stage.draw': 'is gone to already',
  'tool.pick': 'is in hand already',
  'use.isometric': 'is so already',
  'output.svg': 'is downloaded',
  'output.grid-svg': 'is downloaded',
  'photo.solve': 'reads the photographs where the worker is',
  'output.practise': 'waits for solids that are joined where the kernel is',
};

type Sort = 'changes the drawing' | 'changes the view' | 'is refused with a reason' | 'says what it does or why not' | 'has nothing to show';
const counts = new Map<Sort, number>();
const count = (sort: Sort): void => void counts.set(sort, (counts.get(sort) ?? 0) + 1);

/** Commands that are the same whatever is selected, and the kinds on which they are done all the same. */
const WHATEVER = /^(plane|offset|view|stage|find|keys|steps|undo|redo|tool|projection)\b/;
const SOME = ['box', 'thing in a group', 'artwork on a face', 'empty group'];
/** Kinds that differ from others by their outline alone: all of them in the long run. */
const ALIKE = ['prism', 'wedge', 'pyramid', 'steps', 'arch', 'tube', 'frame', 'ball', 'dome'];
const ALL = runs(1) > 1;

let serial = 0;

/** A drawing that nobody has opened before. */
const fresh = (kind: string): CheminDocument => ({ ...drawingOf(kind), id: `kinds-${serial++}` });

/** Opens the page with a kind of thing in it, which is selected. */
function page(): {
  readonly open: (document: CheminDocument, chosen: string | null) => void;
  readonly state: () => string;
  readonly said: () => readonly string[];
} {
  openDrawing();
  const [store, view, messages, aids] = [DocumentStore, ViewStore, MessageStore, AidsStore].map((token) => TestBed.inject(token as never)) as [InstanceType<typeof DocumentStore>, InstanceType<typeof ViewStore>, InstanceType<typeof MessageStore>, InstanceType<typeof AidsStore>]; // prettier-ignore
  return {
    open: (document, chosen) => {
      store.load(startHistory(document));
      view.patch({ panel: 'none', alone: null });
      view.setStage('draw', []);
      view.setTool('pick');
      view.putPlane({ kind: 'floor', offset: 0 });
      view.fit(300, 200);
      view.select(chosen === null ? [] : [chosen]);
      aids.forget();
      TestBed.inject(PhotosService).comparing.set(false);
      messages.messages().forEach(({ id }) => messages.close(id));
      TestBed.tick();
    },
    state: () => JSON.stringify([...[view.stage, view.tool, view.plane, view.zoom, view.panX, view.grid, view.snapping, view.seeThrough, view.selection, view.panel, view.alone, view.theme, view.rulers, view.frameTakes, view.page, view.vision], ...[aids.onTop, aids.cone, aids.figure, aids.comparing, store.preview, TestBed.inject(PhotosService).comparing]].map((part) => part())), // prettier-ignore
    said: () => messages.messages().flatMap(({ title, lines }) => [title, ...lines]),
  };
}

/** What must be true of every drawing that an act has made of another. @param pictured whether its picture and file are made too */
function holds(act: string, before: CheminDocument, pictured: boolean): void {
  const store = TestBed.inject(DocumentStore);
  const after = store.kept();
  const read = checkDocument(JSON.parse(JSON.stringify(after)));
  expect([act, read.ok ? [] : read.problems]).toEqual([act, []]);
  const picture = pictured ? TestBed.inject(PictureService).exact() : new PictureMaker().make({ ...after, nodes: [] });
  const svg = svgFromSheet(handedSheet(after, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true }), act);
  expect([act, /NaN|Infinity|undefined/.exec(svg)?.[0] ?? '']).toEqual([act, '']);
  const { position } = store.history();
  while (store.history().position > 0) store.undo();
  expect([act, store.kept()]).toEqual([act, before]);
  while (store.history().position < position) store.redo();
  expect([act, store.kept()]).toEqual([act, after]);
}

jest.setTimeout(600_000);
beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  Object.assign(URL, { createObjectURL: () => 'blob:', revokeObjectURL: () => undefined });
  TestBed.resetTestingModule();
});
afterAll(() => console.log(`cells: ${[...counts].map(([sort, n]) => `${n} ${sort}`).join(', ')}`));

describe.each(Object.keys(KINDS).filter((kind) => ALL || !ALIKE.includes(kind)))('on what is %s', (kind) => {
  it('every command does something, or says why not', async () => {
    const { open, state, said } = page();
    const store = TestBed.inject(DocumentStore);
    const commands = TestBed.inject(CommandsService);
    const silent: string[] = [];
    for (const { id, title } of commands.all()) {
      if (BEYOND.some(([which]) => which.test(id)) || (WHATEVER.test(id) && !SOME.includes(kind))) continue;
      const document = fresh(kind);
      open(document, chosenOf(kind));
      const before = state();
      const why = commands.why(id);
      if (why !== null) {
        expect([id, why]).toEqual([id, expect.stringMatching(/^(Select|Choose|There is|The sheet|Nothing) ?.*\.$/)]);
        count('is refused with a reason');
        continue;
      }
      commands.run(id);
      await new Promise((go) => setTimeout(go, 0));
      TestBed.tick();
      if (store.sheetOf() !== null) count('changes the view');
      else if (store.kept() !== document) {
        count('changes the drawing');
        // How every kind is seen in every projection is checked with pictures.
        holds(`${title} (${id})`, document, !id.startsWith('use.'));
        const locked = lockedIds(document.nodes);
        if (!['lock', 'hide', 'group'].includes(id))
          for (const one of locked) expect([id, JSON.stringify(store.kept().nodes).includes(`"id":"${one}"`)]).toEqual([id, true]);
      } else if (said().length > 0) count('says what it does or why not');
      else if (state() !== before) count('changes the view');
      else if (id in NOTHING_TO_SEE) count('has nothing to show');
      else silent.push(id);
    }
    expect(silent).toEqual([]);
  });

  it('every tool is pressed, dragged, ended and given up, and leaves a drawing that is right', async () => {
    const { open } = page();
    const [store, view, tools, stages] = [TestBed.inject(DocumentStore), TestBed.inject(ViewStore), TestBed.inject(ToolRunnerService), TestBed.inject(StagesService)]; // prettier-ignore
    const done = new Set<string>();
    for (const stage of stages.here()) {
      for (const { name, title } of stage.tools) {
        if (done.has(name)) continue;
        done.add(name);
        const document = fresh(kind);
        open(document, chosenOf(kind));
        stages.go(stage.name, name);
        TestBed.tick();
        const chosen = TestBed.inject(PictureService).picture().visible.filter(({ node }) => node === chosenOf(kind)); // prettier-ignore
        const polygon = Array.from(chosen.at(-1)?.polygon ?? [150, 100, 160, 100, 160, 110]);
        const mean = (rest: 0 | 1): number => (2 * polygon.filter((_, i) => i % 2 === rest).reduce((sum, x) => sum + x, 0)) / polygon.length;
        const px = (dx: number, dy: number): { x: number; y: number } => ({ x: (mean(0) + dx) * view.zoom() + view.panX(), y: (mean(1) + dy) * view.zoom() + view.panY() }); // prettier-ignore
        const how = { lock: false, free: false };
        tools.point('move', px(0, 0), how);
        tools.point('down', px(0, 0), how);
        tools.point('move', px(12, -7), how);
        tools.point('up', px(12, -7), how);
        tools.point('down', px(20, 4), how);
        tools.point('up', px(20, 4), how);
        tools.ghost();
        tools.key('Enter');
        tools.key('Backspace');
        tools.key('Escape');
        await new Promise((go) => setTimeout(go, 0));
        TestBed.tick();
        expect([name, store.preview()]).toEqual([name, null]);
        const changed = store.kept() !== document;
        count(changed ? 'changes the drawing' : 'changes the view');
        if (changed) holds(`${title} (${name})`, document, false);
      }
    }
  });
});
