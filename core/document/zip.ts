import { Inflate, strFromU8 } from 'fflate';
import { refuse, type Checked } from '../math/errors';

/** Bounds of an archive: files in it, letters of a name, bytes of one file and of all, and how many times they may grow. */
const MOST_FILES = 2000;
const MOST_LETTERS = 200;
const MOST_BYTES = 128_000_000;
const MOST_IN_ALL = 600_000_000;
/** A drawing's text grows by some tens; what grows by more than this is made to fill the memory. */
const MOST_GROWTH = 400;
const SMALL = 4_000_000;
/** Compressed bytes that are unpacked at once: a slice can grow a thousandfold before it is looked at. */
const SLICE = 16_384;

const END = 0x06054b50;
const ENTRY = 0x02014b50;
const LOCAL = 0x04034b50;

interface Entry {
  readonly name: string;
  readonly method: number;
  readonly crc: number;
  readonly packed: number;
  readonly size: number;
  readonly offset: number;
}

/** Of a file's flags: its sum and sizes follow what it holds, and stand as 0 before it. */
const FOLLOWS = 8;

const SUMS = Uint32Array.from({ length: 256 }, (_, n) => {
  for (let k = 0; k < 8; k++) n = n & 1 ? (n >>> 1) ^ 0xedb88320 : n >>> 1;
  return n;
});

/** The CRC-32 of bytes (ISO 3309), by which an archive vouches for what it holds. */
export function crc32(bytes: Uint8Array): number {
  let sum = -1;
  for (let i = 0; i < bytes.length; i++) sum = SUMS[(sum ^ bytes[i]!) & 255]! ^ (sum >>> 8);
  return ~sum >>> 0;
}

/**
 * The files of a ZIP archive (PKWARE's APPNOTE 6.3: stored and deflated files, no encryption, no 64-bit sizes). Its own
 * list is read and bounded before anything is unpacked, and unpacking stops where a file is larger than it says. What its
 * list, the heads of its files and their sums say has to agree, so that no damage passes for something else.
 * @param known whether a file of this name belongs in the archive
 */
export function readZip(bytes: Uint8Array, known: (name: string) => boolean): Checked<ReadonlyMap<string, Uint8Array>> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const listed = entriesOf(view, bytes);
  if (!listed.ok) return listed;
  const names = new Set<string>();
  let all = 0;
  for (const { name, packed, size } of listed.value) {
    if (name.includes('..') || name.startsWith('/') || name.includes('\\'))
      return refuse('bad-name', name, 'The archive holds a file whose name leads out of it.');
    if (!known(name)) return refuse('unknown-file', name, 'The archive holds a file that no project has.');
    if (names.has(name)) return refuse('doubled-name', name, 'The archive holds two files of one name.');
    names.add(name);
    all += size;
    if (size > MOST_BYTES || all > MOST_IN_ALL) return refuse('too-large', name, 'What the archive holds is too large to be unpacked.');
    if (size > SMALL && size > MOST_GROWTH * packed) return refuse('too-dense', name, 'A file in the archive grows too much when it is unpacked.');
  }
  const files = new Map<string, Uint8Array>();
  for (const entry of listed.value) {
    const content = unpacked(view, bytes, entry);
    if (typeof content === 'string') return refuse('damaged', entry.name, content);
    files.set(entry.name, content);
  }
  return { ok: true, value: files, notes: [] };
}

function entriesOf(view: DataView, bytes: Uint8Array): Checked<readonly Entry[]> {
  const cut = refuse('cut-short', '', 'The archive is damaged or cut short.');
  let end = bytes.length - 22;
  const first = Math.max(0, end - 65_535);
  while (end >= first && view.getUint32(end, true) !== END) end--;
  if (end < first) return cut;
  const count = view.getUint16(end + 10, true);
  const ends = end + 22 + view.getUint16(end + 20, true);
  if (ends !== bytes.length || view.getUint32(end + 4, true) !== 0 || view.getUint16(end + 8, true) !== count) return cut;
  if (count > MOST_FILES) return refuse('too-many', '', `The archive holds more than ${MOST_FILES.toLocaleString('en')} files.`);
  let at = view.getUint32(end + 16, true);
  const entries: Entry[] = [];
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== ENTRY) return cut;
    const [letters, extra, comment] = [view.getUint16(at + 28, true), view.getUint16(at + 30, true), view.getUint16(at + 32, true)];
    if (letters > MOST_LETTERS || at + 46 + letters > bytes.length) return refuse('bad-name', '', 'The archive holds a file whose name is too long.');
    const name = strFromU8(bytes.subarray(at + 46, at + 46 + letters));
    if (view.getUint16(at + 8, true) & 1) return refuse('encrypted', name, 'The archive is encrypted.');
    entries.push({
      name,
      method: view.getUint16(at + 10, true),
      crc: view.getUint32(at + 16, true),
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      offset: view.getUint32(at + 42, true),
    });
    at += 46 + letters + extra + comment;
  }
  if (at !== end || view.getUint32(end + 12, true) !== end - view.getUint32(end + 16, true)) return cut;
  return { ok: true, value: entries, notes: [] };
}

/** What a file holds, or why it cannot be told. */
function unpacked(view: DataView, bytes: Uint8Array, entry: Entry): Uint8Array | string {
  const content = inflated(view, bytes, entry);
  return typeof content === 'string' || crc32(content) === entry.crc ? content : 'A file in the archive is damaged: its sum is not what it should be.';
}

/** Whether the head of a file says of it what the list says. */
function agrees(view: DataView, bytes: Uint8Array, { name, method, crc, packed, size, offset }: Entry): boolean {
  const letters = view.getUint16(offset + 26, true);
  const told = [14, 18, 22].map((at) => view.getUint32(offset + at, true));
  const expected = view.getUint16(offset + 6, true) & FOLLOWS ? [0, 0, 0] : [crc, packed, size];
  if (view.getUint16(offset + 8, true) !== method || told.some((value, i) => value !== expected[i])) return false;
  return offset + 30 + letters <= bytes.length && strFromU8(bytes.subarray(offset + 30, offset + 30 + letters)) === name;
}

function inflated(view: DataView, bytes: Uint8Array, entry: Entry): Uint8Array | string {
  const { method, packed, size, offset } = entry;
  if (offset + 30 > bytes.length || view.getUint32(offset, true) !== LOCAL || !agrees(view, bytes, entry)) return 'A file in the archive is damaged.';
  const from = offset + 30 + view.getUint16(offset + 26, true) + view.getUint16(offset + 28, true);
  if (from + packed > bytes.length) return 'A file in the archive is cut short.';
  const content = bytes.subarray(from, from + packed);
  if (method === 0) return packed === size ? content.slice() : 'A file in the archive is not as large as it says.';
  if (method !== 8) return 'A file in the archive is packed in a way that is not read.';
  const out = new Uint8Array(size);
  let at = 0;
  let more = false;
  const inflate = new Inflate((part) => {
    if (at + part.length > size) more = true;
    else out.set(part, at);
    at += part.length;
  });
  try {
    for (let i = 0; i < content.length && !more; i += SLICE) inflate.push(content.subarray(i, i + SLICE), i + SLICE >= content.length);
  } catch {
    return 'A file in the archive is damaged.';
  }
  return more || at !== size ? 'A file in the archive is not as large as it says.' : out;
}
