import { ellipseOutline } from '../shape/forms';
import { rectangleOutline } from '../shape/outline';
import { processorMs, randomFrom } from '../testing/random';
import { readOutline } from './read-outline';
import { outline, outlineFaults } from './schema-parts';

const plain = rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 3 });
const full = {
  points: [
    { id: 1, u: 0.1, v: 1 / 3, out: { u: 1, v: 0 }, press: 0.5 },
    { id: 2, u: 4, v: 0, into: { u: 3, v: 0 }, corner: { kind: 'round', size: 0.5 } },
    { id: 3, u: 4, v: 4, arc: { u: 2, v: 5, weight: 0.7 } },
  ],
  closed: true,
  holes: [[{ id: 4, u: 1, v: 1 }, { id: 5, u: 2, v: 1 }, { id: 6, u: 2, v: 2 }]],
}; // prettier-ignore

describe('an outline read at once', () => {
  it.each([plain, ellipseOutline({ u: 1, v: 2 }, { u: 3, v: 4 }), full, { points: [], closed: false }])('is what its schema makes of it (%#)', (data) => {
    const read = readOutline(data);
    expect(read).not.toBeNull();
    expect(read).toEqual(outlineFaults.parse(data));
  });

  it('is refused exactly where its schema refuses it, which then says what and where', () => {
    const random = randomFrom(12);
    const bad: readonly unknown[] = [NaN, Infinity, -1, 0, 2e6, 1.5, '1', null, {}, [], true, { u: 1 }, { u: 1, v: 2, w: 3 }, 1e-9, 'miter'];
    /** The data with one of its parts, chosen at random, made something else, left out, or joined by one that it must not have. */
    const spoilt = (data: unknown): unknown => {
      if (typeof data !== 'object' || data === null || random() < 0.15) return bad[Math.floor(random() * bad.length)];
      if (Array.isArray(data)) {
        const i = Math.floor(random() * data.length);
        return random() < 0.1 ? [...(data as unknown[]), data[i]] : data.map((item: unknown, k) => (k === i ? spoilt(item) : item));
      }
      const keys = Object.keys(data);
      const key = keys[Math.floor(random() * keys.length)]!;
      if (random() < 0.1) return { ...data, more: 1 };
      if (random() < 0.1) return Object.fromEntries(Object.entries(data).filter(([k]) => k !== key));
      return { ...data, [key]: spoilt((data as Record<string, unknown>)[key]) };
    };
    let refused = 0;
    for (let i = 0; i < 3000; i++) {
      const data = spoilt(i % 2 ? full : plain);
      const [fast, slow] = [readOutline(data), outlineFaults.safeParse(data)];
      expect([data, fast]).toEqual([data, slow.success ? slow.data : null]);
      if (slow.success) continue;
      refused++;
      const told = outline.safeParse(data);
      expect(told.error!.issues.map(({ path, message }) => [path, message])).toEqual(slow.error.issues.map(({ path, message }) => [path, message]));
    }
    expect(refused).toBeGreaterThan(1500);
  });

  it('takes thousands of points in the time that a schema takes for hundreds', () => {
    const points = Array.from({ length: 20_000 }, (_, i) => ({ id: i + 1, u: i / 7, v: -i / 3, out: { u: i, v: 1 } }));
    const timed = (act: () => unknown): number => {
      const start = processorMs();
      act();
      return processorMs() - start;
    };
    const [fast, slow] = [timed(() => readOutline({ points, closed: true })), timed(() => outlineFaults.parse({ points, closed: true }))];
    expect(fast).toBeLessThan(slow / 3);
  });
});
