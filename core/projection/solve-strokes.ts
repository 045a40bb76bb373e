import { degrees, measure } from '../math/figures';
import { fitLeastSquares, type Fit } from '../math/least-squares';
import type { Axis, SheetPoint } from '../math/points';
import { axesInCamera, viewAngleDeg } from './camera';
import type { ByAxis } from './gauss';
import type { CameraAngles } from './vanishing';

/** An edge traced over a picture, in mm of the sheet, and the axis that it runs along. */
export interface TracedStroke {
  readonly id: string;
  readonly from: SheetPoint;
  readonly to: SheetPoint;
  readonly axis: Axis;
}

/** What the picture is taken for. `auto`: parallel where strokes do not converge beyond what noise explains. */
export type SolveAs = 'auto' | 'parallel' | 'one' | 'two' | 'three';

export interface SolveOptions {
  readonly as: SolveAs;
  /** The middle of the picture, in mm of the sheet; taken for the principal point where none is given. */
  readonly centre: SheetPoint;
  /** The principal point where it is known, such as in a picture that was cropped. */
  readonly principal?: SheetPoint | null;
  /** Width of the picture in mm, for the angle of view. */
  readonly width: number;
  /** Mm of the sheet to one px of the picture; misses are told in px. */
  readonly mmPerPx: number;
}

/** How well a stroke agrees with the solution. */
export interface StrokeMiss {
  readonly id: string;
  /** Distance of its ends from the line through its middle that the solution wants, in px of the picture. */
  readonly px: number;
  /** The angle between them. */
  readonly deg: number;
}

/** A projection read out of strokes. */
export interface Solved {
  readonly ok: true;
  readonly as: Exclude<SolveAs, 'auto'>;
  /** Angles of a parallel projection, signed as in an axonometric set-up. */
  readonly parallel: { readonly aDeg: number; readonly bDeg: number; readonly rollDeg: number } | null;
  readonly camera: CameraAngles | null;
  /** Angle of view over the picture's width and how far it may be off, in 95 of 100 cases; null where one vanishing point does not tell it. */
  readonly viewDeg: { readonly value: number; readonly error: number } | null;
  readonly misses: readonly StrokeMiss[];
  readonly worst: string;
  /** A stroke that spoils an otherwise good fit; left out of the solution. */
  readonly wrong: string | null;
  /** Root mean square of the misses that count, in px. */
  readonly rmsPx: number;
  readonly notes: readonly string[];
}

/** What is missing, each a part of a sentence, or why what is there tells nothing. */
export type StrokeSolution = Solved | { readonly ok: false; readonly missing: readonly string[] };

/** Strokes with less than this miss in px are as good as a hand can trace. */
const HAND_PX = 0.6;
/** The chance with which noise alone makes a picture look cropped. */
const CROPPED_CHANCE = 0.005;
/** Picture widths beyond which a vanishing point or an eye is as good as none: seen from there, edges differ by a hair over a picture. */
const FAR_WIDTHS = 200;
/** Sine of the angle under which strokes count as parallel: a px over 10,000. */
const ALONG = 1e-4;
/** How far in picture widths the principal point may lie off the picture's middle without anybody having cropped it. */
const OFF_CENTRE = 0.02;
/** How many times better the rest has to agree without a stroke for it to be called wrong. */
const WRONG_RATIO = 9;

const AXES = ['a', 'b', 'h'] as const;

/**
 * Reads the projection out of traced strokes.
 *
 * Vanishing points minimise the distances of stroke ends to the line through the vanishing point and the stroke's
 * middle, all three at once and square to each other, over turn, tilt, roll, focal length and, for upright pictures,
 * the height of the principal point (after Caprile & Torre 1990 and Rother 2002). A stroke is called wrong when the
 * others agree several times better without it.
 */
export function solveStrokes(strokes: readonly TracedStroke[], given: SolveOptions): StrokeSolution {
  const options = given.principal ? { ...given, centre: given.principal } : given;
  const used = strokes.filter((s) => Math.hypot(s.to.x - s.from.x, s.to.y - s.from.y) > 0);
  if (![options.centre.x, options.centre.y, options.width, options.mmPerPx].every(Number.isFinite))
    return { ok: false, missing: ['a picture whose size is a number'] };
  const as = options.as === 'auto' ? guessKind(used, options) : options.as;
  const missing = missingStrokes(used, as);
  if (missing.length > 0) return { ok: false, missing };
  if (as === 'parallel') return solveParallel(used, options);
  const solve = (kind: Perspective): { kind: Perspective; wrong: string | null; fit: Fit } => {
    const model = MODELS[kind];
    return { kind, ...withoutWrong(used, fitModel(used, model, options), model, options) };
  };
  const first = solve(as);
  const chosen = as === 'three' && !given.principal ? croppedOr(first, used, solve) : first;
  const solution = perspectiveSolution(used, as, chosen, options);
  const parallel = degenerateAxes(used, as, solution.camera!, options);
  if (parallel.length > 0) return { ok: false, missing: parallel };
  return solution;
}

/** How perspectives are fitted: by their vanishing points, and with three of them also with the principal point left free. */
type Perspective = 'one' | 'two' | 'three' | 'cropped';

interface Fitted {
  readonly kind: Perspective;
  readonly wrong: string | null;
  readonly fit: Fit;
}

/** With three vanishing points the principal point can be told: taken where the strokes agree far better on it than on the picture's middle. */
function croppedOr(centred: Fitted, strokes: readonly TracedStroke[], solve: (kind: Perspective) => Fitted): Fitted {
  const kept = strokes.length - (centred.wrong ? 1 : 0);
  const spare = kept - MODELS.cropped.size;
  if (spare < 1 || centred.fit.cost / kept < (HAND_PX / 4) ** 2) return centred;
  const free = solve('cropped');
  const noise = Math.max(free.fit.cost / spare, (HAND_PX / 4) ** 2);
  // An F-test on the two figures more; for two of them its quantile is known in closed form.
  const quantile = (spare / 2) * (CROPPED_CHANCE ** (-2 / spare) - 1);
  return (centred.fit.cost - free.fit.cost) / 2 > quantile * noise ? free : centred;
}

/** Axes that should converge but are as good as parallel, so that a figure would be told out of nothing. */
function degenerateAxes(strokes: readonly TracedStroke[], as: 'one' | 'two' | 'three', camera: CameraAngles, { width }: SolveOptions): readonly string[] {
  const { focal, principal } = camera;
  const far = focal > FAR_WIDTHS * width || Math.hypot(principal.x, principal.y) > FAR_WIDTHS * width || !Number.isFinite(focal);
  if (as === 'one') {
    const lines = strokes.filter((s) => s.axis === 'b').map(lineOf);
    const spread = Math.max(...lines.map((p) => Math.max(...lines.map((q) => Math.abs(p.dx * q.dy - p.dy * q.dx)))));
    return spread < ALONG || far ? ['edges along b that converge: those that are traced are parallel, and tell no vanishing point'] : [];
  }
  return far ? ['edges that converge: those that are traced are as good as parallel, and tell a parallel projection'] : [];
}

function missingStrokes(strokes: readonly TracedStroke[], as: Exclude<SolveAs, 'auto'>): readonly string[] {
  const count = (axis: Axis): number => strokes.filter((s) => s.axis === axis).length;
  const wanted: Readonly<Record<typeof as, ByAxis<number>>> = {
    parallel: { a: 1, b: 1, h: 0 },
    one: { a: 0, b: 2, h: 0 },
    two: { a: 2, b: 2, h: 0 },
    three: { a: 2, b: 2, h: 2 },
  };
  return AXES.flatMap((axis) => {
    const lacks = wanted[as][axis] - count(axis);
    return lacks > 0 ? [`${lacks} more ${lacks === 1 ? 'stroke' : 'strokes'} along ${axis}`] : [];
  });
}

/** Middle, direction and half length of a stroke. */
interface Line {
  readonly axis: Axis;
  readonly mx: number;
  readonly my: number;
  readonly dx: number;
  readonly dy: number;
  readonly half: number;
}

function lineOf({ from, to, axis }: TracedStroke): Line {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  return { axis, mx: (from.x + to.x) / 2, my: (from.y + to.y) / 2, dx: (to.x - from.x) / length, dy: (to.y - from.y) / length, half: length / 2 };
}

/** Signed distance of a stroke's end from the line through its middle towards a homogeneous vanishing point. */
function missOf({ mx, my, dx, dy, half }: Line, vx: number, vy: number, vw: number): number {
  const [x, y] = [vx - mx * vw, vy - my * vw];
  const length = Math.hypot(x, y);
  if (length === 0) return half;
  // Towards the point or away from it is the same line; the sign keeps residuals smooth through zero.
  const along = x * dx + y * dy;
  return ((x * dy - y * dx) / length) * half * (along < 0 ? -1 : 1);
}

function missFigures(id: string, line: Line, miss: number, { mmPerPx }: SolveOptions): StrokeMiss {
  return { id, px: Math.abs(miss) / mmPerPx, deg: degrees(Math.asin(Math.min(1, Math.abs(miss) / line.half))) };
}

function summed(misses: readonly StrokeMiss[], wrong: string | null): Pick<Solved, 'misses' | 'worst' | 'rmsPx'> {
  const worst = misses.reduce((p, q) => (q.px > p.px ? q : p));
  const counted = misses.filter((m) => m.id !== wrong);
  return { misses, worst: worst.id, rmsPx: Math.sqrt(counted.reduce((sum, m) => sum + m.px * m.px, 0) / counted.length) };
}

// Parallel projections.

function solveParallel(strokes: readonly TracedStroke[], options: SolveOptions): Solved {
  const wrong = parallelOutlier(strokes, options);
  const kept = strokes.filter((s) => s.id !== wrong).map(lineOf);
  const direction = (axis: Axis): number | null => {
    const own = kept.filter((line) => line.axis === axis);
    return own.length > 0 ? -degrees(meanDirection(own)) : null;
  };
  const h = direction('h');
  const rollDeg = h === null ? 0 : withinHalf(h - 90);
  const parallel = { aDeg: withinHalf((direction('a') ?? 0) - rollDeg), bDeg: -withinHalf((direction('b') ?? 0) - rollDeg), rollDeg };
  const drawnDeg: ByAxis<number> = { a: parallel.aDeg + rollDeg, b: rollDeg - parallel.bDeg, h: 90 + rollDeg };
  const misses = strokes.map((stroke): StrokeMiss => {
    const rad = (-drawnDeg[stroke.axis] * Math.PI) / 180;
    const line = lineOf(stroke);
    return missFigures(stroke.id, line, missOf(line, Math.cos(rad), Math.sin(rad), 0), options);
  });
  const notes = h === null ? ['No stroke along h: uprights are taken as upright.'] : [];
  return { ok: true, as: 'parallel', parallel, camera: null, viewDeg: null, ...summed(misses, wrong), wrong, notes };
}

/** Of axes with three strokes or more, the one that lies farthest off what the others of its axis agree on. */
function parallelOutlier(strokes: readonly TracedStroke[], { mmPerPx }: SolveOptions): string | null {
  let found: { id: string; px: number } | null = null;
  for (const stroke of strokes) {
    const rest = strokes.filter((s) => s.axis === stroke.axis && s !== stroke).map(lineOf);
    if (rest.length < 2) continue;
    const rad = meanDirection(rest);
    const off = (line: Line): number => Math.abs(missOf(line, Math.cos(rad), Math.sin(rad), 0)) / mmPerPx;
    const px = off(lineOf(stroke));
    const spread = Math.max(HAND_PX, ...rest.map(off));
    if (px > 2 && px * px > WRONG_RATIO * spread * spread && px > (found?.px ?? 0)) found = { id: stroke.id, px };
  }
  return found?.id ?? null;
}

/** The direction that several strokes share, weighted by length squared: the main axis of their scatter. */
function meanDirection(lines: readonly Line[]): number {
  let [xx, xy, yy] = [0, 0, 0];
  for (const { dx, dy, half } of lines) {
    const w = half * half;
    xx += w * dx * dx;
    xy += w * dx * dy;
    yy += w * dy * dy;
  }
  return 0.5 * Math.atan2(2 * xy, xx - yy);
}

/** An angle of a line in degrees, from -90 (excluded) to 90. */
function withinHalf(deg: number): number {
  const turned = ((deg % 180) + 180) % 180;
  return turned > 90 ? turned - 180 : turned;
}

// Perspectives.

/** A family of cameras: how parameters make one, and where to start looking. Lengths are in picture widths. */
interface Model {
  readonly size: number;
  readonly camera: (p: readonly number[], options: SolveOptions) => CameraAngles;
  readonly starts: readonly (readonly number[])[];
}

/** Beyond 90 degrees a and b are exchanged: whoever traced them may have seen it so. */
const TURNS = [10, 25, 40, 55, 70, 82, 100, 115, 130, 145, 160, 172];
const FOCALS = [0.45, 0.9, 1.8, 4];
/** The focal length that one-point perspectives are given, in picture widths: an angle of view of 45 degrees. */
const ONE_POINT_FOCAL = 1.207;

const MODELS: Readonly<Record<Perspective, Model>> = {
  // Where b meets, and the roll.
  one: {
    size: 3,
    camera: ([x, y, roll], { centre, width }) => ({
      focal: ONE_POINT_FOCAL * width,
      principal: { x: centre.x + x! * width, y: centre.y + y! * width },
      turnDeg: 0,
      tiltDeg: 0,
      rollDeg: roll!,
    }),
    starts: [-0.6, -0.3, 0, 0.3, 0.6].flatMap((x) => [-0.6, -0.3, 0, 0.3, 0.6].map((y) => [x, y, 0])),
  },
  // Turn, roll, the logarithm of the focal length, and how far the horizon lies above the middle.
  two: {
    size: 4,
    camera: ([turn, roll, focal, up], { centre, width }) => {
      const rad = (roll! * Math.PI) / 180;
      return {
        focal: Math.exp(focal!) * width,
        principal: { x: centre.x - Math.sin(rad) * up! * width, y: centre.y - Math.cos(rad) * up! * width },
        turnDeg: turn!,
        tiltDeg: 0,
        rollDeg: roll!,
      };
    },
    starts: TURNS.flatMap((turn) => FOCALS.flatMap((focal) => [-0.4, -0.1, 0.15, 0.5].map((up) => [turn, 0, Math.log(focal), up]))),
  },
  three: {
    size: 4,
    camera: ([turn, tilt, roll, focal], { centre, width }) => ({
      focal: Math.exp(focal!) * width,
      principal: centre,
      turnDeg: turn!,
      tiltDeg: tilt!,
      rollDeg: roll!,
    }),
    starts: TURNS.flatMap((turn) => FOCALS.flatMap((focal) => [-50, -30, -12, 12, 30, 50].map((tilt) => [turn, tilt, 0, Math.log(focal)]))),
  },
  // As three, and how far the principal point lies off the middle.
  cropped: {
    size: 6,
    camera: ([turn, tilt, roll, focal, x, y], { centre, width }) => ({
      focal: Math.exp(focal!) * width,
      principal: { x: centre.x + x! * width, y: centre.y + y! * width },
      turnDeg: turn!,
      tiltDeg: tilt!,
      rollDeg: roll!,
    }),
    starts: TURNS.flatMap((turn) => FOCALS.flatMap((focal) => [-50, -30, -12, 12, 30, 50].map((tilt) => [turn, tilt, 0, Math.log(focal), 0, 0]))),
  },
};

function residualsOf(lines: readonly Line[], model: Model, options: SolveOptions): (p: readonly number[]) => readonly number[] {
  return (p) => {
    const camera = model.camera(p, options);
    const axes = axesInCamera(camera);
    const { focal, principal } = camera;
    return lines.map((line) => {
      const d = axes[line.axis];
      return missOf(line, focal * d.x + principal.x * d.z, focal * d.y + principal.y * d.z, d.z) / options.mmPerPx;
    });
  };
}

/** Best of the fits from the most promising starts. */
function fitModel(strokes: readonly TracedStroke[], model: Model, options: SolveOptions): Fit {
  const residuals = residualsOf(strokes.map(lineOf), model, options);
  const cost = (p: readonly number[]): number => residuals(p).reduce((sum, r) => sum + r * r, 0);
  const ranked = model.starts.map((start) => ({ start, cost: cost(start) })).sort((p, q) => p.cost - q.cost);
  return ranked
    .slice(0, 5)
    .map(({ start }) => fitLeastSquares(residuals, start, STEPS(model)))
    .reduce((p, q) => (q.cost < p.cost ? q : p));
}

const STEPS = (model: Model): readonly number[] => new Array<number>(model.size).fill(1e-5);

function refit(strokes: readonly TracedStroke[], model: Model, options: SolveOptions, start: readonly number[]): Fit {
  const near = fitLeastSquares(residualsOf(strokes.map(lineOf), model, options), start, STEPS(model));
  const afresh = fitModel(strokes, model, options);
  return afresh.cost < near.cost ? afresh : near;
}

/** The fit of all strokes, or, where the others agree far better without one of them, their fit and which one that is. */
function withoutWrong(strokes: readonly TracedStroke[], all: Fit, model: Model, options: SolveOptions): { wrong: string | null; fit: Fit } {
  const spare = strokes.length - model.size;
  if (spare < 2 || all.cost / strokes.length < HAND_PX * HAND_PX) return { wrong: null, fit: all };
  let best: { id: string; fit: Fit } | null = null;
  for (const stroke of strokes) {
    const rest = strokes.filter((s) => s !== stroke);
    if (missingFor(rest, stroke.axis)) continue;
    const fit = refit(rest, model, options, all.parameters);
    if (!best || fit.cost < best.fit.cost) best = { id: stroke.id, fit };
  }
  if (!best) return { wrong: null, fit: all };
  // The others' optimum may show that the fit of all had stopped in a lesser one.
  const again = refit(strokes, model, options, best.fit.parameters);
  const whole = again.cost < all.cost ? again : all;
  const without = Math.max(best.fit.cost / (spare - 1), HAND_PX * HAND_PX);
  return whole.cost / spare > WRONG_RATIO * without ? { wrong: best.id, fit: best.fit } : { wrong: null, fit: whole };
}

/** Whether an axis that is needed would be left with a single stroke. */
const missingFor = (rest: readonly TracedStroke[], axis: Axis): boolean => axis !== 'h' && rest.filter((s) => s.axis === axis).length < 2;

function perspectiveSolution(strokes: readonly TracedStroke[], as: 'one' | 'two' | 'three', { kind, fit, wrong }: Fitted, options: SolveOptions): Solved {
  const model = MODELS[kind];
  const camera = model.camera(fit.parameters, options);
  const residuals = residualsOf(strokes.map(lineOf), model, options)(fit.parameters);
  const misses = strokes.map((stroke, i) => missFigures(stroke.id, lineOf(stroke), residuals[i]! * options.mmPerPx, options));
  const notes: string[] = [];
  const spare = strokes.length - (wrong ? 1 : 0) - model.size;
  const kept = wrong === null ? strokes : strokes.filter((s) => s.id !== wrong);
  const viewDeg = kind === 'one' ? null : viewOf(fit, kind, camera, spare, kept, options);
  if (Math.floor(camera.turnDeg / 90) % 2 !== 0) notes.push('a and b were exchanged, so that a recedes to the right.');
  const off = { x: camera.principal.x - options.centre.x, y: camera.principal.y - options.centre.y };
  if (kind === 'cropped')
    notes.push(
      `The picture was cropped: its principal point lies ${measure(Math.abs(off.x), 'mm', 1)} to the ${off.x < 0 ? 'left' : 'right'} of the middle and ${measure(Math.abs(off.y), 'mm', 1)} ${off.y < 0 ? 'above' : 'below'} it.`,
    );
  else if (!options.principal && kind !== 'one')
    notes.push('The middle of the picture is taken for its principal point. Where the picture was cropped, give the point.');
  if (as === 'one') notes.push('One vanishing point does not tell the angle of view: 45° is taken. Set it by hand.');
  else if (spare < 1) notes.push('As many strokes as unknowns: every stroke fits whatever it is. One more along any axis would show the miss.');
  if (viewDeg && viewDeg.error > viewDeg.value / 3) {
    notes.push(`The strokes are too parallel to tell the angle of view well: trace edges along ${looseAxes(strokes, camera)} that lie farther apart.`);
  }
  return { ok: true, as, parallel: null, camera: positive(camera), viewDeg, ...summed(misses, wrong), wrong, notes };
}

/** Angle of view and how far it may be off, from the covariance of the logarithm of the focal length and the strokes' scatter. */
function viewOf(
  fit: Fit,
  kind: 'two' | 'three' | 'cropped',
  { focal }: CameraAngles,
  spare: number,
  strokes: readonly TracedStroke[],
  options: SolveOptions,
): NonNullable<Solved['viewDeg']> {
  const at = kind === 'two' ? 2 : 3;
  const { size } = MODELS[kind];
  const value = viewAngleDeg(focal, options.width);
  if (!fit.inverse) return { value, error: 180 };
  const scatter = Math.max(fit.cost / Math.max(1, spare), (HAND_PX / 2) ** 2);
  const error = Math.hypot(
    Math.sqrt(scatter * fit.inverse[at * size + at]!) * studentFactor(spare),
    kind === 'cropped' ? 0 : offCentreError(fit, kind, at, strokes, options),
  );
  const half = options.width / 2 / focal;
  return { value, error: Math.min(180, degrees((2 * half * error) / (1 + half * half))) };
}

/** Standard errors within which the truth lies in 95 of 100 cases: 1.96, and more where few observations are to spare (near Student's t). */
function studentFactor(spare: number): number {
  return 1.96 * (spare < 1 ? 3 : 1 + 1.6 / spare);
}

/** What the logarithm of the focal length changes by when the principal point lies off the picture's middle by as much as is usual; 0 where the point is given. */
function offCentreError(fit: Fit, kind: 'two' | 'three', at: number, strokes: readonly TracedStroke[], options: SolveOptions): number {
  if (options.principal) return 0;
  const { centre, width } = options;
  const shifted = [{ x: OFF_CENTRE, y: 0 }, { x: 0, y: OFF_CENTRE }].map(({ x, y }) => {
    const there = { ...options, centre: { x: centre.x + x * width, y: centre.y + y * width } };
    const again = fitLeastSquares(residualsOf(strokes.map(lineOf), MODELS[kind], there), fit.parameters, STEPS(MODELS[kind]));
    return again.parameters[at]! - fit.parameters[at]!;
  }); // prettier-ignore
  return Math.hypot(...shifted);
}

/** The axes whose strokes point most nearly the same way. */
function looseAxes(strokes: readonly TracedStroke[], camera: CameraAngles): string {
  const spread = (axis: Axis): number => {
    const angles = strokes.filter((s) => s.axis === axis).map((s) => meanDirection([lineOf(s)]));
    return angles.length < 2 ? Infinity : Math.max(...angles.map((x) => Math.abs(Math.sin(x - angles[0]!))));
  };
  const asked: readonly Axis[] = camera.tiltDeg === 0 ? ['a', 'b'] : AXES;
  return [...asked].sort((p, q) => spread(p) - spread(q)).slice(0, 1).join('') || 'a'; // prettier-ignore
}

/** Angles brought into the range that set-ups have: a receding to the right of b, roll within a half turn. A quarter turn exchanges a and b. */
function positive(camera: CameraAngles): CameraAngles {
  const quarter = camera.turnDeg - 90 * Math.floor(camera.turnDeg / 90);
  return { ...camera, turnDeg: quarter, rollDeg: camera.rollDeg - 360 * Math.round(camera.rollDeg / 360) };
}

/**
 * The axis that a stroke most likely runs along: in a solution the one it agrees with best; else steep ones along h, and of the others those along a
 * that come to the horizon on the right: rising ones below it, falling ones above.
 * @param middle about where the horizon is taken to lie, while there is no camera; all of them below it without
 */
export function guessAxis(from: SheetPoint, to: SheetPoint, camera: CameraAngles | null, middle?: SheetPoint): Axis {
  const line = lineOf({ id: '', from, to, axis: 'h' });
  if (camera) {
    const axes = axesInCamera(camera);
    const { focal, principal } = camera;
    const off = (axis: Axis): number => {
      const d = axes[axis];
      return Math.abs(missOf(line, focal * d.x + principal.x * d.z, focal * d.y + principal.y * d.z, d.z));
    };
    return AXES.reduce((best, axis) => (off(axis) < off(best) ? axis : best), 'a' as Axis);
  }
  const rising = withinHalf(degrees(Math.atan2(-line.dy, line.dx)));
  if (Math.abs(rising) > 65) return 'h';
  // Edges over the horizon come down to it: what runs to the right there falls.
  const over = middle !== undefined && line.my < middle.y;
  return rising >= 0 !== over ? 'a' : 'b';
}

/** Parallel where no axis converges beyond what a hand's noise explains; else by which axes do. */
function guessKind(strokes: readonly TracedStroke[], options: SolveOptions): Exclude<SolveAs, 'auto'> {
  const meets = AXES.filter((axis) => converges(strokes.filter((s) => s.axis === axis).map(lineOf), options));
  if (meets.length === 0) return 'parallel';
  if (meets.length === 1 && meets[0] === 'b') return 'one';
  return meets.includes('h') ? 'three' : 'two';
}

/** Whether the strokes of one axis agree better on a point than on a direction, by more than a hand's noise. */
function converges(lines: readonly Line[], { mmPerPx, width, centre }: SolveOptions): boolean {
  if (lines.length < 2) return false;
  const rad = meanDirection(lines);
  const apart = lines.map((line) => missOf(line, Math.cos(rad), Math.sin(rad), 0) / mmPerPx);
  if (Math.max(...apart.map(Math.abs)) < 2 * HAND_PX) return false;
  const point = (p: readonly number[]): readonly number[] => {
    const k = Math.tan(p[1]!) / width;
    return lines.map((line) => missOf(line, Math.cos(p[0]!) + centre.x * k, Math.sin(p[0]!) + centre.y * k, k) / mmPerPx);
  };
  const best = [-1.3, -0.8, -0.3, 0.3, 0.8, 1.3].map((bend) => fitLeastSquares(point, [rad, bend], [1e-6, 1e-6])).reduce((p, q) => (q.cost < p.cost ? q : p));
  const cost = apart.reduce((sum, r) => sum + r * r, 0);
  return cost > 4 * Math.max(best.cost, HAND_PX * HAND_PX);
}
