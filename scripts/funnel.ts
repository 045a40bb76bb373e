// Everything of the funnel's photographs that is made by the practice camera and the fit, for scripts/funnel.mjs.
import type { Pixels } from '../core/math/pixels';
import { randomFrom } from '../core/math/random';
import { lightParts } from '../core/photo/light-parts';
import { takePractice } from '../core/photo/practice';
import { practiceSetup, PRACTICE_LATTICE } from '../core/photo/practice-setups';
import { solvePhoto } from '../core/photo/solve-photo';

const SEED = 7;

/** The two photographs. */
export function photographs(): readonly Pixels[] {
  const random = randomFrom(SEED);
  const setup = practiceSetup({ thing: 'funnel', lattice: PRACTICE_LATTICE, width: 960, height: 720, arc: 2, noise: 0.8, blur: 0.6 }, random);
  const { bare, latticed } = takePractice({ ...setup, moved: { dx: 3.3, dy: -2.1, turn: 0.004, scale: 1 } }, random);
  return [bare, latticed];
}

/** What is found in them as they were kept, and the light on the funnel. */
export function solved(bare: Pixels, latticed: Pixels) {
  const found = solvePhoto(bare, latticed, PRACTICE_LATTICE, [], () => undefined);
  if (typeof found === 'string') throw new Error(found);
  const { fit } = found.kinds[0]!;
  return { registration: found.registration, crossings: found.crossings, fit, light: lightParts(bare, fit)! };
}
