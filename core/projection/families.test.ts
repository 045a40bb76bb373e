import fc from 'fast-check';
import { degrees } from '../math/figures';
import { drawnAxes, drawnVector } from './axes';
import { nameProjection } from './classify';
import { ellipseRatio, factsText, linesApart, majorAxisDeg, mapForms, projectionFacts } from './facts';
import { FAMILIES, parallelSetup, PIXEL_DEG } from './families';
import { orthographicRatios } from './gauss';
import { facing, projectionFrom } from './projection';
import { mapOfRecipe, recipeOf } from './recipes';
import { isometricSetup, type AxonometricSetup, type FamilyKey, type ProjectionSetup } from './setup';

const ORIGIN = { x: 150, y: 120 };
const setup = (key: FamilyKey): ProjectionSetup => parallelSetup(key, ORIGIN)!;
const axonometric = (part: Partial<AxonometricSetup>): AxonometricSetup => ({ ...isometricSetup(ORIGIN, 'true'), chosen: 'axonometric', ...part });

describe('foreshortenings (Gauss)', () => {
  const ratios = (a: number, b: number): number[] => {
    const found = orthographicRatios(a, 180 - b, 90);
    return found.ok ? [found.ratios.a, found.ratios.b, found.ratios.h] : [];
  };

  it('are the textbook values', () => {
    for (const ratio of ratios(30, 30)) expect(ratio).toBeCloseTo(0.816496580927726, 12);
    // 2:1: a and b drawn sqrt(5)/2 over 2 parts; with sin 2t = 0.8 and sin 4t = 0.96: squares 5/8, 5/8, 6/8.
    const pixel = ratios(PIXEL_DEG, PIXEL_DEG);
    expect(pixel[0]).toBeCloseTo(Math.sqrt(5 / 8), 12);
    expect(pixel[2]).toBeCloseTo(Math.sqrt(6 / 8), 12);
    // ISO 5456-3 dimetric: 7° and 42° with 1 : 1/2 : 1, exactly at arcsin(1/8)-like angles 7.18° and 41.41°.
    const iso = ratios(7.180755781, 41.409622109);
    expect(iso[0]! / iso[2]!).toBeCloseTo(1, 6);
    expect(iso[1]! / iso[2]!).toBeCloseTo(0.5, 6);
  });

  it('are refused with the reason where nothing is seen square on so', () => {
    expect(orthographicRatios(50, 180 - 50, 90)).toEqual({ ok: false, reason: expect.stringContaining('add up to 90° or more') });
    expect(orthographicRatios(0, 180 - 40, 90)).toEqual({ ok: false, reason: expect.stringContaining('seen end-on') });
    expect(orthographicRatios(20, 180 + 10, 90)).toEqual({ ok: false, reason: expect.stringContaining('one floor axis rises') });
  });

  it('make a matrix whose rows are square to each other and alike, from any two feasible angles', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 88, noNaN: true }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), fc.boolean(), (a, share, below) => {
        const b = (90 - a) * share;
        fc.pre(b > 0.5 && a + b < 89.5);
        const sign = below ? -1 : 1;
        const projection = projectionFrom(axonometric({ aDeg: sign * a, bDeg: sign * b }));
        const m = projection.matrix;
        expect(m[0] * m[4] + m[1] * m[5] + m[2] * m[6]).toBeCloseTo(0, 9);
        expect(m[0] ** 2 + m[1] ** 2 + m[2] ** 2).toBeCloseTo(1, 9);
        expect(m[4] ** 2 + m[5] ** 2 + m[6] ** 2).toBeCloseTo(1, 9);
        // And back: the matrix draws the axes at the angles that were asked for.
        expect(degrees(Math.atan2(-m[4], m[0]))).toBeCloseTo(sign * a, 8);
        expect(degrees(Math.atan2(-m[5], -m[1]))).toBeCloseTo(sign * b, 8);
        expect(facing(projection, { a: 0, b: 0, h: 1 }, { a: 0, b: 0, h: 0 }) > 0).toBe(!below);
      }),
      { seed: 31, numRuns: 500 },
    );
  });
});

describe('families', () => {
  it.each([
    ['isometric', 'isometric', 30, 150, 1, 1],
    ['pixel', 'pixel isometric 2:1', PIXEL_DEG, 180 - PIXEL_DEG, Math.sqrt(5 / 6), 1],
    ['cavalier', 'cavalier', 0, 45, 1, 1],
    ['cabinet', 'cabinet', 0, 45, 0.5, 1],
    ['planometric', 'planometric', 45, 135, 1, 1],
  ] as const)('%s draws its axes as its name says', (key, name, aDeg, bDeg, bRatio, hRatio) => {
    const parallel = parallelSetup(key, ORIGIN)!;
    const axes = drawnAxes(parallel);
    expect([axes.a.angleDeg, axes.b.angleDeg, axes.h.angleDeg]).toEqual([aDeg, bDeg, 90]);
    expect(axes.b.ratio).toBeCloseTo(bRatio, 12);
    expect(axes.h.ratio).toBeCloseTo(hRatio, 12);
    expect(nameProjection(parallel)).toMatchObject({ name, changed: null });
    if (key === 'pixel') {
      const v = drawnVector(axes.a);
      expect(v.x / v.y).toBeCloseTo(-2, 12);
    }
  });

  it('are named by what they draw, also after their values were changed', () => {
    for (const { key, covers } of FAMILIES) {
      const start = parallelSetup(key, ORIGIN);
      if (start) expect(covers).toContain(nameProjection(start).key);
    }
    expect(nameProjection({ ...isometricSetup(ORIGIN), aDeg: 20, bDeg: 20 }).changed).toBe('no longer isometric: dimetric');
    expect(nameProjection({ ...isometricSetup(ORIGIN), aDeg: 35, bDeg: 15 }).changed).toBe('no longer isometric: trimetric');
    expect(nameProjection(axonometric({ aDeg: 30, bDeg: 30 }))).toMatchObject({ name: 'isometric', changed: null });
    expect(nameProjection(axonometric({ aDeg: -30, bDeg: -30 })).reason).toContain('seen from below');
    expect(nameProjection(axonometric({ aDeg: 60, bDeg: 30, method: 'parallel' }))).toMatchObject({ name: 'planometric' });
    expect(nameProjection(axonometric({ aDeg: 70, bDeg: 50 }))).toMatchObject({ name: 'parallel axonometry', changed: null });
    expect(nameProjection({ kind: 'oblique', chosen: 'cabinet', angleDeg: 30, ratio: 0.7, origin: ORIGIN }).changed).toBe('no longer cabinet: oblique, free');
    expect(nameProjection(axonometric({ aDeg: 7.180755781, bDeg: 41.409622109 })).reason).toContain('a and h are shortened alike');
  });

  it('tell how a circle and a grid look', () => {
    const facts = projectionFacts(setup('isometric'), 8, 300);
    for (const plane of facts.planes) expect(ellipseRatio(plane.circle!)).toBeCloseTo(1 / Math.sqrt(3), 9);
    expect(facts.planes.map((p) => Math.round(majorAxisDeg(p.circle!)))).toEqual([0, -60, 60]);
    // In true projection the long axis of a circle keeps its true length.
    expect(2 * projectionFacts(isometricSetup(ORIGIN, 'true'), 8, 300).planes[0]!.circle!.major).toBeCloseTo(8, 9);
    const apart = linesApart(setup('isometric'), 'floor', 10)!;
    expect(apart[0]).toBeCloseTo(10 * Math.sin(Math.PI / 3), 12);
    expect(factsText(facts)).toContain('axis a: 30°, foreshortening 1');
    expect(projectionFacts(setup('cabinet'), 8, 300).planes[2]!.circle).toMatchObject({ major: 4, minor: 4 });
    expect(projectionFacts(setup('cabinet'), 8, 300).planes[2]!.name).toBe('facing wall');
  });

  it('give recipes that make the plane’s matrix again, for every plane of every parallel family', () => {
    for (const { key } of FAMILIES) {
      const start = parallelSetup(key, ORIGIN);
      if (!start) continue;
      for (const { recipe, kind } of projectionFacts(start, 8, 300).planes) {
        mapOfRecipe(recipe!.steps).forEach((value, i) => expect(value).toBeCloseTo(recipe!.map[i]!, 9));
        expect(recipeOf(recipe!.map).scaleX).toBeGreaterThan(0);
        expect(kind).toBeTruthy();
      }
    }
    // By hand, the well-known isometric wall: 86.6 % high, sheared and turned by 30°.
    const left = mapForms(projectionFacts(setup('isometric'), 8, 300).planes[1]!)!;
    expect(left.text).toBe('scale 100 × 86.603\u2009%, shear 30°, turn \u221230°');
    expect(left.svg).toBe('matrix(0.866025 0.5 0 1 0 0)');
    expect(left.css).toBe('matrix(0.866025, 0.5, 0, 1, 0, 0)');
  });
});
