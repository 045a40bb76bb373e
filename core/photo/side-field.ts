import { keptBy } from '../math/keep';
import type { KeptFit } from './kept-fit';
import { photoSide } from './photo-side';

/** Squares across a photograph between whose corners places are interpolated. */
const ACROSS = 128;

/** Places of a surface's sheet under a grid of px of its photograph. */
interface Field {
  readonly step: number;
  readonly columns: number;
  readonly rows: number;
  /** u and v at each corner, row by row; beside the surface places at its rim. */
  readonly places: Float64Array;
  /** By its upper left corner, where each square lies: on the surface with all round it, at its rim, or beside it. */
  readonly where: Uint8Array;
}

const [BESIDE, RIM, INSIDE] = [0, 1, 2];

const fieldOf = keptBy(made);

function made(fit: KeptFit): Field {
  const side = photoSide(fit);
  const step = fit.width / ACROSS;
  const [columns, rows] = [ACROSS + 3, Math.ceil(fit.height / step) + 3];
  const places = new Float64Array(2 * columns * rows);
  const found = new Uint8Array(columns * rows);
  for (let j = 0; j < rows; j++)
    for (let k = 0; k < columns; k++) {
      // To and fro, so that each place is near the one before.
      const i = j % 2 === 0 ? k : columns - 1 - k;
      const place = side.nearest((i - 1) * step, (j - 1) * step);
      const at = j * columns + i;
      places[2 * at] = place.u;
      places[2 * at + 1] = place.v;
      found[at] = place.found ? 1 : 0;
    }
  return { step, columns, rows, places, where: whereOf(found, columns, rows) };
}

function whereOf(found: Uint8Array, columns: number, rows: number): Uint8Array {
  const where = new Uint8Array(columns * rows);
  for (let j = 1; j < rows - 2; j++)
    for (let i = 1; i < columns - 2; i++) {
      let [near, all] = [0, 0];
      for (let dj = -1; dj <= 2; dj++)
        for (let di = -1; di <= 2; di++) {
          const one = found[(j + dj) * columns + i + di]!;
          all += one;
          if (di >= 0 && di <= 1 && dj >= 0 && dj <= 1) near += one;
        }
      where[j * columns + i] = all === 16 ? INSIDE : near === 0 ? BESIDE : RIM;
    }
  return where;
}

/**
 * The place of a surface's sheet under px of its photograph, u and v written to two places of `out` from `at` on: cubic
 * between the corners of a grid inside the surface (Catmull and Rom 1974), exact at its rim, its rim beside it.
 * @param quick whether straight lines between the corners will do everywhere
 */
export function placesUnder(fit: KeptFit, quick = false): (x: number, y: number, out: Float64Array, at: number) => void {
  const { step, columns, rows, places, where } = fieldOf(fit);
  const side = photoSide(fit);
  return (x, y, out, at) => {
    const gx = Math.max(1, Math.min(columns - 2.001, x / step + 1));
    const gy = Math.max(1, Math.min(rows - 2.001, y / step + 1));
    const i = Math.floor(gx);
    const j = Math.floor(gy);
    const own = where[j * columns + i];
    if (quick || own === BESIDE) linear(places, columns, i, j, gx - i, gy - j, out, at);
    else if (own === INSIDE) cubic(places, columns, i, j, gx - i, gy - j, out, at);
    else {
      const place = side.nearest(x, y);
      out[at] = place.u;
      out[at + 1] = place.v;
    }
  };
}

function linear(p: Float64Array, columns: number, i: number, j: number, s: number, t: number, out: Float64Array, at: number): void {
  const a = 2 * (j * columns + i);
  const b = a + 2 * columns;
  for (let c = 0; c < 2; c++) out[at + c] = (p[a + c]! * (1 - s) + p[a + 2 + c]! * s) * (1 - t) + (p[b + c]! * (1 - s) + p[b + 2 + c]! * s) * t;
}

function cubic(p: Float64Array, columns: number, i: number, j: number, s: number, t: number, out: Float64Array, at: number): void {
  const [a0, a1, a2, a3] = weights(s);
  const w = weights(t);
  let [u, v] = [0, 0];
  for (let k = 0; k < 4; k++) {
    const from = 2 * ((j + k - 1) * columns + i - 1);
    u += w[k]! * (a0 * p[from]! + a1 * p[from + 2]! + a2 * p[from + 4]! + a3 * p[from + 6]!);
    v += w[k]! * (a0 * p[from + 1]! + a1 * p[from + 3]! + a2 * p[from + 5]! + a3 * p[from + 7]!);
  }
  out[at] = u;
  out[at + 1] = v;
}

const weights = (t: number): readonly [number, number, number, number] => [
  (-t * t * t + 2 * t * t - t) / 2,
  (3 * t * t * t - 5 * t * t + 2) / 2,
  (-3 * t * t * t + 4 * t * t + t) / 2,
  (t * t * t - t * t) / 2,
];
