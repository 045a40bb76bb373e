import { addWorld, lengthWorld, dotWorld, scaleWorld, subtractWorld, type PlanePoint, type SheetPoint, type WorldPoint } from '../math/points';
import { SAME_PLACE } from '../math/tolerances';
import { planeFrame, worldFromPlane, type Plane } from './planes';
import type { Projection } from './projection';

/** A line to draw by, without end: in its plane through a place, or through that place along the plane's normal. */
export interface Guide {
  readonly id: string;
  readonly name: string;
  readonly plane: Plane;
  /** A place of the plane that it runs through, in cells. */
  readonly at: PlanePoint;
  /** Its direction in the plane, of length 1; `out` along the plane's normal. On the sheet there is no `out`. */
  readonly along: PlanePoint | 'out';
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** A box in mm of the sheet. */
interface SheetArea {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** A line through space: a place and a direction of length 1, in cells. */
export interface SpaceLine {
  readonly at: WorldPoint;
  readonly along: WorldPoint;
}

/** Farthest from its place that a guide is followed, in cells: in perspective it is at its vanishing point long before. */
const FARTHEST = 100_000;

/** Where a guide runs in space, in cells; null for one on the sheet. */
export function guideInSpace({ plane, at, along }: Guide): SpaceLine | null {
  const frame = planeFrame(plane, 1);
  if (!frame) return null;
  const direction = along === 'out' ? frame.normal : addWorld(scaleWorld(frame.u, along.u), scaleWorld(frame.v, along.v));
  return { at: worldFromPlane(frame, at), along: scaleWorld(direction, 1 / lengthWorld(direction)) };
}

/**
 * The part of a guide that is seen within a box of the sheet, by its distances from the guide's place in cells: everything
 * that bounds it is affine along the line before it is divided by its depth. Null where nothing of it is.
 * @param cell edge of a cell in mm
 */
export function guideReach(projection: Projection, guide: Guide, cell: number, box: SheetArea): readonly [number, number] | null {
  const line = homogeneous(projection, guide, cell);
  let [from, to] = [-FARTHEST, FARTHEST];
  const least = Math.max(projection.near, Number.MIN_VALUE);
  const [x, y, w] = line;
  const bounds: readonly (readonly [number, number])[] = [
    [w[0] - least, w[1]],
    [x[0] - box.minX * w[0], x[1] - box.minX * w[1]],
    [box.maxX * w[0] - x[0], box.maxX * w[1] - x[1]],
    [y[0] - box.minY * w[0], y[1] - box.minY * w[1]],
    [box.maxY * w[0] - y[0], box.maxY * w[1] - y[1]],
  ];
  for (const [start, rate] of bounds) {
    if (rate === 0) {
      if (start < 0) return null;
    } else if (rate > 0) from = Math.max(from, -start / rate);
    else to = Math.min(to, -start / rate);
  }
  return from < to ? [from, to] : null;
}

/** A guide on the sheet, from end to end of what is seen of it within a box; null where nothing is, or it is seen as a point. */
export function guideOnSheet(projection: Projection, guide: Guide, cell: number, box: SheetArea): readonly [SheetPoint, SheetPoint] | null {
  const reach = guideReach(projection, guide, cell, box);
  if (!reach) return null;
  const [x, y, w] = homogeneous(projection, guide, cell);
  const [p, q] = reach.map((t): SheetPoint => ({ x: (x[0] + x[1] * t) / (w[0] + w[1] * t), y: (y[0] + y[1] * t) / (w[0] + w[1] * t) }));
  return p && q && Math.hypot(q.x - p.x, q.y - p.y) > SAME_PLACE ? [p, q] : null;
}

/** The drawn place of a guide as x, y and depth before they are divided: each a value at its place and its growth with a cell along it. */
function homogeneous({ matrix: m }: Projection, guide: Guide, cell: number): readonly [Affine1, Affine1, Affine1] {
  const line = guideInSpace(guide);
  if (!line) {
    const { u, v } = guide.along === 'out' ? { u: 1, v: 0 } : guide.along;
    return [[guide.at.u * cell, u * cell], [guide.at.v * cell, v * cell], [1, 0]]; // prettier-ignore
  }
  const row = (k: number): Affine1 => [
    (m[k]! * line.at.a + m[k + 1]! * line.at.b + m[k + 2]! * line.at.h) * cell + m[k + 3]!,
    (m[k]! * line.along.a + m[k + 1]! * line.along.b + m[k + 2]! * line.along.h) * cell,
  ];
  return [row(0), row(4), row(8)];
}

/** A value and how it grows along a line. */
type Affine1 = readonly [number, number];

/** What of a guide lies in a plane: the whole line, the point in which it goes through, or nothing. */
export type GuideInPlane = { readonly kind: 'line'; readonly at: PlanePoint; readonly along: PlanePoint } | { readonly kind: 'point'; readonly at: PlanePoint };

/** What of a guide lies in a plane, in its cells; null where it runs beside it, or on another sheet. */
export function guideInPlane(guide: Guide, plane: Plane): GuideInPlane | null {
  const [line, frame] = [guideInSpace(guide), planeFrame(plane, 1)];
  if (!line || !frame) return !line && !frame && guide.along !== 'out' ? { kind: 'line', at: guide.at, along: guide.along } : null;
  const place = (p: WorldPoint): PlanePoint => {
    const from = subtractWorld(p, frame.origin);
    return { u: dotWorld(from, frame.u), v: dotWorld(from, frame.v) };
  };
  const [off, rate] = [dotWorld(subtractWorld(line.at, frame.origin), frame.normal), dotWorld(line.along, frame.normal)];
  if (Math.abs(rate) < SAME_PLACE) {
    if (Math.abs(off) > SAME_PLACE) return null;
    return { kind: 'line', at: place(line.at), along: { u: dotWorld(line.along, frame.u), v: dotWorld(line.along, frame.v) } };
  }
  return { kind: 'point', at: place(addWorld(line.at, scaleWorld(line.along, -off / rate))) };
}

/** A guide through a place of a plane, along a direction of any length; null for none. */
export function guideThrough(plane: Plane, { u, v }: PlanePoint, along: PlanePoint | 'out'): Pick<Guide, 'plane' | 'at' | 'along'> | null {
  const at = { u, v };
  if (along === 'out') return plane.kind === 'sheet' ? null : { plane, at, along };
  const length = Math.hypot(along.u, along.v);
  return length > 0 && Number.isFinite(length) ? { plane, at, along: { u: along.u / length, v: along.v / length } } : null;
}

/** The first of `guide 1`, `guide 2` and so on that no guide is called. */
export function nextGuideName(guides: readonly Pick<Guide, 'name'>[]): string {
  const taken = new Set(guides.map(({ name }) => name));
  let count = 1;
  while (taken.has(`guide ${count}`)) count++;
  return `guide ${count}`;
}
