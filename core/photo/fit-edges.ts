import type { SheetPoint } from '../math/points';
import { fitBent, type Seen } from './fit-bent';
import { keptFit, type KeptFit } from './kept-fit';
import { describeFit } from './fit-surface';
import { photoSide } from './photo-side';

/** Standard error in px of corners that were drawn by hand and snapped to edges. */
const CORNER = 0.5;
/** Rounds in which the rim of what is round is found. */
const RIMS = 6;

const sheetOf = (width: number, height: number): { columns: number; rows: number; box: number } => ({
  columns: Math.max(1, Math.round(width)),
  rows: Math.max(1, Math.round(height)),
  box: 1,
});

/**
 * A flat panel by its corners, from the upper left clockwise.
 * @param size of the panel in mm; @param photo size of the photograph in px
 * @returns null where no panel has such corners
 */
export function panelByCorners(
  corners: readonly SheetPoint[],
  size: { readonly width: number; readonly height: number },
  photo: { readonly width: number; readonly height: number },
): KeptFit | null {
  const lattice = sheetOf(size.width, size.height);
  const [w, h] = [lattice.columns / 2, lattice.rows / 2];
  const seen = [[-w, -h], [w, -h], [w, h], [-w, h]].map(([u, v], i): Seen => ({ u: u!, v: v!, at: corners[i]!, error: CORNER })); // prettier-ignore
  return bentThrough('panel', seen, lattice, photo);
}

/**
 * A round thing by the ends of its two side edges, from the upper left clockwise, and the middles of what is seen of its
 * upper and lower rim. Its sheet is as wide as half way round and as high as the thing; its middle is turned to the camera.
 * @param size diameter and height in mm
 */
export function roundByRims(
  corners: readonly SheetPoint[],
  rims: readonly [upper: SheetPoint, lower: SheetPoint],
  size: { readonly diameter: number; readonly height: number },
  photo: { readonly width: number; readonly height: number },
): KeptFit | null {
  const lattice = sheetOf((Math.PI * size.diameter) / 2, size.height);
  const [w, h] = [lattice.columns / 2, lattice.rows / 2];
  let sides = [[-w, -h], [w, -h], [w, h], [-w, h]] as readonly (readonly [number, number])[]; // prettier-ignore
  const middles: readonly Seen[] = [
    { u: 0, v: -h, at: rims[0], error: CORNER },
    { u: 0, v: h, at: rims[1], error: CORNER },
  ];
  let found: KeptFit | null = null;
  for (let round = 0; round < RIMS; round++) {
    const seen = [...sides.map(([u, v], i): Seen => ({ u, v, at: corners[i]!, error: CORNER })), ...middles];
    const fit = bentThrough('cylinder', seen, lattice, photo);
    if (!fit) return found;
    found = fit;
    // What is seen of it ends a little before half way round, the nearer the camera stands the more.
    const { limits } = photoSide(fit);
    sides = sides.map(([u, v]) => [limits(v + h)[u < 0 ? 0 : 1] - w, v] as const);
  }
  return found;
}

function bentThrough(
  kind: 'panel' | 'cylinder',
  seen: readonly Seen[],
  lattice: { readonly columns: number; readonly rows: number; readonly box: number },
  photo: { readonly width: number; readonly height: number },
): KeptFit | null {
  const { width, height } = photo;
  const sizes = { width, height, length: Math.max(lattice.columns, lattice.rows) };
  const weights = seen.map(({ error }) => 1 / error);
  const panel = fitBent('panel', seen, weights, sizes, null);
  const shape = kind === 'panel' ? panel : panel && fitBent(kind, seen, weights, sizes, panel);
  if (!shape) return null;
  const crossings = seen.map(({ u, v, at, error }) => ({ column: u + lattice.columns / 2, row: v + lattice.rows / 2, at, error, sure: 1 }));
  const fit = describeFit(kind, shape, crossings, new Set(), sizes, lattice);
  return fit && fit.largest < 0.05 * width ? keptFit(fit) : null;
}
