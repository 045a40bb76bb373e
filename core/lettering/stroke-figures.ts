/**
 * Figures and letters as single strokes, for dimension lines: what a pen would write. Each sign lies in a box 4 wide
 * and 6 high, y up from the base line; strokes are written `x y x y ...`, several parted by `|`.
 */
const SIGNS: Readonly<Record<string, string>> = {
  '0': '1 0 0 1 0 5 1 6 3 6 4 5 4 1 3 0 1 0',
  '1': '1 5 2 6 2 0',
  '2': '0 5 1 6 3 6 4 5 4 4 0 0 4 0',
  '3': '0 6 4 6 2 3.6 3 3.6 4 2.6 4 1 3 0 1 0 0 1',
  '4': '3 0 3 6 0 2 4 2',
  '5': '4 6 0 6 0 3.4 3 3.6 4 2.6 4 1 3 0 1 0 0 1',
  '6': '3.6 6 1.4 5 0 2.4 0 1 1 0 3 0 4 1 4 2.4 3 3.4 1 3.4 0 2.4',
  '7': '0 6 4 6 1.4 0',
  '8': '1 3.2 0 4.2 0 5 1 6 3 6 4 5 4 4.2 3 3.2 1 3.2 0 2.2 0 1 1 0 3 0 4 1 4 2.2 3 3.2',
  '9': '0.4 0 2.6 1 4 3.6 4 5 3 6 1 6 0 5 0 3.6 1 2.6 3 2.6 4 3.6',
  '.': '1.8 0 2.2 0',
  '\u2212': '0.4 3 3.6 3',
  c: '3.8 3.4 3 4 1.4 4 0.4 3 0.4 1 1.4 0 3 0 3.8 0.6',
  m: '0 0 0 4 0 3.2 0.8 4 1.4 4 2 3.2 2 0|2 3.2 2.8 4 3.4 4 4 3.2 4 0',
  i: '2 0 2 4|2 5.4 2 5.8',
  n: '0.4 0 0.4 4|0.4 3 1.4 4 2.6 4 3.6 3 3.6 0',
  p: '0.4 -2 0.4 4|0.4 3 1.4 4 2.6 4 3.6 3 3.6 1 2.6 0 1.4 0 0.4 1',
  t: '1.6 6 1.6 1 2.4 0 3.4 0|0.4 4 3.2 4',
  x: '0.4 0 3.6 4|0.4 4 3.6 0',
  e: '0.4 2.2 3.6 2.2 3.6 3 2.6 4 1.4 4 0.4 3 0.4 1 1.4 0 3.4 0',
  l: '2 6 2 0',
  s: '3.6 3.6 2.8 4 1 4 0.4 3.4 0.4 2.6 1 2.1 3 1.9 3.6 1.4 3.6 0.6 3 0 1 0 0.4 0.4',
};

/** Widths of a sign with its gap, and of a space, in parts of the sign's height of 6. */
const ADVANCE = 5.6;
const SPACE = 2.4;

/** The width of a text whose figures are `height` high. */
export function strokeWidth(text: string, height: number): number {
  const width = [...text].reduce((sum, sign) => sum + (sign in SIGNS ? ADVANCE : SPACE), 0);
  return (Math.max(0, width - (ADVANCE - 4)) * height) / 6;
}

/**
 * A text as strokes, each a flat list `[x, y, ...]`, x to the right and y up from the base line's start. Signs that
 * are not known are spaces.
 */
export function strokeText(text: string, height: number): readonly (readonly number[])[] {
  const scale = height / 6;
  let x = 0;
  return [...text].flatMap((sign) => {
    const strokes = SIGNS[sign];
    const start = x;
    x += strokes === undefined ? SPACE : ADVANCE;
    if (strokes === undefined) return [];
    return strokes.split('|').map((stroke) => stroke.split(' ').map((n, i) => (Number(n) + (i % 2 === 0 ? start : 0)) * scale));
  });
}
