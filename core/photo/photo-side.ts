import { keptBy } from '../math/keep';
import type { SheetPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
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
  /** The same; beside what is seen a place at its rim, which is not found there. */
  nearest(x: number, y: number): Found;
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
/** Px from the last place that was looked for within which it is gone on from. */
const NEAR = 40;

/** Where a place is shown, in px; null where it is nowhere. */
export type Shown = (u: number, v: number) => SheetPoint | null;

/** The surface of a fit; made once for each. */
export const photoSide = keptBy((fit: KeptFit): PhotoSide => sideOf(fit));

/** Where a place of a fit's sheet is shown, in mm from the upper left crossing, also beyond what is seen; null where it is nowhere. */
export function shownOf({ shape, lattice, width, height }: KeptFit): Shown {
  const [left, top] = [(lattice.columns * lattice.box) / 2, (lattice.rows * lattice.box) / 2];
  const length = Math.max(lattice.columns, lattice.rows) * lattice.box;
  const shown = shape.kind === 'patch' ? patchShown(shape) : bentShown(bentOf(shape.parameters, { width, height, length }));
  return (u, v) => {
    const at = shown(u - left, v - top);
    // What is shown farther off than any picture reaches is shown nowhere.
    return at && Math.abs(at.x) < FARTHEST && Math.abs(at.y) < FARTHEST ? at : null;
  };
}

/** Px from a photograph's corner at which something may be shown at most. */
const FARTHEST = 1e9;

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
  const find = finder(shown, within, limits, minV, maxV, (lattice.columns * lattice.box) / 1e4);
  return {
    minV,
    maxV,
    limits,
    shown: (u, v) => shown(...within(u, v)),
    under: (x, y) => {
      const { u, v, found } = find(x, y);
      return found ? { u, v } : null;
    },
    nearest: find,
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

/** A place that was looked for. */
export interface Found extends SheetPlace {
  /** It is shown there; else it is at the rim. */
  readonly found: boolean;
}

/** Finds places under px by Newton's method, from the last that was found, or from the nearest of places that are known. */
function finder(
  shown: Shown,
  within: (u: number, v: number) => readonly [number, number],
  limits: PhotoSide['limits'],
  minV: number,
  maxV: number,
  step: number,
): (x: number, y: number) => Found {
  const starts: { readonly u: number; readonly v: number; readonly at: SheetPoint }[] = [];
  const rim: [SheetPoint[], SheetPoint[], SheetPoint[], SheetPoint[]] = [[], [], [], []];
  for (let j = 0; j <= STARTS; j++)
    for (let i = 0; i <= STARTS; i++) {
      const v = minV + ((maxV - minV) * j) / STARTS;
      const [from, to] = limits(v);
      const u = from + ((to - from) * i) / STARTS;
      const at = shown(u, v);
      if (!at) continue;
      starts.push({ u, v, at });
      if (j === 0) rim[0].push(at);
      if (i === STARTS) rim[1].push(at);
      if (j === STARTS) rim[2].unshift(at);
      if (i === 0) rim[3].unshift(at);
    }
  const round = rim.flat().flatMap((at) => [at.x, at.y]);
  const from = (u0: number, v0: number, x: number, y: number): Found => {
    let [u, v] = [u0, v0];
    for (let count = 0; count < ROUNDS; count++) {
      const [at, right, below] = [shown(u, v), shown(u + step, v), shown(u, v + step)];
      if (!at || !right || !below) break;
      const [ex, ey] = [x - at.x, y - at.y];
      if (Math.abs(ex) + Math.abs(ey) < FOUND) return { u, v, found: true };
      const [a, b, c, d] = [(right.x - at.x) / step, (below.x - at.x) / step, (right.y - at.y) / step, (below.y - at.y) / step];
      const det = a * d - b * c;
      if (det === 0) break;
      const [nextU, nextV] = within(u + (d * ex - b * ey) / det, v + (a * ey - c * ex) / det);
      if (nextU === u && nextV === v) break;
      [u, v] = [nextU, nextV];
    }
    // At the rim the last step is cut short again and again: what is shown there is all that can be found.
    const at = shown(u, v);
    return { u, v, found: at !== null && Math.hypot(at.x - x, at.y - y) < 0.02 };
  };
  let before: { readonly place: SheetPlace; readonly x: number; readonly y: number } | null = null;
  return (x, y) => {
    const near = before && Math.abs(before.x - x) + Math.abs(before.y - y) < NEAR ? before.place : null;
    let place = near && from(near.u, near.v, x, y);
    if (!place || (!place.found && containsPoint(round, x, y))) {
      let [nearest, least] = [starts[0], Infinity];
      for (const start of starts) {
        const far = (start.at.x - x) ** 2 + (start.at.y - y) ** 2;
        if (far < least) [nearest, least] = [start, far];
      }
      place = nearest ? from(nearest.u, nearest.v, x, y) : { u: 0, v: 0, found: false };
    }
    before = { place, x, y };
    return place;
  };
}
