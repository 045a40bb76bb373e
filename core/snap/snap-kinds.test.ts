import { indexOf } from './catch-index';
import { catchAt, crossingOf, lockToAxis, type CatchOptions } from './snap';
import { NO_SOURCE, type CatchSource } from './source';

/** A plane that lies on the sheet as it is, ten px to the cell. */
const options = (part: Partial<CatchOptions> = {}): CatchOptions => ({ sheetFromPlane: [1, 0, 0, 0, 1, 0, 0, 0, 1], pxPerUnit: 40, grid: false, ...part });
const edges = (...flat: number[][]): CatchSource => ({
  ...NO_SOURCE,
  edges: flat.map(([u, v, u2, v2]) => [{ u: u!, v: v! }, { u: u2!, v: v2! }] as const), // prettier-ignore
});

describe('kinds of catching', () => {
  it('finds where lines cross', () => {
    const cross = edges([0, 0, 4, 3], [0, 3, 4, 0]);
    expect(catchAt({ u: 2.52, v: 1.86 }, edges([0, 0, 4, 3], [1, 3, 5, 0]), options())).toMatchObject({ kind: 'intersection', u: 2.5, v: 1.875 });
    expect(catchAt({ u: 2.1, v: 1.5 }, cross, options({ off: new Set(['middle']) }))).toMatchObject({ kind: 'intersection', u: 2, v: 1.5 });
    expect(crossingOf({ u: 0, v: 0 }, { u: 1, v: 0 }, { u: 0, v: 1 }, { u: 1, v: 1 })).toBeNull();
  });

  it('finds the foot of the perpendicular from the last point', () => {
    // Onto the line 3u + 4v = 25 from the origin: (3, 4).
    const line = edges([-1, 7, 7, 1]);
    expect(catchAt({ u: 3.1, v: 4.05 }, line, options({ drawn: [{ u: 0, v: 0 }], off: new Set(['middle']) }))).toMatchObject({
      kind: 'perpendicular',
      u: 3,
      v: 4,
    });
    expect(catchAt({ u: 3.1, v: 4.05 }, line, options({ off: new Set(['middle']) })).kind).toBe('edge');
  });

  it('goes on with a spacing, and finds the middle between two points', () => {
    const hints = [{ u: 1, v: 1 }, { u: 3, v: 2 }]; // prettier-ignore
    expect(catchAt({ u: 5.1, v: 3.1 }, NO_SOURCE, options({ hints }))).toMatchObject({ kind: 'spacing', u: 5, v: 3, with: hints[1] });
    expect(catchAt({ u: 2.05, v: 1.45 }, NO_SOURCE, options({ hints }))).toMatchObject({ kind: 'spacing', u: 2, v: 1.5 });
  });

  it('aligns with two points at once, and along drawn axes on the sheet', () => {
    const hints = [{ u: 1, v: 1 }, { u: 7, v: 5 }]; // prettier-ignore
    expect(catchAt({ u: 7.05, v: 1.06 }, NO_SOURCE, options({ hints, off: new Set(['spacing']) }))).toMatchObject({
      u: 7,
      v: 1,
      with: expect.anything(),
      also: expect.anything(),
    });
    const axes = (): { along: 'a'; du: number; dv: number }[] => [{ along: 'a', du: Math.cos(Math.PI / 6), dv: -0.5 }];
    const caught = catchAt({ u: 1 + 4 * Math.cos(Math.PI / 6), v: 1 - 2.05 }, NO_SOURCE, options({ hints: [hints[0]!], axes }));
    expect(caught.kind).toBe('along a');
    expect((caught.v - 1) / (caught.u - 1)).toBeCloseTo(-Math.tan(Math.PI / 6), 4);
    const locked = lockToAxis({ u: 1, v: 1 }, { u: 4, v: -0.7, kind: 'free', with: null }, { u: 4, v: -0.7 }, options({ axes }));
    expect(locked.axis).toBe('a');
  });

  it('keeps the grid in the other coordinate when it aligns on squared paper', () => {
    const caught = catchAt({ u: 4.4, v: 1.28 }, NO_SOURCE, options({ grid: true, hints: [{ u: 0.5, v: 1.25 }] }));
    expect(caught).toMatchObject({ kind: 'along u', u: 4, v: 1.25 });
  });

  it('takes parts of a cell and grid lines when asked', () => {
    expect(catchAt({ u: 1.36, v: 0.64 }, NO_SOURCE, options({ grid: true, parts: 3 }))).toMatchObject({ kind: 'part', u: 4 / 3, v: 2 / 3 });
    expect(catchAt({ u: 1.04, v: 0.44 }, NO_SOURCE, options({ grid: true, parts: 10 }))).toMatchObject({ kind: 'part', u: 1, v: 0.4 });
    expect(catchAt({ u: 2.02, v: 0.44 }, NO_SOURCE, options({ grid: true }))).toMatchObject({ kind: 'grid line', u: 2, v: 0.44 });
    expect(catchAt({ u: 2.02, v: 0.44 }, NO_SOURCE, options({ grid: true, off: new Set(['grid line']) }))).toMatchObject({ kind: 'crossing', u: 2, v: 0 });
  });

  it('leaves out every kind that is switched off', () => {
    const source: CatchSource = { ...edges([0, 0, 4, 0]), points: [{ u: 0, v: 0 }], centres: [{ u: 2, v: 1 }] };
    const at = (u: number, v: number, ...off: string[]): string => catchAt({ u, v }, source, options({ off: new Set(off) as never })).kind;
    expect([at(0.05, 0), at(0.05, 0, 'point')]).toEqual(['point', 'edge']);
    expect([at(2, 0.05), at(2, 0.05, 'middle')]).toEqual(['middle', 'edge']);
    expect([at(2, 1.05), at(2, 1.05, 'centre')]).toEqual(['centre', 'free']);
    expect(at(1, 0.05, 'edge')).toBe('free');
  });

  it('finds the same among ten thousand points as by looking at each', () => {
    let state = 1;
    const pick = (): number => ((state = (state * 48_271) % 2_147_483_647) % 40_000) / 100;
    const points = Array.from({ length: 10_000 }, () => ({ u: pick(), v: pick() }));
    const source = { ...NO_SOURCE, points };
    for (let i = 0; i < 300; i++) {
      const at = { u: pick(), v: pick() };
      const caught = catchAt(at, source, options());
      const nearest = points.reduce((best, p) => (Math.hypot(p.u - at.u, p.v - at.v) < Math.hypot(best.u - at.u, best.v - at.v) ? p : best));
      const off = Math.hypot(nearest.u - at.u, nearest.v - at.v) * 40;
      if (off <= 9) expect([caught.kind, Math.hypot(caught.u - at.u, caught.v - at.v)]).toEqual(['point', expect.closeTo(off / 40, 4)]);
      else expect(caught.kind).toBe('free');
    }
    expect(indexOf(source)).toBe(indexOf(source));
  });

  it('takes an edge in perspective where it lies, not where halves of the sheet would put it', () => {
    const map = [1, 0, 0, 0, 1, 0, 0, 0.1, 1] as const;
    const caught = catchAt({ u: 0.02, v: 5 }, edges([0, 0, 0, 10]), options({ sheetFromPlane: map, off: new Set(['middle']) }));
    expect(caught).toMatchObject({ kind: 'edge', u: 0 });
    expect(caught.v).toBeCloseTo(5, 2);
  });
});
