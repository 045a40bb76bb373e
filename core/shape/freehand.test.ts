import { cleanStroke, straightenStroke, type PenPoint } from './freehand';

const pen = (count: number, at: (t: number) => readonly [number, number], press: (t: number) => number = () => 0.5): PenPoint[] =>
  Array.from({ length: count }, (_, i) => {
    const [u, v] = at(i / (count - 1));
    return { u, v, press: press(i / (count - 1)) };
  });

describe('freehand strokes', () => {
  it('are cleaned to few points, and say how far they stray', () => {
    const wave = pen(400, (t) => [20 * t, 3 * Math.sin(2 * Math.PI * t)]);
    const { outline, deviation } = cleanStroke(wave, 0.05)!;
    expect(outline.points.length).toBeLessThan(8);
    expect(deviation).toBeLessThanOrEqual(0.05);
    expect(outline.points[0]).toMatchObject({ u: 0, v: 0 });
    expect(outline.points.at(-1)).toMatchObject({ u: 20 });
    const finer = cleanStroke(wave, 0.002)!;
    expect(finer.deviation).toBeLessThan(0.003);
    expect(finer.outline.points.length).toBeGreaterThan(outline.points.length);
  });

  it('keep their corners', () => {
    const hook = [...pen(50, (t) => [10 * t, 0]), ...pen(50, (t) => [10, 6 * t])];
    const { outline } = cleanStroke(hook, 0.05)!;
    expect(outline.points).toHaveLength(3);
    expect(outline.points[1]).toMatchObject({ u: 10, v: 0 });
  });

  it('carry the pressure of the pen where it varies', () => {
    const { outline } = cleanStroke(pen(60, (t) => [10 * t, t * t], (t) => 0.2 + 0.8 * t), 0.02)!; // prettier-ignore
    expect(outline.points[0]?.press).toBeCloseTo(0.2, 1);
    expect(outline.points.at(-1)?.press).toBeCloseTo(1, 1);
    expect(
      cleanStroke(
        pen(60, (t) => [10 * t, 0]),
        0.02,
      )?.outline.points[0]?.press,
    ).toBeUndefined();
  });

  it('are nothing for a single place', () => {
    expect(cleanStroke([{ u: 1, v: 1, press: 1 }], 0.1)).toBeNull();
  });

  it('run along axes with assistance, shaking or not', () => {
    const shaky = [...pen(40, (t) => [10 * t, 0.2 * Math.sin(40 * t)]), ...pen(40, (t) => [10 + 0.2 * Math.sin(50 * t), 6 * t])];
    const axes = (): { u: number; v: number }[] => [{ u: 1, v: 0 }, { u: 0, v: 1 }]; // prettier-ignore
    const run = straightenStroke(shaky, axes, 0.5);
    expect(run).toHaveLength(3);
    expect([run[0]!.v, run[1]!.v]).toEqual([0, 0]);
    expect(run[2]!.u).toBe(run[1]!.u);
    expect(run[2]!.v).toBeCloseTo(6, 0);
  });
});
