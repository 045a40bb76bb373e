import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as fontkit from 'fontkit';
import { Resvg } from '@resvg/resvg-js';
import { outlineBox } from '../shape/transform';
import { ringsOf } from '../shape/outline';
import { outlineSegments } from '../shape/segments';
import { drawSegments } from '../shape/draw-segments';
import { textFault, type LaidText } from './laid-text';
import { layText, type TextFont } from './lay-text';
import { SHIPPED_FONTS, type FontLettering } from './lettering';
import { unpacked } from '../testing/fonts';

const file = (name: string): string => join('node_modules/@fontsource', name);
const bytesOf = (key: string): Uint8Array => {
  const { file: name } = SHIPPED_FONTS.find((font) => font.key === key)!;
  return new Uint8Array(readFileSync(file(`${name.replace(/-latin-.*$/, '')}/files/${name}`)));
};
const load = (key: string): TextFont => fontkit.create(bytesOf(key)) as unknown as TextFont;
const recipe = (text: string, more: Partial<FontLettering> = {}): FontLettering => ({ kind: 'font', text, font: 'x', cap: 4, letter: 0, word: 0, line: 6, align: 'left', ...more }); // prettier-ignore

function pixels(svg: string): Uint8Array {
  return Uint8Array.from(new Resvg(svg, { font: { loadSystemFonts: false } }).render().pixels);
}

/** The drawn letters as SVG path data on a sheet of 40 cells by 12, 20 px a cell. */
function drawnSvg({ letters }: LaidText): string {
  const paths = letters.flatMap(({ outlines }) =>
    outlines.map((outline) => {
      const rings = ringsOf(outline).map((ring) => drawSegments(outlineSegments(ring), true, [20, 0, 20, 0, -20, 160, 0, 0, 1], 0)!);
      let [d, at] = ['', 0];
      for (const path of rings) {
        at = 0;
        for (const verb of path.verbs) {
          const count = verb === 'C' ? 6 : verb === 'Z' ? 0 : 2;
          d += `${verb}${path.coords.slice(at, at + count).join(' ')}`;
          at += count;
        }
      }
      return `<path fill-rule="evenodd" d="${d}"/>`;
    }),
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="240">${paths.join('')}</svg>`;
}

/** The same text set by a renderer that shapes and draws it by itself, from the same font. */
function setByRenderer(key: string, text: string, cap: number): Uint8Array {
  const font = load(key) as TextFont & { readonly familyName: string };
  const folder = mkdtempSync(join(tmpdir(), 'chemin-font-'));
  try {
    const path = join(folder, 'font.ttf');
    writeFileSync(path, unpacked(bytesOf(key)));
    const size = font.unitsPerEm * (cap / font.capHeight) * 20;
    const words = text.replace(/&/g, '&amp;');
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="240"><text x="20" y="160" font-size="${size}" xml:space="preserve">${words}</text></svg>`;
    return Uint8Array.from(new Resvg(svg, { font: { loadSystemFonts: false, fontFiles: [path], defaultFontFamily: font.familyName } }).render().pixels);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe('text in a font', () => {
  it.each(SHIPPED_FONTS.map(({ key }) => key))('%s: is drawn as another renderer sets it, to a tenth of a percent of the px', (key) => {
    for (const text of ['QUAY 9', 'ferry fi & Äß', 'Boats 068', 'AVATAR To']) {
      const [own, theirs] = [pixels(drawnSvg(layText(load(key), recipe(text)))), setByRenderer(key, text, 4)];
      // An edge's px differ by some steps of grey: renderers chord curves a little differently, and hint nothing.
      let differing = 0;
      for (let i = 3; i < own.length; i += 4) if (Math.abs(own[i]! - theirs[i]!) > 48) differing++;
      expect([text, differing / (own.length / 4) < 0.001]).toEqual([text, true]);
      expect(own.some((n) => n > 0)).toBe(true);
      expect(theirs.some((n) => n > 0)).toBe(true);
    }
  });

  it('stands with its capitals on the grid lines', () => {
    const [h] = layText(load('grotesque'), recipe('H', { cap: 5 })).letters;
    const box = outlineBox(h!.outlines[0]!)!;
    expect(box.minV).toBe(0);
    expect(box.maxV).toBeCloseTo(5, 4);
  });

  it('kerns and joins letters as the font says', () => {
    const font = load('grotesque');
    const width = (text: string): number => layText(font, recipe(text)).letters.reduce((most, { outlines }) => Math.max(most, ...outlines.map((o) => outlineBox(o)!.maxU)), 0); // prettier-ignore
    const plain = font.layout('A').positions[0]!.xAdvance * (4 / font.capHeight);
    expect(width('AV')).toBeLessThan(plain + width('V') - 0.1);
    expect(layText(font, recipe('fi')).letters.map(({ text }) => text)).toEqual(['fi']);
    expect(width('A V')).toBeCloseTo(layText(font, recipe('A V', { word: 2 })).letters.at(-1)!.outlines.reduce((most, o) => Math.max(most, outlineBox(o)!.maxU), 0) - 2, 3); // prettier-ignore
  });

  it('keeps areas with their holes, and islands apart', () => {
    const shapes = (text: string): number[][] => layText(load('grotesque'), recipe(text)).letters.map(({ outlines }) => outlines.map((o) => o.holes?.length ?? 0)); // prettier-ignore
    expect(shapes('B')).toEqual([[2]]);
    expect(shapes('i')).toEqual([[0, 0]]);
    expect(shapes('%')[0]!.sort()).toEqual([0, 1, 1]);
  });

  it('lays lines out by their alignment, and around a circle', () => {
    const font = load('slab');
    const box = (more: Partial<FontLettering>): { minU: number; maxU: number; minV: number; maxV: number } => {
      const all = layText(font, recipe('HH\nH', more)).letters.flatMap(({ outlines }) => outlines.map((o) => outlineBox(o)!));
      return { minU: Math.min(...all.map((b) => b.minU)), maxU: Math.max(...all.map((b) => b.maxU)), minV: Math.min(...all.map((b) => b.minV)), maxV: Math.max(...all.map((b) => b.maxV)) }; // prettier-ignore
    };
    expect(box({}).minV).toBe(-6);
    expect(box({ align: 'centre' }).minU).toBeCloseTo(-box({ align: 'centre' }).maxU, 1);
    expect(box({ align: 'right' }).maxU).toBeLessThan(0.2);
    const round = layText(font, recipe('OOOOOO', { bend: 10, align: 'centre', cap: 1 })).letters.flatMap(({ outlines }) => outlines);
    for (const { points } of round) {
      for (const { u, v } of points) {
        const far = Math.hypot(u, v + 10);
        expect(far).toBeGreaterThan(9.9);
        expect(far).toBeLessThan(11.2);
      }
    }
  });

  it('names what the font does not have, and scripts that need more', () => {
    expect(layText(load('grotesque'), recipe('A漢')).missing).toEqual(['漢']);
    expect(textFault('QUAY 9')).toBeNull();
    expect(textFault('שלום')).toContain('script');
    expect(textFault('x'.repeat(100_000))).toContain('100,000');
  });
});
