import type { PlanePoint } from '../math/points';
import { ellipseOutline } from './forms';
import { doubleAreaOf } from './from-segments';
import { outlineThrough, rectangleOutline, ringsOf, type Outline } from './outline';
import { regionAt, regionsOf } from './regions';
import { outlineSegments } from './segments';

const line = (...flat: number[]): Outline => {
  const points: PlanePoint[] = [];
  for (let i = 0; i < flat.length; i += 2) points.push({ u: flat[i]!, v: flat[i + 1]! });
  return outlineThrough(points, false);
};
const areaOf = (outline: Outline): number =>
  ringsOf(outline).reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * Math.abs(doubleAreaOf(outlineSegments(ring))), 0) / 2;
const areas = (lines: readonly Outline[]): number[] =>
  regionsOf(lines)
    .regions.map(areaOf)
    .sort((p, q) => p - q);

describe('regions of loose lines', () => {
  it('finds the face inside four lines that cross, and names the ends that lead nowhere', () => {
    const { regions, looseEnds } = regionsOf([line(-1, 0, 5, 0), line(4, -1, 4, 4), line(5, 3, -1, 3), line(0, 4, 0, -1)]);
    expect(regions).toHaveLength(1);
    expect(regions[0]?.points.map((p) => `${p.u} ${p.v}`).sort()).toEqual(['0 0', '0 3', '4 0', '4 3']);
    expect(looseEnds).toHaveLength(8);
  });

  it('takes T-junctions: a line that ends on another parts what it meets', () => {
    const { regions, looseEnds } = regionsOf([rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 4 }), line(2, 0, 2, 4), line(2, 1, 6, 1)]);
    expect(regions.map(areaOf).sort((p, q) => p - q)).toEqual([4, 8, 12]);
    expect(looseEnds).toEqual([]);
  });

  it('leaves out what lies within, and finds that too', () => {
    const lines = [
      rectangleOutline({ u: 0, v: 0 }, { u: 10, v: 10 }),
      rectangleOutline({ u: 2, v: 2 }, { u: 8, v: 8 }),
      ellipseOutline({ u: 5, v: 5 }, { u: 2, v: 2 }),
    ];
    const found = regionsOf(lines);
    expect(areas(lines)[0]).toBeCloseTo(4 * Math.PI, 9);
    expect(areas(lines)[1]).toBeCloseTo(36 - 4 * Math.PI, 9);
    expect(areas(lines)[2]).toBe(64);
    expect(regionAt(found, { u: 1, v: 5 })?.holes).toHaveLength(1);
    expect(areaOf(regionAt(found, { u: 5, v: 5 })!)).toBeCloseTo(4 * Math.PI, 9);
    expect(regionAt(found, { u: 11, v: 5 })).toBeNull();
  });

  it('counts a line that is drawn twice, wholly or in part, once', () => {
    const square = [line(0, 0, 4, 0), line(4, 0, 4, 4), line(4, 4, 0, 4), line(0, 4, 0, 0)];
    expect(areas([...square, ...square])).toEqual([16]);
    expect(areas([...square, line(1, 0, 9, 0), line(4, 0, 0, 0)])).toEqual([16]);
  });

  it('lets dead ends inside a region enclose nothing', () => {
    const found = regionsOf([rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 }), line(0, 2, 2, 2, 2, 3), line(3, 1, 3.5, 1)]);
    expect(found.regions.map(areaOf)).toEqual([16]);
    expect(found.looseEnds).toEqual([{ u: 2, v: 3 }, { u: 3, v: 1 }, { u: 3.5, v: 1 }]); // prettier-ignore
  });

  it('keeps curves: a circle cut by a line gives two halves of conics', () => {
    const { regions } = regionsOf([ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 5 }), line(3, -6, 3, 6)]);
    const segment = 25 * Math.acos(3 / 5) - 12;
    expect(regions.map(areaOf).sort((p, q) => p - q)[0]).toBeCloseTo(segment, 8);
    expect(regions.map(areaOf).sort((p, q) => p - q)[1]).toBeCloseTo(25 * Math.PI - segment, 8);
    expect(regions.flatMap((r) => outlineSegments(r)).filter((s) => s.kind === 'line')).toHaveLength(2);
  });

  it('adds up: the regions of a random net of lines have the area of the whole net', () => {
    for (let seed = 1; seed <= 20; seed++) {
      let state = seed * 7919;
      const pick = (n: number): number => (state = (state * 48_271) % 2_147_483_647) % n;
      const frame = rectangleOutline({ u: 0, v: 0 }, { u: 20, v: 20 });
      const cuts = Array.from({ length: 8 }, () => (pick(2) ? line(-1, pick(20), 21, pick(20)) : line(pick(20), -1, pick(20), 21)));
      const inside = regionsOf([frame, ...cuts]).regions.filter((r) => r.points.every((p) => p.u >= 0 && p.u <= 20 && p.v >= 0 && p.v <= 20));
      expect(inside.reduce((sum, r) => sum + areaOf(r), 0)).toBeCloseTo(400, 2);
    }
  });
});
