import fc from 'fast-check';
import { FAMILIES } from '../testing/solids';
import { lengthAlong } from './along';
import { projectionFrom, sheetFromWorld } from './projection';

describe('a length along a line of the world by a point of the sheet', () => {
  // Those places lie behind the eye that stands among things.
  it.each(FAMILIES.slice(0, -1))('is what was drawn there: %s', (_, setup) => {
    const projection = projectionFrom(setup);
    const place = fc.record({ a: fc.integer({ min: 0, max: 8 }), b: fc.integer({ min: 0, max: 8 }), h: fc.integer({ min: 0, max: 4 }) });
    const axis = fc.constantFrom({ a: 1, b: 0, h: 0 }, { a: 0, b: 1, h: 0 }, { a: 0, b: 0, h: 1 }, { a: 0.6, b: 0, h: 0.8 });
    fc.assert(
      fc.property(place, axis, fc.double({ min: -3, max: 5, noNaN: true }), (from, d, t) => {
        const on = sheetFromWorld(projection, { a: from.a + d.a * t, b: from.b + d.b * t, h: from.h + d.h * t });
        const start = sheetFromWorld(projection, from);
        fc.pre(on !== null && start !== null && Math.hypot(on.x - start.x, on.y - start.y) > 0.1);
        expect(lengthAlong(projection, from, d, on!)).toBeCloseTo(t, 6);
      }),
      { seed: 3, numRuns: 60 },
    );
  });

  it('is none where the line is seen as a point', () => {
    const projection = projectionFrom(FAMILIES[0]![1]);
    const [a, b, h] = projection.eye;
    expect(lengthAlong(projection, { a: 0, b: 0, h: 0 }, { a, b, h }, { x: 10, y: 10 })).toBeNull();
  });
});
