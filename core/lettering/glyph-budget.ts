import { TextError } from './lay-text';

/** What of a shaping library's font tells how its letters are put together (OpenType 1.9, `glyf`). */
export interface ComposedFont {
  readonly numGlyphs: number;
  readonly getGlyph: (id: number) => { readonly _decode?: () => GlyphParts | null } | null;
}

/** A glyph of parts has these; one drawn by itself has none. */
export interface GlyphParts {
  readonly components?: readonly { readonly glyphID: number }[];
}

/** Glyphs that one glyph may be put together of in the end, and how deep parts may lie within parts. */
const MOST_PARTS = 1_000;
const MOST_DEEP = 16;

/**
 * Why the glyphs of a font cannot be put together of their parts, in words; null where they can. Parts are counted
 * without drawing any: two parts of two parts, forty deep, are more than can ever be drawn. Costs one look at each glyph.
 */
export function partsFault(font: ComposedFont): string | null {
  const known = new Map<number, { readonly parts: number; readonly deep: number }>();
  const open = new Set<number>();
  const counted = (id: number): { readonly parts: number; readonly deep: number } => {
    const before = known.get(id);
    if (before) return before;
    if (open.has(id) || open.size > MOST_DEEP) return { parts: Infinity, deep: Infinity };
    open.add(id);
    const own = (id < font.numGlyphs ? font.getGlyph(id)?._decode?.()?.components : undefined) ?? [];
    let [parts, deep] = [own.length === 0 ? 1 : 0, 0];
    for (const { glyphID } of own) {
      const part = counted(glyphID);
      parts += part.parts;
      deep = Math.max(deep, part.deep + 1);
      if (parts > MOST_PARTS) break;
    }
    open.delete(id);
    const all = { parts, deep };
    known.set(id, all);
    return all;
  };
  for (let id = 0; id < font.numGlyphs; id++) {
    const { parts, deep } = counted(id);
    if (deep > MOST_DEEP) return `Its letter ${id} is put together of parts more than ${MOST_DEEP} deep.`;
    if (parts > MOST_PARTS) return `Its letter ${id} is put together of more than ${MOST_PARTS.toLocaleString('en')} parts.`;
  }
  return null;
}

/** A stream of a font's bytes, as the library reads letters from it. */
interface ByteStream {
  readUInt8: () => number;
}

/** Bytes that are read for a text at most: a letter takes some hundreds, in scripts that call each other any number. */
const MOST_READ = 4_000_000;

/**
 * Bounds what a font may read while a text is drawn with it: the programs of its letters call others, which call others
 * (OpenType 1.9, `CFF`).
 * @returns what begins another text
 */
export function boundedReads(font: object): () => void {
  let left = MOST_READ;
  const tables = font as Readonly<Record<string, { readonly stream?: ByteStream } | undefined>> & { readonly stream?: ByteStream };
  for (const stream of new Set([tables.stream, tables['CFF ']?.stream, tables['CFF2']?.stream])) {
    if (!stream) continue;
    const read = stream.readUInt8.bind(stream);
    stream.readUInt8 = () => {
      if (--left < 0) throw new TextError('The letters of this font take too long to draw.');
      return read();
    };
  }
  return () => (left = MOST_READ);
}
