import type { Axis, SheetPoint, WorldPoint } from '../math/points';
import { randomFrom, runs } from '../testing/random';
import { viewAngleDeg, withPointAt } from './camera';
import { parallelSetup } from './families';
import { projectionFrom, sheetFromWorld } from './projection';
import type { PerspectiveSetup, ProjectionSetup } from './setup';
import { guessAxis } from './guess-strokes';
import { solveStrokes } from './solve-strokes';
import type { SolveOptions, TracedStroke } from './stroke-lines';

const SIZE = { width: 300, height: 200 };
const MM_PER_PX = 0.25;

interface Made {
  readonly kind: 'parallel' | 'one' | 'two' | 'three';
  readonly setup: ProjectionSetup;
  readonly strokes: readonly TracedStroke[];
  readonly options: SolveOptions;
}

/** A made-up picture of a box with its edges traced, seen from above, at or below its middle, at times cropped. */
function madeUp(seed: number, noisePx: number): Made {
  const random = randomFrom(seed);
  const normal = (): number => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const kind = one(['parallel', 'one', 'two', 'two', 'three', 'three'] as const);
  const cropped = kind !== 'parallel' && random() < 0.3;
  const principal: SheetPoint = cropped ? { x: 150 + (random() - 0.5) * 90, y: 100 + (random() - 0.5) * 60 } : { x: 150, y: 100 };
  const focal = 170 + random() * 200;
  let setup: ProjectionSetup;
  if (kind === 'parallel') setup = parallelSetup(one(['isometric', 'dimetric', 'trimetric'] as const), { x: 150, y: 130 })!;
  else {
    const tilt = kind === 'three' ? one([-1, 1]) * (14 + random() * 22) : 0;
    const camera: PerspectiveSetup = { kind: 'perspective', chosen: 'two-point', focal, principal, turnDeg: kind === 'one' ? 0 : 20 + random() * 50, tiltDeg: tilt, rollDeg: 0, eye: { a: 0, b: 0, h: 0 } }; // prettier-ignore
    // The box's foot under, at or over the horizon: seen from above, level, from below.
    const foot = { x: 150 + (random() - 0.5) * 60, y: principal.y + one([70, 30, -10]) };
    setup = withPointAt(camera, { a: 0, b: 0, h: 0 }, foot, focal * (1.5 + random() * 0.5));
  }
  const projection = projectionFrom(setup);
  const strokes: TracedStroke[] = [];
  const add = (axis: Axis, p: WorldPoint, length: number): void => {
    const [from, to] = [sheetFromWorld(projection, p), sheetFromWorld(projection, { ...p, [axis]: p[axis] + length })];
    if (!from || !to) return;
    const off = (at: SheetPoint): SheetPoint => ({ x: at.x + normal() * noisePx * MM_PER_PX, y: at.y + normal() * noisePx * MM_PER_PX });
    strokes.push({ id: `s${strokes.length}`, axis, from: off(from), to: off(to) });
  };
  for (const h of [0, 60]) for (const axis of ['a', 'b'] as const) add(axis, { a: 0, b: 0, h }, 100);
  add('a', { a: 0, b: 100, h: 60 }, 100);
  add('b', { a: 100, b: 0, h: 60 }, 100);
  add('a', { a: 0, b: 0, h: 30 }, 100);
  add('b', { a: 0, b: 0, h: 30 }, 100);
  for (const [a, b] of [[0, 0], [100, 0], [0, 100]] as const) add('h', { a, b, h: 0 }, 60); // prettier-ignore
  // Whoever crops a picture of two vanishing points has to say so; three tell it.
  const known = cropped && kind === 'two' ? principal : null;
  return { kind, setup, strokes, options: { as: 'auto', centre: { x: 150, y: 100 }, principal: known, width: SIZE.width, mmPerPx: MM_PER_PX } };
}

describe('two hundred made-up pictures', () => {
  it.each([0, 0.5])('with %f px of noise: none silently wrong, and what is told to be uncertain holds the truth', (noise) => {
    let [right, told, held, warned] = [0, 0, 0, 0];
    const wrong: string[] = [];
    const count = runs(100);
    for (let i = 0; i < count; i++) {
      const { kind, setup, strokes, options } = madeUp(3000 + i, noise);
      const solution = solveStrokes(strokes, options);
      if (!solution.ok) {
        warned++;
        continue;
      }
      if (kind === 'parallel' || setup.kind !== 'perspective') {
        if (solution.as === 'parallel') right++;
        else if (solution.viewDeg && solution.viewDeg.error > solution.viewDeg.value / 4) warned++;
        else wrong.push(`${i}: parallel read as ${solution.as}`);
        continue;
      }
      if (kind === 'one') {
        if (
          solution.as === 'one' &&
          Math.hypot(solution.camera!.principal.x - setup.principal.x, solution.camera!.principal.y - setup.principal.y) < 4 + 6 * noise
        )
          right++;
        else if (solution.as !== 'one' && (!solution.viewDeg || solution.viewDeg.error > solution.viewDeg.value / 4)) warned++;
        else wrong.push(`${i}: one-point read as ${solution.as}`);
        continue;
      }
      const { viewDeg } = solution;
      if (!viewDeg) {
        wrong.push(`${i}: ${kind} read as ${solution.as}`);
        continue;
      }
      const truth = viewAngleDeg(setup.focal, SIZE.width);
      told++;
      if (Math.abs(viewDeg.value - truth) <= viewDeg.error) held++;
      if (Math.abs(viewDeg.value - truth) > 3 * viewDeg.error + 0.01)
        wrong.push(`${i}: ${kind} told ${viewDeg.value.toFixed(2)} ± ${viewDeg.error.toFixed(2)}, truly ${truth.toFixed(2)}`);
      else right++;
    }
    console.log(
      `noise ${noise} px: ${right} of ${count} right, ${warned} said to tell nothing; the told uncertainty holds the truth in ${held} of ${told}; ${wrong.join('; ')}`,
    );
    expect(wrong).toEqual([]);
    expect(held / told).toBeGreaterThan(0.9);
  });

  it('read the same whichever of the two walls is called a', () => {
    for (let i = 0; i < runs(30); i++) {
      const { kind, setup, strokes, options } = madeUp(7000 + i, 0);
      if (kind !== 'two' || setup.kind !== 'perspective') continue;
      const exchanged = strokes.map((s) => ({ ...s, axis: s.axis === 'a' ? ('b' as const) : s.axis === 'b' ? ('a' as const) : s.axis }));
      const solution = solveStrokes(exchanged, { ...options, as: 'two' });
      expect(solution.ok && solution.viewDeg!.value).toBeCloseTo(viewAngleDeg(setup.focal, SIZE.width), 3);
      expect(solution.ok && solution.notes.join()).toMatch(/a and b were exchanged/);
    }
  });

  it('have their edges guessed rightly above and below the horizon', () => {
    const middle = { x: 150, y: 100 };
    expect(guessAxis({ x: 150, y: 150 }, { x: 200, y: 130 }, null, middle)).toBe('a');
    expect(guessAxis({ x: 150, y: 50 }, { x: 200, y: 70 }, null, middle)).toBe('a');
    expect(guessAxis({ x: 150, y: 50 }, { x: 100, y: 70 }, null, middle)).toBe('b');
    expect(guessAxis({ x: 150, y: 50 }, { x: 152, y: 90 }, null, middle)).toBe('h');
  });

  it('tell nothing where edges that should converge are parallel', () => {
    const along = (axis: Axis, x: number, y: number, dx: number, dy: number): TracedStroke => ({
      id: `${axis}${x}${y}`,
      axis,
      from: { x, y },
      to: { x: x + dx, y: y + dy },
    });
    const strokes = [along('a', 10, 10, 50, -20), along('a', 10, 60, 50, -20), along('b', 100, 10, -50, -20), along('b', 100, 60, -50, -20)];
    const options = { as: 'one', centre: { x: 150, y: 100 }, width: 300, mmPerPx: 0.25 } as const;
    for (const as of ['one', 'two'] as const) {
      const solution = solveStrokes(strokes, { ...options, as });
      expect(solution.ok ? 'solved' : solution.missing.join()).toMatch(/converge/);
    }
    expect(solveStrokes(strokes, { ...options, centre: { x: NaN, y: 0 } })).toEqual({ ok: false, missing: ['a picture whose size is a number'] });
  });
});
