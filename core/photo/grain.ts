import { spreadOf } from '../math/robust';
import { blurred, type Gray } from './gray';

/** How a photograph is grained and how soft it is, so that what is laid on it can be made like it. */
export interface Grain {
  /** Standard deviation of the noise of a px, in levels. */
  readonly noise: number;
  /** Standard deviation of the blur, in px; that of px themselves is part of it. */
  readonly blur: number;
}

/** Blur in px under which edges are looked at once more. */
const AGAIN = 1.2;
/** Blur in px by which noise is calmed before. */
const CALM = 1;
/** Part of the steepest places that are edges, and of these the part that is sharpest: what lies out of focus does not count. */
const [STEEPEST, SHARPEST] = [0.004, 0.3];

/**
 * Noise by the median of what is left when each px's neighbours are taken off (Immerkaer 1996), blur by how much less
 * steep edges become when they are blurred once more (Zhuo and Sim 2011).
 */
export function grainOf(gray: Gray): Grain {
  const noise = noiseOf(gray);
  return { noise, blur: blurOf(gray, noise) };
}

/** The standard deviation of the noise of a px, in levels. */
export function noiseOf({ width, height, data }: Gray): number {
  const left: number[] = [];
  const step = Math.max(1, Math.floor(Math.sqrt((width * height) / 60_000)));
  for (let y = 1; y < height - 1; y += step)
    for (let x = 1; x < width - 1; x += step) {
      const i = y * width + x;
      const across = (k: number): number => data[k - 1]! - 2 * data[k]! + data[k + 1]!;
      // Second differences across of second differences down: what is smooth, or an edge along either, leaves nothing.
      left.push(Math.abs(across(i - width) - 2 * across(i) + across(i + width)));
    }
  // That of unit noise is 6.
  return spreadOf(left) / 6;
}

function blurOf(gray: Gray, noise: number): number {
  const { width, height } = gray;
  const [once, twice] = [steepness(blurred(gray, CALM)), steepness(blurred(gray, Math.hypot(CALM, AGAIN)))];
  const all = Float32Array.from(once).sort();
  const least = Math.max(1.5 * noise, all[Math.floor(all.length * (1 - STEEPEST))] ?? 0, 1);
  const found: number[] = [];
  for (let y = 4; y < height - 4; y++)
    for (let x = 4; x < width - 4; x++) {
      const i = y * width + x;
      const ratio = once[i]! / twice[i]!;
      if (once[i]! > least && isCrest(once, i, width) && ratio > 1.001) found.push(AGAIN / Math.sqrt(ratio * ratio - 1));
    }
  found.sort((p, q) => p - q);
  const whole = found[Math.floor(found.length * SHARPEST)] ?? 0;
  return Math.sqrt(Math.max(0, whole * whole - CALM * CALM));
}

/** How steep the brightness is at each px, in levels to the px. */
function steepness({ width, height, data }: Gray): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const dx = data[i + 1]! - data[i - 1]!;
      const dy = data[i + width]! - data[i - width]!;
      out[i] = Math.sqrt(dx * dx + dy * dy) / 2;
    }
  return out;
}

/** Whether a px is the steepest of its edge, across it. */
function isCrest(steep: Float32Array, i: number, width: number): boolean {
  return (steep[i]! >= steep[i - 1]! && steep[i]! >= steep[i + 1]!) || (steep[i]! >= steep[i - width]! && steep[i]! >= steep[i + width]!);
}
