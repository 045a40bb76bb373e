import { bodyOf } from '../geometry/book';
import { ruledPoint, type Ruled } from '../geometry/ruled';
import { directionsAcross, onSphere, type Sphere } from '../geometry/sphere';
import { addWorld, scaleWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { facing, inCells, projectionFrom, sheetFromWorld, type Projection } from '../projection/projection';
import { ellipseOutline } from '../shape/forms';
import { FAMILIES } from '../testing/solids';
import { solidOn } from '../solids/solids';
import type { Path } from '../shape/path';
import { spherePath } from './sphere-view';
import { ruledPath, seenStretches } from './stretches';

/** The edge of a cell in mm. */
const CELL = 8;
const DIRECTIONS = Array.from({ length: 72 }, (_, i): SheetPoint => ({ x: Math.cos((i * Math.PI) / 36), y: Math.sin((i * Math.PI) / 36) }));

/** The largest value of a function between two ends, or of one that comes round again, by samples and golden sections about the best of them. */
function largest(of: (t: number) => number, from: number, to: number, samples: number, round = true): number {
  const step = (to - from) / samples;
  let best = from;
  for (let i = 0; i <= samples; i++) if (of(from + i * step) > of(best)) best = from + i * step;
  let [low, high] = round ? [best - step, best + step] : [Math.max(from, best - step), Math.min(to, best + step)];
  const ratio = (Math.sqrt(5) - 1) / 2;
  for (let i = 0; i < 45; i++) {
    const [p, q] = [high - ratio * (high - low), low + ratio * (high - low)];
    if (of(p) < of(q)) low = p;
    else high = q;
  }
  return Math.max(of(low), of(best));
}

/** How far a drawn path reaches in each direction. */
function reachOf(path: Path): readonly number[] {
  return DIRECTIONS.map((d) => {
    let [most, i] = [-Infinity, 0];
    let from: SheetPoint = { x: 0, y: 0 };
    for (const verb of path.verbs) {
      const take = (): SheetPoint => ({ x: path.coords[i++]!, y: path.coords[i++]! });
      if (verb === 'Z') continue;
      const points = verb === 'C' ? [take(), take(), take()] : [take()];
      const to = points.at(-1)!;
      const along = (p: SheetPoint): number => p.x * d.x + p.y * d.y;
      most = Math.max(most, along(to));
      if (points.length === 3) {
        const [a, b, c, e] = [from, ...points].map(along) as [number, number, number, number];
        if (Math.max(b, c) > most) most = Math.max(most, largest((t) => a * (1 - t) ** 3 + 3 * b * t * (1 - t) ** 2 + 3 * c * t * t * (1 - t) + e * t ** 3, 0, 1, 8, false)); // prettier-ignore
      }
      from = to;
    }
    return most;
  });
}

const reach = (projection: Projection, p: WorldPoint, d: SheetPoint): number => {
  const at = sheetFromWorld(projection, p)!;
  return at.x * d.x + at.y * d.y;
};

function expectClose(drawn: readonly number[], true_: readonly number[]): void {
  drawn.forEach((value, i) => expect(Math.abs(value - true_[i]!) / CELL).toBeLessThan(1e-6));
}

describe.each(FAMILIES)('round things as they are drawn: %s', (_, setup) => {
  const projection = inCells(projectionFrom(setup), CELL);
  // Before every eye of these families.
  const [u, v] = [16, 18];

  it.each([
    ['cylinders', undefined],
    ['narrowing cones', 0.3],
    ['pointed cones', 0],
    ['widening cones', 1.6],
  ])('%s have their true outline, to a millionth of a cell', (_name, taper) => {
    const node = { kind: 'shape', id: 'd', plane: { kind: 'floor', offset: 1 }, outline: ellipseOutline({ u, v }, { u: 3, v: 2 }), depth: 5, ...(taper !== undefined && { taper }) } as const; // prettier-ignore
    const side = bodyOf(node)!.surfaces.find(({ form }) => form.kind !== 'flat')!.form as Ruled;
    const n = side.directrix.length;
    const stretches = seenStretches(projection, side);
    expect(stretches.length).toBeGreaterThan(0);
    // Together with both ends, what is seen of the side is the whole outline.
    const paths = [...stretches, { from: 0, to: side.directrix.length }].map((stretch) => ruledPath(projection, side, stretch)!);
    const drawn = paths.map(reachOf).reduce((p, q) => p.map((n, i) => Math.max(n, q[i]!)));
    const true_ = DIRECTIONS.map((d) => Math.max(...[0, 1].map((k) => largest((s) => reach(projection, ruledPoint(side, (s + n) % n, k), d), 0, n, 40)))); // prettier-ignore
    expectClose(drawn, true_);
    // The straight edges are where the side turns away: just beside them it faces the eye on one side and not on the other.
    for (const { from, to } of stretches) {
      if (to - from >= n) continue;
      for (const [end, inwards] of [
        [from, 1],
        [to, -1],
      ] as const) {
        const turn = (s: number): number => facing(projection, normalAt(side, ((s % n) + n) % n), ruledPoint(side, ((s % n) + n) % n, 0.5));
        expect(turn(end + inwards * 1e-6)).toBeGreaterThan(0);
        expect(turn(end - inwards * 1e-6)).toBeLessThan(0);
      }
    }
  });

  it('balls have their true outline, to a millionth of a cell', () => {
    const made = solidOn('ball', { plane: { kind: 'floor', offset: 1 }, from: { u: u - 2, v: v - 2 }, to: { u: u + 2, v: v + 2 }, height: 4, turn: 0 }, {});
    if (!made.ok) throw new Error(made.reason);
    const sphere = bodyOf({ kind: 'shape', id: 's', ...made.value })!.surfaces[0]!.form as Sphere;
    const [x, y] = directionsAcross(sphere.axis);
    const at = (down: number, turn: number): WorldPoint =>
      onSphere(sphere, addWorld(scaleWorld(sphere.axis, Math.cos(down)), addWorld(scaleWorld(x, Math.sin(down) * Math.cos(turn)), scaleWorld(y, Math.sin(down) * Math.sin(turn))))); // prettier-ignore
    const true_ = DIRECTIONS.map((d) => largest((down) => largest((turn) => reach(projection, at(down, turn), d), 0, 2 * Math.PI, 8), 0, Math.PI, 8));
    expectClose(reachOf(spherePath(projection, sphere)!), true_);
  });
});

function normalAt(side: Ruled, s: number): WorldPoint {
  const [p, q, r] = [ruledPoint(side, s - 1e-7 < 0 ? s : s - 1e-7, 0), ruledPoint(side, s + 1e-7, 0), ruledPoint(side, s, 1)];
  const [t, g] = [
    { a: q.a - p.a, b: q.b - p.b, h: q.h - p.h },
    { a: r.a - p.a, b: r.b - p.b, h: r.h - p.h },
  ];
  return { a: (t.b * g.h - t.h * g.b) * side.sense, b: (t.h * g.a - t.a * g.h) * side.sense, h: (t.a * g.b - t.b * g.a) * side.sense };
}
