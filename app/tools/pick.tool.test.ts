import {
  applyEdit,
  canHaveDepth,
  emptyDocument,
  findShape,
  rectangleOutline,
  whyNoDepth,
  type CheminDocument,
  type DocumentNode,
  type Plane,
  type ShapeNode,
} from '@core';
import { depthHandle, depthTool } from '../features/build/depth.tool';
import { placeTool } from '../features/artwork/place.tool';
import { targetWords } from '../features/artwork/placing';
import { ToolBench } from '../testing/tool-bench';
import { pickTool, type PickState } from './pick.tool';

const FLOOR: Plane = { kind: 'floor', offset: 0 };

function shape(id: string, plane: Plane, from: readonly [number, number], to: readonly [number, number], depth = 0): ShapeNode {
  const outline = rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] });
  return { kind: 'shape', id, name: id, hidden: false, locked: false, plane, outline, depth, paint: { fill: '#c98a4b', line: null } };
}

function scene(...nodes: DocumentNode[]): CheminDocument {
  const svg = '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>';
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes, artworks: [{ id: 'art', name: 'band', svg, width: 4, height: 2 }] });
}

describe('picking and moving', () => {
  const document = scene(shape('one', FLOOR, [0, 0], [4, 4]), shape('two', { kind: 'left', offset: 6 }, [0, 0], [3, 3]));

  it('chooses what is in front, adds with the lock key, and lets go on the bare sheet', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, document).press(2, 2);
    expect(bench.selection).toEqual(['one']);
    bench.press(1, 1, { lock: true, plane: { kind: 'left', offset: 6 } });
    expect(bench.selection).toEqual(['one', 'two']);
    bench.press(1, 1, { lock: true, plane: { kind: 'left', offset: 6 } });
    expect(bench.selection).toEqual(['one']);
    bench.press(-9, -3);
    expect(bench.selection).toEqual([]);
  });

  it('moves by whole cells in the plane of what was pressed, shown before it is made', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, document).at('down', 2, 2).at('move', 5.2, 1.1);
    expect(bench.preview).toEqual({ kind: 'move', ids: ['one'], by: { a: 3, b: -1, h: 0 } });
    expect(bench.ghost!.words[0]).toBe('moved 3 and \u22121\u2009cells');
    bench.at('up', 5.2, 1.1);
    expect(findShape(bench.document, 'one')!.outline.points[0]).toMatchObject({ u: 3, v: -1 });
    expect(bench.preview).toBeNull();
  });

  it('keeps to an axis with the lock key and to nothing with the free key', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, document).at('down', 2, 2).at('move', 5, 3, { lock: true });
    expect(bench.preview).toMatchObject({ by: { a: 3, b: 0 } });
    bench.at('move', 2.5, 2, { free: true });
    expect((bench.preview as unknown as { by: { a: number } }).by.a).toBeCloseTo(0.5, 3);
    bench.key('Escape').at('up', 9, 9);
    expect(bench.document).toBe(document);
  });

  it('moves everything selected together, and nothing that is locked', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, document);
    bench.selection = ['one', 'two'];
    bench.at('down', 2, 2).at('move', 3, 2).at('up', 3, 2);
    expect(findShape(bench.document, 'two')!.plane.offset).toBe(7);
    bench.document = applyEdit(bench.document, { kind: 'lock', ids: ['one'], locked: true });
    bench.press(3, 2);
    expect(bench.selection).toEqual([]);
  });
});

describe('the depth tool', () => {
  it('drags along the normal by whole cells, and takes a typed depth', () => {
    const bench = new ToolBench(depthTool, {}, FLOOR, scene(shape('one', FLOOR, [0, 0], [4, 4])));
    const from = bench.sheet({ u: 2, v: 2 });
    const to = { x: from.x + 1, y: from.y - 25 };
    bench.send({ kind: 'move', at: from, lock: false, free: false });
    expect(bench.ghost!.words).toEqual(['depth of one']);
    expect(bench.ghost!.part).toHaveLength(8);
    bench.send({ kind: 'down', at: from, lock: false, free: false }).send({ kind: 'move', at: to, lock: false, free: false });
    expect(bench.preview).toEqual({ kind: 'depth', id: 'one', depth: 3 });
    expect(bench.fields).toEqual(['depth']);
    bench.send({ kind: 'up', at: to, lock: false, free: false });
    expect(findShape(bench.document, 'one')!.depth).toBe(3);
    const top = { x: from.x, y: from.y - 24 };
    bench.send({ kind: 'down', at: top, lock: false, free: false }).type(7.5);
    expect(findShape(bench.document, 'one')!.depth).toBe(7.5);
    expect(depthHandle(bench.document, bench.context.geometry, 'one')!.y).toBeCloseTo(from.y - 60, 9);
  });

  it('goes up to the face under the pointer where that is asked for', () => {
    const slope = { ...shape('high', { kind: 'floor', offset: 1 }, [10, 0], [14, 4]), depth: 4.5 };
    const bench = new ToolBench(depthTool, {}, FLOOR, scene(shape('one', FLOOR, [0, 0], [4, 4]), slope));
    const top = { plane: { kind: 'floor', offset: 5.5 }, lock: true } as const;
    bench.at('down', 2, 2).at('move', 12, 2, top);
    expect(bench.ghost!.words[1]).toBe('up to high');
    bench.at('up', 12, 2, top);
    expect(findShape(bench.document, 'one')!.depth).toBe(5.5);
    // Its upright sides run along the depth: they are not met.
    const side = { plane: { kind: 'right', offset: 0 }, lock: true } as const;
    bench.at('down', 2, 2, { plane: { kind: 'floor', offset: 5.5 } }).at('move', 12, 3, side);
    expect(bench.ghost!.words).toHaveLength(1);
  });

  it('gives all selected shapes one depth when one of them is dragged or its depth typed', () => {
    const document = scene(
      shape('one', FLOOR, [0, 0], [4, 4]),
      shape('two', FLOOR, [6, 0], [8, 4]),
      shape('flat', { kind: 'sheet', offset: 0 }, [0, 0], [1, 1]),
    );
    const bench = new ToolBench(depthTool, {}, FLOOR, document);
    bench.selection = ['one', 'two', 'flat'];
    bench.at('down', 2, 2).type(3);
    expect(['one', 'two', 'flat'].map((id) => findShape(bench.document, id)!.depth)).toEqual([3, 3, 0]);
    expect(bench.selection).toEqual(['one', 'two', 'flat']);
    expect(whyNoDepth(findShape(document, 'flat')!)).toBe('it lies on the sheet');
  });

  it('leaves alone what cannot have depth', () => {
    expect(canHaveDepth(shape('flat', { kind: 'sheet', offset: 0 }, [0, 0], [2, 2]))).toBe(false);
    const bench = new ToolBench(depthTool, {}, FLOOR, scene()).press(2, 2).key('Escape');
    expect(bench.selection).toEqual([]);
    expect(bench.ghost).toBeNull();
  });
});

describe('placing artwork', () => {
  it('fits it to the middle of the face under the pointer and goes back to picking', () => {
    const bench = new ToolBench(placeTool, { artwork: null as string | null }, FLOOR, scene(shape('one', FLOOR, [0, 0], [6, 6])));
    bench.at('move', 3, 3);
    expect(bench.ghost!.words).toEqual(['no artwork is chosen']);
    bench.settings = { artwork: 'art' };
    expect(bench.ghost!.words).toEqual(['place band', 'one']);
    expect(bench.ghost!.part).toHaveLength(8);
    bench.press(3, 3);
    expect(bench.document.nodes.at(-1)).toMatchObject({
      kind: 'placement',
      target: { kind: 'face', node: 'one', face: 'end' },
      anchor: { at: { a: 0, b: 4.5, h: 0 }, width: 6, height: 3 },
      name: 'band, one',
    });
    expect(bench.done).toBe(true);
  });

  it('lays it on the active plane where nothing is under the pointer', () => {
    const plane: Plane = { kind: 'right', offset: 2 };
    const bench = new ToolBench(placeTool, { artwork: null as string | null }, plane, scene());
    bench.settings = { artwork: 'art' };
    bench.press(4.2, 5.1);
    expect(bench.document.nodes.at(-1)).toMatchObject({ target: { kind: 'plane', plane }, anchor: { at: { a: 4, b: 2, h: 5 }, width: 6, height: 3 } });
    expect(targetWords({ kind: 'face', node: 'gone', face: 'end' }, bench.context)).toBe('a face that is gone');
  });

  it('moves over its face by whole cells with the pick tool', () => {
    const placing = new ToolBench(placeTool, { artwork: null as string | null }, FLOOR, scene(shape('one', FLOOR, [0, 0], [6, 6])));
    placing.settings = { artwork: 'art' };
    placing.press(3, 3);
    const bench = new ToolBench(pickTool, {}, FLOOR, placing.document).at('down', 3, 3).at('move', 4, 2).at('up', 4, 2);
    expect(bench.document.nodes.at(-1)).toMatchObject({ anchor: { at: { a: 1, b: 3.5, h: 0 } } });
  });
});

describe('a frame over empty ground', () => {
  const boxes = (): CheminDocument => scene(shape('one', FLOOR, [0, 0], [2, 2]), shape('two', FLOOR, [5, 0], [2, 2]), shape('three', FLOOR, [0, 5], [2, 2]));
  /** Pulls a frame around some corners of the floor, a little wider. */
  const pull = (bench: ToolBench<PickState, unknown>, corners: readonly (readonly [number, number])[], lock = false): void => {
    const at = corners.map(([u, v]) => bench.sheet({ u, v }));
    const [xs, ys] = [at.map((p) => p.x), at.map((p) => p.y)];
    const [from, to] = [{ x: Math.min(...xs) - 1, y: Math.min(...ys) - 1 }, { x: Math.max(...xs) + 1, y: Math.max(...ys) + 1 }]; // prettier-ignore
    for (const [kind, p] of [['down', from], ['move', to], ['up', to]] as const) bench.send({ kind, at: p, lock, free: true }); // prettier-ignore
  };
  const ALL = [[0, 0], [7, 0], [7, 2], [0, 7], [2, 7], [0, 5], [5, 0]] as const; // prettier-ignore

  it('chooses what lies wholly within, and a press that does not move nothing', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, boxes());
    pull(bench, [[0, 0], [2, 0], [2, 2], [0, 2]]); // prettier-ignore
    expect(bench.selection).toEqual(['one']);
    pull(bench, ALL);
    expect(bench.selection).toEqual(['one', 'two', 'three']);
    bench.press(20, 20);
    expect(bench.selection).toEqual([]);
  });

  it('chooses what it touches where that is set', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, boxes());
    bench.frameTakes = 'touching';
    pull(bench, [[1, 1], [1.2, 1.2]]); // prettier-ignore
    expect(bench.selection).toEqual(['one']);
    bench.frameTakes = 'within';
    pull(bench, [[1, 1], [1.2, 1.2]]); // prettier-ignore
    expect(bench.selection).toEqual([]);
  });

  it('adds to what is chosen, takes away what all is chosen, and goes back with Escape', () => {
    const bench = new ToolBench(pickTool, {}, FLOOR, boxes());
    bench.selection = ['three'];
    pull(bench, [[0, 0], [2, 2], [2, 0], [0, 2]], true); // prettier-ignore
    expect(bench.selection).toEqual(['three', 'one']);
    pull(bench, [[0, 0], [2, 2], [2, 0], [0, 2]], true); // prettier-ignore
    expect(bench.selection).toEqual(['three']);
    bench.at('down', 30, 30, { lock: true, free: true }).at('move', 0, 0, { lock: true });
    expect(bench.ghost!.words.length).toBe(2);
    bench.key('Escape');
    expect(bench.selection).toEqual(['three']);
  });

  it('takes a group where it takes all of it, leaves out what is locked or hidden, and counts what hides behind other things', () => {
    const nodes: DocumentNode[] = [
      { ...shape('front', FLOOR, [0, 0], [4, 4]), depth: 6 },
      { kind: 'group', id: 'row', name: 'row', hidden: false, locked: false, children: [{ ...shape('a', FLOOR, [5, 5], [1, 1]), depth: 2 }, { ...shape('b', FLOOR, [7, 5], [1, 1]), depth: 2 }] }, // prettier-ignore
      { ...shape('fixed', FLOOR, [9, 5], [1, 1]), locked: true },
      { ...shape('gone', FLOOR, [9, 7], [1, 1]), hidden: true },
    ];
    const bench = new ToolBench(pickTool, {}, FLOOR, scene(...nodes));
    pull(bench, [[-10, -10], [20, -10], [20, 20], [-10, 20]]); // prettier-ignore
    expect(bench.selection).toEqual(['front', 'row']);
  });
});
