import { emptyDocument } from '../document/types';
import { PictureMaker } from '../picture/picture';
import { outlineThrough } from '../shape/outline';
import type { CheminDocument, ShapeNode } from '../document/types';
import { cutPath } from './cut';
import { polygonPath } from '../shape/path';
import { containsPoint } from '../math/polygon';
import { randomFrom } from '../testing/random';

/** A comb in a plane: so many long teeth from the middle of a back, to both sides of where planes meet. */
function comb(id: string, plane: 'floor' | 'left', teeth: number): ShapeNode {
  const points = Array.from({ length: teeth }, (_, i): [number, number][] => [
    [-10, (20 * i) / teeth - 10],
    [10, (20 * i + 5) / teeth - 10],
    [-10, (20 * i + 10) / teeth - 10],
  ]).flat();
  const outline = outlineThrough(
    [[-12, 10], [-12, -10], ...points].map(([u, v]) => (plane === 'floor' ? { u: u!, v: v! } : { u: v!, v: u! })), // prettier-ignore
    true,
  );
  return { kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind: plane, offset: 0 }, outline, depth: 0, paint: { fill: '#2c7f7a', line: null } }; // prettier-ignore
}

const combs = (teeth: number, count = 2): CheminDocument => ({
  ...emptyDocument('combs', 'combs'),
  nodes: Array.from({ length: count }, (_, i) => comb(`comb ${i}`, i % 2 ? 'left' : 'floor', teeth)),
});

describe('what may be compared for a picture', () => {
  it('is enough for what is seen, and told where it is not', () => {
    expect(new PictureMaker().make(combs(40)).uncut).toEqual([]);
    const many = new PictureMaker().make(combs(700));
    expect([...many.uncut].sort()).toEqual(['comb 0', 'comb 1']);
    expect(many.visible.map(({ node }) => node)).toEqual(expect.arrayContaining(['comb 0', 'comb 1']));
  });

  it('depends on nothing that was drawn before', () => {
    const [few, many] = [combs(40, 3), combs(460, 3)];
    const maker = new PictureMaker();
    const first = maker.make(many);
    maker.make(few);
    const again = maker.make({ ...many });
    const cold = new PictureMaker().make(JSON.parse(JSON.stringify(many)) as CheminDocument);
    for (const picture of [first, again]) expect([picture.uncut, picture.marks]).toEqual([cold.uncut, cold.marks]);
  });
});

describe('cutting by very many areas', () => {
  it('leaves the same as cutting by each', () => {
    const random = randomFrom(5);
    const areas = Array.from({ length: 600 }, () => {
      const [x, y, s] = [random() * 90, random() * 90, 1 + random() * 4];
      return { polygon: [x, y, x + s, y, x + s * random(), y + s] };
    });
    const { parts, failed } = cutPath(polygonPath([0, 0, 100, 0, 100, 100, 0, 100]), areas);
    expect(failed).toBe(false);
    for (let i = 0; i < 4000; i++) {
      const [x, y] = [random() * 100, random() * 100];
      const left = parts.some(({ polygon, holes = [] }) => containsPoint(polygon, x, y) && !holes.some((hole) => containsPoint(hole, x, y)));
      expect([x, y, left]).toEqual([x, y, !areas.some(({ polygon }) => containsPoint(polygon, x, y))]);
    }
  });
});
