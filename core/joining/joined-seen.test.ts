import type { ManifoldToplevel } from 'manifold-3d';
import { contactOf } from '../geometry/contact';
import { containsPoint } from '../math/polygon';
import { addWorld, scaleWorld } from '../math/points';
import { projectionFrom, type Projection } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { kernelForTests } from '../testing/kernel';
import { randomFrom, runs } from '../testing/random';
import { box, drawnAtOnce, FAMILIES, joinedSolid, rayThrough, round, truthAt, type Solid, type Triple } from '../testing/solids';
import { cutPath } from '../visibility/cut';
import { drawBody, rangeDirections, type Area, type DrawnSurface } from '../visibility/drawn-body';
import { OrderKeeper } from '../visibility/order';
import type { JoinKind } from '../geometry/joined-recipe';
import { joinedBody } from './join';

let kernel: ManifoldToplevel;
beforeAll(async () => {
  kernel = await kernelForTests();
});

function joined(how: JoinKind, ...parts: Solid[]): Solid {
  return joinedSolid(joinedBody(kernel, parts.map(({ body }, i) => ({ id: `p${i}`, body })), how)!, how, parts); // prettier-ignore
}

interface Painted {
  readonly surface: DrawnSurface;
  readonly areas: readonly Area[];
}

function painted(solids: readonly Solid[], projection: Projection): readonly Painted[] {
  const sight = sightFrom(projection);
  const view = { sight, directions: rangeDirections(sight) };
  const { order } = new OrderKeeper().update(solids.map(({ body }) => drawBody(view, body)));
  return order.map(({ surface, cuts }) => ({ surface, areas: cuts ? cutPath(surface.path, cuts).parts : surface.outline }));
}

const covers = (areas: readonly Area[], x: number, y: number): boolean =>
  areas.some(({ polygon, holes = [] }) => containsPoint(polygon, x, y) && !holes.some((hole) => containsPoint(hole, x, y)));

/** Points of the sheet at which what is painted last is not what a ray meets first, by the place at which it meets it. */
function wrongPoints(solids: readonly Solid[], projection: Projection, seed: number, wanted: number): { readonly compared: number; readonly wrong: number } {
  const parts = painted(solids, projection);
  const flat = parts.flatMap(({ areas }) => areas.flatMap(({ polygon }) => Array.from(polygon)));
  const range = (k: number): readonly [number, number] => {
    const values = flat.filter((_, i) => i % 2 === k).sort((p, q) => p - q);
    return [values[Math.floor(values.length * 0.01)]!, values[Math.floor(values.length * 0.99)]!];
  };
  const [[left, right], [upper, lower]] = [range(0), range(1)];
  const random = randomFrom(seed);
  let [compared, wrong] = [0, 0];
  for (let i = 0; i < wanted; i++) {
    const s = { x: left + random() * (right - left), y: upper + random() * (lower - upper) };
    // Nearer to an edge than that, roundings decide.
    const met = [[0, 0], [0.03, 0], [-0.03, 0], [0, 0.03], [0, -0.03]].map(([dx, dy]) => {
      const ray = rayThrough(projection, { x: s.x + dx!, y: s.y + dy! });
      const found = truthAt(solids, ray);
      return { ray, t: found?.meet(ray) ?? null, unsure: found === undefined };
    }); // prettier-ignore
    const [at] = met;
    if (met.some(({ unsure, t }) => unsure || (t === null) !== (at!.t === null) || (t !== null && Math.abs(t - at!.t!) > 0.2 * Math.max(1, Math.abs(at!.t!) / 200)))) continue; // prettier-ignore
    compared++;
    const top = [...parts].reverse().find(({ areas }) => covers(areas, s.x, s.y));
    if (!top || at!.t === null) {
      if (top || at!.t !== null) wrong++;
      continue;
    }
    const place = addWorld(at!.ray.from, scaleWorld(at!.ray.toEye, at!.t));
    const contact = contactOf(top.surface.surface!.form, place);
    if (!contact || Math.abs(contact.off) > 0.03) wrong++;
  }
  return { compared, wrong };
}

const POINTS = runs(200);

/** Joined solids of every kind: flat parts, round ones cut by planes, by each other, from within and from outside. */
function cases(): readonly (readonly [string, () => readonly Solid[]])[] {
  const at = (kind: Parameters<typeof drawnAtOnce>[0], place: Triple, size: Triple): Solid => drawnAtOnce(kind, place, size);
  return [
    ['an opening', () => [joined('take away', box([0, 0, 0], [8, 4, 6]), box([2, -1, 2], [6, 2, 4])), box([3, -3, 0], [5, -2, 3])]],
    ['a drilled box', () => [joined('take away', box([0, 0, 0], [8, 8, 4]), round([4, 4, -1], 2, 2, 6))]],
    ['a bowl', () => [joined('take away', box([0, 0, 0], [8, 8, 4]), at('ball', [1, 1, 1], [6, 6, 6]))]],
    ['a notched cylinder', () => [joined('take away', round([4, 4, 0], 4, 4, 6), box([4, -2, 2], [10, 5, 4]))]],
    ['a cylinder with a slanting top', () => [joined('take away', round([4, 4, 0], 3, 3, 8), at('wedge', [-2, -2, 4], [12, 12, 8]))]],
    ['a ball with a bite', () => [joined('take away', at('ball', [0, 0, 0], [8, 8, 8]), box([4, -2, 4], [10, 10, 10]))]],
    ['a cone cut off', () => [joined('take away', round([4, 4, 0], 4, 0, 8), box([-2, -2, 5], [10, 10, 10]))]],
    ['rods through each other', () => [joined('join', round([4, 4, 0], 2, 2, 8), box([-2, 3, 3], [10, 5, 5]), at('ball', [6, 6, 4], [4, 4, 4]))]],
    ['two balls in common', () => [joined('overlap', at('ball', [0, 0, 0], [8, 8, 8]), at('ball', [3, 3, 2], [8, 8, 8]))]],
    ['a dome with a round hole', () => [joined('take away', at('dome', [0, 0, 0], [10, 10, 5]), round([5, 5, -1], 1.5, 1.5, 8))]],
  ];
}

describe('of joined solids, what is painted is what a ray meets first', () => {
  it.each(cases())('%s', (_, make) => {
    const solids = make();
    for (const [name, setup] of FAMILIES) {
      const { compared, wrong } = wrongPoints(solids, projectionFrom(setup), 3, POINTS);
      if (name !== 'with the eye inside the scene') expect(compared).toBeGreaterThan(POINTS / 3);
      expect([name, wrong]).toEqual([name, 0]);
    }
  });
});
