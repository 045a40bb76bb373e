import { solveSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import { TUKEY } from '../math/robust';
import { noiseOf } from './grain';
import { blurred, halvedGray, sampleGray, type Gray } from './gray';

/** How one photograph has to be moved to lie on another: `middle + scale turn (p - middle) + shift`, about the middle of the picture. */
export interface Registration {
  readonly dx: number;
  readonly dy: number;
  /** In radians. */
  readonly turn: number;
  readonly scale: number;
  /** Part of the clear places of the first that are found again in the second, 0 to 1. */
  readonly agrees: number;
}

/** A registration that was just found. */
export interface FoundRegistration extends Registration {
  /** Standard error of its shift in px, across or down, whichever is less sure, were all that is off chance. */
  readonly error: number;
}

/** Longest side in px of the pictures in which the rough place is looked for. */
const COARSE = 110;
/** Turns and scales that are tried there. */
const TURNS = [-0.05, -0.025, 0, 0.025, 0.05] as const;
const SCALES = [0.97, 1, 1.03] as const;
/** How far scale and turn may come to be off. */
const LOOSEST = 0.12;
/** How many places are followed from one size to the next. */
const HELD = 6;
/** How many of them are looked at closer. */
const LIKELIEST = 30;
/** Shifts that are tried of each turn and scale. */
const SHIFTS = 3;
/** Px there by which it may be shifted. */
const SHIFT = 8;
/** Most places that are compared on each size. */
const PLACES = 60_000;
/** Part of all px that are clear places. */
const CLEAR = 0.1;
/** Px about what is covered into which blur carries it. */
const BLUR_PX = 4;
/** How steep light has to be to be no noise, in standard deviations of a px. */
const OVER_NOISE = 0.6;
/** Longest side of a picture that is too small to be blurred. */
const SMALL = 250;
/** Rounds before what differs in light is left out: first it has to lie about right. */
const UNMASKED = 4;
/** Levels by which places may differ together and be the same: what was put on the thing differs by more. */
const SAME_LIGHT = 5;
/** Levels to the px from which a place counts fully for how well two photographs agree. */
const MOST_RISE = 12;
/** Part of the clear places that have to be left of what is covered. */
const FEWEST = 0.2;
/** Standard error as a part of the picture's width above which what is seen does not tell how two photographs lie on each other. */
export const UNSURE = 4e-5;
/** Agreement below which two photographs are of different things. */
export const SAME_THING = 0.3;

/** Where a place of the first photograph lies in the second. */
export function registeredPlace(
  { dx, dy, turn, scale }: Pick<Registration, 'dx' | 'dy' | 'turn' | 'scale'>,
  { width, height }: { readonly width: number; readonly height: number },
  { x, y }: SheetPoint,
): SheetPoint {
  const [a, b] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  const [px, py] = [x - width / 2, y - height / 2];
  return { x: width / 2 + a * px - b * py + dx, y: height / 2 + b * px + a * py + dy };
}

/** Where a place of the second photograph lies in the first. Inverse of `registeredPlace`. */
export function unregisteredPlace(
  { dx, dy, turn, scale }: Pick<Registration, 'dx' | 'dy' | 'turn' | 'scale'>,
  { width, height }: { readonly width: number; readonly height: number },
  { x, y }: SheetPoint,
): SheetPoint {
  const [a, b] = [Math.cos(turn) / scale, Math.sin(turn) / scale];
  const [px, py] = [x - dx - width / 2, y - dy - height / 2];
  return { x: width / 2 + a * px + b * py, y: height / 2 - b * px + a * py };
}

/**
 * How a second photograph of the same scene lies on a first, whatever was put on the thing in between: by brightness,
 * from coarse to fine (Lucas and Kanade 1981), each place counting less the more it differs (Tukey's weights).
 * @param covered 1 at every px of the second in which something lies that the first has not, if that is known: nothing is
 * compared there
 * @returns null where the two have another size
 */
export function registerPhotos(first: Gray, second: Gray, covered: Uint8Array | null = null): FoundRegistration | null {
  if (first.width !== second.width || first.height !== second.height) return null;
  const noise = noiseOf(first);
  const around = covered && spreadCover(covered, first.width, first.height, BLUR_PX);
  const levels: Level[] = [levelOf(blurred(first, 0.8), blurred(second, 0.8), around, noise)];
  for (let last = levels[0]!; Math.max(last.first.width, last.first.height) > COARSE; last = levels.at(-1)!)
    levels.push(levelOf(halvedGray(last.first), halvedGray(last.second), last.covered && halvedCover(last.covered, last.first), last.noise / 2));
  const coarse = levels.at(-1)!;
  // Of the likeliest places those that hold when they are looked at closer, and the best of them once more.
  const tried = coarsest(coarse).map((place) => refined(coarse, place, 20, false));
  let held = apart(tried.sort((one, other) => other.agrees - one.agrees), (one) => one, HELD); // prettier-ignore
  for (let k = levels.length - 2; k >= 0; k--) {
    const level = levels[k]!;
    // The finest of large pictures adds nothing that noise does not hide.
    const rounds = k === 0 && Math.max(level.first.width, level.first.height) > 2400 ? 7 : 20;
    const next = held.flatMap((at) => {
      const from = { ...at, dx: at.dx * 2, dy: at.dy * 2 };
      return k === 0 ? [refined(level, from, rounds, true)] : [false, true].map((masked) => refined(level, from, rounds, masked));
    });
    held = apart(next.sort((one, other) => other.agrees - one.agrees), (one) => one, k > 1 ? HELD : k > 0 ? 2 : 1); // prettier-ignore
  }
  return held[0]!;
}

/** What stands out in a picture from the light around it. */
function standsOut(gray: Gray): Gray {
  const around = blurred(gray, 4);
  return { ...gray, data: gray.data.map((value, i) => Math.max(-40, Math.min(40, value - around.data[i]!))) };
}

/** What is covered, and some px around: blur carries it there. */
function spreadCover(covered: Uint8Array, width: number, height: number, px: number): Uint8Array {
  const spread = (from: Uint8Array, step: number, count: number): Uint8Array => {
    const out = new Uint8Array(from.length);
    for (let i = 0; i < from.length; i++) {
      if (!from[i]) continue;
      const at = Math.floor(i / step) % count;
      for (let k = Math.max(-px, -at); k <= Math.min(px, count - 1 - at); k++) out[i + k * step] = 1;
    }
    return out;
  };
  return spread(spread(covered, 1, width), width, height);
}

/** What is covered in half the size: every px of which a part is, and one around. */
function halvedCover(covered: Uint8Array, { width, height }: Gray): Uint8Array {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = covered[i]! | covered[i + 1]! | covered[i + width]! | covered[i + width + 1]!;
    }
  return spreadCover(out, w, h, 1);
}

/** The likeliest of many turns, scales and shifts, by how what stands out goes together: the best shift of each turn and scale. */
function coarsest({ first, second, covered }: Level): readonly Registration[] {
  const [p, q] = [standsOut(first), standsOut(second)];
  const found: { place: Registration; like: number }[] = [];
  const { width, height, data } = p;
  const whole = data.reduce((sum, value, i) => sum + (covered?.[i] ? 0 : value * value), 0);
  for (const turn of TURNS)
    for (const scale of SCALES) {
      const warped = new Float32Array(p.width * p.height);
      // 1 where something is to be compared.
      const open = new Float32Array(p.width * p.height).fill(1);
      for (let y = 0; y < p.height; y++)
        for (let x = 0; x < p.width; x++) {
          const place = registeredPlace({ dx: 0, dy: 0, turn, scale }, p, { x: x + 0.5, y: y + 0.5 });
          const i = y * p.width + x;
          const [px, py] = [Math.max(0, Math.min(p.width - 1, Math.floor(place.x))), Math.max(0, Math.min(p.height - 1, Math.floor(place.y)))];
          if (covered?.[py * p.width + px]) open[i] = 0;
          else warped[i] = sampleGray(q, place.x, place.y);
        }
      const own: { place: Registration; like: number }[] = [];
      const wholeToo = warped.reduce((sum, value) => sum + value * value, 0);
      for (let dy = -SHIFT; dy <= SHIFT; dy++)
        for (let dx = -SHIFT; dx <= SHIFT; dx++) {
          let both = 0;
          let one = 1e-6;
          let other = 1e-6;
          const [left, right] = [Math.max(0, -dx), width - Math.max(0, dx)];
          for (let y = Math.max(0, -dy); y < height - Math.max(0, dy); y++) {
            let j = (y + dy) * width + left + dx;
            for (let i = y * width + left; i < y * width + right; i++, j++) {
              const own = data[i]!;
              const there = warped[j]!;
              both += own * there;
              one += own * own * open[j]!;
              other += there * there;
            }
          }
          // What little is left to compare at the rim goes together by chance.
          const like = both / Math.sqrt(Math.max(one, 0.5 * whole) * Math.max(other, 0.5 * wholeToo));
          // The shift was tried after the turn.
          const [sx, sy] = [scale * (Math.cos(turn) * dx - Math.sin(turn) * dy), scale * (Math.sin(turn) * dx + Math.cos(turn) * dy)];
          own.push({ place: { dx: sx, dy: sy, turn, scale, agrees: 0 }, like });
        }
      own.sort((a, b) => b.like - a.like);
      found.push(...apart(own, ({ place }) => place, SHIFTS));
    }
  return found.sort((one, other) => other.like - one.like).slice(0, LIKELIEST).map(({ place }) => place); // prettier-ignore
}

/** The first of a list that do not shift by about the same, at most so many. */
function apart<T>(list: readonly T[], of: (one: T) => Registration, most: number): readonly T[] {
  const taken: T[] = [];
  for (const one of list) {
    if (taken.length === most) break;
    if (taken.every((other) => Math.hypot(of(one).dx - of(other).dx, of(one).dy - of(other).dy) + 40 * Math.abs(of(one).turn - of(other).turn) > 1.5))
      taken.push(one);
  }
  return taken;
}

/** The places of a picture that tell where it lies: those with the steepest light, spread over it. @param covered 1 where nothing is compared; @param noise of a px, in levels */
function clearPlaces(gray: Gray, covered: Uint8Array | null, noise: number): Int32Array {
  const small = Math.max(gray.width, gray.height) < SMALL;
  const { width, height, data } = small ? gray : blurred(gray, 1.5);
  const steep = new Float32Array(width * height);
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      steep[i] = covered?.[i] ? 0 : Math.hypot(data[i + 1]! - data[i - 1]!, data[i + width]! - data[i - width]!);
    }
  const open = covered ? covered.reduce((sum, one) => sum + 1 - one, 0) : width * height;
  const count = Math.min(PLACES, Math.round(open * (small ? 2 * CLEAR : CLEAR)));
  const some = Float32Array.from({ length: 4000 }, (_, k) => steep[Math.floor((k * steep.length) / 4000)]!).sort();
  const least = Math.max(0.4, OVER_NOISE * noise, some[Math.floor(4000 * (1 - count / (width * height)))]!);
  const found: number[] = [];
  for (let i = 0; i < steep.length; i++) if (steep[i]! >= least) found.push(i);
  const step = Math.max(1, found.length / count);
  return Int32Array.from({ length: Math.floor(found.length / step) }, (_, k) => found[Math.floor(k * step)]!);
}

/** Two photographs in one size, with what every try needs of them: where the first is clear, their slow light, and what is covered in the second. */
interface Level {
  readonly covered: Uint8Array | null;
  readonly noise: number;
  readonly first: Gray;
  readonly second: Gray;
  readonly places: Int32Array;
  readonly slow: Gray;
  readonly slowToo: Gray;
}

const levelOf = (first: Gray, second: Gray, covered: Uint8Array | null, noise: number): Level => ({
  covered,
  noise,
  first,
  second,
  // How the two lie is not known here: what turns out to be covered is left out place by place.
  places: clearPlaces(first, covered, noise),
  slow: blurred(first, 3),
  slowToo: blurred(second, 3),
});

/** A registration made better from a place nearby. @param masked whether what differs in slow light is left out */
function refined({ first, second, covered, places, slow, slowToo }: Level, from: Registration, rounds: number, masked: boolean): FoundRegistration {
  const { width, height } = first;
  // The map as a linear one: x' = a px - b py + dx, y' = b px + a py + dy.
  let [a, b, dx, dy] = [from.scale * Math.cos(from.turn), from.scale * Math.sin(from.turn), from.dx, from.dy];
  let [agrees, error] = [0, Infinity];
  const off = new Float32Array(places.length);
  const rises = Float32Array.from(places, (i) => Math.min(MOST_RISE, riseAt(first, i)));
  const slopes = new Float32Array(2 * places.length);
  for (let round = 0; round < rounds; round++) {
    let inside = 0;
    let [like, all] = [0, 1e-6];
    let seen = places.length;
    for (let k = 0; k < places.length; k++) {
      const i = places[k]!;
      const px = (i % width) + 0.5 - width / 2;
      const py = Math.floor(i / width) + 0.5 - height / 2;
      const x = width / 2 + a * px - b * py + dx;
      const y = height / 2 + b * px + a * py + dy;
      if (x < 2 || y < 2 || x > width - 2 || y > height - 2) {
        off[k] = NaN;
        continue;
      }
      if (covered?.[Math.floor(y) * width + Math.floor(x)]) {
        off[k] = NaN;
        seen--;
        continue;
      }
      inside++;
      off[k] = sampleGray(second, x, y) - first.data[i]!;
      all += rises[k]!;
      const sx = (sampleGray(second, x + 1, y) - sampleGray(second, x - 1, y)) / 2;
      const sy = (sampleGray(second, x, y + 1) - sampleGray(second, x, y - 1)) / 2;
      if (isFoundAgain(first, i, sx, sy)) like += rises[k]!;
      if (masked && round >= UNMASKED && Math.abs(sampleGray(slowToo, x, y) - slow.data[i]!) > SAME_LIGHT) {
        off[k] = NaN;
        continue;
      }
      slopes[2 * k] = sx;
      slopes[2 * k + 1] = sy;
    }
    const sizes = off.filter((value) => !Number.isNaN(value)).map(Math.abs).sort(); // prettier-ignore
    // The middle one of the nearer half: what was put on the thing does not count.
    const spread = Math.max(0.8, 1.2 * (sizes[sizes.length >> 2] ?? 0) * 1.4826);
    const reach = TUKEY * spread;
    const normal = new Array<number>(16).fill(0);
    const right = [0, 0, 0, 0];
    const row = [0, 0, 0, 0];
    for (let k = 0; k < places.length; k++) {
      const value = off[k]!;
      if (Number.isNaN(value)) continue;
      const part = value / reach;
      if (Math.abs(part) >= 1) continue;
      const weight = (1 - part * part) ** 2;
      const i = places[k]!;
      const px = (i % width) + 0.5 - width / 2;
      const py = Math.floor(i / width) + 0.5 - height / 2;
      const sx = slopes[2 * k]!;
      const sy = slopes[2 * k + 1]!;
      row[0] = sx * px + sy * py;
      row[1] = -sx * py + sy * px;
      row[2] = sx;
      row[3] = sy;
      for (let m = 0; m < 4; m++) {
        const pull = weight * row[m]!;
        right[m]! -= pull * value;
        for (let n = 0; n < 4; n++) normal[4 * m + n]! += pull * row[n]!;
      }
    }
    // One that has run away shows hardly anything of the first.
    const lost = inside < 0.5 * seen || seen < FEWEST * places.length || Math.abs(Math.hypot(a, b) - 1) > LOOSEST || Math.abs(Math.atan2(b, a)) > LOOSEST;
    agrees = lost ? 0 : like / all;
    if (lost) break;
    const step = solveSymmetric(normal, right);
    if (!step) break;
    error = spread * Math.sqrt(Math.max(varianceOf(normal, 2), varianceOf(normal, 3)));
    a += step[0]!;
    b += step[1]!;
    dx += step[2]!;
    dy += step[3]!;
    if ((!masked || round > UNMASKED) && Math.abs(step[2]!) + Math.abs(step[3]!) + (Math.abs(step[0]!) + Math.abs(step[1]!)) * width < 2e-3) break;
  }
  return { dx, dy, turn: Math.atan2(b, a), scale: Math.hypot(a, b), agrees, error };
}

/** The variance of one of four parameters, for observations of variance 1: its place on the diagonal of the inverse. */
const varianceOf = (normal: readonly number[], which: number): number =>
  solveSymmetric(
    normal,
    Array.from({ length: 4 }, (_, n) => (n === which ? 1 : 0)),
  )?.[which] ?? Infinity;

/** How steep the light is at a place, in levels to the px. */
function riseAt({ data, width }: Gray, i: number): number {
  return Math.hypot(data[i + 1]! - data[i - 1]!, data[i + width]! - data[i - width]!) / 2;
}

/** Whether the light rises at a place as it does in the other picture, about as steeply and to the same side: where all is even nothing is found again. */
function isFoundAgain({ data, width }: Gray, i: number, sx: number, sy: number): boolean {
  const ox = (data[i + 1]! - data[i - 1]!) / 2;
  const oy = (data[i + width]! - data[i - width]!) / 2;
  const own = ox * ox + oy * oy;
  return ox * sx + oy * sy > 0.5 * own && sx * sx + sy * sy < 4 * own;
}
