import fc from 'fast-check';
import { apply33, invert33 } from '../math/matrix';
import { sheetFromPlane, type Plane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { isometricSetup } from '../projection/setup';
import { cutLine, gridLines } from './lines';

const projection = projectionFrom(isometricSetup({ x: 150, y: 150 }));
const seen = { minX: 0, minY: 0, maxX: 300, maxY: 200 };

describe('grid lines', () => {
  it('end on the border of what is seen and lie at whole cells', () => {
    fc.assert(
      fc.property(fc.constantFrom('floor', 'left', 'right', 'sheet'), fc.integer({ min: -5, max: 5 }), (kind, offset) => {
        const plane = { kind, offset: kind === 'sheet' ? 0 : offset } as Plane;
        const map = sheetFromPlane(projection, plane, 8);
        const back = invert33(map)!;
        for (const family of gridLines(map, seen)) {
          expect(family.indices.length).toBeGreaterThan(10);
          family.indices.forEach((index, i) => {
            for (const end of [0, 2]) {
              const [x, y] = [family.ends[4 * i + end]!, family.ends[4 * i + end + 1]!];
              const p = apply33(back, x, y)!;
              expect(family.across === 'u' ? p.x : p.y).toBeCloseTo(index, 8);
              const border = Math.min(Math.abs(x), Math.abs(x - 300), Math.abs(y), Math.abs(y - 200));
              expect(border).toBeLessThan(1e-6);
            }
          });
        }
      }),
      { seed: 8, numRuns: 60 },
    );
  });

  it('show every n-th when asked, and never more than is worth seeing', () => {
    const map = sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 8);
    const [every, fifth] = [gridLines(map, seen), gridLines(map, seen, 5)];
    expect(fifth[0]!.indices.every((i) => i % 5 === 0)).toBe(true);
    expect(every[0]!.indices.length).toBeGreaterThan(fifth[0]!.indices.length * 4);
    const tiny = gridLines(sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 0.01), seen);
    expect(tiny[0]!.indices.length).toBeLessThanOrEqual(601);
  });

  it('are none for a plane seen edge-on, and no line where a line misses the box', () => {
    expect(gridLines([1, 2, 0, 2, 4, 0, 0, 0, 1], seen)).toEqual([]);
    expect(cutLine(1, 0, 50, seen)).toBeNull();
    expect(cutLine(0, 1, -50, seen)).toEqual([0, 50, 300, 50]);
  });
});
