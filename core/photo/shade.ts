import type { Pixels } from '../math/pixels';
import { solveSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import { medianOf, spreadOf, tukeyWeight } from '../math/robust';

/** A rectangle of a sheet, in mm from its upper left crossing. */
export interface SheetArea {
  readonly minU: number;
  readonly minV: number;
  readonly maxU: number;
  readonly maxV: number;
}

/** Places of a sheet in columns and rows, each in the middle of its part of the area. */
export interface ShadeGrid extends SheetArea {
  readonly columns: number;
  readonly rows: number;
}

/** The light on a surface by places of its sheet, row by row: what artwork on it is multiplied with, and what is added. */
export interface ShadeMap extends ShadeGrid {
  /** 1 where white paper would be white. */
  readonly shade: Float32Array;
  /** Light that the surface throws back like a mirror, 0 to 1, added to every channel. */
  readonly gloss: Float32Array;
}

/** Places along the longer side of a shade map. */
const FINE = 220;
/** How far colours may lie apart, as parts of their sum, and be one colour in more or less light. */
const SAME_COLOUR = 0.022;
/** Part of all places that a colour has to have to be one of the thing's. */
const OFTEN = 0.03;
/** Most colours of a thing. */
const MOST_COLOURS = 4;
/** Places round a place that tell its gloss, the fewest, how many times chance it has to be, and the least besides. */
const [GLOSS_NEAR, GLOSS_FEWEST, GLOSS_SURE, GLOSS_LEAST] = [3, 12, 3, 0.012];
/** Sine of the angle between a colour and white below which gloss cannot be told from light. */
const GRAY = 0.12;

type Rgb = readonly [number, number, number];

/**
 * The light on a bare thing, its colours and print taken out: what has one colour is lit by what is left of it, gloss is
 * what is added in white (Shafer's dichromatic reflection, 1985), and where colours meet the light goes on as beside it.
 * @param shown where a place of the sheet is shown in the photograph; null where it is turned away
 * @param colour the share of light that the thing's main colour gives back, if it is known; else its brightest place is
 * taken to be fully lit, where no paper tells
 * @param paper the light on white paper, in levels, at every place of the map on which some lies; NaN elsewhere
 * @returns null where nothing of the area is seen
 */
export function shadeMap(
  bare: Pixels,
  area: SheetArea,
  shown: (u: number, v: number) => SheetPoint | null,
  colour: Rgb | null = null,
  paper: ((grid: ShadeGrid) => Float32Array | null) | null = null,
): ShadeMap | null {
  const grid = shadeGrid(area);
  const { columns, rows } = grid;
  const [wide, tall] = [area.maxU - area.minU, area.maxV - area.minV];
  const rgb = new Float32Array(3 * columns * rows).fill(NaN);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = shown(area.minU + ((i + 0.5) / columns) * wide, area.minV + ((j + 0.5) / rows) * tall);
      if (at && at.x > 1 && at.y > 1 && at.x < bare.width - 1 && at.y < bare.height - 1) readMean(bare, at, rgb, 3 * (j * columns + i));
    }
  const colours = coloursIn(rgb);
  if (colours.length === 0) return null;
  const parts = taken(rgb, colours);
  const smooth = smoothLight(parts, columns, rows, colours.length);
  if (!smooth) return null;
  const { light, offsets } = smooth;
  const shade = new Float32Array(columns * rows);
  const whiter = new Float32Array(columns * rows).fill(NaN);
  for (let k = 0; k < shade.length; k++) {
    const own = parts.of[k]!;
    const sure = own >= 0 && !meetsOther(parts.of, k, columns, rows);
    shade[k] = sure ? parts.light[k]! / Math.exp(offsets[own]!) : light[k]!;
    if (sure) whiter[k] = parts.whiter[k]! / 255;
  }
  const [calm, sheen] = [calmed(shade, columns, rows), glossOf(whiter, columns, rows)];
  const white = paper?.(grid);
  if (white) return { ...grid, shade: byPaper(calm, sheen, white, grid), gloss: sheen };
  const scale = scaleOf(calm, colours[0]!, colour);
  return { ...grid, shade: calm.map((value) => value * scale), gloss: sheen };
}

/** The places of a map, as close as light needs them. */
function shadeGrid(area: SheetArea): ShadeGrid {
  const [wide, tall] = [area.maxU - area.minU, area.maxV - area.minV];
  const long = Math.max(wide, tall);
  const [columns, rows] = [wide, tall].map((side) => Math.max(8, Math.round((FINE * side) / long))) as [number, number];
  return { ...area, columns, rows };
}

/** The mean of four px about a place. */
function readMean({ width, data }: Pixels, { x, y }: SheetPoint, out: Float32Array, at: number): void {
  const [i, j] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [s, t] = [x - 0.5 - i, y - 0.5 - j];
  for (let c = 0; c < 3; c++) {
    const px = (dx: number, dy: number): number => data[4 * ((j + dy) * width + i + dx) + c]!;
    out[at + c] = (px(0, 0) * (1 - s) + px(1, 0) * s) * (1 - t) + (px(0, 1) * (1 - s) + px(1, 1) * s) * t;
  }
}

/** The colours of a thing by how often they are seen, as directions of brightness 1: places of like parts of red and green. */
function coloursIn(rgb: Float32Array): readonly Rgb[] {
  const places: { readonly r: number; readonly g: number; readonly k: number }[] = [];
  for (let k = 0; k < rgb.length / 3; k++) {
    const sum = rgb[3 * k]! + rgb[3 * k + 1]! + rgb[3 * k + 2]!;
    if (sum > 24) places.push({ r: rgb[3 * k]! / sum, g: rgb[3 * k + 1]! / sum, k });
  }
  const colours: Rgb[] = [];
  let left = places;
  while (colours.length < MOST_COLOURS && left.length > OFTEN * places.length) {
    const counts = new Map<number, number>();
    for (const { r, g } of left) {
      const bin = Math.round(r * 80) * 100 + Math.round(g * 80);
      counts.set(bin, (counts.get(bin) ?? 0) + 1);
    }
    const [bin] = [...counts].reduce((p, q) => (q[1] > p[1] ? q : p));
    const [r, g] = [Math.floor(bin / 100) / 80, (bin % 100) / 80];
    const near = left.filter((place) => Math.hypot(place.r - r, place.g - g) < SAME_COLOUR);
    if (near.length < OFTEN * places.length) break;
    const mean = [0, 1, 2].map((c) => near.reduce((sum, { k }) => sum + rgb[3 * k + c]!, 0) / near.length) as unknown as Rgb;
    const bright = brightness(mean);
    colours.push([mean[0] / bright, mean[1] / bright, mean[2] / bright]);
    left = left.filter((place) => Math.hypot(place.r - r, place.g - g) >= 2 * SAME_COLOUR);
  }
  return colours;
}

const brightness = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

interface Parts {
  /** Which colour a place has; -1 where it is none of them. */
  readonly of: Int8Array;
  /** Its brightness without gloss, and the gloss, in levels. */
  readonly light: Float32Array;
  readonly gloss: Float32Array;
  /** The same below nothing too, as noise has it, so that its mean is true; NaN where white cannot be told from the colour. */
  readonly whiter: Float32Array;
}

/** Every place as so much of one of the colours and so much of white. */
function taken(rgb: Float32Array, colours: readonly Rgb[]): Parts {
  const count = rgb.length / 3;
  const parts: Parts = {
    of: new Int8Array(count).fill(-1),
    light: new Float32Array(count),
    gloss: new Float32Array(count),
    whiter: new Float32Array(count).fill(NaN),
  };
  for (let k = 0; k < count; k++) {
    const own: Rgb = [rgb[3 * k]!, rgb[3 * k + 1]!, rgb[3 * k + 2]!];
    if (Number.isNaN(own[0])) continue;
    let least = Math.max(5, 0.05 * brightness(own)) ** 2;
    colours.forEach((colour, i) => {
      const { light, gloss, whiter, off } = split(own, colour);
      // Gloss has to explain much before it is believed.
      const cost = off + 0.02 * gloss * gloss;
      if (cost >= least) return;
      least = cost;
      parts.of[k] = i;
      parts.light[k] = light;
      parts.gloss[k] = gloss;
      parts.whiter[k] = whiter;
    });
  }
  return parts;
}

/** A colour as `light colour + gloss white`, none below 0, and the square of what is left. */
function split(own: Rgb, colour: Rgb): { readonly light: number; readonly gloss: number; readonly whiter: number; readonly off: number } {
  const dot = (p: Rgb, q: Rgb): number => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  const white: Rgb = [1, 1, 1];
  const [cc, cw, ww, oc, ow] = [dot(colour, colour), dot(colour, white), 3, dot(own, colour), dot(own, white)];
  const det = cc * ww - cw * cw;
  let [light, gloss, whiter] = [oc / cc, 0, NaN];
  if (det > GRAY * GRAY * cc * ww) {
    const both: readonly [number, number] = [(oc * ww - ow * cw) / det, (ow * cc - oc * cw) / det];
    whiter = both[1];
    if (both[1] > 0 && both[0] > 0) [light, gloss] = both;
  }
  const off = [0, 1, 2].reduce((sum, c) => sum + (own[c]! - light * colour[c]! - gloss) ** 2, 0);
  return { light, gloss, whiter, off };
}

/** Powers of the place across and down in the smooth light. */
const POWERS = [[0, 0], [1, 0], [0, 1], [2, 0], [1, 1], [0, 2], [3, 0], [2, 1], [1, 2], [4, 0], [3, 1], [2, 2], [5, 0], [4, 1], [6, 0]] as const; // prettier-ignore

/** A light that changes slowly over the sheet, and how bright each colour is in it: the logarithms, by least squares, with what strays left out. */
function smoothLight(
  { of, light }: Parts,
  columns: number,
  rows: number,
  colours: number,
): { readonly light: Float32Array; readonly offsets: readonly number[] } | null {
  const n = POWERS.length + colours - 1;
  const rowAt = (k: number): number[] => {
    const [x, y] = [(2 * ((k % columns) + 0.5)) / columns - 1, (2 * (Math.floor(k / columns) + 0.5)) / rows - 1];
    return POWERS.map(([p, q]) => x ** p * y ** q);
  };
  const places: { readonly row: readonly number[]; readonly value: number; readonly own: number }[] = [];
  for (let k = 0; k < of.length; k += 3) if (of[k]! >= 0 && light[k]! > 2) places.push({ row: rowAt(k), value: Math.log(light[k]!), own: of[k]! });
  if (places.length < 4 * n) return null;
  let weights = places.map(() => 1);
  let solved: readonly number[] | null = null;
  for (let round = 0; round < 5; round++) {
    const normal = new Array<number>(n * n).fill(0);
    const right = new Array<number>(n).fill(0);
    places.forEach(({ row, value, own }, i) => {
      const full = own === 0 ? row : [...row];
      for (let a = 0; a < POWERS.length; a++) {
        const wa = weights[i]! * full[a]!;
        right[a]! += wa * value;
        for (let b = 0; b < POWERS.length; b++) normal[a * n + b]! += wa * full[b]!;
      }
      if (own === 0) return;
      const o = POWERS.length + own - 1;
      right[o]! += weights[i]! * value;
      normal[o * n + o]! += weights[i]!;
      for (let b = 0; b < POWERS.length; b++) {
        normal[o * n + b]! += weights[i]! * full[b]!;
        normal[b * n + o]! += weights[i]! * full[b]!;
      }
    });
    for (let a = 0; a < n; a++) normal[a * n + a]! += 1e-6 * places.length;
    solved = solveSymmetric(normal, right);
    if (!solved) return null;
    const off = places.map(({ row, value, own }) => value - valueAt(solved!, row) - (own === 0 ? 0 : solved![POWERS.length + own - 1]!));
    const spread = Math.max(0.01, spreadOf(off));
    // Nothing counts for naught, so that every colour keeps a light.
    weights = off.map((value) => Math.max(1e-3, tukeyWeight(value, spread)));
  }
  const smooth = Float32Array.from({ length: columns * rows }, (_, k) => Math.exp(valueAt(solved!, rowAt(k))));
  return { light: smooth, offsets: [0, ...solved!.slice(POWERS.length)] };
}

function valueAt(solved: readonly number[], row: readonly number[]): number {
  let sum = 0;
  for (let a = 0; a < row.length; a++) sum += solved[a]! * row[a]!;
  return sum;
}

/** Whether another colour, or none, lies right beside a place. */
function meetsOther(of: Int8Array, k: number, columns: number, rows: number): boolean {
  const [i, j] = [k % columns, Math.floor(k / columns)];
  for (let dj = -2; dj <= 2; dj++)
    for (let di = -2; di <= 2; di++) {
      const [x, y] = [i + di, j + dj];
      if (x >= 0 && y >= 0 && x < columns && y < rows && of[y * columns + x] !== of[k]) return true;
    }
  return false;
}

/**
 * Gloss where it stands out of the noise: the middle of what places of clear colour near by say, less what chance makes of
 * nothing. @param whiter how much whiter than its colour a place is; NaN where that is not sure
 */
function glossOf(whiter: Float32Array, columns: number, rows: number): Float32Array {
  const middle = new Float32Array(columns * rows);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const near: number[] = [];
      for (let y = Math.max(0, j - GLOSS_NEAR); y <= Math.min(rows - 1, j + GLOSS_NEAR); y++)
        for (let x = Math.max(0, i - GLOSS_NEAR); x <= Math.min(columns - 1, i + GLOSS_NEAR); x++) {
          const value = whiter[y * columns + x]!;
          if (!Number.isNaN(value)) near.push(value);
        }
      if (near.length < GLOSS_FEWEST) continue;
      const at = medianOf(near);
      const chance = spreadOf(near.map((value) => value - at)) / Math.sqrt(near.length);
      // Nothing below what is surely more than chance.
      middle[j * columns + i] = at > GLOSS_SURE * chance + GLOSS_LEAST ? at : 0;
    }
  return calmed(middle, columns, rows);
}

/** Values with their noise taken out: the mean of nine about each, weighted towards the middle. */
function calmed(values: Float32Array, columns: number, rows: number): Float32Array {
  return values.map((_, k) => {
    const [i, j] = [k % columns, Math.floor(k / columns)];
    let [sum, weights] = [0, 0];
    for (let dj = -1; dj <= 1; dj++)
      for (let di = -1; di <= 1; di++) {
        const [x, y] = [i + di, j + dj];
        if (x < 0 || y < 0 || x >= columns || y >= rows) continue;
        const weight = (2 - Math.abs(di)) * (2 - Math.abs(dj));
        sum += weight * values[y * columns + x]!;
        weights += weight;
      }
    return sum / weights;
  });
}

/** Places about a place of the paper over which its light is compared with that on the thing. */
const COMPARED = 4;

/**
 * The light by white paper where some lies, and round it as the light on the thing goes on from there.
 * @param shade the light on the thing, to any scale, and @param white that on the paper in levels, NaN beside it
 */
function byPaper(shade: Float32Array, gloss: Float32Array, white: Float32Array, { columns, rows }: ShadeGrid): Float32Array {
  const shines = shineOf(gloss, white, columns, rows);
  const own = white.map((value, k) => value / 255 - shines * gloss[k]!);
  const ratio = (i: number, j: number): number => {
    let [sum, count] = [0, 0];
    for (let y = Math.max(0, j - COMPARED); y <= Math.min(rows - 1, j + COMPARED); y++)
      for (let x = Math.max(0, i - COMPARED); x <= Math.min(columns - 1, i + COMPARED); x++) {
        const k = y * columns + x;
        if (Number.isNaN(own[k]!) || !(shade[k]! > 0)) continue;
        sum += own[k]! / shade[k]!;
        count++;
      }
    return count > 0 ? sum / count : NaN;
  };
  const nearest = nearestKnown(own, columns, rows);
  return own.map((value, k) => {
    if (!Number.isNaN(value)) return value;
    const from = nearest[k]!;
    const times = ratio(from % columns, Math.floor(from / columns));
    // Where nothing of the thing tells how its light goes on, it stays.
    return Number.isNaN(times) ? own[from]! : shade[k]! * times;
  });
}

/** The place nearest to each at which a value is known, by steps across and down. */
function nearestKnown(values: Float32Array, columns: number, rows: number): Int32Array {
  const nearest = Int32Array.from(values, (value, k) => (Number.isNaN(value) ? -1 : k));
  let front = [...nearest.keys()].filter((k) => nearest[k]! >= 0);
  while (front.length > 0) {
    const next: number[] = [];
    for (const k of front) {
      const [i, j] = [k % columns, Math.floor(k / columns)];
      for (const [x, y] of [[i - 1, j], [i + 1, j], [i, j - 1], [i, j + 1]] as const) {
        const at = y * columns + x;
        if (x < 0 || y < 0 || x >= columns || y >= rows || nearest[at]! >= 0) continue;
        nearest[at] = nearest[k]!;
        next.push(at);
      } // prettier-ignore
    }
    front = next;
  }
  return nearest;
}

/** The part of the thing's gloss that its paper has: that which leaves its light smoothest, 0 to 1. */
function shineOf(gloss: Float32Array, white: Float32Array, columns: number, rows: number): number {
  let [both, own] = [0, 1e-9];
  for (let j = 1; j < rows - 1; j++)
    for (let i = 1; i < columns - 1; i++) {
      const k = j * columns + i;
      const bend = (of: Float32Array): number => 4 * of[k]! - of[k - 1]! - of[k + 1]! - of[k - columns]! - of[k + columns]!;
      const [w, g] = [bend(white) / 255, bend(gloss)];
      if (Number.isNaN(w)) continue;
      both += w * g;
      own += g * g;
    }
  return Math.max(0, Math.min(1, both / own));
}

/** What makes the light of a brightness of the main colour the light of white. */
function scaleOf(shade: Float32Array, main: Rgb, colour: Rgb | null): number {
  if (colour) return 1 / (255 * brightness(colour));
  const sorted = [...shade].sort((p, q) => p - q);
  return 1 / Math.max(1, sorted[Math.floor(sorted.length * 0.98)]!) / brightness(main);
}

/** Light and gloss at a place of the sheet, between those that are known. */
export function shadeAt(
  { minU, minV, maxU, maxV, columns, rows, shade, gloss }: ShadeMap,
  u: number,
  v: number,
): { readonly shade: number; readonly gloss: number } {
  const x = Math.max(0, Math.min(columns - 1.001, ((u - minU) / (maxU - minU)) * columns - 0.5));
  const y = Math.max(0, Math.min(rows - 1.001, ((v - minV) / (maxV - minV)) * rows - 0.5));
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [s, t] = [x - i, y - j];
  const at = j * columns + i;
  const between = (values: Float32Array): number =>
    (values[at]! * (1 - s) + values[at + 1]! * s) * (1 - t) + (values[at + columns]! * (1 - s) + values[at + columns + 1]! * s) * t;
  return { shade: between(shade), gloss: between(gloss) };
}
