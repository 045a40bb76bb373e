import { sameData } from './same';

describe('the same data', () => {
  it('is told whatever the order of fields, and with fields that are undefined left out', () => {
    expect(sameData({ a: 1, b: [1, { c: 'x' }] }, { b: [1, { c: 'x' }], a: 1, d: undefined })).toBe(true);
    expect(sameData(-0, 0)).toBe(true);
  });

  it('is not what differs in a value, a length, a kind or a field', () => {
    const pairs: [unknown, unknown][] = [[1, '1'], [[1], [1, 2]], [{ a: 1 }, { a: 1, b: null }], [[], {}], [null, {}], [{ a: [1, 2] }, { a: [2, 1] }]]; // prettier-ignore
    for (const [p, q] of pairs) expect([p, q, sameData(p, q), sameData(q, p)]).toEqual([p, q, false, false]);
  });
});
