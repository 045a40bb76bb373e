import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { findShape, type GroupNode, type PlacementNode, type ShapeNode } from '@core';
import { boxNode, openDrawing } from '../testing/page';
import { ArrangingService } from './arranging.service';
import { CommandsService } from './commands.service';
import { FindingService } from './finding.service';
import { MessageStore } from '../platform/messages.store';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

describe('acts on several things', () => {
  it('set one depth for all, and say which cannot have it and why', () => {
    const flat: ShapeNode = { ...boxNode('flat'), plane: { kind: 'sheet', offset: 0 }, depth: 0 };
    const { store, view } = openDrawing(boxNode('one'), boxNode('two'), flat, { ...boxNode('shut'), locked: true });
    view.select(['one', 'two', 'flat', 'shut']);
    TestBed.inject(ArrangingService).setDepth(7);
    expect(store.kept().nodes.map((n) => (n as ShapeNode).depth)).toEqual([7, 7, 0, 2]);
    expect(store.history().steps).toHaveLength(1);
    const [message] = TestBed.inject(MessageStore).messages();
    expect([message!.title, ...message!.lines]).toEqual(['2 things were left as they are', '“flat”: it lies on the sheet.', '“shut”: it is locked.']);
  });

  it('move artwork on a face along with what else is selected, once where its host goes too', () => {
    const sign: PlacementNode = { kind: 'placement', id: 'sign', name: 'sign', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: 'one', face: 'end' }, anchor: { at: { a: 0, b: 2, h: 2 }, width: 1, height: 1 } }; // prettier-ignore
    const { store, view } = openDrawing(boxNode('one'), boxNode('two'), sign);
    const commands = TestBed.inject(CommandsService);
    view.select(['two', 'sign']);
    commands.nudge(1, 0, 0);
    expect((store.kept().nodes[1] as ShapeNode).outline.points[0]!.u).toBe(1);
    expect((store.kept().nodes[2] as PlacementNode).anchor.at.a).toBe(1);
    view.select(['one', 'sign']);
    commands.nudge(1, 0, 0);
    expect((store.kept().nodes[0] as ShapeNode).outline.points[0]!.u).toBe(1);
    expect((store.kept().nodes[2] as PlacementNode).anchor.at.a).toBe(2);
  });

  it('ungroup all groups as one step, and select what was in them', () => {
    const group = (id: string, ...children: ShapeNode[]): GroupNode => ({ kind: 'group', id, name: id, hidden: false, locked: false, children });
    const { store, view } = openDrawing(group('g', boxNode('one')), group('k', boxNode('two')));
    view.select(['g', 'k']);
    TestBed.inject(CommandsService).run('ungroup');
    expect([store.history().steps.length, view.selection()]).toEqual([1, ['one', 'two']]);
  });
});

describe('arranging', () => {
  it('repeats in equal true steps, what lies on faces with its host, as one step', () => {
    const sign: PlacementNode = {
      kind: 'placement',
      id: 'sign',
      name: 'sign',
      hidden: false,
      locked: false,
      artwork: 'art',
      target: { kind: 'face', node: 'lamp', face: 'end' },
      anchor: { at: { a: 0, b: 1, h: 2 }, width: 1, height: 1 },
    };
    const { store, view } = openDrawing({
      kind: 'group',
      id: 'g',
      name: 'lamps',
      hidden: false,
      locked: false,
      children: [boxNode('lamp', [0, 0], [1, 1]), sign],
    });
    view.select(['g', 'lamp']);
    const arranging = TestBed.inject(ArrangingService);
    expect(arranging.nodes().map((n) => n.id)).toEqual(['g']);
    arranging.repeat({ count: 8, step: { a: 2.5, b: 0, h: 1 } });
    expect(store.kept().nodes).toHaveLength(9);
    const last = store.kept().nodes[8]!;
    if (last.kind !== 'group') throw new Error('a copy of a group is a group');
    const [lamp, copy] = last.children as [ShapeNode, PlacementNode];
    expect(lamp.outline.points[0]).toMatchObject({ u: 20, v: 0 });
    expect(lamp.plane.offset).toBe(8);
    expect(copy.target).toEqual({ kind: 'face', node: lamp.id, face: 'end' });
    expect(new Set(store.entries().map((e) => e.node.id)).size).toBe(27);
    expect(view.selection()).toHaveLength(8);
    store.undo();
    expect(store.kept().nodes).toHaveLength(1);
  });

  it('turns, mirrors, scales and lays several shapes at once, each as one step found by words', () => {
    const { store, view } = openDrawing({ ...boxNode('one', [0, 0], [4, 2]), depth: 0 }, { ...boxNode('two', [6, 0], [8, 2]), depth: 0 });
    view.select(['one', 'two']);
    const commands = TestBed.inject(CommandsService);
    commands.run('turn.left');
    // Both turn about the middle of the box around them, (4, 1).
    expect(findShape(store.kept(), 'one')!.outline.points[1]).toMatchObject({ u: 5, v: 1 });
    expect(findShape(store.kept(), 'two')!.outline.points[1]).toMatchObject({ u: 5, v: 5 });
    expect(store.history().steps).toHaveLength(1);
    commands.run('mirror.across');
    commands.run('mirror.up');
    TestBed.inject(ArrangingService).scale(2);
    expect(store.undoLabel()).toBe('scale by 2: 2 things');
    view.select(['one']);
    commands.run('to.right');
    expect(findShape(store.kept(), 'one')!.plane.kind).toBe('right');
    expect(view.plane().kind).toBe('right');
    commands.run('duplicate');
    expect(store.kept().nodes).toHaveLength(3);
    const found = TestBed.inject(FindingService).find('lay selection wall');
    expect(found.map(({ title }) => title)).toEqual(expect.arrayContaining(['Lay the selection on the left wall', 'Lay the selection on the right wall']));
    view.select([]);
    expect(commands.enabled('turn.left') || commands.enabled('duplicate')).toBe(false);
  });
});
