import { readFileSync } from 'node:fs';
import * as fontkit from 'fontkit';
import { unpacked } from '../testing/fonts';
import { fontFileFault } from './font-file';
import { boundedReads, partsFault, type ComposedFont } from './glyph-budget';
import { layText, TextError, type TextFont } from './lay-text';
import type { FontLettering } from './lettering';

const fontBytes = (name: string): Uint8Array => new Uint8Array(readFileSync(`node_modules/@fontsource/${name}`));
const ttf = unpacked(fontBytes('hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff'));
const recipe: FontLettering = { kind: 'font', text: 'QUAY', font: 'x', cap: 4, letter: 0, word: 0, line: 6, align: 'left' };

/** A font with some of its tables exchanged. */
function withTables(bytes: Uint8Array, own: Readonly<Record<string, Uint8Array>>): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const count = view.getUint16(4);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 12 + 16 * i;
    const name = String.fromCharCode(...bytes.subarray(at, at + 4));
    return { name, data: own[name] ?? bytes.subarray(view.getUint32(at + 8), view.getUint32(at + 8) + view.getUint32(at + 12)) };
  });
  const out = new Uint8Array(12 + 16 * count + tables.reduce((sum, { data }) => sum + ((data.length + 3) & ~3), 0));
  out.set(bytes.subarray(0, 12));
  const to = new DataView(out.buffer);
  let at = 12 + 16 * count;
  tables.forEach(({ name, data }, i) => {
    out.set(new TextEncoder().encode(name), 12 + 16 * i);
    to.setUint32(12 + 16 * i + 8, at);
    to.setUint32(12 + 16 * i + 12, data.length);
    out.set(data, at);
    at += (data.length + 3) & ~3;
  });
  return out;
}

/** The font with every glyph but the first two put together of two of the one before. */
function doubled(levels: number): Uint8Array {
  const view = new DataView(ttf.buffer, ttf.byteOffset);
  const table = (name: string): number => 12 + 16 * [...Array(view.getUint16(4)).keys()].findIndex((i) => String.fromCharCode(...ttf.subarray(12 + 16 * i, 16 + 16 * i)) === name); // prettier-ignore
  const [maxp, head] = [view.getUint32(table('maxp') + 8), view.getUint32(table('head') + 8)];
  const [glyphs, long] = [view.getUint16(maxp + 4), view.getInt16(head + 50) === 1];
  const glyph = (id: number): Uint8Array => {
    const bytes = new DataView(new ArrayBuffer(10 + 2 * 6 + 2));
    bytes.setInt16(0, id === 0 || id > levels ? 0 : -1);
    for (const [k, flags] of [
      [0, 0x20],
      [1, 0],
    ] as const) {
      // prettier-ignore
      bytes.setUint16(10 + 6 * k, flags);
      bytes.setUint16(12 + 6 * k, id - 1);
    }
    return new Uint8Array(bytes.buffer);
  };
  const size = 24;
  const glyf = new Uint8Array(size * glyphs);
  const loca = new DataView(new ArrayBuffer((glyphs + 1) * (long ? 4 : 2)));
  for (let id = 0; id <= glyphs; id++) {
    if (id < glyphs) glyf.set(glyph(id), size * id);
    if (long) loca.setUint32(4 * id, size * id);
    else loca.setUint16(2 * id, (size * id) / 2);
  }
  return withTables(ttf, { glyf, loca: new Uint8Array(loca.buffer) });
}

describe('what letters are put together of', () => {
  it('is counted, and nothing is drawn for it', () => {
    expect(partsFault(fontkit.create(ttf) as unknown as ComposedFont)).toBeNull();
    expect(partsFault(fontkit.create(doubled(8)) as unknown as ComposedFont)).toBeNull();
    expect(partsFault(fontkit.create(doubled(12)) as unknown as ComposedFont)).toBe('Its letter 10 is put together of more than 1,000 parts.');
    expect(partsFault(fontkit.create(doubled(40)) as unknown as ComposedFont)).toMatch(/^Its letter \d+ is put together of/);
  });

  it('may not be itself', () => {
    const round: ComposedFont = { numGlyphs: 2, getGlyph: (id) => ({ _decode: () => ({ components: [{ glyphID: 1 - id }] }) }) };
    expect(partsFault(round)).toContain('more than 16 deep');
  });
});

describe('what is read of a font', () => {
  it('is bounded for each text, and enough for any that is meant', () => {
    const font = fontkit.create(ttf) as TextFont;
    const again = boundedReads(font);
    for (let i = 0; i < 3; i++) {
      again();
      expect(layText(font, { ...recipe, text: 'THE QUICK BROWN FERRY '.repeat(40) }).letters.length).toBeGreaterThan(600);
    }
    // Letters whose programs call each other without end.
    const endless = { stream: { readUInt8: (): number => 0 } };
    boundedReads(endless);
    expect(() => {
      for (;;) endless.stream.readUInt8();
    }).toThrow(TextError);
  });

  it('leaves out fonts with tables of blanks', () => {
    const blank = withTables(ttf, { name: new Uint8Array(5_000_000).fill(32) });
    expect(fontFileFault(blank)).toBe('Its table “name” has 5 MB; at most 4 MB are read.');
    expect(fontFileFault(withTables(ttf, {}))).toBeNull();
  });
});
