import { applyAffine } from '../math/matrix';
import { containsPoint, signedArea } from '../math/polygon';
import { addWorld, dotWorld, scaleWorld, subtractWorld } from '../math/points';
import { ellipseOutline, polygonOutline } from '../shape/forms';
import { rectangleOutline, type Outline } from '../shape/outline';
import { randomFrom } from '../testing/random';
import { artworkOnSurface } from './anchor';
import type { Body } from './body';
import { depthBody, type Extruded } from './depth-recipe';
import { isRuled, ruledCoordinates } from './ruled';
import { anchorOfNetFace, unfolded, type Net } from './unfold';
import { artworkOnRuled } from './wrapping';

const FLOOR = { kind: 'floor', offset: 0 } as const;
const made = (outline: Outline, depth: number, more: Partial<Extruded> = {}): Body => depthBody({ plane: FLOOR, outline, depth, ...more })!;
const rounded: Outline = { closed: true, points: rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 4 }).points.map((p) => ({ ...p, corner: { kind: 'round', size: 1 } })) }; // prettier-ignore
const L: Outline = { closed: true, points: [[0, 0], [6, 0], [6, 2], [2, 2], [2, 5], [0, 5]].map(([u, v], i) => ({ id: i + 1, u: u!, v: v! })) }; // prettier-ignore

const BODIES: readonly (readonly [string, Body])[] = [
  ['a crate', made(rectangleOutline({ u: 1, v: 2 }, { u: 5, v: 5 }), 2)],
  ['a prism of five sides', made(polygonOutline({ u: 5, v: 5 }, { u: 8, v: 6 }, 5), 3)],
  ['an angle', made(L, 2)],
  ['a pyramid', made(rectangleOutline({ u: 1, v: 2 }, { u: 5, v: 5 }), 4, { taper: 0 })],
  ['a bollard', made(ellipseOutline({ u: 4, v: 4 }, { u: 1.5, v: 1.5 }), 4)],
  ['a cone', made(ellipseOutline({ u: 4, v: 4 }, { u: 2, v: 2 }), 5, { taper: 0.4 })],
  ['a rounded crate', made(rounded, 3)],
];

/** Places within a face of a net. */
function placesIn(rings: readonly (readonly number[])[], count: number): readonly (readonly [number, number])[] {
  const random = randomFrom(3);
  const [xs, ys] = [0, 1].map((k) => rings[0]!.filter((_, i) => i % 2 === k));
  const places: (readonly [number, number])[] = [];
  for (let i = 0; i < 4000 && places.length < count; i++) {
    const x = Math.min(...xs!) + random() * (Math.max(...xs!) - Math.min(...xs!));
    const y = Math.min(...ys!) + random() * (Math.max(...ys!) - Math.min(...ys!));
    if (containsPoint(rings[0]!, x, y)) places.push([x, y]);
  }
  return places;
}

const holders = (net: Net, x: number, y: number): number => net.faces.filter(({ rings }) => containsPoint(rings[0]!, x, y)).length;

describe('a body laid out flat', () => {
  it.each(BODIES)('has every surface once, none over another, within its own size: %s', (_, body) => {
    for (const tabs of [false, true]) {
      const net = unfolded(body, { tabs });
      expect(net.faces).toHaveLength(body.surfaces.length);
      for (const { rings } of net.faces) {
        for (const [x, y] of placesIn(rings, 30)) expect(holders(net, x, y)).toBe(1);
        rings[0]!.forEach((value, i) => expect(value >= 0 && value <= (i % 2 === 0 ? net.width : net.height)).toBe(true));
      }
      for (const tab of net.tabs) {
        const [x, y] = [0, 1].map((k) => tab.filter((_, i) => i % 2 === k).reduce((a, b) => a + b, 0) / 4) as [number, number];
        expect(holders(net, x, y)).toBe(0);
      }
    }
  });

  it('folds a crate along five edges, and glues the other seven', () => {
    const net = unfolded(BODIES[0]![1], { tabs: true });
    expect(net.tabs).toHaveLength(7);
    expect(net.folds).toHaveLength(5 + 7);
    const area = net.faces.reduce((sum, { rings }) => sum + Math.abs(signedArea(rings[0]!)), 0);
    expect(area).toBeCloseTo(2 * (4 * 3 + 4 * 2 + 3 * 2), 9);
    expect(unfolded(BODIES[0]![1]).folds).toHaveLength(5);
  });

  it('unrolls round sides to their true lengths', () => {
    const net = unfolded(BODIES[4]![1]);
    const side = net.faces.find(({ surface }) => isRuled(surface.form))!;
    expect(Math.abs(signedArea(side.rings[0]!))).toBeCloseTo(2 * Math.PI * 1.5 * 4, 3);
    const cone = unfolded(BODIES[5]![1]).faces.find(({ surface }) => isRuled(surface.form))!;
    // A frustum: pi (R + r) times its slant.
    expect(Math.abs(signedArea(cone.rings[0]!)) / (Math.PI * (2 + 0.8) * Math.hypot(5, 1.2))).toBeCloseTo(1, 3);
  });

  it.each(BODIES)('has each surface wear its part, to the last place: %s', (_, body) => {
    const net = unfolded(body);
    for (const face of net.faces) {
      const placed = anchorOfNetFace(face)!;
      const { form } = face.surface;
      for (const [x, y] of placesIn(face.rings, 20)) {
        const [px, py] = [x - placed.box.minX, y - placed.box.minY];
        if (form.kind === 'flat') {
          const frame = artworkOnSurface(placed.anchor, face.surface)!;
          const world = addWorld(frame.origin, addWorld(scaleWorld(frame.u, px), scaleWorld(frame.v, py)));
          // In the net it lies where its own flat coordinates are laid.
          const from = { a: face.surface.loops[0]![0]!, b: face.surface.loops[0]![1]!, h: face.surface.loops[0]![2]! };
          const first = applyAffine(face.map, 0, 0);
          expect(Math.hypot(first.x - face.rings[0]![0]!, first.y - face.rings[0]![1]!)).toBeLessThan(1e-9);
          const off = subtractWorld(world, from);
          expect(Math.abs(dotWorld(off, form.frame.normal))).toBeLessThan(1e-4);
          expect(Math.sqrt(dotWorld(off, off))).toBeCloseTo(Math.hypot(x - first.x, y - first.y), 3);
        } else if (isRuled(form)) {
          const { origin, right, down } = artworkOnRuled(placed.anchor, form);
          const own = { u: origin.u + right.u * px + down.u * py, v: origin.v + right.v * px + down.v * py };
          const flip = [-1, 1].map((k) => applyAffine(face.map, own.u, own.v * k));
          expect(Math.min(...flip.map((p) => Math.hypot(p.x - x, p.y - y)))).toBeLessThan(1e-3);
        }
      }
    }
  });

  it.each(BODIES)('goes on over every fold: %s', (_, body) => {
    const net = unfolded(body);
    for (const [x0, y0, x1, y1] of net.folds) {
      // Just beside the fold, on both sides, lie two places of the body that are as near to each other.
      const [mx, my] = [(x0! + x1!) / 2, (y0! + y1!) / 2];
      const long = Math.hypot(x1! - x0!, y1! - y0!);
      const [nx, ny] = [(-(y1! - y0!) / long) * 1e-3, ((x1! - x0!) / long) * 1e-3];
      const worlds = [1, -1].map((k) => {
        const [x, y] = [mx + nx * k, my + ny * k];
        const face = net.faces.find(({ rings }) => containsPoint(rings[0]!, x, y))!;
        const { anchor, box } = anchorOfNetFace(face)!;
        if (face.surface.form.kind !== 'flat') return null;
        const frame = artworkOnSurface(anchor, face.surface)!;
        return addWorld(frame.origin, addWorld(scaleWorld(frame.u, x - box.minX), scaleWorld(frame.v, y - box.minY)));
      });
      if (!worlds[0] || !worlds[1]) continue;
      const off = subtractWorld(worlds[0], worlds[1]);
      expect(Math.sqrt(dotWorld(off, off))).toBeLessThan(2.1e-3);
    }
  });
});

describe('lengths on the sides', () => {
  it('are those of the net', () => {
    const net = unfolded(BODIES[4]![1]);
    const { surface, map } = net.faces.find(({ surface: { form } }) => isRuled(form))!;
    if (!isRuled(surface.form)) throw new Error('no side');
    const [p, q] = [ruledCoordinates(surface.form, 0.3, 0.2), ruledCoordinates(surface.form, 1.1, 0.9)];
    const [a, b] = [applyAffine(map, p.u, -p.v), applyAffine(map, q.u, -q.v)];
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeCloseTo(Math.hypot(p.u - q.u, p.v - q.v), 9);
  });
});
