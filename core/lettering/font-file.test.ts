import { processorMs } from '../testing/random';
import { readFileSync } from 'node:fs';
import * as fontkit from 'fontkit';
import { unpacked } from '../testing/fonts';
import { outlineBox } from '../shape/transform';
import { fontEnding, fontFileFault, MOST_FONT_BYTES } from './font-file';
import { layText, MOST_LETTER_POINTS, type TextFont } from './lay-text';
import type { FontLettering } from './lettering';

const fontBytes = (name: string): Uint8Array => new Uint8Array(readFileSync(`node_modules/@fontsource/${name}`));

const woff = fontBytes('hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff');
const woff2 = fontBytes('hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff2');
const ttf = unpacked(woff);
const recipe: FontLettering = { kind: 'font', text: 'QUAY', font: 'x', cap: 4, letter: 0, word: 0, line: 6, align: 'left' };

describe('a font from outside', () => {
  it.each([
    ['ttf', ttf],
    ['woff', woff],
    ['woff2', woff2],
  ] as const)('is read as %s, the letters being the same in every format', (ending, bytes) => {
    expect([fontEnding(bytes), fontFileFault(bytes)]).toEqual([ending, null]);
    const { letters } = layText(fontkit.create(bytes) as TextFont, recipe);
    const plain = layText(fontkit.create(ttf) as TextFont, recipe).letters;
    expect(letters.map(({ outlines }) => outlines.map((outline) => outlineBox(outline)))).toEqual(
      plain.map(({ outlines }) => outlines.map((o) => outlineBox(o))),
    );
  });

  it.each([
    ['ttf', ttf],
    ['woff', woff],
    ['woff2', woff2],
  ])('is refused where it is cut short: %s', (_, bytes) => {
    for (const part of [0.02, 0.3, 0.6, 0.95]) expect(fontFileFault(bytes.subarray(0, Math.floor(bytes.length * part)))).toBe('It is cut short.');
  });

  it('is refused where it is none, too large, several, unfolds without end, or has no outlines', () => {
    const text = new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"/>');
    expect(fontFileFault(text)).toBe('It is no TTF, OTF, WOFF or WOFF2 font.');
    expect(fontFileFault(new Uint8Array(0))).toBe('It is no TTF, OTF, WOFF or WOFF2 font.');
    const large = new Uint8Array(50_000_000);
    large.set(ttf);
    expect(large.length).toBeGreaterThan(MOST_FONT_BYTES);
    expect(fontFileFault(large)).toContain('50 MB');
    expect(fontFileFault(new TextEncoder().encode('ttcf and more'))).toContain('collection');
    const bomb = woff.slice();
    new DataView(bomb.buffer).setUint32(16, 0xffff_ffff);
    expect(fontFileFault(bomb)).toContain('unfold to');
    const bare = ttf.slice();
    const at = 12 + 16 * [...Array(ttf[5]!).keys()].findIndex((i) => String.fromCharCode(...ttf.subarray(12 + 16 * i, 16 + 16 * i)) === 'glyf');
    bare.set(new TextEncoder().encode('none'), at);
    expect(fontFileFault(bare)).toContain('no outlines');
  });

  it('is not drawn with where a letter holds a million points', () => {
    const commands = [{ command: 'moveTo', args: [0, 0] }, ...Array.from({ length: 1_000_000 }, (_, i) => ({ command: 'lineTo', args: [i % 977, i % 991] }))];
    const font: TextFont = {
      unitsPerEm: 1000,
      capHeight: 700,
      layout: (text) => ({
        glyphs: [...text].map((letter) => ({ id: 1, codePoints: [letter.codePointAt(0)!], path: { commands: commands as never } })),
        positions: [...text].map(() => ({ xAdvance: 500, xOffset: 0, yOffset: 0 })),
      }),
    };
    const start = processorMs();
    expect(() => layText(font, recipe)).toThrow(`at most ${MOST_LETTER_POINTS.toLocaleString('en')}`);
    expect(processorMs() - start).toBeLessThan(500);
  });
});
