import type { Unit } from '../math/units';
import type { RoundLine, TextLine } from './baseline';

/** How lines stand to each other. */
export const LINE_ALIGNS = ['left', 'centre', 'right'] as const;
export type LineAlign = (typeof LINE_ALIGNS)[number];

/** How the corners of cell letters are made. */
export const CELL_CORNERS = ['square', 'cut', 'round'] as const;
export type CellCorner = (typeof CELL_CORNERS)[number];

/** Most letters of one lettering. */
export const MOST_LETTERS = 5000;

interface AnyLettering {
  readonly text: string;
  /** Cells between letters besides what the font or the cells have. */
  readonly letter: number;
  /** Cells from one baseline to the next. */
  readonly line: number;
  readonly align: LineAlign;
  /** The baseline is a circle of this radius in cells: letters stand around it, or within it where it is negative. */
  readonly bend?: number;
  /** The baseline is a line of the text's plane, in the text's own directions from where it begins. */
  readonly along?: TextLine;
  /** The baseline goes around a round side. */
  readonly around?: RoundLine;
}

/** Text in a font. Its letters are drawn shapes; this is what they are drawn by. */
export interface FontLettering extends AnyLettering {
  readonly kind: 'font';
  /** A font that ships, by its key, or one of the drawing by the hash of its bytes. */
  readonly font: string;
  /** What a font of the drawing's own is called. */
  readonly title?: string;
  /** Height of capitals in cells. */
  readonly cap: number;
  /** The unit in which that height was typed and is shown; cells without. */
  readonly capUnit?: Unit;
  /** Cells between words besides the font's own space. */
  readonly word: number;
}

/** Letters of our own, drawn on the cells of the grid. */
export interface CellLettering extends AnyLettering {
  readonly kind: 'cells';
  /** Thickness of strokes, and width and height of a letter, in cells. */
  readonly stem: number;
  readonly width: number;
  readonly height: number;
  readonly corner: CellCorner;
}

/** What letters are drawn by. */
export type Lettering = FontLettering | CellLettering;

/** The fonts that ship, by what they are kept as, each of another character, and the file that it comes in. */
export const SHIPPED_FONTS = [
  { key: 'grotesque', title: 'Hanken Grotesk', character: 'grotesque', file: 'hanken-grotesk-latin-600-normal.woff' },
  { key: 'condensed', title: 'Barlow Condensed', character: 'condensed', file: 'barlow-condensed-latin-600-normal.woff' },
  { key: 'slab', title: 'Zilla Slab', character: 'slab serif', file: 'zilla-slab-latin-700-normal.woff' },
  { key: 'serif', title: 'Source Serif 4', character: 'serif', file: 'source-serif-4-latin-600-normal.woff' },
  { key: 'rounded', title: 'Nunito', character: 'rounded', file: 'nunito-latin-700-normal.woff' },
  { key: 'stencil', title: 'Stardos Stencil', character: 'stencil', file: 'stardos-stencil-latin-700-normal.woff' },
  { key: 'script', title: 'Pacifico', character: 'script', file: 'pacifico-latin-400-normal.woff' },
  { key: 'typewriter', title: 'Courier Prime', character: 'typewriter', file: 'courier-prime-latin-700-normal.woff' },
] as const;
