import { type Level, type Pyramid } from './pyramid';
import { rowUnder, type PxUnder } from './place';

/** A box of px that lies on the sheet: `perPx` units of the sheet wide each, the first one's upper left corner at (x, y). */
export interface PxBox {
  readonly x: number;
  readonly y: number;
  readonly perPx: number;
  readonly width: number;
  readonly height: number;
}

/**
 * How a bitmap is looked up for each px: `quick` at one place, between the four px about it, in the size nearest to how
 * small it is seen; `full` in the mean over the whole px, as many places as it takes.
 */
export type Sampling = 'quick' | 'full';

/** How many places there are for a px, along one side of it that is `length` px of the level long. */
const placesFor = (length: number): number => (length <= 0.3 ? 1 : 1 + Math.ceil(1.25 * length));

/** Halvings that are not made use of, so that the mean is over the px itself rather than over those of a smaller size. */
const FINER = 2;
/** Most places for one px; what is seen more slantingly is taken from smaller sizes. */
const MOST_PLACES = 256;
/** Px beyond a bitmap's rim in which it goes on: what lies farther off is left empty. */
const RIM = 2;

/**
 * A bitmap as it is seen in a box of px, with proper reduction: written to `out` as red, green, blue and alpha in one
 * number for each px, red lowest, not multiplied by alpha. Beyond the rim it goes on for two px, so that its edge can be
 * cut by a path; farther off nothing is written. Only rows from `from` to before `to` are made.
 *
 * `full` stays within 1.5 levels in the mean of sixteen by sixteen places a px (the means of Williams 1983, with more
 * places the more slantingly it is seen, after McCormack et al. 1999). Where px lie exactly on px they are copied.
 */
export function mapBitmap(source: Pyramid, under: PxUnder, box: PxBox, sampling: Sampling, out: Uint32Array, from = 0, to = box.height): void {
  const { width, height, perPx } = box;
  if (copied(source, under, box, out, from, to)) return;
  const x = box.x + perPx / 2;
  let [row, next] = [new Float64Array(2 * width + 2), new Float64Array(2 * width + 2)];
  if (sampling === 'full') rowUnder(under, x, box.y + (from + 0.5) * perPx, perPx, width + 1, row);
  for (let y = from; y < to; y++) {
    if (sampling === 'quick') quickRow(source, under, x, box.y + (y + 0.5) * perPx, perPx, width, out, y * width);
    else {
      rowUnder(under, x, box.y + (y + 1.5) * perPx, perPx, width + 1, next);
      fullRow(source, row, next, width, out, y * width);
      [row, next] = [next, row];
    }
  }
  if (!source.opaque) divide(out.subarray(from * width, Math.min(to, height) * width));
}

/** Where each px of the box shows exactly one of the bitmap, upright, it is that one. @returns whether it was so */
function copied({ width: w, height: h, straight }: Pyramid, under: PxUnder, box: PxBox, out: Uint32Array, from: number, to: number): boolean {
  const { x, y, perPx, width, height } = box;
  const corners = new Float64Array(6);
  under(x, y, corners, 0);
  under(x + width * perPx, y, corners, 2);
  under(x, y + height * perPx, corners, 4);
  const [u, v] = [Math.round(corners[0]!), Math.round(corners[1]!)];
  const wanted = [u, v, u + width, v, u, v + height];
  if (wanted.some((n, i) => Math.abs(n - corners[i]!) > 1e-6)) return false;
  const inside = (n: number, most: number): number => Math.max(0, Math.min(most - 1, n));
  const seen = (n: number, most: number): boolean => n >= -RIM && n < most + RIM;
  for (let j = from; j < to; j++) {
    if (!seen(v + j, h)) continue;
    const line = inside(v + j, h) * w;
    for (let i = 0; i < width; i++) if (seen(u + i, w)) out[j * width + i] = straight[line + inside(u + i, w)]!;
  }
  return true;
}

/** Px of a row between two places that are reckoned exactly in a quick look: powers of two. */
const MOST_SPAN = 64;
const LEAST_SPAN = 4;
/** Bits of fraction with which a quick look goes from px to px, and the part of a px of the size looked up by which it may miss. */
const BITS = 14;
const STRAIGHT = 1 / 128;
/** Largest bitmap side whose places are told in these bits. */
const MOST_SIDE = 1 << (30 - BITS);

/** A row of a quick look, in spans along which whole steps lead from px to px. */
function quickRow(source: Pyramid, under: PxUnder, x: number, y: number, perPx: number, count: number, out: Uint32Array, first: number): void {
  const at = new Float64Array(6);
  const most = source.levels.length - 1;
  under(x, y, at, 2);
  let span = MOST_SPAN;
  for (let from = 0; from < count; from += span) {
    const u = at[2]!;
    const v = at[3]!;
    span = Math.min(MOST_SPAN, 2 * span);
    let off = Infinity;
    for (; ; span >>= 1) {
      under(x + (from + span) * perPx, y, at, 2);
      under(x + (from + span / 2) * perPx, y, at, 0);
      // In px of the size that is looked up.
      const size = 1 << Math.min(most, sizeFor(Math.hypot(at[2]! - u, at[3]! - v) / span));
      off = (Math.abs(u + at[2]! - 2 * at[0]!) + Math.abs(v + at[3]! - 2 * at[1]!)) / size;
      if (off < 2 * STRAIGHT || span === LEAST_SPAN) break;
    }
    under(x + (from + span / 2) * perPx, y + perPx, at, 4);
    const du = (at[2]! - u) / span;
    const dv = (at[3]! - v) / span;
    const down = (at[4]! - at[0]!) * (at[4]! - at[0]!) + (at[5]! - at[1]!) * (at[5]! - at[1]!);
    const n = Math.min(most, sizeFor(Math.sqrt(Math.max(du * du + dv * dv, down))));
    const scale = 1 / (1 << n);
    const level = source.levels[n]!;
    const to = Math.min(count, from + span);
    if (off < 2 * STRAIGHT && within(level, u * scale, v * scale) && within(level, at[2]! * scale, at[3]! * scale))
      quickSpan(level, u * scale - 0.5, v * scale - 0.5, du * scale, dv * scale, out, first + from, to - from);
    else
      for (let i = from; i < to; i++) {
        under(x + i * perPx, y, at, 0);
        rim(source, level, at[0]!, at[1]!, scale, out, first + i);
      }
  }
}

/** Whether a place lies between px of a level on all sides. */
function within({ width, height }: Level, u: number, v: number): boolean {
  return u >= 0.5 && v >= 0.5 && u < width - 0.51 && v < height - 0.51 && u < MOST_SIDE && v < MOST_SIDE;
}

function quickSpan({ px, width }: Level, u: number, v: number, du: number, dv: number, out: Uint32Array, first: number, count: number): void {
  // Literals of its own: what a bundle keeps for all of its modules is read anew each time.
  const lanes = 0xff00ff;
  const half = 0x800080;
  let x = (u * 16384 + 32) | 0;
  let y = (v * 16384 + 32) | 0;
  const dx = Math.round(du * 16384);
  const dy = Math.round(dv * 16384);
  for (let i = 0; i < count; i++) {
    const at = Math.imul(y >> 14, width) + (x >> 14);
    const fx = (x >> 6) & 255;
    const fy = (y >> 6) & 255;
    const d = (fx * fy + 128) >> 8;
    const b = fx - d;
    const c = fy - d;
    const a = 256 - fx - c;
    const p = px[at]!;
    const q = px[at + 1]!;
    const r = px[at + width]!;
    const s = px[at + width + 1]!;
    const even = (Math.imul(p & lanes, a) + Math.imul(q & lanes, b) + Math.imul(r & lanes, c) + Math.imul(s & lanes, d) + half) | 0;
    const odd =
      (Math.imul((p >>> 8) & lanes, a) + Math.imul((q >>> 8) & lanes, b) + Math.imul((r >>> 8) & lanes, c) + Math.imul((s >>> 8) & lanes, d) + half) | 0;
    out[first + i] = (odd & ~lanes) | ((even >>> 8) & lanes);
    x += dx;
    y += dy;
  }
}

/** A px at the rim or beyond it. */
function rim({ width, height }: Pyramid, level: Level, u: number, v: number, scale: number, out: Uint32Array, at: number): void {
  if (u >= -RIM && v >= -RIM && u <= width + RIM && v <= height + RIM) out[at] = look(level, u * scale - 0.5, v * scale - 0.5);
}

/** Halvings after which a px of the sheet is one to two px long. */
const sizeFor = (length: number): number => (length < 2 ? 0 : 31 - Math.clz32(Math.min(length, 1 << 30)));

/** The px of a level at a place, between the four about it; eight bits of fraction. */
function look({ width, height, px }: Level, x: number, y: number): number {
  let i = Math.floor(x);
  let j = Math.floor(y);
  let fx = ((x - i) * 256 + 0.5) | 0;
  let fy = ((y - j) * 256 + 0.5) | 0;
  if (i < 0) i = fx = 0;
  else if (i >= width - 1) {
    i = width - 1;
    fx = 0;
  }
  if (j < 0) j = fy = 0;
  else if (j >= height - 1) {
    j = height - 1;
    fy = 0;
  }
  const at = j * width + i;
  const across = fx === 0 ? 0 : 1;
  const down = fy === 0 ? 0 : width;
  return blend(px[at]!, px[at + across]!, px[at + down]!, px[at + down + across]!, fx, fy);
}

/** Four px in parts of their ways across and down, out of 256. */
function blend(p: number, q: number, r: number, s: number, fx: number, fy: number): number {
  const lanes = 0xff00ff;
  const d = (fx * fy + 128) >> 8;
  const b = fx - d;
  const c = fy - d;
  const a = 256 - fx - c;
  const even = (Math.imul(p & lanes, a) + Math.imul(q & lanes, b) + Math.imul(r & lanes, c) + Math.imul(s & lanes, d) + 0x800080) | 0;
  const odd =
    (Math.imul((p >>> 8) & lanes, a) + Math.imul((q >>> 8) & lanes, b) + Math.imul((r >>> 8) & lanes, c) + Math.imul((s >>> 8) & lanes, d) + 0x800080) | 0;
  return (odd & ~lanes) | ((even >>> 8) & lanes);
}

function fullRow(source: Pyramid, row: Float64Array, next: Float64Array, count: number, out: Uint32Array, first: number): void {
  const { width, height } = source;
  const most = source.levels.length - 1;
  for (let i = 0; i < count; i++) {
    const u = row[2 * i]!;
    const v = row[2 * i + 1]!;
    const ux = row[2 * i + 2]! - u;
    const vx = row[2 * i + 3]! - v;
    const uy = next[2 * i]! - u;
    const vy = next[2 * i + 1]! - v;
    const reach = RIM + (Math.abs(ux) + Math.abs(uy) + Math.abs(vx) + Math.abs(vy)) / 2;
    if (!(u > -reach && v > -reach && u < width + reach && v < height + reach)) continue;
    const lx = Math.sqrt(ux * ux + vx * vx);
    const ly = Math.sqrt(uy * uy + vy * vy);
    // How wide the px is where it is narrowest, in px of the bitmap.
    const narrow = Math.abs(ux * vy - uy * vx) / (Math.max(lx, ly) || 1);
    let n = Math.min(most, Math.max(0, sizeFor(narrow) - FINER));
    let scale = 1 / (1 << n);
    let nx = placesFor(lx * scale);
    let ny = placesFor(ly * scale);
    while (nx * ny > MOST_PLACES && n < most) {
      scale = 1 / (1 << ++n);
      nx = placesFor(lx * scale);
      ny = placesFor(ly * scale);
    }
    out[first + i] = mean(source.levels[n]!, u * scale - 0.5, v * scale - 0.5, ux * scale, vx * scale, uy * scale, vy * scale, nx, ny);
  }
}

/** The mean of a level over a parallelogram about a place, from `nx` by `ny` places in it. */
function mean(level: Level, x: number, y: number, ux: number, vx: number, uy: number, vy: number, nx: number, ny: number): number {
  if (nx === 1 && ny === 1) return look(level, x, y);
  const lanes = 0xff00ff;
  const half = 0x800080;
  const { width, height, px } = level;
  // Two channels in each: as many places as there are at most, the lower does not run into the upper.
  let even = 0;
  let odd = 0;
  const reachX = (Math.abs(ux) + Math.abs(uy)) / 2;
  const reachY = (Math.abs(vx) + Math.abs(vy)) / 2;
  const inside = x - reachX >= 0 && y - reachY >= 0 && x + reachX < width - 1 && y + reachY < height - 1;
  const dx = (ux / nx) * 256;
  const dy = (vx / nx) * 256;
  for (let j = 0; j < ny; j++) {
    const t = (j + 0.5) / ny - 0.5;
    let sx = (x + uy * t) * 256 + dx * (0.5 - nx / 2) + 0.5;
    let sy = (y + vy * t) * 256 + dy * (0.5 - nx / 2) + 0.5;
    for (let i = 0; i < nx; i++) {
      if (inside) {
        const ix = sx | 0;
        const iy = sy | 0;
        const at = (iy >> 8) * width + (ix >> 8);
        const fx = ix & 255;
        const fy = iy & 255;
        const d = (fx * fy + 128) >> 8;
        const b = fx - d;
        const c = fy - d;
        const a = 256 - fx - c;
        const p = px[at]!;
        const q = px[at + 1]!;
        const r = px[at + width]!;
        const s = px[at + width + 1]!;
        even += ((Math.imul(p & lanes, a) + Math.imul(q & lanes, b) + Math.imul(r & lanes, c) + Math.imul(s & lanes, d) + half) >>> 8) & lanes;
        odd +=
          ((Math.imul((p >>> 8) & lanes, a) + Math.imul((q >>> 8) & lanes, b) + Math.imul((r >>> 8) & lanes, c) + Math.imul((s >>> 8) & lanes, d) + half) >>>
            8) &
          lanes;
      } else {
        const p = look(level, (sx - 0.5) / 256, (sy - 0.5) / 256);
        even += p & lanes;
        odd += (p >>> 8) & lanes;
      }
      sx += dx;
      sy += dy;
    }
  }
  const k = 1 / (nx * ny);
  return (((odd >>> 16) * k + 0.5) << 24) | (((even >>> 16) * k + 0.5) << 16) | (((odd & 0xffff) * k + 0.5) << 8) | ((even & 0xffff) * k + 0.5);
}

/** Colours that were multiplied by their alpha as they were. */
function divide(px: Uint32Array): void {
  for (let i = 0; i < px.length; i++) {
    const p = px[i]!;
    const alpha = p >>> 24;
    if (alpha === 255 || alpha === 0) continue;
    const of = (channel: number): number => Math.min(255, Math.round((channel * 255) / alpha));
    px[i] = ((alpha << 24) | (of((p >>> 16) & 255) << 16) | (of((p >>> 8) & 255) << 8) | of(p & 255)) >>> 0;
  }
}
