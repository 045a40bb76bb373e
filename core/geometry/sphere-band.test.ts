import { containsPoint } from '../math/polygon';
import { dotWorld, unitWorld, type WorldPoint } from '../math/points';
import { facing, inCells, projectionFrom, sheetFromWorld } from '../projection/projection';
import { flattenPath } from '../shape/path';
import { randomFrom } from '../testing/random';
import { FAMILIES } from '../testing/solids';
import { bandPath } from '../visibility/sphere-view';
import { onSphere, type Sphere } from './sphere';

describe('a band of a sphere between two circles', () => {
  const random = randomFrom(8);
  const direction = (): WorldPoint => unitWorld({ a: random() - 0.5, b: random() - 0.5, h: random() - 0.5 })!;

  it.each(FAMILIES)('is seen where its places are: %s', (_, setup) => {
    const projection = inCells(projectionFrom(setup), 8);
    const sphere: Sphere = { kind: 'sphere', centre: { a: 16, b: 18, h: 3 }, radius: 2, axis: { a: 0, b: 0, h: 1 }, low: -1 };
    let compared = 0;
    for (let band = 0; band < 60; band++) {
      const axis = direction();
      const low = -1 + 2 * random();
      const high = low + (1 - low) * random() * (band % 2 ? 1 : 0.1);
      const path = bandPath(projection, sphere, { axis, low: band % 7 === 0 ? -1 : low }, { axis, low: high });
      const from = band % 7 === 0 ? -1 : low;
      const rings = path ? flattenPath(path, 1e-5) : [];
      for (let i = 0; i < 40; i++) {
        const normal = direction();
        const place = onSphere(sphere, normal);
        const cosine = dotWorld(normal, axis);
        if (facing(projection, normal, place) < 0.05 || Math.min(Math.abs(cosine - from), Math.abs(cosine - high)) < 1e-3) continue;
        const at = sheetFromWorld(projection, place)!;
        const inside = rings.reduce((odd, ring) => odd !== containsPoint(ring, at.x, at.y), false);
        expect([from, high, cosine, inside]).toEqual([from, high, cosine, cosine > from && cosine < high]);
        compared++;
      }
    }
    expect(compared).toBeGreaterThan(300);
  });
});
