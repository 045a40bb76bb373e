import { apply33, type Mat33 } from '../math/matrix';
import { flattenPath, type Path } from '../shape/path';
import { randomFrom, runs } from '../testing/random';
import { clippedArea } from './clip-path';
import { mappedPath, type FlatMap, type Spot } from './map-path';
import { projectPath } from './project';

const SIZE = 100;

/** A homography that takes a square of 100 to four places of the sheet, none of them behind the eye. */
function homography(random: () => number): Mat33 {
  for (;;) {
    const h: Mat33 = [
      1 + random(),
      random() - 0.5,
      20 * random(),
      random() - 0.5,
      1 + random(),
      20 * random(),
      0.012 * (random() - 0.5),
      0.012 * (random() - 0.5),
      1,
    ];
    if ([[0, 0], [SIZE, 0], [SIZE, SIZE], [0, SIZE]].every(([x, y]) => h[6] * x! + h[7] * y! + 1 > 0.15)) return h; // prettier-ignore
  }
}

const randomCurve = (random: () => number): Path => ({ verbs: 'MCCLZ', coords: Array.from({ length: 16 }, () => random() * SIZE) });

/** A cubic's place. */
const at = (c: readonly number[], t: number): Spot => [0, 1].map((o) => (1 - t) ** 3 * c[o]! + 3 * t * (1 - t) ** 2 * c[2 + o]! + 3 * t * t * (1 - t) * c[4 + o]! + t ** 3 * c[6 + o]!) as unknown as Spot; // prettier-ignore

/** Distance of a place from a drawn path. */
function off(path: Path, [x, y]: Spot): number {
  let least = Infinity;
  for (const ring of flattenPath(path, 2e-5))
    for (let i = 0; i + 3 < ring.length; i += 2) {
      const [px, py, dx, dy] = [ring[i]!, ring[i + 1]!, ring[i + 2]! - ring[i]!, ring[i + 3]! - ring[i + 1]!];
      const square = dx * dx + dy * dy;
      const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - px) * dx + (y - py) * dy) / square));
      least = Math.min(least, Math.hypot(x - px - t * dx, y - py - t * dy));
    }
  return least;
}

describe('paths under maps that bend', () => {
  it('have their corners exactly and their curves within a hundredth of a px, in perspective', () => {
    const random = randomFrom(61);
    for (let i = 0; i < runs(60); i++) {
      const h = homography(random);
      const path = randomCurve(random);
      const shown = projectPath(path, h, 0.01);
      const corner = (k: number): Spot => {
        const p = apply33(h, path.coords[k]!, path.coords[k + 1]!)!;
        return [p.x, p.y];
      };
      expect(Math.hypot(shown.coords[0]! - corner(0)[0], shown.coords[1]! - corner(0)[1])).toBeLessThan(1e-9);
      expect(Math.hypot(shown.coords.at(-2)! - corner(14)[0], shown.coords.at(-1)! - corner(14)[1])).toBeLessThan(1e-9);
      for (let k = 0; k < 2; k++)
        for (let t = 0; t <= 60; t++) {
          const p = at(path.coords.slice(6 * k, 6 * k + 8), t / 60);
          const q = apply33(h, ...p)!;
          // A px is a 300th of an inch.
          expect(off(shown, [q.x, q.y])).toBeLessThan(0.01 * (25.4 / 300));
        }
    }
  });

  it('bend straight lines where the map does', () => {
    const wave: FlatMap = (x, y) => [x, y + 5 * Math.sin(x / 8)];
    const shown = mappedPath({ verbs: 'ML', coords: [0, 0, 60, 0] }, wave);
    expect(shown.verbs).toMatch(/^MC+$/);
    for (let x = 0; x <= 60; x += 0.25) expect(off(shown, [x, 5 * Math.sin(x / 8)])).toBeLessThan(0.00085);
    expect(mappedPath({ verbs: 'MLLZ', coords: [0, 0, 10, 0, 10, 10] }, (x, y) => [2 * x, y]).verbs).toBe('MLLLZ');
  });

  it('end where the map leads nowhere', () => {
    expect(mappedPath({ verbs: 'ML', coords: [0, 0, 10, 0] }, () => null)).toEqual({ verbs: '', coords: [] });
  });
});

describe('an area clipped by a straight edge', () => {
  const areaOf = (path: Path): number =>
    flattenPath(path, 1e-5).reduce((sum, ring) => {
      let twice = 0;
      for (let i = 0, k = ring.length - 2; i < ring.length; k = i, i += 2) twice += ring[k]! * ring[i + 1]! - ring[i]! * ring[k + 1]!;
      return sum + twice / 2;
    }, 0);

  it('and what lies on the other side make up the whole, curves kept', () => {
    const random = randomFrom(8);
    for (let i = 0; i < runs(60); i++) {
      const path = randomCurve(random);
      const angle = random() * 2 * Math.PI;
      const edge = { nx: Math.cos(angle), ny: Math.sin(angle), d: Math.cos(angle) * 50 + Math.sin(angle) * 50 + (random() - 0.5) * 40 };
      const [one, other] = [clippedArea(path, edge), clippedArea(path, { nx: -edge.nx, ny: -edge.ny, d: -edge.d })];
      expect(areaOf(one) + areaOf(other)).toBeCloseTo(areaOf(path), 0);
      for (const ring of flattenPath(one, 1e-4))
        for (let k = 0; k < ring.length; k += 2) expect(ring[k]! * edge.nx + ring[k + 1]! * edge.ny).toBeGreaterThan(edge.d - 1e-6);
    }
    expect(clippedArea({ verbs: 'MLLLZ', coords: [0, 0, 4, 0, 4, 4, 0, 4] }, { nx: 1, ny: 0, d: 1 })).toEqual({
      verbs: 'MLLLZ',
      coords: expect.any(Array) as number[],
    });
    expect(clippedArea({ verbs: 'MLLLZ', coords: [0, 0, 4, 0, 4, 4, 0, 4] }, { nx: 1, ny: 0, d: 9 }).verbs).toBe('');
  });
});
