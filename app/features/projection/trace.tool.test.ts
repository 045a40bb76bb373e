import { applyEdit, emptyDocument, type Stroke } from '@core';
import { ToolBench } from '../../testing/tool-bench';
import { traceTool } from './trace.tool';
import type { TraceSettings } from './trace.settings';

const stroke = (id: string, x: number, axis: Stroke['axis'] = 'a'): Stroke => ({ id, from: { x, y: 100 }, to: { x: x + 40, y: 80 }, axis });

/** The tool on the bare sheet, whose points are given in mm. */
function tracing(...strokes: Stroke[]): {
  bench: ToolBench<ReturnType<typeof traceTool.start>, TraceSettings>;
  at: (kind: 'move' | 'down' | 'up', x: number, y: number) => void;
} {
  const document = applyEdit(emptyDocument('d', 'd'), { kind: 'strokes', strokes });
  const bench = new ToolBench(traceTool, { traced: null }, { kind: 'floor', offset: 0 }, document);
  return { bench, at: (kind, x, y) => void bench.send({ kind, at: { x, y }, lock: false, free: false }) };
}

describe('tracing', () => {
  it('makes a stroke by two presses or by one drag, snapping to nothing, its axis guessed', () => {
    const { bench, at } = tracing();
    at('move', 10.3, 150.7);
    expect(bench.ghost!.words).toEqual(['trace an edge']);
    at('down', 10.3, 150.7);
    at('up', 10.3, 150.7);
    at('move', 60, 130);
    expect(bench.ghost!.words).toEqual(['along a', '53.8\u2009mm']);
    expect(bench.ghost!.line).toEqual([10.3, 150.7, 60, 130]);
    at('down', 60, 130);
    at('up', 60, 130);
    at('down', 90, 90);
    at('move', 91, 40);
    at('up', 91, 40);
    expect(bench.document.strokes).toEqual([
      { id: 'new-1', from: { x: 10.3, y: 150.7 }, to: { x: 60, y: 130 }, axis: 'a' },
      { id: 'new-2', from: { x: 90, y: 90 }, to: { x: 91, y: 40 }, axis: 'h' },
    ]);
    expect(bench.labels).toEqual(['trace an edge along a', 'trace an edge along h']);
    // An edge as good as parallel to one that is read runs along its axis, where alone it would be b.
    at('down', 10, 20);
    at('move', 60, 0);
    at('up', 60, 0);
    expect(bench.document.strokes[2]!.axis).toBe('a');
  });

  it('refines a stroke by its ends, shown before it is made', () => {
    const { bench, at } = tracing(stroke('s', 20));
    at('move', 40, 90);
    expect(bench.ghost!.words).toEqual(['choose this edge along a']);
    at('down', 40, 90);
    at('up', 40, 90);
    expect(bench.ghost!.points).toHaveLength(2);
    at('move', 20.5, 100);
    expect(bench.ghost!.words).toEqual(['drag this end']);
    at('down', 20, 100);
    at('move', 25, 95);
    expect(bench.preview).toEqual({ kind: 'strokes', strokes: [{ ...stroke('s', 20), from: { x: 25, y: 95 } }] });
    at('up', 25, 95);
    expect(bench.document.strokes[0]!.from).toEqual({ x: 25, y: 95 });
  });

  it('tells a stroke’s next axis by a press on its middle', () => {
    const { bench, at } = tracing(stroke('s', 20));
    at('down', 40, 90);
    at('up', 40, 90);
    at('move', 40, 90);
    expect(bench.ghost!.words[0]).toContain('press for along b');
    for (const axis of ['b', 'h', 'a']) {
      at('down', 40, 90);
      at('up', 40, 90);
      expect(bench.document.strokes[0]!.axis).toBe(axis);
    }
  });

  it('takes back the last stroke or the one begun, and leaves off at Escape', () => {
    const { bench, at } = tracing(stroke('s', 20), stroke('t', 120));
    at('down', 200, 20);
    at('up', 200, 20);
    bench.key('Backspace');
    expect(bench.document.strokes).toHaveLength(2);
    bench.key('Backspace');
    expect(bench.document.strokes.map((s) => s.id)).toEqual(['s']);
    at('down', 200, 20);
    bench.key('Escape');
    at('move', 230, 20);
    expect(bench.ghost!.line).toBeUndefined();
    bench.key('Enter');
    expect(bench.document.strokes).toHaveLength(1);
    // A corner where a stroke ends begins the next one, unless that stroke was chosen.
    at('down', 60, 80);
    at('move', 60, 40);
    at('up', 60, 40);
    expect(bench.document.strokes.at(-1)).toMatchObject({ from: { x: 60, y: 80 }, axis: 'h' });
    bench.key('Backspace');
    at('down', 200, 20);
    at('up', 200, 20);
    at('down', 200.5, 20);
    expect(bench.document.strokes).toHaveLength(1);
  });
});
