import { latticeSheet } from './lattice';
import { BARE_EDGE, PAPERS, printedPage } from './printed-page';

const paper = (name: string): (typeof PAPERS)[number] => PAPERS.find((one) => one.name === name)!;

describe('a sheet on paper', () => {
  it('lies in the middle in true size, upright where that takes it', () => {
    const page = printedPage({ width: 100, height: 80 }, paper('A4'), false);
    expect(page).toMatchObject({ width: 210, height: 297, x: 55, y: 108.5, scale: 1, over: { width: 0, height: 0 } });
    expect(page.needs!.name).toBe('A6');
  });

  it('lies across where only that takes it', () => {
    expect(printedPage({ width: 260, height: 150 }, paper('A4'), false)).toMatchObject({ width: 297, height: 210, over: { width: 0, height: 0 } });
  });

  it('says how much finds no room, and which paper takes it', () => {
    const page = printedPage({ width: 230, height: 295 }, paper('A4'), false);
    expect(page.over).toEqual({ width: 230 - (210 - 2 * BARE_EDGE), height: 295 - (297 - 2 * BARE_EDGE) });
    expect(page.needs!.name).toBe('A3');
    expect(printedPage({ width: 2000, height: 300 }, paper('A0'), false).needs).toBeNull();
  });

  it('fits smaller and larger sheets into what printers reach', () => {
    for (const [width, height] of [[400, 100], [50, 60], [297, 210]] as const) {
      const page = printedPage({ width, height }, paper('A4'), true);
      expect(page.x).toBeGreaterThanOrEqual(BARE_EDGE - 1e-9);
      expect(page.y).toBeGreaterThanOrEqual(BARE_EDGE - 1e-9);
      expect(Math.min(page.x, page.y)).toBeCloseTo(BARE_EDGE, 9);
    } // prettier-ignore
    expect(printedPage({ width: 277, height: 200 }, paper('A4'), true).scale).toBe(1);
  });

  it('keeps the boxes of a lattice', () => {
    const { sheet } = latticeSheet({ columns: 9, rows: 6, box: 12 });
    const [true_, fitted] = [false, true].map((fit) => printedPage(sheet, paper('A4'), fit)) as [
      ReturnType<typeof printedPage>,
      ReturnType<typeof printedPage>,
    ];
    expect(12 * true_.scale).toBe(12);
    expect(12 * fitted.scale).toBeCloseTo(12 * Math.min(287 / sheet.width, 200 / sheet.height), 9);
  });
});
