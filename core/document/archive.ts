import { strFromU8, strToU8, zipSync, type Zippable } from 'fflate';
import { fontEnding } from '../lettering/font-file';
import { bytesOf, digestOf } from '../math/digest';
import { refuse, type Checked, type Problem } from '../math/errors';
import { MAX_PROJECT_CHARACTERS, readProject, writeProject } from './read';
import { namedArtworks, type Assets } from './named-artworks';
import type { CheminDocument } from './types';
import { fontsOfDocument } from './named-fonts';
import { MOST } from './schema';
import { readZip } from './zip';

/** A document with the bytes that it names. */
export interface Packed {
  readonly document: CheminDocument;
  readonly assets: Assets;
}

/** The name of the drawing in a project's archive, and the form of the names of its assets. */
const DRAWING = 'drawing.json';
const ASSET = /^assets\/([0-9a-f]{32}(?:[0-9a-f]{32})?)\.(png|jpg|webp|svg|ttf|otf|woff|woff2)$/;
const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const;

/**
 * A document as a project file: a ZIP archive of `drawing.json` and `assets/…`, documented in docs/file-format.md. Bytes
 * that are pictures already are stored as they are.
 * @param assets the bytes of its bitmaps and fonts; those that are missing are left out
 */
export async function writeArchive(document: CheminDocument, assets: Assets): Promise<Uint8Array> {
  const named = await namedArtworks(document.artworks);
  const files: Zippable = { [DRAWING]: [strToU8(writeProject({ ...document, artworks: named.artworks })), { level: 6 }] };
  for (const [hash, svg] of named.assets) files[`assets/${hash}.svg`] = [svg, { level: 6 }];
  for (const { asset, type } of document.bitmaps) {
    const bytes = assets.get(asset);
    if (bytes) files[`assets/${asset}.${ENDINGS[type]}`] = [bytes, { level: 0 }];
  }
  for (const hash of fontsOfDocument(document)) {
    const bytes = assets.get(hash);
    const ending = bytes && fontEnding(bytes);
    if (ending) files[`assets/${hash}.${ending}`] = [bytes, { level: ending === 'ttf' || ending === 'otf' ? 6 : 0 }];
  }
  return zipSync(files);
}

/**
 * The document in a project file with the bytes that it names, or every reason why there is none, each with its place.
 * Archives and the JSON files of formats 1 to 3 are told apart by their first bytes. Nothing that a file says of itself
 * is trusted.
 */
export async function readArchive(bytes: Uint8Array): Promise<Checked<Packed>> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) return readText(bytes);
  const read = readZip(bytes, (name) => name === DRAWING || ASSET.test(name));
  if (!read.ok) return read;
  const drawing = read.value.get(DRAWING);
  if (!drawing) return refuse('no-drawing', DRAWING, 'The archive holds no drawing.');
  const assets = new Map<string, Uint8Array>();
  for (const [name, content] of read.value) {
    const hash = ASSET.exec(name)?.[1];
    if (!hash) continue;
    if (!(await digestOf(content)).startsWith(hash)) return refuse('damaged-asset', name, 'A file in the archive is damaged: it is not what its name says.');
    assets.set(hash, content);
  }
  return readText(drawing, assets);
}

async function readText(bytes: Uint8Array, assets: Assets = new Map()): Promise<Checked<Packed>> {
  const found = new Map(assets);
  const text = await outsourced(strFromU8(bytes), found);
  const read = readProject(text, (name) => {
    const content = found.get(name);
    return content ? strFromU8(content) : null;
  });
  if (!read.ok) return read;
  const missing = read.value.bitmaps.flatMap(({ asset }, i): readonly Problem[] =>
    found.has(asset) ? [] : [{ code: 'no-asset', path: `bitmaps[${i}]`, message: 'A picture is named, but not there; its frame alone is shown.' }],
  );
  const fonts = fontsOfDocument(read.value);
  const noFont: readonly Problem[] = fonts.some((hash) => !found.has(hash))
    ? [{ code: 'no-asset', path: 'nodes', message: 'A font is named, but not there; its text can be seen, but not written anew in it.' }]
    : [];
  const named = new Set([...read.value.bitmaps.map(({ asset }) => asset), ...fonts]);
  return {
    ok: true,
    value: { document: read.value, assets: new Map([...found].filter(([hash]) => named.has(hash))) },
    notes: [...read.notes, ...missing, ...noFont],
  };
}

/** Bitmaps of formats 2 and 3, whose bytes are in the text, taken out of it and named by their hash. */
async function outsourced(text: string, into: Map<string, Uint8Array>): Promise<string> {
  if (text.length > MAX_PROJECT_CHARACTERS || !text.includes('"data"')) return text;
  let data: { bitmaps?: unknown };
  try {
    data = JSON.parse(text) as typeof data;
  } catch {
    return text;
  }
  // What is more than any drawing has is refused before a byte of it is read.
  if (!Array.isArray(data?.bitmaps) || data.bitmaps.length > MOST.bitmaps) return text;
  const bitmaps = await Promise.all(
    data.bitmaps.map(async (bitmap: unknown) => {
      if (typeof bitmap !== 'object' || bitmap === null || typeof (bitmap as { data?: unknown }).data !== 'string') return bitmap;
      const { data: base64, ...rest } = bitmap as { data: string };
      try {
        const bytes = bytesOf(base64);
        const asset = await digestOf(bytes);
        into.set(asset, bytes);
        return { ...rest, asset };
      } catch {
        // What is no base64 stays, and is refused with its place.
        return bitmap;
      }
    }),
  );
  return JSON.stringify({ ...data, bitmaps });
}
