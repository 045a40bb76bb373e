import { invert33, type Mat33 } from '../math/matrix';
import { cutHalfPlane, type Segment } from './cut';
import type { Extent } from './settings';

/** A part of the sheet, in sheet units. */
export interface SheetBox {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** A family of parallel lines of a plane's grid as it is seen. */
export interface LineFamily {
  /** `u`: lines along which u is constant; `v`: likewise. */
  readonly across: 'u' | 'v';
  /** For each piece of a line its index in cells, its ends `[x0, y0, x1, y1]`, and how strong it is, up to 1. */
  readonly indices: readonly number[];
  readonly ends: readonly number[];
  readonly strengths: readonly number[];
}

/** How lines are thinned and faded with distance. */
export interface GridLook {
  /** Closest distance of lines in sheet units; where they come closer, only every n-th is drawn, then every n^2-th. */
  readonly closest: number;
  /** That n: usually the bold lines' count. */
  readonly bold: number;
  /** How much lines lose with distance, 0 to 1. */
  readonly fading: number;
  readonly extent: Extent | null;
}

/** Most lines of one level: on a sheet of a kilometre the finer levels are left out rather than never finished. */
const MOST_LINES = 20_000;
/** Thinned levels: with n = 2 the last shows every 256th line. */
const LEVELS = 9;
/** Between two bands of strength the distance grows by this factor, up to so many bands. */
const BAND = 0.75;
const BANDS = 10;

/**
 * The two line families of a plane's grid, cut to what is seen.
 *
 * With G the inverse of the plane's homography, a sheet point s lies over the plane point (G1 s, G2 s) / G3 s, and
 * G3 s is one over its depth: positive in front of the eye, zero on the plane's vanishing line. The line u = i is
 * (G1 - i G3) s = 0, and the distance to the next line of step n on the sheet is n (G3 s) / |G1 - i G3|: affine along
 * the line. So where a line gets too close to its neighbours, where it changes its strength, and where it leaves the
 * box or the extent are all single cuts, and neither end of a line is ever projected. Cost grows with the lines
 * drawn; a plane seen edge-on has none.
 */
export function gridLines(sheetFromPlane: Mat33, seen: SheetBox, look: GridLook): readonly LineFamily[] {
  const g = invert33(sheetFromPlane);
  if (!g) return [];
  return [
    family('u', [g[0], g[1], g[2]], [g[3], g[4], g[5]], [g[6], g[7], g[8]], seen, look),
    family('v', [g[3], g[4], g[5]], [g[0], g[1], g[2]], [g[6], g[7], g[8]], seen, look),
  ];
}

type Row = readonly [number, number, number];

function family(across: 'u' | 'v', own: Row, other: Row, depth: Row, seen: SheetBox, look: GridLook): LineFamily {
  const step = look.bold > 1 ? look.bold : 5;
  const corners = cornersOf(seen);
  const nearest = Math.max(...corners.map(([x, y]) => at(depth, x, y)));
  const found: LineFamily = { across, indices: [], ends: [], strengths: [] };
  if (!(nearest > 0)) return found;
  const [least, most] = rangeOf(own, depth, corners, nearest, across === 'u' ? look.extent : swapped(look.extent));
  const [own2, depth2] = [Math.hypot(own[0], own[1]), Math.hypot(depth[0], depth[1])];
  // |G1 - i G3|^2 = |G3|^2 (i - centre)^2 + apart^2: it grows away from one index, wherever the origin lies.
  const centre = depth2 > 0 ? (own[0] * depth[0] + own[1] * depth[1]) / depth2 ** 2 : 0;
  const apart = depth2 > 0 ? (own[0] * depth[1] - own[1] * depth[0]) / depth2 : 0;
  for (let level = 0, stride = 1; level < LEVELS; level++, stride *= step) {
    // Lines for which it is larger are too close to their neighbours even where they are nearest.
    const widest = (stride * nearest) / look.closest;
    if (depth2 > 0 && widest < Math.abs(apart)) continue;
    const reach = depth2 > 0 ? Math.sqrt(widest ** 2 - apart ** 2) / depth2 : Infinity;
    const first = Math.ceil(Math.max(least, centre - reach) / stride) * stride;
    const last = Math.min(most, centre + reach);
    if (depth2 === 0 && (stride * nearest) / own2 < look.closest) continue;
    if ((last - first) / stride > MOST_LINES) continue;
    for (let i = first; i <= last; i += stride) {
      if (level < LEVELS - 1 && i % (stride * step) === 0) continue;
      drawLine(found, i === 0 ? 0 : i, stride, own, other, depth, seen, look, nearest);
    }
  }
  return found;
}

function drawLine(found: LineFamily, i: number, stride: number, own: Row, other: Row, depth: Row, seen: SheetBox, look: GridLook, nearest: number): void {
  const [p, q, r] = [own[0] - i * depth[0], own[1] - i * depth[1], own[2] - i * depth[2]];
  const slope = Math.hypot(p, q);
  let line = slope > 0 ? cutLine(p, q, r, seen) : null;
  const parallel = depth[0] === 0 && depth[1] === 0;
  if (line && !parallel) line = cutHalfPlane(line, depth, Math.max((look.closest * slope) / stride, nearest * 1e-9));
  const extent = found.across === 'u' ? look.extent : swapped(look.extent);
  if (line && extent) {
    line = cutHalfPlane(line, [other[0] - extent.minV * depth[0], other[1] - extent.minV * depth[1], other[2] - extent.minV * depth[2]], 0);
    line = line && cutHalfPlane(line, [extent.maxV * depth[0] - other[0], extent.maxV * depth[1] - other[1], extent.maxV * depth[2] - other[2]], 0);
  }
  if (!line) return;
  if (parallel || look.fading === 0) return add(found, i, line, 1);
  let upper = Infinity;
  for (let band = 0; band < BANDS; band++) {
    const lower = band === BANDS - 1 ? 0 : nearest * BAND ** (band + 1);
    const part: Segment | null = cutHalfPlane(line, depth, lower);
    const inBand = part && (upper === Infinity ? part : cutHalfPlane(part, [-depth[0], -depth[1], -depth[2]], -upper));
    if (inBand) add(found, i, inBand, BAND ** ((band + 0.5) * 1.5 * look.fading));
    upper = lower;
  }
}

function add(found: LineFamily, index: number, line: Segment, strength: number): void {
  (found.indices as number[]).push(index);
  (found.ends as number[]).push(...line);
  (found.strengths as number[]).push(strength);
}

const at = ([p, q, r]: Row, x: number, y: number): number => p * x + q * y + r;

function swapped(extent: Extent | null): Extent | null {
  return extent && { minU: extent.minV, maxU: extent.maxV, minV: extent.minU, maxV: extent.maxU };
}

function cornersOf({ minX, minY, maxX, maxY }: SheetBox): readonly (readonly [number, number])[] {
  return [
    [minX, minY],
    [maxX, minY],
    [maxX, maxY],
    [minX, maxY],
  ];
}

/** Smallest and largest index that meets the part of the box in front of the eye; the ratio has its extremes at corners. */
function rangeOf(own: Row, depth: Row, corners: readonly (readonly [number, number])[], nearest: number, extent: Extent | null): readonly [number, number] {
  const least = nearest * 1e-9;
  let [min, max] = [Infinity, -Infinity];
  const take = (x: number, y: number): void => {
    const value = at(own, x, y) / Math.max(at(depth, x, y), least);
    min = Math.min(min, value);
    max = Math.max(max, value);
  };
  corners.forEach(([x, y], k) => {
    const [x2, y2] = corners[(k + 1) % 4]!;
    const [d, d2] = [at(depth, x, y), at(depth, x2, y2)];
    if (d >= least) take(x, y);
    if (d >= least !== d2 >= least) {
      const t = (least - d) / (d2 - d);
      take(x + (x2 - x) * t, y + (y2 - y) * t);
    }
  });
  return extent ? [Math.max(min, extent.minU), Math.min(max, extent.maxU)] : [min, max];
}

/** The ends of the line p x + q y + r = 0 within a box, or null where it misses it. */
export function cutLine(p: number, q: number, r: number, box: SheetBox): Segment | null {
  const ends: number[] = [];
  const slack = 1e-9 * (Math.abs(box.maxX) + Math.abs(box.maxY) + 1);
  const take = (x: number, y: number): void => {
    const within = x >= box.minX - slack && x <= box.maxX + slack && y >= box.minY - slack && y <= box.maxY + slack;
    if (within && !(ends.length > 0 && Math.abs(ends[0]! - x) + Math.abs(ends[1]! - y) < slack)) ends.push(x, y);
  };
  if (q !== 0) for (const x of [box.minX, box.maxX]) take(x, -(p * x + r) / q);
  if (p !== 0) for (const y of [box.minY, box.maxY]) take(-(q * y + r) / p, y);
  return ends.length >= 4 ? [ends[0]!, ends[1]!, ends[2]!, ends[3]!] : null;
}
