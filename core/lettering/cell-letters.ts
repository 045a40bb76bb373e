import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { outlineOfRings, type Outline, type OutlinePoint } from '../shape/outline';
import { CEDILLA, CELL_ACCENTS, CELL_ALPHABET } from './cell-alphabet';
import { placeOf, seatOf, startOf, type LaidLetter, type LaidText } from './laid-text';
import type { CellLettering } from './lettering';

/** What keeps measures from making letters, in words; null where nothing does. */
export function cellFault({ stem, width, height }: Pick<CellLettering, 'stem' | 'width' | 'height'>): string | null {
  if (!(stem > 0)) return 'The stem is more than 0.';
  if (!(width > 3 * stem)) return `Letters are wider than three stems, ${exactCells(3 * stem)} cells.`;
  return height > 3 * stem ? null : `Letters are higher than three stems, ${exactCells(3 * stem)} cells.`;
}

/** Text in letters of our own, every edge on the grid where stem, width and height are whole cells. Small letters are drawn as capitals. */
export function layCells(lettering: CellLettering): LaidText {
  const { text, stem, width, letter } = lettering;
  const missing = new Set<string>();
  const letters: LaidLetter[] = [];
  const advance = width + stem + letter;
  text.split('\n').forEach((line, row) => {
    const signs = [...line.normalize('NFC')];
    const start = startOf(signs.length * advance - stem - letter, lettering);
    signs.forEach((sign, i) => {
      if (sign === ' ') return;
      const fields = fieldsOf(sign);
      if (!fields) return void missing.add(sign);
      const place = placeOf(lettering, start + i * advance, row, width);
      letters.push({ text: sign, outlines: outlinesOf(fields, lettering, place), ...seatOf(lettering, start + i * advance, row, width) });
    });
  });
  return { letters, missing: [...missing] };
}

/** The filled fields of a sign by row and column, rows from below; accents in rows above or below. */
function fieldsOf(sign: string): readonly (readonly [number, number])[] | null {
  const [base = '', ...marks] = [...sign.toUpperCase().normalize('NFD')];
  const rows = CELL_ALPHABET[base]?.split(' ');
  if (!rows || marks.some((mark) => !CELL_ACCENTS[mark])) return null;
  const filled = rows.flatMap((row, i) => columnsOf(row).map((column) => [4 - i, column] as const));
  return [...filled, ...marks.flatMap((mark) => columnsOf(CELL_ACCENTS[mark]!).map((column) => [mark === CEDILLA ? -2 : 6, column] as const))];
}

const columnsOf = (row: string): readonly number[] => [...row].flatMap((field, column) => (field === '#' ? [column] : []));

/** Where columns or rows begin: the outer and middle ones are a stem wide, those between share the rest in whole cells. */
function stepsOf(whole: number, stem: number): (i: number) => number {
  const rest = whole - 3 * stem;
  const first = Number.isInteger(rest) ? Math.floor(rest / 2) || rest / 2 : rest / 2;
  const steps = [0, stem, stem + first, 2 * stem + first, 2 * stem + rest, whole];
  return (i) => (i < 0 ? i * stem : i > 5 ? whole + (i - 5) * stem : steps[i]!);
}

/** The boundary of some fields as outlines, outer corners cut or rounded. */
function outlinesOf(
  fields: readonly (readonly [number, number])[],
  { width, height, stem, corner }: CellLettering,
  place: (x: number, y: number) => PlanePoint,
): readonly Outline[] {
  const [across, up] = [stepsOf(width, stem), stepsOf(height, stem)];
  const filled = new Set(fields.map(([row, column]) => `${row} ${column}`));
  const has = (row: number, column: number): boolean => filled.has(`${row} ${column}`);
  const next = new Map<string, string>();
  for (const [row, column] of fields) {
    const edge = (x0: number, y0: number, x1: number, y1: number): void => void next.set(`${x0} ${y0}`, `${x1} ${y1}`);
    if (!has(row - 1, column)) edge(column, row, column + 1, row);
    if (!has(row, column + 1)) edge(column + 1, row, column + 1, row + 1);
    if (!has(row + 1, column)) edge(column + 1, row + 1, column, row + 1);
    if (!has(row, column - 1)) edge(column, row + 1, column, row);
  }
  const rings: (readonly [number, number])[][] = [];
  while (next.size > 0) {
    const [start] = next.keys();
    const ring: (readonly [number, number])[] = [];
    for (let at = start!; next.has(at);) {
      ring.push(at.split(' ').map(Number) as [number, number]);
      const to = next.get(at)!;
      next.delete(at);
      at = to;
    }
    rings.push(ring.filter((p, i) => turnAt(ring, i) !== 0 && p));
  }
  const areaOf = (ring: readonly (readonly [number, number])[]): number =>
    ring.reduce((sum, [x, y], i) => sum + x * ring[(i + 1) % ring.length]![1] - ring[(i + 1) % ring.length]![0] * y, 0);
  const points = (ring: readonly (readonly [number, number])[]): readonly OutlinePoint[] =>
    ring.map(([x, y], i): OutlinePoint => {
      const { u, v } = place(across(x), up(y));
      const rounded =
        corner !== 'square' && turnAt(ring, i) > 0
          ? { corner: { kind: corner === 'cut' ? ('bevel' as const) : ('round' as const), size: exactCells(stem / 2) } }
          : {};
      return { id: i + 1, u: exactCells(u), v: exactCells(v), ...rounded };
    });
  const outer = rings.filter((ring) => areaOf(ring) > 0);
  const holes = rings.filter((ring) => areaOf(ring) < 0);
  return outer.map((ring) => {
    const own = holes.filter((hole) => isWithin(hole[0]!, ring));
    return outlineOfRings([points(ring), ...own.map(points)], true);
  });
}

/** Positive where a ring turns left at a corner, negative where right, 0 where it goes straight on. */
function turnAt(ring: readonly (readonly [number, number])[], i: number): number {
  const n = ring.length;
  const [p, q, r] = [ring[(i + n - 1) % n]!, ring[i]!, ring[(i + 1) % n]!];
  return (q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0]);
}

/** Whether a corner of the lattice lies within a ring, which it does not touch: by the edges to its right. */
function isWithin([x, y]: readonly [number, number], ring: readonly (readonly [number, number])[]): boolean {
  let inside = false;
  ring.forEach(([px, py], i) => {
    const [qx, qy] = ring[(i + 1) % ring.length]!;
    if (px === qx && px > x && py > y !== qy > y) inside = !inside;
  });
  return inside;
}
