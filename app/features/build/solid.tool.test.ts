import { bodyOf, boundsAll, SOLID_KINDS, type Plane, type ShapeNode } from '@core';
import { bodyVolume, measuresOf } from '@later';
import { ToolBench } from '../../testing/tool-bench';
import { USUAL_BUILD } from './build-set';
import { solidTool, type SolidState } from './solid.tool';

const FLOOR: Plane = { kind: 'floor', offset: 0 };
type Bench = ToolBench<SolidState, typeof USUAL_BUILD>;

const bench = (kind: (typeof SOLID_KINDS)[number], set: Partial<typeof USUAL_BUILD> = {}, plane = FLOOR): Bench =>
  new ToolBench(solidTool(kind), { ...USUAL_BUILD, ...set }, plane);

/** A press over a place of the floor at a height. */
function pressAt(one: Bench, u: number, v: number, h: number): Bench {
  return one.press(u, v, { plane: { kind: 'floor', offset: h } });
}

const last = (one: Bench): ShapeNode => one.document.nodes.at(-1) as ShapeNode;

describe('solids drawn at once', () => {
  it.each(SOLID_KINDS)('%s: takes at most three presses, and has its measures', (kind) => {
    const one = bench(kind).press(1, 1).press(7, 7);
    if (kind !== 'ball') {
      one.at('move', 7, 7, { plane: { kind: 'floor', offset: 3 } });
      expect(one.preview).toMatchObject({ kind: 'add' });
      expect(one.ghost!.words[0]).toContain('height 3');
      pressAt(one, 7, 7, kind === 'arch' ? 5 : 3);
    }
    expect(one.document.nodes).toHaveLength(1);
    expect(measuresOf(last(one))).toMatchObject({ kind, measures: { width: 6 } });
    expect(last(one).name).toBe(`${kind} 1, floor`);
    expect(bodyVolume(bodyOf(last(one))!)).toBeGreaterThan(0);
    expect([one.selection, one.preview]).toEqual([[last(one).id], null]);
  });

  it('drag the base, and type what is wanted on the way', () => {
    const box = bench('box').at('down', 0, 0).at('move', 4, 3).at('up', 4, 3);
    expect(box.fields).toEqual(['height']);
    expect(box.type(2.5).document.nodes).toHaveLength(1);
    expect(measuresOf(last(box))!.measures).toEqual({ width: 4, length: 3, height: 2.5 });
    box.press(10, 10).at('move', 11, 11);
    expect(box.fields).toEqual(['along a', 'along b', 'height']);
    box.type(5, 2, 3);
    expect(measuresOf(last(box))!.measures).toEqual({ width: 5, length: 2, height: 3 });
    const dome = bench('dome').press(0, 0).at('move', 1, 1);
    expect(dome.fields).toEqual(['width', 'height']);
    expect(measuresOf(last(dome.type(6, 2)))!.measures).toMatchObject({ width: 6, height: 2 });
    const ball = bench('ball').press(0, 0).at('move', 1, 1);
    expect(measuresOf(last(ball.type(4)))!.measures).toMatchObject({ width: 4 });
  });

  it('stand on the face under the pointer, out of it, and on walls', () => {
    const one = bench('box').press(0, 0).press(6, 6).type(4);
    pressAt(one, 1, 1, 4);
    pressAt(one, 3, 3, 4);
    pressAt(one, 3, 3, 6);
    expect(bodyOf(last(one))!.bounds).toEqual({ min: { a: 1, b: 1, h: 4 }, max: { a: 3, b: 3, h: 6 } });
    // On the left side of the first, which faces against a, it grows against a.
    const wall: Plane = { kind: 'left', offset: 0 };
    one.press(2, 1, { plane: wall }).press(4, 3, { plane: wall }).type(2);
    expect(bodyOf(last(one))!.bounds.min.a).toBe(-2);
    const plain = bench('box', { onFaces: false }).press(0, 0).press(6, 6).type(4);
    plain.press(1, 1).press(3, 3).type(1);
    expect(bodyOf(last(plain))!.bounds.min.h).toBe(0);
  });

  it('are as high as the face under the pointer where that is asked for', () => {
    const one = bench('box').press(10, 0).press(14, 4).type(3.5);
    one.press(0, 0).press(4, 4);
    const top = { plane: { kind: 'floor', offset: 3.5 }, lock: true } as const;
    one.at('move', 12, 2, top);
    expect(one.ghost!.words[1]).toBe('up to box 1, floor');
    expect(measuresOf(last(one.at('down', 12, 2, top)))!.measures).toMatchObject({ height: 3.5 });
  });

  it('are drawn from their middle, measures counting from side to side', () => {
    const set = { fromMiddle: true };
    const box = bench('box', set).press(5, 5).press(7, 6);
    expect(bodyOf(last(box.type(3)))!.bounds).toEqual({ min: { a: 3, b: 4, h: 0 }, max: { a: 7, b: 6, h: 3 } });
    box.press(20, 20).at('move', 21, 21);
    expect(bodyOf(last(box.type(3, 1, 2)))!.bounds).toEqual({ min: { a: 18.5, b: 19.5, h: 0 }, max: { a: 21.5, b: 20.5, h: 2 } });
    const ball = bench('ball', set).press(5, 5).press(7, 5);
    expect(measuresOf(last(ball))!.measures).toMatchObject({ width: 4 });
    expect(boundsAll([bodyOf(last(ball))!])).toMatchObject({ min: { a: 3, b: 3, h: 0 }, max: { a: 7, b: 7, h: 4 } });
  });

  it('make steps by their count, rise or run', () => {
    const by = (set: Partial<typeof USUAL_BUILD>): unknown => measuresOf(last(bench('steps', set).press(0, 0).press(4, 6).type(3)))!.measures;
    expect(by({ stepsBy: 'count', count: 6 })).toMatchObject({ count: 6, length: 6, height: 3, rise: 0.5, run: 1 });
    expect(by({ stepsBy: 'rise', rise: 0.7 })).toMatchObject({ count: 4, rise: 0.7, height: 2.8 });
    expect(by({ stepsBy: 'run', run: 1.25 })).toMatchObject({ count: 5, run: 1.25, length: 6.25 });
    expect(by({ turn: 1, count: 4 })).toMatchObject({ width: 6, length: 4, count: 4 });
  });

  it('say why they cannot be made, and take a step back', () => {
    const arch = bench('arch', { pier: 4 }).press(0, 0).press(6, 2);
    arch.at('move', 6, 2, { plane: { kind: 'floor', offset: 5 } });
    expect(arch.ghost!.words).toContain('The piers leave no opening between them.');
    expect(pressAt(arch, 6, 2, 5).document.nodes).toHaveLength(0);
    arch.key('Backspace');
    expect(arch.fields).toHaveLength(3);
    expect(arch.key('Escape').fields).toHaveLength(0);
    const sheet = bench('box', {}, { kind: 'sheet', offset: 0 }).at('move', 1, 1);
    expect(sheet.ghost!.words[0]).toContain('floor, a wall or a face');
  });
});
