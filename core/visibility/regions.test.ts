import { ClipType, combineRings, FillRule, ringArea, ringsArea, type Path64 } from '../shape/flat-areas';
import { movedBody } from '../geometry/moved-body';
import { rigidMap } from '../geometry/rigid';
import { addWorld, lengthWorld, scaleWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { eyeAt } from '../projection/eye';
import { projectionFrom, sheetFromWorld, type EyeMatrix } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { flattenPath } from '../shape/path';
import { randomFrom, runs } from '../testing/random';
import { FAMILIES, rayThrough, rings, scene, truthAt, type Ray, type Solid } from '../testing/solids';
import { drawBody, rangeDirections, type Area, type DrawnBody } from './drawn-body';
import { RegionKeeper, seenArea, type SeenRegion } from './regions';

/** What a sun and lamps see of scenes of some twenty cells, and the ray through a place of their sheet, by their matrix. */
const LIGHTS: readonly (readonly [string, EyeMatrix])[] = [
  ['the sun, from the left', eyeAt([-3, -1, 4, 0], null, 10)],
  ['the sun, low', eyeAt([1, 2.5, 0.4, 0], null, 10)],
  ['the sun, upright', eyeAt([0, 0, 1, 0], null, 10)],
  ['a lamp outside', eyeAt([-9, -7, 21, 1], { a: 3, b: 2.5, h: -2 }, 150)],
  ['a lamp among the things', eyeAt([10.3, 9.4, 9.8, 1], { a: 1, b: 0.2, h: -0.4 }, 150)],
];

function lightRay({ matrix: m, eye }: EyeMatrix, { x, y }: SheetPoint): Ray {
  const row = (i: number): WorldPoint => ({ a: m[i]!, b: m[i + 1]!, h: m[i + 2]! });
  // The first two rows are square to each other and as long as a unit is drawn.
  const [right, down, k] = [row(0), row(4), lengthWorld(row(0)) ** 2];
  const across = addWorld(scaleWorld(right, x / k), scaleWorld(down, y / k));
  if (eye[3] === 0) return { from: across, toEye: { a: eye[0], b: eye[1], h: eye[2] }, most: Infinity };
  return { from: { a: eye[0], b: eye[1], h: eye[2] }, toEye: scaleWorld(addWorld(across, row(8)), -1), most: -1e-3 };
}

function drawn(solids: readonly Solid[], matrix: EyeMatrix): readonly DrawnBody[] {
  const sight = sightFrom(matrix);
  const view = { sight, directions: rangeDirections(sight) };
  return solids.map(({ body }) => drawBody(view, body));
}

const inArea = ({ polygon, holes = [] }: Area, { x, y }: SheetPoint): boolean =>
  containsPoint(polygon, x, y) && !holes.some((hole) => containsPoint(hole, x, y));

/** Compares the regions that hold a place with what a ray meets there; each place must lie in exactly one. */
function compare(solids: readonly Solid[], regions: readonly SeenRegion[], ray: (at: SheetPoint) => Ray, seed: number, wanted: number): readonly number[] {
  const seen = regions.flatMap((region) => region.parts.map((area) => ({ region, area })));
  const corners = seen.flatMap(({ area }) => Array.from(area.polygon));
  const [xs, ys] = [0, 1].map((k) => corners.filter((_, i) => i % 2 === k).sort((p, q) => p - q));
  const at = (sorted: number[] | undefined, share: number): number => sorted![Math.floor(share * (sorted!.length - 1))]!;
  const [left, right, upper, lower] = [at(xs, 0.02), at(xs, 0.98), at(ys, 0.02), at(ys, 0.98)];
  const random = randomFrom(seed);
  let [compared, wrong] = [0, 0];
  for (let tries = 0; compared < wanted && tries < 40 * wanted; tries++) {
    const s = { x: left + random() * (right - left), y: upper + random() * (lower - upper) };
    const truth = truthAt(solids, ray(s));
    if (!truth) continue;
    const clear = [[0.02, 0], [-0.02, 0], [0, 0.02], [0, -0.02]].every(([dx, dy]) => truthAt(solids, ray({ x: s.x + dx!, y: s.y + dy! })) === truth); // prettier-ignore
    if (!clear) continue;
    compared++;
    // Rounding to whole numbers leaves cracks between two faces of one solid, and slivers along cuts: some hundred
    // thousandths of a mm. What is seen is right where it is right to a thousandth.
    const beside = [s, { x: s.x + 0.001, y: s.y + 0.0004 }, { x: s.x - 0.0004, y: s.y + 0.001 }];
    const agrees = beside.some((at) => {
      const here = seen.filter(({ area }) => inArea(area, at));
      return here.length > 0 && here.every(({ region }) => solids[region.body] === truth);
    });
    if (!agrees) wrong++;
  }
  return [compared, wrong];
}

const POINTS = runs(200);
const EYES: readonly (readonly [string, EyeMatrix, (s: SheetPoint) => Ray])[] = [
  ...FAMILIES.map(([name, setup]) => {
    const projection = projectionFrom(setup);
    return [name, projection, (s: SheetPoint) => rayThrough(projection, s)] as const;
  }),
  ...LIGHTS.map(([name, matrix]) => [name, matrix, (s: SheetPoint) => lightRay(matrix, s)] as const),
];

describe('what an eye sees of each surface', () => {
  it.each(EYES)('is what its rays meet first: %s', (_, matrix, ray) => {
    for (const solids of [scene(31, 36, ['box', 'angle', 'cylinder', 'cone'], false), scene(47, 20, ['box', 'angle'], true), rings(5)]) {
      const regions = new RegionKeeper().update(drawn(solids, matrix));
      expect(regions.filter(({ failed }) => failed)).toEqual([]);
      const [compared, wrong] = compare(solids, regions, ray, 7, POINTS);
      expect(compared).toBeGreaterThan(POINTS / 3);
      expect(wrong).toBe(0);
    }
  });

  it.each(EYES)('leaves nothing out and nothing doubled: the parts are together what all things cover: %s', (_, matrix) => {
    const bodies = drawn(scene(12, 40, ['box', 'angle'], true), matrix);
    const regions = new RegionKeeper().update(bodies);
    const outlines = bodies.flatMap(({ surfaces }) => surfaces.flatMap(({ outline }) => outline));
    const reach = Math.max(...outlines.flatMap(({ polygon }) => Array.from(polygon, Math.abs)));
    const k = 2 ** Math.floor(Math.log2(2 ** 25 / reach));
    const whole = outlines.map(({ polygon }): Path64 => {
      const ring = Array.from({ length: polygon.length / 2 }, (_, i) => ({ x: Math.round(polygon[2 * i]! * k), y: Math.round(polygon[2 * i + 1]! * k) }));
      return ringArea(ring) < 0 ? ring.reverse() : ring;
    });
    const covered = Math.abs(ringsArea(combineRings(ClipType.Union, whole, [], FillRule.NonZero))) / k / k;
    const sum = regions.reduce((all, region) => all + seenArea(region), 0);
    // What rounding to whole numbers may move along every edge.
    const allowed = outlines.reduce((all, { polygon }) => all + Array.from(polygon).length, 0) * (reach / k) * 0.5 + covered * 1e-6;
    expect(Math.abs(sum - covered)).toBeLessThan(allowed);
  });

  it('keeps the regions of what nothing changed for', () => {
    const solids = scene(3, 60, ['box', 'cylinder'], false);
    const matrix = projectionFrom(FAMILIES[0]![1]);
    const bodies = [...drawn(solids, matrix)];
    const keeper = new RegionKeeper();
    const before = keeper.update(bodies);
    expect(keeper.update(bodies)).toEqual(before);
    expect(keeper.update(bodies).every((region, i) => region === before[i])).toBe(true);
    const [view] = bodies.flatMap(({ surfaces }) => surfaces.map((surface) => surface.view));
    bodies[17] = drawBody(view!, movedBody(solids[17]!.body, rigidMap({ by: { a: 40, b: -40, h: 0 } })));
    const after = keeper.update(bodies);
    const fresh = new RegionKeeper().update(bodies);
    after.forEach((region, i) => expect([region.extent, seenArea(region)]).toEqual([fresh[i]!.extent, seenArea(fresh[i]!)]));
    const same = after.filter((region) => before.includes(region)).length;
    expect(same).toBeGreaterThan(after.length * 0.7);
    expect(same).toBeLessThan(after.length);
  });

  it('leaves curves as curves, and says how much is seen', () => {
    const regions = new RegionKeeper().update(drawn(scene(31, 36, ['box', 'cylinder'], false), projectionFrom(FAMILIES[0]![1])));
    const extents = (kind: SeenRegion['extent']): number => regions.filter(({ extent }) => extent === kind).length;
    expect(extents('whole')).toBeGreaterThan(5);
    expect(extents('part')).toBeGreaterThan(5);
    expect(extents('none')).toBeGreaterThan(5);
    const cutRound = regions.filter(({ surface, extent }) => extent === 'part' && surface.surface && !surface.surface.straight);
    expect(cutRound.length).toBeGreaterThan(3);
    for (const { surface, path, parts } of cutRound) {
      if (surface.stretch === null) expect(path.verbs).toContain('C');
      // The corners and the path bound the same.
      const corners = flattenPath(path, 0.004).reduce((sum, ring) => sum + ring.length, 0);
      expect(corners).toBeGreaterThan(0);
      expect(parts.length).toBeGreaterThan(0);
    }
  });
});

describe('an eye', () => {
  it.each(LIGHTS)('lies where it was set, and what it looks at lies before it: %s', (_, matrix) => {
    const [a, b, h, w] = matrix.eye;
    const m = matrix.matrix;
    // The eye is what the matrix has no image for.
    for (const row of [0, 4, 8]) expect(m[row]! * a + m[row + 1]! * b + m[row + 2]! * h + m[row + 3]! * w).toBeCloseTo(0, 9);
    if (w === 0) return;
    const ahead = { a: a + m[8], b: b + m[9], h: h + m[10] };
    expect(sheetFromWorld(matrix, ahead)).toEqual({ x: expect.closeTo(0, 9) as number, y: expect.closeTo(0, 9) as number });
    expect(sheetFromWorld(matrix, { a: a - m[8], b: b - m[9], h: h - m[10] })).toBeNull();
  });

  it('needs a direction', () => {
    expect(() => eyeAt([0, 0, 0, 0], null, 1)).toThrow('direction');
    expect(() => eyeAt([1, 2, 3, 1], null, 1)).toThrow('direction');
  });
});
