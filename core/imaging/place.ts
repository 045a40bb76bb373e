import type { ImagePlace } from '../artwork/marks';
import { acrossTo, ruledCoordinates, type Ruled } from '../geometry/ruled';
import { invert33, invertAffine, multiply33, type Mat33 } from '../math/matrix';
import type { SheetPoint } from '../math/points';
import { placesUnder } from '../photo/side-field';
import type { EyeMatrix } from '../projection/projection';
import { ruledAcross, ruledWithin } from '../visibility/place-under';
import type { Stretch } from '../visibility/stretches';

/**
 * Which place of a bitmap is seen at a place of the sheet: writes its coordinates in px of the bitmap, from its upper left
 * corner, to two places of `out` from `at` on. Finite everywhere, and right wherever the bitmap is seen.
 */
export type PxUnder = (x: number, y: number, out: Float64Array, at: number) => void;

/** Farthest place in px that is told: nothing is seen there, and what is reckoned with it stays finite. */
const FAR = 1e9;

/**
 * The place of a bitmap under each place of the sheet: the inverse of where it lies.
 * @param size of the bitmap in px
 * @param quick whether it may be about right on photographed surfaces
 * @returns null where it lies edge-on, so that nothing of it is seen
 */
export function pxUnder(place: ImagePlace, { width, height }: { readonly width: number; readonly height: number }, quick = false): PxUnder | null {
  const inPx: Mat33 = [width, 0, 0, 0, height, 0, 0, 0, 1];
  const back = invert33(place.map);
  if (!back) return null;
  const toPx = multiply33(inPx, back);
  if (place.kind === 'flat') return flatUnder(toPx);
  const before = invertAffine(place.after);
  if (!before) return null;
  const flat = flatUnder(toPx);
  if (place.kind === 'photographed') {
    const under = placesUnder(place.fit, quick);
    return (x, y, out, at) => {
      under(before[0] * x + before[2] * y + before[4], before[1] * x + before[3] * y + before[5], out, at);
      flat(out[at]!, out[at + 1]!, out, at);
    };
  }
  const { ruled, seen, turn, projection } = place;
  const n = ruled.directrix.length;
  const find = finder(projection, ruled, seen);
  return (x, y, out, at) => {
    const { s, k } = find({ x: before[0] * x + before[2] * y + before[4], y: before[1] * x + before[3] * y + before[5] });
    const inside = s >= n ? s - n : s;
    const [p, q] = [ruledCoordinates(ruled, inside, 0), ruledCoordinates(ruled, inside, 1)];
    if (ruled.kind === 'cylinder') return flat(acrossTo(ruled, s) + turn, p.v + (q.v - p.v) * k, out, at);
    const radius = Math.hypot(p.u, p.v) * (1 - k) + Math.hypot(q.u, q.v) * k;
    const angle = acrossTo(ruled, s) + turn;
    flat(radius * Math.cos(angle), radius * Math.sin(angle), out, at);
  };
}

/** Parts of a whole round in which a place of a cone is looked for: seen from near its point, few of its lines take half of what is seen. */
const PARTS = 48;

/** Finds the straight line of a round side under places of the sheet; places near one another are found fastest. */
function finder(projection: EyeMatrix, ruled: Ruled, seen: Stretch): (at: SheetPoint) => { readonly s: number; readonly k: number } {
  if (ruled.kind === 'cylinder') return (at) => ruledWithin(projection, ruled, seen, at);
  const { from, to } = seen;
  const count = Math.max(1, Math.ceil(((to - from) * PARTS) / ruled.directrix.length));
  const part = (i: number): Stretch => ({ from: from + ((to - from) * i) / count, to: from + ((to - from) * (i + 1)) / count });
  let last = 0;
  return (at) => {
    let best: { readonly s: number; readonly k: number } | null = null;
    for (let step = 0; step < count; step++) {
      // From the part where the last place was found, to both sides by turns.
      const aside = step % 2 === 1 ? (step + 1) / 2 : -step / 2;
      const i = (((last + aside) % count) + count) % count;
      const found = ruledAcross(projection, ruled, part(i), at);
      if (!found || (best && Math.abs(found.k - 0.5) >= Math.abs(best.k - 0.5))) continue;
      best = found;
      if (found.k < 0 || found.k > 1) continue;
      last = i;
      return found;
    }
    return best ?? ruledWithin(projection, ruled, seen, at);
  };
}

function flatUnder(m: Mat33): PxUnder {
  const [a, b, c, d, e, f, g, h, i] = m;
  return (x, y, out, at) => {
    const k = 1 / (g * x + h * y + i);
    const u = (a * x + b * y + c) * k;
    const v = (d * x + e * y + f) * k;
    out[at] = u > -FAR && u < FAR ? u : FAR;
    out[at + 1] = v > -FAR && v < FAR ? v : FAR;
  };
}

/** Px of a row between two places that are reckoned exactly, and by how much in px of the bitmap the straight line between them may miss. */
const SPAN = 16;
const STRAIGHT = 1 / 64;

/**
 * The places of a bitmap under a row of px: two numbers for each, as `PxUnder` writes them. Between places that are
 * reckoned exactly they lie on a straight line where it misses by less than a sixty-fourth of a px.
 * @param x sheet coordinate of the first px's middle; @param step from one px to the next
 */
export function rowUnder(under: PxUnder, x: number, y: number, step: number, count: number, out: Float64Array): void {
  under(x, y, out, 0);
  for (let from = 0; from < count - 1; from += SPAN) {
    const to = Math.min(count - 1, from + SPAN);
    under(x + to * step, y, out, 2 * to);
    between(under, x, y, step, from, to, out);
  }
}

function between(under: PxUnder, x: number, y: number, step: number, from: number, to: number, out: Float64Array): void {
  if (to - from < 2) return;
  const middle = (from + to) >> 1;
  under(x + middle * step, y, out, 2 * middle);
  const u = out[2 * from]!;
  const v = out[2 * from + 1]!;
  const du = (out[2 * to]! - u) / (to - from);
  const dv = (out[2 * to + 1]! - v) / (to - from);
  const off = Math.abs(u + du * (middle - from) - out[2 * middle]!) + Math.abs(v + dv * (middle - from) - out[2 * middle + 1]!);
  if (off > STRAIGHT) {
    between(under, x, y, step, from, middle, out);
    between(under, x, y, step, middle, to, out);
    return;
  }
  for (let i = 1; i < to - from; i++) {
    out[2 * (from + i)] = u + du * i;
    out[2 * (from + i) + 1] = v + dv * i;
  }
}
