import fc from 'fast-check';
import type { WorldPoint } from '../math/points';
import { signedArea } from '../math/polygon';
import { projectionFrom } from '../projection/projection';
import { isometricSetup } from '../projection/setup';
import { sightFrom } from '../projection/sight';
import { convexPieces, drawFace, rangeDirections, type DrawnFace } from './drawn-face';
import { rangesOverlap, relate } from './relation';

const projection = projectionFrom(isometricSetup({ x: 0, y: 0 }));
const sight = sightFrom(projection);
const directions = rangeDirections(sight);
const UP = { a: 0, b: 0, h: 1 };

/** A level rectangle at a height. */
function level(a: number, b: number, width: number, length: number, h: number): DrawnFace {
  const corners: WorldPoint[] = [
    { a, b, h },
    { a: a + width, b, h },
    { a: a + width, b: b + length, h },
    { a, b: b + length, h },
  ];
  return drawFace(sight, directions, 'f', corners, UP)!;
}

describe('two faces', () => {
  it('are in front, behind, level or apart', () => {
    expect(relate(level(0, 0, 4, 4, 2), level(0, 0, 4, 4, 0))).toBe('front');
    expect(relate(level(0, 0, 4, 4, 0), level(0, 0, 4, 4, 2))).toBe('behind');
    expect(relate(level(0, 0, 4, 4, 1), level(2, 2, 4, 4, 1))).toBe('level');
    expect(relate(level(0, 0, 4, 4, 1), level(9, 0, 4, 4, 1))).toBe('apart');
  });

  it('that only touch along an edge are apart, by their ranges already', () => {
    expect(rangesOverlap(level(0, 0, 4, 4, 0), level(4, 0, 4, 4, 0))).toBe(false);
    expect(relate(level(0, 0, 4, 4, 0), level(4, 0, 4, 4, 0))).toBe('apart');
    // Their boxes on the sheet overlap; along the drawn axes they do not.
    expect(rangesOverlap(level(0, 0, 1, 9, 0), level(2, 0, 1, 9, 0))).toBe(false);
  });

  it('answer the same both ways round, and as heights do', () => {
    const whole = fc.integer({ min: -6, max: 6 });
    const rectangle = fc.tuple(whole, whole, fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }), whole);
    fc.assert(
      fc.property(rectangle, rectangle, (p, q) => {
        const [f, g] = [level(...p), level(...q)];
        const there = relate(f, g);
        const back = relate(g, f);
        const mirrored = { front: 'behind', behind: 'front', level: 'level', apart: 'apart' } as const;
        expect(back).toBe(mirrored[there]);
        if (there !== 'apart') expect(there).toBe(p[4] > q[4] ? 'front' : p[4] < q[4] ? 'behind' : 'level');
        if (!rangesOverlap(f, g)) expect(there).toBe('apart');
      }),
      { seed: 41, numRuns: 2000 },
    );
  });
});

describe('a drawn face', () => {
  it('is none when it is turned away, edge-on or without corners', () => {
    const corners = [{ a: 0, b: 0, h: 0 }, { a: 1, b: 0, h: 0 }, { a: 1, b: 1, h: 0 }]; // prettier-ignore
    expect(drawFace(sight, directions, 'f', corners, { a: 0, b: 0, h: -1 })).toBeNull();
    expect(drawFace(sight, directions, 'f', corners, { a: 0.7, b: 0, h: 0.7 })).toBeNull();
    expect(drawFace(sight, directions, 'f', [], UP)).toBeNull();
  });

  it('comes in convex pieces that cover it, all clockwise', () => {
    const bent = Float64Array.from([0, 0, 6, 0, 6, 6, 4, 6, 4, 2, 0, 2]);
    const pieces = convexPieces(bent);
    expect(pieces.length).toBeGreaterThan(1);
    expect(pieces.every((piece) => signedArea(piece) > 0)).toBe(true);
    expect(pieces.reduce((sum, piece) => sum + signedArea(piece), 0)).toBeCloseTo(signedArea(bent), 12);
    expect(convexPieces(Float64Array.from([0, 0, 4, 0, 4, 4, 0, 4]))).toHaveLength(1);
  });
});
