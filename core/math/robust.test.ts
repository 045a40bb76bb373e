import { randomFrom } from '../testing/random';
import { medianOf, spreadOf, TUKEY, tukeyWeight } from './robust';

describe('robust measures', () => {
  it('have the middle value, of an empty list 0', () => {
    expect([medianOf([5, 1, 9]), medianOf([])]).toEqual([5, 0]);
  });

  it('tell the spread of chance whatever a third of it is', () => {
    const random = randomFrom(2);
    const chance = Array.from({ length: 3000 }, () => 2 * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random()));
    expect(spreadOf(chance)).toBeCloseTo(2, 0);
    expect(spreadOf(chance.map((value, i) => (i % 3 === 0 ? 1000 : value)))).toBeLessThan(4);
  });

  it('weigh what is near fully and what is far not at all', () => {
    expect([tukeyWeight(0, 1), tukeyWeight(TUKEY, 1), tukeyWeight(-99, 1)]).toEqual([1, 0, 0]);
    expect(tukeyWeight(2, 1)).toBe(tukeyWeight(-2, 1));
  });
});
