import { emptyDocument, type CheminDocument, type PlacementNode } from '../document/types';
import { placementLines, wayToLine } from './placement-lines';

const SHEET = { kind: 'sheet', offset: 0 } as const;
const on = (id: string, a: number, b: number, width: number, height: number): PlacementNode => ({ kind: 'placement', id, name: id, hidden: false, locked: false, artwork: 'art', target: { kind: 'plane', plane: SHEET }, anchor: { at: { a, b, h: 0 }, width, height } }); // prettier-ignore

describe('lines that artwork is drawn to', () => {
  const [first, second] = [on('first', 1, 2, 4, 2), on('second', 10, 6, 6, 3)];
  const document: CheminDocument = { ...emptyDocument('d', 'd'), sheet: { ...emptyDocument('d', 'd').sheet, width: 240, height: 160 }, nodes: [first, second] };
  const lines = placementLines(document, first, SHEET);

  it('are edges, thirds and middles of the sheet, and those of other artwork on it', () => {
    // 240 x 160 mm in cells of 8 mm.
    expect(lines.x).toEqual([0, 10, 15, 20, 30, 10, 13, 16]);
    expect(lines.y.slice(5)).toEqual([6, 7.5, 9]);
  });

  it('take the nearest edge or middle within reach, each way by itself', () => {
    const box = { x: 1, y: 2, width: 4, height: 2 };
    expect(wayToLine(box, { x: 11.8, y: 1.1 }, lines, 0.4)).toEqual({ x: 12, y: null });
    // Its right edge to the left edge of the other, its lower edge to the upper.
    expect(wayToLine(box, { x: 4.9, y: 2.1 }, lines, 0.4)).toEqual({ x: 5, y: 2 });
    expect(wayToLine(box, { x: 6.9, y: 0 }, lines, 0.3)).toEqual({ x: 7, y: null });
  });
});
