import { emptyDocument, rectangleOutline, type CheminDocument, type Guide, type Plane, type ShapeNode } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { USUAL_DRAW, type DrawSettings } from './draw-set';
import { guideTool, sizesOf } from './guide.tool';

const FLOOR: Plane = { kind: 'floor', offset: 0 };
const by = (guide: Partial<DrawSettings['guide']>): DrawSettings => ({ ...USUAL_DRAW, guide: { ...USUAL_DRAW.guide, ...guide } });
const guides = (bench: { document: CheminDocument }): readonly Guide[] => bench.document.guides ?? [];

const plate: ShapeNode = {
  kind: 'shape',
  id: 'plate',
  name: 'plate',
  hidden: false,
  locked: false,
  plane: FLOOR,
  outline: { closed: true, points: [{ id: 1, u: 0, v: 0 }, { id: 2, u: 6, v: 0 }, { id: 3, u: 9, v: 4 }, { id: 4, u: 3, v: 4 }] }, // prettier-ignore
  depth: 0,
  paint: { fill: '#c98a4b', line: null },
};
const withPlate: CheminDocument = { ...emptyDocument('d', 'd'), nodes: [plate] };

describe('guides', () => {
  it('run along a direction of the plane or out of it through what is pressed, each with a name of its own', () => {
    const bench = new ToolBench(guideTool, by({ way: 'u' })).at('move', 3, 2);
    expect(bench.ghost!.words[0]).toBe('a guide through here, along a');
    expect(bench.ghost!.more).toHaveLength(1);
    bench.press(3, 2);
    bench.settings = by({ way: 'v' });
    bench.press(4, 1);
    bench.settings = by({ way: 'out' });
    bench.at('move', 5, 5);
    expect(bench.ghost!.line).toHaveLength(4);
    bench.press(5, 5);
    expect(guides(bench)).toMatchObject([
      { name: 'guide 1', plane: FLOOR, at: { u: 3, v: 2 }, along: { u: 1, v: 0 } },
      { name: 'guide 2', at: { u: 4, v: 1 }, along: { u: 0, v: 1 } },
      { name: 'guide 3', at: { u: 5, v: 5 }, along: 'out' },
    ]);
    expect(bench.labels).toEqual(['draw guide 1', 'draw guide 2', 'draw guide 3']);
  });

  it('run through two places, or from one at a typed angle; in the middle between two', () => {
    const bench = new ToolBench(guideTool, by({ way: 'two' })).press(0, 0).at('move', 3, 4);
    expect(bench.ghost!.words[0]).toBe('and through here, or type its angle');
    bench.press(3, 4).press(1, 1).at('move', 2, 1).type(30);
    expect(guides(bench)[0]!.along).toEqual({ u: 0.6, v: 0.8 });
    expect(guides(bench)[1]).toMatchObject({ at: { u: 1, v: 1 } });
    expect((guides(bench)[1]!.along as { v: number }).v).toBeCloseTo(0.5, 12);
    bench.settings = by({ way: 'middle' });
    // Nothing is typed for it, and another way that is chosen meanwhile is for the next.
    bench.press(2, 0);
    expect(guideTool.fields(bench.state)).toEqual([]);
    bench.settings = by({ way: 'parallel' });
    bench.press(2, 5);
    expect(guides(bench)[2]).toMatchObject({ at: { u: 2, v: 2.5 } });
    expect(Math.abs((guides(bench)[2]!.along as { u: number }).u)).toBe(1);
  });

  it('run parallel to an edge or square on it, through what is pressed or as far as is typed', () => {
    const bench = new ToolBench(guideTool, by({ way: 'parallel' }), FLOOR, withPlate).at('move', 7.5, 2);
    expect(bench.ghost!.points).toHaveLength(2);
    bench.press(7.5, 2).press(10, 0);
    expect(guides(bench)[0]).toMatchObject({ at: { u: 10, v: 0 }, along: { u: 0.6, v: 0.8 } });
    bench.press(3, 0).at('move', 3, -4).type(2);
    expect(guides(bench)[1]).toMatchObject({ at: { v: -2 } });
    expect(Math.abs((guides(bench)[1]!.along as { u: number }).u)).toBe(1);
    bench.settings = by({ way: 'square' });
    bench.press(3, 0).at('move', 1, -2).type(1.5);
    // From the end that is nearer.
    expect(guides(bench)[2]!.at.u).toBeCloseTo(1.5, 9);
    bench.press(3, 0).at('move', 5.4, -2).type(1.5);
    expect(guides(bench)[3]!.at.u).toBeCloseTo(4.5, 9);
    // Where there is no edge nothing begins.
    bench.press(20, 20).press(22, 22);
    expect(guides(bench)).toHaveLength(4);
    bench.press(3, 0).key('Escape').press(20, 20);
    expect(guides(bench)).toHaveLength(4);
  });

  it('divide a face, or the sheet, in a count, by sizes, and by shares', () => {
    const box = { ...plate, depth: 3, outline: rectangleOutline({ u: 0, v: 0 }, { u: 9, v: 6 }) };
    const bench = new ToolBench(guideTool, by({ way: 'divide', divide: '3' }), FLOOR, { ...withPlate, nodes: [box] });
    // The upper face lies at 3: the place on the floor that is drawn where its middle is.
    bench.at('move', 4.5 + 3, 3 + 3);
    expect(bench.ghost!.words[0]).toBe('divides the face');
    expect(bench.ghost!.more).toHaveLength(4);
    bench.press(4.5 + 3, 3 + 3);
    expect(guides(bench)).toHaveLength(4);
    expect(guides(bench).every(({ plane }) => plane.kind === 'floor' && plane.offset === 3)).toBe(true);
    expect(guides(bench).map(({ at, along }) => ((along as { u: number }).u === 1 ? at.v : at.u))).toEqual([2, 4, 3, 6]);
    bench.settings = by({ way: 'divide', divide: '25 %, rest', across: 'v' });
    bench.press(-4, -4);
    expect(guides(bench).at(-1)).toMatchObject({ plane: { kind: 'sheet' }, at: { u: 9.375 } });
    expect(guides(bench)).toHaveLength(5);
    bench.settings = by({ way: 'divide', divide: 'a, b' });
    bench.at('move', -4, -4).press(-4, -4);
    expect(guides(bench)).toHaveLength(5);
    expect(sizesOf('33,3 %; rest', 10, { document: bench.document })).toMatchObject({ ok: true });
  });
});
