import fc from 'fast-check';
import { apply33 } from '../math/matrix';
import { axesInCamera, coneRadius, depthOf, focalFromView, viewAngleDeg, withPointAt } from './camera';
import { nameProjection } from './classify';
import { mapForms, projectionFacts } from './facts';
import { figureEyes, standingFigure } from './figure-of-scale';
import { boxMiddle, frameFamily, lookFrom, roomOf } from './framing';
import { clipLineNear, clipNear, wOf } from './near';
import { projectionFrom, sheetFromWorld } from './projection';
import { artMap, mapOfRecipe, recipeOf } from './recipes';
import type { PerspectiveSetup } from './setup';
import {
  calmer,
  cornerOf,
  distanceTo,
  eyeHeightTo,
  moveCorner,
  moveHorizon,
  moveVanishingPoint,
  rollTo,
  tiltTo,
  turnTo,
  viewAngleTo,
  type Steered,
} from './steering';
import { cameraFromThree, cameraFromTwo, equalSteps, horizonOf, orthocentre, vanishingPoints } from './vanishing';

/** Eye 160 over the floor, 300 in front of the corner, looking level, 35 degrees turned. */
function camera(part: Partial<PerspectiveSetup> = {}): PerspectiveSetup {
  const setup: PerspectiveSetup = {
    kind: 'perspective',
    chosen: 'two-point',
    focal: 250,
    principal: { x: 150, y: 90 },
    turnDeg: 35,
    tiltDeg: 0,
    rollDeg: 0,
    eye: { a: 0, b: 0, h: 0 },
    ...part,
  };
  return part.eye ? setup : withPointAt(setup, { a: 0, b: 0, h: 0 }, { x: 140, y: 150 }, 300);
}

const angle = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true });
const cameras = fc
  .record({ turn: angle(3, 87), tilt: angle(4, 60), up: fc.boolean(), roll: angle(-80, 80), focal: angle(60, 2000), x: angle(-500, 500), y: angle(-500, 500) })
  .map(({ turn, tilt, up, roll, focal, x, y }) => camera({ turnDeg: turn, tiltDeg: up ? -tilt : tilt, rollDeg: roll, focal, principal: { x, y } }));
const taken = (steered: Steered): PerspectiveSetup => {
  if (!steered.ok) throw new Error(steered.reason);
  return steered.setup;
};

describe('a camera', () => {
  it('draws by hand-computed similar triangles', () => {
    // One-point: eye at (0, -200, 50), picture 100 in front. A point 100 behind the picture plane is drawn at 1/3.
    const setup = camera({ turnDeg: 0, focal: 100, principal: { x: 0, y: 0 }, eye: { a: 0, b: -200, h: 50 } });
    const projection = projectionFrom(setup);
    expect(sheetFromWorld(projection, { a: 30, b: 100, h: 50 })).toEqual({ x: 10, y: 0 });
    expect(sheetFromWorld(projection, { a: 0, b: 0, h: 0 })).toEqual({ x: 0, y: 25 });
    expect(sheetFromWorld(projection, { a: 0, b: -201, h: 0 })).toBeNull();
    expect(vanishingPoints(setup)).toMatchObject({ a: { w: 0 }, b: { x: 0, y: 0, w: 1 }, h: { w: 0 } });
    expect(projection.eye).toEqual([0, -200, 50, 1]);
    expect(depthOf(setup, { a: 0, b: 0, h: 0 })).toBe(200);
    expect(viewAngleDeg(100, 200)).toBeCloseTo(90, 12);
    expect(focalFromView(90, 200)).toBeCloseTo(100, 12);
    expect(coneRadius(setup)).toBeCloseTo(100 / Math.sqrt(3), 12);
  });

  it('has its level vanishing points at cotangent and tangent of the turn (any textbook of perspective)', () => {
    const { a, b, h } = vanishingPoints(camera({ turnDeg: 30 }));
    expect(a.x).toBeCloseTo(150 + 250 * Math.sqrt(3), 9);
    expect(b.x).toBeCloseTo(150 - 250 / Math.sqrt(3), 9);
    expect([a.y, b.y]).toEqual([90, 90]);
    expect(h.w).toBe(0);
    expect(horizonOf(camera({ tiltDeg: 45 }))!.at.y).toBeCloseTo(90 - 250, 9);
  });

  it('turns its axes as a rotation, whatever the angles', () => {
    fc.assert(
      fc.property(angle(-360, 360), angle(-90, 90), angle(-360, 360), (turnDeg, tiltDeg, rollDeg) => {
        const { a, b, h } = axesInCamera({ turnDeg, tiltDeg, rollDeg });
        const dot = (p: typeof a, q: typeof a): number => p.x * q.x + p.y * q.y + p.z * q.z;
        for (const axis of [a, b, h]) expect(dot(axis, axis)).toBeCloseTo(1, 12);
        expect(Math.abs(dot(a, b)) + Math.abs(dot(b, h)) + Math.abs(dot(h, a))).toBeLessThan(1e-12);
        expect(a.x * (b.y * h.z - b.z * h.y) - a.y * (b.x * h.z - b.z * h.x) + a.z * (b.x * h.y - b.y * h.x)).toBeCloseTo(1, 12);
      }),
      { seed: 5, numRuns: 300 },
    );
  });

  it('comes back from its three vanishing points', () => {
    fc.assert(
      fc.property(cameras, (setup) => {
        const { a, b, h } = vanishingPoints(setup);
        const found = cameraFromThree({ a, b, h });
        if (!found.ok) throw new Error(found.reason);
        expect(found.camera.focal / setup.focal).toBeCloseTo(1, 6);
        expect(found.camera.principal.x).toBeCloseTo(setup.principal.x, 4);
        expect(found.camera.turnDeg).toBeCloseTo(setup.turnDeg, 6);
        expect(found.camera.tiltDeg).toBeCloseTo(setup.tiltDeg, 6);
        expect(found.camera.rollDeg).toBeCloseTo(setup.rollDeg, 6);
        const back = vanishingPoints({ ...setup, ...found.camera });
        for (const axis of ['a', 'b', 'h'] as const) expect(Math.hypot(back[axis].x - { a, b, h }[axis].x, back[axis].y - { a, b, h }[axis].y)).toBeLessThan(1e-6 * (1 + Math.hypot({ a, b, h }[axis].x, { a, b, h }[axis].y))); // prettier-ignore
      }),
      { seed: 6, numRuns: 500 },
    );
  });

  it('comes back from two vanishing points and the principal point', () => {
    const setup = camera({ rollDeg: 4 });
    const { a, b } = vanishingPoints(setup);
    const found = cameraFromTwo(a, b, setup.principal);
    expect(found.ok && found.camera.focal).toBeCloseTo(250, 8);
    expect(found.ok && found.camera.turnDeg).toBeCloseTo(35, 8);
    expect(found.ok && found.camera.rollDeg).toBeCloseTo(4, 8);
  });

  it('cannot be had from points that no eye sees square to each other, with the reason', () => {
    // By hand: the orthocentre of (0,0), (4,0), (1,3) is (1,1).
    expect(orthocentre({ x: 0, y: 0 }, { x: 4, y: 0 }, { x: 1, y: 3 })).toEqual({ x: 1, y: 1 });
    expect(orthocentre({ x: 0, y: 0 }, { x: 1, y: 1 }, { x: 2, y: 2 })).toBeNull();
    expect(cameraFromThree({ a: { x: 100, y: 0 }, b: { x: -100, y: 0 }, h: { x: 0, y: 20 } })).toEqual({
      ok: false,
      reason: expect.stringContaining('corner at h'),
    });
    expect(cameraFromThree({ a: { x: 0, y: 0 }, b: { x: 1, y: 0 }, h: { x: 2, y: 0 } })).toEqual({ ok: false, reason: expect.stringContaining('on one line') });
    expect(cameraFromTwo({ x: 100, y: 0 }, { x: 20, y: 0 }, { x: 0, y: 0 })).toEqual({ ok: false, reason: expect.stringContaining('right angle apart') });
    expect(cameraFromTwo({ x: -100, y: 0 }, { x: 100, y: 0 }, { x: 0, y: 0 })).toEqual({ ok: false, reason: expect.stringContaining('to the right of b') });
  });

  it('never gives NaN, however far its points and wherever its eye', () => {
    const extreme = fc.record({
      turnDeg: fc.oneof(angle(0, 90), fc.constantFrom(0, 1e-9, 1e-5, 45, 90 - 1e-9, 90)),
      tiltDeg: fc.oneof(angle(-90, 90), fc.constantFrom(0, 1e-9, 90, -90)),
      focal: fc.constantFrom(0.5, 10, 300, 1e7),
      eye: fc.record({ a: fc.constantFrom(-1e7, -1, 0, 1, 300), b: fc.constantFrom(-1e7, 0, 50), h: fc.constantFrom(-50, 0, 1e-9, 1e7) }),
      point: fc.record({ a: angle(-1e4, 1e4), b: angle(-1e4, 1e4), h: angle(-1e4, 1e4) }),
    });
    fc.assert(
      fc.property(extreme, ({ point, ...part }) => {
        const setup = camera(part);
        const projection = projectionFrom(setup);
        const p = sheetFromWorld(projection, point);
        const points = vanishingPoints(setup);
        const horizon = horizonOf(setup);
        const corner = cornerOf(setup);
        const facts = projectionFacts(setup, 8, 300);
        const numbers = [...projection.matrix, ...projection.eye, ...(p ? [p.x, p.y] : []), points.a.x, points.b.x, points.h.y, ...(horizon ? [horizon.at.x, horizon.at.y] : []), ...(corner ? [corner.at.x, corner.depth] : []), ...facts.planes.flatMap((f) => [f.circle?.major ?? 0, f.circle?.turnRad ?? 0])]; // prettier-ignore
        for (const n of numbers) expect(Number.isFinite(n)).toBe(true);
        expect(mapForms(facts.planes[0]!)?.css ?? '').not.toMatch(/NaN|Infinity/);
      }),
      { seed: 7, numRuns: 1000 },
    );
    // From 1 px to 1e7 px away, dragged along the horizon.
    for (let x = 151; x < 1e7; x *= 1.7) {
      const setup = taken(moveVanishingPoint(camera(), 'a', { x, y: 90 }));
      expect(vanishingPoints(setup).a.x / x).toBeCloseTo(1, 9);
      expect(cornerOf(setup)!.at.x).toBeCloseTo(140, 5);
    }
  });

  it('divides a receding stretch by the cross-ratio as the projection itself does', () => {
    const setup = camera();
    const projection = projectionFrom(setup);
    const at = (a: number): { x: number; y: number } => sheetFromWorld(projection, { a, b: 0, h: 0 })!;
    const steps = equalSteps(at(0), at(90), vanishingPoints(setup).a, 9)!;
    steps.forEach((p, k) => {
      expect(p.x).toBeCloseTo(at(10 * k).x, 8);
      expect(p.y).toBeCloseTo(at(10 * k).y, 8);
    });
    const flat = equalSteps({ x: 0, y: 0 }, { x: 9, y: 0 }, { x: 1, y: 0, w: 0 }, 3)!;
    expect(flat.map((p) => p.x)).toEqual([0, 3, 6, 9]);
  });

  it('are none where there is no such count, or the stretch reaches its vanishing point', () => {
    const [from, to] = [{ x: 0, y: 0 }, { x: 9, y: 0 }]; // prettier-ignore
    const far = { x: 20, y: 0, w: 1 } as const;
    for (const count of [0, -1, 1.5, NaN]) expect(equalSteps(from, to, far, count)).toBeNull();
    for (const x of [9, 5, 0]) expect(equalSteps(from, to, { x, y: 0, w: 1 }, 3)).toBeNull();
    expect(equalSteps(from, to, { x: NaN, y: 0, w: 1 }, 3)).toBeNull();
    expect(equalSteps(from, to, far, 1)).toEqual([from, to]);
  });

  it('go through one door: figures that are none, and eyes farther off than can be kept, are refused with the camera as it was', () => {
    const before = camera();
    const attempts = [
      turnTo(before, NaN),
      tiltTo(before, Infinity * 0),
      viewAngleTo(before, NaN, 300),
      eyeHeightTo(before, NaN),
      eyeHeightTo(before, 1e12),
      distanceTo(before, 1e15),
      moveCorner(before, { x: NaN, y: 0 }),
    ];
    for (const steered of attempts) {
      expect(steered.ok).toBe(false);
      if (!steered.ok) expect([...Object.values(steered.nearest.eye), steered.nearest.focal].every(Number.isFinite)).toBe(true);
    }
    expect(cameraFromTwo({ x: NaN, y: 0 }, { x: 1, y: 0 }, { x: 0, y: 0 })).toEqual({ ok: false, reason: expect.stringContaining('not a number') });
    expect(calmer({ ...before, focal: 9e7 }, 2, { a: 0, b: 0, h: 0 })).toMatchObject({ ok: false, reason: expect.stringContaining('parallel projection') });
  });

  it('tell no map for a plane in which the eye lies, and a shear of less than a right angle for a floor seen from below', () => {
    expect(artMap(projectionFrom(camera({ eye: { a: -130, b: 0, h: 120 } })), 'right')).toBeNull();
    const recipe = recipeOf([1, 0, 0.5, -0.9]);
    expect(recipe.scaleY).toBeCloseTo(-0.9, 12);
    expect(Math.abs(recipe.shearRad)).toBeLessThan(Math.PI / 2);
    mapOfRecipe(recipe).forEach((n, i) => expect(n).toBeCloseTo([1, 0, 0.5, -0.9][i]!, 12));
  });

  it('maps flat art by one homography, given as CSS too', () => {
    const map = artMap(projectionFrom(camera()), 'right')!;
    const p = apply33(map, 20, -30)!;
    const direct = sheetFromWorld(projectionFrom(camera()), { a: 20, b: 0, h: 30 })!;
    expect(p.x).toBeCloseTo(direct.x, 9);
    expect(p.y).toBeCloseTo(direct.y, 9);
    const forms = mapForms(projectionFacts(camera(), 8, 300).planes[2]!)!;
    const k = 96 / 25.4;
    const m = /matrix3d\((.*)\)/.exec(forms.css)![1]!.split(', ').map(Number);
    const w = m[3]! * 20 * k + m[7]! * -30 * k + m[15]!;
    expect((m[0]! * 20 * k + m[4]! * -30 * k + m[12]!) / w / k).toBeCloseTo(direct.x, 3);
    expect(forms.svg).toBeNull();
  });
});

describe('steering', () => {
  const corner = (setup: PerspectiveSetup): [number, number, number] => {
    const at = cornerOf(setup)!;
    return [at.at.x, at.at.y, setup.focal / at.depth];
  };
  const keeps = (before: PerspectiveSetup, after: PerspectiveSetup): void =>
    corner(before).forEach((value, i) => expect(corner(after)[i]).toBeCloseTo(value, 6));

  it('moves one level vanishing point, keeps the other, the horizon, the corner and its uprights', () => {
    const before = camera();
    const after = taken(moveVanishingPoint(before, 'a', { x: 900, y: 400 }));
    expect(vanishingPoints(after).a).toMatchObject({ x: expect.closeTo(900, 6), y: 90 });
    expect(vanishingPoints(after).b.x).toBeCloseTo(vanishingPoints(before).b.x, 6);
    keeps(before, after);
  });

  it('moves any of three, keeping the other two', () => {
    const before = camera({ tiltDeg: 20 });
    const now = vanishingPoints(before);
    const h = taken(moveVanishingPoint(before, 'h', { x: now.h.x + 40, y: now.h.y + 200 }));
    expect(vanishingPoints(h).a.x).toBeCloseTo(now.a.x, 5);
    expect(vanishingPoints(h).b.y).toBeCloseTo(now.b.y, 5);
    expect(vanishingPoints(h).h.y).toBeCloseTo(now.h.y + 200, 5);
    keeps(before, h);
    const a = taken(moveVanishingPoint(before, 'a', { x: now.a.x + 100, y: 0 }));
    expect(vanishingPoints(a).h.y).toBeCloseTo(now.h.y, 5);
    keeps(before, a);
  });

  it('moves the horizon with a and b, the one point of one-point perspective with everything straight ahead', () => {
    const two = camera();
    const raised = taken(moveHorizon(two, { x: 0, y: 60 }));
    expect(horizonOf(raised)!.at.y).toBeCloseTo(60, 9);
    expect(vanishingPoints(raised).a.x).toBeCloseTo(vanishingPoints(two).a.x, 6);
    expect(raised.eye.h).toBeGreaterThan(two.eye.h);
    keeps(two, raised);
    const three = camera({ tiltDeg: 20 });
    const lifted = taken(moveHorizon(three, { x: 0, y: horizonOf(three)!.at.y - 30 }));
    expect(vanishingPoints(lifted).h.y).toBeCloseTo(vanishingPoints(three).h.y, 5);
    keeps(three, lifted);
    const one = camera({ turnDeg: 0, chosen: 'one-point' });
    const moved = taken(moveVanishingPoint(one, 'b', { x: 200, y: 50 }));
    expect(vanishingPoints(moved).b).toMatchObject({ x: expect.closeTo(200, 9), y: expect.closeTo(50, 9) });
    keeps(one, moved);
    const tilted = camera({ turnDeg: 0, tiltDeg: 15 });
    const far = taken(moveVanishingPoint(tilted, 'h', { x: 150, y: vanishingPoints(tilted).h.y + 300 }));
    expect(vanishingPoints(far).h.y).toBeCloseTo(vanishingPoints(tilted).h.y + 300, 5);
    expect(horizonOf(far)!.at.y).toBeCloseTo(horizonOf(tilted)!.at.y, 5);
    expect(vanishingPoints(taken(moveHorizon(tilted, { x: 0, y: -10 }))).h.y).toBeCloseTo(vanishingPoints(tilted).h.y, 5);
  });

  it('changes numbers by their rules', () => {
    const before = camera();
    const higher = taken(eyeHeightTo(before, 200));
    expect(higher.eye.h).toBe(200);
    keeps(before, higher);
    const turned = taken(turnTo(before, 60));
    expect(horizonOf(turned)!.at.y).toBeCloseTo(90, 9);
    keeps(before, turned);
    expect(nameProjection(taken(tiltTo(before, 10)))).toMatchObject({
      key: 'three-point',
      changed: 'no longer two-point perspective: three-point perspective',
    });
    const back = taken(distanceTo(before, 600));
    expect(cornerOf(back)!.at.x).toBeCloseTo(140, 9);
    expect(vanishingPoints(back).a).toEqual(vanishingPoints(before).a);
    const wide = taken(viewAngleTo(before, 100, 300));
    expect(viewAngleDeg(wide.focal, 300)).toBeCloseTo(100, 9);
    expect(wide.eye).toEqual(before.eye);
    expect(rollTo(before, 190).rollDeg).toBe(-170);
    const calm = taken(calmer(before, 2, { a: 50, b: 50, h: 20 }));
    const drawn = (s: PerspectiveSetup): { x: number; y: number } => sheetFromWorld(projectionFrom(s), { a: 50, b: 50, h: 20 })!;
    expect(drawn(calm).x).toBeCloseTo(drawn(before).x, 6);
    expect(calm.focal).toBe(500);
    expect(depthOf(calm, { a: 50, b: 50, h: 20 }) / depthOf(before, { a: 50, b: 50, h: 20 })).toBeCloseTo(2, 9);
    expect(moveCorner(before, { x: 10, y: 160 }).ok).toBe(true);
  });

  it('refuses what cannot be, with the reason and the nearest that can', () => {
    const across = moveVanishingPoint(camera(), 'a', { x: 0, y: 90 });
    expect(across).toMatchObject({ ok: false, reason: expect.stringContaining('right angle apart') });
    expect(!across.ok && vanishingPoints(across.nearest).a.x).toBeGreaterThan(150);
    expect(!across.ok && vanishingPoints(across.nearest).a.x).toBeLessThan(151);
    const three = camera({ tiltDeg: 20 });
    const flat = moveVanishingPoint(three, 'h', horizonOf(three)!.at);
    expect(flat).toMatchObject({ ok: false, reason: expect.stringMatching(/not acute|one line/) });
    const inFloor = eyeHeightTo(camera(), 0);
    expect(inFloor).toMatchObject({ ok: false, reason: expect.stringContaining('in the floor') });
    expect(!inFloor.ok && inFloor.nearest.eye.h).toBeCloseTo(0.25, 9);
    expect(moveVanishingPoint(camera(), 'h', { x: 0, y: 900 })).toMatchObject({ ok: false, reason: expect.stringContaining('at infinity') });
    expect(turnTo(camera(), 120)).toMatchObject({ ok: false, nearest: { turnDeg: 89 } });
    expect(distanceTo(camera(), -4)).toMatchObject({ ok: false, reason: expect.stringContaining('reach the corner') });
    expect(viewAngleTo(camera(), 179, 300).ok).toBe(false);
    expect(moveCorner(camera(), { x: 140, y: 90 })).toMatchObject({ ok: false, reason: expect.stringContaining('in the floor') });
    expect(tiltTo(camera(), 95)).toMatchObject({ ok: false, nearest: { tiltDeg: 89 } });
  });
});

describe('framing', () => {
  const subject = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 60, h: 50 } };
  const room = { middle: { x: 150, y: 100 }, width: 120, height: 80 };

  it('shows a subject where it was, whatever family is chosen', () => {
    for (const key of ['isometric', 'planometric', 'cabinet', 'one-point', 'two-point', 'three-point'] as const) {
      const setup = frameFamily(key, subject, room);
      const now = roomOf(projectionFrom(setup), subject)!;
      expect(now.middle.x).toBeCloseTo(150, 8);
      expect(now.middle.y).toBeCloseTo(100, 8);
      if (setup.kind === 'perspective') {
        expect(Math.max(now.width / 120, now.height / 80)).toBeCloseTo(1, 8);
        expect(setup.eye.h).toBeGreaterThan(0);
      }
      expect(nameProjection(setup)).toMatchObject({ key, changed: null });
    }
    const two = frameFamily('two-point', subject, room) as PerspectiveSetup;
    const mast = lookFrom(two, 400, subject);
    expect(mast.eye.h).toBe(400);
    expect(roomOf(projectionFrom(mast), subject)!.middle.x).toBeCloseTo(150, 8);
    expect(boxMiddle(subject)).toEqual({ a: 40, b: 30, h: 25 });
  });

  it('stands a figure whose eyes meet the horizon when the eye is as high', () => {
    const setup = camera({ eye: { a: -200, b: -300, h: 160 } });
    const projection = projectionFrom(setup);
    for (const foot of [
      { a: 0, b: 0, h: 0 },
      { a: 120, b: -40, h: 0 },
    ]) {
      // prettier-ignore
      expect(figureEyes(projection, foot, 100)!.y).toBeCloseTo(90, 9);
      const outline = standingFigure(projection, foot, 100)!;
      expect(Math.min(...outline.filter((_, i) => i % 2 === 1))).toBeLessThan(90);
    }
    expect(standingFigure(projection, { a: -200, b: -400, h: 0 }, 100)).toBeNull();
  });

  it('cuts at the near plane instead of dividing', () => {
    const projection = projectionFrom(camera({ turnDeg: 0, eye: { a: 0, b: 0, h: 50 } }));
    const floor = [{ a: -10, b: -100, h: 0 }, { a: 10, b: -100, h: 0 }, { a: 10, b: 100, h: 0 }, { a: -10, b: 100, h: 0 }]; // prettier-ignore
    const cut = clipNear(projection, floor);
    expect(cut).toHaveLength(4);
    for (const corner of cut) expect(wOf(projection, corner)).toBeGreaterThanOrEqual(projection.near);
    expect(clipNear(projection, floor.slice(0, 2))).toEqual([]);
    const pieces = clipLineNear(projection, [{ a: 0, b: 50, h: 0 }, { a: 0, b: -50, h: 0 }, { a: 5, b: -50, h: 0 }, { a: 5, b: 50, h: 0 }]); // prettier-ignore
    expect(pieces.map((piece) => piece.length)).toEqual([2, 2]);
  });
});
