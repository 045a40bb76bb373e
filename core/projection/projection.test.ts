import fc from 'fast-check';
import { degrees } from '../math/figures';
import { dotWorld, type WorldPoint } from '../math/points';
import { signedArea } from '../math/polygon';
import { apply33 } from '../math/matrix';
import { ISOMETRIC_FORESHORTENING } from './axes';
import { lengthExample, projectionFacts } from './facts';
import { cellsFromPlane, planeDeterminant, planeFrame, planeFromSheet, sheetFromPlane, worldFromPlane, type Plane } from './planes';
import { facing, projectionFrom, sheetFromWorld } from './projection';
import { isometricSetup, type AxonometricSetup } from './setup';
import { nearnessOf, sightFrom } from './sight';

const setup = (measure: AxonometricSetup['measure']): AxonometricSetup => isometricSetup({ x: 120, y: 90 }, measure);
const projections = [projectionFrom(setup('drawing')), projectionFrom(setup('true'))];
const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
const planes: fc.Arbitrary<Plane> = fc.record({ kind: fc.constantFrom('floor', 'left', 'right'), offset: fc.integer({ min: -20, max: 20 }) });

describe('the isometric projection', () => {
  it('draws the axes 120 degrees apart, full length or times the square root of 2/3 (ISO 5456-3, 5.2)', () => {
    for (const [projection, length] of [
      [projections[0]!, 1],
      [projections[1]!, 0.816496580927726],
    ] as const) {
      const origin = sheetFromWorld(projection, { a: 0, b: 0, h: 0 })!;
      expect(origin).toEqual({ x: 120, y: 90 });
      const drawn = (p: WorldPoint): [number, number] => {
        const q = sheetFromWorld(projection, p)!;
        return [degrees(Math.atan2(origin.y - q.y, q.x - origin.x)), Math.hypot(q.x - origin.x, q.y - origin.y)];
      };
      const expected = [30, 150, 90];
      [
        { a: 1, b: 0, h: 0 },
        { a: 0, b: 1, h: 0 },
        { a: 0, b: 0, h: 1 },
      ].forEach((axis, i) => {
        const [angle, ratio] = drawn(axis);
        expect(angle).toBeCloseTo(expected[i]!, 10);
        expect(ratio).toBeCloseTo(length, 12);
      });
    }
    expect(ISOMETRIC_FORESHORTENING).toBeCloseTo(0.816497, 6);
    expect(lengthExample(projectionFacts(setup('true'), 8, 300).axes!, 'a')).toContain('81.6\u2009mm');
  });

  it('is seen from the direction (-1, -1, 1), so tops, left and right sides are turned to the viewer', () => {
    const { eye } = projections[0]!;
    expect(eye[3]).toBe(0);
    expect(eye[0] / eye[2]).toBeCloseTo(-1, 12);
    expect(eye[1] / eye[2]).toBeCloseTo(-1, 12);
    const at = { a: 0, b: 0, h: 0 };
    expect(facing(projections[0]!, { a: 0, b: 0, h: 1 }, at)).toBeGreaterThan(0);
    expect(facing(projections[0]!, { a: -1, b: 0, h: 0 }, at)).toBeGreaterThan(0);
    expect(facing(projections[0]!, { a: 0, b: 1, h: 0 }, at)).toBeLessThan(0);
  });
});

describe('planes', () => {
  it('go to the sheet and back on every plane', () => {
    fc.assert(
      fc.property(planes, coordinate, coordinate, fc.constantFrom(...projections), (plane, u, v, projection) => {
        const at = apply33(sheetFromPlane(projection, plane, 8), u, v)!;
        const back = planeFromSheet(projection, plane, 8, at)!;
        expect(back.u).toBeCloseTo(u, 8);
        expect(back.v).toBeCloseTo(v, 8);
        const world = worldFromPlane(planeFrame(plane, 8)!, { u, v });
        const direct = sheetFromWorld(projection, world)!;
        expect(direct.x).toBeCloseTo(at.x, 8);
        expect(direct.y).toBeCloseTo(at.y, 8);
      }),
      { seed: 21, numRuns: 500 },
    );
  });

  it('scale the area of a plane shape by their determinant', () => {
    const corner = fc.tuple(fc.integer({ min: -30, max: 30 }), fc.integer({ min: -30, max: 30 }));
    fc.assert(
      fc.property(planes, fc.array(corner, { minLength: 3, maxLength: 9 }), fc.constantFrom(...projections), (plane, corners, projection) => {
        const map = sheetFromPlane(projection, plane, 8);
        const drawn = corners.flatMap(([u, v]) => {
          const p = apply33(map, u, v)!;
          return [p.x, p.y];
        });
        const trueArea = Math.abs(signedArea(corners.flat())) * 64;
        expect(Math.abs(signedArea(drawn))).toBeCloseTo(trueArea * planeDeterminant(projection, plane, 8), 6);
      }),
      { seed: 22, numRuns: 500 },
    );
    // By hand: a unit square of the floor is a rhombus with sides 1 and an angle of 120 degrees.
    expect(planeDeterminant(projections[0]!, { kind: 'floor', offset: 0 }, 8)).toBeCloseTo(Math.sin((120 * Math.PI) / 180), 12);
  });

  it('have their offset as the third coordinate and depth towards the viewer', () => {
    expect(cellsFromPlane({ kind: 'left', offset: 4 }, { u: 12, v: 7 })).toEqual({ a: 4, b: 12, h: 7 });
    expect(cellsFromPlane({ kind: 'sheet', offset: 0 }, { u: 1, v: 2 })).toEqual({ a: 1, b: 2, h: 0 });
    expect(planeFrame({ kind: 'left', offset: 0 }, 8)!.normal).toEqual({ a: -1, b: 0, h: 0 });
    expect(planeFrame({ kind: 'sheet', offset: 0 }, 8)).toBeNull();
    expect(planeFromSheet(projections[0]!, { kind: 'sheet', offset: 0 }, 8, { x: 16, y: 24 })).toEqual({ u: 2, v: 3 });
  });
});

describe('lines of sight', () => {
  it('measure nearness along the eye as a plain intersection does', () => {
    fc.assert(
      fc.property(coordinate, coordinate, coordinate, fc.constantFrom(...projections), (a, b, h, projection) => {
        const sight = sightFrom(projection);
        const [ea, eb, eh] = projection.eye;
        const nearer = { a: a + ea * 2, b: b + eb * 2, h: h + eh * 2 };
        const normal = { a: -0.6, b: 0, h: 0.8 };
        const s = sheetFromWorld(projection, { a, b, h })!;
        const here = nearnessOf(sight, normal, { a, b, h })!;
        const there = nearnessOf(sight, normal, nearer)!;
        const at = (n: typeof here): number => n.p * s.x + n.q * s.y + n.r;
        expect(at(there) - at(here)).toBeCloseTo(2, 6);
      }),
      { seed: 5, numRuns: 200 },
    );
    expect(dotWorld({ a: 1, b: 0, h: 1 }, { a: -1, b: 0, h: 1 })).toBe(0);
    expect(nearnessOf(sightFrom(projections[0]!), { a: 0, b: 0, h: 0 }, { a: 1, b: 1, h: 1 })).toBeNull();
  });
});
