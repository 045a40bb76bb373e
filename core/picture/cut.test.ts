import { signedArea } from '../math/polygon';
import { randomFrom, runs } from '../testing/random';
import type { DrawnFace } from '../visibility/drawn-face';
import { cutFace, type Area } from './cut';

const face = (polygon: number[], holes?: number[][]): DrawnFace => ({ polygon: Float64Array.from(polygon), ...(holes && { holes }) }) as unknown as DrawnFace;
const square = (x: number, y: number, size: number): number[] => [x, y, x + size, y, x + size, y + size, x, y + size];
const areaOf = (parts: readonly Area[]): number =>
  parts.reduce((sum, { polygon, holes = [] }) => sum + Math.abs(signedArea(polygon)) - holes.reduce((s, hole) => s + Math.abs(signedArea(hole)), 0), 0);

describe('cutting a face', () => {
  it('leaves holes, parts and nothing, each as it is', () => {
    const inner = cutFace(face(square(0, 0, 10)), [face(square(4, 4, 2))]);
    expect([inner.parts.length, inner.parts[0]!.holes?.length, areaOf(inner.parts)]).toEqual([1, 1, 96]);
    const strip = cutFace(face(square(0, 0, 10)), [face([4, -1, 6, -1, 6, 11, 4, 11])]);
    expect([strip.parts.length, areaOf(strip.parts)]).toEqual([2, 80]);
    expect(cutFace(face(square(0, 0, 10)), [face(square(-1, -1, 12))])).toEqual({ parts: [], failed: false });
    const ring = cutFace(face(square(0, 0, 10), [square(3, 3, 4)]), [face(square(5, 0, 10))]);
    expect(areaOf(ring.parts)).toBeCloseTo(42, 6);
  });

  it('unites what lies in front, so that overlaps of two are not shown', () => {
    const left = cutFace(face(square(0, 0, 10)), [face(square(1, 1, 5)), face(square(3, 3, 5))]);
    expect(areaOf(left.parts)).toBeCloseTo(100 - 41, 6);
  });

  it('manages edges that touch and coincide, thousands of times, and areas that no number holds are left whole', () => {
    const random = randomFrom(5);
    const whole = (n: number): number => Math.floor(random() * n);
    // Sheared as isometric drawings are: coordinates are no whole numbers, edges coincide all the same.
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const iso = (flat: number[]): number[] =>
      flat.flatMap((_, i) => (i % 2 === 0 ? [(flat[i]! - flat[i + 1]!) * c * 8, (flat[i]! + flat[i + 1]!) * s * 8] : []));
    for (let i = 0; i < runs(2000); i++) {
      const others = Array.from({ length: 1 + whole(4) }, () => face(iso(square(whole(6), whole(6), 1 + whole(4)))));
      const cut = cutFace(face(iso(square(whole(4), whole(4), 3 + whole(4)))), others);
      expect(cut.failed).toBe(false);
    }
    const lost = cutFace(face([0, 0, Infinity, 0, 1, 1]), [face(square(0, 0, 1))]);
    expect(lost.failed).toBe(true);
  });
});
