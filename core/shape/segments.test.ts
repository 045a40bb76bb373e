import fc from 'fast-check';
import { drawnCircle } from '../math/conics';
import { apply33, type Mat33 } from '../math/matrix';
import { frameFamily } from '../projection/framing';
import { sheetFromPlane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { FAMILIES } from '../projection/families';
import { CURVE_ERROR, drawSegments } from './draw-segments';
import { arcOutline, circleThrough, ellipseOf4, ellipseOutline, polygonOutline, smoothOutline } from './forms';
import { moveOutline, outlineThrough, rectangleOutline, type Outline } from './outline';
import { boundsArea, chordsOf, flattenOutline, outlineSegments, pointAt, type ConicSegment } from './segments';

const SUBJECT = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 60, h: 50 } };
const ROOM = { middle: { x: 150, y: 100 }, width: 160, height: 110 };

/** Every family's homography of a plane with cells of 8 mm. */
const maps = FAMILIES.flatMap(({ key }) =>
  (['floor', 'left', 'right'] as const).map((kind): readonly [string, Mat33] => [
    `${key}, ${kind}`,
    sheetFromPlane(projectionFrom(frameFamily(key, SUBJECT, ROOM)), { kind, offset: 0 }, 8),
  ]),
);

/** Points of a path's cubics, densely. */
function sampled(path: { verbs: string; coords: readonly number[] }): [number, number][] {
  const points: [number, number][] = [];
  let [x, y] = [path.coords[0]!, path.coords[1]!];
  let at = 2;
  for (const verb of path.verbs.slice(1)) {
    if (verb === 'C') {
      const c = path.coords.slice(at, at + 6) as [number, number, number, number, number, number];
      for (let i = 1; i <= 40; i++) {
        const [t, s] = [i / 40, 1 - i / 40];
        const [k0, k1, k2, k3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
        points.push([k0 * x + k1 * c[0] + k2 * c[2] + k3 * c[4], k0 * y + k1 * c[1] + k2 * c[3] + k3 * c[5]]);
      }
      [x, y] = [c[4], c[5]];
      at += 6;
    } else if (verb === 'L') {
      [x, y] = [path.coords[at]!, path.coords[at + 1]!];
      points.push([x, y]);
      at += 2;
    }
  }
  return points;
}

describe('circles and ellipses', () => {
  it.each(maps)('are the true conic: %s', (_, map) => {
    const circle = ellipseOutline({ u: 4, v: 3 }, { u: 2.5, v: 2.5 });
    // The conic of the circle, from another formula altogether.
    const ellipse = drawnCircle(map, 4, 3, 2.5)!;
    const off = (x: number, y: number): number => {
      const [dx, dy] = [x - ellipse.centre.x, y - ellipse.centre.y];
      const along = dx * Math.cos(ellipse.turnRad) + dy * Math.sin(ellipse.turnRad);
      const across = -dx * Math.sin(ellipse.turnRad) + dy * Math.cos(ellipse.turnRad);
      const level = Math.hypot(along / ellipse.major, across / ellipse.minor);
      return Math.abs(level - 1);
    };
    for (const segment of outlineSegments(circle)) {
      for (let i = 0; i <= 90; i++) {
        const p = pointAt(segment, i / 90);
        expect(Math.hypot(p.u - 4, p.v - 3)).toBeCloseTo(2.5, 9);
        const drawn = apply33(map, p.u, p.v)!;
        expect(off(drawn.x, drawn.y)).toBeLessThan(1e-9);
      }
    }
    const path = drawSegments(outlineSegments(circle), true, map, 0)!;
    for (const [x, y] of sampled(path)) expect(off(x, y) * ellipse.minor).toBeLessThan(CURVE_ERROR * 1.2);
    // As few cubics as keep to it: at this size eight or sixteen, in hardly any view more.
    expect(path.verbs.split('C').length - 1).toBeLessThanOrEqual(16);
  });

  it('keep their measures exactly, wherever they are moved', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -900, max: 900 }),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: -99, max: 99 }),
        (u, ru, rv, by) => {
          const ellipse = ellipseOutline({ u: u / 10, v: 0.5 }, { u: ru / 10, v: rv / 6 });
          const there = moveOutline(moveOutline(ellipse, by / 7, -by / 3), -by / 7, by / 3);
          expect(there).toEqual(ellipse);
          expect(ellipseOf4(ellipse)!.radii.u).toBeCloseTo(ru / 10, 4);
        },
      ),
      { seed: 17, numRuns: 200 },
    );
    expect(ellipseOf4(ellipseOutline({ u: 1, v: 2 }, { u: 3, v: 4 }))).toEqual({ centre: { u: 1, v: 2 }, radii: { u: 3, v: 4 } });
    expect(ellipseOf4(rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }))).toBeNull();
    expect(boundsArea(ellipseOutline({ u: 0, v: 0 }, { u: 2, v: 1 }))).toBe(true);
    expect(boundsArea(ellipseOutline({ u: 0, v: 0 }, { u: 2, v: 0 }))).toBe(false);
    // Lobes that wind against each other, of one size, side by side and one over the other.
    const through = (...places: readonly (readonly [number, number])[]): Outline => ({
      points: places.map(([u, v], i) => ({ id: i + 1, u, v })),
      closed: true,
    });
    expect(boundsArea(through([0, 0], [4, 3], [4, 0], [0, 3]))).toBe(true);
    expect(boundsArea(through([0, 0], [3, 0], [0, 4], [3, 4]))).toBe(true);
    // There and back over the same way.
    expect(boundsArea(through([0, 0], [4, 3], [6, 0], [4, 3]))).toBe(false);
  });

  it('go through three points', () => {
    expect(circleThrough({ u: 0, v: 0 }, { u: 4, v: 0 }, { u: 0, v: 3 })).toEqual({ centre: { u: 2, v: 1.5 }, radius: 2.5 });
    expect(circleThrough({ u: 0, v: 0 }, { u: 1, v: 1 }, { u: 2, v: 2 })).toBeNull();
  });
});

describe('arcs, polygons and smooth curves', () => {
  it('are arcs of their circle, in pieces of at most a quarter', () => {
    const arc = arcOutline({ u: 5, v: 0 }, { u: 0, v: 5 }, { u: 0, v: -5 })!;
    expect(arc.points).toHaveLength(4);
    for (const segment of outlineSegments(arc)) for (let i = 0; i <= 20; i++) expect(Math.hypot(pointAt(segment, i / 20).u, pointAt(segment, i / 20).v)).toBeCloseTo(5, 3); // prettier-ignore
    const back = arcOutline({ u: 5, v: 0 }, { u: 0, v: -5 }, { u: -5, v: 0 })!;
    expect(pointAt(outlineSegments(back)[0]!, 0.5).v).toBeLessThan(0);
    expect(arcOutline({ u: 0, v: 0 }, { u: 1, v: 0 }, { u: 2, v: 0 })).toBeNull();
  });

  it('are regular, with one corner where it was put', () => {
    const six = polygonOutline({ u: 1, v: 1 }, { u: 5, v: 1 }, 6);
    expect(six.points[0]).toEqual({ id: 1, u: 5, v: 1 });
    for (const p of six.points) expect(Math.hypot(p.u - 1, p.v - 1)).toBeCloseTo(4, 4);
  });

  it('pass through their points with one tangent on both sides', () => {
    const smooth = smoothOutline([{ u: 0, v: 0 }, { u: 4, v: 2 }, { u: 6, v: -1 }, { u: 9, v: 0 }], false); // prettier-ignore
    const [, p] = smooth.points;
    const cross = (p!.out!.u - p!.u) * (p!.v - p!.into!.v) - (p!.out!.v - p!.v) * (p!.u - p!.into!.u);
    expect(Math.abs(cross)).toBeLessThan(1e-3);
    expect(smooth.points[0]!.into).toBeUndefined();
    expect(outlineSegments(smooth).map((s) => s.kind)).toEqual(['cubic', 'cubic', 'cubic']);
    const closed = smoothOutline([{ u: 0, v: 0 }, { u: 4, v: 0 }, { u: 4, v: 4 }], true); // prettier-ignore
    expect(closed.points.every((q) => q.into && q.out)).toBe(true);
    expect(
      smoothOutline(
        [
          { u: 0, v: 0 },
          { u: 4, v: 0 },
        ],
        false,
      ).points[0],
    ).toEqual({ id: 1, u: 0, v: 0 });
    const path = drawSegments(outlineSegments(closed), true, [8, 0, 0, 0, 8, 0, 0, 0, 1], 0)!;
    expect(path.verbs).toBe('MCCCZ');
  });
});

describe('rounded and bevelled corners', () => {
  const rounded = (size: number, kind: 'round' | 'bevel' = 'round'): Outline => {
    const outline = outlineThrough([{ u: 0, v: 0 }, { u: 10, v: 0 }, { u: 14, v: 6 }, { u: 0, v: 6 }], true); // prettier-ignore
    return { ...outline, points: outline.points.map((p, i) => (i < 3 ? { ...p, corner: { kind, size } } : p)) };
  };

  it('touch both edges with the asked radius, as arcs of the plane', () => {
    const segments = outlineSegments(rounded(1.5));
    const arcs = segments.filter((s): s is ConicSegment => s.kind === 'conic');
    expect(arcs.map((s) => s.id)).toEqual([2, 3, 1]);
    for (const arc of arcs) {
      const circle = circleThrough(pointAt(arc, 0), pointAt(arc, 0.37), pointAt(arc, 1))!;
      expect(circle.radius).toBeCloseTo(1.5, 9);
      for (let i = 0; i <= 20; i++) {
        const p = pointAt(arc, i / 20);
        expect(Math.hypot(p.u - circle.centre.u, p.v - circle.centre.v)).toBeCloseTo(1.5, 9);
      }
      // Tangent: the radius to each end stands square to the edge there.
      for (const end of [arc.from, arc.to]) {
        const dot = (end.u - circle.centre.u) * (arc.via.u - end.u) + (end.v - circle.centre.v) * (arc.via.v - end.v);
        expect(Math.abs(dot)).toBeLessThan(1e-9);
      }
    }
    // The pieces join.
    segments.forEach((s, i) => expect(segments[(i + 1) % segments.length]!.from).toEqual(s.to));
  });

  it('are made as large as fits, and bevels cut straight', () => {
    const most = outlineSegments(rounded(1000)).filter((s) => s.kind === 'conic');
    expect(most).toHaveLength(3);
    const bevels = outlineSegments(rounded(1, 'bevel')).filter((s) => s.kind === 'line');
    expect(bevels).toHaveLength(7);
    const square = rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 });
    const full = { ...square, points: square.points.map((p) => ({ ...p, corner: { kind: 'round', size: 2 } as const })) };
    // Rounded all the way, a square is a circle.
    for (const p of flattenOutline(full, 0.001)) expect(Math.hypot(p.u - 2, p.v - 2)).toBeCloseTo(2, 2);
    expect(outlineSegments(full).every((s) => s.kind === 'conic')).toBe(true);
  });

  it('are flattened no farther off than asked', () => {
    const [quarter] = outlineSegments(ellipseOutline({ u: 0, v: 0 }, { u: 100, v: 100 }));
    let from = quarter!.from;
    for (const to of chordsOf(quarter!, 0.01)) {
      expect(100 - Math.hypot((from.u + to.u) / 2, (from.v + to.v) / 2)).toBeLessThan(0.0101);
      from = to;
    }
    expect(drawSegments([], true, [1, 0, 0, 0, 1, 0, 0, 0, 1], 0)).toBeNull();
    expect(drawSegments(outlineSegments(rounded(1)), true, [1, 0, 0, 0, 1, 0, 0.2, 0, -1], 0.001)).toBeNull();
  });
});
