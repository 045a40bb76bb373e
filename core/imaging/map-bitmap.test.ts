import type { ImagePlace } from '../artwork/marks';
import { randomFrom } from '../testing/random';
import { apply33, type Mat33 } from '../math/matrix';
import { mapBitmap, type PxBox } from './map-bitmap';
import { pxUnder } from './place';
import type { Pixels } from '../math/pixels';
import { pyramidOf } from './pyramid';

/** A test picture: fields of hard edges, fine lines, slow changes, and, where it is asked for, of alpha. */
function testPicture(width: number, height: number, alpha: boolean): Pixels {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = 4 * (y * width + x);
      const chequer = (((x >> 5) + (y >> 5)) & 1) * 200;
      const ring = 127 + 100 * Math.sin(Math.hypot(x - width / 2, y - height / 2) / 9);
      data[at] = x % 40 < 4 ? 20 : chequer;
      data[at + 1] = ring;
      data[at + 2] = Math.abs(x - y) % 64 < 6 ? 250 : (255 * y) / height;
      data[at + 3] = alpha ? (Math.hypot(x - width * 0.3, y - height * 0.6) < width / 5 ? 90 : 255) : 255;
    }
  return { width, height, data };
}

/** One px as it truly is: the mean of 16 by 16 places, each between the four px about it. */
function truth({ width, height, data }: Pixels, place: ImagePlace, { x, y, perPx }: PxBox, i: number, j: number): readonly number[] {
  const under = pxUnder(place, { width, height })!;
  const at = new Float64Array(2);
  const sum = [0, 0, 0, 0];
  const px = (u: number, v: number): readonly number[] => {
    const n = 4 * (Math.max(0, Math.min(height - 1, v)) * width + Math.max(0, Math.min(width - 1, u)));
    const alpha = data[n + 3]!;
    return [(data[n]! * alpha) / 255, (data[n + 1]! * alpha) / 255, (data[n + 2]! * alpha) / 255, alpha];
  };
  for (let b = 0; b < 16; b++)
    for (let a = 0; a < 16; a++) {
      under(x + (i + (a + 0.5) / 16) * perPx, y + (j + (b + 0.5) / 16) * perPx, at, 0);
      const [u, v] = [at[0]! - 0.5, at[1]! - 0.5];
      const [k, l] = [Math.floor(u), Math.floor(v)];
      const [f, g] = [u - k, v - l];
      const four = [px(k, l), px(k + 1, l), px(k, l + 1), px(k + 1, l + 1)];
      const weights = [(1 - f) * (1 - g), f * (1 - g), (1 - f) * g, f * g];
      for (let c = 0; c < 4; c++) sum[c]! += four.reduce((total, p, n) => total + p[c]! * weights[n]!, 0);
    }
  const [r, g, b, alpha] = sum.map((n) => n / 256);
  return alpha === 0 ? [0, 0, 0, 0] : [(r! * 255) / alpha!, (g! * 255) / alpha!, (b! * 255) / alpha!, alpha!];
}

/** A homography that carries the unit square to four corners of the sheet. */
function toCorners([p, q, r, s]: readonly (readonly [number, number])[]): Mat33 {
  const [dx1, dx2, sx] = [q![0] - r![0], s![0] - r![0], p![0] - q![0] + r![0] - s![0]];
  const [dy1, dy2, sy] = [q![1] - r![1], s![1] - r![1], p![1] - q![1] + r![1] - s![1]];
  const d = dx1 * dy2 - dx2 * dy1;
  const [g, h] = [(sx * dy2 - dx2 * sy) / d, (dx1 * sy - sx * dy1) / d];
  return [q![0] - p![0] + g * q![0], s![0] - p![0] + h * s![0], p![0], q![1] - p![1] + g * q![1], s![1] - p![1] + h * s![1], p![1], g, h, 1];
}

/** How far a picture made in a box is from the truth, of px that lie whole within it: mean, and part of them off by 24 levels. */
function missOf(pixels: Pixels, map: Mat33, box: PxBox): { readonly mean: number; readonly far: number; readonly count: number } {
  const place: ImagePlace = { kind: 'flat', map };
  const under = pxUnder(place, pixels)!;
  const out = new Uint32Array(box.width * box.height);
  mapBitmap(pyramidOf(pixels), under, box, 'full', out);
  let [sum, far, count] = [0, 0, 0];
  const at = new Float64Array(2);
  const next = randomFrom(7);
  for (let n = 0; n < 6000; n++) {
    // As many places within what is seen, however small it is.
    const seen = map[6] === 0 && map[7] === 0 ? apply33(map, next(), next())! : { x: next() * box.width * box.perPx, y: next() * box.height * box.perPx };
    const [i, j] = [Math.floor(seen.x / box.perPx), Math.floor(seen.y / box.perPx)];
    if (i < 0 || j < 0 || i >= box.width || j >= box.height) continue;
    const inside = [-2, 2].every((a) =>
      [-2, 2].every((b) => {
        under(box.x + (i + 0.5 + a) * box.perPx, box.y + (j + 0.5 + b) * box.perPx, at, 0);
        return at[0]! > 1 && at[1]! > 1 && at[0]! < pixels.width - 1 && at[1]! < pixels.height - 1;
      }),
    );
    if (!inside) continue;
    const wanted = truth(pixels, place, box, i, j);
    const p = out[j * box.width + i]!;
    const got = [p & 255, (p >>> 8) & 255, (p >>> 16) & 255, p >>> 24];
    const miss = Math.max(...wanted.map((value, c) => Math.abs(value - got[c]!)));
    sum += wanted.reduce((total, value, c) => total + Math.abs(value - got[c]!), 0) / 4;
    if (miss > 24) far++;
    count++;
  }
  return { mean: sum / count, far: far / count, count };
}

const BOX: PxBox = { x: 0, y: 0, perPx: 0.25, width: 480, height: 320 };

/** Twenty ways in which a bitmap is seen: scaled, turned, leaning, in slight and in strong perspective. */
function twentyMaps(): readonly Mat33[] {
  const next = randomFrom(20);
  const maps: Mat33[] = [];
  for (const scale of [0.04, 0.11, 0.3, 0.8, 1.05]) {
    for (const deg of [0.5, 17, 45]) {
      const [c, s] = [Math.cos((deg * Math.PI) / 180) * scale * 128, Math.sin((deg * Math.PI) / 180) * scale * 128];
      maps.push([c, -s * 0.8, 60 - (c - s * 0.8) / 2, s, c * 0.7, 40 - (s + c * 0.7) / 2, 0, 0, 1]);
    }
  }
  for (let i = 0; i < 5; i++) {
    const far = 8 + 10 * next();
    maps.push(toCorners([[4, 10 + 5 * next()], [112, 36 - far / 2], [112, 36 + far / 2], [4, 75 - 5 * next()]])); // prettier-ignore
  }
  return maps;
}

describe('a bitmap under a map', () => {
  it.each(twentyMaps().map((map, i) => [i, map] as const))('is what sixteen by sixteen places a px make of it, map %i', (i, map) => {
    const { mean, far, count } = missOf(testPicture(512, 512, i % 4 === 3), map, BOX);
    expect(count).toBeGreaterThan(40);
    expect(mean).toBeLessThan(1.5);
    expect(far).toBeLessThan(0.001);
  });

  it('is the same to the bit where its px lie on those of the sheet', () => {
    const pixels = testPicture(61, 40, true);
    const under = pxUnder({ kind: 'flat', map: [61 / 4, 0, 3, 0, 10, 5, 0, 0, 1] }, pixels)!;
    const out = new Uint32Array(61 * 40);
    mapBitmap(pyramidOf(pixels), under, { x: 3, y: 5, perPx: 0.25, width: 61, height: 40 }, 'full', out);
    expect(out).toEqual(new Uint32Array(pixels.data.buffer));
  });

  it('is as far off in a quick look as its reduction lets it be', () => {
    const pixels = testPicture(256, 256, false);
    const under = pxUnder({ kind: 'flat', map: [64, 0, 0, 0, 64, 0, 0, 0, 1] }, pixels)!;
    const out = new Uint32Array(128 * 128);
    mapBitmap(pyramidOf(pixels), under, { x: 0, y: 0, perPx: 0.5, width: 128, height: 128 }, 'quick', out);
    const box = { x: 0, y: 0, perPx: 0.5, width: 128, height: 128 };
    const wanted = truth(pixels, { kind: 'flat', map: [64, 0, 0, 0, 64, 0, 0, 0, 1] }, box, 50, 70);
    expect(Math.abs((out[70 * 128 + 50]! & 255) - wanted[0]!)).toBeLessThan(40);
  });
});

describe('a chequer that recedes', () => {
  it('ends in an even grey, as it truly does: nothing coarser than its own cells is to be seen', () => {
    const size = 1024;
    const data = new Uint8ClampedArray(4 * size * size).fill(255);
    for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) if (((x >> 2) + (y >> 2)) & 1) data.fill(0, 4 * (y * size + x), 4 * (y * size + x) + 3);
    const pixels = { width: size, height: size, data };
    const place: ImagePlace = { kind: 'flat', map: toCorners([[40, 6], [60, 6], [110, 80], [-10, 80]]) }; // prettier-ignore
    const box: PxBox = { x: 20, y: 6, perPx: 0.25, width: 256, height: 64 };
    const out = new Uint32Array(box.width * box.height);
    mapBitmap(pyramidOf(pixels), pxUnder(place, pixels)!, box, 'full', out);
    // Power of each row at every frequency, against that of the truth.
    const power = (row: readonly number[], n: number): number => {
      const mean = row.reduce((a, b) => a + b, 0) / row.length;
      const [re, im] = [Math.cos, Math.sin].map((part) => row.reduce((sum, v, x) => sum + (v - mean) * part((2 * Math.PI * n * x) / row.length), 0));
      return (re! * re! + im! * im!) / row.length ** 2;
    };
    for (const j of [4, 20, 40]) {
      const got = Array.from({ length: 64 }, (_, i) => out[j * box.width + 88 + i]! & 255);
      const wanted = Array.from({ length: 64 }, (_, i) => truth(pixels, place, box, 88 + i, j)[0]!);
      for (let n = 1; n < 32; n++) expect(Math.abs(Math.sqrt(power(got, n)) - Math.sqrt(power(wanted, n)))).toBeLessThan(1.5);
    }
  });
});
