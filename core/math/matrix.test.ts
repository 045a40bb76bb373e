import { affineOf, apply33, applyAffine, composeAffine, determinant33, invert33, invertAffine, multiply33, type Mat33 } from './matrix';
import { figure, measure, plainNumber } from './figures';

const map: Mat33 = [2, 1, 5, -1, 3, 2, 0, 0, 1];

describe('inverting', () => {
  it('does not mind how large or small the entries are', () => {
    for (const k of [1e-9, 1, 1e9]) {
      const m = [8 * k, 2 * k, 5e7 * k, -3 * k, 9 * k, 2e7 * k, 0, 0, k] as const;
      const back = multiply33(invert33(m)!, m);
      for (const [i, one] of [1, 0, 0, 0, 1, 0, 0, 0, 1].entries()) expect(back[i]).toBeCloseTo(one, 6);
    }
  });

  it('gives nothing for what flattens the plane, by rounding only too', () => {
    expect(invert33([1e-9, 2e-9, 0, 2e-9, 4e-9, 0, 0, 0, 1])).toBeNull();
    expect(invert33([0.1, 0.2, 0.3, 0.3, 0.6, 0.9, 7, 8, 9])).toBeNull();
    expect(invert33([1, 2, NaN, 2, 4, 0, 0, 0, 1])).toBeNull();
  });
});

describe('matrices', () => {
  it('undo what their inverses do', () => {
    const inverse = invert33(map)!;
    multiply33(map, inverse).forEach((value, i) => expect(value).toBeCloseTo(i % 4 === 0 ? 1 : 0, 12));
    expect(determinant33(map)).toBe(7);
    expect(invert33([1, 2, 3, 2, 4, 6, 0, 0, 1])).toBeNull();
    expect(invertAffine([1, 2, 2, 4, 0, 0])).toBeNull();
  });

  it('compose in the order of their algebra', () => {
    const turn = [0, 1, -1, 0, 0, 0] as const;
    const shift = [1, 0, 0, 1, 10, 0] as const;
    expect(applyAffine(composeAffine(shift, turn), 1, 0)).toEqual({ x: 10, y: 1 });
    expect(applyAffine(composeAffine(turn, shift), 1, 0)).toEqual({ x: 0, y: 11 });
  });

  it('send points at or behind infinity nowhere instead of dividing', () => {
    const horizon: Mat33 = [1, 0, 0, 0, 1, 0, 0, 1, 1];
    expect(apply33(horizon, 2, 1)).toEqual({ x: 1, y: 0.5 });
    expect(apply33(horizon, 2, -1)).toBeNull();
    expect(apply33(horizon, 2, -3)).toBeNull();
    expect(affineOf(horizon)).toBeNull();
    expect(affineOf(map)).toEqual([2, -1, 1, 3, 5, 2]);
  });
});

describe('figures', () => {
  it('are written for people without noise', () => {
    expect([figure(10), figure(-2.5), figure(81.6497), figure(-0.001), figure(1 / 3, 3)]).toEqual(['10', '\u22122.5', '81.65', '0', '0.333']);
    expect(measure(62.5, 'mm')).toBe('62.5\u2009mm');
  });

  it('are written for files without exponents', () => {
    expect([plainNumber(1e-9), plainNumber(-0.00001), plainNumber(12.5), plainNumber(100), plainNumber(0.123456)]).toEqual(['0', '0', '12.5', '100', '0.1235']);
  });
});
