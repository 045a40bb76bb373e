import { TestBed } from '@angular/core/testing';
import { bodyOf, boundsAll, findShape, type GroupNode, type ShapeNode, type WorldBox } from '@core';
import { boxNode, openDrawing } from '../testing/page';
import { MessageStore } from '../platform/messages.store';
import { SpaceService } from './space.service';

beforeEach(() => void TestBed.resetTestingModule());

describe('placing in space', () => {
  const open = (...nodes: (ShapeNode | GroupNode)[]): { space: SpaceService; box: (id: string) => WorldBox; steps: () => number } => {
    const { store, view } = openDrawing(...nodes);
    view.select(nodes.map(({ id }) => id));
    return {
      space: TestBed.inject(SpaceService),
      box: (id) => boundsAll([bodyOf(findShape(store.kept(), id)!)!])!,
      steps: () => store.history().steps.length,
    };
  };
  const low = boxNode('low');
  const high: ShapeNode = { ...boxNode('high', [6, 9], [8, 15], 4), plane: { kind: 'floor', offset: 3 } };

  it('brings sides and middles to one place along any axis, each as one step', () => {
    const { space, box, steps } = open(low, high);
    space.align('h', 'low');
    expect([box('low').min.h, box('high').min.h]).toEqual([0, 0]);
    space.align('h', 'high');
    expect([box('low').max.h, box('high').max.h]).toEqual([4, 4]);
    space.align('a', 'middle');
    expect([box('low').min.a + box('low').max.a, box('high').min.a + box('high').max.a]).toEqual([8, 8]);
    expect([box('high').max.a - box('high').min.a, box('high').min.b]).toEqual([2, 9]);
    expect(steps()).toBe(3);
  });

  it('makes gaps in space equal, the outermost staying', () => {
    const { space, box } = open(low, boxNode('third', [30, 0], [31, 4]), high);
    space.distribute('a');
    expect([box('low').max.a, box('high').min.a, box('high').max.a, box('third').min.a]).toEqual([4, 16, 18, 30]);
    expect(box('high').min.h).toBe(3);
  });

  it('mirrors to the other wall about the edge between both', () => {
    const { space, box } = open(high);
    space.toOtherWall();
    expect(box('high')).toEqual({ min: { a: 9, b: 6, h: 3 }, max: { a: 15, b: 8, h: 7 } });
    space.toOtherWall();
    expect(box('high')).toEqual({ min: { a: 6, b: 9, h: 3 }, max: { a: 8, b: 15, h: 7 } });
  });

  it('says what it needs', () => {
    const { space, steps } = open(low);
    space.distribute('h');
    expect(steps()).toBe(0);
    expect(TestBed.inject(MessageStore).messages()[0]!.title).toBe('Select several things in space first');
  });
});
