import { practicePair } from '../testing/practice';
import { randomFrom } from '../testing/random';
import { panelByCorners, roundByRims } from './fit-edges';
import { openedFit } from './kept-fit';
import { grainPart, lightParts, maskPart } from './light-parts';
import { photoSide } from './photo-side';
import { practicePlace, takePractice } from './practice';
import { PRACTICE_LATTICE, practiceSetup } from './practice-setups';
import { kindsOf, solvePhoto, type SolvedPhoto } from './solve-photo';

const { columns, rows, box } = PRACTICE_LATTICE;

/** A pair of which the second was taken from beside. */
function movedPair() {
  const random = randomFrom(8);
  const setup = practiceSetup({ thing: 'funnel', lattice: PRACTICE_LATTICE, width: 640, height: 480, arc: 1.6, noise: 1, blur: 0.6 }, random);
  const moved = { ...setup, moved: { dx: 6.3, dy: -3.2, turn: 0.006, scale: 1 } };
  return { setup, pair: takePractice(moved, random) };
}

describe('a pair of photographs', () => {
  const { setup, pair } = movedPair();
  const steps: string[] = [];
  const solved = solvePhoto(pair.bare, pair.latticed, PRACTICE_LATTICE, [], (step) => steps.push(step)) as SolvedPhoto;

  it('is laid on each other, and the lattice of the second fitted in px of the first', () => {
    expect(steps).toEqual(['finding', 'registering', 'fitting']);
    expect(solved.registration!.dx).toBeCloseTo(6.3, 0);
    const [best] = solved.kinds;
    const side = photoSide(best!.fit);
    for (let i = 1; i < columns; i++) {
      const truth = practicePlace(setup, i * box, 2.5 * box);
      if (!truth || truth.angle < 0.35) continue;
      const at = side.shown(i * box, 2.5 * box)!;
      expect(Math.hypot(at.x - truth.at.x, at.y - truth.at.y)).toBeLessThan(0.35);
    }
  });

  it('names a wrong crossing, and other kinds are told with their misses', () => {
    const crossings = solved.crossings.map((one, i) => (i === 20 ? { ...one, x: one.x + 5 } : one));
    const kinds = kindsOf(crossings, PRACTICE_LATTICE, pair.bare);
    expect(kinds[0]!.fit.wrong).toEqual([[crossings[20]!.column, crossings[20]!.row]]);
    expect(openedFit(kinds[0]!.fit, crossings)!.misses[20]!.wrong).toBe(true);
    expect(kinds.length).toBe(4);
    expect(kinds.find(({ kind }) => kind === 'panel')!.spread).toBeGreaterThan(3 * kinds[0]!.spread);
  });

  it('tells pairs of different things and sizes', () => {
    const other = practicePair(2, 640).pair;
    expect(solvePhoto(pair.bare, other.latticed, PRACTICE_LATTICE, [], () => undefined)).toBe('different-things');
    const small = practicePair(4, 320).pair;
    expect(solvePhoto(pair.bare, small.latticed, PRACTICE_LATTICE, [], () => undefined)).toBe('different-sizes');
    expect(solvePhoto(pair.bare, null, PRACTICE_LATTICE, [], () => undefined)).toBe('no-lattice');
  });

  it('gives its light and its grain as pictures', () => {
    const { fit } = solved.kinds[0]!;
    const light = lightParts(pair.bare, fit, null)!;
    const { shade } = light;
    let [off, count] = [0, 0];
    let scale = 0;
    const told: [number, number][] = [];
    for (let y = 0; y < shade.px.height; y += 5)
      for (let x = 0; x < shade.px.width; x += 5) {
        const [px, py] = [shade.x + ((x + 0.5) * shade.width) / shade.px.width, shade.y + ((y + 0.5) * shade.height) / shade.px.height];
        const truth = pair.shade[Math.floor(py) * pair.bare.width + Math.floor(px)]!;
        const value = shade.px.data[4 * (y * shade.px.width + x)]!;
        if (Number.isFinite(truth) && value < 250) told.push([value, truth]);
      }
    scale = told.reduce((sum, [value, truth]) => sum + value / truth, 0) / told.length;
    for (const [value, truth] of told) [off, count] = [off + Math.abs(value - truth * scale), count + 1];
    expect(count).toBeGreaterThan(100);
    expect(off / count).toBeLessThan(6);
    const grain = grainPart(pair.bare, fit)!;
    expect(grain.grain.noise).toBeGreaterThan(0.4);
    expect(grain.part.px.data.length).toBe(4 * grain.part.width * grain.part.height);
  });

  it('cuts out what stands in front with a soft edge', () => {
    const mask = maskPart(pair.bare, [100, 100, 200, 100, 200, 180, 100, 180], 6)!;
    const alpha = (x: number, y: number): number => mask.px.data[4 * ((y - mask.y) * mask.width + (x - mask.x)) + 3]!;
    expect([alpha(150, 140), alpha(95, 140)]).toEqual([255, 0]);
    expect(alpha(100, 140)).toBeGreaterThan(100);
    expect(alpha(100, 140)).toBeLessThan(160);
    const at = 4 * (140 * pair.bare.width + 150);
    expect([...mask.px.data.slice(4 * ((140 - mask.y) * mask.width + 150 - mask.x)).slice(0, 3)]).toEqual([...pair.bare.data.slice(at, at + 3)]);
    expect(maskPart(pair.bare, [-50, -50, -10, -50, -10, -10], 2)).toBeNull();
  });
});

describe('fits without a lattice', () => {
  it('a flat panel lies by its four corners within a px, in its true proportions', () => {
    const { setup } = practicePair(2, 640);
    const corner = (u: number, v: number): { x: number; y: number } => practicePlace(setup, u, v)!.at;
    const [w, h] = [columns * box, rows * box];
    const fit = panelByCorners([corner(0, 0), corner(w, 0), corner(w, h), corner(0, h)], { width: w, height: h }, setup.camera)!;
    for (const [u, v] of [[30, 20], [60, 40], [90, 60]] as const) {
      const [at, truth] = [photoSide(fit).shown(u, v)!, corner(u, v)];
      expect(Math.hypot(at.x - truth.x, at.y - truth.y)).toBeLessThan(1.5);
    } // prettier-ignore
  });

  it('a round thing lies by its sides and rims, round by round about its rim', () => {
    const random = randomFrom(21);
    const [diameter, height] = [80, 90];
    const half = (Math.PI * diameter) / 2;
    // Half way round, as many boxes as make its height.
    const lattice = { columns: 126, rows: 90, box: 1 };
    const made = practiceSetup({ thing: 'funnel', lattice, width: 640, height: 480, arc: (half / (diameter / 2)) * 0.9, noise: 0, blur: 0 }, random);
    const setup = { ...made, bent: { curvature: 2 / diameter, taper: 0, skew: 0 }, camera: { ...made.camera, bend: 0 } };
    const seen = (u: number, v: number): { x: number; y: number } | null => practicePlace(setup, u, v)?.at ?? null;
    /** The last place of a rim that is seen, to one side. */
    const edge = (v: number, side: 1 | -1): { x: number; y: number } => {
      let last = seen(63, v)!;
      for (let u = 63; u > -40 && u < 166; u += side * 0.05) last = seen(u, v) ?? last;
      return last;
    };
    const corners = [edge(0, -1), edge(0, 1), edge(height, 1), edge(height, -1)];
    const fit = roundByRims(corners, [seen(63, 0)!, seen(63, height)!], { diameter, height }, setup.camera)!;
    for (const [u, v] of [[43, 20], [63, 45], [83, 70]] as const) {
      const [at, truth] = [photoSide(fit).shown(u, v)!, seen(u, v)!];
      expect(Math.hypot(at.x - truth.x, at.y - truth.y)).toBeLessThan(4);
    } // prettier-ignore
  });
});
