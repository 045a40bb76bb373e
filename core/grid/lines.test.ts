import fc from 'fast-check';
import { apply33, invert33, multiply33, type Mat33 } from '../math/matrix';
import { sheetFromPlane, type Plane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { isometricSetup, type PerspectiveSetup, type ProjectionSetup } from '../projection/setup';
import { cutHalfPlane } from './cut';
import { cutLine, gridLines, type GridLook, type LineFamily } from './lines';

const projection = projectionFrom(isometricSetup({ x: 150, y: 150 }));
const seen = { minX: 0, minY: 0, maxX: 300, maxY: 200 };
const look: GridLook = { closest: 1, bold: 5, fading: 0, extent: null };
const TWO_POINT: PerspectiveSetup = {
  kind: 'perspective',
  chosen: 'two-point',
  focal: 2600,
  principal: { x: 2000, y: 900 },
  turnDeg: 33,
  tiltDeg: 0,
  rollDeg: 0,
  eye: { a: -800, b: -1500, h: 700 },
};
const planes = ['floor', 'left', 'right'] as const;

/** How far a point lies from a drawn line of a family, told by the line's ends alone; null beyond its ends. */
function offLine(family: LineFamily, i: number, { x, y }: { x: number; y: number }): number | null {
  const [x0, y0, x1, y1] = family.ends.slice(4 * i, 4 * i + 4) as [number, number, number, number];
  const along = ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / ((x1 - x0) ** 2 + (y1 - y0) ** 2);
  if (along < 0 || along > 1) return null;
  return Math.abs((x - x0) * (y1 - y0) - (y - y0) * (x1 - x0)) / Math.hypot(x1 - x0, y1 - y0);
}

describe('grid lines', () => {
  it('end on the border of what is seen and lie at whole cells', () => {
    fc.assert(
      fc.property(fc.constantFrom('floor', 'left', 'right', 'sheet'), fc.integer({ min: -5, max: 5 }), (kind, offset) => {
        const plane = { kind, offset: kind === 'sheet' ? 0 : offset } as Plane;
        const map = sheetFromPlane(projection, plane, 8);
        const back = invert33(map)!;
        for (const family of gridLines(map, seen, look)) {
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

  it('meet in common crossings to 1e-9 all over a sheet of 4000 px, in every family', () => {
    const whole = { minX: 0, minY: 0, maxX: 4000, maxY: 4000 };
    const setups: ProjectionSetup[] = [
      isometricSetup({ x: 2000, y: 2400 }),
      { ...isometricSetup({ x: 2000, y: 2400 }, 'true'), aDeg: 14.3, bDeg: 41.9 },
      { kind: 'oblique', chosen: 'oblique', angleDeg: 37, ratio: 0.61, origin: { x: 1500, y: 2000 } },
      { kind: 'planometric', chosen: 'planometric', turnDeg: 30, ratio: 2 / 3, origin: { x: 1500, y: 2000 } },
      TWO_POINT,
      { ...TWO_POINT, tiltDeg: 18, rollDeg: 3 },
    ];
    for (const setup of setups) {
      const of = projectionFrom(setup);
      let checked = 0;
      for (const kind of planes) {
        const map = sheetFromPlane(of, { kind, offset: 0 }, 64);
        const [u, v] = gridLines(map, whole, { ...look, closest: 6 });
        u!.indices.forEach((i, p) => {
          v!.indices.forEach((j, q) => {
            if ((p * 31 + q * 17) % 23 !== 0) return;
            const direct = apply33(map, i, j);
            const off = direct && [offLine(u!, p, direct), offLine(v!, q, direct)];
            if (!off || off[0] === null || off[1] === null) return;
            checked++;
            expect(Math.max(off[0]!, off[1]!)).toBeLessThan(1e-9);
          });
        });
      }
      expect(checked).toBeGreaterThan(40);
    }
    // Three families in one crossing: the edge that floor and walls share carries the same points in all of them.
    const of = projectionFrom(TWO_POINT);
    for (const i of [1, 4, 9]) {
      const floor = apply33(sheetFromPlane(of, { kind: 'floor', offset: 0 }, 64), i, 0)!;
      const wall = apply33(sheetFromPlane(of, { kind: 'right', offset: 0 }, 64), i, 0)!;
      expect(Math.hypot(floor.x - wall.x, floor.y - wall.y)).toBeLessThan(1e-9);
    }
  });

  it('are thinned where they would come closer than wanted, never less than that apart, and never cross the horizon', () => {
    const map = sheetFromPlane(projectionFrom(TWO_POINT), { kind: 'floor', offset: 0 }, 64);
    const whole = { minX: 0, minY: 0, maxX: 4000, maxY: 3000 };
    for (const family of gridLines(map, whole, { ...look, closest: 12 })) {
      expect(family.indices.length).toBeGreaterThan(30);
      expect(family.indices.length).toBeLessThan(1200);
      family.indices.forEach((_, i) => {
        for (const end of [1, 3]) expect(family.ends[4 * i + end]!).toBeGreaterThan(900);
      });
      // Just under the horizon hardly any line is left: no black wedge.
      const near = family.indices.filter((_, i) => Math.min(family.ends[4 * i + 1]!, family.ends[4 * i + 3]!) < 906);
      expect(near.length).toBeLessThan(45);
      expect(near.every((index) => index % 5 === 0)).toBe(true);
    }
    const far = gridLines(sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 0.01), seen, look);
    expect(far[0]!.indices.length).toBeLessThan(600);
    expect(far[0]!.indices.every((i) => i % 125 === 0)).toBe(true);
    // At 1 px apart every line is drawn, at 9 px only every fifth of a grid of 8 mm.
    const coarse = gridLines(sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 8), seen, { ...look, closest: 9 });
    expect(coarse[0]!.indices.every((i) => i % 5 === 0)).toBe(true);
  });

  it('grow fainter with distance, in pieces that join', () => {
    const map = sheetFromPlane(projectionFrom(TWO_POINT), { kind: 'floor', offset: 0 }, 64);
    const whole = { minX: 0, minY: 0, maxX: 4000, maxY: 3000 };
    const [family] = gridLines(map, whole, { ...look, closest: 12, fading: 1 });
    const pieces = family!.indices.map((index, i) => ({
      index,
      strength: family!.strengths[i]!,
      y: Math.min(family!.ends[4 * i + 1]!, family!.ends[4 * i + 3]!),
    }));
    const one = pieces.filter((p) => p.index === 10).sort((p, q) => q.y - p.y);
    expect(one.length).toBeGreaterThan(2);
    for (let i = 1; i < one.length; i++) expect(one[i]!.strength).toBeLessThan(one[i - 1]!.strength);
    expect(new Set(gridLines(map, whole, look)[0]!.strengths)).toEqual(new Set([1]));
  });

  it('are found without looking at those far off, for an eye a hundred kilometres from the origin', () => {
    const far: Mat33 = multiply33([8, 0, 150, 0, 8, 100, 0.001, 0.002, 1], [1, 0, -2e7, 0, 1, 3e7, 0, 0, 1]);
    const families = gridLines(far, seen, { closest: 1.3, bold: 5, fading: 0.5, extent: null });
    // The same grid seen from nearby has the same lines, by their numbers from there.
    const near = gridLines([8, 0, 150, 0, 8, 100, 0.001, 0.002, 1], seen, { closest: 1.3, bold: 5, fading: 0.5, extent: null });
    const lines = (all: readonly LineFamily[], k: number, origin: number): number[] =>
      [...new Set(all[k]!.indices.map((i) => i - origin))].sort((p, q) => p - q);
    for (const [k, origin] of [[0, 2e7], [1, -3e7]] as const) expect(lines(families, k, origin)).toEqual(lines(near, k, 0)); // prettier-ignore
  });

  it('end where their extent ends', () => {
    const map = sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 8);
    const back = invert33(map)!;
    const families = gridLines(map, seen, { ...look, extent: { minU: 0, maxU: 6, minV: -2, maxV: 3 } });
    expect(families.map((f) => f.indices)).toEqual([expect.arrayContaining([0, 1, 2, 3, 4, 5, 6]), expect.arrayContaining([-2, -1, 0, 1, 2, 3])]);
    for (const family of families) {
      family.indices.forEach((_, i) => {
        for (const end of [0, 2]) {
          const p = apply33(back, family.ends[4 * i + end]!, family.ends[4 * i + end + 1]!)!;
          expect(p.x).toBeGreaterThan(-1e-9);
          expect(p.x).toBeLessThan(6 + 1e-9);
          expect(p.y).toBeGreaterThan(-2 - 1e-9);
          expect(p.y).toBeLessThan(3 + 1e-9);
        }
      });
    }
  });

  it('are none for a plane seen edge-on, and no line where a line misses the box', () => {
    expect(gridLines([1, 2, 0, 2, 4, 0, 0, 0, 1], seen, look)).toEqual([]);
    expect(cutLine(1, 0, 50, seen)).toBeNull();
    expect(cutLine(0, 1, -50, seen)).toEqual([0, 50, 300, 50]);
    expect(cutHalfPlane([0, 0, 10, 0], [1, 0, 0], 4)).toEqual([4, 0, 10, 0]);
    expect(cutHalfPlane([0, 0, 10, 0], [-1, 0, 0], -4)).toEqual([0, 0, 4, 0]);
    expect(cutHalfPlane([0, 0, 10, 0], [0, 1, 0], 1)).toBeNull();
  });
});
