import { MAX_CELLS, TICKS_PER_CELL } from './tolerances';

/**
 * The stored form of a coordinate in cells: the double nearest to a whole number of ticks, 25,200 to a cell.
 *
 * Halves, thirds, quarters, fifths, sixths, sevenths, tenths and hundredths of a cell are kept exactly in this
 * sense: sums and differences passed through this function again give the same double as the direct entry, so ten
 * cells are ten cells after any number of moves. Idempotent; the sign of zero is dropped.
 */
export function exactCells(cells: number): number {
  const ticks = Math.round(cells * TICKS_PER_CELL);
  return ticks === 0 ? 0 : ticks / TICKS_PER_CELL;
}

/** Whether a number may stand in a document as a coordinate in cells: finite and within a million cells. */
export function isCells(cells: number): boolean {
  return Number.isFinite(cells) && Math.abs(cells) <= MAX_CELLS;
}

/** The whole number of ticks of a coordinate in cells, for computations on integers. */
export function ticksFromCells(cells: number): number {
  return Math.round(cells * TICKS_PER_CELL);
}
