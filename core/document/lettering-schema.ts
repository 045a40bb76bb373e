import * as z from 'zod';
import { UNITS } from '../math/units';
import { CELL_CORNERS, LINE_ALIGNS, MOST_LETTERS } from '../lettering/lettering';
import { cells, direction, outline, planePoint, worldCells } from './schema-parts';

/** Most points of a line that text runs along. */
const MOST_LINE_POINTS = 10_000;

const seat = z.strictObject({ middle: cells, half: cells, rise: cells });
const textLine = {
  line: outline.refine(
    ({ points, holes }) => points.length >= 2 && points.length <= MOST_LINE_POINTS && !holes,
    'text runs along a line of 2 to 10,000 points',
  ),
  from: cells,
  against: z.literal(true).exactOptional(),
};
const roundLine = {
  at: worldCells,
  u: direction,
  v: direction,
  up: worldCells,
  meets: z.enum(['above', 'below']).exactOptional(),
  mirrored: z.literal(true).exactOptional(),
};
const letterMarks = z.strictObject({
  signs: z.array(z.string().max(40)).max(MOST_LETTERS),
  at: z.array(planePoint).max(MOST_LETTERS),
  to: planePoint,
  point: z.int().min(1),
  turn: z.union([z.literal(1), z.literal(-1)]),
  seats: z.array(seat).max(MOST_LETTERS).exactOptional(),
});
const anyLettering = {
  text: z.string().max(4 * MOST_LETTERS),
  letter: cells,
  line: cells,
  align: z.enum(LINE_ALIGNS),
  bend: cells.exactOptional(),
  along: z.strictObject(textLine).exactOptional(),
  around: z.strictObject({ ...textLine, ...roundLine }).exactOptional(),
  marks: letterMarks.exactOptional(),
};
const positive = cells.refine((n) => n > 0, 'a measure of letters is more than 0');

/** What letters are drawn by, and where they were drawn. */
export const letteringSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('font'),
    ...anyLettering,
    font: z.string().min(1).max(120),
    title: z.string().max(200).exactOptional(),
    cap: positive,
    capUnit: z.enum(UNITS).exactOptional(),
    word: cells,
  }),
  z.strictObject({ kind: z.literal('cells'), ...anyLettering, stem: positive, width: positive, height: positive, corner: z.enum(CELL_CORNERS) }),
]);
