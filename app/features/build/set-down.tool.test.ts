import { applyEdit, bodyOf, emptyDocument, findShape, rectangleOutline, type CheminDocument, type Plane, type ShapeNode } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { setDownTool, type SetDownState } from './set-down.tool';

const box = (id: string, [a, b]: readonly [number, number], size: number, height: number): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: a, v: b }, { u: a + size, v: b + size }),
  depth: height,
  paint: { fill: '#336699', line: null },
});

function yard(): CheminDocument {
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [box('plinth', [0, 0], 6, 4), box('crate', [10, 0], 2, 2)], artworks: [] });
}

const FLOOR: Plane = { kind: 'floor', offset: 0 };
const TOP: Plane = { kind: 'floor', offset: 4 };
const bench = (): ToolBench<SetDownState, unknown> => new ToolBench(setDownTool, null, FLOOR, yard());
const boxOf = (one: ToolBench<SetDownState, unknown>): unknown => bodyOf(findShape(one.document, 'crate')!)!.bounds;

describe('setting things down', () => {
  it('rests them on the top under the pointer, on the grid', () => {
    const one = bench().at('down', 11, 1, { plane: { kind: 'floor', offset: 2 } });
    one.at('move', 3, 3, { plane: TOP });
    expect(one.preview).toMatchObject({ kind: 'move', ids: ['crate'] });
    expect(one.ghost!.words).toEqual(['on top of plinth']);
    one.at('up', 3, 3, { plane: TOP });
    expect(boxOf(one)).toEqual({ min: { a: 2, b: 2, h: 4 }, max: { a: 4, b: 4, h: 6 } });
  });

  it('puts them against a side, and back on the floor', () => {
    const wall: Plane = { kind: 'left', offset: 0 };
    const one = bench()
      .at('down', 11, 1, { plane: { kind: 'floor', offset: 2 } })
      .at('move', 3, 2, { plane: wall });
    expect(one.ghost!.words[0]).toBe('against the left side of plinth');
    one.at('up', 3, 2, { plane: wall });
    expect(boxOf(one)).toEqual({ min: { a: -2, b: 2, h: 1 }, max: { a: 0, b: 4, h: 3 } });
    one.at('down', 3, 3, { plane: { kind: 'left', offset: -2 } }).at('up', -8, 5);
    expect(boxOf(one)).toMatchObject({ min: { h: 0 } });
  });

  it('takes all that is selected, leaves locked things, and lets go at Escape', () => {
    const one = bench();
    one.selection = ['plinth', 'crate'];
    one.at('down', 11, 1, { plane: { kind: 'floor', offset: 2 } });
    expect(one.selection).toEqual(['plinth', 'crate']);
    one.key('Escape');
    expect(one.preview).toBeNull();
    one.document = applyEdit(one.document, { kind: 'lock', ids: ['crate'], locked: true });
    one.selection = [];
    one.at('move', 11, 1, { plane: { kind: 'floor', offset: 2 } });
    expect(one.ghost).toBeNull();
  });
});
