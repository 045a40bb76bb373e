import { emptyDocument } from '../document/types';
import { type SheetPoint, type WorldPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { axesInCamera } from '../projection/camera';
import { parallelSetup } from '../projection/families';
import { projectionFrom, type Projection } from '../projection/projection';
import { isometricSetup, type ProjectionSetup } from '../projection/setup';
import { sightFrom } from '../projection/sight';
import { randomFrom } from '../testing/random';
import type { Body } from '../geometry/body';
import { depthBody } from '../geometry/depth-recipe';
import { rectangleOutline } from '../shape/outline';
import { drawBody, rangeDirections, type DrawnBody, type DrawnSurface } from './drawn-body';
import { OrderKeeper, type PaintOrder } from './order';

interface Box {
  readonly min: WorldPoint;
  readonly max: WorldPoint;
}

interface Scene {
  readonly projection: Projection;
  readonly boxes: readonly Box[];
  readonly bodies: readonly DrawnBody[];
}

/** Boxes on whole cells, none sharing any inside with another; sizes from flat slabs to tall posts. */
function randomBoxes(count: number, seed: number): readonly Box[] {
  const random = randomFrom(seed);
  const whole = (below: number): number => Math.floor(random() * below);
  const boxes: Box[] = [];
  while (boxes.length < count) {
    const min = { a: whole(26), b: whole(26), h: whole(18) };
    const long = (): number => 1 + whole(random() < 0.25 ? 12 : 4);
    const max = { a: min.a + long(), b: min.b + long(), h: min.h + long() };
    const apart = (o: Box): boolean => (['a', 'b', 'h'] as const).some((axis) => max[axis] <= o.min[axis] || o.max[axis] <= min[axis]);
    if (boxes.every(apart)) boxes.push({ min, max });
  }
  return boxes;
}

/** A box as a shape of the floor with depth. */
function boxBody({ min, max }: Box): Body {
  const outline = rectangleOutline({ u: min.a, v: min.b }, { u: max.a, v: max.b });
  return depthBody({ plane: { kind: 'floor', offset: min.h }, outline, depth: max.h - min.h })!;
}

function sceneOf(boxes: readonly Box[], setup: ProjectionSetup = emptyDocument('d', 'd').projection): Scene {
  const projection = projectionFrom(setup);
  const sight = sightFrom(projection);
  const view = { sight, directions: rangeDirections(sight) };
  return { projection, boxes, bodies: boxes.map((box) => drawBody(view, boxBody(box))) };
}

/**
 * A line of sight as `from + t * toEye`, larger t nearer: for parallel projections from the drawing's two equations
 * and h = 0 solved by hand; in perspective along the ray that the camera's angles give, t from minus infinity to 0.
 */
function rayThrough(projection: Projection, s: SheetPoint): { from: WorldPoint; toEye: WorldPoint } {
  const { matrix: m, setup, eye } = projection;
  if (setup.kind === 'perspective') {
    const { a, b, h } = axesInCamera(setup);
    const ray = { x: s.x - setup.principal.x, y: s.y - setup.principal.y, z: setup.focal };
    const along = (axis: typeof a): number => -(axis.x * ray.x + axis.y * ray.y + axis.z * ray.z);
    return { from: setup.eye, toEye: { a: along(a), b: along(b), h: along(h) } };
  }
  const toEye = { a: eye[0], b: eye[1], h: eye[2] };
  return { from: pointOnRay(m, s), toEye };
}

function pointOnRay(m: Projection['matrix'], s: SheetPoint): WorldPoint {
  const x = s.x - m[3];
  const y = s.y - m[7];
  const det = m[0] * m[5] - m[1] * m[4];
  return { a: (x * m[5] - y * m[1]) / det, b: (m[0] * y - m[4] * x) / det, h: 0 };
}

/** The plain answer: the nearest face along the line of sight, by slabs, or null where the boxes are missed. */
function castRay(scene: Scene, boxes: readonly Box[], s: SheetPoint): { box: Box; clear: boolean } | null {
  const { from, toEye } = rayThrough(scene.projection, s);
  const inFront = scene.projection.eye[3] !== 0;
  let nearest = -Infinity;
  let second = -Infinity;
  let found: Box | null = null;
  for (const box of boxes) {
    let enter = Infinity;
    let leave = -Infinity;
    for (const axis of ['a', 'b', 'h'] as const) {
      const t0 = (box.min[axis] - from[axis]) / toEye[axis];
      const t1 = (box.max[axis] - from[axis]) / toEye[axis];
      enter = Math.min(enter, Math.max(t0, t1));
      leave = Math.max(leave, Math.min(t0, t1));
    }
    if (enter <= leave || (inFront && enter >= 0)) continue;
    if (enter > nearest) {
      second = nearest;
      nearest = enter;
      found = box;
    } else if (enter > second) second = enter;
  }
  return found && { box: found, clear: nearest - second > 1e-9 * (inFront ? Math.abs(nearest) : 1) };
}

/** The surface that is painted last over a sheet point, with what was cut out of it respected, and its box. */
function painted(scene: Scene, { order }: PaintOrder, s: SheetPoint): { readonly box: Box; readonly surface: DrawnSurface } | null {
  for (let k = order.length - 1; k >= 0; k--) {
    const { surface, body, cuts } = order[k]!;
    if (!surface.outline.some(({ polygon }) => containsPoint(polygon, s.x, s.y))) continue;
    if (cuts?.some(({ polygon }) => containsPoint(polygon, s.x, s.y))) continue;
    return { box: scene.boxes[body]!, surface };
  }
  return null;
}

/** Beams along a, b and h: the second hides an end of the first, the third hides the second, the first hides the third. */
function overlappingRing(): readonly Box[] {
  const beam = (min: [number, number, number], max: [number, number, number]): Box => ({
    min: { a: min[0], b: min[1], h: min[2] },
    max: { a: max[0], b: max[1], h: max[2] },
  });
  return [beam([0, 0, 0], [6, 1, 1]), beam([3, -3, 2], [4, 5, 3]), beam([1, 1, -3], [2, 2, 7])];
}

const CAMERA: ProjectionSetup = {
  kind: 'perspective',
  chosen: 'three-point',
  focal: 160,
  principal: { x: 150, y: 70 },
  turnDeg: 40,
  tiltDeg: 22,
  rollDeg: 0,
  eye: { a: -22, b: -18, h: 34 },
};
const FAMILY_SETUPS: readonly (readonly [string, ProjectionSetup])[] = [
  ...(['trimetric', 'cabinet', 'planometric'] as const).map((key) => [key, parallelSetup(key, { x: 150, y: 150 })!] as const),
  ['seen from below', { ...isometricSetup({ x: 150, y: 60 }), aDeg: -30, bDeg: -30 }],
  ['three-point', CAMERA],
  ['two-point', { ...CAMERA, tiltDeg: 0, eye: { a: -14, b: -16, h: 12 } }],
  ['one-point', { ...CAMERA, tiltDeg: 0, turnDeg: 0, eye: { a: 12, b: -14, h: 14 } }],
  ['with the eye inside the scene', { ...CAMERA, tiltDeg: 4, eye: { a: 12.4, b: 11.3, h: 19.7 } }],
];

describe('the paint order', () => {
  it.each([1, 2, 3, 4, 5])('shows what a ray caster finds, for 300 boxes that do not cut through each other (seed %i)', (seed) => {
    const boxes = randomBoxes(300, seed);
    const scene = sceneOf(boxes);
    const order = new OrderKeeper().update(scene.bodies);
    expect(new Set(order.order.map(({ surface }) => surface)).size).toBe(scene.bodies.flatMap(({ surfaces }) => surfaces).length);
    const random = randomFrom(seed + 1000);
    let compared = 0;
    for (let tries = 0; compared < 2000; tries++) {
      const s = { x: 110 + random() * 80, y: 90 + random() * 60 };
      const truth = castRay(scene, boxes, s);
      const shown = painted(scene, order, s);
      if (!truth) {
        expect(shown).toBeNull();
        continue;
      }
      if (!truth.clear) continue;
      compared++;
      expect(shown?.box).toBe(truth.box);
      expect(tries).toBeLessThan(20_000);
    }
  });

  it.each(FAMILY_SETUPS)('shows what a ray caster finds in every family: %s', (_, setup) => {
    const boxes = randomBoxes(160, 21);
    const scene = sceneOf(boxes, setup);
    const order = new OrderKeeper().update(scene.bodies);
    const random = randomFrom(501);
    const [left, right] = setup.kind === 'perspective' ? [-60, 360] : [110, 190];
    const [top, bottom] = setup.kind === 'perspective' ? [-120, 260] : setup.chosen === 'isometric' ? [30, 110] : [90, 150];
    let compared = 0;
    for (let tries = 0; compared < 1500; tries++) {
      const s = { x: left + random() * (right - left), y: top + random() * (bottom - top) };
      expect(tries).toBeLessThan(60_000);
      const truth = castRay(scene, boxes, s);
      if (!truth?.clear) continue;
      compared++;
      expect(painted(scene, order, s)?.box).toBe(truth.box);
    }
  });

  it('cuts where three beams lie over one another in a ring', () => {
    const ring = overlappingRing();
    const scene = sceneOf(ring);
    const order = new OrderKeeper().update(scene.bodies);
    let compared = 0;
    expect(order.order.some(({ cuts }) => cuts !== null)).toBe(true);
    expect(order.through.length).toBe(0);
    for (let x = 130; x < 170; x += 0.23) {
      for (let y = 130; y < 170; y += 0.27) {
        const truth = castRay(scene, ring, { x, y });
        if (!truth?.clear) continue;
        compared++;
        expect(painted(scene, order, { x, y })?.box).toBe(truth.box);
      }
    }
    expect(compared).toBeGreaterThan(500);
  });

  it('gives the same picture when one box of many is exchanged as when all are new', () => {
    const boxes = randomBoxes(120, 9);
    const first = sceneOf(boxes);
    const keeper = new OrderKeeper();
    keeper.update(first.bodies);
    const lifted = boxes.map((box, i) => (i === 60 ? { min: { ...box.min, h: box.min.h + 40 }, max: { ...box.max, h: box.max.h + 40 } } : box));
    const changed = sceneOf(lifted);
    const mixed: Scene = { ...changed, bodies: first.bodies.map((body, i) => (i === 60 ? changed.bodies[60]! : body)) };
    const kept = keeper.update(mixed.bodies);
    const random = randomFrom(77);
    for (let i = 0; i < 2000; i++) {
      const s = { x: 100 + random() * 100, y: 40 + random() * 130 };
      const truth = castRay(mixed, lifted, s);
      if (truth?.clear) expect(painted(mixed, kept, s)?.box).toBe(truth.box);
    }
  });

  it('leaves things of one plane in the order in which they were given', () => {
    const view = sceneOf([]).projection;
    const sight = sightFrom(view);
    const flat = (min: number): DrawnBody => {
      const outline = rectangleOutline({ u: min, v: min }, { u: min + 3, v: min + 3 });
      return drawBody({ sight, directions: rangeDirections(sight) }, depthBody({ plane: { kind: 'floor', offset: 1 }, outline, depth: 0 })!);
    };
    const two = [flat(0), flat(1)];
    for (const bodies of [two, [...two].reverse()]) expect(new OrderKeeper().update(bodies).order.map(({ body }) => body)).toEqual([0, 1]);
  });
});
