import { keptBy } from '../math/keep';
import { latticeLine, NUMBER_LINE, numberBox, numberDistance, type LatticeSettings } from '../grid/lattice';
import type { Pixels } from '../math/pixels';
import type { SheetPoint } from '../math/points';
import { blurred, type Gray } from './gray';
import { bentPoint, seenAt, shownAt, turnMatrix, type Bent, type PhotoCamera, type Pose } from './surface';

/** What the practice camera has before its lens: a round funnel, a tapered cup, a flat hatch, a pennant in the wind. */
export type PracticeThing = 'funnel' | 'cup' | 'hatch' | 'pennant';

/** A wave of a sheet that hangs in folds: its direction turns by `swing sin(2 pi s / length + start)` along its way s. */
export interface Wave {
  readonly swing: number;
  /** In mm. */
  readonly length: number;
  readonly start: number;
}

/** A mark of a thing's own print: a rectangle of its sheet, in mm from the lattice's upper left crossing, or the ellipse within it, and the share of the light that it gives back. */
export interface PrintMark {
  readonly u: number;
  readonly v: number;
  readonly width: number;
  readonly height: number;
  readonly round: boolean;
  readonly colour: readonly [number, number, number];
}

/** What is photographed, how, and in what light. Lengths in mm, angles in radians. */
export interface PracticeSetup {
  readonly thing: PracticeThing;
  readonly lattice: LatticeSettings;
  readonly camera: PhotoCamera;
  readonly pose: Pose;
  /** How the lattice lies on what is round or flat. */
  readonly bent: Bent;
  readonly wave?: Wave;
  /** Direction to the lamp in the camera's frame, and the part of the light that comes from everywhere. */
  readonly lamp: readonly [number, number, number];
  readonly ambient: number;
  /** Brightness of the highlight, 0 to 1. */
  readonly shine: number;
  /** Share of the light that the bare thing gives back, in red, green and blue. */
  readonly colour: readonly [number, number, number];
  /** Noise in levels and blur in px, each as a standard deviation. */
  readonly noise: number;
  readonly blur: number;
  /** What is printed on the thing itself, each mark over those before it; a painted stripe where nothing is said. */
  readonly print?: readonly PrintMark[];
  /** Level of the ground behind the thing where it has one tone all over; blots of light and dark where nothing is said. */
  readonly ground?: number;
  /** Part of all light that the photographs take in; 1 where nothing is said. */
  readonly exposure?: number;
  /** How the camera moved between the two photographs: the second is shifted by px, turned, and larger. */
  readonly moved?: { readonly dx: number; readonly dy: number; readonly turn: number; readonly scale: number };
}

/** A pair of photographs of a known thing, and what is known of it. */
export interface PracticePair {
  readonly bare: Pixels;
  readonly latticed: Pixels;
  /** Light on the thing in every px of the bare photograph, where it is a part of the whole; NaN beside the thing. */
  readonly shade: Float32Array;
}

/** Places looked at within a px, in each direction. */
const WITHIN = 3;
/** Room of paper round the lattice, in boxes. */
const PAPER = 0.85;
/** Shares of the light that the paper of the lattice and its ink give back. */
export const [WHITE, INK] = [0.86, 0.1] as const;

/** Where a line of sight meets a thing. */
interface Meeting {
  /** The place on the sheet, in mm. */
  u: number;
  v: number;
  /** The outward normal in the camera's frame. */
  nx: number;
  ny: number;
  nz: number;
  /** How far along the line of sight, which goes x, y, 1, and its direction in the thing's own frame. */
  far: number;
  dx: number;
  dy: number;
  dz: number;
}

/** What a line of sight in direction p, q, 1 meets first, written into `out`; false where nothing. */
type Meet = (p: number, q: number, out: Meeting) => boolean;

/** The place in the photograph at which a place of the lattice's sheet is shown, and the angle at which its surface is seen; null where it is turned away. @param u right of the lattice's upper left crossing, @param v below it, in mm */
export function practicePlace(setup: PracticeSetup, u: number, v: number): { readonly at: SheetPoint; readonly angle: number } | null {
  const [x, y, z] = placeOf(setup, u, v);
  const at = shownAt(setup.camera, x, y, z);
  if (!at) return null;
  const step = 1e-3;
  const [pu, qu] = [placeOf(setup, u + step, v), placeOf(setup, u - step, v)];
  const [pv, qv] = [placeOf(setup, u, v + step), placeOf(setup, u, v - step)];
  const [a, b] = [pu.map((value, i) => value - qu[i]!), pv.map((value, i) => value - qv[i]!)] as [number[], number[]];
  const n = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!];
  // Right and down make a normal away from the eye.
  const turned = (n[0]! * x + n[1]! * y + n[2]! * z) / (Math.hypot(...n) * Math.hypot(x, y, z));
  return turned > 0 ? { at, angle: Math.asin(Math.min(1, turned)) } : null;
}

function placeOf({ lattice, bent, wave, pose }: PracticeSetup, u: number, v: number): readonly [number, number, number] {
  const [x, y] = [u - (lattice.columns * lattice.box) / 2, v - (lattice.rows * lattice.box) / 2];
  const own = [0, 0, 0];
  if (wave) {
    const [cos, sin] = [Math.cos(bent.skew), Math.sin(bent.skew)];
    const along = profileOf(wave);
    const s = cos * x - sin * y;
    [own[0], own[1], own[2]] = [along.at(s)[0], sin * x + cos * y, along.at(s)[1]];
  } else bentPoint(bent, x, y, own);
  const m = turnMatrix(pose.turn);
  return [0, 1, 2].map((i) => m[3 * i]! * own[0]! + m[3 * i + 1]! * own[1]! + m[3 * i + 2]! * own[2]! + pose.at[i]!) as unknown as [number, number, number];
}

/** The profile of a sheet in folds: places by the way along it, and back. */
interface Profile {
  at(s: number): readonly [number, number];
  wayAt(x: number): number;
  heightAt(x: number): number;
  slopeAt(s: number): number;
  /** How far it is known to either side. */
  readonly reach: number;
}

const profileOf = keptBy(waveProfile);

function waveProfile({ swing, length, start }: Wave): Profile {
  const step = length / 512;
  const count = 512 * 3;
  const [xs, zs] = [new Float64Array(2 * count + 1), new Float64Array(2 * count + 1)];
  const slope = (s: number): number => swing * Math.sin((2 * Math.PI * s) / length + start);
  for (const way of [1, -1])
    for (let i = 1; i <= count; i++) {
      const middle = slope(way * (i - 0.5) * step);
      xs[count + way * i] = xs[count + way * (i - 1)]! + way * Math.cos(middle) * step;
      zs[count + way * i] = zs[count + way * (i - 1)]! + way * Math.sin(middle) * step;
    }
  const between = (list: Float64Array, place: number): number => {
    const i = Math.max(0, Math.min(2 * count - 1, Math.floor(place)));
    return list[i]! + (list[i + 1]! - list[i]!) * (place - i);
  };
  const indexAt = (x: number): number => {
    let [low, high] = [0, 2 * count];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (xs[middle]! <= x) low = middle;
      else high = middle;
    }
    return low + (x - xs[low]!) / (xs[high]! - xs[low]!);
  };
  return {
    at: (s) => [between(xs, s / step + count), between(zs, s / step + count)],
    wayAt: (x) => (indexAt(x) - count) * step,
    heightAt: (x) => between(zs, indexAt(x)),
    slopeAt: slope,
    reach: xs[2 * count]!,
  };
}

/** The thing before the camera. */
function thingOf(setup: PracticeSetup): Meet {
  const { bent, pose, lattice, wave, thing } = setup;
  const m = turnMatrix(pose.turn);
  const [width, height] = [lattice.columns * lattice.box, lattice.rows * lattice.box];
  // The eye in the thing's own frame.
  const eye = [0, 1, 2].map((i) => -(m[i]! * pose.at[0] + m[3 + i]! * pose.at[1] + m[6 + i]! * pose.at[2]));
  const [cosSkew, sinSkew] = [Math.cos(bent.skew), Math.sin(bent.skew)];
  const [tan, narrowing, cosTaper] = [Math.tan(bent.taper), Math.sin(bent.taper), Math.cos(bent.taper)];
  const axis = bent.curvature === 0 ? 0 : 1 / bent.curvature;
  const profile = wave && profileOf(wave);
  const tall = height * (thing === 'hatch' || thing === 'pennant' ? 0.5 : 0.8) + lattice.box * 1.4;
  const wide = width * 0.5 + lattice.box * 1.4;
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = m as unknown as Numbers9;
  const [ex, ey, ez] = eye as unknown as [number, number, number];
  const set = (out: Meeting, t: number, x: number, y: number, nx: number, ny: number, nz: number): boolean => {
    // The sheet is turned by its skew.
    out.u = cosSkew * x + sinSkew * y + width / 2;
    out.v = -sinSkew * x + cosSkew * y + height / 2;
    out.nx = m0 * nx + m1 * ny + m2 * nz;
    out.ny = m3 * nx + m4 * ny + m5 * nz;
    out.nz = m6 * nx + m7 * ny + m8 * nz;
    out.far = t;
    return t > 0;
  };
  const along = (p: number, q: number, out: Meeting): void => {
    out.dx = m0 * p + m3 * q + m6;
    out.dy = m1 * p + m4 * q + m7;
    out.dz = m2 * p + m5 * q + m8;
  };
  if (profile)
    return (p, q, out) => {
      along(p, q, out);
      const { dx, dy, dz } = out;
      // A sheet that is nowhere steep: the line of sight is followed to it by Newton's steps.
      let t = -ez / dz;
      for (let i = 0; i < 30; i++) {
        const x = ex + t * dx;
        const off = ez + t * dz - profile.heightAt(Math.max(-profile.reach, Math.min(profile.reach, x)));
        t -= off / (dz - Math.tan(profile.slopeAt(profile.wayAt(x))) * dx);
        if (Math.abs(off) < 1e-6) break;
      }
      const s = profile.wayAt(ex + t * dx);
      const y = ey + t * dy;
      if (Math.abs(s) > wide || Math.abs(y) > tall) return false;
      const slope = profile.slopeAt(s);
      return set(out, t, s, y, Math.sin(slope), 0, -Math.cos(slope));
    };
  if (axis === 0)
    return (p, q, out) => {
      along(p, q, out);
      const t = -ez / out.dz;
      const x = ex + t * out.dx;
      const y = ey + t * out.dy;
      return Math.abs(x) <= wide && Math.abs(y) <= tall && set(out, t, x, y, 0, 0, -1);
    };
  return (p, q, out) => {
    along(p, q, out);
    const { dx, dy, dz } = out;
    const oz = ez - axis;
    const r0 = axis + ey * tan;
    const rd = dy * tan;
    const a = dx * dx + dz * dz - rd * rd;
    const b = ex * dx + oz * dz - r0 * rd;
    const root = b * b - a * (ex * ex + oz * oz - r0 * r0);
    if (root < 0) return false;
    const t = (-b - Math.sqrt(root)) / a;
    const y = ey + t * dy;
    if (Math.abs(y) > tall || axis + y * tan <= 0) return false;
    const angle = Math.atan2(ex + t * dx, -(oz + t * dz));
    const nx = Math.sin(angle) * cosTaper;
    const nz = -Math.cos(angle) * cosTaper;
    if (Math.abs(narrowing) < 1e-9) return set(out, t, angle * axis, y, nx, 0, nz);
    const apex = axis / narrowing;
    const far = apex + y / cosTaper;
    const flat = angle * narrowing;
    return set(out, t, far * Math.sin(flat), far * Math.cos(flat) - apex, nx, -narrowing, nz);
  };
}

type Numbers9 = readonly [number, number, number, number, number, number, number, number, number];

/** How much of the light a place of the printed sheet gives back; below 0 beside the paper. */
function paperAt(lattice: LatticeSettings, u: number, v: number): number {
  const { columns, rows, box } = lattice;
  const x = u / box;
  const y = v / box;
  if (x < -PAPER || y < -PAPER || x > columns + PAPER || y > rows + PAPER) return -1;
  const half = latticeLine(lattice) / 2 / box;
  const i = Math.round(x);
  const j = Math.round(y);
  if (Math.abs(x - i) < half && i >= 0 && i <= columns && y > -half && y < rows + half) return INK;
  if (Math.abs(y - j) < half && j >= 0 && j <= rows && x > -half && x < columns + half) return INK;
  const column = Math.floor(x);
  const row = Math.floor(y);
  if (column < 0 || row < 0) return WHITE;
  return isInked(row * (columns + 1) + column + 1, x - column, y - row) ? INK : WHITE;
}

const BOXES = [1, 2, 3].map(numberBox);
/** Boxes about a number in which its strokes may lie. */
const NEAR_NUMBER = 0.02;

/** Whether a place of a box is inked by the number of its crossing. */
function isInked(number: number, x: number, y: number): boolean {
  const box = BOXES[number > 99 ? 2 : number > 9 ? 1 : 0]!;
  if (x < box.left - NEAR_NUMBER || y < box.top - NEAR_NUMBER || x > box.right + NEAR_NUMBER || y > box.bottom + NEAR_NUMBER) return false;
  return numberDistance(number, x, y) < NUMBER_LINE / 2;
}

/** Takes both photographs of a thing. The same setup and randomness give the same px. @param random 0 to 1, seeded by the caller */
export function takePractice(setup: PracticeSetup, random: () => number): PracticePair {
  const { moved } = setup;
  const blobs = Array.from({ length: 40 }, () => [random(), random(), 0.02 + 0.08 * random(), random() - 0.5] as const);
  const shade = new Float32Array(setup.camera.width * setup.camera.height);
  const bare = exposed(setup, blobs, null, false, shade);
  const latticed = exposed(setup, blobs, moved ?? null, true, null);
  return { bare: developed(setup, bare, random), latticed: developed(setup, latticed, random), shade };
}

type Blobs = readonly (readonly [number, number, number, number])[];

/** The light that falls on every px, three channels of 0 to 255 to the px. */
function exposed(setup: PracticeSetup, blobs: Blobs, moved: PracticeSetup['moved'] | null, papered: boolean, shade: Float32Array | null): Float32Array {
  const { camera, lamp, ambient, shine, lattice, exposure = 1 } = setup;
  const { width, height } = camera;
  const meet = thingOf(setup);
  const out = new Float32Array(3 * width * height);
  const meeting: Meeting = { u: 0, v: 0, nx: 0, ny: 0, nz: 0, far: 0, dx: 0, dy: 0, dz: 0 };
  const long = Math.hypot(...lamp);
  const [lx, ly, lz] = [lamp[0] / long, lamp[1] / long, lamp[2] / long];
  // Lines of sight at the corners of px; those within are between them.
  const rows = [sightRow(setup, moved, 0), sightRow(setup, moved, 1)];
  for (let y = 0; y < height; y++) {
    const [above, below] = [rows[y & 1]!, rows[(y + 1) & 1]!];
    for (let x = 0; x < width; x++) {
      const at = 3 * (y * width + x);
      let light = 0;
      let met = 0;
      for (let k = 0; k < WITHIN * WITHIN; k++) {
        const s = ((k % WITHIN) + 0.5) / WITHIN;
        const t = (Math.floor(k / WITHIN) + 0.5) / WITHIN;
        const p = (above[2 * x]! * (1 - s) + above[2 * x + 2]! * s) * (1 - t) + (below[2 * x]! * (1 - s) + below[2 * x + 2]! * s) * t;
        const q = (above[2 * x + 1]! * (1 - s) + above[2 * x + 3]! * s) * (1 - t) + (below[2 * x + 1]! * (1 - s) + below[2 * x + 3]! * s) * t;
        if (!meet(p, q, meeting)) continue;
        const lit = ambient + (1 - ambient) * Math.max(0, meeting.nx * lx + meeting.ny * ly + meeting.nz * lz);
        const paper = papered ? paperAt(lattice, meeting.u, meeting.v) : -1;
        // Paper is dull.
        const gloss = shine > 0 && paper < 0 ? shine * glossAt(meeting, p, q, lx, ly, lz) : 0;
        const body = paper < 0 ? bodyAt(setup, meeting) : null;
        for (let c = 0; c < 3; c++) out[at + c]! += 255 * Math.min(1, exposure * ((body ? body[c]! : paper) * lit + gloss));
        light += exposure * lit;
        met++;
      }
      const bare = WITHIN * WITHIN - met;
      const ground = bare > 0 ? exposure * (setup.ground ?? groundAt(setup, blobs, above[2 * x]!, above[2 * x + 1]!)) : 0;
      for (let c = 0; c < 3; c++) out[at + c] = (out[at + c]! + bare * ground * (0.9 + 0.1 * c)) / (WITHIN * WITHIN);
      if (shade) shade[y * width + x] = bare === 0 ? light / met : NaN;
    }
    rows[y & 1] = sightRow(setup, moved, y + 2);
  }
  return out;
}

/** Directions x, y of the lines of sight at the corners of px above a row. */
function sightRow({ camera }: PracticeSetup, moved: PracticeSetup['moved'] | null, y: number): Float64Array {
  const { width, height } = camera;
  const row = new Float64Array(2 * (width + 1));
  const [cos, sin] = moved ? [Math.cos(moved.turn) / moved.scale, Math.sin(moved.turn) / moved.scale] : [1, 0];
  const [dx, dy] = moved ? [moved.dx, moved.dy] : [0, 0];
  for (let x = 0; x <= width; x++) {
    const [ox, oy] = [x - dx - width / 2, y - dy - height / 2];
    const [p, q] = seenAt(camera, { x: width / 2 + cos * ox + sin * oy, y: height / 2 - sin * ox + cos * oy });
    row[2 * x] = p;
    row[2 * x + 1] = q;
  }
  return row;
}

/** The body's own colour: that of its print, or of a painted stripe that runs below the sheet's middle. */
function bodyAt({ colour, print, lattice: { rows, box } }: PracticeSetup, { u, v }: Meeting): PracticeSetup['colour'] {
  if (print) {
    for (let k = print.length - 1; k >= 0; k--) if (isPrinted(print[k]!, u, v)) return print[k]!.colour;
    return colour;
  }
  const stripe = v / (rows * box);
  return stripe > 0.66 && stripe < 0.8 ? [colour[1] * 0.7, colour[2] * 0.7, colour[0] * 0.7] : colour;
}

function isPrinted({ u, v, width, height, round }: PrintMark, x: number, y: number): boolean {
  const [p, q] = [(x - u) / width, (y - v) / height];
  if (p < 0 || q < 0 || p > 1 || q > 1) return false;
  return !round || (2 * p - 1) ** 2 + (2 * q - 1) ** 2 < 1;
}

/** How much of the lamp shines back from a place, by Blinn's half way direction. */
function glossAt({ nx, ny, nz }: Meeting, p: number, q: number, lx: number, ly: number, lz: number): number {
  const far = Math.sqrt(p * p + q * q + 1);
  const [hx, hy, hz] = [lx - p / far, ly - q / far, lz - 1 / far];
  return Math.max(0, (nx * hx + ny * hy + nz * hz) / Math.sqrt(hx * hx + hy * hy + hz * hz)) ** 60;
}

/** What stands behind the thing, far away: a slow change of light with blots in it. */
function groundAt({ camera: { width, height, focal } }: PracticeSetup, blobs: Blobs, p: number, q: number): number {
  const [x, y] = [0.5 + (p * focal) / width, 0.5 + (q * focal) / height];
  let value = 92 + 50 * x - 30 * y;
  for (const blob of blobs) {
    const off = ((x - blob[0]) ** 2 + (y - blob[1]) ** 2) / (blob[2] * blob[2]);
    if (off < 1) value += blob[3] * 120 * (1 - off) ** 2;
  }
  return Math.max(4, Math.min(250, value));
}

/** Light as a photograph: blurred, with noise, in whole levels. */
function developed({ camera: { width, height }, blur, noise }: PracticeSetup, light: Float32Array, random: () => number): Pixels {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let c = 0; c < 3; c++) {
    let channel: Gray = { width, height, data: Float32Array.from({ length: width * height }, (_, i) => light[3 * i + c]!) };
    if (blur > 0.05) channel = blurred(channel, blur);
    for (let i = 0; i < width * height; i++) data[4 * i + c] = Math.round(channel.data[i]! + (noise > 0 ? noise * gaussian(random) : 0));
  }
  for (let i = 0; i < width * height; i++) data[4 * i + 3] = 255;
  return { width, height, data };
}

/** A value of a normal distribution (Box and Muller 1958). */
function gaussian(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
