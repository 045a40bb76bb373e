import { PRACTICE_LATTICE, practiceSetup } from '../photo/practice-setups';
import { takePractice, type PracticePair, type PracticeSetup } from '../photo/practice';
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
