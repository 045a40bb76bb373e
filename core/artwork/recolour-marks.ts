import { keptBy, keptByKey } from '../math/keep';
import type { ImageMark, Ink, Mark, ToneTable } from './marks';

/** The same marks with every colour of theirs made another. @param changed `#rrggbb` to `#rrggbb` */
export function recolouredMarks(marks: readonly Mark[], changed: (colour: string) => string): readonly Mark[] {
  return marks.map((mark): Mark => {
    if (mark.kind === 'group') return { ...mark, marks: recolouredMarks(mark.marks, changed) };
    if (mark.kind === 'image') return { ...mark, tones: tableOf(mark, changed) };
    const { fill, line } = mark;
    return { ...mark, fill: fill && recolouredInk(fill, changed), line: line && { ...line, ink: recolouredInk(line.ink, changed) } };
  });
}

function recolouredInk(ink: Ink, changed: (colour: string) => string): Ink {
  if (ink.kind === 'flat') return { ...ink, colour: changed(ink.colour) };
  return { ...ink, stops: ink.stops.map((stop) => ({ ...stop, colour: changed(stop.colour) })) };
}

/** Places of a table along each channel: between them tones run so evenly that no more are needed. */
const PLACES = 9;

/** Most tables that are remembered for one way of making colours others. */
const MOST_TABLES = 64;

/** Tables by what makes the colours others, and the key of the table before it, which tells its bytes. */
const tablesOf = keptBy((changed: (colour: string) => string) =>
  keptByKey(
    MOST_TABLES,
    (before: ToneTable | undefined) => before?.key ?? '',
    (before) => madeTable(before, changed),
  ),
);

/** The table of a bitmap's colours made others, after those that they were made before. */
const tableOf = ({ tones }: ImageMark, changed: (colour: string) => string): ToneTable => tablesOf(changed)(tones);

function madeTable(before: ToneTable | undefined, changed: (colour: string) => string): ToneTable {
  const size = before?.size ?? PLACES;
  const rgb = new Uint8Array(3 * size ** 3);
  const hex = (n: number): string => n.toString(16).padStart(2, '0');
  const level = (i: number): number => Math.round((255 * i) / (size - 1));
  for (let n = 0; n < size ** 3; n++) {
    const from = before
      ? [before.rgb[3 * n]!, before.rgb[3 * n + 1]!, before.rgb[3 * n + 2]!]
      : [level(Math.floor(n / size ** 2)), level(Math.floor(n / size) % size), level(n % size)];
    const to = changed(`#${from.map(hex).join('')}`);
    for (let c = 0; c < 3; c++) rgb[3 * n + c] = parseInt(to.slice(1 + 2 * c, 3 + 2 * c), 16);
  }
  return { key: keyOf(rgb), size, rgb };
}

/** What tells the bytes of tables apart: two sums of 32 bits (after Fowler, Noll and Vo). */
function keyOf(bytes: Uint8Array): string {
  let [p, q] = [0x811c9dc5, 5381];
  for (const byte of bytes) {
    p = Math.imul(p ^ byte, 0x01000193);
    q = (Math.imul(q, 33) + byte) | 0;
  }
  return `${(p >>> 0).toString(36)}${(q >>> 0).toString(36)}`;
}
