import fc from 'fast-check';
import { clipToConvex, containsPoint, isConvex, signedArea } from './polygon';

const square = [0, 0, 4, 0, 4, 4, 0, 4];
const notched = [0, 0, 6, 0, 6, 6, 3, 2, 0, 6];

function clip(subject: readonly number[], convex: readonly number[]): number[] {
  const out = new Float64Array(64);
  const length = clipToConvex(Float64Array.from(subject), subject.length, Float64Array.from(convex), convex.length, out, new Float64Array(64));
  return Array.from(out.subarray(0, length));
}

describe('polygons of the sheet', () => {
  it('have a positive area when they run clockwise on screen', () => {
    expect(signedArea(square)).toBe(16);
    expect(signedArea([0, 0, 0, 4, 4, 4, 4, 0])).toBe(-16);
    expect(signedArea([])).toBe(0);
  });

  it('are convex or not', () => {
    expect(isConvex(square)).toBe(true);
    expect(isConvex([0, 0, 2, 0, 4, 0, 4, 4, 0, 4])).toBe(true);
    expect(isConvex(notched)).toBe(false);
    expect(isConvex([0, 0, 1, 1])).toBe(false);
    const pentagram = [0, 1, 2, 3].concat(4).flatMap((i) => [Math.cos((i * 4 * Math.PI) / 5), Math.sin((i * 4 * Math.PI) / 5)]);
    expect(isConvex(pentagram)).toBe(false);
  });

  it('contain their inside and their boundary', () => {
    expect(containsPoint(notched, 1, 1)).toBe(true);
    expect(containsPoint(notched, 3, 4)).toBe(false);
    expect(containsPoint(notched, 3, 0)).toBe(true);
    expect(containsPoint(notched, 6, 6)).toBe(true);
    expect(containsPoint(notched, 7, 3)).toBe(false);
  });

  it('are clipped to convex ones', () => {
    expect(signedArea(clip(square, [2, 2, 6, 2, 6, 6, 2, 6]))).toBe(4);
    expect(clip(square, [5, 5, 6, 5, 6, 6, 5, 6])).toEqual([]);
    expect(signedArea(clip(square, [-1, -1, 9, -1, 9, 9, -1, 9]))).toBe(16);
  });

  it('lose no area when a clip divides them in two', () => {
    const coordinate = fc.double({ min: -5, max: 9, noNaN: true });
    fc.assert(
      fc.property(coordinate, (x) => {
        const left = clip(square, [-20, -20, x, -20, x, 20, -20, 20]);
        const right = clip(square, [x, -20, 20, -20, 20, 20, x, 20]);
        expect(signedArea(left) + signedArea(right)).toBeCloseTo(16, 9);
      }),
      { seed: 3 },
    );
  });
});
