import { mapMarks } from './artwork';
import type { Mark } from './marks';
import type { FlatArtwork } from './read-svg';

/** Artwork repeated over all of what it lies on. */
export interface Pattern {
  /** Gaps between neighbours, in cells. */
  readonly gapX: number;
  readonly gapY: number;
  /** Each row, or each column, is set off against the one before by this part of a step. */
  readonly along: 'rows' | 'columns';
  readonly shift: number;
}

/** A box in cells, x right and y down from the artwork's upper left corner. */
export interface PatternBox {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** Most repetitions: of more, none could be told from another, and they would only take time. */
export const MOST_TILES = 4000;

/**
 * Where repetitions lie that touch a box: the upper left corner of each in cells, row by row. The one at (0, 0) is the
 * artwork itself. Of more than `MOST_TILES` those nearest to the box's middle rows are kept.
 */
export function tilesIn(
  { gapX, gapY, along, shift }: Pattern,
  size: { readonly width: number; readonly height: number },
  box: PatternBox,
): readonly (readonly [number, number])[] {
  const [stepX, stepY] = [size.width + gapX, size.height + gapY];
  if (!(stepX > 0 && stepY > 0)) return [[0, 0]];
  const rows = along === 'rows';
  // Across the lines that are set off, and along them.
  const [outer, inner] = rows ? [stepY, stepX] : [stepX, stepY];
  const [outerMin, outerMax, outerSize] = rows ? [box.minY, box.maxY, size.height] : [box.minX, box.maxX, size.width];
  const [innerMin, innerMax, innerSize] = rows ? [box.minX, box.maxX, size.width] : [box.minY, box.maxY, size.height];
  const tiles: (readonly [number, number])[] = [];
  const [first, last] = [Math.ceil((outerMin - outerSize) / outer), Math.floor(outerMax / outer)];
  for (let i = first; i <= last && tiles.length < MOST_TILES; i++) {
    const off = (((i * shift) % 1) + 1) % 1;
    const start = Math.ceil((innerMin - innerSize) / inner - off);
    const end = Math.floor(innerMax / inner - off);
    for (let k = start; k <= end && tiles.length < MOST_TILES; k++) {
      const [o, n] = [i * outer, (k + off) * inner];
      tiles.push(rows ? [n, o] : [o, n]);
    }
  }
  return tiles;
}

/** The marks of artwork repeated over a box. @param size of the artwork in cells */
export function tiledMarks(flat: FlatArtwork, pattern: Pattern, size: { readonly width: number; readonly height: number }, box: PatternBox): readonly Mark[] {
  const [kx, ky] = [flat.width / size.width, flat.height / size.height];
  return tilesIn(pattern, size, box).flatMap(([x, y]) => (x === 0 && y === 0 ? flat.marks : mapMarks(flat.marks, [1, 0, 0, 1, x * kx, y * ky])));
}
