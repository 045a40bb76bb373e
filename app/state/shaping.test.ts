import { TestBed } from '@angular/core/testing';
import { ellipseOutline, findShape, outlineThrough, type CopyNode, type Gradient, type PlacementNode, type ShapeNode } from '@core';
import { HandlesService } from '../drawing/handles.service';
import { boxNode, openDrawing } from '../testing/page';
import { ArrangingService } from './arranging.service';
import { CommandsService } from './commands.service';
import { MessageStore } from '../platform/messages.store';
import { PaintingService } from './painting.service';
import { ShapingService } from './shaping.service';
import { StagesService } from './stages.service';

const flat = (id: string, from: readonly [number, number], to: readonly [number, number]): ShapeNode => ({ ...boxNode(id, from, to), depth: 0 });
const line = (id: string, ...points: readonly (readonly [number, number])[]): ShapeNode => ({
  ...boxNode(id),
  depth: 0,
  outline: outlineThrough(points.map(([u, v]) => ({ u, v })), false), // prettier-ignore
});
const places = (shape: ShapeNode | null): string[] => shape!.outline.points.map((p) => `${p.u} ${p.v}`);

describe('shaping', () => {
  it('combines shapes of one plane, the lowest first, as one step', async () => {
    const { store, view } = openDrawing(flat('low', [0, 0], [6, 6]), {
      ...flat('round', [0, 0], [1, 1]),
      outline: ellipseOutline({ u: 3, v: 3 }, { u: 2, v: 2 }),
    });
    const commands = TestBed.inject(CommandsService);
    view.select(['round', 'low']);
    const shaping = TestBed.inject(ShapingService);
    const changed = shaping.combine('subtract');
    store.commit({ kind: 'move', ids: ['low'], by: { a: 1, b: 0, h: 0 } }, 'move');
    await changed;
    expect([store.kept().nodes.length, TestBed.inject(MessageStore).messages()[0]!.title]).toEqual([2, 'The shapes were changed meanwhile']);
    commands.run('undo');
    await shaping.combine('subtract');
    expect(store.kept().nodes).toHaveLength(1);
    expect(findShape(store.kept(), 'low')!.outline.holes).toHaveLength(1);
    expect(store.history().steps).toHaveLength(1);
    commands.run('undo');
    view.select(['low']);
    await shaping.combine('union');
    expect(
      TestBed.inject(MessageStore)
        .messages()
        .some(({ title }) => /two or more/.test(title)),
    ).toBe(true);
  });

  it('changes chosen corners alone, and deletes points', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [4, 4]), flat('b', [6, 0], [8, 4]));
    const shaping = TestBed.inject(ShapingService);
    view.select(['a', 'b']);
    view.patch({ points: ['a 1', 'b 3'] });
    shaping.setCorners('bevel', 0.5);
    expect(findShape(store.kept(), 'a')!.outline.points.map((p) => p.corner?.kind)).toEqual(['bevel', undefined, undefined, undefined]);
    expect(findShape(store.kept(), 'b')!.outline.points[2]!.corner).toEqual({ kind: 'bevel', size: 0.5 });
    expect(shaping.moveChosen(1, 0)).toMatchObject({ kind: 'lay', items: [{ id: 'a' }, { id: 'b' }] });
    const steps = store.history().steps.length;
    shaping.deletePoints();
    expect(store.history().steps).toHaveLength(steps + 1);
    expect(places(findShape(store.kept(), 'a'))).toEqual(['4 0', '4 4', '0 4']);
    expect(shaping.addPointAt('a', { u: 4, v: 2.1 }, 0.5)).toBe(true);
    expect(places(findShape(store.kept(), 'a'))).toContain('4 2.1');
    expect(shaping.addPointAt('a', { u: 9, v: 9 }, 0.5)).toBe(false);
  });

  it('joins, splits, closes and opens lines', () => {
    const { store, view } = openDrawing(line('p', [0, 0], [2, 0], [4, 0]), line('q', [4, 0], [4, 3]));
    const shaping = TestBed.inject(ShapingService);
    view.select(['p', 'q']);
    shaping.join();
    expect(places(findShape(store.kept(), 'p'))).toEqual(['0 0', '2 0', '4 0', '4 3']);
    shaping.close();
    expect(findShape(store.kept(), 'p')).toMatchObject({ outline: { closed: true }, paint: { fill: expect.any(String) } });
    shaping.open();
    view.patch({ points: ['p 2'] });
    shaping.split();
    expect(store.kept().nodes).toHaveLength(2);
  });

  it('sets an edge to a length, divides it, and divides a rectangle by sizes', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [11, 4]));
    const shaping = TestBed.inject(ShapingService);
    view.select(['a']);
    view.patch({ edge: { node: 'a', point: 1 } });
    shaping.setEdge(10, 'end');
    expect(places(findShape(store.kept(), 'a'))).toEqual(['0 0', '10 0', '10 4', '0 4']);
    expect(shaping.divideEdge('2, x')).toMatch(/not a number/);
    expect(shaping.divideShape('2, rest, 2', '1', 0.5, 0.5)).toBeNull();
    expect(store.kept().nodes).toHaveLength(4);
    expect(places(store.kept().nodes[2] as ShapeNode)[0]).toBe('3 0.5');
    view.select(['a']);
    expect(shaping.divideShape('40', '1', 1, 0)).toMatch(/take/);
    view.patch({ edge: { node: 'a', point: 1 } });
    expect(shaping.divideEdge('5')).toBeNull();
    expect(findShape(store.kept(), 'a')!.outline.points).toHaveLength(8);
  });
});

describe('arranging several', () => {
  it('aligns, distributes, sets gaps, centres, and gives the same length', () => {
    const { store, view } = openDrawing(flat('host', [0, 0], [20, 10]), flat('a', [1, 1], [3, 2]), flat('b', [6, 3], [7, 7]), flat('c', [13, 1], [16, 3]));
    const arranging = TestBed.inject(ArrangingService);
    view.select(['a', 'b', 'c']);
    arranging.align('v', 'low');
    expect(places(findShape(store.kept(), 'b'))[0]).toBe('6 1');
    arranging.distribute('u');
    expect(places(findShape(store.kept(), 'b'))[0]).toBe('7.5 1');
    arranging.setGap('u', 1);
    expect(places(findShape(store.kept(), 'c'))[0]).toBe('6 1');
    arranging.sameLength('v');
    expect(places(findShape(store.kept(), 'c'))[2]).toBe('9 2');
    expect(arranging.hosts().map((h) => h.id)).toEqual(['host']);
    arranging.centreOn('host');
    // From 1 to 9 across becomes 6 to 14, from 1 to 2 up becomes 4.5 to 5.5.
    expect(places(findShape(store.kept(), 'a'))[0]).toBe('6 4.5');
  });

  it('turns and scales about one chosen point, by a ratio or to a length', () => {
    const { store, view } = openDrawing(flat('a', [2, 2], [6, 4]));
    const arranging = TestBed.inject(ArrangingService);
    view.select(['a']);
    view.patch({ points: ['a 1'] });
    arranging.scaleTo(8);
    expect(places(findShape(store.kept(), 'a'))).toEqual(['2 2', '10 2', '10 6', '2 6']);
    arranging.turn(90);
    expect(places(findShape(store.kept(), 'a'))[1]).toBe('2 10');
  });

  it('makes grids of linked copies that can be made independent', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [1, 1]));
    const arranging = TestBed.inject(ArrangingService);
    view.select(['a']);
    arranging.repeat({ count: 2, step: { a: 2, b: 0, h: 0 } }, { count: 1, step: { a: 0, b: 3, h: 0 } }, true);
    expect(store.kept().nodes.map((n) => (n as CopyNode).by ?? null)).toEqual([
      null,
      { a: 2, b: 0, h: 0 },
      { a: 4, b: 0, h: 0 },
      { a: 0, b: 3, h: 0 },
      { a: 2, b: 3, h: 0 },
      { a: 4, b: 3, h: 0 },
    ]);
    arranging.makeIndependent();
    expect(store.kept().nodes.every((n) => n.kind === 'shape')).toBe(true);
    expect(places(store.kept().nodes.find((n) => n.kind === 'shape' && n.outline.points[0]!.u === 4 && n.outline.points[0]!.v === 3) as ShapeNode)[0]).toBe(
      '4 3',
    );
  });

  it('takes artwork along to another wall, read as before', () => {
    const sign: PlacementNode = { kind: 'placement', id: 'sign', name: 'sign', hidden: false, locked: false, artwork: 'art', target: { kind: 'plane', plane: { kind: 'right', offset: 2 } }, anchor: { at: { a: 1, b: 2, h: 3 }, width: 4, height: 1 } }; // prettier-ignore
    const { store, view } = openDrawing({ ...flat('board', [0, 0], [6, 4]), plane: { kind: 'right', offset: 2 } }, sign);
    view.select(['board', 'sign']);
    TestBed.inject(ArrangingService).toPlane('left');
    const [board, moved] = store.kept().nodes as [ShapeNode, PlacementNode];
    expect(moved.target).toMatchObject({ plane: { kind: 'left' } });
    // A cell from the board's left end as it is read, three cells up to its upper edge.
    const left = Math.min(...board.outline.points.map((p) => -p.u));
    expect(moved.anchor).toEqual({ at: { a: 0, b: -1 - left, h: 3 }, width: 4, height: 1 });
  });
});

describe('painting', () => {
  it('paints the selection or what comes next, remembers colours, and keeps a palette that is followed', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [4, 4]));
    const painting = TestBed.inject(PaintingService);
    painting.setColour({ kind: 'fill' }, '#112233');
    expect(view.paint().fill).toBe('#112233');
    view.select(['a']);
    painting.setColour({ kind: 'fill' }, '#445566');
    painting.addSwatch({ kind: 'fill' });
    const swatch = store.kept().swatches[0]!;
    expect(findShape(store.kept(), 'a')!.paint.fill).toBe(`swatch:${swatch.id}`);
    expect(painting.plain(`swatch:${swatch.id}`)).toBe('#445566');
    painting.changeSwatch(swatch.id, { colour: '#778899' });
    expect(painting.plain(painting.colourOf({ kind: 'fill' })!)).toBe('#778899');
    painting.removeSwatch(swatch.id);
    expect(findShape(store.kept(), 'a')!.paint.fill).toBe('#778899');
    expect(view.recentColours()[0]).toBe('#445566');
    painting.importPalette({ ok: true, value: ':root{--deck:#a5855b;--x:none}', notes: [] }, 'deck.css');
    expect(store.kept().swatches.map((s) => s.name)).toEqual(['deck']);
  });

  it('leaves what is drawn next as it is when the selection is painted, while a tool draws too, and takes all of it in one act', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [4, 4]));
    const painting = TestBed.inject(PaintingService);
    const next = view.paint();
    TestBed.inject(StagesService).go('draw', 'rectangle');
    view.select(['a']);
    painting.setColour({ kind: 'fill' }, '#445566');
    painting.change((paint) => ({ ...paint, strength: 0.4 }));
    painting.fillWith('radial');
    expect(view.paint()).toBe(next);
    painting.nextLikeThis();
    expect(view.paint()).toEqual(findShape(store.kept(), 'a')!.paint);
    expect(view.paint().strength).toBe(0.4);
  });

  it('has the tool in hand again that was in hand before a colour was picked', () => {
    const { view } = openDrawing(flat('a', [0, 0], [4, 4]));
    TestBed.inject(StagesService).go('draw', 'rectangle');
    view.setTool('colour');
    expect([view.tool(), view.toolBefore()]).toEqual(['colour', 'rectangle']);
    view.setTool('colour');
    expect(view.toolBefore()).toBe('rectangle');
  });

  it('fills with gradients across the shape, whose ends are handles in its plane', () => {
    const { store, view } = openDrawing(flat('a', [0, 0], [4, 2]));
    TestBed.inject(StagesService).go('draw', 'pick');
    view.select(['a']);
    const painting = TestBed.inject(PaintingService);
    painting.fillWith('linear');
    expect(findShape(store.kept(), 'a')!.paint.fill).toMatchObject({ kind: 'linear', from: { u: 0, v: 1 }, to: { u: 4, v: 1 } });
    painting.setColour({ kind: 'stop', index: 1 }, '#abcdef');
    expect((findShape(store.kept(), 'a')!.paint.fill as Gradient).stops[1]!.colour).toBe('#abcdef');
    view.look(8, 0, 0);
    const names = TestBed.inject(HandlesService).handles().map((h) => h.name); // prettier-ignore
    expect(names).toEqual(expect.arrayContaining(['from', 'to', 'point 1', 'edge 1']));
    const steps = store.history().steps.length;
    view.select(['a']);
    painting.fillWith('radial');
    expect(store.history().steps).toHaveLength(steps + 1);
    painting.fillWith('none');
    expect(findShape(store.kept(), 'a')!.paint.fill).toBeNull();
  });
});

it('forward and backward pass the next neighbour of the plane', () => {
  const { store, view } = openDrawing(flat('a', [0, 0], [1, 1]), flat('b', [0, 0], [1, 1]), flat('c', [0, 0], [1, 1]));
  const commands = TestBed.inject(CommandsService);
  const ids = (): string[] => store.kept().nodes.map((n) => n.id);
  view.select(['a']);
  commands.run('order.up');
  expect(ids()).toEqual(['b', 'a', 'c']);
  commands.run('order.up');
  commands.run('order.up');
  expect(ids()).toEqual(['b', 'c', 'a']);
  commands.run('order.down');
  expect(ids()).toEqual(['b', 'a', 'c']);
});
