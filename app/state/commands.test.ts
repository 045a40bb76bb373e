import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { findShape, flattenTree } from '@core';
import { ToolRunnerService } from '../drawing/tool-runner.service';
import { boxNode, openDrawing, pxOf } from '../testing/page';
import { CommandsService } from './commands.service';
import { FindingService } from './finding.service';
import { MessageStore } from '../platform/messages.store';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

function commands(): ReturnType<typeof openDrawing> & { commands: CommandsService } {
  const opened = openDrawing(boxNode('one'), boxNode('two', [6, 0], [8, 2], 5));
  return { ...opened, commands: TestBed.inject(CommandsService) };
}

describe('commands', () => {
  it('are all found by words of their title', () => {
    const { commands: service } = commands();
    const finding = TestBed.inject(FindingService);
    for (const { title } of service.all()) {
      const words = title.toLowerCase().replace(/[^a-z ]/g, ' ').split(' ').filter((w) => w.length > 2).slice(0, 3).join(' '); // prettier-ignore
      expect(finding.find(words).map((found) => found.title)).toContain(title);
    }
  });

  it('walk the stages, choose planes and offsets, and look', () => {
    const { commands: service, view } = commands();
    const run = (...ids: string[]): void => ids.forEach((id) => service.run(id));
    run('stage.next', 'stage.next', 'stage.previous');
    expect(view.stage()).toBe('build');
    run('plane.right', 'offset.more', 'offset.more', 'offset.less');
    expect(view.plane()).toEqual({ kind: 'right', offset: 1 });
    run('plane.sheet');
    expect(service.enabled('offset.more')).toBe(false);
    run('view.grid', 'view.snap', 'view.see-through', 'view.theme');
    expect([view.grid(), view.snapping(), view.seeThrough(), view.theme()]).toEqual([false, false, true, 'dark']);
    run('view.theme', 'view.in', 'view.fit');
    expect(view.zoom()).toBe(2);
    run('find');
    expect(view.panel()).toBe('find');
  });

  it('change the selection: hide, lock, group, ungroup, delete, undo', () => {
    const { commands: service, view, store } = commands();
    expect(service.enabled('delete')).toBe(false);
    service.run('select.all');
    service.run('hide');
    service.run('lock');
    expect(store.kept().nodes.every((n) => n.hidden && n.locked)).toBe(true);
    service.run('group');
    const [group] = store.kept().nodes;
    expect(group).toMatchObject({ kind: 'group', name: 'group' });
    expect(view.selection()).toEqual([group!.id]);
    expect(service.enabled('ungroup')).toBe(true);
    service.run('ungroup');
    expect(store.kept().nodes).toHaveLength(2);
    view.select(['one', 'two']);
    // What is locked stays, and it is said.
    service.run('delete');
    expect(store.kept().nodes).toHaveLength(2);
    expect(TestBed.inject(MessageStore).messages().at(-1)!.lines).toEqual(['“one” is locked.', '“two” is locked.']);
    service.run('lock');
    service.run('delete');
    expect(store.kept().nodes).toEqual([]);
    expect(store.undoLabel()).toBe('delete 2 things');
    service.run('undo');
    expect(flattenTree(store.kept().nodes)).toHaveLength(2);
  });

  it('nudge by cells along the plane, and towards the viewer along its normal', () => {
    const { commands: service, view, store } = commands();
    expect(service.nudge(1, 0, 0)).toBe(false);
    view.select(['one']);
    service.nudge(2, -1, 0);
    service.nudge(0, 0, 1);
    expect(findShape(store.kept(), 'one')).toMatchObject({ plane: { offset: 1 }, outline: { points: [{ u: 2, v: -1 }, {}, {}, {}] } });
  });

  it('take the plane of the face under the pointer', () => {
    const { commands: service, view } = commands();
    const tools = TestBed.inject(ToolRunnerService);
    const over = (px: { x: number; y: number }): void => tools.point('move', px, { lock: false, free: false });
    over(pxOf({ kind: 'floor', offset: 5 }, 7, 1));
    service.run('plane.under');
    expect(view.plane()).toEqual({ kind: 'floor', offset: 5 });
    over(pxOf({ kind: 'left', offset: 6 }, 1, 4));
    service.run('plane.under');
    expect(view.plane()).toEqual({ kind: 'left', offset: 6 });
    over({ x: 40, y: 40 });
    service.run('plane.under');
    expect(TestBed.inject(MessageStore).messages()[0]!.title).toMatch(/No face/);
  });

  it('hand over the sheet and the project as files', async () => {
    const { commands: service } = commands();
    const made: string[] = [];
    Object.assign(URL, { createObjectURL: () => 'blob:x', revokeObjectURL: () => undefined });
    jest.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      made.push(this.download);
    });
    service.run('output.svg');
    service.run('document.save-file');
    for (let i = 0; i < 100 && made.length < 2; i++) await new Promise((done) => setTimeout(done, 10));
    expect(made).toEqual(['test.svg', 'test.chemin']);
  });
});
