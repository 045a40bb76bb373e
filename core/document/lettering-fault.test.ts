import type { CellLettering, FontLettering } from '../lettering/lettering';
import { letteringFault } from './lettering-fault';

const CELLS: CellLettering = { kind: 'cells', text: 'NINE', stem: 1, width: 5, height: 7, corner: 'square', letter: 0, line: 9, align: 'left' };
const FONT: FontLettering = { kind: 'font', text: 'NINE', font: 'grotesque', cap: 4, letter: 0, word: 0, line: 6, align: 'left' };

describe('what letters are drawn by', () => {
  it('is refused with the measure that is wrong, before anything is drawn', () => {
    expect(letteringFault(CELLS)).toBeNull();
    expect(letteringFault(FONT)).toBeNull();
    expect(letteringFault({ ...CELLS, stem: 3 })).toBe('Letters are wider than three stems, 9 cells.');
    expect(letteringFault({ ...CELLS, height: 3 })).toBe('Letters are higher than three stems, 3 cells.');
    expect(letteringFault({ ...FONT, cap: 0 })).toBe('cap: a measure of letters is more than 0');
    expect(letteringFault({ ...FONT, line: 1e9 })).toBe('line: a coordinate lies within a million cells');
    expect(letteringFault({ ...FONT, bend: Infinity })).toContain('bend: ');
  });
});
