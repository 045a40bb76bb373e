import { crossWorld, dotWorld, subtractWorld } from '../math/points';
import { outlineThrough, type Outline } from '../shape/outline';
import { withoutCrossings } from '../shape/crossing';
import { worldPoints, type Body } from './body';
import { bodyVolume, surfaceArea } from './body-measures';
import { depthBody } from './depth-recipe';

const through = (...at: readonly (readonly [number, number])[]): Outline =>
  outlineThrough(
    at.map(([u, v]) => ({ u, v })),
    true,
  );

/** Two equal triangles that meet in (3, 2), wound against each other: 6 square cells each. */
const eight = through([0, 0], [6, 4], [6, 0], [0, 4]);
/** A star of five points drawn in one line: its middle lies within it twice. */
const star = through(...[0, 2, 4, 1, 3].map((k): [number, number] => [5 * Math.cos((2 * Math.PI * k) / 5), 5 * Math.sin((2 * Math.PI * k) / 5)]));

const solid = (outline: Outline, depth: number, taper?: number): Body =>
  depthBody({ plane: { kind: 'floor', offset: 0 }, outline, depth, ...(taper !== undefined && { taper }) })!;

/** By the divergence theorem, facet by facet: facets that face inwards take away. */
function volumeByFacets({ surfaces }: Body): number {
  let six = 0;
  for (const { corners, normal } of surfaces.flatMap(({ facets }) => facets)) {
    const points = worldPoints(corners);
    for (let i = 1; i + 1 < points.length; i++) {
      const [p, q, r] = [points[0]!, points[i]!, points[i + 1]!];
      expect(dotWorld(crossWorld(subtractWorld(q, p), subtractWorld(r, p)), normal)).toBeGreaterThanOrEqual(0);
      six += dotWorld(p, crossWorld(q, r));
    }
  }
  return six / 6;
}

describe('outlines that cross themselves', () => {
  it('bound their lobes, and have depth as solids that face outwards everywhere', () => {
    expect(surfaceArea(solid(eight, 0).surfaces[0]!)).toBeCloseTo(12, 9);
    for (const depth of [3, -3]) {
      const body = solid(eight, depth);
      expect([bodyVolume(body)!, volumeByFacets(body)].map((volume) => Number(volume.toFixed(9)))).toEqual([36, 36]);
    }
  });

  it('leave out what lies within them twice, as the rule of painting does', () => {
    // By the shoelace formula: the pentagram's points without the pentagon in its middle.
    const [outer, inner] = [5, 5 * ((3 - Math.sqrt(5)) / 2)];
    const points = 5 * outer * inner * Math.sin(Math.PI / 5) - 2.5 * inner * inner * Math.sin((2 * Math.PI) / 5);
    expect(surfaceArea(solid(star, 0).surfaces[0]!)).toBeCloseTo(points, 3);
    expect(bodyVolume(solid(star, 2))).toBeCloseTo(2 * points, 3);
  });

  it('narrow about the middle of all they bound', () => {
    const body = solid(eight, 3, 0);
    expect(body.surfaces.filter(({ name }) => name === 'end')).toEqual([]);
    expect([bodyVolume(body)!, body.bounds.max.h]).toEqual([expect.closeTo(12, 9), 3]);
  });

  it('keep the names of their edges, each once', () => {
    const sides = solid(eight, 3).surfaces.flatMap(({ name }) => (name.startsWith('side') ? [name] : []));
    expect(new Set(sides).size).toBe(sides.length);
    expect(sides).toEqual(expect.arrayContaining(['side:1', 'side:2', 'side:3', 'side:4']));
  });

  it('stay as they are where they cross nothing or have more lobes than anybody tells apart', () => {
    const plain = through([0, 0], [4, 0], [4, 4]);
    expect(withoutCrossings(plain)).toEqual([plain]);
    const zigzag = Array.from({ length: 200 }, (_, i): [number, number] => [i, i % 2]);
    const woven = through(...zigzag, ...zigzag.map(([u, v]): [number, number] => [u, 1 - v]).reverse());
    expect(withoutCrossings(woven)).toEqual([woven]);
  });
});
