import { unzlibSync } from 'fflate';

/**
 * The font in a WOFF file (W3C, version 1) as it was before it was packed, for who reads TTF and OTF alone. Tables that
 * were not packed are taken as they are.
 * @throws Error where the file is damaged; `fontFileFault` tells most faults before
 */
export function unpackedWoff(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + 20 * i;
    const [offset, packed, length] = [view.getUint32(at + 4), view.getUint32(at + 8), view.getUint32(at + 12)];
    const data = bytes.subarray(offset, offset + packed);
    return { tag: view.getUint32(at), checksum: view.getUint32(at + 16), data: packed < length ? unzlibSync(data, { out: new Uint8Array(length) }) : data };
  });
  const padded = (n: number): number => (n + 3) & ~3;
  const out = new Uint8Array(12 + 16 * count + tables.reduce((sum, { data }) => sum + padded(data.length), 0));
  const to = new DataView(out.buffer);
  const power = 2 ** Math.floor(Math.log2(Math.max(1, count)));
  to.setUint32(0, view.getUint32(4));
  [count, power * 16, Math.log2(power), (count - power) * 16].forEach((value, i) => to.setUint16(4 + 2 * i, value));
  let at = 12 + 16 * count;
  tables.forEach(({ tag, checksum, data }, i) => {
    [tag, checksum, at, data.length].forEach((value, k) => to.setUint32(12 + 16 * i + 4 * k, value));
    out.set(data, at);
    at += padded(data.length);
  });
  return out;
}

/** The name of a font's family in a TTF or OTF (OpenType 1.9, `name`): the typographic one where there is one; null where it tells none. */
export function familyOf(bytes: Uint8Array): string | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const tables = view.getUint16(4);
    for (let i = 0; i < tables; i++) {
      if (view.getUint32(12 + 16 * i) !== 0x6e616d65) continue;
      return nameIn(view, view.getUint32(12 + 16 * i + 8));
    }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
  }
  return null;
}

function nameIn(view: DataView, start: number): string | null {
  const [count, storage] = [view.getUint16(start + 2), start + view.getUint16(start + 4)];
  let [found, rank] = ['', 0];
  for (let i = 0; i < count; i++) {
    const at = start + 6 + 12 * i;
    const [platform, id, length, offset] = [view.getUint16(at), view.getUint16(at + 6), view.getUint16(at + 8), view.getUint16(at + 10)];
    const wide = platform === 0 || platform === 3;
    const worth = (id === 16 ? 4 : id === 1 ? 2 : 0) + (wide ? 1 : 0);
    if ((id !== 1 && id !== 16) || worth <= rank) continue;
    let name = '';
    for (let k = 0; k < length; k += wide ? 2 : 1)
      name += String.fromCharCode(wide ? view.getUint16(storage + offset + k) : view.getUint8(storage + offset + k));
    [found, rank] = [name, worth];
  }
  return found || null;
}
