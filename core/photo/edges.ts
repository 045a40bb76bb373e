import type { SheetPoint } from '../math/points';
import { spreadOf, tukeyWeight } from '../math/robust';
import { sampleGray, type Gray } from './gray';

/** A straight edge of a photographed thing. */
export interface FoundEdge {
  readonly from: SheetPoint;
  readonly to: SheetPoint;
  /** Mean distance in px of what was found of it from it. */
  readonly miss: number;
}

/** Places along an edge, part of it left out at both ends, and least part of them at which it has to be found. */
const [PLACES, ENDS, FOUND] = [40, 0.06, 0.5];
/** Px between looks across an edge, and least steepness of one in levels to the px. */
const [STEP, STEEP] = [0.5, 1.5];

/**
 * The straight edge of the photograph near one that was drawn by hand: where brightness changes most across it, the
 * line nearest to these places, with those that stray left out.
 * @param reach px to either side in which it is looked for
 * @returns null where there is none
 */
export function snappedEdge(gray: Gray, from: SheetPoint, to: SheetPoint, reach: number): FoundEdge | null {
  let edge: FoundEdge = { from, to, miss: 0 };
  // The second time from where it was found the first time, and closer.
  for (const within of [reach, Math.max(2, reach / 3)]) {
    const found = nearEdge(gray, edge.from, edge.to, within);
    if (!found) return null;
    edge = found;
  }
  return edge;
}

function nearEdge(gray: Gray, from: SheetPoint, to: SheetPoint, reach: number): FoundEdge | null {
  const long = Math.hypot(to.x - from.x, to.y - from.y);
  if (long < 4) return null;
  const [ax, ay] = [(to.x - from.x) / long, (to.y - from.y) / long];
  const spots: { readonly t: number; readonly off: number }[] = [];
  for (let k = 0; k < PLACES; k++) {
    const t = (ENDS + ((1 - 2 * ENDS) * (k + 0.5)) / PLACES) * long;
    const off = steepest(gray, from.x + ax * t, from.y + ay * t, -ay, ax, reach);
    if (off !== null) spots.push({ t, off });
  }
  if (spots.length < PLACES * FOUND) return null;
  const line = straight(spots);
  if (!line) return null;
  const at = (t: number): SheetPoint => ({ x: from.x + ax * t - ay * (line.a + line.b * t), y: from.y + ay * t + ax * (line.a + line.b * t) });
  return { from: at(0), to: at(long), miss: line.miss };
}

/** How far beside a place brightness changes most across; null where it hardly does. */
function steepest(gray: Gray, x: number, y: number, nx: number, ny: number, reach: number): number | null {
  const count = Math.ceil(reach / STEP);
  const slope = (off: number): number =>
    Math.abs(sampleGray(gray, x + nx * (off + 1), y + ny * (off + 1)) - sampleGray(gray, x + nx * (off - 1), y + ny * (off - 1))) / 2;
  let [best, most] = [0, STEEP];
  let found = false;
  for (let k = -count; k <= count; k++) {
    // Of edges that are alike the nearer one.
    const value = slope(k * STEP) * (1 - 0.3 * Math.abs(k / count));
    if (value > most) [best, most, found] = [k * STEP, value, true];
  }
  if (!found) return null;
  const [before, here, after] = [slope(best - STEP), slope(best), slope(best + STEP)];
  const bend = before + after - 2 * here;
  return best + (bend < 0 ? Math.max(-1, Math.min(1, (before - after) / (2 * bend))) * STEP : 0);
}

/** The line `a + b t` through spots, by least squares with Tukey's weights. */
function straight(spots: readonly { readonly t: number; readonly off: number }[]): { readonly a: number; readonly b: number; readonly miss: number } | null {
  let weights = spots.map(() => 1);
  for (let round = 0; ; round++) {
    let [w, t, tt, o, to] = [0, 0, 0, 0, 0];
    spots.forEach((spot, i) => {
      const own = weights[i]!;
      [w, t, tt, o, to] = [w + own, t + own * spot.t, tt + own * spot.t * spot.t, o + own * spot.off, to + own * spot.t * spot.off];
    });
    const det = w * tt - t * t;
    if (!(det > 1e-9)) return null;
    const [a, b] = [(tt * o - t * to) / det, (w * to - t * o) / det];
    const off = spots.map((spot) => Math.abs(spot.off - a - b * spot.t));
    if (round === 5) return { a, b, miss: off.reduce((sum, value, i) => sum + weights[i]! * value, 0) / w };
    const spread = Math.max(0.1, spreadOf(off));
    weights = off.map((value) => tukeyWeight(value, spread));
  }
}

/** Where four edges meet, each with the next: the corners of a panel, from the first edge's start. Null where neighbours are parallel. */
export function cornersOfEdges(edges: readonly FoundEdge[]): readonly SheetPoint[] | null {
  const corners: SheetPoint[] = [];
  edges.forEach((edge, i) => {
    const before = edges[(i + edges.length - 1) % edges.length]!;
    const [dx, dy] = [edge.to.x - edge.from.x, edge.to.y - edge.from.y];
    const [ex, ey] = [before.to.x - before.from.x, before.to.y - before.from.y];
    const det = dx * ey - dy * ex;
    if (Math.abs(det) < 1e-3 * Math.hypot(dx, dy) * Math.hypot(ex, ey)) return;
    const t = ((before.from.x - edge.from.x) * ey - (before.from.y - edge.from.y) * ex) / det;
    corners.push({ x: edge.from.x + dx * t, y: edge.from.y + dy * t });
  });
  return corners.length === edges.length ? corners : null;
}
