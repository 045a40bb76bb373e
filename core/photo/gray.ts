import type { Pixels } from '../math/pixels';

/** Brightness of a picture, row by row from above, 0 to 255. The middle of the px at column x and row y lies at (x + 0.5, y + 0.5). */
export interface Gray {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** The brightness of a picture by Rec. 709's weights, as it is stored: not linear in light. */
export function grayOf({ width, height, data }: Pixels): Gray {
  const out = new Float32Array(width * height);
  for (let i = 0; i < out.length; i++) out[i] = 0.2126 * data[4 * i]! + 0.7152 * data[4 * i + 1]! + 0.0722 * data[4 * i + 2]!;
  return { width, height, data: out };
}

/** Half the size, each px the mean of four; an odd last row or column is left out. */
export function halvedGray({ width, height, data }: Gray): Gray {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (data[i]! + data[i + 1]! + data[i + width]! + data[i + width + 1]!) / 4;
    }
  return { width: w, height: h, data: out };
}

/** Weights of a Gaussian and of its first and second derivatives at whole px, as far as three sigma. */
export function gaussianKernels(sigma: number): readonly [Float32Array, Float32Array, Float32Array] {
  const reach = Math.max(1, Math.ceil(3 * sigma));
  const at = (f: (x: number) => number): Float32Array => Float32Array.from({ length: 2 * reach + 1 }, (_, i) => f(i - reach));
  const plain = at((x) => Math.exp((-x * x) / (2 * sigma * sigma)));
  const sum = plain.reduce((all, value) => all + value, 0);
  const g = plain.map((value) => value / sum);
  const first = g.map((value, i) => (-(i - reach) / (sigma * sigma)) * value);
  const second = g.map((value, i) => (((i - reach) ** 2 - sigma * sigma) / sigma ** 4) * value);
  // Sums of zero, so that what is even has no derivatives.
  const off = second.reduce((all, value) => all + value, 0) / second.length;
  return [g, first, second.map((value) => value - off)];
}

/** A picture under a kernel along its rows and another along its columns; beyond its rim it goes on as there. O(px x reach). */
export function convolved({ width, height, data }: Gray, across: Float32Array, down: Float32Array): Gray {
  const rows = new Float32Array(width * height);
  const reach = across.length >> 1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      let sum = 0;
      if (x >= reach && x < width - reach) for (let k = -reach, i = row + x - reach; k <= reach; k++, i++) sum += across[k + reach]! * data[i]!;
      else for (let k = -reach; k <= reach; k++) sum += across[k + reach]! * data[row + Math.max(0, Math.min(width - 1, x + k))]!;
      rows[row + x] = sum;
    }
  }
  const out = new Float32Array(width * height);
  const fall = down.length >> 1;
  for (let y = 0; y < height; y++)
    for (let k = -fall; k <= fall; k++) {
      const from = Math.max(0, Math.min(height - 1, y + k)) * width;
      const weight = down[k + fall]!;
      for (let x = 0, to = y * width; x < width; x++, to++) out[to]! += weight * rows[from + x]!;
    }
  return { width, height, data: out };
}

/** A picture blurred by a Gaussian. */
export function blurred(gray: Gray, sigma: number): Gray {
  const [g] = gaussianKernels(sigma);
  return convolved(gray, g, g);
}

/** The brightness between px at a place; beyond the rim it goes on as there. */
export function sampleGray({ width, height, data }: Gray, x: number, y: number): number {
  // Called for every px of a picture many times over: no lists are made here.
  const px = Math.max(0, Math.min(width - 1, x - 0.5));
  const py = Math.max(0, Math.min(height - 1, y - 0.5));
  const i = Math.min(width - 2, Math.floor(px));
  const j = Math.min(height - 2, Math.floor(py));
  if (i < 0 || j < 0) return data[Math.max(0, Math.round(py)) * width + Math.max(0, Math.round(px))] ?? 0;
  const s = px - i;
  const t = py - j;
  const at = j * width + i;
  return (data[at]! * (1 - s) + data[at + 1]! * s) * (1 - t) + (data[at + width]! * (1 - s) + data[at + width + 1]! * s) * t;
}
