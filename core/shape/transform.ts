import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { PLANE_AXES, type Plane, type PlaneKind } from '../projection/planes';
import { boxAround, mapPoint, moveOutline, type Outline } from './outline';
import { flattenOutline } from './segments';

const exact = (u: number, v: number): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });

/** The box around a boundary, curves included, in cells; null for one without points. */
export function outlineBox(outline: Outline): ReturnType<typeof boxAround> {
  return boxAround(flattenOutline(outline, 0.001));
}

/** The outline turned about a point; quarters are exact. @param quarters anticlockwise from u to v */
export function turnQuarters(outline: Outline, about: PlanePoint, quarters: number): Outline {
  const turns = ((Math.round(quarters) % 4) + 4) % 4;
  const at = ({ u, v }: PlanePoint): PlanePoint => {
    const [x, y] = [u - about.u, v - about.v];
    const [tx, ty] = turns === 1 ? [-y, x] : turns === 2 ? [-x, -y] : turns === 3 ? [y, -x] : [x, y];
    return exact(about.u + tx, about.v + ty);
  };
  return { ...outline, points: outline.points.map((p) => mapPoint(p, at)) };
}

/** The outline turned about a point by degrees from u to v. */
export function turnOutline(outline: Outline, about: PlanePoint, deg: number): Outline {
  if (deg % 90 === 0) return turnQuarters(outline, about, deg / 90);
  const rad = (deg * Math.PI) / 180;
  const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
  const at = ({ u, v }: PlanePoint): PlanePoint => {
    const [x, y] = [u - about.u, v - about.v];
    return exact(about.u + x * cos - y * sin, about.v + x * sin + y * cos);
  };
  return { ...outline, points: outline.points.map((p) => mapPoint(p, at)) };
}

/**
 * The outline mirrored about a line along one of its plane's directions, its points in the same order and with the
 * same ids, so that faces keep their names.
 * @param across which coordinate changes sign about `at`
 */
export function mirrorOutline(outline: Outline, across: 'u' | 'v', at: number): Outline {
  const map = ({ u, v }: PlanePoint): PlanePoint => (across === 'u' ? exact(2 * at - u, v) : exact(u, 2 * at - v));
  return { ...outline, points: outline.points.map((p) => mapPoint(p, map)) };
}

/** The outline scaled about a point by one ratio; roundings grow with it. */
export function scaleOutline(outline: Outline, about: PlanePoint, ratio: number): Outline {
  const at = ({ u, v }: PlanePoint): PlanePoint => exact(about.u + (u - about.u) * ratio, about.v + (v - about.v) * ratio);
  const points = outline.points.map((p) => {
    const scaled = mapPoint(p, at);
    return p.corner ? { ...scaled, corner: { ...p.corner, size: exactCells(p.corner.size * ratio) } } : scaled;
  });
  return { ...outline, points };
}

/** What is kept where it is when a shape goes to another plane: its lower near corner, or its middle. */
export type Hinge = 'corner' | 'centre';

/** A shape's boundary and the plane that it lies on. */
export interface Laid {
  readonly outline: Outline;
  readonly plane: Plane;
}

/**
 * A shape laid on another plane in its true size, one corner (or its middle) kept where it is in space: between the
 * walls it goes round the upright that both would share, between the right wall and the floor it folds at its lower
 * edge. What was read from left to right still is, so that lettering and pictures stay readable. To and from the
 * sheet, which has no place in space, its counts stay, turned upright.
 * @param box the box whose corner or middle is kept: that of several shapes where they go together
 */
export function toPlane({ outline, plane: from }: Laid, kind: PlaneKind, hinge: Hinge = 'corner', box = outlineBox(outline)): Laid {
  if (!box || from.kind === kind) return { outline, plane: from };
  const turned = readFromLeft(from.kind) === readFromLeft(kind) ? outline : mirrorOutline(outline, 'u', (box.minU + box.maxU) / 2);
  if (from.kind === 'sheet' || kind === 'sheet') {
    // On the sheet v runs down, on the planes up.
    return { outline: mirrorOutline(turned, 'v', (box.minV + box.maxV) / 2), plane: { kind, offset: 0 } };
  }
  const kept = hinge === 'centre' ? { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 } : { u: box.minU, v: box.minV };
  const [axes, target] = [PLANE_AXES[from.kind], PLANE_AXES[kind]];
  const world = { a: 0, b: 0, h: 0 };
  world[axes.u] = kept.u;
  world[axes.v] = kept.v;
  world[axes.across] = from.offset;
  return {
    outline: moveOutline(turned, exactCells(world[target.u] - kept.u), exactCells(world[target.v] - kept.v)),
    plane: { kind, offset: exactCells(world[target.across]) },
  };
}

/** Whether what stands on a plane is read along its u; on the left wall it is read against it. */
const readFromLeft = (kind: PlaneKind): boolean => kind !== 'left';
