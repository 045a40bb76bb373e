import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { ellipseOf4, ellipseOutline, emptyDocument, exactCells, findShape, smoothOutline, startHistory, type ShapeNode } from '@core';
import { boxNode, openDrawing, pxOf } from '../testing/page';
import { DocumentStore } from '../state/document.store';
import { HandlesService } from './handles.service';
import { ToolRunnerService } from './tool-runner.service';
import { StagesService } from '../state/stages.service';

const FLOOR = { kind: 'floor', offset: 0 } as const;
const how = { lock: false, free: false };

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

function runner(...nodes: ShapeNode[]): ReturnType<typeof openDrawing> & { tools: ToolRunnerService } {
  const opened = openDrawing(...nodes);
  const tools = TestBed.inject(ToolRunnerService);
  TestBed.tick();
  return { ...opened, tools };
}

describe('the tool runner', () => {
  it('turns presses in px into things of the drawing', () => {
    const { tools, view, store } = runner();
    view.setTool('rectangle');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 1, 1), how);
    tools.point('move', pxOf(FLOOR, 4, 3), how);
    expect(tools.ghost()!.words[0]).toBe('3 × 2\u2009cells');
    expect(tools.busy()).toBe(true);
    tools.point('up', pxOf(FLOOR, 4, 3), how);
    expect(store.kept().nodes).toHaveLength(1);
    expect(view.selection()).toEqual([store.kept().nodes[0]!.id]);
  });

  it('has the tool in hand again that was in hand before a colour was picked', () => {
    const { tools, view } = runner();
    tools.colourReader.set(() => ({ colour: '#123456', from: 'from the drawing' }));
    view.setTool('rectangle');
    TestBed.tick();
    view.setTool('colour');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 1, 1), how);
    expect([view.tool(), view.paint().fill]).toEqual(['rectangle', '#123456']);
  });

  it('gives an event to the tool that was chosen just before it, and keeps that choice', () => {
    const { tools, view, store } = runner();
    view.setTool('place');
    TestBed.tick();
    view.setTool('rectangle');
    tools.point('down', pxOf(FLOOR, 1, 1), how);
    tools.point('up', pxOf(FLOOR, 4, 3), how);
    expect(store.kept().nodes).toHaveLength(1);
    TestBed.tick();
    expect(view.tool()).toBe('rectangle');
  });

  it('takes a press back as long as it has not ended, and nothing of one that has', () => {
    const { tools, view, store } = runner();
    view.setTool('rectangle');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 1, 1), how);
    tools.point('up', pxOf(FLOOR, 4, 3), how);
    const [first] = store.kept().nodes;
    // A second finger turns a press into a pan: the rectangle that it began is not there, the one before is.
    tools.mark();
    tools.point('down', pxOf(FLOOR, 6, 1), how);
    tools.point('up', pxOf(FLOOR, 8, 3), how);
    expect(store.kept().nodes).toHaveLength(2);
    tools.takeBack();
    expect(store.kept().nodes).toEqual([first]);
    expect(view.selection()).toEqual([first!.id]);
    // A press that has ended stays, also when its pointer is lost later.
    tools.mark();
    tools.point('down', pxOf(FLOOR, 6, 1), how);
    tools.point('up', pxOf(FLOOR, 8, 3), how);
    tools.settle();
    tools.takeBack();
    expect(store.kept().nodes).toHaveLength(2);
  });

  it('draws by the keyboard alone: arrow keys move the point, Enter sets it', () => {
    const { tools, view, store } = runner();
    view.setTool('outline');
    TestBed.tick();
    for (const [du, dv] of [
      [1, 0],
      [4, 0],
      [0, 3],
    ] as const) {
      // prettier-ignore
      tools.stepPointer(du, dv);
      tools.key('Enter');
    }
    expect(tools.ghost()!.points).toHaveLength(4);
    tools.key('Enter');
    expect((store.kept().nodes[0] as ShapeNode).outline.points).toHaveLength(3);
  });

  it('raises a height by whole cells with the arrow keys, and Enter takes it', () => {
    const { tools, view, store } = runner(boxNode('beside', [6, 0], [9, 3], 5.5));
    TestBed.inject(StagesService).go('build', 'box');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 0, 0), how);
    tools.point('move', pxOf(FLOOR, 3, 3), how);
    tools.point('up', pxOf(FLOOR, 3, 3), how);
    expect(tools.fields()).toEqual(['height']);
    for (const by of [1, 1, 1, 1, -1]) tools.stepPointer(0, by);
    tools.key('Enter');
    expect((store.kept().nodes[1] as ShapeNode).depth).toBe(3);
    expect(view.tool()).toBe('box');
  });

  it('says why nothing comes of a rectangle without a width', () => {
    const { tools, view, store } = runner();
    view.setTool('rectangle');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 1, 1), how);
    tools.point('move', pxOf(FLOOR, 1, 4), how);
    expect(tools.ghost()!.words).toContain('no width: it bounds nothing');
    expect(tools.type(['0', '3'])).toMatch(/^Nothing comes of these lengths/);
    expect(store.kept().nodes).toEqual([]);
    expect(tools.type(['2', '3'])).toBeNull();
    expect(store.kept().nodes).toHaveLength(1);
  });

  it('takes typed lengths with units, and says which cannot be read', () => {
    const { tools, view, store } = runner();
    view.setTool('rectangle');
    TestBed.tick();
    tools.point('down', pxOf(FLOOR, 0, 0), how);
    tools.point('move', pxOf(FLOOR, 2, 2), how);
    expect(tools.type(['3 +', ''])).toMatch(/not a sum/);
    expect(tools.type(['12 mm', ''])).toBeNull();
    expect((store.kept().nodes[0] as ShapeNode).outline.points[2]).toMatchObject({ u: 1.5, v: 2 });
  });

  it('goes on with what is held while further stages come', () => {
    const { tools, store } = runner(boxNode('box'));
    tools.point('down', pxOf(FLOOR, 2, 2), how);
    tools.point('move', pxOf(FLOOR, 4, 2), how);
    const shown = store.shown();
    expect(shown).not.toBe(store.kept());
    const stages = TestBed.inject(StagesService);
    for (const stage of stages.here()) stages.put({ ...stage, tools: stage.tools.map((tool) => ({ ...tool })) });
    TestBed.tick();
    tools.point('move', pxOf(FLOOR, 5, 2), how);
    tools.point('up', pxOf(FLOOR, 5, 2), how);
    expect(store.undoLabel()).toBe('move');
  });

  it('keeps the outline that is being drawn, and takes it up in the same drawing', async () => {
    const { tools, view, store } = runner();
    view.setTool('outline');
    TestBed.tick();
    for (const u of [0, 3]) for (const kind of ['down', 'up'] as const) tools.point(kind, pxOf(FLOOR, u, 0), how);
    const draft = store.draft();
    expect(draft).toEqual({ plane: FLOOR, points: [{ u: 0, v: 0 }, { u: 3, v: 0 }] }); // prettier-ignore
    tools.key('Backspace');
    tools.key('Backspace');
    expect(store.draft()).toBeNull();
    view.setTool('pick');
    TestBed.inject(DocumentStore).load(startHistory(emptyDocument('other', 'other')), draft);
    TestBed.tick();
    await TestBed.inject(StagesService).loadAll();
    await Promise.resolve();
    expect(view.tool()).toBe('outline');
    expect(tools.ghost()!.points).toHaveLength(2);
  });

  it('ends the step of a tool that is put away', () => {
    const { tools, view, store } = runner();
    view.setTool('outline');
    TestBed.tick();
    for (const u of [0, 3]) for (const kind of ['down', 'up'] as const) tools.point(kind, pxOf(FLOOR, u, 0), how);
    view.setTool('pick');
    TestBed.tick();
    expect(store.kept().nodes[0]).toMatchObject({ outline: { closed: false } });
    tools.leave();
    expect(tools.pointer()).toBeNull();
  });
});

describe('handles', () => {
  it('move points with snapping, curve handles with their opposites, and radii of ellipses about their centre', () => {
    const curve = { ...boxNode('curve'), depth: 0, outline: smoothOutline([{ u: 0, v: 0 }, { u: 4, v: 0 }, { u: 4, v: 4 }], true) }; // prettier-ignore
    const round = { ...boxNode('round'), depth: 0, outline: ellipseOutline({ u: 2, v: 2 }, { u: 2, v: 2 }) };
    const { store, view } = runner({ ...boxNode('box'), depth: 0 }, curve, round);
    const handles = TestBed.inject(HandlesService);
    const outline = (id: string): ShapeNode['outline'] => findShape(store.kept(), id)!.outline;
    const drag = (id: string, name: string, u: number, v: number): void => {
      view.select([id]);
      handles.handles().find((h) => h.name === name)!.drag(pxOf(FLOOR, u + 0.1, v - 0.1), false, true); // prettier-ignore
    };
    drag('box', 'point 3', 6, 5);
    expect(outline('box').points[2]).toMatchObject({ id: 3, u: 6, v: 5 });
    drag('curve', 'point 2', 7, 1);
    const [, before] = curve.outline.points;
    expect(outline('curve').points[1]!.out).toEqual({ u: exactCells(before!.out!.u + 3), v: exactCells(before!.out!.v + 1) });
    drag('curve', 'curve out of point 1', 8, 8);
    const [p] = outline('curve').points;
    expect(p!.out).toEqual({ u: 8, v: 8 });
    expect(p!.into!.u * 1).toBeCloseTo(p!.into!.v, 3);
    drag('round', 'radius along u', 5, 2);
    expect(ellipseOf4(outline('round'))).toEqual({ centre: { u: 2, v: 2 }, radii: { u: 3, v: 3 } });
  });

  it('drag the depth of a shape while building, as one step', () => {
    const { store, view } = runner(boxNode('box'));
    const handles = TestBed.inject(HandlesService);
    view.select(['box']);
    expect(handles.handles().map((h) => h.name)).toEqual(['point 1', 'point 2', 'point 3', 'point 4']);
    TestBed.inject(StagesService).go('build');
    const [handle] = handles.handles();
    expect(handle!.name).toBe('depth');
    handle!.drag({ x: handle!.x, y: handle!.y - 16 * 3 }, false, false);
    expect(handles.dragging()).toBe(true);
    expect((store.shown().nodes[0] as ShapeNode).depth).toBe(5);
    expect((store.kept().nodes[0] as ShapeNode).depth).toBe(2);
    handle!.drag({ x: handle!.x, y: handle!.y - 16 * 3 }, false, true);
    expect(findShape(store.kept(), 'box')!.depth).toBe(5);
    expect([store.history().steps.length, handles.dragging()]).toEqual([1, false]);
  });

  it('drag the size of a placement with its proportions', () => {
    const { store, view } = runner(boxNode('box'));
    const svg = '<svg viewBox="0 0 4 2"><path d="M0 0L4 0L4 2Z"/></svg>';
    store.commit({
      kind: 'add',
      nodes: [
        {
          kind: 'placement',
          id: 'art',
          name: 'art',
          hidden: false,
          locked: false,
          artwork: 'x',
          target: { kind: 'face', node: 'box', face: 'end' },
          anchor: { at: { a: 0, b: 4, h: 2 }, width: 2, height: 1 },
        },
      ],
      artworks: [{ id: 'x', name: 'x', svg, width: 4, height: 2 }],
    });
    view.select(['art']);
    const handles = TestBed.inject(HandlesService);
    const [handle] = handles.handles();
    expect(handle!.name).toBe('size');
    // On the top of the box its reading x runs along a: two cells further.
    const far = pxOf({ kind: 'floor', offset: 2 }, 4, 3);
    handle!.drag(far, false, true);
    expect(store.kept().nodes.at(-1)).toMatchObject({ anchor: { width: 4, height: 2 } });
    expect([...handles.selected()]).toEqual(['art']);
  });
});
