import { containsPoint } from '../math/polygon';
import type { PlanePoint } from '../math/points';
import { combineOutlines, type Combining } from './combine';
import { ellipseOutline } from './forms';
import { doubleAreaOf } from './from-segments';
import { outlineOfRings, outlineThrough, rectangleOutline, ringsOf, type Outline } from './outline';
import { flattenOutline, outlineSegments } from './segments';
import { turnOutline } from './transform';

const OPERATIONS: readonly Combining[] = ['union', 'subtract', 'intersect', 'exclude'];

/** A seeded source of whole numbers below n (Park & Miller 1988). */
function seeded(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state * 48_271) % 2_147_483_647;
    return state % n;
  };
}

const areaOf = (outline: Outline): number =>
  ringsOf(outline).reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * Math.abs(doubleAreaOf(outlineSegments(ring))), 0) / 2;
const total = (outlines: readonly Outline[]): number => outlines.reduce((sum, outline) => sum + areaOf(outline), 0);
const perimeter = (outline: Outline): number =>
  ringsOf(outline).reduce(
    (sum, ring) =>
      sum + flattenOutline(ring, 0.01).reduce((s, p, i, all) => s + Math.hypot(p.u - all[(i + 1) % all.length]!.u, p.v - all[(i + 1) % all.length]!.v), 0),
    0,
  );

const flat = (ring: Outline): number[] => flattenOutline(ring, 0.0005).flatMap((p) => [p.u, p.v]);
const holds = (outline: Outline, p: PlanePoint): boolean => ringsOf(outline).every((ring, i) => containsPoint(flat(ring), p.u, p.v) === (i === 0));

/** A shape on the grid: boxes, steps, triangles, slivers, frames, circles, rounded boxes. */
function shape(pick: (n: number) => number, curved: boolean): Outline {
  const at = (): PlanePoint => ({ u: pick(9), v: pick(9) });
  const p = at();
  const q = { u: p.u + 1 + pick(6), v: p.v + 1 + pick(6) };
  const box = rectangleOutline(p, q);
  switch (pick(curved ? 8 : 6)) {
    case 0:
      return box;
    case 1:
      return outlineThrough([p, { u: q.u, v: p.v }, { u: q.u, v: q.v }, { u: p.u + (q.u - p.u) / 2, v: q.v }, { u: p.u + (q.u - p.u) / 2, v: p.v + (q.v - p.v) / 2 }, { u: p.u, v: p.v + (q.v - p.v) / 2 }], true); // prettier-ignore
    case 2:
      return outlineThrough([p, { u: q.u, v: p.v }, { u: p.u, v: q.v }], true);
    case 3:
      // A sliver a tenth of a cell high along the grid.
      return rectangleOutline(p, { u: q.u, v: p.v + 0.1 });
    case 4: {
      const [inner, outer] = [rectangleOutline(p, q), rectangleOutline({ u: p.u - 1, v: p.v - 1 }, { u: q.u + 1, v: q.v + 1 })];
      return outlineOfRings([outer.points, inner.points], true);
    }
    case 5:
      return turnOutline(box, p, 15 * pick(24));
    case 6:
      return ellipseOutline(p, { u: 1 + pick(4), v: 1 + pick(4) });
    default:
      return { ...box, points: box.points.map((point) => ({ ...point, corner: { kind: 'round' as const, size: 0.5 } })) };
  }
}

describe('combining outlines', () => {
  it('keeps the sums of areas in 5,000 operations, and none throws', () => {
    const pick = seeded(20_261);
    let worst = 0;
    for (let i = 0; i < 1250; i++) {
      const [a, b] = [shape(pick, i % 3 === 0), shape(pick, i % 3 === 0)];
      const [union, subtract, intersect, exclude] = OPERATIONS.map((operation) => total(combineOutlines(operation, a, [b]))) as [
        number,
        number,
        number,
        number,
      ];
      const [areaA, areaB] = [areaOf(a), areaOf(b)];
      // Every corner of a result lies within a tick and a half of where it should.
      const allowed = (4 * (perimeter(a) + perimeter(b))) / 25_200;
      const misses = [union + intersect - areaA - areaB, subtract + intersect - areaA, exclude - union + intersect];
      for (const miss of misses) {
        worst = Math.max(worst, Math.abs(miss) / allowed);
        if (Math.abs(miss) > allowed) throw new Error(`case ${i}: ${miss} over ${allowed}: ${JSON.stringify([a, b])}`);
      }
    }
    expect(worst).toBeLessThanOrEqual(1);
  });

  it('agrees with a raster', () => {
    const pick = seeded(77);
    let looked = 0;
    for (let i = 0; i < 60; i++) {
      const [a, b] = [shape(pick, true), shape(pick, true)];
      const results = OPERATIONS.map((operation) => combineOutlines(operation, a, [b]));
      for (let k = 0; k < 200; k++) {
        // Away from the grid, where no straight boundary runs.
        const p = { u: -2 + pick(18_000) / 1000 + 0.000_371, v: -2 + pick(18_000) / 1000 + 0.000_371 };
        if ([a, b].some((o) => holds(o, { u: p.u + 0.002, v: p.v }) !== holds(o, { u: p.u - 0.002, v: p.v }) || holds(o, { u: p.u, v: p.v + 0.002 }) !== holds(o, { u: p.u, v: p.v - 0.002 }))) continue; // prettier-ignore
        const [inA, inB] = [holds(a, p), holds(b, p)];
        const truth = [inA || inB, inA && !inB, inA && inB, inA !== inB];
        results.forEach((result, o) => expect([OPERATIONS[o], i, p, result.some((outline) => holds(outline, p))]).toEqual([OPERATIONS[o], i, p, truth[o]]));
        looked++;
      }
    }
    expect(looked).toBeGreaterThan(10_000);
  });

  it('is exact on the grid and joins edges that go on', () => {
    const [one] = combineOutlines('union', rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 3 }), [rectangleOutline({ u: 4, v: 0 }, { u: 7, v: 3 })]);
    expect(one?.points.map((p) => `${p.u} ${p.v}`).sort()).toEqual(['0 0', '0 3', '7 0', '7 3']);
    const thirds = combineOutlines('intersect', rectangleOutline({ u: 0, v: 0 }, { u: 4 / 3, v: 1 }), [rectangleOutline({ u: 1 / 3, v: -1 }, { u: 9, v: 9 })]);
    expect(total(thirds)).toBeCloseTo(1, 12);
    expect(thirds[0]?.points.some((p) => p.u === 1 / 3)).toBe(true);
  });

  it('makes holes and parts', () => {
    const plate = rectangleOutline({ u: 0, v: 0 }, { u: 10, v: 6 });
    const [holed] = combineOutlines('subtract', plate, [rectangleOutline({ u: 1, v: 1 }, { u: 3, v: 3 }), ellipseOutline({ u: 7, v: 3 }, { u: 2, v: 2 })]);
    expect(holed?.holes).toHaveLength(2);
    expect(areaOf(holed!)).toBeCloseTo(60 - 4 - 4 * Math.PI, 9);
    const parts = combineOutlines('subtract', plate, [rectangleOutline({ u: 4, v: -1 }, { u: 6, v: 7 })]);
    expect(parts.map(areaOf)).toEqual([24, 24]);
    expect(combineOutlines('intersect', plate, [rectangleOutline({ u: 20, v: 0 }, { u: 21, v: 1 })])).toEqual([]);
    expect(combineOutlines('subtract', plate, [plate])).toEqual([]);
  });

  it('keeps curves as curves, cut where they truly cross', () => {
    const circle = ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 5 });
    const [half] = combineOutlines('subtract', circle, [rectangleOutline({ u: -9, v: -9 }, { u: 9, v: 0 })]);
    expect(outlineSegments(half!).map((s) => s.kind).sort()).toEqual(['conic', 'conic', 'line']); // prettier-ignore
    expect(areaOf(half!)).toBeCloseTo((25 * Math.PI) / 2, 9);
    // Two circles of radius 5 whose centres are 6 apart cross at (3, 4) and (3, -4).
    const [lens] = combineOutlines('intersect', circle, [ellipseOutline({ u: 6, v: 0 }, { u: 5, v: 5 })]);
    const segments = outlineSegments(lens!);
    expect(segments.every((s) => s.kind === 'conic')).toBe(true);
    expect(segments).toHaveLength(4);
    expect(lens!.points.filter((p) => p.u === 3).map((p) => p.v).sort()).toEqual([-4, 4]); // prettier-ignore
    expect(areaOf(lens!)).toBeCloseTo(2 * (25 * Math.acos(3 / 5) - 12), 6);
  });

  it('counts curves: none is lost to chords in 300 operations', () => {
    const pick = seeded(5);
    for (let i = 0; i < 300; i++) {
      const a = ellipseOutline({ u: pick(9), v: pick(9) }, { u: 2 + pick(3), v: 2 + pick(3) });
      const b = shape(pick, true);
      const pieces = combineOutlines('union', a, [b]).flatMap(ringsOf).flatMap(outlineSegments);
      // Eight quarter arcs and a cut each at most, and never the hundreds that chords would be.
      expect(pieces.length).toBeLessThan(48);
    }
  });

  it('refuses open lines by their place', () => {
    expect(() =>
      combineOutlines('union', rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }), [
        outlineThrough(
          [
            { u: 0, v: 0 },
            { u: 1, v: 1 },
          ],
          false,
        ),
      ]),
    ).toThrow('Only closed outlines');
  });
});
