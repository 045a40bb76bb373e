import { crc32, deflateSync } from 'node:zlib';

/** A chunk of a PNG: its length, its kind, its data and their checksum. */
function chunk(kind: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(kind, 'latin1'), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

const SIGNATURE = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]);

function header(side: number, bits: number): Buffer {
  const data = Buffer.alloc(13);
  data.writeUInt32BE(side, 0);
  data.writeUInt32BE(side, 4);
  data.set([bits, 2], 8);
  return chunk('IHDR', data);
}

/** Rows of one colour, each after its filter's byte. */
const rows = (side: number, px: readonly number[]): Buffer =>
  deflateSync(Buffer.from(Array.from({ length: side }, () => [0, ...Array.from({ length: side }, () => px).flat()]).flat()));

/** A square PNG of one colour with 16 bits to a channel. @param rgb levels, 0 to 65535 */
export function finePng(side: number, rgb: readonly number[]): Buffer {
  return Buffer.concat([SIGNATURE, header(side, 16), chunk('IDAT', rows(side, rgb.flatMap((level) => [level >> 8, level & 255]))), chunk('IEND', Buffer.alloc(0))]); // prettier-ignore
}

/** A square PNG of two pictures, each of one colour, one after the other. @param first, then levels, 0 to 255 */
export function movingPng(side: number, first: readonly number[], then: readonly number[]): Buffer {
  const plays = Buffer.alloc(8);
  plays.writeUInt32BE(2, 0);
  const frame = (sequence: number): Buffer => {
    const data = Buffer.alloc(26);
    [sequence, side, side, 0, 0].forEach((value, i) => data.writeUInt32BE(value, 4 * i));
    data.writeUInt16BE(1, 20);
    data.writeUInt16BE(10, 22);
    return chunk('fcTL', data);
  };
  const second = Buffer.concat([Buffer.from([0, 0, 0, 2]), rows(side, then)]);
  return Buffer.concat([SIGNATURE, header(side, 8), chunk('acTL', plays), frame(0), chunk('IDAT', rows(side, first)), frame(1), chunk('fdAT', second), chunk('IEND', Buffer.alloc(0))]); // prettier-ignore
}

/**
 * A JPEG of 8 by 8 px in four inks, of one colour, as image editors write it: inks inverted, and said so. One block to
 * an ink, of which there is only the mean.
 * @param inks of cyan, magenta, yellow and black, 0 to 255, 255 for all of it
 */
export function inkJpeg(inks: readonly [number, number, number, number]): Buffer {
  const two = (n: number): number[] => [n >> 8, n & 255];
  const segment = (marker: number, data: readonly number[]): number[] => [0xff, marker, ...two(data.length + 2), ...data];
  const each = <T>(make: (i: number) => T[]): T[] => [0, 1, 2, 3].flatMap(make);
  // Twelve codes of four bits for the lengths of means; one of one bit for the end of a block.
  const means = [0x00, 0, 0, 0, 12, ...Array.from({ length: 12 }, () => 0), ...Array.from({ length: 12 }, (_, i) => i)];
  const ends = [0x10, 1, ...Array.from({ length: 15 }, () => 0), 0];
  let bits = '';
  for (const ink of inks) {
    const mean = 8 * (255 - ink - 128);
    const length = mean === 0 ? 0 : 32 - Math.clz32(Math.abs(mean));
    const value = mean < 0 ? mean + (1 << length) - 1 : mean;
    bits += length.toString(2).padStart(4, '0') + (length === 0 ? '' : value.toString(2).padStart(length, '0')) + '0';
  }
  bits += '1'.repeat((8 - (bits.length % 8)) % 8);
  const scan = bits.match(/.{8}/g)!.flatMap((byte) => (byte === '11111111' ? [255, 0] : [parseInt(byte, 2)]));
  return Buffer.from([
    ...[0xff, 0xd8],
    // The marker by which the inks' order and sense are told (ITU-T T.872).
    ...segment(0xee, [0x41, 0x64, 0x6f, 0x62, 0x65, 0, 100, 0, 0, 0, 0, 0]),
    ...segment(0xdb, [0, ...Array.from({ length: 64 }, () => 1)]),
    ...segment(0xc0, [8, 0, 8, 0, 8, 4, ...each((i) => [i + 1, 0x11, 0])]),
    ...segment(0xc4, means),
    ...segment(0xc4, ends),
    ...segment(0xda, [4, ...each((i) => [i + 1, 0]), 0, 63, 0]),
    ...scan,
    ...[0xff, 0xd9],
  ]);
}
