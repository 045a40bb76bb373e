import { zlibSync } from 'fflate';

/** Size in px of the evening picture. */
export const EVENING = { width: 480, height: 300 } as const;

/** The SHA-256 of the evening picture as `eveningPicture` makes it. */
export const EVENING_HASH = '396b997d0d19ae00480fc3792996c99ae5df857eb856a65d9fe01109fbcb5ce5';

/** A photograph that was never taken: the ferry before the island at evening, made px by px, as a PNG (W3C, third edition). */
export function eveningPicture(): Uint8Array {
  const { width, height } = EVENING;
  const rows = new Uint8Array(height * (1 + 3 * width));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) rows.set(colourAt(x, y), y * (1 + 3 * width) + 1 + 3 * x);
  }
  const size = new Uint8Array(13);
  const view = new DataView(size.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  size.set([8, 2, 0, 0, 0], 8);
  const parts = [chunk('IHDR', size), chunk('IDAT', zlibSync(rows, { level: 6 })), chunk('IEND', new Uint8Array(0))];
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  return Uint8Array.from([...signature, ...parts.flatMap((part) => [...part])]);
}

const mixed = (p: readonly number[], q: readonly number[], k: number): number[] =>
  p.map((value, i) => Math.round(value + (q[i]! - value) * Math.max(0, Math.min(1, k))));

/** Sky, sun, island, sea with the sun's path, and the ferry with its lights. */
function colourAt(x: number, y: number): readonly number[] {
  const horizon = 168;
  const [sunX, sunY] = [330, 132];
  const sun = Math.hypot(x - sunX, y - sunY);
  if (inFerry(x, y)) return inFerry(x, y)!;
  if (y < horizon) {
    const hill = horizon - 34 * Math.exp(-(((x - 120) / 90) ** 2)) - 12 * Math.exp(-(((x - 230) / 60) ** 2));
    if (y > hill) return mixed([70, 74, 92], [96, 86, 98], (y - hill) / 34);
    const sky = mixed([92, 116, 150], [240, 176, 128], y / horizon);
    return sun < 22 ? [255, 236, 190] : mixed([255, 214, 158], sky, (sun - 22) / 90);
  }
  const depth = (y - horizon) / (300 - horizon);
  const wave = Math.sin(x / (5 + 22 * depth) + 7 * Math.sin(y / 5)) * Math.sin(y / 2.1 + x / 60);
  const sea = mixed([150, 128, 126], [28, 58, 80], depth * 1.1 + 0.1 * wave);
  const path = Math.abs(x - sunX) < 10 + 60 * depth && wave > 0.35 - 0.2 * depth;
  return path ? mixed(sea, [255, 214, 150], 0.75) : sea;
}

function inFerry(x: number, y: number): readonly number[] | null {
  const [u, v] = [x - 95, y - 176];
  if (v >= 12 && v < 30 && u > (v - 12) * 0.7 && u < 190 - (v - 12) * 0.9) return v < 16 ? [244, 234, 210] : [150, 52, 44];
  if (v >= -8 && v < 12 && u > 28 && u < 168) return v > -2 && v < 5 && Math.floor(u / 10) % 2 === 0 ? [255, 226, 150] : [238, 230, 214];
  if (v >= -24 && v < -8 && u > 60 && u < 128) return v > -19 && v < -13 && Math.floor(u / 8) % 2 === 0 ? [255, 226, 150] : [222, 214, 200];
  return v >= -44 && v < -24 && u > 84 && u < 104 ? (v < -36 ? [30, 62, 70] : [194, 83, 59]) : null;
}

function chunk(name: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  out.set(
    Array.from(name, (letter) => letter.charCodeAt(0)),
    4,
  );
  out.set(data, 8);
  view.setUint32(8 + data.length, checksum(out.subarray(4, 8 + data.length)));
  return out;
}

/** The checksum of a chunk: CRC-32 (ISO 3309). */
function checksum(bytes: Uint8Array): number {
  let sum = ~0;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = (sum >>> 1) ^ (sum & 1 ? 0xedb88320 : 0);
  }
  return ~sum >>> 0;
}
