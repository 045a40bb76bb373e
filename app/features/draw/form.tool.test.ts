import { ellipseOf4, findShape, placedForm, type Plane, type ShapeNode } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { arcTool, circleTool, ellipseTool, lineTool, polygonTool, spiralTool, starTool } from './form.tool';
import { curveTool } from './outline.tool';
import { USUAL_DRAW } from './draw-set';

const DRAWING = USUAL_DRAW;

const RIGHT: Plane = { kind: 'right', offset: 2 };
const last = (bench: { document: { nodes: readonly unknown[] } }): ShapeNode => bench.document.nodes.at(-1) as ShapeNode;

describe('forms by a few points', () => {
  it('draw lines by two presses or one drag, and by a typed length along what is caught', () => {
    const bench = new ToolBench(lineTool, DRAWING, RIGHT).press(1, 1).at('move', 5, 1);
    expect(bench.ghost!.words).toEqual(['4\u2009cells, 32\u2009mm', '0°', 'along a', 'crossing, right wall']);
    bench.press(5, 1);
    expect(last(bench)).toMatchObject({ name: 'line 1, right wall', plane: RIGHT, outline: { closed: false, points: [{ u: 1, v: 1 }, { u: 5, v: 1 }] } }); // prettier-ignore
    bench.at('down', 0, 0).at('move', 0, 3).at('up', 0, 3);
    expect(bench.document.nodes).toHaveLength(2);
    bench.press(0, 0).at('move', 3, 4).type(10);
    expect(last(bench).outline.points[1]).toMatchObject({ u: 6, v: 8 });
  });

  it('draw circles by centre and radius, exact whatever the projection', () => {
    const bench = new ToolBench(circleTool, DRAWING, RIGHT).press(4, 4).at('move', 7, 4);
    expect(bench.ghost!.words.slice(0, 2)).toEqual(['radius 3\u2009cells, 24\u2009mm', 'diameter 6\u2009cells']);
    expect(bench.ghost!.closed).toBe(true);
    expect(bench.ghost!.points.length).toBeGreaterThan(20);
    bench.type(2.5);
    expect(ellipseOf4(last(bench).outline)).toEqual({ centre: { u: 4, v: 4 }, radii: { u: 2.5, v: 2.5 } });
    expect(last(bench).name).toBe('circle 1, right wall');
    bench.press(4, 4).press(4, 4);
    expect(bench.document.nodes).toHaveLength(1);
  });

  it('draw ellipses inscribed in a box, with typed sides', () => {
    const bench = new ToolBench(ellipseTool, DRAWING, RIGHT).press(0, 0).press(6, 4);
    expect(ellipseOf4(last(bench).outline)).toEqual({ centre: { u: 3, v: 2 }, radii: { u: 3, v: 2 } });
    bench.press(0, 0).at('move', -1, 1).type(8, null);
    expect(ellipseOf4(last(bench).outline)).toEqual({ centre: { u: -4, v: 0.5 }, radii: { u: 4, v: 0.5 } });
  });

  it('draw regular polygons with as many sides as are set', () => {
    const bench = new ToolBench(polygonTool, DRAWING, RIGHT);
    bench.settings = { ...bench.settings, sides: 5 };
    bench.press(0, 0).at('move', 4, 0);
    expect(bench.ghost!.words[0]).toBe('5 sides');
    bench.press(4, 0);
    expect(last(bench).outline.points).toHaveLength(5);
  });

  it('draw stars by their centre and a point, the inner radius typed or as it was set, kept with what is drawn', () => {
    const bench = new ToolBench(starTool, DRAWING, RIGHT).press(0, 0).at('move', 4, 0);
    expect(bench.ghost!.words.slice(0, 3)).toEqual(['5 points', 'radius 4\u2009cells, 32\u2009mm', 'inner 2\u2009cells, 16\u2009mm']);
    bench.press(4, 0);
    expect(last(bench)).toMatchObject({ name: 'star 1, right wall', form: { kind: 'star', points: 5, outer: 4, inner: 2, turnedDeg: 0 } });
    expect(last(bench).outline.points).toHaveLength(10);
    bench.press(0, 0).at('move', 4, 0).type(5, 1);
    expect(last(bench).form).toMatchObject({ outer: 5, inner: 1 });
    expect(bench.settings.star.inner).toBeCloseTo(0.2, 6);
    // A radius that makes none is refused, and is not kept for the next.
    bench.press(0, 0).at('move', 4, 0).type(5, 0);
    expect(bench.settings.star.inner).toBeCloseTo(0.2, 6);
  });

  it('draw spirals by their centre and their end, to the side that they are seen to run to', () => {
    const bench = new ToolBench(spiralTool, DRAWING, RIGHT).press(0, 0).at('move', 4, 0);
    expect(bench.ghost!.words[0]).toBe('3 turns');
    bench.type(6, 1, 2.5);
    expect(last(bench)).toMatchObject({ name: 'spiral 1, right wall', form: { kind: 'spiral', turns: 2.5, outer: 6, inner: 1, steps: 'even' } });
    expect(last(bench).outline.closed).toBe(false);
    expect(last(bench).paint.line).not.toBeNull();
    const way = placedForm(last(bench).outline, last(bench).form!)!.way;
    bench.settings = { ...bench.settings, spiral: { ...bench.settings.spiral, hand: 'right', band: 0.5 } };
    bench.press(0, 0).press(6, 0);
    expect(last(bench).outline.closed).toBe(true);
    expect(placedForm(last(bench).outline, last(bench).form!)!.way).toBe(-way);
    const count = bench.document.nodes.length;
    bench.settings = { ...bench.settings, spiral: { ...bench.settings.spiral, band: 5 } };
    bench.press(0, 0).at('move', 6, 0);
    expect(bench.ghost!.words).toContain('the band finds no room between the turns');
    bench.press(6, 0);
    expect(bench.document.nodes).toHaveLength(count);
  });

  it('draw arcs by both ends and a point that they pass over', () => {
    const bench = new ToolBench(arcTool, DRAWING, RIGHT).press(-3, 0).press(3, 0).at('move', 0, 3);
    expect(bench.ghost!.words[0]).toBe('passes over here');
    bench.press(0, 3);
    const { outline, paint } = last(bench);
    expect(outline.closed).toBe(false);
    expect(outline.points.every((p) => Math.abs(Math.hypot(p.u, p.v) - 3) < 1e-3)).toBe(true);
    expect(paint.line).not.toBeNull();
    // Over a point in line with the ends there is no arc.
    bench.press(0, 0).press(4, 0).press(2, 0);
    expect(bench.document.nodes).toHaveLength(1);
    bench.key('Backspace').key('Backspace').key('Escape');
    expect(bench.ghost!.points).toEqual([]);
  });

  it('draw smooth curves through points, open or closed', () => {
    const bench = new ToolBench(curveTool, DRAWING, RIGHT).press(0, 0).press(4, 2).press(8, 0).at('move', 8, -3);
    expect(bench.ghost!.smooth).toBe(true);
    expect(bench.ghost!.points.length).toBeGreaterThan(8);
    bench.key('Enter');
    const closed = findShape(bench.document, last(bench).id)!;
    expect(closed.name).toBe('curve 1, right wall');
    expect(closed.outline.closed && closed.outline.points.every((p) => p.into && p.out)).toBe(true);
    bench.press(0, 0).press(2, 2).press(4, 0).key('Escape');
    expect(last(bench).outline.closed).toBe(false);
  });
});
