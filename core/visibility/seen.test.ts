import { containsPoint } from '../math/polygon';
import type { SheetPoint } from '../math/points';
import { projectionFrom, type Projection } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import { sightFrom } from '../projection/sight';
import { randomFrom, runs } from '../testing/random';
import { FAMILIES, rayThrough, rings, scene, truthAt, type Solid } from '../testing/solids';
import { cutPath } from './cut';
import { drawBody, rangeDirections, type Area } from './drawn-body';
import { OrderKeeper, type PaintOrder } from './order';

interface Part {
  readonly solid: Solid;
  readonly areas: readonly Area[];
}

/** What is painted, the farthest first, each with the areas that are left of it: what is painted is what can be pointed at. */
function paintedParts(solids: readonly Solid[], projection: Projection): readonly Part[] {
  const sight = sightFrom(projection);
  const view = { sight, directions: rangeDirections(sight) };
  const { order } = new OrderKeeper().update(solids.map(({ body }) => drawBody(view, body)));
  return order.map(({ surface, body, cuts }) => {
    const left = cuts && cutPath(surface.path, cuts);
    expect(left?.failed ?? false).toBe(false);
    return { solid: solids[body]!, areas: left?.parts ?? surface.outline };
  });
}

function topAt(parts: readonly Part[], { x, y }: SheetPoint): Solid | null {
  for (let i = parts.length - 1; i >= 0; i--) {
    if (parts[i]!.areas.some(({ polygon, holes = [] }) => containsPoint(polygon, x, y) && !holes.some((hole) => containsPoint(hole, x, y))))
      return parts[i]!.solid;
  }
  return null;
}

/** Points compared: as many as asked, none nearer to another solid's edge than a fiftieth of a mm. */
function compare(solids: readonly Solid[], setup: ProjectionSetup, seed: number, wanted: number): { compared: number; wrong: number } {
  const projection = projectionFrom(setup);
  const parts = paintedParts(solids, projection);
  const [xs, ys] = [0, 1].map((k) => parts.flatMap(({ areas }) => areas.flatMap(({ polygon }) => Array.from(polygon).filter((_, i) => i % 2 === k))).sort((p, q) => p - q)); // prettier-ignore
  const at = (sorted: number[] | undefined, share: number): number => sorted![Math.floor(share * (sorted!.length - 1))]!;
  const [left, right, upper, lower] = [at(xs, 0.02), at(xs, 0.98), at(ys, 0.02), at(ys, 0.98)];
  const random = randomFrom(seed);
  let [compared, wrong] = [0, 0];
  for (let tries = 0; compared < wanted && tries < 40 * wanted; tries++) {
    const s = { x: left + random() * (right - left), y: upper + random() * (lower - upper) };
    const truth = truthAt(solids, rayThrough(projection, s));
    if (!truth) continue;
    const clear = [[0.02, 0], [-0.02, 0], [0, 0.02], [0, -0.02]].every(([dx, dy]) => truthAt(solids, rayThrough(projection, { x: s.x + dx!, y: s.y + dy! })) === truth); // prettier-ignore
    if (!clear) continue;
    compared++;
    // Between two round surfaces that share an edge, corners that stand for curves leave cracks thinner than a hundredth of a mm.
    const hit = CRACK.some(([dx, dy]) => topAt(parts, { x: s.x + dx, y: s.y + dy }) === truth);
    if (!hit) wrong++;
  }
  return { compared, wrong };
}

const POINTS = runs(250);
const CRACK = [[0, 0], [0.01, 0], [-0.01, 0], [0, 0.01], [0, -0.01]] as const; // prettier-ignore
const AT_ONCE = ['ball', 'dome', 'wedge', 'pyramid', 'steps', 'arch', 'tube', 'frame'] as const;

describe('what is painted, and can be pointed at, is what a ray meets first', () => {
  it.each(FAMILIES)('in every family, with cylinders, cones and angles beside each other: %s', (_, setup) => {
    const { compared, wrong } = compare(scene(31, 40, ['box', 'angle', 'cylinder', 'cone'], false), setup, 7, POINTS);
    expect(compared).toBeGreaterThan(POINTS / 2);
    expect(wrong).toBe(0);
  });

  it.each(FAMILIES)('in every family, with boxes and angles that cut through each other: %s', (_, setup) => {
    const { compared, wrong } = compare(scene(47, 24, ['box', 'angle'], true), setup, 8, POINTS);
    expect(compared).toBeGreaterThan(POINTS / 2);
    expect(wrong).toBe(0);
  });

  it.each(FAMILIES)('in every family, with balls, domes, slopes, steps, arches, tubes and frames: %s', (_, setup) => {
    const { compared, wrong } = compare(scene(53, 36, [...AT_ONCE, 'cone', 'box'], false), setup, 9, POINTS);
    expect(compared).toBeGreaterThan(POINTS / 2);
    expect(wrong).toBe(0);
  });

  it.each([1, 2, 3])('with such solids that cut through each other (%i)', (seed) => {
    for (const [name, setup] of FAMILIES.slice(0, 8)) {
      const { compared, wrong } = compare(scene(seed + 80, 12, AT_ONCE, true), setup, seed, POINTS / 2);
      expect(compared).toBeGreaterThan(POINTS / 6);
      expect([name, wrong]).toEqual([name, 0]);
    }
  });

  it.each([1, 2, 3, 4, 5, 6])('with rings (%i)', (seed) => {
    for (const [name, setup] of FAMILIES) expect([name, compare(rings(seed), setup, seed, POINTS / 2).wrong]).toEqual([name, 0]);
  });

  it.each([1, 2, 3, 4])('with round things that cut through each other and others (%i)', (seed) => {
    for (const [, setup] of FAMILIES.slice(0, 8)) {
      const { compared, wrong } = compare(scene(seed + 60, 14, ['box', 'angle', 'cylinder', 'cone'], true), setup, seed, POINTS / 2);
      expect(compared).toBeGreaterThan(POINTS / 6);
      expect(wrong).toBe(0);
    }
  });

  it('is exact again after quick looks while something was dragged', () => {
    const projection = projectionFrom(FAMILIES[0]![1]);
    const sight = sightFrom(projection);
    const view = { sight, directions: rangeDirections(sight) };
    const bodies = scene(61, 14, ['box', 'angle', 'cylinder', 'cone'], true).map(({ body }) => drawBody(view, body));
    const cutsOf = ({ order }: PaintOrder): readonly number[] => order.map(({ cuts }) => (cuts ?? []).reduce((sum, { polygon }) => sum + polygon.length, 0));
    const exact = cutsOf(new OrderKeeper().update(bodies));
    const keeper = new OrderKeeper();
    expect(cutsOf(keeper.update(bodies, true))).not.toEqual(exact);
    expect(cutsOf(keeper.update(bodies))).toEqual(exact);
    // What is known exactly serves quick looks too.
    expect(cutsOf(keeper.update(bodies, true))).toEqual(exact);
  });
});
