import fc from 'fast-check';
import { crossWorld, dotWorld, subtractWorld, type PlanePoint } from '../math/points';
import { ellipseOutline } from '../shape/forms';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import type { Plane } from '../projection/planes';
import { surfaceNamed, worldPoints, type Body } from './body';
import { GeometryBook } from './book';
import { depthBody } from './depth-recipe';
import { isSurfaceName, stepsOf, surfaceName } from './names';
import { surfaceReadingFrame } from './reading';
import { ruledCoordinates, ruledPlace, ruledPoint, ruledUnitNormal, type Ruled } from './ruled';
import { axisOf, faceWord, surfaceWord } from './words';

const plane = (kind: 'floor' | 'left' | 'right', offset = 0): Plane => ({ kind, offset });
const lShape = outlineThrough(
  [[0, 0], [4, 0], [4, 3], [2, 3], [2, 6], [0, 6]].map(([u, v]) => ({ u: u!, v: v! })), // prettier-ignore
  true,
);

/** Volume by the divergence theorem, facet by facet. */
function volume({ surfaces }: Body): number {
  let six = 0;
  for (const { corners } of surfaces.flatMap(({ facets }) => facets)) {
    const points = worldPoints(corners);
    for (let i = 1; i + 1 < points.length; i++) six += dotWorld(points[0]!, crossWorld(points[i]!, points[i + 1]!));
  }
  return six / 6;
}

const roundOf = (body: Body): Ruled => body.surfaces.find(({ form }) => form.kind !== 'flat')!.form as Ruled;

describe('depth', () => {
  it('makes two ends and a side for each edge, named after its first point', () => {
    const body = depthBody({ plane: plane('floor'), outline: lShape, depth: 3 })!;
    expect(body.surfaces.map(({ name }) => name)).toEqual(['base', 'end', 'side:1', 'side:2', 'side:3', 'side:4', 'side:5', 'side:6']);
    expect(worldPoints(body.surfaces[1]!.loops[0]!).every(({ h }) => h === 3)).toBe(true);
    expect([body.closed, body.convex, body.bounds]).toEqual([true, false, { min: { a: 0, b: 0, h: 0 }, max: { a: 4, b: 6, h: 3 } }]);
    expect(depthBody({ plane: plane('floor'), outline: rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), depth: 3 })!.convex).toBe(true);
  });

  it('encloses its outline times its depth, all surfaces turned outwards', () => {
    fc.assert(
      fc.property(fc.constantFrom('floor', 'left', 'right'), fc.integer({ min: -9, max: 9 }), fc.integer({ min: -5, max: 5 }), (kind, depth, offset) => {
        fc.pre(depth !== 0);
        for (const outline of [lShape, { ...lShape, points: [...lShape.points].reverse() }]) {
          const body = depthBody({ plane: plane(kind, offset), outline, depth })!;
          expect(volume(body)).toBeCloseTo(18 * Math.abs(depth), 6);
          for (const { corners, normal } of body.surfaces.flatMap(({ facets }) => facets)) {
            const [p, q, r] = worldPoints(corners);
            expect(dotWorld(crossWorld(subtractWorld(q!, p!), subtractWorld(r!, q!)), normal)).toBeGreaterThan(0);
          }
        }
      }),
      { seed: 4, numRuns: 200 },
    );
  });

  it('comes towards the viewer when positive', () => {
    const box = depthBody({ plane: plane('left', 1), outline: rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), depth: 4 });
    expect(worldPoints(surfaceNamed(box, 'end')!.loops[0]!)[0]!.a).toBe(-3);
  });

  it('makes a wire of what bounds no area, one surface of no depth, nothing on the sheet', () => {
    const line = outlineThrough([{ u: 0, v: 0 }, { u: 5, v: 0 }, { u: 9, v: 0 }], true); // prettier-ignore
    const wire = depthBody({ plane: plane('floor'), outline: line, depth: 3 })!;
    expect([wire.surfaces.length, wire.wires.length]).toEqual([0, 1]);
    const flat = depthBody({ plane: plane('floor'), outline: lShape, depth: 0 })!;
    expect(flat.surfaces.map(({ name, bothSides }) => [name, bothSides])).toEqual([['end', true]]);
    expect(depthBody({ plane: { kind: 'sheet', offset: 0 }, outline: lShape, depth: 2 })).toBeNull();
  });
});

describe('round sides', () => {
  const cylinder = depthBody({ plane: plane('floor'), outline: ellipseOutline({ u: 1, v: 2 }, { u: 3, v: 3 }), depth: 5 })!;

  it('are one surface with one name, that of its first edge, and found by those of the others', () => {
    expect(cylinder.surfaces.map(({ name }) => name)).toEqual(['base', 'end', 'side:1']);
    expect(surfaceNamed(cylinder, 'side:3')).toBe(surfaceNamed(cylinder, 'side:1'));
    expect(surfaceNamed(cylinder, 'side:5')).toBeNull();
    expect(surfaceWord(surfaceNamed(cylinder, 'side:1')!)).toBe('round side');
    expect(volume(cylinder)).toBeCloseTo(Math.PI * 9 * 5, 0);
  });

  it('end where the boundary has a corner, and roundings stay by themselves', () => {
    const half = { closed: true, points: ellipseOutline({ u: 0, v: 0 }, { u: 2, v: 2 }).points.slice(0, 3).map((p, i) => (i === 2 ? { id: 3, u: p.u, v: p.v } : p)) }; // prettier-ignore
    expect(depthBody({ plane: plane('floor'), outline: half, depth: 1 })!.surfaces.map(({ name, also }) => [name, ...also])).toEqual([
      ['base'],
      ['end'],
      ['side:1', 'side:2'],
      ['side:3'],
    ]);
    const box = rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 });
    const rounded = { ...box, points: box.points.map((p) => (p.id === 2 ? { ...p, corner: { kind: 'round' as const, size: 1 } } : p)) };
    expect(depthBody({ plane: plane('floor'), outline: rounded, depth: 1 })!.surfaces.map(({ name }) => name)).toEqual(expect.arrayContaining(['side:1', 'round:2', 'side:2'])); // prettier-ignore
  });

  it('have normals that point out, and coordinates that are true lengths', () => {
    const round = roundOf(cylinder);
    for (let s = 0.05; s < 4; s += 0.37) {
      const [at, normal] = [ruledPoint(round, s, 0.3), ruledUnitNormal(round, s)!];
      expect(normal.a * (at.a - 1) + normal.b * (at.b - 2)).toBeCloseTo(3, 9);
      const uv = ruledCoordinates(round, s, 0.3);
      const back = ruledPlace(round, uv)!;
      expect([back.s, back.k]).toEqual([expect.closeTo(s, 8), expect.closeTo(0.3, 9)]);
    }
    // Half way round is half the circumference; up is up.
    expect(ruledCoordinates(round, 2, 0).u).toBeCloseTo(Math.PI * 3, 8);
    expect(ruledCoordinates(round, 4, 1)).toEqual({ u: expect.closeTo(Math.PI * 6, 8), v: expect.closeTo(5, 9) });
  });

  it('of cones unroll into sectors about the apex', () => {
    const { directrix, rims } = roundOf(cylinder);
    // The upper rim drawn together to a third: the apex lies 7.5 above the floor.
    const { u, v, normal } = rims[0];
    const shrink = (p: { a: number; b: number; h: number }): typeof p => ({ a: p.a / 3, b: p.b / 3, h: p.h / 3 });
    const cone: Ruled = { kind: 'cone', directrix, closed: true, sense: 1, rims: [rims[0], { origin: { a: (2 / 3) * 1, b: (2 / 3) * 2, h: 5 }, u: shrink(u), v: shrink(v), normal }] }; // prettier-ignore
    const slant = Math.hypot(3, 7.5);
    const [p, q] = [ruledCoordinates(cone, 0, 0), ruledCoordinates(cone, 1, 0)];
    expect(Math.hypot(p.u, p.v)).toBeCloseTo(slant, 9);
    expect(Math.atan2(q.v, q.u)).toBeCloseTo(((Math.PI / 2) * 3) / slant, 8);
    const place = ruledPlace(cone, ruledCoordinates(cone, 1.3, 0.4))!;
    expect([place.s, place.k]).toEqual([expect.closeTo(1.3, 8), expect.closeTo(0.4, 9)]);
  });
});

describe('names', () => {
  it('are paths of steps, written and read', () => {
    const name = surfaceName({ word: 'cut', key: 'a/b: c' }, { word: 'side', key: 2 });
    expect(isSurfaceName(name)).toBe(true);
    expect(stepsOf(name)).toEqual([{ word: 'cut', key: 'a/b: c' }, { word: 'side', key: '2' }]); // prettier-ignore
    for (const good of ['end', 'side:3', 'cut:hatch/side:2', 'letter:4/front']) expect(isSurfaceName(good)).toBe(true);
    for (const bad of ['', 'End', 'side:', 'a//b', 'a b', '../x', 'x'.repeat(500), 'a/a/a/a/a/a/a/a/a']) expect(isSurfaceName(bad)).toBe(false);
  });
});

describe('surfaces', () => {
  it('have words by direction', () => {
    const word = (a: number, b: number, h: number): string => faceWord({ a, b, h });
    expect([word(0, 0, 1), word(-1, 0, 0), word(0, -1, 0), word(0, 0, -1)]).toEqual(['top', 'left side', 'right side', 'underside']);
    expect([word(1, 0, 0), word(0, 1, 0), word(0.6, 0, 0.8), word(0.6, 0.8, 0)]).toEqual(['far right side', 'far left side', 'slope', 'slanting side']);
    expect(axisOf({ a: 0, b: -1, h: 0 })).toEqual({ axis: 'b', sense: -1 });
  });

  it('are read upright: left sides towards b backwards, right sides along a, tops along a', () => {
    const frameOn = (on: Plane, from: PlanePoint, to: PlanePoint): ReturnType<typeof surfaceReadingFrame> =>
      surfaceReadingFrame(depthBody({ plane: on, outline: rectangleOutline(from, to), depth: 0 })!.surfaces[0]!);
    const side = frameOn(plane('left'), { u: 2, v: 1 }, { u: 8, v: 4 })!;
    expect([side.u.b, side.v.h, side.origin.b, side.origin.h]).toEqual([-1, -1, 8, 4].map((n) => expect.closeTo(n, 12)));
    expect([side.width, side.height]).toEqual([6, 3]);
    const top = frameOn(plane('floor', 2), { u: 0, v: 0 }, { u: 3, v: 2 })!;
    expect([top.u, top.origin]).toEqual([{ a: 1, b: 0, h: 0 }, { a: 0, b: 2, h: 2 }]); // prettier-ignore
  });
});

describe('the book', () => {
  interface Slow {
    readonly kind: 'slow';
    readonly id: string;
    readonly body: Promise<Body>;
  }
  const body = depthBody({ plane: plane('floor'), outline: lShape, depth: 1 })!;

  it('shows the last good body until the next is made, and says so', async () => {
    const book = new GeometryBook<Slow>({ slow: (node) => ({ body: node.body, meanwhile: () => null }) });
    let told = 0;
    book.listen(() => told++);
    const first: Slow = { kind: 'slow', id: 'x', body: Promise.resolve(body) };
    expect(book.of(first)).toEqual({ state: 'pending', body: null });
    await first.body;
    await Promise.resolve();
    expect(book.of(first)).toEqual({ state: 'ready', body });
    const failing: Slow = { kind: 'slow', id: 'x', body: Promise.reject(new Error('the kernel is gone')) };
    expect(book.of(failing)).toEqual({ state: 'pending', body });
    await failing.body.catch(() => undefined);
    await Promise.resolve();
    // What it was before would pass for what it is.
    expect([book.of(failing), told]).toEqual([{ state: 'failed', body: null, reason: 'the kernel is gone' }, 2]);
  });
});
