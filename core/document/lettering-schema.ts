import * as z from 'zod';
import { CELL_CORNERS, LINE_ALIGNS, MOST_LETTERS } from '../lettering/lettering';
import { cells, planePoint } from './schema-parts';

const letterMarks = z.strictObject({
  signs: z.array(z.string().max(40)).max(MOST_LETTERS),
  at: z.array(planePoint).max(MOST_LETTERS),
  to: planePoint,
  point: z.int().min(1),
  turn: z.union([z.literal(1), z.literal(-1)]),
});
const anyLettering = {
  text: z.string().max(4 * MOST_LETTERS),
  letter: cells,
  line: cells,
  align: z.enum(LINE_ALIGNS),
  bend: cells.exactOptional(),
  marks: letterMarks.exactOptional(),
};
const positive = cells.refine((n) => n > 0, 'a measure of letters is more than 0');

/** What letters are drawn by, and where they were drawn. */
export const letteringSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('font'), ...anyLettering, font: z.string().min(1).max(120), cap: positive, word: cells }),
  z.strictObject({ kind: z.literal('cells'), ...anyLettering, stem: positive, width: positive, height: positive, corner: z.enum(CELL_CORNERS) }),
]);
