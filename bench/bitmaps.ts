import { invert33, mapBitmap, multiply33, pxUnder, pyramidOf, type Mat33, type Pixels, type PxBox } from '../core/index';
import { median, type Row } from './measure';

const SIDE = 2048;
/** A leaning quadrilateral of about 4 megapixels that recedes. */
const MAP: Mat33 = [2200, 300, -20, -250, 2300, 260, -2e-2, 0.08, 1];

function noise(): Pixels {
  const data = new Uint8ClampedArray(4 * SIDE * SIDE);
  let state = 1;
  for (let i = 0; i < data.length; i++)
    data[i] = i % 4 === 3 ? 255 : 128 + 90 * Math.sin(i / 9000) + ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 27);
  return { width: SIDE, height: SIDE, data };
}

/** The yardstick: channel by channel between four px, with eight bits of fraction, the place divided out at every px. */
function plainLoop({ width: w, height: h, data }: Pixels, [a, b, c, d, e, f, g, k, l]: Mat33, size: number, out: Uint8ClampedArray): void {
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      const z = 1 / (g * (x + 0.5) + k * (y + 0.5) + l);
      const u = ((a * (x + 0.5) + b * (y + 0.5) + c) * z - 0.5) * 256;
      const v = ((d * (x + 0.5) + e * (y + 0.5) + f) * z - 0.5) * 256;
      if (u < 0 || v < 0 || u >= (w - 1) * 256 || v >= (h - 1) * 256) continue;
      const [iu, iv] = [u | 0, v | 0];
      const [fu, fv] = [iu & 255, iv & 255];
      const p = 4 * ((iv >> 8) * w + (iu >> 8));
      const q = p + 4 * w;
      const o = 4 * (y * size + x);
      for (let n = 0; n < 4; n++) {
        const top = data[p + n]! * (256 - fu) + data[p + 4 + n]! * fu;
        const below = data[q + n]! * (256 - fu) + data[q + 4 + n]! * fu;
        out[o + n] = (top * (256 - fv) + below * fv + 32768) >> 16;
      }
    }
  }
}

/** Bitmaps in perspective: against a plain loop, in full quality, the preview of a frame, and what they take. */
export function bitmapRows(): Row[] {
  const pixels = noise();
  const [width, height] = [SIDE, SIDE];
  const box: PxBox = { x: 0, y: 0, perPx: 1, width, height };
  const back = multiply33([SIDE, 0, 0, 0, SIDE, 0, 0, 0, 1], invert33(MAP)!);
  const plain = new Uint8ClampedArray(4 * SIDE * SIDE);
  const yardstick = median(() => plainLoop(pixels, back, SIDE, plain), 7);
  const pyramid = pyramidOf(pixels);
  const built = median(() => pyramidOf(pixels), 5);
  const under = pxUnder({ kind: 'flat', map: MAP }, pixels)!;
  const out = new Uint32Array(width * height);
  const quick = median(() => mapBitmap(pyramid, under, box, 'quick', out), 7);
  const miss = worst(out, plain);
  const full = median(() => mapBitmap(pyramid, under, box, 'full', out), 3, 1);
  const small: PxBox = { x: 0, y: 0, perPx: SIDE / 320, width: 320, height: 200 };
  const preview = median(() => mapBitmap(pyramid, under, small, 'quick', out));
  const kept = pyramid.levels.reduce((sum, { px }) => sum + px.length, out.length) / (2 * SIDE * SIDE);
  return [
    { what: '4 megapixels in perspective: plain fixed-point loop', ms: yardstick, note: 'yardstick' },
    { what: '4 megapixels: between four px', ms: quick, note: `${(quick / yardstick).toFixed(2)} x yardstick (wanted at most 0.5), ${miss}` },
    { what: '4 megapixels: full quality', ms: full, note: `${(full / yardstick).toFixed(2)} x yardstick` },
    { what: '4 megapixels: smaller sizes made once', ms: built, note: `${kept.toFixed(2)} x source and result kept (wanted at most 3)` },
    { what: 'preview of 320 × 200 px', ms: preview, note: 'wanted within a frame' },
  ];
}

/** How far two pictures are apart at most, well within both. */
function worst(px: Uint32Array, plain: Uint8ClampedArray): string {
  let most = 0;
  for (let y = 700; y < 1300; y++)
    for (let x = 700; x < 1300; x++) {
      const p = px[y * SIDE + x]!;
      for (let n = 0; n < 3; n++) most = Math.max(most, Math.abs(((p >>> (8 * n)) & 255) - plain[4 * (y * SIDE + x) + n]!));
    }
  return `at most ${most} levels apart`;
}
