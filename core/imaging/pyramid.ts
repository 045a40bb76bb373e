import type { Pixels } from '../math/pixels';

/** One size of a bitmap: px of four channels in one number each, red lowest, colours multiplied by alpha. */
export interface Level {
  readonly width: number;
  readonly height: number;
  readonly px: Int32Array;
}

/** A bitmap in every halved size. A px of level n covers exactly 2ⁿ by 2ⁿ px of the bitmap; beyond its rim they go on as there. */
export interface Pyramid {
  readonly width: number;
  readonly height: number;
  /** No px of it lets anything through. */
  readonly opaque: boolean;
  readonly levels: readonly Level[];
  /** The px as they were decoded. */
  readonly straight: Int32Array;
}

/**
 * Every halved size of a bitmap, each the mean of the one before by two and two px. An opaque bitmap's own px are used,
 * not copied; in all it takes 4/3 of them, of one with alpha 7/3.
 */
export function pyramidOf({ width, height, data }: Pixels): Pyramid {
  const straight = new Int32Array(data.buffer, data.byteOffset, width * height);
  const opaque = isOpaque(straight);
  let level: Level = { width, height, px: opaque ? straight : multiplied(straight) };
  const levels = [level];
  while (level.width > 1 || level.height > 1) levels.push((level = halved(level)));
  return { width, height, opaque, levels, straight };
}

function isOpaque(px: Int32Array): boolean {
  for (let i = 0; i < px.length; i++) if (px[i]! >>> 24 !== 255) return false;
  return true;
}

function multiplied(px: Int32Array): Int32Array {
  const out = new Int32Array(px.length);
  for (let i = 0; i < px.length; i++) out[i] = multipliedPx(px[i]!);
  return out;
}

/** A px with its colours multiplied by its alpha, rounded. */
export function multipliedPx(p: number): number {
  const alpha = p >>> 24;
  if (alpha === 255) return p;
  if (alpha === 0) return 0;
  const of = (channel: number): number => Math.round((channel * alpha) / 255);
  return ((alpha << 24) | (of((p >>> 16) & 255) << 16) | (of((p >>> 8) & 255) << 8) | of(p & 255)) >>> 0;
}

function halved({ width, height, px }: Level): Level {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const out = new Int32Array(w * h);
  // Every second of the four channels; a literal of its own, as bundles read shared ones anew each time.
  const lanes = 0xff00ff;
  for (let y = 0; y < h; y++) {
    const above = 2 * y * width;
    const below = Math.min(2 * y + 1, height - 1) * width;
    for (let x = 0; x < w; x++) {
      const left = 2 * x;
      const right = Math.min(left + 1, width - 1);
      const [p, q, r, s] = [px[above + left]!, px[above + right]!, px[below + left]!, px[below + right]!];
      const even = (((p & lanes) + (q & lanes) + (r & lanes) + (s & lanes) + 0x20002) >>> 2) & lanes;
      const odd = ((((p >>> 8) & lanes) + ((q >>> 8) & lanes) + ((r >>> 8) & lanes) + ((s >>> 8) & lanes) + 0x20002) >>> 2) & lanes;
      out[y * w + x] = (odd << 8) | even;
    }
  }
  return { width: w, height: h, px: out };
}
