import type { LatticeSettings } from '../grid/lattice';
import type { SheetPoint } from '../math/points';
import { medianOf } from '../math/robust';
import type { Crossing } from './find-crossings';
import { bentOf, bentShown, fitBent, refitBent, type BentFit, type BentKind, type FitSizes, type Seen } from './fit-bent';
import { fitPatch, patchShown, patchVariance, type PatchFit } from './fit-patch';

/** What the lattice's sheet is taken to lie on. */
export type SurfaceKind = BentKind | 'patch';

/** How far a crossing lies from where the fit has it. */
export interface Miss {
  readonly column: number;
  readonly row: number;
  /** From the fit to the crossing, in px. */
  readonly dx: number;
  readonly dy: number;
  /** It is left out: it cannot be where it was found. */
  readonly wrong: boolean;
}

/** A surface fitted to the crossings of a lattice in a photograph. */
export interface SurfaceFit {
  readonly kind: SurfaceKind;
  readonly shape: BentFit | PatchFit;
  readonly sizes: FitSizes;
  readonly lattice: LatticeSettings;
  readonly misses: readonly Miss[];
  /** Of the crossings that count, in px. */
  readonly mean: number;
  readonly p95: number;
  readonly largest: number;
  /** Standard deviation of one crossing in each direction, in px, corrected for what the fit has taken up. */
  readonly spread: number;
  /** How much larger the misses are than the errors that crossings were found to have. */
  readonly ratio: number;
  /** How far a patch is off where a crossing is left out, beyond chance, in px; 0 of what is bent. */
  readonly between: number;
}

/** What other kinds would come to, for the reason of a choice. */
export interface Comparison {
  readonly kind: SurfaceKind;
  /** As `spread` of a fit. */
  readonly spread: number;
  /** Bayes' information criterion: the least is chosen. */
  readonly score: number;
  readonly fit: SurfaceFit;
}

/** Part of their own spread by which crossings may all be off together, as blur and noise have it, and the least px of it. */
const [TOGETHER, LEAST_TOGETHER] = [0.45, 0.006];
/** Least standard error that a crossing counts with where it is seen straight on, in px; and the most slantwise that is told apart. */
const [SUREST, MOST_SLANT] = [0.04, 0.08];
/** Times its standard deviation that a crossing misses and is wrong, and the least px. */
const [WRONG, WRONG_PX] = [5, 0.6];
/** Part of that by which a patch is off between crossings rather than where one is left out. */
const BETWEEN = 1.7;
/** Most patches each way. */
const MOST_PATCHES = 8;
/** How much dearer freedom is than it is for one that predicts best, so that chance is not followed. */
const DEARER = 1.25;
/** By how much a kind of more freedom has to be better to be chosen. */
const BETTER = 10;

/** A place of the sheet, from the upper left crossing in mm, as fits have it: from its middle. */
const fromMiddle = ({ columns, rows, box }: LatticeSettings, column: number, row: number): { u: number; v: number } => ({
  u: (column - columns / 2) * box,
  v: (row - rows / 2) * box,
});

/** Where a place of the sheet is shown by a fit. @param u from the sheet's upper left crossing in mm; null where it is not shown */
export function shownBy(fit: Pick<SurfaceFit, 'shape' | 'lattice'>): (u: number, v: number) => SheetPoint | null {
  const { shape, lattice } = fit;
  const shown = shape.kind === 'patch' ? patchShown(shape) : bentShown(shape);
  const [left, top] = [(lattice.columns * lattice.box) / 2, (lattice.rows * lattice.box) / 2];
  return (u, v) => shown(u - left, v - top);
}

/** Fits one kind of surface to crossings; wrong ones are found and left out. Null where there are too few. */
export function fitSurface(
  kind: SurfaceKind,
  crossings: readonly Crossing[],
  lattice: LatticeSettings,
  photo: { readonly width: number; readonly height: number },
  from: SurfaceFit | null = null,
): SurfaceFit | null {
  const sizes = { width: photo.width, height: photo.height, length: Math.max(lattice.columns, lattice.rows) * lattice.box };
  const seen = seenOf(crossings, lattice);
  const trust = seen.map(({ error }) => 1 / Math.max(SUREST, error));
  const start = from && from.shape.kind !== 'patch' ? from.shape : null;
  let wrong = new Set<number>();
  let soft: readonly number[] | null = null;
  let shape: BentFit | PatchFit | null = null;
  for (let round = 0; ; round++) {
    const weights = trust.map((weight, i) => (wrong.has(i) ? 0 : weight * (soft?.[i] ?? 1)));
    shape =
      shape && shape.kind !== 'patch' ? refitBent(shape.kind, seen, weights, sizes, shape.parameters) : shapeOf(kind, seen, weights, sizes, lattice, start);
    const fit: SurfaceFit | null = shape && describeFit(kind, shape, crossings, wrong, sizes, lattice);
    if (!fit) return null;
    const far = fit.misses.map(({ dx, dy }) => Math.hypot(dx, dy));
    // The median of lengths is 1.1774 standard deviations of one direction.
    const middle = Math.max(0.03, medianOf(far.filter((_, i) => !wrong.has(i))) / 1.1774);
    if (round < SOFT) {
      // At first what lies far off counts less and less; then it is left out whole, and may come back.
      soft = far.map((value) => 1 / (1 + (value / (2.5 * middle)) ** 2));
      if (round === SOFT - 1) [wrong, soft] = [wrongOf(far, middle, seen), null];
      continue;
    }
    const next = wrongOf(far, middle, seen);
    if (sameSet(next, wrong) || round > SOFT + 5) return fit;
    wrong = next;
  }
}

/** Rounds in which crossings count less the farther they are off. */
const SOFT = 4;

const sameSet = (p: ReadonlySet<number>, q: ReadonlySet<number>): boolean => p.size === q.size && [...p].every((value) => q.has(value));

/** The crossings that miss by more than chance: by the spread of all, and by their own error. */
function wrongOf(far: readonly number[], middle: number, seen: readonly Seen[]): Set<number> {
  return new Set(far.flatMap((value, i) => (value > Math.max(WRONG_PX, WRONG * Math.max(middle, seen[i]!.error)) ? [i] : [])));
}

function shapeOf(
  kind: SurfaceKind,
  seen: readonly Seen[],
  weights: readonly number[],
  sizes: FitSizes,
  lattice: LatticeSettings,
  from: BentFit | null,
): BentFit | PatchFit | null {
  if (kind === 'patch') return bestPatch(seen, weights, lattice);
  let before: BentFit | null = from;
  for (const step of ['panel', 'cylinder', 'cone'] as const) {
    if (!(from && order(step) <= order(from.kind) && order(step) < order(kind))) before = fitBent(step, seen, weights, sizes, step === 'panel' ? null : before);
    if (step === kind || !before) return before;
  }
  return null;
}

const order = (kind: BentKind): number => ['panel', 'cylinder', 'cone'].indexOf(kind);

/** As few patches as explain what was seen: by the misses that each number of them leaves, corrected for what it takes up. */
function bestPatch(seen: readonly Seen[], weights: readonly number[], lattice: LatticeSettings): PatchFit | null {
  const half = { u: (lattice.columns * lattice.box) / 2, v: (lattice.rows * lattice.box) / 2 };
  let [best, least]: [PatchFit | null, number] = [null, Infinity];
  const used = weights.filter((weight) => weight > 0).length;
  for (let across = 1; across <= MOST_PATCHES; across++)
    for (let down = 1; down <= MOST_PATCHES; down++) {
      if ((across + 3) * (down + 3) > used * 0.95) continue;
      const patch = fitPatch(seen, weights, across, down, half);
      if (!patch || patch.freedom > used * 0.7) continue;
      const shown = patchShown(patch);
      const misses = seen.reduce((sum, { u, v, at }, i) => {
        const place = shown(u, v);
        return sum + weights[i]! ** 2 * ((place.x - at.x) ** 2 + (place.y - at.y) ** 2);
      }, 0);
      // Generalised cross validation (Craven and Wahba 1979).
      const score = misses / Math.max(1, used - DEARER * patch.freedom) ** 2;
      if (score < least * (across * down > 1 && best ? 0.97 : 1)) [best, least] = [patch, score];
    }
  return best;
}

const seenOf = (crossings: readonly Crossing[], lattice: LatticeSettings): readonly Seen[] =>
  crossings.map(({ column, row, at, error }) => ({ ...fromMiddle(lattice, column, row), at, error }));

/** A shape with its misses of crossings and what they come to. @param wrong those that do not count; null where none counts, or one is not shown */
export function describeFit(
  kind: SurfaceKind,
  shape: BentFit | PatchFit,
  crossings: readonly Crossing[],
  wrong: ReadonlySet<number>,
  sizes: FitSizes,
  lattice: LatticeSettings,
): SurfaceFit | null {
  const seen = seenOf(crossings, lattice);
  const shown = shape.kind === 'patch' ? patchShown(shape) : bentShown(shape);
  const misses: Miss[] = [];
  for (const [i, { u, v, at }] of seen.entries()) {
    const place = shown(u, v);
    if (!place) return null;
    misses.push({ column: crossings[i]!.column, row: crossings[i]!.row, dx: at.x - place.x, dy: at.y - place.y, wrong: wrong.has(i) });
  }
  const far = misses.filter((miss) => !miss.wrong).map(({ dx, dy }) => Math.hypot(dx, dy)).sort((p, q) => p - q); // prettier-ignore
  if (far.length === 0) return null;
  const squares = far.reduce((sum, value) => sum + value * value, 0);
  const mean = far.reduce((sum, value) => sum + value, 0) / far.length;
  const spread = Math.sqrt(squares / Math.max(1, 2 * far.length - numbersOf(shape)));
  const told = misses.reduce((sum, { dx, dy, wrong: out }, i) => sum + (out ? 0 : (dx * dx + dy * dy) / Math.max(SUREST, seen[i]!.error) ** 2), 0);
  const ratio = Math.sqrt(told / Math.max(1, 2 * far.length - numbersOf(shape)));
  const between = shape.kind === 'patch' ? leftOut(shape, seen, misses, spread) : 0;
  return { kind, shape, sizes, lattice, ratio, between, misses, mean, p95: far[Math.floor((far.length - 1) * 0.95)]!, largest: far.at(-1)!, spread };
}

/** The misses that crossings would have if each were left out, as their variance says, beyond the spread of all. */
function leftOut(shape: PatchFit, seen: readonly Seen[], misses: readonly Miss[], spread: number): number {
  let [sum, count] = [0, 0];
  misses.forEach(({ dx, dy, wrong }, i) => {
    if (wrong) return;
    const { u, v, error } = seen[i]!;
    const own = Math.min(0.95, patchVariance(shape, u, v) / Math.max(SUREST, error) ** 2);
    sum += (dx * dx + dy * dy) / (1 - own) ** 2;
    count += 2;
  });
  return Math.sqrt(Math.max(0, sum / Math.max(1, count) - spread * spread));
}

const numbersOf = (shape: BentFit | PatchFit): number => (shape.kind === 'patch' ? 2 * shape.freedom : shape.parameters.length);

/**
 * Every kind of surface, the best first: a kind of more freedom has to explain clearly more. Kinds that cannot be
 * fitted are left out.
 */
export function compareSurfaces(
  crossings: readonly Crossing[],
  lattice: LatticeSettings,
  photo: { readonly width: number; readonly height: number },
): readonly Comparison[] {
  const fits: SurfaceFit[] = [];
  let bent: SurfaceFit | null = null;
  for (const kind of ['panel', 'cylinder', 'cone', 'patch'] as const) {
    const fit: SurfaceFit | null = fitSurface(kind, crossings, lattice, photo, bent);
    if (fit && kind !== 'patch') bent = fit;
    // Of what bends more than its crossings tell, nothing is known.
    if (fit && (kind === 'panel' || 2 * crossings.length >= numbersOf(fit.shape) + 2)) fits.push(fit);
  }
  // The freest follows them best: it tells how slantwise each is seen.
  const freest = fits.at(-1);
  const errors = crossings.map(({ column, row, error }) =>
    Math.max(error, SUREST / Math.max(MOST_SLANT, freest ? slantAt(freest, column * lattice.box, row * lattice.box) : 1)),
  );
  const numbers = 2 * crossings.length;
  const found = fits.map((fit): Comparison => {
    // By the errors that crossings were found to have; wrong ones count as far as they would at the rim of what is right.
    const off = fit.misses.reduce((sum, { dx, dy, wrong }, i) => sum + (wrong ? 25 : Math.min(50, (dx * dx + dy * dy) / errors[i]! ** 2)), 0);
    const score = numbers * Math.log(Math.max(off / numbers, 0.05)) + numbersOf(fit.shape) * Math.log(numbers);
    return { kind: fit.kind, spread: fit.spread, score, fit };
  });
  // In the order of their freedom: the first that no later one beats clearly.
  let best = found[0];
  for (const one of found) if (best && one.score < best.score - BETTER) best = one;
  return best ? [best, ...found.filter((one) => one !== best)] : [];
}

/** Standard deviation of the misses in each direction by their median, so that what stands apart does not count. */
export function middleSpread({ misses }: SurfaceFit): number {
  return medianOf(misses.flatMap(({ dx, dy, wrong }) => (wrong ? [] : [Math.hypot(dx, dy)]))) / 1.1774;
}

/** How slantwise a place of the sheet is seen: how much narrower than long a small square of it is shown; less than 0 from behind. @param u as `shownBy` */
export function slantAt(fit: Pick<SurfaceFit, 'shape' | 'lattice'>, u: number, v: number): number {
  const shown = shownBy(fit);
  const step = fit.lattice.box * 0.02;
  const [p, q, r] = [shown(u, v), shown(u + step, v), shown(u, v + step)];
  if (!p || !q || !r) return -1;
  const [a, b] = [[q.x - p.x, q.y - p.y], [r.x - p.x, r.y - p.y]] as const; // prettier-ignore
  const long = Math.max(Math.hypot(...a), Math.hypot(...b));
  return long > 0 ? (a[0] * b[1] - a[1] * b[0]) / (long * long) : -1;
}

/** How far the fit may be off at a place of the sheet, in px: 19 of 20 times less. @param u from the upper left crossing, in mm */
export function uncertaintyAt(fit: SurfaceFit, u: number, v: number): number {
  const { shape, sizes, lattice } = fit;
  const [x, y] = [u - (lattice.columns * lattice.box) / 2, v - (lattice.rows * lattice.box) / 2];
  const one = Math.max(1, fit.ratio);
  let variance: number;
  if (shape.kind === 'patch') variance = patchVariance(shape, x, y) * one * one + (BETWEEN * fit.between) ** 2;
  else {
    const { covariance, parameters } = shape;
    if (!covariance) return Infinity;
    const n = parameters.length;
    const at = (p: readonly number[]): SheetPoint => bentShown(bentOf(p, sizes))(x, y) ?? { x: NaN, y: NaN };
    const slopes = parameters.map((value, k) => {
      const step = 1e-5;
      const [ahead, behind] = [
        at(parameters.map((other, i) => (i === k ? value + step : other))),
        at(parameters.map((other, i) => (i === k ? value - step : other))),
      ];
      return [(ahead.x - behind.x) / (2 * step), (ahead.y - behind.y) / (2 * step)] as const;
    });
    const entry = (a: 0 | 1, b: 0 | 1): number => {
      let sum = 0;
      for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) sum += slopes[i]![a] * covariance[i * n + j]! * slopes[j]![b];
      return sum * one * one;
    };
    const [xx, yy, xy] = [entry(0, 0), entry(1, 1), entry(0, 1)];
    // Along the direction in which it is least known.
    variance = (xx + yy) / 2 + Math.hypot((xx - yy) / 2, xy);
  }
  return 2.45 * Math.hypot(Math.sqrt(variance), LEAST_TOGETHER, TOGETHER * middleSpread(fit));
}
