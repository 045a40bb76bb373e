import { ClipType, combineRings, FillRule, ringArea, ringsArea, type Path64 } from './flat-areas';
import { randomFrom, runs } from '../testing/random';
import { nestRings } from './nest';

const square = (x: number, y: number, size: number): Path64 => [
  { x, y },
  { x: x + size, y },
  { x: x + size, y: y + size },
  { x, y: y + size },
];
const area = (parts: readonly (readonly Path64[])[]): number => parts.reduce((sum, part) => sum + part.reduce((own, ring) => own + ringArea(ring), 0), 0);

describe('rings of an area', () => {
  it('are put into the smallest that holds them, islands in holes apart', () => {
    const [outer, hole, island, pit] = [square(0, 0, 100), square(10, 10, 60).reverse(), square(20, 20, 40), square(30, 30, 5).reverse()];
    const parts = nestRings([pit, outer, island, hole]);
    expect(parts).toEqual([
      [outer, hole],
      [island, pit],
    ]);
  });

  it('are told apart where a hole touches the ring that it lies in, along an edge and at corners', () => {
    const outer = [...square(0, 0, 100)];
    const touching = square(0, 40, 20).reverse();
    expect(nestRings([touching, outer])).toEqual([[outer, touching]]);
    // A ring whose corners all lie on the one round it.
    const diamond = [{ x: 50, y: 0 }, { x: 100, y: 50 }, { x: 50, y: 100 }, { x: 0, y: 50 }].reverse(); // prettier-ignore
    expect(nestRings([outer, diamond])).toEqual([[outer, diamond]]);
  });

  it('lose nothing of random areas and have every hole inside', () => {
    const random = randomFrom(3);
    const whole = (n: number): number => Math.floor(random() * n);
    for (let i = 0; i < runs(300); i++) {
      const rings = Array.from({ length: 12 }, () => square(whole(30) * 7, whole(30) * 7, 7 + whole(12) * 7));
      const left = combineRings(ClipType.Union, rings, [], FillRule.EvenOdd);
      const parts = nestRings(left);
      expect(area(parts)).toBe(ringsArea(left));
      for (const [outer, ...holes] of parts) {
        expect(ringArea(outer!)).toBeGreaterThan(0);
        for (const hole of holes) {
          expect(Math.abs(ringsArea(combineRings(ClipType.Difference, [hole], [outer!], FillRule.EvenOdd)))).toBe(0);
        }
      }
    }
  });
});
