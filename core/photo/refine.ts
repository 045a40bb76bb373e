import { invertSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import { spreadOf, tukeyWeight } from '../math/robust';
import { sampleGray, type Gray } from './gray';

/** A crossing as its lines have it. */
export interface RefinedCrossing {
  readonly at: SheetPoint;
  /** Its standard error in px. */
  readonly error: number;
}

/** A step from a crossing towards the next along a line, in px; null where the line ends. */
export type Arm = readonly [number, number] | null;

/** The four arms of a crossing. */
export interface Arms {
  readonly right: Arm;
  readonly left: Arm;
  readonly down: Arm;
  readonly up: Arm;
}

/** The arms of a crossing of a lattice, by where its crossings are shown; null where it is not shown itself. */
export function armsOf(
  { columns, rows }: { readonly columns: number; readonly rows: number },
  shown: (column: number, row: number) => SheetPoint | null,
  column: number,
  row: number,
): Arms | null {
  const at = shown(column, row);
  if (!at) return null;
  const arm = (di: number, dj: number): Arm => {
    const [i, j] = [column + di, row + dj];
    const end = i < 0 || j < 0 || i > columns || j > rows ? null : shown(i, j);
    return end && [end.x - at.x, end.y - at.y];
  };
  return { right: arm(1, 0), left: arm(-1, 0), down: arm(0, 1), up: arm(0, -1) };
}

/** Parts of the way to the next crossing along which a line is looked at, and of the way across to what else is printed. */
const [FROM, TO, ASIDE] = [0.1, 0.52, 0.1];
/** The same of a line that ends at the crossing. */
const TO_ALONE = 0.9;
/** Standard error in px from which lines are too unsure to be crossed. */
const UNSURE = 0.8;
/** Places along an arm. */
const PLACES = 12;

interface Spot {
  readonly t: number;
  readonly n: number;
}

/**
 * A crossing to a fraction of a px: both its lines are followed on both sides by the middles of their profiles, a curve
 * is laid through each, and these are crossed. Null where there is no line.
 */
export function refinedCrossing(gray: Gray, about: SheetPoint, { right, left, down, up }: Arms): RefinedCrossing | null {
  let at = about;
  for (let round = 0; round < 2; round++) {
    const level = followed(gray, at, right, left, size(down ?? up));
    const upright = followed(gray, at, down, up, size(right ?? left));
    if (!level || !upright) return null;
    const met = crossed(level, upright);
    if (!met || Math.hypot(met.x - about.x, met.y - about.y) > 0.2 * Math.min(size(right ?? left), size(down ?? up)) + 2) return null;
    at = met;
    const error = Math.hypot(level.error, upright.error);
    if (round === 1) return error < UNSURE ? { at, error } : null;
  }
  return null;
}

const size = (arm: Arm): number => (arm ? Math.hypot(arm[0], arm[1]) : 0);

/** A line near a crossing: off a straight one by `a + b t + c t²`. */
interface Followed {
  readonly from: SheetPoint;
  readonly along: readonly [number, number];
  readonly a: number;
  readonly b: number;
  readonly c: number;
  /** Standard error of it at the crossing, in px. */
  readonly error: number;
}

function followed(gray: Gray, at: SheetPoint, ahead: Arm, behind: Arm, across: number): Followed | null {
  const whole: readonly [number, number] | null =
    ahead && behind ? [ahead[0] - behind[0], ahead[1] - behind[1]] : (ahead ?? (behind && [-behind[0], -behind[1]]));
  if (!whole || across === 0) return null;
  const long = Math.hypot(...whole);
  const along: readonly [number, number] = [whole[0] / long, whole[1] / long];
  const [nx, ny] = [-along[1], along[0]];
  // Across the line as far as nothing else is printed, measured square to it.
  const reach = Math.min(Math.max(2.3, Math.min(7, ASIDE * across)), 0.3 * across);
  const spots: Spot[] = [];
  for (const arm of [ahead, behind]) {
    if (!arm) continue;
    const [to, places] = ahead && behind ? [TO, PLACES] : [TO_ALONE, 2 * PLACES];
    for (let k = 0; k < places; k++) {
      const part = FROM + ((to - FROM) * (k + 0.5)) / places;
      const [x, y] = [at.x + arm[0] * part, at.y + arm[1] * part];
      const off = middleOf(gray, x, y, nx, ny, reach);
      if (off === null) continue;
      const [ox, oy] = [x + nx * off - at.x, y + ny * off - at.y];
      spots.push({ t: ox * along[0] + oy * along[1], n: ox * nx + oy * ny });
    }
  }
  const curve = laid(spots, ahead !== null && behind !== null);
  return curve && { from: at, along, ...curve };
}

/** How far beside a place the middle of a dark line lies, by the mean of what is darker, twice about where it was found; null where nothing is. */
function middleOf(gray: Gray, x: number, y: number, nx: number, ny: number, reach: number): number | null {
  let middle = 0;
  const step = 0.4;
  const count = Math.round(reach / step);
  for (let round = 0; round < 3; round++) {
    let [sum, weight] = [0, 0];
    const one = sampleGray(gray, x + nx * (middle - reach), y + ny * (middle - reach));
    const other = sampleGray(gray, x + nx * (middle + reach), y + ny * (middle + reach));
    for (let k = -count; k <= count; k++) {
      const off = (k / count) * reach;
      const base = one + ((other - one) * (k + count)) / (2 * count);
      const dark = base - sampleGray(gray, x + nx * (middle + off), y + ny * (middle + off));
      if (dark <= 0) continue;
      // Squares: what is hardly darker is noise.
      sum += off * dark * dark;
      weight += dark * dark;
    }
    if (weight < count * 5) return null;
    middle += sum / weight;
    if (Math.abs(middle) > reach) return null;
  }
  return middle;
}

/** The parabola through the spots of a line, those that lie apart left out (Tukey's weights). */
function laid(spots: readonly Spot[], both: boolean): { a: number; b: number; c: number; error: number } | null {
  if (spots.length < 6) return null;
  let weights = spots.map(() => 1);
  const scale = Math.max(1, ...spots.map(({ t }) => Math.abs(t)));
  for (let round = 0; ; round++) {
    // Moments of t in parts of the scale.
    const m = [0, 0, 0, 0, 0];
    const r = [0, 0, 0];
    spots.forEach(({ t, n }, k) => {
      let power = weights[k]!;
      for (let d = 0; d < 5; d++) {
        m[d]! += power;
        if (d < 3) r[d]! += power * n;
        power *= t / scale;
      }
    });
    const inverse = invertSymmetric([m[0]!, m[1]!, m[2]!, m[1]!, m[2]!, m[3]!, m[2]!, m[3]!, m[4]!], 3);
    if (!inverse) return null;
    const [a, b, c] = [0, 3, 6].map((row) => inverse[row]! * r[0]! + inverse[row + 1]! * r[1]! + inverse[row + 2]! * r[2]!) as [number, number, number];
    const off = spots.map(({ t, n }) => n - a - (b * t) / scale - c * (t / scale) ** 2);
    const spread = Math.max(0.02, spreadOf(off));
    if (round === 3) {
      const used = weights.reduce((sum, value) => sum + value, 0);
      const variance = off.reduce((sum, value, k) => sum + weights[k]! * value * value, 0) / Math.max(1, used - 3);
      if (spread > 1.2) return null;
      return { a, b: b / scale, c: c / scale ** 2, error: Math.sqrt(Math.max(variance, 1e-4) * inverse[0]!) * (both ? 1 : 1.5) };
    }
    weights = off.map((value) => tukeyWeight(value, spread));
  }
}

/** Where two followed lines meet, by Newton's steps. */
function crossed(p: Followed, q: Followed): SheetPoint | null {
  const point = ({ from, along, a, b, c }: Followed, t: number): readonly [number, number] => {
    const n = a + b * t + c * t * t;
    return [from.x + along[0] * t - along[1] * n, from.y + along[1] * t + along[0] * n];
  };
  const tangent = ({ along, b, c }: Followed, t: number): readonly [number, number] => {
    const slope = b + 2 * c * t;
    return [along[0] - along[1] * slope, along[1] + along[0] * slope];
  };
  let [s, t] = [0, 0];
  for (let i = 0; i < 8; i++) {
    const [one, other] = [point(p, s), point(q, t)];
    const [d, e] = [tangent(p, s), tangent(q, t)];
    const det = -d[0] * e[1] + d[1] * e[0];
    if (Math.abs(det) < 0.05) return null;
    const [x, y] = [other[0] - one[0], other[1] - one[1]];
    s += (-x * e[1] + y * e[0]) / det;
    t += (d[0] * y - d[1] * x) / det;
  }
  const [x, y] = point(p, s);
  return Number.isFinite(x + y) ? { x, y } : null;
}
