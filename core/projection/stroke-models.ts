import { fitLeastSquares, type Fit } from '../math/least-squares';
import type { Axis } from '../math/points';
import { axesInCamera } from './camera';
import { HAND_PX, lineOf, missOf, type Line, type SolveOptions, type TracedStroke } from './stroke-lines';
import type { CameraAngles } from './vanishing';

/** How many times better the rest has to agree without a stroke for it to be called wrong. */
export const WRONG_RATIO = 9;

/** What strokes can be solved for. */
export type Perspective = 'one' | 'two' | 'three' | 'cropped';

/** A family of cameras: how parameters make one, and where to start looking. Lengths are in picture widths. */
export interface Model {
  readonly size: number;
  readonly camera: (p: readonly number[], options: SolveOptions) => CameraAngles;
  readonly starts: readonly (readonly number[])[];
}

/** Beyond 90 degrees a and b are exchanged: whoever traced them may have seen it so. */
const TURNS = [10, 25, 40, 55, 70, 82, 100, 115, 130, 145, 160, 172];
const FOCALS = [0.45, 0.9, 1.8, 4];
/** The focal length that one-point perspectives are given, in picture widths: an angle of view of 45 degrees. */
const ONE_POINT_FOCAL = 1.207;

/** The models by what they are for. Angles in degrees, lengths in widths of the picture. */
export const MODELS: Readonly<Record<Perspective, Model>> = {
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

/** How far each line misses the vanishing point that a model gives its axis, in px. */
export function residualsOf(lines: readonly Line[], model: Model, options: SolveOptions): (p: readonly number[]) => readonly number[] {
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
export function fitModel(strokes: readonly TracedStroke[], model: Model, options: SolveOptions): Fit {
  const residuals = residualsOf(strokes.map(lineOf), model, options);
  const cost = (p: readonly number[]): number => residuals(p).reduce((sum, r) => sum + r * r, 0);
  const ranked = model.starts.map((start) => ({ start, cost: cost(start) })).sort((p, q) => p.cost - q.cost);
  return ranked
    .slice(0, 5)
    .map(({ start }) => fitLeastSquares(residuals, start, STEPS(model)))
    .reduce((p, q) => (q.cost < p.cost ? q : p));
}

/** The steps by which the numbers of a model are changed for its derivatives. */
export const STEPS = (model: Model): readonly number[] => new Array<number>(model.size).fill(1e-5);

/** The better of the fit from a start that is near and of one from the model's own starts. Costs five fits more than the first. */
export function refit(strokes: readonly TracedStroke[], model: Model, options: SolveOptions, start: readonly number[]): Fit {
  const near = fitLeastSquares(residualsOf(strokes.map(lineOf), model, options), start, STEPS(model));
  const afresh = fitModel(strokes, model, options);
  return afresh.cost < near.cost ? afresh : near;
}

/** The fit of all strokes, or, where the others agree far better without one of them, their fit and which one that is. */
export function withoutWrong(strokes: readonly TracedStroke[], all: Fit, model: Model, options: SolveOptions): { wrong: string | null; fit: Fit } {
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
