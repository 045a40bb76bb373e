import { SHEET_SIZES, type SheetSize } from '../math/units';

/** mm along each edge of the paper that printers leave bare. */
export const BARE_EDGE = 5;

/** Paper that printers take, the smallest first. */
export const PAPERS: readonly SheetSize[] = SHEET_SIZES.filter(({ name }) => /^A\d$/.test(name)).sort((p, q) => p.width - q.width);

/** A sheet as a printer lays it on paper; lengths in mm. */
export interface PrintedPage {
  /** The paper as it lies: upright or across, whichever takes more of the sheet. */
  readonly width: number;
  readonly height: number;
  /** Where the sheet's upper left corner lies on it. */
  readonly x: number;
  readonly y: number;
  /** mm on the paper to one of the sheet: 1 in true size. */
  readonly scale: number;
  /** How much of the sheet finds no room, across and down; 0 where all of it is printed. */
  readonly over: { readonly width: number; readonly height: number };
  /** The smallest paper that takes all of the sheet in true size; null where none does. */
  readonly needs: SheetSize | null;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/**
 * A sheet laid in the middle of a paper, in true size or fitted into what printers can reach of it, larger or smaller.
 * @param sheet size in mm
 */
export function printedPage(sheet: Size, paper: SheetSize, fitted: boolean): PrintedPage {
  const lying = [paper, { width: paper.height, height: paper.width }].map((size) => ({ size, share: fitOf(sheet, size) }));
  const [upright, across] = lying as [(typeof lying)[number], (typeof lying)[number]];
  // In true size it lies upright unless only the other way takes it.
  const chosen = across.share > upright.share && (fitted || upright.share < 1) ? across : upright;
  const { width, height } = chosen.size;
  const scale = fitted ? chosen.share : 1;
  const over = (own: number, there: number): number => Math.max(0, own * scale - (there - 2 * BARE_EDGE));
  const needs = PAPERS.find((one) => fitOf(sheet, one) >= 1 || fitOf(sheet, { width: one.height, height: one.width }) >= 1) ?? null;
  return {
    width,
    height,
    x: (width - sheet.width * scale) / 2,
    y: (height - sheet.height * scale) / 2,
    scale,
    over: fitted ? { width: 0, height: 0 } : { width: over(sheet.width, width), height: over(sheet.height, height) },
    needs,
  };
}

/** By how much a sheet can grow on a paper: under 1 where it has to shrink. */
const fitOf = (sheet: Size, paper: Size): number => Math.min((paper.width - 2 * BARE_EDGE) / sheet.width, (paper.height - 2 * BARE_EDGE) / sheet.height);
