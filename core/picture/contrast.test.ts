import { emptyDocument, type ShapeNode } from '../document/types';
import { rectangleOutline } from '../shape/outline';
import { faceContrasts } from './contrast';
import { PictureMaker } from './picture';

const box = (id: string, u: number, fill: string): ShapeNode => ({ kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u, v: 0 }, { u: u + 4, v: 4 }), depth: 4, paint: { fill, line: null } }); // prettier-ignore

describe('how well neighbouring faces are told apart', () => {
  it('is told by the ratio of their luminances, the weakest first', () => {
    const document = { ...emptyDocument('d', 'd'), nodes: [box('one', 0, '#c98a4b'), box('two', 4, '#c88b4d')] };
    const pairs = faceContrasts(new PictureMaker().make(document), 20);
    expect(pairs.length).toBeGreaterThan(4);
    pairs.forEach(({ ratio }, i) => i > 0 && expect(ratio).toBeGreaterThanOrEqual(pairs[i - 1]!.ratio));
    // The tops of two boxes of nearly one colour are told apart worst.
    const [weakest] = pairs;
    expect(new Set(weakest!.faces.map(({ node }) => node))).toEqual(new Set(['one', 'two']));
    expect(weakest!.ratio).toBeLessThan(1.05);
    expect(weakest!.length).toBeGreaterThan(10);
    const edge = pairs.find(({ faces }) => faces.every(({ node }) => node === 'one'))!;
    expect(edge.ratio).toBeGreaterThan(1.1);
    expect(edge.lightness).toBeGreaterThan(0.03);
    expect(faceContrasts(new PictureMaker().make(document), 2)).toHaveLength(2);
  });

  it('is nothing where nothing meets', () => {
    expect(faceContrasts(new PictureMaker().make(emptyDocument('d', 'd')), 5)).toEqual([]);
  });
});
