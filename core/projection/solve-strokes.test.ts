import { viewAngleDeg, withPointAt } from './camera';
import { projectionFrom, sheetFromWorld } from './projection';
import { isometricSetup, type PerspectiveSetup, type ProjectionSetup } from './setup';
import { guessAxis } from './guess-strokes';
import { solveStrokes, type Solved } from './solve-strokes';
import type { SolveOptions, TracedStroke } from './stroke-lines';
import type { Axis, WorldPoint } from '../math/points';

const OPTIONS: SolveOptions = { as: 'auto', centre: { x: 150, y: 100 }, width: 300, mmPerPx: 0.25 };

/** Repeatable numbers (a linear congruential generator), from 0 to 1 and with a normal distribution. */
function randomFrom(seed: number): { even: () => number; normal: () => number } {
  let state = seed >>> 0;
  const even = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
  return { even, normal: () => Math.sqrt(-2 * Math.log(even() + 1e-12)) * Math.cos(2 * Math.PI * even()) };
}

/** Edges of a box of 100 x 100 x 70 as drawn by a projection, their ends off by some px of noise. */
function strokesOf(setup: ProjectionSetup, noisePx: number, random: { normal: () => number }): TracedStroke[] {
  const projection = projectionFrom(setup);
  const strokes: TracedStroke[] = [];
  const add = (axis: Axis, p: WorldPoint, length: number): void => {
    const from = sheetFromWorld(projection, p);
    const to = sheetFromWorld(projection, { ...p, [axis]: p[axis] + length });
    if (!from || !to) return;
    const off = (): number => random.normal() * noisePx * OPTIONS.mmPerPx;
    strokes.push({ id: `s${strokes.length}`, axis, from: { x: from.x + off(), y: from.y + off() }, to: { x: to.x + off(), y: to.y + off() } });
  };
  for (const h of [0, 70]) for (const axis of ['a', 'b'] as const) add(axis, { a: 0, b: 0, h }, 100);
  add('a', { a: 0, b: 100, h: 0 }, 100);
  add('b', { a: 100, b: 0, h: 0 }, 100);
  for (const [a, b] of [[0, 0], [100, 0], [0, 100]] as const) add('h', { a, b, h: 0 }, 70); // prettier-ignore
  return strokes;
}

function randomCamera(kind: 'two' | 'three', { even }: { even: () => number }): PerspectiveSetup {
  const focal = 150 + even() * 300;
  const rollDeg = (even() - 0.5) * 4;
  const up = kind === 'two' ? (even() - 0.5) * 150 : 0;
  const rad = (rollDeg * Math.PI) / 180;
  const setup: PerspectiveSetup = {
    kind: 'perspective',
    chosen: 'two-point',
    focal,
    principal: { x: 150 - Math.sin(rad) * up, y: 100 - Math.cos(rad) * up },
    turnDeg: 20 + even() * 50,
    tiltDeg: kind === 'three' ? (even() < 0.5 ? -1 : 1) * (12 + even() * 25) : 0,
    rollDeg,
    eye: { a: 0, b: 0, h: 0 },
  };
  return withPointAt(setup, { a: 0, b: 0, h: 0 }, { x: 150, y: 140 }, focal * 1.6);
}

const median = (values: number[]): number => [...values].sort((p, q) => p - q)[values.length >> 1] ?? NaN;
const solved = (strokes: readonly TracedStroke[], options: SolveOptions = OPTIONS): Solved => {
  const solution = solveStrokes(strokes, options);
  if (!solution.ok) throw new Error(solution.missing.join());
  return solution;
};

describe('perspectives read from nine strokes', () => {
  // Bounds on the median and the largest error of the angle of view in degrees, over 60 cameras.
  it.each([
    ['two', 0, 1e-4, 1e-3],
    ['two', 0.5, 1.6, 9],
    ['two', 1, 3.2, 18],
    ['three', 0, 1e-4, 1e-3],
    ['three', 0.5, 1.6, 9],
    ['three', 1, 3.2, 18],
  ] as const)('%s vanishing points, %f px of noise', (kind, noise, medianBound, largestBound) => {
    const errors: number[] = [];
    const sigmas: number[] = [];
    let turns = 0;
    let kinds = 0;
    for (let i = 0; i < 60; i++) {
      const random = randomFrom(977 * i + 13);
      const camera = randomCamera(kind, random);
      const solution = solved(strokesOf(camera, noise, random));
      if (solution.as === kind) kinds++;
      const exact = solved(strokesOf(camera, noise, randomFrom(977 * i + 14)), { ...OPTIONS, as: kind });
      errors.push(Math.abs(exact.viewDeg!.value - viewAngleDeg(camera.focal, 300)));
      sigmas.push(exact.viewDeg!.error);
      turns = Math.max(turns, Math.abs(exact.camera!.turnDeg - camera.turnDeg));
    }
    console.log(
      `${kind} points, noise ${noise} px: angle of view off by ${median(errors).toFixed(3)}° (median), ${Math.max(...errors).toFixed(3)}° (most); told ± ${median(sigmas).toFixed(2)}°; turn off by at most ${turns.toFixed(2)}°; kind recognised ${kinds} of 60`,
    );
    expect(median(errors)).toBeLessThan(medianBound);
    expect(Math.max(...errors)).toBeLessThan(largestBound);
    expect(kinds).toBeGreaterThanOrEqual(noise === 0 ? 60 : 50);
    // The uncertainty told is of the order of the error made.
    if (noise > 0) expect(median(sigmas)).toBeGreaterThan(median(errors) / 3);
  });

  it('name the one wrong stroke of seven, and leave it out', () => {
    let named = 0;
    for (let i = 0; i < 30; i++) {
      const random = randomFrom(31 * i + 5);
      const camera = randomCamera('two', random);
      const strokes = strokesOf(camera, 0.4, random).slice(0, 7);
      const bad = strokes[i % 6]!;
      const off = { ...bad, to: { x: bad.to.x, y: bad.to.y + 9 } };
      const solution = solved(strokes.map((s) => (s === bad ? off : s)), { ...OPTIONS, as: 'two' }); // prettier-ignore
      if (solution.wrong === bad.id) named++;
      if (solution.wrong === bad.id) expect(solution.misses.find((m) => m.id === bad.id)!.px).toBeGreaterThan(solution.rmsPx);
    }
    console.log(`one wrong stroke of seven: named in ${named} of 30 cameras`);
    expect(named).toBeGreaterThanOrEqual(25);
  });

  it('read one vanishing point, and say that it does not tell the angle of view', () => {
    const one = withPointAt(
      { ...randomCamera('two', randomFrom(3)), turnDeg: 0, rollDeg: 0, principal: { x: 170, y: 80 } },
      { a: 0, b: 0, h: 0 },
      { x: 120, y: 150 },
      400,
    );
    const solution = solved(strokesOf(one, 0.3, randomFrom(8)));
    expect(solution).toMatchObject({ as: 'one', viewDeg: null });
    expect(solution.camera!.principal.x).toBeCloseTo(170, 0);
    expect(solution.camera!.principal.y).toBeCloseTo(80, 0);
    expect(solution.notes.join()).toContain('does not tell the angle of view');
  });

  it('say which strokes are missing or too parallel', () => {
    const camera = randomCamera('two', randomFrom(4));
    const strokes = strokesOf(camera, 0, randomFrom(1));
    expect(solveStrokes(strokes.slice(0, 2), { ...OPTIONS, as: 'two' })).toEqual({ ok: false, missing: ['1 more edge along a', '1 more edge along b'] });
    expect(solveStrokes([], { ...OPTIONS, as: 'parallel' })).toMatchObject({ ok: false, missing: ['1 more edge along a', '1 more edge along b'] });
    expect(solveStrokes(strokes.slice(0, 4), { ...OPTIONS, as: 'three' })).toMatchObject({ ok: false, missing: ['2 more edges along h'] });
    const far = withPointAt({ ...camera, focal: 9000 }, { a: 0, b: 0, h: 0 }, { x: 150, y: 140 }, 9000);
    expect(solved(strokesOf(far, 0.5, randomFrom(2)), { ...OPTIONS, as: 'two' }).notes.join()).toContain('too parallel');
    expect(solved(strokes.slice(0, 4), { ...OPTIONS, as: 'two' }).notes.join()).toContain('As many strokes as unknowns');
  });
});

describe('edges along two axes that meet in one point', () => {
  it('are refused with the reason, wherever the point lies, and never tell a view of 180°', () => {
    const points = [{ x: 250, y: 90 }, { x: 150, y: 100 }, { x: -400, y: 60 }, { x: 900, y: 140 }]; // prettier-ignore
    for (const point of points) {
      for (const kinds of [
        ['a', 'a', 'b', 'b'],
        ['a', 'a', 'a', 'b', 'b', 'b'],
      ] as const) {
        const strokes = kinds.map((axis, i): TracedStroke => {
          const from = { x: 40 + 30 * i, y: i % 2 === 0 ? 30 + 8 * i : 180 - 8 * i };
          return { id: `s${i}`, axis, from, to: { x: from.x + (point.x - from.x) * 0.3, y: from.y + (point.y - from.y) * 0.3 } };
        });
        const read = solveStrokes(strokes, { ...OPTIONS, as: 'two' });
        expect([point, read.ok ? read.viewDeg?.value : read.missing.join()]).toEqual([point, expect.stringMatching(/run to different points/)]);
      }
    }
  });
});

describe('parallel projections read from strokes', () => {
  it.each([0, 0.5, 1])('axis angles, %f px of noise', (noise) => {
    let most = 0;
    let kinds = 0;
    for (let i = 0; i < 60; i++) {
      const random = randomFrom(577 * i + 3);
      const aDeg = 12 + random.even() * 45;
      const bDeg = 8 + random.even() * 20;
      const rollDeg = (random.even() - 0.5) * 6;
      const setup: ProjectionSetup = { ...isometricSetup({ x: 150, y: 150 }), aDeg, bDeg, rollDeg, method: 'parallel' };
      const solution = solved(strokesOf(setup, noise, random));
      if (solution.as !== 'parallel') continue;
      kinds++;
      most = Math.max(most, Math.abs(solution.parallel!.aDeg - aDeg), Math.abs(solution.parallel!.bDeg - bDeg), Math.abs(solution.parallel!.rollDeg - rollDeg));
    }
    console.log(`parallel, noise ${noise} px: angles off by at most ${most.toFixed(3)}°; kind recognised ${kinds} of 60`);
    expect(most).toBeLessThan(noise === 0 ? 1e-6 : noise * 1.1);
    expect(kinds).toBeGreaterThanOrEqual(noise === 1 ? 50 : 58);
  });

  it('names a wrong stroke, and takes uprights as upright where none is traced', () => {
    const strokes = strokesOf(isometricSetup({ x: 150, y: 150 }), 0.2, randomFrom(9));
    const bad = { ...strokes[0]!, to: { x: strokes[0]!.to.x, y: strokes[0]!.to.y + 12 } };
    const solution = solved([bad, ...strokes.slice(1)], { ...OPTIONS, as: 'parallel' });
    expect(solution.wrong).toBe('s0');
    expect(solution.parallel!.aDeg).toBeCloseTo(30, 0);
    const flat = solved(strokes.filter((s) => s.axis !== 'h')); // prettier-ignore
    expect(flat.parallel!.rollDeg).toBe(0);
    expect(flat.notes.join()).toContain('taken as upright');
    const exchanged = solved(strokes.map((s) => ({ ...s, axis: ({ a: 'b', b: 'a', h: 'h' } as const)[s.axis] }))); // prettier-ignore
    expect([solved(strokes), exchanged].map(({ notes }) => notes.some((note) => note.includes('seen from below')))).toEqual([false, true]);
  });

  it('guesses the axis of a stroke from its direction, or from the camera so far', () => {
    expect(guessAxis({ x: 0, y: 0 }, { x: 1, y: -30 }, null)).toBe('h');
    expect(guessAxis({ x: 0, y: 0 }, { x: 30, y: -12 }, null)).toBe('a');
    expect(guessAxis({ x: 0, y: 0 }, { x: 30, y: 12 }, null)).toBe('b');
    // What runs as an edge did before runs along the same axis, whatever it would be alone.
    const before = [{ id: 's', axis: 'b' as const, from: { x: 0, y: 0 }, to: { x: 40, y: -16 } }];
    expect(guessAxis({ x: 9, y: 50 }, { x: 39, y: 38 }, null, undefined, before)).toBe('b');
    expect(guessAxis({ x: 9, y: 50 }, { x: 39, y: 31 }, null, undefined, before)).toBe('a');
    // Edges that run to a point tell nothing of what runs as one of them does.
    const meeting = [before[0]!, { ...before[0]!, to: { x: 40, y: 14 } }];
    expect(guessAxis({ x: 9, y: 50 }, { x: 39, y: 38 }, null, undefined, meeting)).toBe('a');
    // Over the horizon, edges along a fall to the right; the camera knows.
    const camera = { focal: 250, principal: { x: 150, y: 150 }, turnDeg: 35, tiltDeg: 0, rollDeg: 0 };
    const va = { x: 150 + 250 / Math.tan((35 * Math.PI) / 180), y: 150 };
    expect(guessAxis({ x: 100, y: 20 }, { x: 100 + (va.x - 100) * 0.2, y: 20 + (va.y - 20) * 0.2 }, camera)).toBe('a');
  });
});
