import { latticeLine, numberBox, type LatticeSettings } from '../grid/lattice';
import { solveSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import { sampleGray, type Gray } from './gray';
import type { ShadeGrid } from './shade';

/** A photograph of a lattice. */
export interface SeenPaper {
  readonly photo: Gray;
  readonly lattice: LatticeSettings;
  /** Where a place of the sheet is shown in it, in mm from the upper left crossing; null where it is not seen. */
  readonly shown: (u: number, v: number) => SheetPoint | null;
  /** How soft the photograph is: a standard deviation in px. */
  readonly blur: number;
  /** What its levels are multiplied with to be those of the photograph that the light is for. */
  readonly gain: number;
}

/** Px beside a line, besides its blur, in which it may be seen; and standard deviations of the blur. */
const [BESIDE, OF_BLUR] = [1.2, 2.5];
/** Blur in px that any photograph is taken to have, and the part of a place over which its px are read. */
const [LEAST_BLUR, READ] = [0.6, 0.3];
/** Places beyond the lattice to which its light goes on. */
const RIM = 1.6;
/** Most of a box on either side of a line that is left out. */
const MOST_BESIDE = 0.32;
/** Places within which light is evened out, and how far it is looked for where paper is inked, as standard deviations in places. */
const [EVEN, FARTHEST] = [1.4, 12];
/** How much of a bend in the light is taken to be chance. */
const CALM = 0.05;
/** How much paper has to be near a place, in whole places. */
const ENOUGH = 6;

/**
 * The light on the paper of a lattice, in levels of white paper, at the places of a grid that lie on it; NaN at others. Its
 * lines and numbers are left out: there, and all over, the light is that of the paper near by, as it slopes and bends there (local least squares).
 * @returns null where none of the paper is seen
 */
export function paperLight({ photo, lattice, shown, blur, gain }: SeenPaper, grid: ShadeGrid): Float32Array | null {
  const { columns, rows, minU, minV, maxU, maxV } = grid;
  const [stepU, stepV] = [(maxU - minU) / columns, (maxV - minV) / rows];
  const [wide, tall] = [lattice.columns * lattice.box, lattice.rows * lattice.box];
  const bright = new Float32Array(columns * rows).fill(NaN);
  const on = new Uint8Array(columns * rows);
  let count = 0;
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const [u, v] = [minU + (i + 0.5) * stepU, minV + (j + 0.5) * stepV];
      // A rim round it keeps what lies beyond out of what is between the places.
      if (u < -RIM * stepU || v < -RIM * stepV || u > wide + RIM * stepU || v > tall + RIM * stepV) continue;
      const [at, right, below] = [shown(u, v), shown(u + stepU / 2, v), shown(u, v + stepV / 2)];
      if (!at || !right || !below) continue;
      on[j * columns + i] = 1;
      if (u < 0 || v < 0 || u > wide || v > tall) continue;
      // Mm across and down that a line is seen beside itself.
      const reach = OF_BLUR * Math.max(LEAST_BLUR, blur) + BESIDE;
      const mm = (far: SheetPoint, step: number): number => READ * step + (reach * step) / 2 / Math.max(1e-6, Math.hypot(far.x - at.x, far.y - at.y));
      if (isInked(lattice, u, v, mm(right, stepU), mm(below, stepV))) continue;
      bright[j * columns + i] = gain * meanAbout(photo, at, right, below);
      if (!Number.isNaN(bright[j * columns + i]!)) count++;
    }
  if (count < ENOUGH) return null;
  const light = evened(bright, on, columns, rows);
  return light.every(Number.isNaN) ? null : light;
}

/** Whether a line or a number of the lattice lies within some mm of a place, across and down. */
function isInked(lattice: LatticeSettings, u: number, v: number, across: number, down: number): boolean {
  const { box } = lattice;
  const half = latticeLine(lattice) / 2;
  const [near, under] = [Math.min(across, MOST_BESIDE * box), Math.min(down, MOST_BESIDE * box)];
  if (Math.abs(u - Math.round(u / box) * box) < half + near || Math.abs(v - Math.round(v / box) * box) < half + under) return true;
  const [column, row] = [Math.floor(u / box), Math.floor(v / box)];
  const number = row * (lattice.columns + 1) + column + 1;
  const { left, top, right, bottom } = numberBox(String(number).length);
  const [x, y] = [u - column * box, v - row * box];
  return x > left * box - near && x < right * box + near && y > top * box - under && y < bottom * box + under;
}

/** The mean brightness of what a place of a grid takes up in a photograph; NaN beyond its edge. @param right the middle of its right edge, @param below that of its lower one */
function meanAbout(photo: Gray, at: SheetPoint, right: SheetPoint, below: SheetPoint): number {
  let sum = 0;
  for (const s of [-2 * READ, 0, 2 * READ])
    for (const t of [-2 * READ, 0, 2 * READ]) {
      const [x, y] = [at.x + s * (right.x - at.x) + t * (below.x - at.x), at.y + s * (right.y - at.y) + t * (below.y - at.y)];
      if (x < 1 || y < 1 || x > photo.width - 1 || y > photo.height - 1) return NaN;
      sum += sampleGray(photo, x, y);
    }
  return sum / 9;
}

/** Values at all places that are on the paper, each that of the surface through those near it. */
function evened(values: Float32Array, on: Uint8Array, columns: number, rows: number): Float32Array {
  const out = new Float32Array(columns * rows).fill(NaN);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      if (!on[j * columns + i]) continue;
      for (let sigma = EVEN; sigma <= FARTHEST; sigma *= 1.5) {
        const value = smoothAt(values, columns, rows, i, j, sigma);
        if (value === null) continue;
        out[j * columns + i] = value;
        break;
      }
    }
  return out;
}

/** The value at a place of the second-degree surface through those round it, the nearer the more; null where there are too few. */
function smoothAt(values: Float32Array, columns: number, rows: number, i: number, j: number, sigma: number): number | null {
  const reach = Math.ceil(2.5 * sigma);
  const normal = new Array<number>(36).fill(0);
  const right = new Array<number>(6).fill(0);
  for (let dj = -reach; dj <= reach; dj++)
    for (let di = -reach; di <= reach; di++) {
      const [x, y] = [i + di, j + dj];
      if (x < 0 || y < 0 || x >= columns || y >= rows) continue;
      const value = values[y * columns + x]!;
      if (Number.isNaN(value)) continue;
      const weight = Math.exp(-(di * di + dj * dj) / (2 * sigma * sigma));
      const [x1, y1] = [di / sigma, dj / sigma];
      const row = [1, x1, y1, x1 * x1, x1 * y1, y1 * y1];
      for (let a = 0; a < 6; a++) {
        right[a]! += weight * row[a]! * value;
        for (let b = 0; b < 6; b++) normal[6 * a + b]! += weight * row[a]! * row[b]!;
      }
    }
  if (normal[0]! < ENOUGH) return null;
  // All of it to one side tells no slope.
  if (Math.hypot(normal[1]!, normal[2]!) > normal[0]!) return null;
  for (let a = 3; a < 6; a++) normal[7 * a]! += CALM * normal[0]!;
  return solveSymmetric(normal, right)?.[0] ?? null;
}
