import { randomFrom, runs } from '../testing/random';
import { bentPoint, seenAt, shownAt, turnMatrix, turnOf, type Bent } from './surface';

const at = (bent: Bent, u: number, v: number): readonly [number, number, number] => {
  const out = [0, 0, 0];
  bentPoint(bent, u, v, out);
  return out as unknown as [number, number, number];
};
const distance = (p: readonly number[], q: readonly number[]): number => Math.hypot(...p.map((value, i) => value - q[i]!));

describe('a bent sheet', () => {
  it('keeps every length, flat, round a cylinder or a cone, however it is turned', () => {
    const random = randomFrom(4);
    const step = 1e-4;
    for (let i = 0; i < runs(60); i++) {
      const bent = { curvature: (random() - 0.3) / 30, taper: (random() - 0.5) * 0.6, skew: (random() - 0.5) * 2 };
      const [u, v] = [(random() - 0.5) * 60, (random() - 0.5) * 40];
      for (const [x, y] of [
        [1, 0],
        [0, 1],
        [0.6, 0.8],
      ] as const) {
        const long = distance(at(bent, u + x * step, v + y * step), at(bent, u - x * step, v - y * step)) / (2 * step); // prettier-ignore
        expect(long).toBeCloseTo(1, 6);
      }
    }
  });

  it('lies on the cylinder and the cone of its measures', () => {
    const random = randomFrom(5);
    for (let i = 0; i < runs(40); i++) {
      const [radius, taper, skew] = [20 + 30 * random(), (random() - 0.5) * 0.5, random()];
      const [x, y, z] = at({ curvature: 1 / radius, taper, skew }, (random() - 0.5) * 50, (random() - 0.5) * 50);
      expect(Math.hypot(x, z - radius)).toBeCloseTo(radius + y * Math.tan(taper), 9);
    }
  });

  it('goes over from one kind into the next', () => {
    const [u, v] = [17, -9];
    expect(distance(at({ curvature: 1e-8, taper: 0, skew: 0.2 }, u, v), at({ curvature: 0, taper: 0, skew: 0.2 }, u, v))).toBeLessThan(1e-5);
    expect(distance(at({ curvature: 0.02, taper: 1e-7, skew: 0.2 }, u, v), at({ curvature: 0.02, taper: 0, skew: 0.2 }, u, v))).toBeLessThan(1e-4);
  });
});

describe('a camera', () => {
  it('shows places and sees them there, with a lens that bends', () => {
    const random = randomFrom(6);
    for (let i = 0; i < runs(100); i++) {
      const camera = { width: 800, height: 600, focal: 700 + 500 * random(), bend: (random() - 0.5) * 0.2 };
      const [p, q] = [(random() - 0.5) * 0.8, (random() - 0.5) * 0.6];
      const shown = shownAt(camera, 3 * p, 3 * q, 3)!;
      const [x, y] = seenAt(camera, shown);
      expect(Math.hypot(x - p, y - q)).toBeLessThan(1e-9);
    }
    expect(shownAt({ width: 8, height: 6, focal: 7, bend: 0 }, 1, 1, -1)).toBeNull();
  });

  it('turns by a turn and finds it again', () => {
    const turn = [0.3, -0.8, 0.5] as const;
    turnOf(turnMatrix(turn)).forEach((value, i) => expect(value).toBeCloseTo(turn[i]!, 12));
    expect(turnOf(turnMatrix([0, 0, 0]))).toEqual([0, 0, 0].map(() => expect.closeTo(0, 12) as number));
  });
});
