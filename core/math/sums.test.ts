import { lengthInUnit, parseLength, parseMillimetres, parseSum, typedUnit } from './sums';

const value = (text: string): number | string => {
  const sum = parseSum(text);
  return sum.ok ? sum.value : sum.message;
};

describe('typed sums', () => {
  it.each([
    ['(240-3*18)/2', 93],
    ['(18-3*2)/2', 6],
    ['2,5 + 0.5', 3],
    ['\u22123 × 4', -12],
    ['10 ÷ 4', 2.5],
    ['+7', 7],
    ['-(2+3)*-2', 10],
  ])('%s is %d', (text, expected) => expect(value(text)).toBe(expected));

  it.each([
    ['', 'Nothing is typed.'],
    ['12 +', /not a sum/],
    ['1/0', /divides by zero/],
    ['width', /not a number/],
    ['2 ** 3', /no meaning|not a sum/],
    ['alert(1)', /Only numbers/],
    ["'4'", /not a number/],
    ['a.b', /Only numbers/],
    ['!3', /no meaning/],
    ['('.repeat(60) + '1' + ')'.repeat(60) + '+1'.repeat(50), /longer|deep/],
    ['1' + '+1'.repeat(80), /deeply/],
  ])('%s is refused with a reason', (text, reason) => expect(value(text)).toMatch(reason));

  it('are taken in cells, or in the unit where they end with it', () => {
    const sheet = { unit: 'cm', resolution: 254, scale: 50 } as const;
    expect(parseLength('5', sheet, 8)).toEqual({ ok: true, value: 5 });
    expect(parseLength('2*20 mm', sheet, 8)).toEqual({ ok: true, value: 5 });
    expect(parseLength('0.8 m', sheet, 8)).toEqual({ ok: true, value: 2 });
    expect((parseLength('80px', sheet, 8) as { value: number }).value).toBeCloseTo(1, 12);
    expect(parseLength('x mm', sheet, 8).ok).toBe(false);
    expect(parseMillimetres('(1+2)*4', sheet)).toEqual({ ok: true, value: 120 });
    expect(parseMillimetres('1 in', sheet)).toEqual({ ok: true, value: 25.4 });
    expect(parseMillimetres('72 pt', sheet)).toEqual({ ok: true, value: 25.4 });
  });

  it('may have a unit behind any term', () => {
    const sheet = { unit: 'mm', resolution: 254, scale: 20 } as const;
    const mm = (text: string): number | string => {
      const read = parseMillimetres(text, sheet);
      return read.ok ? Math.round(read.value * 1e9) / 1e9 : read.message;
    };
    expect(mm('12 mm + 0.5 in')).toBe(24.7);
    expect(mm('210 mm / 2')).toBe(105);
    expect(mm('(240-3*18)/2 mm')).toBe(93);
    expect(mm('(1 cm + 2 mm) * 3')).toBe(36);
    expect(mm('2.4 m')).toBe(120);
    expect(mm('10 + 1 cm - 2 mm')).toBe(18);
    expect(mm('40 px')).toBe(4);
    // A pica is twelve points; what is said to be real is drawn at the scale.
    expect([mm('6 pc'), mm('3 pc + 36 pt'), mm('200 mm real'), mm('(2 m + 40 cm) real'), mm('200 real')]).toEqual([25.4, 25.4, 10, 120, 10]);
    expect([typedUnit('6 pc'), typedUnit('2 m'), typedUnit('6 pt')]).toEqual(['pt', null, 'pt']);
    expect(mm('40 mm / 8 mm')).toBe(5);
    expect(mm('3 mm * 3 mm')).toMatch(/no length/);
    expect(mm('3 / 3 mm * 2 mm')).toMatch(/no length/);
    expect(mm('mm')).toMatch(/not a sum/);
    expect(mm('1,5 cm')).toBe(15);
    expect(mm('3 mmm')).toMatch(/have a meaning/);
    const cells = parseLength('2 + 12 mm + 2 cells', sheet, 6);
    expect(cells.ok).toBe(false);
    expect(parseLength('2 + 12 mm + 6 mm', sheet, 6)).toEqual({ ok: true, value: 5 });
  });

  it('are shown in the unit, and at a drawing scale in the real thing as well', () => {
    expect(lengthInUnit(62.5, { unit: 'mm', resolution: 300, scale: 1 })).toBe('62.5\u2009mm');
    expect(lengthInUnit(25, { unit: 'cm', resolution: 300, scale: 50 })).toBe('2.5\u2009cm, 1.25\u2009m real');
    expect(lengthInUnit(10, { unit: 'mm', resolution: 300, scale: 20 })).toBe('10\u2009mm, 20\u2009cm real');
  });
});
