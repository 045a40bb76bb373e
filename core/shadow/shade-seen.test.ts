import { ruledNormal, ruledPoint } from '../geometry/ruled';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { projectionFrom, sheetFromWorld, type Projection } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { flattenPath, type Path } from '../shape/path';
import { randomFrom, runs } from '../testing/random';
import { FAMILIES, rayThrough, scene, truthAt, type Solid } from '../testing/solids';
import { drawBody, rangeDirections, type DrawnSurface } from '../visibility/drawn-body';
import { OrderKeeper } from '../visibility/order';
import { ruledWithin } from '../visibility/place-under';
import { LampShades } from './lamp-shades';
import { SunShades, type LitBody, type Shades } from './shade';
import { shadeOnSheet } from './shade-on-sheet';

/** A light by where it is seen from a place. */
interface TrueLight {
  readonly name: string;
  readonly towards: (from: WorldPoint) => WorldPoint;
  /** How far the light is along that way: beyond it nothing lies between. */
  readonly far: number;
  readonly shades: (bodies: readonly LitBody[]) => Shades;
  /** Of a lamp: where it is. */
  readonly at?: WorldPoint;
}

const holds = ({ spans }: Solid, at: WorldPoint): boolean =>
  spans({ from: at, toEye: { a: 0.31, b: 0.53, h: 0.79 }, most: Infinity }).some(([low, high]) => low < 1e-6 && high > -1e-6);

const sun = (name: string, towards: WorldPoint): TrueLight => ({ name, towards: () => towards, far: Infinity, shades: (bodies) => new SunShades(towards).update(bodies) }); // prettier-ignore
const lamp = (name: string, at: WorldPoint): TrueLight => ({ name, at, towards: (from) => subtractWorld(at, from), far: 1, shades: (bodies) => new LampShades({ at, reach: 100 }).update(bodies) }); // prettier-ignore

const LIGHTS = [
  sun('a sun from the left', { a: -3, b: -1, h: 4 }),
  sun('a low sun', { a: 1, b: -2.5, h: 0.5 }),
  sun('a sun overhead', { a: 0, b: 0, h: 1 }),
  sun('a sun from behind', { a: 2, b: 3, h: 2 }),
  lamp('a lamp outside', { a: -6.2, b: -4.1, h: 17.3 }),
  lamp('a lamp among the things', { a: 9.3, b: 8.4, h: 13.1 }),
];

interface Part {
  readonly surface: DrawnSurface;
  readonly cut: boolean;
  readonly shadow: readonly Path[];
}

function painted(solids: readonly Solid[], projection: Projection, shades: Shades): readonly Part[] {
  const sight = sightFrom(projection);
  const view = { sight, directions: rangeDirections(sight) };
  const { order } = new OrderKeeper().update(solids.map(({ body }) => drawBody(view, body)));
  return order.map(({ surface, cuts }) => ({ surface, cut: cuts !== null, shadow: (shades.get(surface.surface!) ?? []).map((shade) => shadeOnSheet(surface, shade)) })); // prettier-ignore
}

const inside = (path: Path, { x, y }: SheetPoint): boolean => flattenPath(path, 1e-4).filter((ring) => containsPoint(ring, x, y)).length % 2 === 1; // prettier-ignore

/** Whether something lies between a place and the light; null where the place's own solid begins there: it is turned away. */
function blocked(solids: readonly Solid[], at: WorldPoint, { towards, far }: TrueLight): boolean | null {
  const toEye = towards(at);
  const length = Math.hypot(toEye.a, toEye.b, toEye.h);
  const close = 1e-5 / length;
  let found = false;
  for (const { spans } of solids) {
    for (const [low, high] of spans({ from: at, toEye, most: Infinity })) {
      if (Math.abs(low) < close && high > 40 * close) return null;
      if (high > 40 * close && low < far) found = true;
    }
  }
  return found;
}

const distanceTo = (projection: Projection, p: WorldPoint, s: SheetPoint): number => {
  const there = sheetFromWorld(projection, p);
  return there ? Math.hypot(there.x - s.x, there.y - s.y) : Infinity;
};

/** The outward normal, of any length, at a place of a surface that is drawn at a place of the sheet, on balls any that is not along light; null where the place is another's, as beside a rim. */
function normalAt(projection: Projection, { surface, normal, stretch }: DrawnSurface, s: SheetPoint, at: WorldPoint): WorldPoint | null {
  const { form } = surface!;
  if (form.kind === 'flat') return Math.abs(dotWorld(normal, subtractWorld(at, form.frame.origin))) < 1e-6 ? normal : null;
  if (form.kind === 'sphere') return normal;
  const place = ruledWithin(projection, form, stretch!, s);
  if (Math.abs(place.k - 0.5) > 0.499) return null;
  const there = ruledPoint(form, place.s % form.directrix.length, place.k);
  return lengthWorld(subtractWorld(there, at)) < 1e-3 ? ruledNormal(form, place.s % form.directrix.length) : null;
}

const AROUND = [[1, 0], [-1, 0], [0, 1], [0, -1], [0.7, 0.7], [-0.7, 0.7]] as const; // prettier-ignore
const SHEET = { width: 300, height: 200 };
const POINTS = runs(90);
const MIXES = [
  [31, ['box', 'angle', 'wedge', 'frame', 'steps', 'pyramid'], false],
  [53, ['cylinder', 'cone', 'ball', 'tube', 'dome', 'arch', 'box'], false],
  [71, ['box', 'angle', 'cylinder', 'cone', 'wedge'], true],
  [97, ['letter', 'copy', 'box', 'arch', 'tube', 'copy', 'letter'], false],
] as const;
const SCENES = Array.from({ length: runs(1) }, (_, i) => MIXES.map(([seed, kinds, through]) => [seed + 1000 * i, kinds, through] as const)).flat();

describe('what is painted as lying in shadow is what the light does not reach', () => {
  it.each(LIGHTS.map((light) => [light.name, light] as const))('in the light of %s', (_, light) => {
    for (const [seed, kinds, through] of SCENES) {
      // What a lamp stands in is shone through, which the bench says.
      const solids = scene(seed, 22, kinds, through).filter((solid) => !light.at || !holds(solid, light.at));
      const shades = light.shades(solids.map(({ body }) => ({ body, casts: true, receives: true, half: 0 })));
      let [compared, dark, cracks] = [0, 0, 0];
      const wrong: unknown[] = [];
      for (const [family, setup] of FAMILIES) {
        const projection = projectionFrom(setup);
        const parts = painted(solids, projection, shades);
        const random = randomFrom(seed);
        const corners = parts.flatMap(({ surface }) => surface.outline.flatMap(({ polygon }) => Array.from({ length: polygon.length / 2 }, (__, i) => ({ x: polygon[2 * i]!, y: polygon[2 * i + 1]! })))); // prettier-ignore
        for (let tries = 0; tries < POINTS; tries++) {
          const near = corners[Math.floor(random() * corners.length)]!;
          const s = { x: near.x + (random() - 0.5) * 8, y: near.y + (random() - 0.5) * 8 };
          if (s.x < 0 || s.y < 0 || s.x > SHEET.width || s.y > SHEET.height) continue;
          const ray = rayThrough(projection, s);
          const solid = truthAt(solids, ray);
          if (!solid) continue;
          const at = addWorld(ray.from, scaleWorld(ray.toEye, solid.meet(ray)!));
          const truth = blocked(solids, at, light);
          if (truth === null) continue;
          // Places nearer than a hundredth of a cell to an edge are left out.
          const reach = Math.max(
            0.02,
            ...(['a', 'b', 'h'] as const).map((axis) => distanceTo(projection, addWorld(at, { a: 0, b: 0, h: 0, [axis]: 0.01 }), s)),
          );
          const clear = AROUND.every(([x, y]) => {
            const other = rayThrough(projection, { x: s.x + x * reach, y: s.y + y * reach });
            if (truthAt(solids, other) !== solid) return false;
            const beside = addWorld(other.from, scaleWorld(other.toEye, solid.meet(other)!));
            return lengthWorld(subtractWorld(beside, at)) < 0.5 && blocked(solids, beside, light) === truth;
          });
          if (!clear) continue;
          const top = parts.filter(({ surface }) => surface.outline.some(({ polygon, holes = [] }) => containsPoint(polygon, s.x, s.y) && !holes.some((hole) => containsPoint(hole, s.x, s.y)))); // prettier-ignore
          const part = top.at(-1);
          // What is cut by others is not told apart here.
          if (!part || !solid.body.surfaces.includes(part.surface.surface!) || top.some(({ cut }) => cut)) continue;
          // Light that runs along a face neither lights it nor leaves it in shadow.
          const { surface } = part;
          const normal = normalAt(projection, surface, s, at);
          if (!normal || Math.abs(dotWorld(normal, light.towards(at))) < 1e-6) continue;
          // A face that is seen nearly edge-on is thinner than the places about it.
          if (Math.abs(dotWorld(normal, ray.toEye)) < 0.02 * lengthWorld(normal) * lengthWorld(ray.toEye)) continue;
          compared++;
          if (truth) dark++;
          const shown = (dx: number, dy: number): boolean => part.shadow.some((path) => inside(path, { x: s.x + dx, y: s.y + dy }));
          if (shown(0, 0) === truth) continue;
          // Where the shadows of two faces meet, corners that stand for their curves may leave a crack, thinner than what is left out.
          if (AROUND.every(([x, y]) => shown(x * reach, y * reach) === truth)) cracks++;
          else wrong.push([family, s, truth, surface.surface!.name, surface.surface!.form.kind]);
        }
      }
      expect(wrong).toEqual([]);
      expect(compared).toBeGreaterThan(POINTS / 2);
      expect(dark).toBeGreaterThan(10);
      expect(cracks / compared).toBeLessThan(1e-3);
    }
  });
});
