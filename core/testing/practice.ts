import { PRACTICE_LATTICE, practiceSetup } from '../photo/practice-setups';
import { takePractice, type PracticePair, type PracticeSetup, type PrintMark } from '../photo/practice';
import type { Pixels } from '../math/pixels';
import { randomFrom } from './random';

/** Sine of the angle at which a surface has to be seen for its crossings to be counted. */
export const SEEN_AT = (15 * Math.PI) / 180;
const THINGS = ['funnel', 'cup', 'hatch', 'pennant'] as const;

/** A made-up photograph by its number: four things in turn, 20 to 160 degrees of arc, up to 4 levels of noise and 2 px of blur. */
export function practiceOf(seed: number, width = 800): { readonly setup: PracticeSetup; readonly random: () => number } {
  const random = randomFrom(100 + seed);
  const arc = ((20 + 140 * random()) * Math.PI) / 180;
  const [noise, blur] = [4 * random(), 2 * random()];
  const wish = { thing: THINGS[seed % 4]!, lattice: PRACTICE_LATTICE, width, height: width * 0.75, arc, noise, blur };
  return { setup: practiceSetup(wish, random), random };
}

export function practicePair(seed: number, width = 800): { readonly setup: PracticeSetup; readonly pair: PracticePair } {
  const { setup, random } = practiceOf(seed, width);
  return { setup, pair: takePractice(setup, random) };
}

/** A part of a picture, or the whole as in a mirror. */
export function croppedPx({ width, data }: Pixels, left: number, top: number, w: number, h: number, mirrored = false): Pixels {
  const out = new Uint8ClampedArray(4 * w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const from = 4 * ((top + y) * width + left + (mirrored ? w - 1 - x : x));
      for (let c = 0; c < 4; c++) out[4 * (y * w + x) + c] = data[from + c]!;
    }
  return { width: w, height: h, data: out };
}

const INKS = [[0.08, 0.08, 0.09], [0.7, 0.12, 0.1], [0.1, 0.25, 0.55], [0.85, 0.72, 0.2], [0.15, 0.4, 0.2], [0.9, 0.9, 0.88]] as const; // prettier-ignore

/**
 * A made-up pair of a thing that has a print of its own: bands, discs and rows of small marks; on a plain or a busy
 * ground, in light that is dim or bright, the second photograph shifted and turned by a little.
 */
export function printedPractice(seed: number, width = 800): { readonly setup: PracticeSetup; readonly random: () => number } {
  const { setup, random } = practiceOf(seed, width);
  const { columns, rows, box } = PRACTICE_LATTICE;
  const chance = (from: number, to: number): number => from + (to - from) * random();
  const ink = (): PrintMark['colour'] => INKS[Math.floor(INKS.length * random())]!;
  const print: PrintMark[] = [];
  const band = ink();
  print.push({ u: -9 * box, v: chance(0, 4) * box, width: 30 * box, height: chance(0.5, 1.5) * box, round: false, colour: band });
  for (let k = 0; k < 3; k++)
    print.push({
      u: chance(-1, columns) * box,
      v: chance(-1, rows) * box,
      width: chance(1, 3) * box,
      height: chance(1, 3) * box,
      round: random() < 0.5,
      colour: ink(),
    });
  // What is written on it: rows of small upright marks.
  for (let line = 0; line < 3; line++) {
    const [v, colour] = [chance(-0.5, rows) * box, ink()];
    for (let u = chance(0, 2) * box; u < chance(6, 9) * box; u += chance(0.3, 0.7) * box)
      print.push({ u, v, width: chance(0.1, 0.25) * box, height: 0.5 * box, round: false, colour });
  }
  const moved = { dx: (chance(-20, 20) * width) / 800, dy: (chance(-20, 20) * width) / 800, turn: chance(-0.03, 0.03), scale: 1 + chance(-0.015, 0.015) };
  const ground = seed % 8 < 4 ? chance(30, 235) : undefined;
  return { setup: { ...setup, print, moved, exposure: seed % 16 < 8 ? 1 : chance(0.35, 0.6), ...(ground !== undefined && { ground }) }, random };
}
