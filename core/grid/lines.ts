import { invert33, type Mat33 } from '../math/matrix';
import type { SheetPoint } from '../math/points';

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
  /** For each line its index in cells, beside its ends `[x0, y0, x1, y1, ...]`. */
  readonly indices: readonly number[];
  readonly ends: Float64Array;
}

/** Most lines of one family that are made; a view that would need more shows every n-th. */
const MAX_LINES = 600;

/**
 * The two line families of a plane's grid, clipped to what is seen.
 *
 * A line u = i of the plane is the sheet line H^-T (1, 0, -i); it is cut by the box directly, so neither end is ever
 * projected and a line through a vanishing point needs no special case. Cost grows with the lines seen, not with
 * any extent. A plane seen edge-on has no lines.
 *
 * @param sheetFromPlane homography from plane points in cells to the sheet
 * @param step show every so many cells, 1 for all
 */
export function gridLines(sheetFromPlane: Mat33, seen: SheetBox, step = 1): readonly LineFamily[] {
  const inverse = invert33(sheetFromPlane);
  if (!inverse) return [];
  const corners = [
    [seen.minX, seen.minY],
    [seen.maxX, seen.minY],
    [seen.maxX, seen.maxY],
    [seen.minX, seen.maxY],
  ] as const;
  return (['u', 'v'] as const).map((across): LineFamily => {
    const row = across === 'u' ? 0 : 3;
    const values = corners.map(([x, y]) => {
      const w = inverse[6] * x + inverse[7] * y + inverse[8];
      return (inverse[row]! * x + inverse[row + 1]! * y + inverse[row + 2]!) / w;
    });
    const first = Math.ceil(Math.min(...values) / step) * step;
    const last = Math.floor(Math.max(...values) / step) * step;
    const thinned = step * Math.max(1, Math.ceil((last - first) / step / MAX_LINES));
    const indices: number[] = [];
    const ends: number[] = [];
    for (let i = Math.ceil(first / thinned) * thinned; i <= last; i += thinned) {
      // The line (row - i * last row) of the inverse: all sheet points whose plane point has this coordinate.
      const cut = cutLine(inverse[row]! - i * inverse[6], inverse[row + 1]! - i * inverse[7], inverse[row + 2]! - i * inverse[8], seen);
      if (!cut) continue;
      indices.push(i === 0 ? 0 : i);
      ends.push(...cut);
    }
    return { across, indices, ends: Float64Array.from(ends) };
  });
}

/** The ends of the line p x + q y + r = 0 within a box, or null where it misses it. */
export function cutLine(p: number, q: number, r: number, box: SheetBox): readonly [number, number, number, number] | null {
  const found: SheetPoint[] = [];
  const take = (x: number, y: number): void => {
    const slack = 1e-9 * (Math.abs(box.maxX) + Math.abs(box.maxY) + 1);
    const within = x >= box.minX - slack && x <= box.maxX + slack && y >= box.minY - slack && y <= box.maxY + slack;
    if (within && !found.some((f) => Math.abs(f.x - x) + Math.abs(f.y - y) < slack)) found.push({ x, y });
  };
  if (q !== 0) for (const x of [box.minX, box.maxX]) take(x, -(p * x + r) / q);
  if (p !== 0) for (const y of [box.minY, box.maxY]) take(-(q * y + r) / p, y);
  const [from, to] = found;
  return from && to ? [from.x, from.y, to.x, to.y] : null;
}
