import { randomFrom } from '../testing/random';
import { fitRing } from './fit-curve';
import { flattenPath, type Path } from './path';

/** Farthest that the places of a ring lie from a path. */
function stray(path: Path, ring: readonly number[]): number {
  const [flat] = flattenPath(path, 1e-4);
  let most = 0;
  for (let i = 0; i < ring.length; i += 2) {
    let least = Infinity;
    for (let k = 0; k < flat!.length; k += 2) {
      const [x, y, p, q] = [flat![k]!, flat![k + 1]!, flat![(k + 2) % flat!.length]!, flat![(k + 3) % flat!.length]!];
      const square = (p - x) ** 2 + (q - y) ** 2;
      const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((ring[i]! - x) * (p - x) + (ring[i + 1]! - y) * (q - y)) / square));
      least = Math.min(least, Math.hypot(ring[i]! - x - t * (p - x), ring[i + 1]! - y - t * (q - y)));
    }
    most = Math.max(most, least);
  }
  return most;
}

describe('a ring of corners as lines and curves', () => {
  it('of straight edges stays as it is, without what lies on them', () => {
    expect(fitRing([0, 0, 5, 0, 10, 0, 10, 4, 0, 4], 0.01)).toEqual({ verbs: 'MLLLLZ', coords: [0, 0, 10, 0, 10, 4, 0, 4, 0, 0] });
    expect(fitRing([0, 0, 1e-6, 0, 0, 1e-6], 0.01).verbs).toBe('');
  });

  it('around an ellipse is a few cubics that miss it by less than the tolerance', () => {
    const ring = Array.from({ length: 200 }, (_, i) => [40 * Math.cos((i * Math.PI) / 100), 7 * Math.sin((i * Math.PI) / 100)]).flat();
    const path = fitRing(ring, 0.01);
    expect(path.verbs).toMatch(/^MC{4,28}Z$/);
    expect(stray(path, ring)).toBeLessThan(0.0101);
  });

  it('of arcs and straight edges keeps its corners, and edges that run on smoothly do not bulge', () => {
    // A slot: two straight edges and two half circles that go on smoothly from them.
    const half = (x: number, from: number): readonly number[] => Array.from({ length: 61 }, (_, i) => [x + 5 * Math.cos(from + (i * Math.PI) / 60), 5 * Math.sin(from + (i * Math.PI) / 60)]).flat(); // prettier-ignore
    const slot = [...half(30, -Math.PI / 2), ...half(-30, Math.PI / 2)];
    const dense = [...slot, ...Array.from({ length: 50 }, (_, i) => [-30 + (60 * i) / 50, -5]).flat()];
    expect(stray(fitRing(slot, 0.01), dense)).toBeLessThan(0.0101);
    const cut = [...half(0, 0), 0, -20];
    const path = fitRing(cut, 0.01);
    expect(stray(path, cut)).toBeLessThan(0.0101);
    expect(path.verbs.length).toBeLessThan(40);
  });

  it('made of anything never strays further', () => {
    const random = randomFrom(4);
    for (let i = 0; i < 40; i++) {
      const ring = Array.from({ length: 3 + Math.floor(random() * 60) }, () => random() * 50);
      if (ring.length % 2 === 1) ring.pop();
      if (ring.length < 6) continue;
      expect(stray(fitRing(ring, 0.01), ring)).toBeLessThan(0.011);
    }
  });
});
