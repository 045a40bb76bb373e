import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { emptyDocument, startHistory } from '@core';
import { boxNode, openDrawing, pxOf } from '../testing/page';
import { CommandsService } from '../state/commands.service';
import { InHandService } from '../state/in-hand.service';
import { StagesService } from '../state/stages.service';
import { ToolRunnerService } from './tool-runner.service';

const FLOOR = { kind: 'floor', offset: 0 } as const;
const how = { lock: false, free: false };

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

function opened(): ReturnType<typeof openDrawing> & { tools: ToolRunnerService; commands: CommandsService; click: (u: number, v: number) => void } {
  const page = openDrawing(boxNode('a', [8, 8], [10, 10]));
  const tools = TestBed.inject(ToolRunnerService);
  const click = (u: number, v: number): void => {
    tools.point('move', pxOf(FLOOR, u, v), how);
    tools.point('down', pxOf(FLOOR, u, v), how);
    tools.point('up', pxOf(FLOOR, u, v), how);
  };
  return { ...page, tools, commands: TestBed.inject(CommandsService), click };
}

describe('undo while something is in hand', () => {
  it('takes back the points of an outline one by one, then what was finished, and redo brings both again', () => {
    const { store, view, tools, commands, click } = opened();
    store.commit({ kind: 'name', id: 'a', name: 'finished' });
    view.setTool('outline');
    TestBed.tick();
    for (const [u, v] of [
      [0, 0],
      [4, 0],
      [4, 3],
    ] as const)
      click(u, v);
    const points = (): number => {
      const draft = store.draft();
      return draft && 'points' in draft ? draft.points.length : 0;
    };
    const told = (): (number | string)[] => [points(), store.kept().nodes[0]!.name];
    expect(told()).toEqual([3, 'finished']);
    const back = [0, 1, 2, 3].map(() => (commands.run('undo'), told()));
    expect(back).toEqual([[2, 'finished'], [1, 'finished'], [0, 'finished'], [0, 'a']]); // prettier-ignore
    expect(tools.busy()).toBe(false);
    const again = [0, 1, 2, 3].map(() => (commands.run('redo'), told()));
    expect(again).toEqual([[0, 'finished'], [1, 'finished'], [2, 'finished'], [3, 'finished']]); // prettier-ignore
    // Taken up again, it goes on as if nothing had been taken back.
    click(0, 3);
    click(0, 0);
    expect(store.kept().nodes).toHaveLength(2);
    commands.run('undo');
    expect(store.kept().nodes).toHaveLength(1);
  });

  it('gives up what else is in hand, for every tool that takes more than one press, and nothing finished', () => {
    const names = (): string[] => {
      opened();
      return TestBed.inject(StagesService).here().flatMap(({ tools }) => tools.map(({ name }) => name)); // prettier-ignore
    };
    const tried: string[] = [];
    for (const name of names()) {
      TestBed.resetTestingModule();
      const { store, view, tools, commands, click } = opened();
      store.commit({ kind: 'name', id: 'a', name: 'finished' });
      view.setTool(name);
      TestBed.tick();
      click(1, 1);
      if (!tools.busy() || store.history().position > 1) continue;
      tried.push(name);
      click(3, 1);
      // Some have something in hand of which no length can be typed, such as an arc after two presses.
      for (let i = 0; i < 9 && TestBed.inject(InHandService).canUndo(); i++) commands.run('undo');
      expect([name, tools.busy(), store.kept().nodes[0]?.name, store.preview()]).toEqual([name, false, 'finished', null]);
      // A tool may have finished something with the second press; that is taken back as a step of the drawing.
      while (store.history().position > 1) commands.run('undo');
      commands.run('undo');
      expect([name, store.kept().nodes.map((node) => node.name)]).toEqual([name, ['a']]);
      commands.run('redo');
      expect([name, store.kept().nodes[0]!.name]).toEqual([name, 'finished']);
    }
    expect(tried.length).toBeGreaterThan(8);
  });

  it('brings nothing of it into another drawing, nor after another edit at the same place', () => {
    const { store, view, commands, click } = opened();
    view.setTool('outline');
    TestBed.tick();
    const begun = (): void => {
      click(0, 0);
      click(4, 0);
      commands.run('undo');
      commands.run('undo');
      expect(commands.enabled('redo')).toBe(true);
    };
    store.commit({ kind: 'name', id: 'a', name: 'one' });
    begun();
    commands.run('undo');
    store.commit({ kind: 'name', id: 'a', name: 'other' });
    expect(commands.enabled('redo')).toBe(false);
    begun();
    store.load(startHistory(emptyDocument('second', 'second')));
    TestBed.tick();
    expect([commands.enabled('redo'), commands.enabled('undo')]).toEqual([false, false]);
  });

  it('forgets what was taken back as soon as something else is drawn', () => {
    const { view, tools, commands, click } = opened();
    view.setTool('outline');
    TestBed.tick();
    click(0, 0);
    click(4, 0);
    commands.run('undo');
    expect(commands.enabled('redo')).toBe(true);
    click(2, 2);
    expect(commands.enabled('redo')).toBe(false);
    expect(tools.busy()).toBe(true);
  });
});
