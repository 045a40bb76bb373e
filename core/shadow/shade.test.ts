import { depthBody } from '../geometry/depth-recipe';
import type { Body, Surface } from '../geometry/body';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import { signedArea } from '../math/polygon';
import { planeFrame, sheetFromFrame, type Plane } from '../projection/planes';
import { apply33, invert33 } from '../math/matrix';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { badNumbers } from '../testing/random';
import { LampShades } from './lamp-shades';
import { SunShades, type LitBody, type Shades } from './shade';
import { fixedTone, shadowTone, sunDirection, sunThrowing, toneAt } from '../light/tones';

const FLOOR: Plane = { kind: 'floor', offset: 0 };
const box = (from: readonly [number, number], to: readonly [number, number], level: number, height: number): Body => depthBody({ plane: { kind: 'floor', offset: level }, outline: rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] }), depth: height })!; // prettier-ignore
const sheet = (plane: Plane, from: readonly [number, number], to: readonly [number, number]): Body => depthBody({ plane, outline: rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] }), depth: 0 })!; // prettier-ignore
const GROUND = sheet(FLOOR, [-40, -40], [40, 40]);
const lit = (...bodies: readonly Body[]): readonly LitBody[] => bodies.map((body) => ({ body, casts: true, receives: true, half: 0 }));

/** The shadows on a flat surface as corners in its own plane. */
function cornersOn(shades: Shades, surface: Surface, plane: Plane): readonly (readonly (readonly [number, number])[])[] {
  const frame = planeFrame(plane, 1)!;
  return (shades.get(surface) ?? []).flatMap(({ parts, turned }) => {
    const back = invert33(sheetFromFrame(turned.view.sight.projection, frame))!;
    return parts.flatMap(({ polygon, holes = [] }) => [polygon, ...holes].map((ring) => Array.from({ length: ring.length / 2 }, (_, i) => {
      const p = apply33(back, ring[2 * i]!, ring[2 * i + 1]!)!;
      return [p.x, p.y] as const;
    }))); // prettier-ignore
  });
}

const areaOf = (rings: readonly (readonly (readonly [number, number])[])[]): number => Math.abs(rings.reduce((sum, ring) => sum + signedArea(ring.flat()), 0));

/** Whether the same corners are there, in any order, to a thousandth of a cell. */
function sameCorners(ring: readonly (readonly [number, number])[], wanted: readonly (readonly [number, number])[]): boolean {
  const near = ([x, y]: readonly [number, number], [u, v]: readonly [number, number]): boolean => Math.hypot(x - u, y - v) < 1e-3;
  return wanted.every((p) => ring.some((q) => near(p, q))) && ring.every((q) => wanted.some((p) => near(p, q)));
}

describe('the shadow of an upright', () => {
  it.each(Array.from({ length: 12 }, (_, i) => [30 * i + 5, 10 + 6.5 * i] as const))(
    'falls where it is worked out by hand: turned %d, %d high',
    (azimuthDeg, elevationDeg) => {
      // A pole of 0.5 x 0.5 and 6 cells high: its shadow is its base and its top carried along the ground, and what lies between.
      const pole = box([0, 0], [0.5, 0.5], 0, 6);
      const shades = new SunShades(sunDirection({ azimuthDeg, elevationDeg })).update(lit(GROUND, pole));
      const length = 6 / Math.tan((elevationDeg * Math.PI) / 180);
      const [da, db] = [-length * Math.cos((azimuthDeg * Math.PI) / 180), -length * Math.sin((azimuthDeg * Math.PI) / 180)];
      const rings = cornersOn(shades, GROUND.surfaces[0]!, FLOOR);
      expect(rings).toHaveLength(1);
      const farthest = (x: number, y: number): number => Math.max(...rings[0]!.map(([u, v]) => u * x + v * y));
      for (const [x, y] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
        [da / length, db / length],
        [db / length, -da / length],
      ] as const) {
        // prettier-ignore
        const base = Math.max(0, 0.5 * x, 0.5 * y, 0.5 * x + 0.5 * y);
        expect(farthest(x, y)).toBeCloseTo(base + Math.max(0, da * x + db * y), 3);
      }
      // The hull of two squares: one square, and the way times what the square measures across it.
      expect(areaOf(rings)).toBeCloseTo(0.25 + 0.5 * (Math.abs(da) + Math.abs(db)), 2);
    },
  );

  it('comes back to the sun that throws it', () => {
    const from = { a: 2, b: 3, h: 5 };
    for (const azimuthDeg of [0, 77, 200, 301]) {
      const sun = { azimuthDeg, elevationDeg: 33 };
      const d = sunDirection(sun);
      const to = addWorld(from, scaleWorld(d, -5 / d.h));
      expect(sunThrowing(from, to)).toEqual(sun);
    }
    expect(sunThrowing(from, { a: 2, b: 3, h: 0 })).toEqual({ azimuthDeg: 0, elevationDeg: 90 });
    expect(sunThrowing(from, { a: 9, b: 3, h: 5 })).toBeNull();
  });
});

describe('the shadow of a box', () => {
  it('is a polygon on the floor, bent up a wall where it meets one', () => {
    // The sun stands over -a at 45 degrees: shadows go along +a, as long as things are high.
    const cube = box([0, 0], [2, 2], 0, 2);
    const wall = box([3, -5], [3.5, 7], 0, 4);
    const shades = new SunShades({ a: -1, b: 0, h: 1 }).update(lit(GROUND, cube, wall));
    const floor = cornersOn(shades, GROUND.surfaces[0]!, FLOOR).filter((ring) => ring.every(([, v]) => v > -1 && v < 3));
    expect(floor).toHaveLength(0);
    const whole = cornersOn(shades, GROUND.surfaces[0]!, FLOOR);
    // Behind the wall lies its own shadow; before it that of the cube, from its foot to the wall.
    expect(areaOf(whole)).toBeCloseTo(2 * 2 + 1 * 2 + 12 * (0.5 + 4), 3);
    const side = wall.surfaces.find(({ form }) => form.kind === 'flat' && form.frame.normal.a < -0.5)!;
    const up = cornersOn(shades, side, { kind: 'left', offset: 3 });
    expect(up).toHaveLength(1);
    // From the floor to one cell high: the edge at 2 cells falls on the wall one cell farther on.
    expect(areaOf(up)).toBeCloseTo(2, 3);
  });

  it('lets light through an opening, whose patch is there', () => {
    // A board with a window of 2 x 1, upright, lit by a sun at 45 degrees that shines square to it.
    const outline = outlineThrough([{ u: 0, v: 0 }, { u: 6, v: 0 }, { u: 6, v: 4 }, { u: 0, v: 4 }], true); // prettier-ignore
    const holed = { ...outline, holes: [outlineThrough([{ u: 2, v: 2 }, { u: 4, v: 2 }, { u: 4, v: 3 }, { u: 2, v: 3 }], true).points.map((p) => ({ ...p, id: p.id + 10 }))] }; // prettier-ignore
    const board = depthBody({ plane: { kind: 'left', offset: 0 }, outline: holed, depth: 0 })!;
    const shades = new SunShades({ a: -1, b: 0, h: 1 }).update(lit(GROUND, board));
    const rings = cornersOn(shades, GROUND.surfaces[0]!, FLOOR);
    expect(rings).toHaveLength(2);
    expect(areaOf(rings)).toBeCloseTo(6 * 4 - 2 * 1, 3);
    const patch = rings.find((ring) => Math.abs(areaOf([ring]) - 2) < 1e-3)!;
    expect(sameCorners(patch, [[2, 2], [3, 2], [3, 4], [2, 4]]) || sameCorners(patch, [[2, -2], [3, -2], [3, -4], [2, -4]])).toBe(true); // prettier-ignore
  });

  it('spreads in the light of a lamp', () => {
    // A plate of 2 x 2 at half the height of a lamp over its middle: its shadow is twice as wide.
    const plate = sheet({ kind: 'floor', offset: 4 }, [-1, -1], [1, 1]);
    const shades = new LampShades({ at: { a: 0, b: 0, h: 8 }, reach: 100 }).update(lit(GROUND, plate));
    expect(sameCorners(cornersOn(shades, GROUND.surfaces[0]!, FLOOR)[0]!, [[-2, -2], [2, -2], [2, 2], [-2, 2]])).toBe(true); // prettier-ignore
    // From beside: each corner goes on from the lamp by as much again as it is lower than the lamp.
    const beside = new LampShades({ at: { a: 3, b: -1, h: 10 }, reach: 100 }).update(lit(GROUND, plate));
    const thrown = [[-1, -1], [1, -1], [1, 1], [-1, 1]].map(([a, b]) => [3 + (a! - 3) / 0.6, -1 + (b! + 1) / 0.6] as const); // prettier-ignore
    expect(sameCorners(cornersOn(beside, GROUND.surfaces[0]!, FLOOR)[0]!, thrown)).toBe(true);
  });

  it('is thrown by what casts alone, on what receives alone, and is kept as long as nothing changes it', () => {
    const cube = box([0, 0], [2, 2], 1, 2);
    const keeper = new SunShades({ a: -1, b: -1, h: 2 });
    const ground = GROUND.surfaces[0]!;
    const before = keeper.update(lit(GROUND, cube)).get(ground)!;
    expect(keeper.update([...lit(GROUND, cube), ...lit(box([20, 20], [21, 21], 0, 1))]).get(ground)).not.toBe(before);
    expect(keeper.update(lit(GROUND, cube)).get(ground)![0]!.parts).toEqual(before[0]!.parts);
    expect(keeper.update([...lit(GROUND), { body: cube, casts: false, receives: true, half: 0 }]).get(ground)).toBeUndefined();
    expect(keeper.update([{ body: GROUND, casts: true, receives: false, half: 0 }, ...lit(cube)]).get(ground)).toBeUndefined();
  });

  it('fades with the way from what throws it', () => {
    const shades = new SunShades({ a: -1, b: 0, h: 1 }, Math.SQRT2 * 2).update(lit(GROUND, box([0, 0], [2, 2], 0, 4)));
    const nearer = shades.get(GROUND.surfaces[0]!)![0]!.nearer!;
    const areas = nearer.map(({ parts }) => parts.reduce((sum, { polygon }) => sum + Math.abs(signedArea(Array.from(polygon))), 0));
    expect(areas.every((area, i) => i === 0 || area >= areas[i - 1]!)).toBe(true);
    // The light past a place of the floor meets the box's side as far away, times sqrt 2, as the place is behind it: two cells are left.
    expect(areas.at(-1)! / 100 / Math.SQRT1_2).toBeCloseTo(2 * 2, 1);
  });
});

describe('odd lights', () => {
  const things = lit(GROUND, box([0, 0], [2, 2], 0, 2), box([4, 0], [6, 2], 0, 3));
  const fine = (shades: Shades): void => {
    const numbers = [...shades.values()].flatMap((list) =>
      list.flatMap(({ path, parts }) => [path.coords, ...parts.map(({ polygon }) => Array.from(polygon))]),
    );
    expect(badNumbers(numbers)).toEqual([]);
  };

  it.each([
    ['night', { azimuthDeg: 30, elevationDeg: -20 }],
    ['a sun on the horizon', { azimuthDeg: 30, elevationDeg: 0 }],
    ['a sun so low that shadows are kilometres long', { azimuthDeg: 30, elevationDeg: 0.01 }],
    ['a sun in the plane of faces', { azimuthDeg: 90, elevationDeg: 40 }],
    ['a sun right overhead', { azimuthDeg: 0, elevationDeg: 90 }],
  ])('%s makes no numbers that are none', (_, sun) => {
    const shades = new SunShades(sunDirection(sun)).update(things);
    fine(shades);
    if (sun.elevationDeg <= 0) expect(shades.get(GROUND.surfaces[0]!)).toBeUndefined();
  });

  it.each([
    ['inside a body', { a: 1, b: 1, h: 1 }],
    ['in the plane of a face', { a: 1, b: 1, h: 2 }],
    ['in the floor', { a: 9, b: 9, h: 0 }],
    ['under everything', { a: 1, b: 1, h: -5 }],
    ['at a corner', { a: 2, b: 2, h: 2 }],
  ])('a lamp %s makes none either', (_, at) => {
    fine(new LampShades({ at, reach: 20 }).update(things));
  });

  it('a lamp inside a body shines through it, as through a lantern', () => {
    const other = things[2]!.body.surfaces.find(({ form }) => form.kind === 'flat' && form.frame.normal.a < -0.5)!;
    expect(new LampShades({ at: { a: 1, b: 1, h: 1 }, reach: 20 }).update(things).get(other)).toBeUndefined();
    expect(new LampShades({ at: { a: -3, b: 1, h: 1 }, reach: 20 }).update(things).get(other)).toBeDefined();
  });
});

describe('tones', () => {
  const ramp = { lit: { lightness: 0.1, chroma: 1 }, grazed: { lightness: -0.1, chroma: 0.8 }, turned: { lightness: -0.3, chroma: 0.6 } };

  it('of a direction lie between those of the ramp, and are the covered one in shadow', () => {
    expect(toneAt(ramp, 1)).toEqual(ramp.lit);
    expect(toneAt(ramp, 0.25).lightness).toBeCloseTo(-0.05, 12);
    expect(toneAt(ramp, -0.5).lightness).toBeCloseTo(-0.2, 12);
    const covered = { lightness: -0.2, chroma: 0.7 };
    expect(shadowTone({ ...ramp, covered }, 1)).toEqual(covered);
    expect(shadowTone({ ...ramp, covered }, -1)).toEqual(ramp.turned);
    expect(shadowTone(ramp, 0.2).lightness).toBeLessThan(shadowTone(ramp, 0.9).lightness);
  });

  it('of sides are fixed, with slopes in between', () => {
    const fixed = { top: { lightness: 0.2, chroma: 1 }, left: { lightness: 0, chroma: 1 }, right: { lightness: -0.2, chroma: 1 } };
    const at = (normal: WorldPoint): number => fixedTone(fixed, ramp, normal).lightness;
    expect([at({ a: 0, b: 0, h: 1 }), at({ a: -1, b: 0, h: 0 }), at({ a: 0, b: -1, h: 0 })]).toEqual([0.2, 0, -0.2]);
    expect(at({ a: 0, b: -Math.SQRT1_2, h: Math.SQRT1_2 })).toBeCloseTo(0, 12);
    expect(at({ a: 0, b: 0, h: -1 })).toBe(-0.3);
  });
});
