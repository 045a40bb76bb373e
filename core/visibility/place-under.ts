import type { SheetPoint } from '../math/points';
import { ruledNormal, ruledPoint, type Ruled } from '../geometry/ruled';
import { turningPlace } from '../math/turning-place';
import type { Stretch } from './stretches';
import { facing, type EyeMatrix } from '../projection/projection';

/** Stretches of each piece of the directrix among which the straight line under a place is looked for. */
const STRETCHES = 24;

/**
 * The place of a round side that is drawn at a place of the sheet, on the part that is turned to the eye: its parameters
 * as in `ruledPoint`, the straight line being gone on beyond both rims. Null where none is.
 */
export function ruledUnder(projection: EyeMatrix, ruled: Ruled, at: SheetPoint): { readonly s: number; readonly k: number } | null {
  const turned = (s: number): boolean => facing(projection, ruledNormal(ruled, s), ruledPoint(ruled, s, 0.5)) > 0;
  const last = ruled.directrix.length;
  let found: { readonly s: number; readonly k: number } | null = null;
  for (let i = 0; i < last * STRETCHES; i++) {
    let [low, high] = [i / STRETCHES, (i + 1) / STRETCHES - 1e-12];
    const ends = [turned(low), turned(high)];
    if (!ends[0] && !ends[1]) continue;
    if (!ends[0] || !ends[1]) {
      // Only as far as it is turned to the eye: behind, the same places are met again.
      let [seen, unseen] = ends[0] ? [low, high] : [high, low];
      for (let step = 0; step < 50; step++) {
        const middle = (seen + unseen) / 2;
        if (turned(middle)) seen = middle;
        else unseen = middle;
      }
      if (ends[0]) high = seen;
      else low = seen;
    }
    const [left, right] = [besideOf(projection, ruled, low, at), besideOf(projection, ruled, high, at)];
    if (left === null || right === null || left * right > 0) continue;
    for (let step = 0; step < 50; step++) {
      const middle = (low + high) / 2;
      if ((besideOf(projection, ruled, middle, at) ?? 0) * left > 0) low = middle;
      else high = middle;
    }
    const s = (low + high) / 2;
    const k = alongOf(projection, ruled, s, at);
    // Of several lines through one place, as on a side that winds, the one whose own rims hold it.
    if (k !== null && (!found || Math.abs(k - 0.5) < Math.abs(found.k - 0.5))) found = { s, k };
  }
  return found;
}

/**
 * The same on a stretch of it that is turned to the eye, along which its straight lines sweep over the sheet one way; a
 * place beside them belongs to the nearer end.
 */
export function ruledWithin(projection: EyeMatrix, ruled: Ruled, stretch: Stretch, at: SheetPoint): { readonly s: number; readonly k: number } {
  const found = ruledAcross(projection, ruled, stretch, at);
  if (found) return found;
  const n = ruled.directrix.length;
  const [low, high] = [stretch.from, Math.min(stretch.to, stretch.from + n) - 1e-12];
  const [left, right] = [low, high].map((s) => Math.abs(turnedAside(projection, ruled, s, at))) as [number, number];
  const s = left < right ? low : high;
  return { s, k: alongOf(projection, ruled, s >= n ? s - n : s, at) ?? 0 };
}

/** The same where the place lies between the stretch's ends, gone on beyond both rims; null where it lies beside them. */
export function ruledAcross(projection: EyeMatrix, ruled: Ruled, { from, to }: Stretch, at: SheetPoint): { readonly s: number; readonly k: number } | null {
  const n = ruled.directrix.length;
  const beside = (s: number): number => turnedAside(projection, ruled, s, at);
  const [low, high] = [from, Math.min(to, from + n) - 1e-12];
  const [left, right] = [beside(low), beside(high)];
  if (left * right >= 0) return null;
  const s = turningPlace(beside, low, left, high, right);
  return { s, k: alongOf(projection, ruled, s >= n ? s - n : s, at) ?? 0 };
}

/** To which side of a straight line a place lies. Lines that pass behind the eye are gone on through it: so the value changes evenly, wherever they lead. */
function turnedAside(projection: EyeMatrix, ruled: Ruled, s: number, at: SheetPoint): number {
  const inside = s >= ruled.directrix.length ? s - ruled.directrix.length : s;
  const [p, q] = [drawn(projection, ruled, inside, 0, at), drawn(projection, ruled, inside, 1, at)];
  return p[0] * q[1] - p[1] * q[0];
}

type Drawn = readonly [x: number, y: number, w: number];

/** A point of the side as it is drawn, in homogeneous coordinates of the sheet about a place. */
function drawn({ matrix: m }: EyeMatrix, ruled: Ruled, s: number, k: number, { x, y }: SheetPoint): Drawn {
  const { a, b, h } = ruledPoint(ruled, s, k);
  const row = (r: number): number => m[r]! * a + m[r + 1]! * b + m[r + 2]! * h + m[r + 3]!;
  const w = row(8);
  return [row(0) - x * w, row(4) - y * w, w];
}

/** To which side of a straight line of the side a place lies; null where the line is not before the eye. */
function besideOf(projection: EyeMatrix, ruled: Ruled, s: number, at: SheetPoint): number | null {
  const [p, q] = [drawn(projection, ruled, s, 0, at), drawn(projection, ruled, s, 1, at)];
  return p[2] * q[2] > 0 ? (p[0] * q[1] - p[1] * q[0]) * Math.sign(p[2]) : null;
}

/** How far along its straight line the place lies, nearest to it. */
function alongOf(projection: EyeMatrix, ruled: Ruled, s: number, at: SheetPoint): number | null {
  const [p, q] = [drawn(projection, ruled, s, 0, at), drawn(projection, ruled, s, 1, at)];
  const [dx, dy] = [p[0] - q[0], p[1] - q[1]];
  const [from, run] = Math.abs(dx) > Math.abs(dy) ? [p[0], dx] : [p[1], dy];
  return run === 0 ? null : from / run;
}
