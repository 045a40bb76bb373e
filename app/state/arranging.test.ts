import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { findShape, type PlacementNode, type ShapeNode } from '@core';
import { boxNode, openDrawing } from '../testing/page';
import { ArrangingService } from './arranging.service';
import { CommandsService } from './commands.service';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
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
      box: { x: 0, y: 0, width: 1, height: 1 },
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
    expect(commands.find('lay selection wall')).toEqual(expect.arrayContaining(['to.left', 'to.right']));
    view.select([]);
    expect(commands.enabled('turn.left') || commands.enabled('duplicate')).toBe(false);
  });
});
