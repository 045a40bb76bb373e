import { unzlibSync } from 'fflate';

/** A WOFF font as the TTF or OTF that it was packed from (WOFF 1, 5). */
export function unpacked(woff: Uint8Array): Uint8Array {
  const view = new DataView(woff.buffer, woff.byteOffset, woff.byteLength);
  const count = view.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + 20 * i;
    const [offset, packed, length] = [view.getUint32(at + 4), view.getUint32(at + 8), view.getUint32(at + 12)];
    const bytes = woff.subarray(offset, offset + packed);
    return { head: woff.subarray(at, at + 4), sum: view.getUint32(at + 16), bytes: packed < length ? unzlibSync(bytes) : bytes };
  });
  const starts: number[] = [];
  let end = 12 + 16 * count;
  for (const { bytes } of tables) {
    starts.push(end);
    end += Math.ceil(bytes.length / 4) * 4;
  }
  const font = new Uint8Array(end);
  const out = new DataView(font.buffer);
  font.set(woff.subarray(4, 8));
  out.setUint16(4, count);
  tables.forEach(({ head, sum, bytes }, i) => {
    const at = 12 + 16 * i;
    font.set(head, at);
    out.setUint32(at + 4, sum);
    out.setUint32(at + 8, starts[i]!);
    out.setUint32(at + 12, bytes.length);
    font.set(bytes, starts[i]);
  });
  return font;
}
