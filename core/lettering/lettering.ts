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
}

/** Text in a font. Its letters are drawn shapes; this is what they are drawn by. */
export interface FontLettering extends AnyLettering {
  readonly kind: 'font';
  /** A font that ships, by its key, or one of the drawing by the hash of its bytes. */
  readonly font: string;
  /** Height of capitals in cells. */
  readonly cap: number;
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

/** The fonts that ship, by what they are kept as. */
export const SHIPPED_FONTS = [
  { key: 'grotesque', title: 'Hanken Grotesk', character: 'grotesque' },
  { key: 'condensed', title: 'Barlow Condensed', character: 'condensed' },
  { key: 'slab', title: 'Zilla Slab', character: 'slab serif' },
  { key: 'serif', title: 'Source Serif 4', character: 'serif' },
  { key: 'rounded', title: 'Nunito', character: 'rounded' },
  { key: 'stencil', title: 'Stardos Stencil', character: 'stencil' },
  { key: 'script', title: 'Pacifico', character: 'script' },
  { key: 'typewriter', title: 'Courier Prime', character: 'typewriter' },
] as const;
