import { findShape, type ShapeNode } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { outlineTool, resumeOutline } from './outline.tool';
import { rectangleTool } from './rectangle.tool';
import { USUAL_DRAW } from './draw-set';

const DRAWING = USUAL_DRAW;

const points = (shape: ShapeNode): number[][] => shape.outline.points.map((p) => [p.u, p.v]);
const only = (bench: { document: { nodes: readonly unknown[] } }): ShapeNode => bench.document.nodes.at(-1) as ShapeNode;

describe('the outline tool', () => {
  it('closes on the first point, filled and named by its plane', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0.1, 0.2).press(4, 0).press(4.2, 3.1).press(0, 3);
    bench.at('move', 0.1, 0.1);
    expect(bench.ghost).toMatchObject({ closes: true, closed: true });
    expect(bench.ghost!.words).toContain('closes');
    bench.press(0, 0);
    expect(points(only(bench))).toEqual([[0, 0], [4, 0], [4, 3], [0, 3]]); // prettier-ignore
    expect(only(bench)).toMatchObject({ name: 'outline 1, floor', outline: { closed: true }, paint: { fill: '#c98a4b' } });
    expect(bench.selection).toEqual(['new-1']);
    expect(bench.labels).toEqual(['draw outline 1, floor']);
    expect(bench.fields).toEqual([]);
  });

  it('takes points back one by one, and starts the next shape at once', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0).press(3, 0).press(9, 9).key('Backspace').press(3, 3).key('Enter');
    expect(points(only(bench))).toEqual([[0, 0], [3, 0], [3, 3]]); // prettier-ignore
    bench.press(5, 5).press(8, 5).key('Backspace').key('Backspace').key('Backspace');
    expect(bench.state.points).toEqual([]);
    bench.press(1, 1).press(2, 1).press(2, 2).key('Enter');
    expect(only(bench).name).toBe('outline 2, floor');
  });

  it('keeps an open line on Escape, and nothing of a single point', () => {
    const bench = new ToolBench(outlineTool, DRAWING, { kind: 'left', offset: 2 }).press(0, 0).press(0, 5).key('Escape');
    expect(only(bench)).toMatchObject({ outline: { closed: false }, paint: { fill: null }, plane: { kind: 'left', offset: 2 }, name: 'line 1, left wall' });
    bench.press(1, 1).key('Escape');
    expect(bench.document.nodes).toHaveLength(1);
  });

  it('locks to the nearer axis and says which', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0).at('move', 6.1, 1.2, { lock: true });
    expect(bench.ghost!.words).toEqual(['6\u2009cells, 48\u2009mm', 'along a', 'along a, floor']);
    bench.press(6, 1, { lock: true }).press(6.4, 4, { lock: true });
    expect(bench.state.points.map((p) => [p.u, p.v])).toEqual([[0, 0], [6, 0], [6, 4]]); // prettier-ignore
  });

  it('sets the next point at a typed distance towards the pointer', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0).at('move', 4, 0);
    expect(bench.fields).toEqual(['length', 'angle', 'along a', 'along b']);
    bench.type(7.5);
    expect(bench.state.points.at(-1)).toEqual({ u: 7.5, v: 0 });
    bench.at('move', 7.5, 0).type(3);
    bench.type(null);
    expect(bench.state.points).toHaveLength(2);
  });

  it('stays on the plane of its first point, and draws free of the grid when asked', () => {
    const bench = new ToolBench(outlineTool, DRAWING).press(0, 0);
    bench.plane = { kind: 'right', offset: 0 };
    const floor = { kind: 'floor', offset: 0 } as const;
    bench.press(2.34, 1.5, { free: true, plane: floor });
    expect(bench.state.points[1]!.u).toBeCloseTo(2.34, 4);
    expect(bench.state.plane).toEqual(floor);
    bench.press(2.34, 1.5, { free: true, plane: floor });
    expect(bench.state.points).toHaveLength(2);
  });

  it('takes up what was left half drawn', () => {
    const bench = new ToolBench(outlineTool, DRAWING);
    bench.state = resumeOutline({ kind: 'left', offset: 0 }, [{ u: 0, v: 0 }, { u: 2, v: 0 }]); // prettier-ignore
    expect(bench.ghost!.points).toHaveLength(2);
    bench.press(2, 2, { plane: { kind: 'left', offset: 0 } }).key('Enter');
    expect(only(bench).plane.kind).toBe('left');
  });

  it('catches the corner of a neighbour', () => {
    const bench = new ToolBench(outlineTool, DRAWING);
    bench.grid = false;
    bench.press(0.5, 0.5, { free: true }).press(3.25, 0.5, { free: true }).press(3, 3, { free: true }).key('Enter');
    bench.at('move', 3.3, 0.53);
    expect(bench.ghost!.caught).toMatchObject({ kind: 'point', u: 3.25, v: 0.5 });
  });
});

describe('the rectangle tool', () => {
  it('is drawn by two presses or by one drag, counted while it is drawn', () => {
    const bench = new ToolBench(rectangleTool, DRAWING, { kind: 'left', offset: 0 }).press(0, 1).at('move', 12.2, 7.9);
    expect(bench.ghost!.words).toEqual(['12 × 7\u2009cells', '96 × 56\u2009mm', 'crossing, left wall']);
    bench.press(12, 8);
    expect(points(only(bench))).toEqual([[0, 1], [12, 1], [12, 8], [0, 8]]); // prettier-ignore
    bench.at('down', 2, 2).at('move', 5, 4).at('up', 5, 4);
    expect(only(bench).name).toBe('rectangle 2, left wall');
    expect(bench.document.nodes).toHaveLength(2);
  });

  it('takes typed sides towards the pointer, one or both', () => {
    const bench = new ToolBench(rectangleTool, DRAWING).press(5, 5).at('move', 2, 9);
    expect(bench.fields).toEqual(['along a', 'along b']);
    bench.type(4.5, null);
    expect(points(only(bench))[2]).toEqual([0.5, 9]);
  });

  it('does nothing without an area, and forgets its corner on Escape', () => {
    const bench = new ToolBench(rectangleTool, DRAWING).press(1, 1).press(4, 1);
    expect(bench.document.nodes).toHaveLength(0);
    bench.key('Escape');
    expect(bench.fields).toEqual([]);
    bench.press(1, 1).at('move', 3, 3).key('Enter');
    expect(findShape(bench.document, 'new-1')).not.toBeNull();
  });
});
