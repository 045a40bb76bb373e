import fc from 'fast-check';
import { exactCells, isCells, ticksFromCells } from './exact';
import { TICKS_PER_CELL } from './tolerances';

const ticks = fc.integer({ min: -5_000_000, max: 5_000_000 });

describe('exact cells', () => {
  it('keep halves, thirds, tenths and hundredths through sums', () => {
    const tenth = exactCells(0.1);
    let sum = 0;
    for (let i = 0; i < 100; i++) sum = exactCells(sum + tenth);
    expect(sum).toBe(10);
    expect(exactCells(exactCells(1 / 3) * 3)).toBe(1);
    expect(exactCells(0.1 + 0.2)).toBe(0.3);
  });

  it('give the same double by every way to a place', () => {
    fc.assert(
      fc.property(ticks, ticks, (p, d) => {
        const at = exactCells(p / TICKS_PER_CELL);
        const by = exactCells(d / TICKS_PER_CELL);
        expect(exactCells(exactCells(at + by) - by)).toBe(at);
        expect(exactCells(at)).toBe(at);
        expect(ticksFromCells(at)).toBe(p === 0 ? 0 : p);
      }),
      { seed: 11, numRuns: 1000 },
    );
  });

  it('have no minus zero and refuse what is not a place', () => {
    expect(Object.is(exactCells(-1e-9), 0)).toBe(true);
    expect([NaN, Infinity, 1e7].map(isCells)).toEqual([false, false, false]);
  });
});
