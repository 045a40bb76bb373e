import type { Pixels } from '../math/pixels';
import type { SheetPoint } from '../math/points';
import { randomFrom } from '../math/random';
import { coveredBy } from './covered';
import { exposureRatio } from './exposure';
import { grainOf, type Grain } from './grain';
import { grayOf } from './gray';
import type { KeptFit } from './kept-fit';
import { paperLight, type SeenPaper } from './paper-light';
import { photoSide, shownOf, type Shown } from './photo-side';
import { registeredPlace, type Registration } from './register';
import { shadeAt, shadeMap, type ShadeMap, type SheetArea } from './shade';

/** A picture for a part of a photograph: its px, and the box in px of the photograph that they fill. */
export interface MadePart {
  readonly px: Pixels;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Most px of the pictures that a light is written as; light is smooth. */
const MOST_PX = 300_000;
/** Lattices beyond the lattice that light is taken from, across and down. */
const BEYOND = 1;
/** What a place is multiplied with that is half as grained: the middle of an overlay changes nothing. */
const MIDDLE = 128;

/** A photograph of the lattice that a surface was fitted by, and how it lies on the bare one; null for that one itself. */
export interface Latticed {
  readonly photo: Pixels;
  readonly registration: Registration | null;
}

/**
 * Shade and highlights of a surface as pictures; null where nothing of it is seen.
 * @param latticed the photograph of its lattice, whose paper tells what white is; the brightest place is taken for it where there is none
 */
export function lightParts(bare: Pixels, fit: KeptFit, latticed: Latticed | null): { readonly shade: MadePart; readonly gloss: MadePart } | null {
  const area = areaOf(fit);
  const side = photoSide(fit);
  const seen = (u: number, v: number): { x: number; y: number } | null => {
    const [from, to] = side.limits(v);
    return v < side.minV || v > side.maxV || u < from || u > to ? null : side.shown(u, v);
  };
  const map = shadeMap(bare, area, seen, null, latticed && ((grid): Float32Array | null => paperLight(seenPaper(bare, fit, seen, latticed), grid)));
  if (!map) return null;
  const box = boxOf(fit, area, bare);
  if (!box) return null;
  const k = Math.min(1, Math.sqrt(MOST_PX / (box.width * box.height)));
  const [wide, high] = [Math.max(1, Math.round(box.width * k)), Math.max(1, Math.round(box.height * k))];
  const [shade, gloss] = [new Uint8ClampedArray(4 * wide * high), new Uint8ClampedArray(4 * wide * high)];
  fill(map, side.under, box, wide, high, shade, gloss);
  const of = (data: Uint8ClampedArray): MadePart => ({ px: { width: wide, height: high, data }, ...box });
  return { shade: of(shade), gloss: of(gloss) };
}

/** The paper of a lattice as its photograph has it. */
function seenPaper(bare: Pixels, fit: KeptFit, seen: Shown, { photo, registration }: Latticed): SeenPaper {
  const gray = grayOf(photo);
  const { blur } = grainOf(gray);
  const { lattice } = fit;
  if (!registration) return { photo: gray, lattice, shown: seen, blur, gain: 1 };
  const placed = (at: SheetPoint): SheetPoint => registeredPlace(registration, bare, at);
  const moved =
    (shown: Shown): Shown =>
    (u, v) => {
      const at = shown(u, v);
      return at && placed(at);
    };
  // Paper lies round the lattice too, where the fit may not go.
  const gain = exposureRatio(grayOf(bare), gray, placed, coveredBy(lattice, moved(shownOf(fit)), photo));
  return { photo: gray, lattice, shown: moved(seen), blur, gain };
}

/** The part of a sheet that light is taken from: the lattice and what lies round it, as far as it is seen. */
function areaOf(fit: KeptFit): SheetArea {
  const { columns, rows, box } = fit.lattice;
  const [wide, tall] = [columns * box, rows * box];
  const { minV, maxV, limits } = photoSide(fit);
  const [top, bottom] = [Math.max(minV, -BEYOND * tall), Math.min(maxV, (1 + BEYOND) * tall)];
  const [left, right] = limits(tall / 2);
  return { minU: Math.max(left, -BEYOND * wide), maxU: Math.min(right, (1 + BEYOND) * wide), minV: top, maxV: bottom };
}

/** The box of a part of a sheet in px of the photograph, within it. */
function boxOf(fit: KeptFit, { minU, maxU, minV, maxV }: SheetArea, photo: Pixels): { x: number; y: number; width: number; height: number } | null {
  const { shown } = photoSide(fit);
  const [xs, ys]: [number[], number[]] = [[], []];
  for (let j = 0; j <= 24; j++)
    for (let i = 0; i <= 24; i++) {
      const at = shown(minU + ((maxU - minU) * i) / 24, minV + ((maxV - minV) * j) / 24);
      if (at) {
        xs.push(at.x);
        ys.push(at.y);
      }
    }
  const [x, y] = [Math.max(0, Math.floor(Math.min(...xs))), Math.max(0, Math.floor(Math.min(...ys)))];
  const [width, height] = [Math.min(photo.width, Math.ceil(Math.max(...xs))) - x, Math.min(photo.height, Math.ceil(Math.max(...ys))) - y];
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}

function fill(
  map: ShadeMap,
  under: (x: number, y: number) => { readonly u: number; readonly v: number } | null,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  wide: number,
  high: number,
  shade: Uint8ClampedArray,
  gloss: Uint8ClampedArray,
): void {
  for (let j = 0; j < high; j++)
    for (let i = 0; i < wide; i++) {
      const place = under(box.x + ((i + 0.5) / wide) * box.width, box.y + ((j + 0.5) / high) * box.height);
      const light = place ? shadeAt(map, place.u, place.v) : null;
      const at = 4 * (j * wide + i);
      for (let c = 0; c < 3; c++) {
        shade[at + c] = light ? Math.round(255 * light.shade) : 255;
        gloss[at + c] = light ? Math.round(255 * light.gloss) : 0;
      }
      shade[at + 3] = gloss[at + 3] = 255;
    }
}

/** The grain of a photograph as a picture to be laid over a part of it, and what was measured. Seeded: the same for the same photograph. */
export function grainPart(bare: Pixels, fit: KeptFit): { readonly part: MadePart; readonly grain: Grain } | null {
  const box = boxOf(fit, areaOf(fit), bare);
  if (!box) return null;
  const grain = grainOf(grayOf(bare));
  const random = randomFrom(bare.width * 31 + bare.height);
  const data = new Uint8ClampedArray(4 * box.width * box.height);
  for (let i = 0; i < box.width * box.height; i++) {
    const value = MIDDLE + grain.noise * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    data.fill(Math.round(value), 4 * i, 4 * i + 3);
    data[4 * i + 3] = 255;
  }
  return { part: { px: { width: box.width, height: box.height, data }, ...box }, grain };
}

/** What stands in front: the part of a photograph within an outline, its edge fading over some px. @param points x and y of its corners, in px */
export function maskPart(bare: Pixels, points: readonly number[], soft: number): MadePart | null {
  const [xs, ys] = [points.filter((_, i) => i % 2 === 0), points.filter((_, i) => i % 2 === 1)];
  const room = Math.ceil(soft);
  const [x, y] = [Math.max(0, Math.floor(Math.min(...xs)) - room), Math.max(0, Math.floor(Math.min(...ys)) - room)];
  const [width, height] = [Math.min(bare.width, Math.ceil(Math.max(...xs)) + room) - x, Math.min(bare.height, Math.ceil(Math.max(...ys)) + room) - y];
  if (width <= 0 || height <= 0) return null;
  const data = new Uint8ClampedArray(4 * width * height);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const inside = depthIn(xs, ys, x + i + 0.5, y + j + 0.5);
      const [from, at] = [4 * ((y + j) * bare.width + x + i), 4 * (j * width + i)];
      for (let c = 0; c < 3; c++) data[at + c] = bare.data[from + c]!;
      // Half seen on the outline itself, as wide to either side as the edge is soft.
      data[at + 3] = Math.round(255 * Math.max(0, Math.min(1, 0.5 + inside / Math.max(1, soft))));
    }
  return { px: { width, height, data }, x, y, width, height };
}

/** How far inside of a polygon a place lies, in px; less than 0 outside. */
function depthIn(xs: readonly number[], ys: readonly number[], x: number, y: number): number {
  let [least, inside] = [Infinity, false];
  for (let i = 0, k = xs.length - 1; i < xs.length; k = i++) {
    const [ax, ay, bx, by] = [xs[k]!, ys[k]!, xs[i]!, ys[i]!];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(x - ax - dx * t, y - ay - dy * t));
  }
  return inside ? least : -least;
}
