/** Most bytes of a font that a drawing keeps. */
export const MOST_FONT_BYTES = 16_000_000;

/** Most bytes that a compressed font may unfold to, and those of a table that holds neither outlines nor how letters go together. */
const MOST_UNFOLDED = 48_000_000;
const MOST_OF_A_TABLE = 4_000_000;
const LARGE = ['glyf', 'CFF ', 'CFF2', 'gvar', 'GSUB', 'GPOS', 'SVG ', 'CBDT', 'sbix', 'EBDT'];

/** Kinds of font files by their first four bytes, with the ending of their names. */
const KINDS = { '\0\u0001\0\0': 'ttf', true: 'ttf', OTTO: 'otf', wOFF: 'woff', wOF2: 'woff2' } as const;
export type FontEnding = (typeof KINDS)[keyof typeof KINDS];

/** The endings of font files, for choosing them. */
export const FONT_ENDINGS: readonly FontEnding[] = ['ttf', 'otf', 'woff', 'woff2'];

/** What tables a font must have to be drawn from. */
const WANTED = ['cmap', 'head', 'hhea', 'hmtx', 'maxp'];

/** The ending of a font's file by its first bytes; null where it is no font. */
export function fontEnding(bytes: Uint8Array): FontEnding | null {
  return KINDS[tag(bytes, 0) as keyof typeof KINDS] ?? null;
}

/**
 * Why bytes are no font that can be drawn from, in words, told from their headers alone (OpenType 1.9, WOFF 1 and 2);
 * null where nothing is found. What passes may still be damaged inside.
 */
export function fontFileFault(bytes: Uint8Array): string | null {
  const mb = (n: number): string => `${(n / 1e6).toFixed(0)} MB`;
  if (bytes.length > MOST_FONT_BYTES) return `It has ${mb(bytes.length)}; a font has at most ${mb(MOST_FONT_BYTES)}.`;
  if (tag(bytes, 0) === 'ttcf') return 'It is a collection of several fonts; only single fonts can be read.';
  const ending = fontEnding(bytes);
  if (!ending) return 'It is no TTF, OTF, WOFF or WOFF2 font.';
  if (ending === 'woff' || ending === 'woff2') return packedFault(bytes, ending);
  return tablesFault(bytes);
}

function packedFault(bytes: Uint8Array, ending: 'woff' | 'woff2'): string | null {
  if (bytes.length < 44) return CUT;
  const [length, tables, unfolded] = [uint32(bytes, 8), uint16(bytes, 12), uint32(bytes, 16)];
  if (length > bytes.length) return CUT;
  if (tables === 0 || tables > 200) return `It says that it has ${tables} tables.`;
  if (unfolded > MOST_UNFOLDED) return `It would unfold to ${Math.round(unfolded / 1e6)} MB.`;
  if (ending === 'woff2') return null;
  const names = new Set<string>();
  for (let i = 0; i < tables; i++) {
    const at = 44 + 20 * i;
    if (at + 20 > bytes.length) return CUT;
    names.add(tag(bytes, at));
    if (uint32(bytes, at + 4) + uint32(bytes, at + 8) > bytes.length) return CUT;
    const large = tableFault(tag(bytes, at), uint32(bytes, at + 12));
    if (large) return large;
  }
  return missing(names);
}

function tablesFault(bytes: Uint8Array): string | null {
  if (bytes.length < 12) return CUT;
  const tables = uint16(bytes, 4);
  if (tables === 0 || tables > 200) return `It says that it has ${tables} tables.`;
  const names = new Set<string>();
  for (let i = 0; i < tables; i++) {
    const at = 12 + 16 * i;
    if (at + 16 > bytes.length || uint32(bytes, at + 8) + uint32(bytes, at + 12) > bytes.length) return CUT;
    names.add(tag(bytes, at));
    const large = tableFault(tag(bytes, at), uint32(bytes, at + 12));
    if (large) return large;
  }
  return missing(names);
}

/** Tables of letters may be large; millions of bytes of anything else hold whoever reads them. */
function tableFault(name: string, length: number): string | null {
  const most = LARGE.includes(name) ? MOST_UNFOLDED : MOST_OF_A_TABLE;
  return length > most ? `Its table “${name}” has ${(length / 1e6).toFixed(0)} MB; at most ${most / 1e6} MB are read.` : null;
}

const CUT = 'It is cut short.';

function missing(names: ReadonlySet<string>): string | null {
  const lacking = WANTED.filter((name) => !names.has(name));
  if (lacking.length > 0) return `It lacks the tables ${lacking.join(', ')}.`;
  return ['glyf', 'CFF ', 'CFF2'].some((name) => names.has(name)) ? null : 'It has no outlines: its letters are bitmaps.';
}

const uint16 = (bytes: Uint8Array, at: number): number => (bytes[at]! << 8) | bytes[at + 1]!;
const uint32 = (bytes: Uint8Array, at: number): number => uint16(bytes, at) * 65_536 + uint16(bytes, at + 2);
const tag = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
