import { degrees, measure } from '../math/figures';
import { fitLeastSquares, type Fit } from '../math/least-squares';
import type { Axis } from '../math/points';
import { viewAngleDeg } from './camera';
import type { ByAxis } from './gauss';
import { guessKind } from './guess-strokes';
import { HAND_PX, lineOf, meanDirection, missOf, sharedPoint, withinHalf, type Line, type SolveAs, type SolveOptions, type TracedStroke } from './stroke-lines';
import { fitModel, MODELS, residualsOf, STEPS, withoutWrong, WRONG_RATIO, type Perspective } from './stroke-models';
import type { CameraAngles } from './vanishing';

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

/** The chance with which noise alone makes a picture look cropped. */
const CROPPED_CHANCE = 0.005;
/** Picture widths beyond which a vanishing point or an eye is as good as none: seen from there, edges differ by a hair over a picture. */
const FAR_WIDTHS = 200;
/** Picture widths beyond which a point that all strokes run to tells that they are parallel, not that two axes meet. */
const NEAR_WIDTHS = 20;
/** Sine of the angle under which strokes count as parallel: a px over 10,000. */
const ALONG = 1e-4;
/** How far in picture widths the principal point may lie off the picture's middle without anybody having cropped it. */
const OFF_CENTRE = 0.02;
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
  const missing = [...missingStrokes(used, as), ...meetingAxes(used, as, options)];
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

/** Two axes whose strokes all run to one point as well as a hand traces: edges along one axis do that, those along two never. */
function meetingAxes(strokes: readonly TracedStroke[], as: Exclude<SolveAs, 'auto'>, { mmPerPx, width, centre }: SolveOptions): readonly string[] {
  if (as !== 'two' && as !== 'three') return [];
  const pairs = as === 'two' ? ([['a', 'b']] as const) : ([['a', 'b'], ['a', 'h'], ['b', 'h']] as const); // prettier-ignore
  return pairs.flatMap(([p, q]) => {
    const lines = strokes.filter(({ axis }) => axis === p || axis === q).map(lineOf);
    const at = lines.length < 4 ? null : sharedPoint(lines);
    if (!at || Math.hypot(at.x - centre.x, at.y - centre.y) > NEAR_WIDTHS * width) return [];
    const square = lines.reduce((sum, line) => sum + missOf(line, at.x, at.y, 1) ** 2, 0) / lines.length;
    return Math.sqrt(square) > HAND_PX * mmPerPx ? [] : [`edges along ${p} and ${q} that run to different points: those that are traced meet in one, as edges along one axis do`]; // prettier-ignore
  });
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
    return lacks > 0 ? [`${lacks} more ${lacks === 1 ? 'edge' : 'edges'} along ${axis}`] : [];
  });
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
  if (parallel.aDeg + parallel.bDeg < 0) notes.push('It is seen from below: a falls to the right, b to the left. Seen from above, a and b are exchanged.');
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
