import type { SheetPoint } from '../math/points';
import { blurred, convolved, gaussianKernels, type Gray } from './gray';

/** A place at which dark lines may cross: darker than all around it. */
export interface Candidate extends SheetPoint {
  /** How much darker it is than what lies beside it, along the lesser and the stronger direction. */
  readonly weak: number;
  readonly strong: number;
}

/** Where lines may cross, and how strongly each px belongs to a dark line. */
export interface DarkLines {
  readonly candidates: readonly Candidate[];
  readonly ridges: Gray;
}

/** Most candidates that are kept, the strongest. */
const MOST = 4000;
/** Px of the blur under which lines are looked at, and of that by which light is evened out. */
const [SCALE, AROUND] = [1.3, 14];
/** Part of the stronger curvature that the lesser has at a crossing; along a line it has hardly any. */
const CROSSES = 0.3;
/** Times the noise that a crossing has to be darker in every direction, and part of what the clearest are. */
const [ABOVE_NOISE, OF_CLEAREST] = [4.5, 0.12];

/** Finds where dark lines may cross: maxima of the lesser curvature of brightness, in even light (Steger 1998 for lines by their Hessian). */
export function darkLines(gray: Gray): DarkLines {
  const light = blurred(gray, AROUND);
  const even: Gray = { ...gray, data: gray.data.map((value, i) => (100 * value) / lightAt(light, i)) };
  const [g, first, second] = gaussianKernels(SCALE);
  const [xx, yy, xy] = [convolved(even, second, g).data, convolved(even, g, second).data, convolved(even, first, first).data];
  const { width, height } = gray;
  const weak = new Float32Array(width * height);
  const strong = new Float32Array(width * height);
  for (let i = 0; i < weak.length; i++) {
    const mean = (xx[i]! + yy[i]!) / 2;
    const half = (xx[i]! - yy[i]!) / 2;
    const off = Math.sqrt(half * half + xy[i]! * xy[i]!);
    weak[i] = mean - off;
    strong[i] = mean + off;
  }
  const found: Candidate[] = [];
  // Evening the light out makes the noise of dark places large.
  const least = ABOVE_NOISE * spread(xx.map((value, i) => value * lightAt(light, i)));
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      const value = weak[i]!;
      if (value <= least / lightAt(light, i) || value < CROSSES * strong[i]! || !isPeak(weak, i, width)) continue;
      const sub = (before: number, after: number): number => {
        const bend = before + after - 2 * value;
        return bend < 0 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
      };
      found.push({ x: x + 0.5 + sub(weak[i - 1]!, weak[i + 1]!), y: y + 0.5 + sub(weak[i - width]!, weak[i + width]!), weak: value, strong: strong[i]! });
    }
  found.sort((p, q) => q.weak - p.weak);
  const clearest = found[Math.min(found.length - 1, 20)]?.weak ?? 0;
  const candidates = found.filter((candidate) => candidate.weak > OF_CLEAREST * clearest).slice(0, MOST);
  return { candidates, ridges: { width, height, data: strong } };
}

/** The light around a px by which it is evened out. */
const lightAt = (light: Gray, i: number): number => Math.max(12, light.data[i]!);

function isPeak(data: Float32Array, i: number, width: number): boolean {
  for (let dy = -2; dy <= 2; dy++) for (let dx = -2; dx <= 2; dx++) if ((dx !== 0 || dy !== 0) && data[i + dy * width + dx]! > data[i]!) return false;
  return true;
}

/** The standard deviation of the noise of values most of which are about zero: by their median size. */
function spread(data: Float32Array): number {
  const some = Float32Array.from({ length: Math.min(20_000, data.length) }, (_, i, n = Math.min(20_000, data.length)) =>
    Math.abs(data[Math.floor((i * data.length) / n)]!),
  );
  return some.sort()[some.length >> 1]! / 0.6745;
}
