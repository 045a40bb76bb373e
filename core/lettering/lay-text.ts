import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { mapOutline, mapPoint, type Outline } from '../shape/outline';
import { glyphOutlines, type PathCommand } from './glyph-outlines';
import { placeOf, seatOf, startOf, type LaidLetter, type LaidText } from './laid-text';
import type { FontLettering } from './lettering';

/** A glyph as a shaping library gives it. */
export interface ShapedGlyph {
  readonly id: number;
  readonly codePoints: readonly number[];
  readonly path: { readonly commands: readonly PathCommand[] };
}

/** A font that shapes text: kerning and ligatures are its own. Lengths in its units. */
export interface TextFont {
  readonly unitsPerEm: number;
  readonly capHeight: number;
  readonly layout: (text: string) => {
    readonly glyphs: readonly ShapedGlyph[];
    readonly positions: readonly { readonly xAdvance: number; readonly xOffset: number; readonly yOffset: number }[];
  };
}

/** A glyph in its line, in cells. */
interface InLine {
  readonly glyph: ShapedGlyph;
  readonly at: number;
  readonly up: number;
  readonly advance: number;
}

const exact = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });

/** Why a text cannot be drawn, in words for who writes it. */
export class TextError extends Error {}

/** Most points of one letter, and of a whole text: what is more can be typed, but not drawn with. */
export const MOST_LETTER_POINTS = 10_000;
const MOST_TEXT_POINTS = 1_000_000;

/**
 * Text shaped by a font and laid out: letters with their outlines in cells, the first baseline starting at the origin.
 * @throws TextError where a letter, or all of them, have more points than can be drawn with
 */
export function layText(font: TextFont, lettering: FontLettering): LaidText {
  const k = lettering.cap / (font.capHeight > 0 ? font.capHeight : 0.7 * font.unitsPerEm);
  const missing = new Set<string>();
  const letters: LaidLetter[] = [];
  let points = 0;
  const known = new Map<number, readonly Outline[]>();
  /** A glyph where it begins on a straight baseline, drawn once however often it comes. */
  const drawn = ({ id, path }: ShapedGlyph): readonly Outline[] => {
    let outlines = known.get(id);
    if (!outlines) known.set(id, (outlines = glyphOutlines(path.commands, (x, y) => ({ u: x * k, v: y * k }))));
    return outlines;
  };
  lettering.text.split('\n').forEach((text, row) => {
    const line: InLine[] = [];
    let at = 0;
    const { glyphs, positions } = font.layout(text);
    glyphs.forEach((glyph, i) => {
      const { xAdvance, xOffset, yOffset } = positions[i]!;
      const letter = String.fromCodePoint(...glyph.codePoints);
      if (glyph.id === 0) missing.add(letter);
      const advance = xAdvance * k + lettering.letter + (letter === ' ' ? lettering.word : 0);
      line.push({ glyph, at: at + xOffset * k, up: yOffset * k, advance });
      at += advance;
    });
    const start = startOf(at - (line.length > 0 ? lettering.letter : 0), lettering);
    for (const { glyph, at: x, up, advance } of line) {
      const letter = String.fromCodePoint(...glyph.codePoints);
      const width = advance - lettering.letter;
      const place = placeOf(lettering, start + x, row, width);
      const commands = glyph.path.commands.length;
      points += commands;
      if (commands > MOST_LETTER_POINTS) throw new TextError(`“${letter}” has ${commands.toLocaleString('en')} points in this font; a letter has at most ${MOST_LETTER_POINTS.toLocaleString('en')}.`); // prettier-ignore
      if (points > MOST_TEXT_POINTS) throw new TextError(`This text has more than ${MOST_TEXT_POINTS.toLocaleString('en')} points in this font.`);
      const outlines = glyph.id === 0 ? [] : drawn(glyph).map((own) => mapOutline(own, (p) => mapPoint(p, ({ u, v }) => exact(place(u, v + up)))));
      if (outlines.length > 0) letters.push({ text: letter, outlines, ...seatOf(lettering, start + x, row, width) });
    }
  });
  return { letters, missing: [...missing] };
}
