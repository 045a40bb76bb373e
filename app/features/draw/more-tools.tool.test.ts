import { rectangleOutline, type DimensionNode, type Outline, type ShapeNode, type WorldPoint } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { circleTool, lineTool } from './form.tool';
import { freehandTool } from './freehand.tool';
import { cutTool, extendTool, regionTool } from './line-tools';
import { outlineTool } from './outline.tool';
import { againTool, colourTool, dimensionTool, measureTool, stanceTool } from './space-tools';
import { USUAL_DRAW, type DrawSettings } from './draw-set';

const DRAWING = USUAL_DRAW;

const FLOOR = { kind: 'floor', offset: 0 } as const;
const shapeOf = <S>(bench: ToolBench<S, DrawSettings>, i = -1): ShapeNode => bench.document.nodes.at(i) as ShapeNode;
const places = (outline: Outline): string[] => outline.points.map((p) => `${p.u} ${p.v}`);

/** A bench whose document has these lines on the floor. */
function withLines<S>(bench: ToolBench<S, DrawSettings>, ...lines: readonly (readonly [number, number, number, number])[]): ToolBench<S, DrawSettings> {
  const draw = new ToolBench(lineTool, DRAWING, FLOOR, bench.document);
  for (const [a, b, c, d] of lines) draw.press(a, b).press(c, d);
  bench.document = draw.document;
  return bench;
}

describe('outlines with smooth points', () => {
  it('come of a press and drag, between straight edges', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0);
    bench.at('move', 4, 0).at('down', 4, 0).at('move', 6, 2);
    expect(bench.ghost!.words[0]).toBe('smooth point');
    bench.at('up', 6, 2).press(8, 6).press(0, 6).key('Enter');
    expect(shapeOf(bench).outline.points[1]).toMatchObject({ u: 4, v: 0, out: { u: 6, v: 2 }, into: { u: 2, v: -2 } });
    expect(shapeOf(bench).outline.points[2]).not.toHaveProperty('out');
  });

  it('take a length with an angle, or steps along the axes, and move whole while Ctrl is held', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0).at('move', 3, 0);
    bench.type(2, 90);
    expect(bench.state.points.at(-1)).toEqual({ u: 0, v: 2 });
    bench.at('move', 3, 3).type(null, null, 4, 1);
    expect(bench.state.points.at(-1)).toEqual({ u: 4, v: 3 });
    bench.at('move', 5, 5).send({ kind: 'move', at: bench.sheet({ u: 7, v: 6 }), lock: false, free: false, carry: true });
    expect(bench.state.points.map((p) => [p.u, p.v])).toEqual([[2, 1], [2, 3], [6, 4]]); // prettier-ignore
  });
});

describe('circles', () => {
  it('go through three points, into a box, or into the face under the pointer', () => {
    const bench = new ToolBench(circleTool, DRAWING);
    bench.settings = { ...bench.settings, circleBy: 'three points' };
    bench.press(5, 0).press(0, 5).press(-5, 0);
    expect(shapeOf(bench).outline.points.map((p) => [p.u, p.v])).toEqual([[5, 0], [0, 5], [-5, 0], [0, -5]]); // prettier-ignore
    bench.settings = { ...bench.settings, circleBy: 'box' };
    bench.press(10, 10).press(14, 13);
    expect(shapeOf(bench).outline.points[0]).toMatchObject({ u: 14, v: 12 });
    bench.settings = { ...bench.settings, circleBy: 'face' };
    const box: ShapeNode = { ...shapeOf(bench), id: 'box', outline: rectangleOutline({ u: 20, v: 0 }, { u: 28, v: 4 }), depth: 6 };
    bench.document = { ...bench.document, nodes: [box] };
    const top = { kind: 'floor', offset: 6 } as const;
    bench.at('down', 24, 2, { plane: top });
    expect(shapeOf(bench).plane).toEqual(top);
    expect(shapeOf(bench).outline.points[0]).toMatchObject({ u: 26, v: 2 });
  });
});

describe('freehand', () => {
  const stroke = (bench: ToolBench<ReturnType<typeof freehandTool.start>, DrawSettings>, at: (t: number) => readonly [number, number]): void => {
    const free = { free: true };
    bench.at('move', ...at(0), free).at('down', ...at(0), free);
    for (let i = 1; i <= 80; i++) bench.at('move', ...at(i / 80), free);
    bench.at('up', ...at(1), free);
  };

  it('is cleaned to few points and says how far it strays', () => {
    const bench = new ToolBench(freehandTool, DRAWING);
    stroke(bench, (t) => [12 * t, 2 * Math.sin(5 * t)]);
    expect(shapeOf(bench).outline.points.length).toBeLessThan(8);
    expect(shapeOf(bench).outline.points[1]).toHaveProperty('into');
    expect(bench.at('move', 0, 0).ghost!.words[0]).toMatch(/^\d points, at most 0.\d+\u2009cells beside the pen$/);
  });

  it('closes where it comes back, and keeps to the axes with assistance', () => {
    const bench = new ToolBench(freehandTool, DRAWING);
    stroke(bench, (t) => [5 * Math.cos(6.26 * t), 5 * Math.sin(6.26 * t)]);
    expect(shapeOf(bench).outline.closed).toBe(true);
    bench.settings = { ...bench.settings, assisted: true };
    stroke(bench, (t) => (t < 0.5 ? [20 * t, 0.1 * Math.sin(50 * t)] : [10, 20 * (t - 0.5)]));
    expect(shapeOf(bench).outline.points).toHaveLength(3);
    expect(shapeOf(bench).outline.points[1]!.v).toBeCloseTo(0, 6);
  });
});

describe('loose lines', () => {
  it('become regions under them, are cut away between crossings, and run on to the next', () => {
    const bench = withLines(new ToolBench(regionTool, DRAWING), [0, -1, 0, 5], [6, -1, 6, 5], [-1, 0, 7, 0], [-1, 4, 7, 4]);
    expect(bench.context.regions(FLOOR).looseEnds).toHaveLength(8);
    expect(bench.at('move', 9, 9).ghost!.words).toEqual(['no line goes all round here', '8 loose ends, marked']);
    bench.press(3, 2);
    expect(bench.document.nodes[0]).toMatchObject({ name: 'region 1, floor', outline: { closed: true } });
    const cut = new ToolBench(cutTool, DRAWING, FLOOR, bench.document);
    expect(cut.at('move', 3, 0).ghost!.words).toEqual(['cut away a part of line 3, floor']);
    cut.press(3, 0);
    const left = cut.document.nodes.filter((n) => n.name === 'line 3, floor').map((n) => places((n as ShapeNode).outline));
    expect(left).toEqual([['-1 0', '0 0'], ['6 0', '7 0']]); // prettier-ignore
    const extend = withLines(new ToolBench(extendTool, DRAWING), [0, 0, 4, 0], [9, -3, 9, 3]);
    extend.press(3.8, 0);
    expect(places((extend.document.nodes[0] as ShapeNode).outline)).toEqual(['0 0', '9 0']);
    expect(extend.at('move', 20, 20).ghost!.words).toEqual(['no line under the pointer']);
  });
});

describe('tools in space', () => {
  const at = (a: number, b: number, h: number) => (): { at: WorldPoint; word: string } => ({ at: { a, b, h }, word: 'corner' });

  it('measure between two places, on every axis', () => {
    const bench = new ToolBench(measureTool, DRAWING);
    bench.spaceAt = at(0, 0, 0);
    bench.press(0, 0);
    bench.spaceAt = at(3, 0, 4);
    bench.press(3, 0);
    expect(bench.settings.measured.slice(0, 2)).toEqual(['5\u2009cells, 40\u2009mm', 'a 3  b 0  h 4']);
    expect(bench.settings.measured[2]).toMatch(/^on the sheet/);
  });

  it('find a plane through three places, or an edge and a typed angle', () => {
    const bench = new ToolBench(stanceTool, DRAWING);
    for (const place of [at(0, 0, 0), at(5, 0, 0), at(0, 2, 2)]) {
      bench.spaceAt = place;
      bench.press(0, 0);
    }
    expect(bench.found?.stance?.u).toEqual({ a: 1, b: 0, h: 0 });
    expect(bench.done).toBe(true);
    const slope = new ToolBench(stanceTool, DRAWING);
    slope.spaceAt = at(0, 0, 3);
    slope.press(0, 0);
    slope.spaceAt = at(5, 0, 3);
    slope.press(0, 0);
    expect(slope.fields).toEqual(['angle']);
    slope.type(45);
    expect(slope.found?.stance?.v.h).toBeCloseTo(Math.SQRT1_2, 12);
  });

  it('draw a dimension that hangs on the corners it was drawn between', () => {
    const bench = withLines(new ToolBench(dimensionTool, DRAWING), [0, 0, 6, 0]);
    bench.press(0, 0).press(6, 0);
    expect(bench.at('move', 3, -2).ghost!.words[0]).toBe('6\u2009cells, 48\u2009mm');
    bench.type(2.5);
    const node = bench.document.nodes.at(-1) as DimensionNode;
    expect(node).toMatchObject({ kind: 'dimension', along: 'line', apart: -2.5, from: { node: expect.any(String), point: 1 }, to: { point: 2 } });
  });

  it('take a colour, and draw the last shape again', () => {
    const colour = new ToolBench(colourTool, DRAWING);
    expect(colour.press(0, 0).taken).toBeNull();
    colour.colour = { colour: '#123456', from: 'from the drawing' };
    expect(colour.at('move', 0, 0).ghost).toMatchObject({ swatch: '#123456', words: ['#123456', 'from the drawing'] });
    expect(colour.press(0, 0).taken).toBe('#123456');
    const again = new ToolBench(againTool, DRAWING);
    expect(again.at('move', 2, 2).ghost!.words[0]).toBe('nothing has been drawn yet');
    again.settings = { ...again.settings, lastShape: rectangleOutline({ u: 0, v: 0 }, { u: 3, v: 1 }) };
    again.press(4, 5);
    expect(places(shapeOf(again).outline)).toEqual(['4 5', '7 5', '7 6', '4 6']);
  });
});
