import { readFileSync } from 'node:fs';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { landing } from '@demo';
import { digestOf } from '../math/digest';
import { processorMs, randomFrom } from '../testing/random';
import { readArchive, writeArchive } from './archive';
import { writeProject } from './read';
import { flattenTree } from './tree';
import { DOCUMENT_VERSION, emptyDocument, type Bitmap, type CheminDocument, type GroupNode, type Reference } from './types';

const fontBytes = (name: string): Uint8Array => new Uint8Array(readFileSync(`node_modules/@fontsource/${name}`));

const random = randomFrom(2);
const noise = (size: number): Uint8Array => Uint8Array.from({ length: size }, () => Math.floor(random() * 256));

async function withPictures(count: number, size: number): Promise<{ document: CheminDocument; assets: Map<string, Uint8Array> }> {
  const assets = new Map<string, Uint8Array>();
  const bitmaps: Bitmap[] = [];
  const references: Reference[] = [];
  for (let i = 0; i < count; i++) {
    const bytes = noise(size);
    const asset = await digestOf(bytes);
    assets.set(asset, bytes);
    bitmaps.push({ id: `b${i}`, asset, type: i % 2 ? 'image/png' : 'image/jpeg', width: 40, height: 30 });
    references.push({ id: `r${i}`, name: 'view', bitmap: `b${i}`, x: 0, y: 0, width: 40, height: 30, strength: 1, over: false, hidden: false, locked: true });
  }
  return { document: { ...emptyDocument('d', 'd'), bitmaps, references }, assets };
}

const problemOf = async (bytes: Uint8Array): Promise<string> => {
  const read = await readArchive(bytes);
  return read.ok ? '' : read.problems[0]!.message;
};

/**
 * A ZIP as it is written, with bytes of its own list changed: where the first file's entry has them.
 * @param head where the head of the file itself has the same, which lies likewise
 */
function lying(bytes: Uint8Array, offset: number, value: number, head?: number): Uint8Array {
  const copy = bytes.slice();
  const view = new DataView(copy.buffer);
  let end = copy.length - 22;
  while (view.getUint32(end, true) !== 0x06054b50) end--;
  view.setUint32(view.getUint32(end + 16, true) + offset, value, true);
  if (head !== undefined) view.setUint32(head, value, true);
  return copy;
}

describe('project files as archives', () => {
  it('go out and come in with their pictures, each kept once', async () => {
    const { document, assets } = await withPictures(3, 5000);
    const same = { ...document, bitmaps: [...document.bitmaps, { ...document.bitmaps[0]!, id: 'again' }] };
    const bytes = await writeArchive(same, assets);
    expect(Object.keys(unzipSync(bytes))).toHaveLength(4);
    const read = await readArchive(bytes);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    expect(read.value.document).toEqual(same);
    expect(new Map(read.value.assets)).toEqual(assets);
  });

  it('hold the fonts of lettering, and say which are missing', async () => {
    const bytes = fontBytes('pacifico/files/pacifico-latin-400-normal.woff2');
    const font = await digestOf(bytes);
    const lettering = { kind: 'font', text: 'A', font, title: 'Own', cap: 1, letter: 0, word: 0, line: 1, align: 'left' } as const;
    const group: GroupNode = { kind: 'group', id: 't', name: 't', hidden: false, locked: false, children: [], lettering };
    const document: CheminDocument = {
      ...emptyDocument('d', 'd'),
      nodes: [{ kind: 'group', id: 'g', name: 'g', hidden: false, locked: false, children: [group] }],
    };
    const packed = await writeArchive(document, new Map([[font, bytes]]));
    expect(Object.keys(unzipSync(packed))).toContain(`assets/${font}.woff2`);
    const read = await readArchive(packed);
    if (!read.ok) throw new Error(read.problems[0]!.message);
    expect([read.value.document, read.notes]).toEqual([document, []]);
    expect(new Map(read.value.assets)).toEqual(new Map([[font, bytes]]));
    const without = await readArchive(await writeArchive(document, new Map()));
    expect(without.ok && without.notes[0]!.message).toContain('A font is named, but not there');
  });

  it('hold large artworks as files of their own, and are small', async () => {
    const demo = landing();
    const svg = `<svg viewBox="0 0 9 9">${'<path d="M0 0L9 0L9 9Z"/>'.repeat(400)}</svg>`;
    const document = { ...demo, artworks: demo.artworks.map((artwork, i) => (i === 0 ? { ...artwork, svg } : artwork)) };
    const bytes = await writeArchive(document, new Map());
    expect(Object.keys(unzipSync(bytes)).some((name) => name.endsWith('.svg'))).toBe(true);
    expect(bytes.length).toBeLessThan(writeProject(document).length / 4);
    const read = await readArchive(bytes);
    expect(read.ok && read.value.document).toEqual(document);
  });

  it('hold twelve pictures of 12 MB', async () => {
    const { document, assets } = await withPictures(1, 1000);
    const large = new Map<string, Uint8Array>();
    const bitmaps: Bitmap[] = [];
    for (let i = 0; i < 12; i++) {
      const bytes = new Uint8Array(12_000_000).fill(i);
      const asset = await digestOf(bytes);
      large.set(asset, bytes);
      bitmaps.push({ ...document.bitmaps[0]!, id: `big${i}`, asset });
    }
    const whole = { ...document, bitmaps: [...document.bitmaps, ...bitmaps] };
    const read = await readArchive(await writeArchive(whole, new Map([...assets, ...large])));
    expect(read.ok && [read.value.document, read.value.assets.size]).toEqual([whole, 13]);
  }, 60_000);

  it('are refused with words where they lie, lead out, are doubled, too many, or hold no drawing', async () => {
    const good = strToU8(writeProject(emptyDocument('d', 'd')));
    expect(await problemOf(zipSync({ 'other.json': good }))).toContain('no project has');
    expect(await problemOf(zipSync({ [`assets/${'0'.repeat(64)}.png`]: noise(9) }))).toContain('holds no drawing');
    expect(await problemOf(zipSync({ 'drawing.json': good, '../drawing.json': good }))).toContain('leads out of it');
    const twice = zipSync({ 'drawing.json': good, 'drawing.jsoM': good });
    const last = twice.lastIndexOf('M'.charCodeAt(0));
    expect(await problemOf(twice.map((byte, i) => (i === last ? 'n'.charCodeAt(0) : byte)))).toContain('two files of one name');
    const packed = zipSync({ 'drawing.json': good });
    expect(await problemOf(lying(packed, 24, 10))).toContain('damaged');
    expect(await problemOf(lying(packed, 24, 10, 22))).toContain('not as large as it says');
    expect(await problemOf(lying(packed, 24, 100_000, 22))).toContain('not as large as it says');
    expect(await problemOf(lying(packed, 24, 3_000_000_000))).toContain('too large');
    expect(await problemOf(lying(packed, 42, 5))).toContain('damaged');
    // A list of a hundred thousand: the count has room for 65,535.
    const many: Record<string, Uint8Array> = { 'drawing.json': good };
    for (let i = 0; i < 2100; i++) many[`assets/${i.toString(16).padStart(64, '0')}.png`] = new Uint8Array(1);
    expect(await problemOf(zipSync(many, { level: 0 }))).toContain('more than 2,000');
    expect(await problemOf(zipSync({ 'drawing.json': good, [`assets/${'1'.repeat(64)}.png`]: noise(9) }))).toContain('not what its name says');
    expect(await problemOf(packed.subarray(0, packed.length - 30))).toContain('cut short');
    expect(await problemOf(zipSync({ 'drawing.json': strToU8('{"format":') }))).toContain('damaged');
  });

  it('never unpack to gigabytes', async () => {
    const bomb = zipSync({ 'drawing.json': new Uint8Array(60_000_000) }, { level: 9 });
    expect(await problemOf(bomb)).toContain('grows too much');
    // One that says it is small stops as soon as it is larger than that.
    const began = processorMs();
    expect(await problemOf(lying(bomb, 24, 2_000_000, 22))).toContain('not as large as it says');
    expect(processorMs() - began).toBeLessThan(2000);
  });

  it('are never opened as something else where a bit of them is another', async () => {
    const { document, assets } = await withPictures(2, 300);
    const named = { ...document, name: 'landing', artworks: [{ id: 'a', name: 'a', svg: `<svg viewBox="0 0 9 9">${'<path d="M0 0L9 9L9 0Z"/>'.repeat(300)}</svg>`, width: 9, height: 9 }] }; // prettier-ignore
    const bytes = await writeArchive(named, assets);
    let refused = 0;
    for (let i = 0; i < bytes.length; i++) {
      const read = await readArchive(bytes.map((byte, k) => (k === i ? byte ^ (1 << ((i * 5) % 8)) : byte)));
      if (!read.ok) refused++;
      else expect([i, read.value.document, new Map(read.value.assets)]).toEqual([i, named, new Map(assets)]);
    }
    // What no byte of the drawing hangs on, such as when it was written, may be read over.
    expect(refused / bytes.length).toBeGreaterThan(0.8);
  });

  it('read and refuse whatever is damaged, and never crash', async () => {
    const { document, assets } = await withPictures(2, 300);
    const bytes = await writeArchive(document, assets);
    for (let i = 0; i < 300; i++) {
      const copy = bytes.slice();
      for (let k = 0; k < 1 + random() * 4; k++) copy[Math.floor(random() * copy.length)] = Math.floor(random() * 256);
      const read = await readArchive(copy);
      expect(read.ok || read.problems.length > 0).toBe(true);
    }
  });
});

describe('files of earlier formats', () => {
  const kept = (format: number): Uint8Array => readFileSync(`core/testing/files/quay-nine-format-${format}.chemin`);

  it.each([1, 2, 3])('are read as they were written: format %i', async (format) => {
    const read = await readArchive(kept(format));
    if (!read.ok) throw new Error(read.problems[0]!.message);
    const { document } = read.value;
    expect([document.version, document.name]).toEqual([DOCUMENT_VERSION, 'Quay Nine: landing']);
    // Artwork lies where it lay: the demo has not moved since, and its placements are the same in all of them.
    const anchors = (d: CheminDocument): readonly unknown[] => flattenTree(d.nodes).flatMap(({ node }) => (node.kind === 'placement' ? [[node.name, node.anchor]] : [])); // prettier-ignore
    expect(anchors(document)).toEqual(anchors(landing()));
    const again = await readArchive(await writeArchive(document, read.value.assets));
    expect(again.ok && again.value.document).toEqual(document);
  });

  it('give up the bytes in their text for an asset', async () => {
    const read = await readArchive(kept(3));
    if (!read.ok) throw new Error(read.problems[0]!.message);
    const [bitmap] = read.value.document.bitmaps;
    expect(await digestOf(read.value.assets.get(bitmap!.asset)!)).toBe(bitmap!.asset);
    expect(read.notes).toEqual([]);
  });
});
