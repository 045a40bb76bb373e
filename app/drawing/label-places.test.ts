import { placeLabels, type Labelled } from './label-places';

const meet = (p: { x: number; y: number }, a: Labelled, q: { x: number; y: number }, b: Labelled): boolean =>
  p.x < q.x + b.width && q.x < p.x + a.width && p.y < q.y + b.height && q.y < p.y + a.height;

describe('labels of handles', () => {
  const label = (x: number, y: number): Labelled => ({ x, y, width: 60, height: 20 });

  it('stands right of its handle where there is room', () => {
    expect(placeLabels([label(100, 100)])).toEqual([{ x: 110, y: 90 }]);
  });

  it('does not cover the label of a handle beside it, nor that handle', () => {
    const labels = [label(100, 100), label(112, 104), label(98, 110)];
    const places = placeLabels(labels);
    for (let i = 0; i < 3; i++) {
      for (let k = 0; k < i; k++) expect(meet(places[i]!, labels[i]!, places[k]!, labels[k]!)).toBe(false);
      for (const handle of labels) expect(meet(places[i]!, labels[i]!, { x: handle.x - 6, y: handle.y - 6 }, { ...handle, width: 12, height: 12 })).toBe(false);
    }
  });

  it('covers nothing among handles a label apart, wherever they are', () => {
    for (let round = 0; round < 50; round++) {
      const labels = Array.from({ length: 5 }, (_, i) => label(200 + 64 * i, 200 + 30 * Math.sin(round * 7 + i * i)));
      const places = placeLabels(labels);
      for (let i = 0; i < 5; i++) for (let k = 0; k < i; k++) expect(meet(places[i]!, labels[i]!, places[k]!, labels[k]!)).toBe(false);
    }
  });
});
