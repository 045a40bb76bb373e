/** The units in which lengths of the sheet are shown and typed. Everything is kept in mm. */
export type Unit = 'mm' | 'cm' | 'in' | 'pt' | 'px';

/** The units that lengths of the sheet are read in. */
export const UNITS: readonly Unit[] = ['mm', 'cm', 'in', 'pt', 'px'];

const MM_PER_INCH = 25.4;

/** Mm in one of a unit; a point is 1/72 inch (PDF), a px one part of an inch by the sheet's resolution. */
export function mmPer(unit: Unit, resolution: number): number {
  switch (unit) {
    case 'mm':
      return 1;
    case 'cm':
      return 10;
    case 'in':
      return MM_PER_INCH;
    case 'pt':
      return MM_PER_INCH / 72;
    case 'px':
      return MM_PER_INCH / resolution;
  }
}

/** A size that sheets commonly have, in its own unit, upright. */
export interface SheetSize {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly unit: Unit;
  /** Px to the inch where the unit is px. */
  readonly resolution: number;
}

const paper = (name: string, width: number, height: number): SheetSize => ({ name, width, height, unit: 'mm', resolution: 300 });
const screen = (name: string, width: number, height: number): SheetSize => ({ name, width, height, unit: 'px', resolution: 96 });

/** ISO 216 paper, common screens, and squares. */
export const SHEET_SIZES: readonly SheetSize[] = [
  paper('A6', 105, 148),
  paper('A5', 148, 210),
  paper('A4', 210, 297),
  paper('A3', 297, 420),
  paper('A2', 420, 594),
  paper('A1', 594, 841),
  paper('A0', 841, 1189),
  screen('screen 1280 × 720', 720, 1280),
  screen('screen 1920 × 1080', 1080, 1920),
  screen('screen 3840 × 2160', 2160, 3840),
  paper('square 200 mm', 200, 200),
  screen('square 1080 px', 1080, 1080),
];
