import type { Body } from '../geometry/body';
import { depthBody } from '../geometry/depth-recipe';
import { exactCells } from '../math/exact';
import { invert33 } from '../math/matrix';
import type { PlanePoint, WorldPoint } from '../math/points';
import { MAX_CELLS } from '../math/tolerances';
import { planeFrame, sheetFromFrame, type Plane } from '../projection/planes';
import { facing } from '../projection/projection';
import { outlineThrough, type PlaneBox } from '../shape/outline';
import type { LitBody } from '../shadow/shade';
import type { Stage } from './stage';

/** Corners of the floor that lie farther away than this many times the nearest are not looked at: the horizon is there. */
const FARTHEST = 1e4;
/** Mm by which the floor goes on beyond the sheet, so that the last px of its edge are on it. */
const BEYOND = 0.02;
/** Cells that the box of shadows is made of: it stays the same while things move a little. */
const STEP = 16;

/**
 * The box on a floor in which shadows can fall: that of the corners of everything above it, carried along the light.
 * Null where nothing throws one; boxes are whole steps wide.
 * @param towards the sun, a unit vector above the floor
 * @param contact cells about everything that are darkened too, whether it throws a shadow or not; null where nothing is
 */
export function shadowBox(bodies: readonly LitBody[], towards: WorldPoint, level: number, contact: number | null): PlaneBox | null {
  let [minU, minV, maxU, maxV] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { body, casts, half } of bodies) {
    const { min, max } = body.bounds;
    if ((!casts && contact === null) || max.h < level) continue;
    for (const h of [Math.max(min.h, level), max.h]) {
      const run = (h - level) / towards.h;
      minU = Math.min(minU, min.a - half - run * towards.a);
      maxU = Math.max(maxU, max.a + half - run * towards.a);
      minV = Math.min(minV, min.b - half - run * towards.b);
      maxV = Math.max(maxV, max.b + half - run * towards.b);
    }
  }
  if (minU > maxU) return null;
  const room = contact ?? 0;
  const [down, up] = [(x: number): number => (Math.floor((x - room) / STEP) - 1) * STEP, (x: number): number => (Math.ceil((x + room) / STEP) + 1) * STEP];
  return { minU: down(minU), minV: down(minV), maxU: up(maxU), maxV: up(maxV) };
}

/**
 * The floor as far as it is seen on the sheet, and as far as a box goes, at a height in cells; null where it is seen
 * edge-on or from below. The smaller it is, the finer are the whole numbers that its shadows are combined on.
 */
export function floorBody(
  { view }: Stage,
  { width, height }: { readonly width: number; readonly height: number },
  level: number,
  box: PlaneBox | null,
): Body | null {
  const plane: Plane = { kind: 'floor', offset: exactCells(level) };
  const frame = planeFrame(plane, 1)!;
  const { projection } = view.sight;
  if (facing(projection, frame.normal, frame.origin) <= 0) return null;
  const back = invert33(sheetFromFrame(projection, frame));
  if (!back) return null;
  const depth = (x: number, y: number): number => back[6] * x + back[7] * y + back[8];
  const corners = [[-BEYOND, -BEYOND], [width + BEYOND, -BEYOND], [width + BEYOND, height + BEYOND], [-BEYOND, height + BEYOND]] as const; // prettier-ignore
  const least = Math.max(...corners.map(([x, y]) => depth(x, y))) / FARTHEST;
  if (!(least > 0)) return null;
  const seen = clipped(corners, ([x, y]) => depth(x, y) - least, ([x, y], [p, q], t): readonly [number, number] => [x + (p - x) * t, y + (q - y) * t]); // prettier-ignore
  const onFloor = seen.map(([x, y]): PlanePoint => {
    const w = depth(x, y);
    return { u: (back[0] * x + back[1] * y + back[2]) / w, v: (back[3] * x + back[4] * y + back[5]) / w };
  });
  const between = (p: PlanePoint, q: PlanePoint, t: number): PlanePoint => ({ u: p.u + (q.u - p.u) * t, v: p.v + (q.v - p.v) * t });
  const sides = box ? [(p: PlanePoint): number => p.u - box.minU, (p: PlanePoint): number => box.maxU - p.u, (p: PlanePoint): number => p.v - box.minV, (p: PlanePoint): number => box.maxV - p.v] : []; // prettier-ignore
  const points = sides.reduce<readonly PlanePoint[]>((rest, side) => clipped(rest, side, between), onFloor);
  const within = (n: number): number => exactCells(Math.max(-MAX_CELLS, Math.min(MAX_CELLS, n)));
  return points.length < 3 ? null : depthBody({ plane, outline: outlineThrough(points.map(({ u, v }) => ({ u: within(u), v: within(v) })), true), depth: 0 }); // prettier-ignore
}

/** What of a convex ring lies on the side of a line where a value is positive (Sutherland and Hodgman). */
function clipped<P>(ring: readonly P[], value: (p: P) => number, between: (p: P, q: P, t: number) => P): readonly P[] {
  return ring.flatMap((p, i): readonly P[] => {
    const before = ring[(i + ring.length - 1) % ring.length]!;
    const [d, e] = [value(before), value(p)];
    return [...(d >= 0 !== e >= 0 ? [between(before, p, d / (d - e))] : []), ...(e >= 0 ? [p] : [])];
  });
}
