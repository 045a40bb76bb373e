import { TestBed } from '@angular/core/testing';
import { importSvg, PART_TYPE, readResolvedSvg, type DocumentNode, type ShapeNode } from '@core';
import { CommandsService } from './commands.service';
import { MessageStore } from '../platform/messages.store';
import { PictureService } from './picture.service';
import { boxNode, openDrawing } from '../testing/page';
import { ClipboardService } from './clipboard.service';
import { SvgReaderService } from '../platform/svg-reader.service';

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="48" height="24"><path d="M0 0H48V24H0Z" fill="#336699"/></svg>';

/** A copy or paste event that holds these texts by their types. */
function event(texts: Record<string, string> = {}): ClipboardEvent {
  const data = { files: [], getData: (type: string) => texts[type] ?? '', setData: (type: string, text: string) => (texts[type] = text) };
  return { clipboardData: data } as unknown as ClipboardEvent;
}

function readOnPage(): void {
  TestBed.configureTestingModule({
    providers: [{ provide: SvgReaderService, useValue: { read: (text: string) => Promise.resolve(importSvg(text, (t) => t)) } }],
  });
}

const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 0));

describe('the clipboard', () => {
  it('carries things exactly, and as SVG for other software; pasted in place they go a cell aside', async () => {
    readOnPage();
    const { store, view } = openDrawing({ ...boxNode('a'), depth: 0 });
    const service = TestBed.inject(ClipboardService);
    view.select(['a']);
    // What writes SVG comes with the first selection.
    TestBed.tick();
    await settled();
    const texts: Record<string, string> = {};
    expect(service.fill(event(texts))).toBe(true);
    const svg = readResolvedSvg(texts['image/svg+xml']!);
    expect(svg.ok && svg.value.marks.length).toBeGreaterThan(0);
    expect(service.take(event({ [PART_TYPE]: texts[PART_TYPE]! }))).toBe(true);
    expect((store.kept().nodes[1] as ShapeNode).outline.points[0]).toMatchObject({ u: 1, v: 1 });
    view.select([]);
    expect(service.fill(event())).toBe(false);
  });

  it('makes shapes of pasted SVG on the plane that is drawn on, and colours of colour text', async () => {
    readOnPage();
    const { store, view } = openDrawing();
    const service = TestBed.inject(ClipboardService);
    view.setPlane('right');
    expect(service.take(event({ 'text/plain': SVG }))).toBe(true);
    await settled();
    const [shape] = store.kept().nodes as ShapeNode[];
    expect(shape).toMatchObject({ plane: { kind: 'right' }, paint: { fill: '#336699', line: null } });
    // 48 px are 12.7 mm.
    const [p, q] = shape!.outline.points;
    expect(Math.hypot(q!.u - p!.u, q!.v - p!.v) * 8).toBeCloseTo(12.7, 2);
    view.select([]);
    expect(service.take(event({ 'text/plain': 'oklch(60% 0 0)' }))).toBe(true);
    expect(view.paint().fill).toBe('#808080');
    expect(service.take(event({ 'text/plain': 'only words' }))).toBe(false);
  });

  it('lays copied artwork on the face that it lay on, a cell aside, and says what was left out elsewhere', async () => {
    readOnPage();
    const flag: DocumentNode = { kind: 'placement', id: 'flag', name: 'flag', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: 'a', face: 'end' }, anchor: { at: { a: 1, b: 1, h: 3 }, width: 1, height: 1 } }; // prettier-ignore
    const { store, view } = openDrawing(boxNode('a'));
    store.commit({
      kind: 'add',
      nodes: [flag],
      artworks: [{ id: 'art', name: 'art', svg: '<svg viewBox="0 0 4 4"><path d="M0 0H4V4Z"/></svg>', width: 4, height: 4 }],
    });
    const service = TestBed.inject(ClipboardService);
    view.select(['a']);
    TestBed.tick();
    await settled();
    const copied = (...ids: string[]): string => {
      const texts: Record<string, string> = {};
      view.select(ids);
      service.fill(event(texts));
      return texts[PART_TYPE]!;
    };
    const [alone, both] = [copied('flag'), JSON.parse(copied('a', 'flag')) as { nodes: DocumentNode[] }];
    service.take(event({ [PART_TYPE]: alone }));
    expect(store.kept().nodes[2]).toMatchObject({ target: { node: 'a', face: 'end' }, anchor: { at: { a: 2, b: 2, h: 3 } } });
    store.commit({ kind: 'delete', ids: ['a'] });
    const { messages } = TestBed.inject(MessageStore);
    service.take(event({ [PART_TYPE]: alone }));
    expect([store.kept().nodes, messages().at(-1)!.lines]).toEqual([[], ['Copy its solid with it.']]);
    // With another thing beside it, that comes.
    service.take(event({ [PART_TYPE]: JSON.stringify({ ...both, nodes: [{ ...both.nodes[0]!, id: 'other' }, both.nodes[1]!] }) }));
    expect([store.kept().nodes.length, messages().at(-1)!.lines]).toEqual([1, ['One of them was left out: copy its solid with it.']]);
  });

  it('refuses what is damaged with its place, and changes nothing', async () => {
    readOnPage();
    const { store } = openDrawing({ ...boxNode('a'), depth: 0 });
    const service = TestBed.inject(ClipboardService);
    const before = store.kept();
    service.take(event({ [PART_TYPE]: '{"format":"chemin-part","version":3,"cell":8,"nodes":[{"kind":"shape"}],"artworks":[],"swatches":[]}' }));
    service.take(event({ 'text/plain': '<!DOCTYPE svg [<!ENTITY a "x"><!ENTITY b "&a;&a;">]><svg/>' }));
    await settled();
    const [message] = TestBed.inject(MessageStore).messages();
    expect(message).toMatchObject({ tone: 'bad', title: 'What was copied cannot be pasted' });
    expect(store.kept()).toBe(before);
  });
});

it('hides all but the selection for the eye alone, and zooms to it', () => {
  const { store, view } = openDrawing({ ...boxNode('a'), depth: 0 }, { ...boxNode('b', [8, 0], [12, 4]), depth: 0 });
  const commands = TestBed.inject(CommandsService);
  view.select(['b']);
  commands.run('view.alone');
  expect(
    TestBed.inject(PictureService)
      .picture()
      .visible.map((v) => v.node),
  ).toEqual(['b']);
  expect(store.history().steps).toHaveLength(0);
  commands.run('view.alone');
  expect(TestBed.inject(PictureService).picture().visible).toHaveLength(2);
  const zoom = view.zoom();
  commands.run('view.selection');
  expect(view.zoom()).toBeGreaterThan(zoom * 2);
});
