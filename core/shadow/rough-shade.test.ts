import { boundsOf } from '../geometry/body';
import { flattenPath, type Path } from '../shape/path';
import { containsPoint } from '../math/polygon';
import { randomFrom, runs } from '../testing/random';
import { scene } from '../testing/solids';
import { LampShades } from './lamp-shades';
import { SunShades, type LitBody } from './shade';

/** How often the rings of a path wind round a place, all of them turning one way. */
const windings = (path: Path, x: number, y: number): number => flattenPath(path, 1e-4).filter((ring) => containsPoint(ring, x, y)).length;

const HERE = [0, 0] as const;
const AROUND = [HERE, [0.3, 0], [-0.3, 0], [0, 0.3], [0, -0.3]] as const;

describe('shadows laid together for a frame', () => {
  it.each([
    ['a sun', () => new SunShades({ a: -3, b: -1, h: 4 })],
    ['a low sun', () => new SunShades({ a: 1, b: -2.5, h: 0.5 })],
    ['a lamp', () => new LampShades({ at: { a: 9.3, b: 8.4, h: 13.1 }, reach: 100 })],
  ] as const)('in the light of %s are those that are made exact after', (_, light) => {
    for (let seed = 1; seed <= runs(2); seed++) {
      const solids = scene(seed, 14, ['box', 'angle', 'wedge', 'frame', 'steps', 'pyramid', 'cylinder'], false);
      const bodies = solids.map(({ body }): LitBody => ({ body, casts: true, receives: true, half: 0 }));
      const [rough, exact] = [light().update(bodies, true), light().update(bodies)];
      const random = randomFrom(seed);
      let [compared, dark] = [0, 0];
      for (const surface of bodies.flatMap(({ body }) => body.surfaces)) {
        const [quick] = rough.get(surface) ?? [];
        const [whole] = exact.get(surface) ?? [];
        if (surface.form.kind !== 'flat' || !whole) continue;
        const [area] = whole.turned.outline;
        const corners = Array.from({ length: area!.polygon.length / 2 }, (__, i) => [area!.polygon[2 * i]!, area!.polygon[2 * i + 1]!] as const);
        for (let tries = 0; tries < 12; tries++) {
          const [p, q, r] = [0, 0, 0].map(() => corners[Math.floor(random() * corners.length)]!);
          const [s, t] = [random(), random()];
          const place = (i: 0 | 1): number => p![i] * s + (q![i] * t + r![i] * (1 - t)) * (1 - s);
          const [x, y] = [place(0), place(1)];
          const inside = ([dx, dy]: readonly [number, number]): boolean => windings(whole.path, x + dx, y + dy) % 2 === 1;
          const within = ([dx, dy]: readonly [number, number]): boolean => whole.turned.outline.some(({ polygon, holes = [] }) => containsPoint(polygon, x + dx, y + dy) && !holes.some((hole) => containsPoint(hole, x + dx, y + dy))); // prettier-ignore
          // Round things are laid together as their facets: their rims are left out, and those of the surface.
          if (!AROUND.every((off) => within(off) && inside(off) === inside(HERE))) continue;
          compared++;
          if (inside(HERE)) dark++;
          expect(quick !== undefined && windings(quick.path, x, y) > 0).toBe(inside(HERE));
        }
      }
      expect(compared).toBeGreaterThan(20);
      expect(dark).toBeGreaterThan(3);
    }
  });

  it('leave out what is not asked for', () => {
    const bodies = scene(3, 12, ['box'], false).map(({ body }): LitBody => ({ body, casts: true, receives: true, half: 0 }));
    const tops = new Set(bodies.flatMap(({ body }) => body.surfaces.filter(({ loops }) => boundsOf(loops[0]!).min.h === boundsOf(loops[0]!).max.h)));
    const found = new SunShades({ a: -3, b: -1, h: 4 }).update(bodies, true, tops);
    expect(found.size).toBeGreaterThan(0);
    expect([...found.keys()].every((surface) => tops.has(surface))).toBe(true);
    expect([...new SunShades({ a: -3, b: -1, h: 4 }).update(bodies, false, tops).keys()].every((surface) => tops.has(surface))).toBe(true);
  });
});
