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

/** Text shaped by a font and laid out: letters with their outlines in cells, the first baseline starting at the origin. */
export function layText(font: TextFont, lettering: FontLettering): LaidText {
  const k = lettering.cap / (font.capHeight > 0 ? font.capHeight : 0.7 * font.unitsPerEm);
  const missing = new Set<string>();
  const letters: LaidLetter[] = [];
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
      const width = advance - lettering.letter;
      const place = placeOf(lettering, start + x, row, width);
      const outlines = glyph.id === 0 ? [] : glyphOutlines(glyph.path.commands, (gx, gy) => place(gx * k, gy * k + up));
      if (outlines.length > 0) letters.push({ text: String.fromCodePoint(...glyph.codePoints), outlines, ...seatOf(lettering, start + x, row, width) });
    }
  });
  return { letters, missing: [...missing] };
}
