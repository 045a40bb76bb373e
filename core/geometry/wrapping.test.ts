import { lengthWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { randomFrom, runs } from '../testing/random';
import { round } from '../testing/solids';
import type { ArtworkAnchor } from './anchor';
import { movedBody } from './moved-body';
import { carryPoint, rigidMap, type RigidMove } from './rigid';
import { isRuled, ruledCoordinates, type Ruled } from './ruled';
import { anchorOnRuled, artworkOnRuled, carriedOnRuled, roomOnRuled, ruledNear, worldOnRuled } from './wrapping';

const sideOf = (at: readonly [number, number, number], radius: number, top: number, height: number): Ruled => round(at, radius, top, height).body.surfaces.map(({ form }) => form).find((form): form is Ruled => form.kind === 'cylinder' || form.kind === 'cone')!; // prettier-ignore

/** Where own coordinates of an upright cylinder or a cone lie, by their measures. */
function byFormula([a, b, h]: readonly [number, number, number], radius: number, top: number, height: number, { u, v }: PlanePoint): WorldPoint {
  if (radius === top) return { a: a + radius * Math.cos(u / radius), b: b + radius * Math.sin(u / radius), h: h + v };
  const apex = (height * radius) / (radius - top);
  const slant = Math.hypot(radius, apex);
  const far = Math.hypot(u, v);
  const turn = (((Math.atan2(v, u) + 2 * Math.PI) % (2 * Math.PI)) * slant) / Math.abs(radius);
  const r = (radius * far) / slant;
  return { a: a + r * Math.cos(turn), b: b + r * Math.sin(turn), h: h + apex * (1 - far / slant) };
}

describe('a round side unrolled', () => {
  it('has each place where its measures say, there and back', () => {
    const random = randomFrom(60);
    for (let i = 0; i < runs(60); i++) {
      // In whole ticks, as drawings have it.
      const exact = (n: number): number => Math.round(n * 100) / 100;
      const at = [exact(random() * 9), exact(random() * 9), exact(random() * 4)] as const;
      const radius = exact(0.5 + random() * 5);
      const top = i % 2 === 0 ? radius : radius * (0.1 + 0.7 * random());
      const height = exact(0.5 + random() * 6);
      const ruled = sideOf(at, radius, top, height);
      for (let k = 0; k < 20; k++) {
        const [s, t] = [random() * ruled.directrix.length, random()];
        const own = ruledCoordinates(ruled, s, t);
        const there = worldOnRuled(ruled, own);
        expect(lengthWorld(subtractWorld(there, byFormula(at, radius, top, height, own)))).toBeLessThan(1e-9);
        const back = ruledNear(ruled, there);
        const again = ruledCoordinates(ruled, back.s, back.k);
        expect(Math.hypot(again.u - own.u, again.v - own.v)).toBeLessThan(1e-9);
      }
    }
  });

  it('keeps every length', () => {
    const step = 1e-5;
    for (const top of [2, 1]) {
      const ruled = sideOf([3, 4, 0], 2, top, 5);
      const { u, v } = ruledCoordinates(ruled, 1.3, 0.4);
      for (let k = 0; k < 8; k++) {
        const [x, y] = [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4)];
        const way = subtractWorld(worldOnRuled(ruled, { u: u + x * step, v: v + y * step }), worldOnRuled(ruled, { u: u - x * step, v: v - y * step }));
        expect(lengthWorld(way) / (2 * step)).toBeCloseTo(1, 8);
      }
    }
  });

  it('has room all round its middle and along its generators', () => {
    expect(roomOnRuled(sideOf([0, 0, 0], 2, 2, 5))).toEqual({ width: expect.closeTo(4 * Math.PI, 8) as number, height: 5 });
    expect(roomOnRuled(sideOf([0, 0, 0], 2, 1, 5)).width).toBeCloseTo(3 * Math.PI, 8);
    expect(roomOnRuled(sideOf([0, 0, 0], 2, 1, 5)).height).toBeCloseTo(Math.hypot(5, 1), 8);
  });
});

describe('artwork on a round side', () => {
  it.each([
    ['cylinder', 2],
    ['cone', 1],
    ['widening cone', 3],
  ] as const)('stands upright in its middle, read from outside, wherever it is put: %s', (_, top) => {
    // prettier-ignore
    const ruled = sideOf([3, 4, 0], 2, top, 5);
    const random = randomFrom(5);
    for (let i = 0; i < runs(30); i++) {
      const middle = { s: random() * 4, k: 0.3 + 0.4 * random() };
      const size = { width: 0.5 + random(), height: 0.4 + random() };
      const anchor = anchorOnRuled(ruled, middle, size);
      const { origin, right, down } = artworkOnRuled(anchor, ruled);
      const at = (x: number, y: number): WorldPoint => worldOnRuled(ruled, { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y });
      const centre = at(size.width / 2, size.height / 2);
      const wanted = worldOnRuled(ruled, ruledCoordinates(ruled, middle.s, middle.k));
      // Anchors are kept to whole ticks.
      expect(lengthWorld(subtractWorld(centre, wanted))).toBeLessThan(2e-4);
      const below = at(size.width / 2, size.height / 2 + 1e-4);
      expect(below.h).toBeLessThan(centre.h);
      const beside = subtractWorld(at(size.width / 2 + 1e-4, size.height / 2), centre);
      expect(Math.abs(beside.h)).toBeLessThan(1e-7);
      // Seen from outside, to the right is anticlockwise round the axis.
      expect((centre.a - 3) * beside.b - (centre.b - 4) * beside.a).toBeGreaterThan(0);
    }
  });

  it('is turned about its middle and mirrored across it', () => {
    const ruled = sideOf([0, 0, 0], 2, 2, 5);
    const anchor = anchorOnRuled(ruled, { s: 1, k: 0.5 }, { width: 2, height: 1 });
    const plain = artworkOnRuled(anchor, ruled);
    const turned = artworkOnRuled({ ...anchor, turn: 90 }, ruled);
    const middle = ({ origin, right, down }: typeof plain): PlanePoint => ({ u: origin.u + right.u + down.u / 2, v: origin.v + right.v + down.v / 2 });
    expect(middle(turned).u).toBeCloseTo(middle(plain).u, 10);
    expect(turned.right.v).toBeCloseTo(plain.down.v, 10);
    const mirrored = artworkOnRuled({ ...anchor, mirrored: true }, ruled);
    expect(mirrored.right.u).toBeCloseTo(-plain.right.u, 10);
    expect(middle(mirrored).u).toBeCloseTo(middle(plain).u, 10);
  });
});

describe('artwork on a round side that is carried along', () => {
  it('lies where the side has taken it, turned and mirrored with it', () => {
    const random = randomFrom(31);
    for (let i = 0; i < runs(20); i++) {
      const { body } = round([3, 4, 0], 2, i % 2 === 0 ? 2 : 1, 5);
      const before = body.surfaces.map(({ form }) => form).find(isRuled)!;
      const axes = (['b', '-a', 'h'] as const).map((axis, k) => (i % 3 === 0 ? axis : (['a', '-b', 'h'] as const)[k]!)) as unknown as RigidMove['axes'];
      const map = rigidMap({ ...(axes && { axes }), by: { a: 7, b: -2, h: 1 } });
      const after = movedBody(body, map)
        .surfaces.map(({ form }) => form)
        .find(isRuled)!;
      const size = { width: 1.5, height: 1 };
      const anchor = anchorOnRuled(before, { s: random() * 4, k: 0.5 }, size, i % 4 === 0 ? { turn: 30 } : {});
      const then = carriedOnRuled(anchor, before, after, map);
      const corner = (ruled: Ruled, of: ArtworkAnchor, x: number, y: number): WorldPoint => {
        const { origin, right, down } = artworkOnRuled(of, ruled);
        return worldOnRuled(ruled, { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y });
      };
      for (const [x, y] of [
        [0, 0],
        [1.5, 0],
        [1.5, 1],
        [0.4, 0.7],
      ] as const) {
        // prettier-ignore
        expect(lengthWorld(subtractWorld(corner(after, then, x, y), carryPoint(map, corner(before, anchor, x, y))))).toBeLessThan(3e-4);
      }
    }
  });
});
