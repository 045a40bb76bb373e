import { readFileSync } from 'node:fs';
import { create } from 'fontkit';
import { landing } from '@demo';
import { readBoundedHeader, MOST_PICTURE_PX, MOST_PICTURE_SIDE } from '../imaging/picture-bounds';
import { fontFileFault } from '../lettering/font-file';
import { boundedReads, partsFault, type ComposedFont } from '../lettering/glyph-budget';
import { layText, type TextFont } from '../lettering/lay-text';
import type { FontLettering } from '../lettering/lettering';
import { digestOf } from '../math/digest';
import { unpacked } from '../testing/fonts';
import { finePng } from '../testing/odd-pictures';
import { badNumbers, processorMs, randomFrom, runs } from '../testing/random';
import { readArchive, writeArchive } from './archive';
import { writeProject } from './read';
import type { CheminDocument } from './types';

/** Longest processor time in ms that a damaged file may take. */
const LIMIT_MS = 2000;

const random = randomFrom(41);
const below = (count: number): number => Math.floor(random() * count);

/** Bytes with some of them changed, left out, doubled, put elsewhere or cut off. */
function damaged(bytes: Uint8Array): Uint8Array {
  let out = bytes.slice();
  for (let count = 1 + below(3); count > 0; count--) {
    const [at, length, act] = [below(out.length), 1 + below(random() < 0.8 ? 8 : 2000), below(6)];
    if (act === 0) out[at] = out[at]! ^ (1 << below(8));
    else if (act === 1) out.fill(random() < 0.5 ? 0 : 255, at, at + length);
    else if (act === 2) for (let i = at; i < Math.min(out.length, at + length); i++) out[i] = below(256);
    else if (act === 3) out = Uint8Array.from([...out.subarray(0, at), ...out.subarray(at + length)]);
    else if (act === 4) out.copyWithin(below(out.length), at, at + length);
    else if (random() < 0.2) out = out.slice(0, at + 1);
  }
  return out;
}

/** The longest processor time that any of some files took. */
async function slowest(count: number, work: () => void | Promise<void>): Promise<number> {
  let most = 0;
  for (let i = 0; i < count; i++) {
    const before = processorMs();
    await work();
    most = Math.max(most, processorMs() - before);
  }
  return most;
}

describe('damaged archives', () => {
  it('are refused with words, or are what they were: never another drawing', async () => {
    const picture = new Uint8Array(finePng(8, [200, 100, 50]));
    const asset = await digestOf(picture);
    const demo = landing();
    const document: CheminDocument = {
      ...demo,
      bitmaps: [...demo.bitmaps, { id: 'view', type: 'image/png', width: 8, height: 8, asset }],
      references: [{ id: 'r', name: 'view', bitmap: 'view', x: 0, y: 0, width: 40, height: 40, strength: 1, over: false, hidden: false, locked: true }],
    };
    const good = await writeArchive(document, new Map([[asset, picture]]));
    const whole = await readArchive(good);
    // As it is read, with the parts of everything in the order of their schema.
    const text = whole.ok ? writeProject(whole.value.document) : '';
    let opened = 0;
    const most = await slowest(runs(500), async () => {
      const read = await readArchive(damaged(good));
      if (!read.ok) return void expect(read.problems[0]!.message).toMatch(/\w/);
      opened++;
      expect(writeProject(read.value.document) === text).toBe(true);
      for (const [id, bytes] of read.value.assets) expect(await digestOf(bytes)).toBe(id);
    });
    console.log(`${opened} of ${runs(500)} damaged archives were what they had been; the slowest took ${most.toFixed(0)} ms`);
    expect(most).toBeLessThan(LIMIT_MS);
  });
});

describe('damaged fonts', () => {
  it('are refused, or drawn with, letters of finite numbers, within two seconds', async () => {
    const shipped = [
      'hanken-grotesk/files/hanken-grotesk-latin-600-normal.woff',
      'courier-prime/files/courier-prime-latin-700-normal.woff',
      'pacifico/files/pacifico-latin-400-normal.woff',
    ];
    const files = shipped.map((file) => unpacked(new Uint8Array(readFileSync(`node_modules/@fontsource/${file}`))));
    const recipe: FontLettering = { kind: 'font', text: 'Quay 9\nÅgA', font: 'x', cap: 4, letter: 0, word: 0, line: 6, align: 'left' };
    let drawn = 0;
    const most = await slowest(runs(100), () => {
      const bytes = damaged(files[below(files.length)]!);
      if (fontFileFault(bytes)) return;
      let laid;
      try {
        const font = create(bytes) as unknown as TextFont & ComposedFont;
        if (partsFault(font)) return;
        boundedReads(font)();
        if (!(font.unitsPerEm > 0)) return;
        laid = layText(font, recipe);
      } catch (error) {
        // Whatever a library finds in a damaged font ends as one refusal.
        return void expect(error).toBeInstanceOf(Error);
      }
      drawn++;
      expect(badNumbers(laid)).toEqual([]);
    });
    console.log(`${drawn} of ${runs(100)} damaged fonts could be drawn with; the slowest took ${most.toFixed(0)} ms`);
    expect(most).toBeLessThan(LIMIT_MS);
  });
});

describe('damaged pictures', () => {
  it('tell a size that can be decoded, or are refused, without looking at their px', async () => {
    const sample = (text: string): Uint8Array => new Uint8Array(Buffer.from(text, 'base64'));
    const files = [
      new Uint8Array(finePng(16, [10, 20, 30])),
      sample('/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wAALCAABAAEBAREA/8QAFAABAAAAAAAAAAAAAAAAAAAAA//EABQQAQAAAAAAAAAAAAAAAAAAAAD/2gAIAQEAAD8AN//Z'),
      sample('UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA'),
    ]; // prettier-ignore
    let read = 0;
    const most = await slowest(runs(250), () => {
      const header = readBoundedHeader(damaged(files[below(files.length)]!));
      if (!header.ok) return void expect(header.problems[0]!.message).toMatch(/\w/);
      read++;
      const { width, height } = header.value;
      expect(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0).toBe(true);
      expect(width * height <= MOST_PICTURE_PX && Math.max(width, height) <= MOST_PICTURE_SIDE).toBe(true);
    });
    console.log(`${read} of ${runs(250)} damaged pictures still told their size; the slowest took ${most.toFixed(0)} ms`);
    expect(read).toBeGreaterThan(0);
    expect(most).toBeLessThan(LIMIT_MS);
  });
});
