import { boundsArea } from '../shape/segments';
import { doubleAreaTicks } from '../shape/outline';
import { CELL_ACCENTS, CELL_ALPHABET } from './cell-alphabet';
import { cellFault, layCells } from './cell-letters';
import type { CellLettering } from './lettering';

const cells = (text: string, more: Partial<CellLettering> = {}): CellLettering => ({ kind: 'cells', text, stem: 1, width: 5, height: 7, corner: 'square', letter: 0, line: 10, align: 'left', ...more }); // prettier-ignore

describe('cell letters', () => {
  it.each(Object.entries(CELL_ALPHABET))('%s: has no fields that touch by a corner alone', (_, drawn) => {
    const rows = drawn.split(' ');
    expect(rows.map((row) => row.length)).toEqual([5, 5, 5, 5, 5]);
    for (let y = 0; y < 4; y++) {
      for (let x = 0; x < 4; x++) {
        const [p, q, r, s] = [rows[y]![x], rows[y]![x + 1], rows[y + 1]![x], rows[y + 1]![x + 1]];
        expect(p === s && q === r && p !== q).toBe(false);
      }
    }
  });

  it('are all told apart', () => {
    const drawn = Object.entries(CELL_ALPHABET).filter(([sign]) => /[A-Z0-9]/.test(sign));
    expect(drawn).toHaveLength(36);
    expect(new Set(drawn.map(([, rows]) => rows)).size).toBe(36);
  });

  it('have every corner on the grid', () => {
    for (const measures of [
      { stem: 1, width: 5, height: 7 },
      { stem: 2, width: 9, height: 11 },
      { stem: 1, width: 4, height: 6 },
    ]) {
      const { letters, missing } = layCells(cells(Object.keys(CELL_ALPHABET).join(''), measures));
      expect(missing).toEqual([]);
      for (const { outlines } of letters) {
        for (const outline of outlines) {
          expect(boundsArea(outline)).toBe(true);
          for (const p of [...outline.points, ...(outline.holes ?? []).flat()]) expect([p.u % 0.5, p.v % 0.5].map(Math.abs)).toEqual([0, 0]);
        }
      }
    }
  });

  it('have the area of their fields, holes left out', () => {
    const [o] = layCells(cells('O')).letters;
    const [outline] = o!.outlines;
    const area = (points: Parameters<typeof doubleAreaTicks>[0]): number => Math.abs(doubleAreaTicks(points)) / 2 / 25_200 ** 2;
    expect(area(outline!.points) - area(outline!.holes![0]!)).toBe(35 - 15);
    expect(layCells(cells('8')).letters[0]!.outlines[0]!.holes).toHaveLength(2);
    expect(layCells(cells('0')).letters[0]!.outlines).toHaveLength(2);
  });

  it('take accents, small letters and lines, and name what they do not have', () => {
    const { letters, missing } = layCells(cells('Äöé\nñ漢'));
    expect(letters.map(({ text, outlines }) => [text, outlines.length])).toEqual([['Ä', 3], ['ö', 3], ['é', 2], ['ñ', 3]]); // prettier-ignore
    expect(missing).toEqual(['漢']);
    expect(Object.keys(CELL_ACCENTS)).toHaveLength(8);
  });

  it('cut or round their outer corners', () => {
    const corners = (corner: CellLettering['corner']): number =>
      layCells(cells('L', { corner })).letters[0]!.outlines[0]!.points.filter((p) => p.corner).length;
    expect([corners('square'), corners('cut'), corners('round')]).toEqual([0, 5, 5]);
  });

  it('refuse measures that leave no room', () => {
    expect(cellFault({ stem: 0, width: 5, height: 7 })).toContain('more than 0');
    expect(cellFault({ stem: 2, width: 6, height: 9 })).toContain('6 cells');
    expect(cellFault({ stem: 1, width: 5, height: 3 })).toContain('higher');
    expect(cellFault({ stem: 1, width: 4, height: 4 })).toBeNull();
  });
});
