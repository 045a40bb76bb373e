import fc from 'fast-check';
import { signedArea } from '../math/polygon';
import { projectionFrom } from '../projection/projection';
import { isometricSetup } from '../projection/setup';
import { sightFrom } from '../projection/sight';
import { depthBody } from '../geometry/depth-recipe';
import { planeThrough } from '../projection/free-planes';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { drawBody, rangeDirections, type DrawnSurface } from './drawn-body';
import { rangesOverlap, relate } from './relation';

const projection = projectionFrom(isometricSetup({ x: 0, y: 0 }));
const sight = sightFrom(projection);
const view = { sight, directions: rangeDirections(sight) };

/** A level rectangle at a height. */
function level(a: number, b: number, width: number, length: number, h: number): DrawnSurface {
  const outline = rectangleOutline({ u: a, v: b }, { u: a + width, v: b + length });
  return drawBody(view, depthBody({ plane: { kind: 'floor', offset: h }, outline, depth: 0 })!).surfaces[0]!;
}

describe('two faces', () => {
  it('are in front, behind, level or apart', () => {
    expect(relate(level(0, 0, 4, 4, 2), level(0, 0, 4, 4, 0)).kind).toBe('front');
    expect(relate(level(0, 0, 4, 4, 0), level(0, 0, 4, 4, 2)).kind).toBe('behind');
    expect(relate(level(0, 0, 4, 4, 1), level(2, 2, 4, 4, 1)).kind).toBe('level');
    expect(relate(level(0, 0, 4, 4, 1), level(9, 0, 4, 4, 1)).kind).toBe('apart');
  });

  it('that only touch along an edge are apart, by their ranges already', () => {
    expect(rangesOverlap(level(0, 0, 4, 4, 0).ranges, level(4, 0, 4, 4, 0).ranges)).toBe(false);
    expect(relate(level(0, 0, 4, 4, 0), level(4, 0, 4, 4, 0)).kind).toBe('apart');
    // Their boxes on the sheet overlap; along the drawn axes they do not.
    expect(rangesOverlap(level(0, 0, 1, 9, 0).ranges, level(2, 0, 1, 9, 0).ranges)).toBe(false);
  });

  it('answer the same both ways round, and as heights do', () => {
    const whole = fc.integer({ min: -6, max: 6 });
    const rectangle = fc.tuple(whole, whole, fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }), whole);
    fc.assert(
      fc.property(rectangle, rectangle, (p, q) => {
        const [f, g] = [level(...p), level(...q)];
        const there = relate(f, g).kind;
        const back = relate(g, f).kind;
        const mirrored = { front: 'behind', behind: 'front', level: 'level', apart: 'apart' } as const;
        expect(back).toBe(mirrored[there]);
        if (there !== 'apart') expect(there).toBe(p[4] > q[4] ? 'front' : p[4] < q[4] ? 'behind' : 'level');
        if (!rangesOverlap(f.ranges, g.ranges)) expect(there).toBe('apart');
      }),
      { seed: 41, numRuns: 2000 },
    );
  });
});

describe('surfaces that cut through each other', () => {
  it('are told, with the parts in which each is in front', () => {
    const upright = drawBody(view, depthBody({ plane: { kind: 'right', offset: 2 }, outline: rectangleOutline({ u: 0, v: -3 }, { u: 4, v: 3 }), depth: 0 })!).surfaces[0]!; // prettier-ignore
    const flat = level(0, 0, 4, 4, 0);
    const { kind, agreed, reversed } = relate(flat, upright);
    expect(kind === 'front' || kind === 'behind').toBe(true);
    const area = (parts: readonly ArrayLike<number>[]): number => parts.reduce((sum, part) => sum + signedArea(part), 0);
    // Of the floor, half lies in front of the wall and half behind: what is shared of it on the sheet has two parts.
    expect(area(agreed!)).toBeGreaterThan(0);
    expect(area(reversed!)).toBeGreaterThan(0);
    expect(area(agreed!) + area(reversed!)).toBeLessThanOrEqual(area(flat.facets.map(({ polygon }) => polygon)) + 1e-9);
    expect(relate(upright, flat).kind).toBe(kind === 'front' ? 'behind' : 'front');
  });
});

describe('a drawn surface', () => {
  it('is none when it is turned away or edge-on', () => {
    const box = depthBody({ plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }), depth: 1 })!;
    expect(
      drawBody(view, box)
        .surfaces.map(({ surface }) => surface!.name)
        .sort(),
    ).toEqual(['end', 'side:1', 'side:4']);
    const edgeOn = planeThrough({ a: 0, b: 0, h: 0 }, { a: 4, b: 4, h: 0 }, { a: 4, b: 4, h: 4 })!;
    expect(drawBody(view, depthBody({ plane: edgeOn, outline: rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }), depth: 0 })!).surfaces).toEqual([]);
  });

  it('comes in convex facets that cover it, all clockwise', () => {
    const bent = outlineThrough([[0, 0], [6, 0], [6, 6], [4, 6], [4, 2], [0, 2]].map(([u, v]) => ({ u: u!, v: v! })), true); // prettier-ignore
    const [surface] = drawBody(view, depthBody({ plane: { kind: 'floor', offset: 0 }, outline: bent, depth: 0 })!).surfaces;
    const pieces = surface!.facets.map(({ polygon }) => polygon);
    expect(pieces.length).toBeGreaterThan(1);
    expect(pieces.every((piece) => signedArea(piece) > 0)).toBe(true);
    expect(pieces.reduce((sum, piece) => sum + signedArea(piece), 0)).toBeCloseTo(Math.abs(signedArea(surface!.outline[0]!.polygon)), 9);
  });
});
