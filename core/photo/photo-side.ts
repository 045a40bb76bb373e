import type { SheetPoint } from '../math/points';
import { bentOf, bentShown } from './fit-bent';
import { patchShown } from './fit-patch';
import type { KeptFit } from './kept-fit';

/** A place of a surface's sheet, in mm right of and below the lattice's upper left crossing. */
export interface SheetPlace {
  readonly u: number;
  readonly v: number;
}

/** A fitted surface as it is seen in its photograph, as far as it is turned to the camera. */
export interface PhotoSide {
  /** From the top to the bottom of what is seen, in mm. */
  readonly minV: number;
  readonly maxV: number;
  /** The leftmost and rightmost place that is seen at a height. */
  limits(v: number): readonly [number, number];
  /** Where a place is shown, in px; what is turned away, or beyond what is seen, is shown at its rim. */
  shown(u: number, v: number): SheetPoint | null;
  /** The place that is shown at a px; null where there is none. */
  under(x: number, y: number): SheetPlace | null;
}

/** Heights at which the rim is looked for, and how far beyond the lattice, in lattices. */
const [HEIGHTS, BEYOND_DOWN, BEYOND_ACROSS] = [24, 3, 6];
/** Steps in which it is looked for, to the lattice. */
const FINE = 40;
/** Part of the picture beyond its edge to which a surface is followed. */
const AROUND = 0.5;
/** Part of the area that the middle has of a place that is seen edge-on. */
const EDGE_ON = 0.01;
/** Step in mm, in parts of the lattice, by which directions are measured. */
const STEP = 1e-4;
/** Places each way from which a place is looked for, rounds of it, and px within which it is found. */
const [STARTS, ROUNDS, FOUND] = [24, 20, 1e-5];

type Shown = (u: number, v: number) => SheetPoint | null;

const sides = new WeakMap<KeptFit, PhotoSide>();

/** The surface of a fit; made once for each. */
export function photoSide(fit: KeptFit): PhotoSide {
  let side = sides.get(fit);
  if (!side) sides.set(fit, (side = sideOf(fit)));
  return side;
}

function shownOf({ shape, lattice, width, height }: KeptFit): Shown {
  const [left, top] = [(lattice.columns * lattice.box) / 2, (lattice.rows * lattice.box) / 2];
  const length = Math.max(lattice.columns, lattice.rows) * lattice.box;
  const shown = shape.kind === 'patch' ? patchShown(shape) : bentShown(bentOf(shape.parameters, { width, height, length }));
  return (u, v) => shown(u - left, v - top);
}

interface Rim {
  readonly v: number;
  readonly from: number;
  readonly to: number;
}

function sideOf(fit: KeptFit): PhotoSide {
  const { lattice } = fit;
  const shown = shownOf(fit);
  const rims = fit.shape.kind === 'patch' ? patchRims(fit.shape, lattice.columns * lattice.box, lattice.rows * lattice.box) : rimsOf(fit, shown);
  const [minV, maxV] = [rims[0]!.v, rims.at(-1)!.v];
  const limits = (v: number): readonly [number, number] => {
    const k = Math.max(0, Math.min(rims.length - 1, ((v - minV) / Math.max(1e-9, maxV - minV)) * (rims.length - 1)));
    const i = Math.min(rims.length - 2, Math.floor(k));
    const [p, q, t] = [rims[i]!, rims[i + 1]!, k - i];
    return [p.from + (q.from - p.from) * t, p.to + (q.to - p.to) * t];
  };
  const within = (u: number, v: number): readonly [number, number] => {
    const y = Math.max(minV, Math.min(maxV, v));
    const [from, to] = limits(y);
    return [Math.max(from, Math.min(to, u)), y];
  };
  return {
    minV,
    maxV,
    limits,
    shown: (u, v) => shown(...within(u, v)),
    under: finder(shown, within, limits, minV, maxV, (lattice.columns * lattice.box) / 1e4),
  };
}

function patchRims(
  { minU, maxU, minV, maxV }: { readonly minU: number; readonly maxU: number; readonly minV: number; readonly maxV: number },
  wide: number,
  tall: number,
): readonly Rim[] {
  // prettier-ignore
  return [minV, maxV].map((v) => ({ v: v + tall / 2, from: minU + wide / 2, to: maxU + wide / 2 }));
}

/** The rim of what is bent: followed from the middle of the lattice until it turns away, or has left the picture. */
function rimsOf({ lattice, width, height }: KeptFit, shown: Shown): readonly Rim[] {
  const [wide, tall] = [lattice.columns * lattice.box, lattice.rows * lattice.box];
  const step = wide * STEP;
  const area = (u: number, v: number): number => {
    const [at, right, below] = [shown(u, v), shown(u + step, v), shown(u, v + step)];
    if (!at || !right || !below) return 0;
    const out = at.x < -AROUND * width || at.y < -AROUND * height || at.x > (1 + AROUND) * width || at.y > (1 + AROUND) * height;
    return out ? 0 : (right.x - at.x) * (below.y - at.y) - (right.y - at.y) * (below.x - at.x);
  };
  const middle = area(wide / 2, tall / 2);
  const isSeen = (u: number, v: number): boolean => area(u, v) / middle > EDGE_ON;
  /** The last place of a way from the middle that is seen. */
  const last = (seen: (k: number) => boolean, step0: number, most: number): number => {
    let k = 0;
    while (k < most && seen(k + step0)) k += step0;
    let [low, high] = [k, Math.min(most, k + step0)];
    for (let i = 0; i < 24 && high > low; i++) {
      const half = (low + high) / 2;
      if (seen(half)) low = half;
      else high = half;
    }
    return low;
  };
  const up = last((k) => isSeen(wide / 2, tall / 2 - k), tall / FINE, tall * (0.5 + BEYOND_DOWN));
  const down = last((k) => isSeen(wide / 2, tall / 2 + k), tall / FINE, tall * (0.5 + BEYOND_DOWN));
  return Array.from({ length: HEIGHTS + 1 }, (_, i): Rim => {
    const v = tall / 2 - up + ((up + down) * i) / HEIGHTS;
    const reach = (side: 1 | -1): number => last((k) => isSeen(wide / 2 + side * k, v), wide / FINE, wide * (0.5 + BEYOND_ACROSS));
    return { v, from: wide / 2 - reach(-1), to: wide / 2 + reach(1) };
  });
}

/** Finds places under px by Newton's method, from the nearest of places that are known, or from the last that was found. */
function finder(
  shown: Shown,
  within: (u: number, v: number) => readonly [number, number],
  limits: PhotoSide['limits'],
  minV: number,
  maxV: number,
  step: number,
): PhotoSide['under'] {
  const starts: { readonly u: number; readonly v: number; readonly at: SheetPoint }[] = [];
  for (let j = 0; j <= STARTS; j++)
    for (let i = 0; i <= STARTS; i++) {
      const v = minV + ((maxV - minV) * j) / STARTS;
      const [from, to] = limits(v);
      const u = from + ((to - from) * i) / STARTS;
      const at = shown(u, v);
      if (at) starts.push({ u, v, at });
    }
  const from = (u0: number, v0: number, x: number, y: number): SheetPlace | null => {
    let [u, v] = [u0, v0];
    for (let round = 0; round < ROUNDS; round++) {
      const [at, right, below] = [shown(u, v), shown(u + step, v), shown(u, v + step)];
      if (!at || !right || !below) return null;
      const [ex, ey] = [x - at.x, y - at.y];
      if (Math.abs(ex) + Math.abs(ey) < FOUND) return { u, v };
      const [a, b, c, d] = [(right.x - at.x) / step, (below.x - at.x) / step, (right.y - at.y) / step, (below.y - at.y) / step];
      const det = a * d - b * c;
      if (det === 0) return null;
      [u, v] = within(u + (d * ex - b * ey) / det, v + (a * ey - c * ex) / det);
    }
    const at = shown(u, v);
    // At the rim the last step is cut short again and again: what is shown there is all that can be found.
    return at && Math.hypot(at.x - x, at.y - y) < 0.02 ? { u, v } : null;
  };
  let before: { readonly place: SheetPlace; readonly x: number; readonly y: number } | null = null;
  return (x, y) => {
    let found = before && Math.abs(before.x - x) + Math.abs(before.y - y) < 40 ? from(before.place.u, before.place.v, x, y) : null;
    if (!found) {
      let [nearest, least] = [starts[0], Infinity];
      for (const start of starts) {
        const far = (start.at.x - x) ** 2 + (start.at.y - y) ** 2;
        if (far < least) [nearest, least] = [start, far];
      }
      found = nearest ? from(nearest.u, nearest.v, x, y) : null;
    }
    before = found && { place: found, x, y };
    return found;
  };
}
