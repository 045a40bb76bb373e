import type { LatticeSettings } from '../grid/lattice';
import { practicePlace, type PracticeSetup, type PracticeThing } from './practice';

/** What is asked of a made-up photograph; the rest is chosen by chance. */
export interface PracticeWish {
  readonly thing: PracticeThing;
  readonly lattice: LatticeSettings;
  /** Size of the photographs in px. */
  readonly width: number;
  readonly height: number;
  /** Part of a whole turn that the lattice goes round a round thing, in radians. */
  readonly arc: number;
  readonly noise: number;
  readonly blur: number;
}

/** The lattice that the practice camera's things wear if no other is asked for. */
export const PRACTICE_LATTICE: LatticeSettings = { columns: 9, rows: 6, box: 12 };

const COLOURS: Readonly<Record<PracticeThing, PracticeSetup['colour']>> = {
  funnel: [0.62, 0.2, 0.16],
  cup: [0.75, 0.71, 0.6],
  hatch: [0.25, 0.42, 0.46],
  pennant: [0.8, 0.62, 0.22],
};

/** A thing before the camera, tilted, off the middle and lit as chance has it, but with the whole lattice in the picture. */
export function practiceSetup(wish: PracticeWish, random: () => number): PracticeSetup {
  for (;;) {
    const setup = chosen(wish, random);
    if (isWhole(setup)) return setup;
  }
}

function chosen({ thing, lattice, width, height, arc, noise, blur }: PracticeWish, random: () => number): PracticeSetup {
  const about = (middle: number, range: number): number => middle + range * (2 * random() - 1);
  const [wide, tall] = [lattice.columns * lattice.box, lattice.rows * lattice.box];
  const focal = about(1.45, 0.5) * width;
  const round = thing === 'funnel' || thing === 'cup';
  const curvature = round ? arc / wide : 0;
  const seen = round ? (2 * Math.sin(Math.min(arc, Math.PI) / 2)) / curvature : wide;
  const far = Math.max((focal * seen) / (about(0.6, 0.08) * width), (focal * tall) / (about(0.66, 0.08) * height));
  return {
    thing,
    lattice,
    camera: { width, height, focal, bend: about(0, 0.06) },
    pose: { turn: [about(0, 0.3), about(0, thing === 'hatch' ? 0.5 : 0.2), about(0, 0.15)], at: [about(0, 0.06) * far * 0.5, about(0, 0.05) * far * 0.5, far] },
    bent: { curvature, taper: thing === 'cup' ? about(0, 1) * 0.16 : 0, skew: about(0, 0.05) },
    ...(thing === 'pennant' && { wave: { swing: about(0.35, 0.1), length: wide * about(0.9, 0.15), start: random() * 2 * Math.PI } }),
    lamp: [about(0, 0.8), about(-0.5, 0.4), -1],
    ambient: about(0.4, 0.1),
    shine: round ? 0.25 * random() : 0,
    colour: COLOURS[thing],
    noise,
    blur,
  };
}

/** Whether every crossing that is seen lies well in the picture. */
function isWhole(setup: PracticeSetup): boolean {
  const { lattice, camera } = setup;
  for (let i = 0; i <= lattice.columns; i++)
    for (let j = 0; j <= lattice.rows; j++) {
      const place = practicePlace(setup, i * lattice.box, j * lattice.box);
      const room = 0.03 * camera.width;
      if (place && (place.at.x < room || place.at.y < room || place.at.x > camera.width - room || place.at.y > camera.height - room)) return false;
    }
  return true;
}
