import { bodyOf } from '../geometry/book';
import { surfaceNamed } from '../geometry/body';
import { ruledNormal, ruledPoint, type Ruled } from '../geometry/ruled';
import { facing, inCells, projectionFrom, sheetFromWorld } from '../projection/projection';
import { ellipseOutline } from '../shape/forms';
import { FAMILIES } from '../testing/solids';
import { ruledUnder } from './place-under';

describe('the place of a round side under a place of the sheet', () => {
  // Before every eye of these families.
  const side = (taper?: number): Ruled => {
    const node = { kind: 'shape', id: 'd', plane: { kind: 'floor', offset: 0 }, outline: ellipseOutline({ u: 16, v: 18 }, { u: 4, v: 2 }), depth: 5, ...(taper !== undefined && { taper }) } as const; // prettier-ignore
    return surfaceNamed(bodyOf(node)!, 'side:1')!.form as Ruled;
  };

  it.each(FAMILIES)('is found on cylinders and cones: %s', (_, setup) => {
    const projection = inCells(projectionFrom(setup), 8);
    let seen = 0;
    for (const ruled of [side(), side(0.4), side(1.8)]) {
      for (let i = 0; i < 60; i++) {
        const [s, k] = [((i * 0.618) % 1) * ruled.directrix.length, (i * 0.414) % 1];
        if (facing(projection, ruledNormal(ruled, s), ruledPoint(ruled, s, 0.5)) < 0.02) continue;
        const at = sheetFromWorld(projection, ruledPoint(ruled, s, k));
        if (!at) continue;
        const found = ruledUnder(projection, ruled, at)!;
        const [p, q] = [ruledPoint(ruled, s, k), ruledPoint(ruled, found.s, found.k)];
        expect(Math.hypot(p.a - q.a, p.b - q.b, p.h - q.h)).toBeLessThan(1e-4);
        seen++;
      }
    }
    expect(seen).toBeGreaterThan(20);
  });
});
