import { parseLength, parseSum } from './sums';

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
    expect(parseLength('5', 'mm', 8)).toEqual({ ok: true, value: 5 });
    expect(parseLength('2*20 mm', 'mm', 8)).toEqual({ ok: true, value: 5 });
    expect(parseLength('x mm', 'mm', 8).ok).toBe(false);
  });
});
