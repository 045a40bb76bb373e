import { exactCells } from '../math/exact';
import { dotWorld, subtractWorld, type Axis, type PlanePoint } from '../math/points';
import { mapPaint, type Paint } from '../paint/paint';
import { axesOf, cellsFromPlane, planeFrame, samePlane, type Plane, type PlaneKind } from '../projection/planes';
import { boxAround, mapOutline, mapPoint, moveOutline, type Outline, type PlaneBox } from './outline';
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
  return mapOutline(outline, (p) => mapPoint(p, at));
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
  return mapOutline(outline, (p) => mapPoint(p, at));
}

/**
 * The outline mirrored about a line along one of its plane's directions, its points in the same order and with the
 * same ids, so that faces keep their names.
 * @param across which coordinate changes sign about `at`
 */
export function mirrorOutline(outline: Outline, across: 'u' | 'v', at: number): Outline {
  const map = ({ u, v }: PlanePoint): PlanePoint => (across === 'u' ? exact(2 * at - u, v) : exact(u, 2 * at - v));
  return mapOutline(outline, (p) => mapPoint(p, map));
}

/** The outline scaled about a point by one ratio; roundings grow with it. */
export function scaleOutline(outline: Outline, about: PlanePoint, ratio: number): Outline {
  const at = ({ u, v }: PlanePoint): PlanePoint => exact(about.u + (u - about.u) * ratio, about.v + (v - about.v) * ratio);
  return mapOutline(outline, (p) => {
    const scaled = mapPoint(p, at);
    return p.corner ? { ...scaled, corner: { ...p.corner, size: exactCells(p.corner.size * ratio) } } : scaled;
  });
}

/** The outline stretched along one of its plane's directions to a length, its lower end staying where it is. */
export function stretchOutline(outline: Outline, along: 'u' | 'v', box: PlaneBox, length: number): Outline {
  const [from, till] = along === 'u' ? [box.minU, box.maxU] : [box.minV, box.maxV];
  if (till === from) return outline;
  const at = (p: PlanePoint): PlanePoint => ({ u: p.u, v: p.v, [along]: exactCells(from + ((p[along] - from) / (till - from)) * length) });
  return mapOutline(outline, (p) => mapPoint(p, at));
}

/** What is kept where it is when a shape goes to another plane: its lower near corner, or its middle. */
export type Hinge = 'corner' | 'centre';

/** A shape's boundary, the plane that it lies on, and its paint, whose gradients go along. */
export interface Laid {
  readonly outline: Outline;
  readonly plane: Plane;
  readonly paint: Paint;
}

/** What is laid on a plane, under a map of the plane. @param outline the map for boundaries */
function both(laid: Laid, outline: (o: Outline) => Outline): Laid {
  // Gradients are carried as points of an open outline, so that whatever happens to a boundary happens to them.
  const carried = (p: PlanePoint): PlanePoint => {
    const { u, v } = outline({ points: [{ id: 1, u: p.u, v: p.v }], closed: false }).points[0]!;
    return { u, v };
  };
  return { ...laid, outline: outline(laid.outline), paint: mapPaint(laid.paint, carried) };
}

/** What is laid on a plane turned about a point by degrees from u to v. */
export const turnLaid = (laid: Laid, about: PlanePoint, deg: number): Laid => both(laid, (o) => turnOutline(o, about, deg));

/** What is laid on a plane mirrored about a line along u or v. */
export const mirrorLaid = (laid: Laid, across: 'u' | 'v', at: number): Laid => both(laid, (o) => mirrorOutline(o, across, at));

/** What is laid on a plane scaled about a point; lines keep their width. */
export const scaleLaid = (laid: Laid, about: PlanePoint, ratio: number): Laid => both(laid, (o) => scaleOutline(o, about, ratio));

/** What is laid on a plane moved along it. */
export const moveLaid = (laid: Laid, du: number, dv: number): Laid => both(laid, (o) => moveOutline(o, du, dv));

/**
 * A shape laid on another plane in its true size, one corner (or its middle) kept where it is in space: between the
 * walls it goes round the upright that both would share, between the right wall and the floor it folds at its lower
 * edge. What was read from left to right still is, so that lettering and pictures stay readable. To and from the
 * sheet, which has no place in space, its counts stay, turned upright. On a free plane the corner is dropped square
 * onto it.
 * @param to the plane's kind, or a free plane
 * @param box the box whose corner or middle is kept: that of several shapes where they go together
 */
export function toPlane(laid: Laid, to: Exclude<PlaneKind, 'free'> | Plane, hinge: Hinge = 'corner', box = outlineBox(laid.outline)): Laid {
  const from = laid.plane;
  const kind = typeof to === 'string' ? to : to.kind;
  const target: Plane = typeof to === 'string' ? { kind: to, offset: 0 } : to;
  if (!box || (kind === 'free' ? samePlane(from, target) : from.kind === kind)) return laid;
  const turned = readFromLeft(from.kind) === readFromLeft(kind) ? laid : mirrorLaid(laid, 'u', (box.minU + box.maxU) / 2);
  if (from.kind === 'sheet' || kind === 'sheet') {
    // On the sheet v runs down, on the planes up.
    return { ...mirrorLaid(turned, 'v', (box.minV + box.maxV) / 2), plane: target };
  }
  const kept = hinge === 'centre' ? { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 } : { u: box.minU, v: box.minV };
  const place = placeOn(target, cellsFromPlane(from, kept));
  return { ...moveLaid(turned, exactCells(place.u - kept.u), exactCells(place.v - kept.v)), plane: place.plane };
}

/** Where a point in cells meets a plane, and that plane through it where two axes span it. */
function placeOn(target: Plane, world: Readonly<Record<Axis, number>>): PlanePoint & { readonly plane: Plane } {
  const axes = axesOf(target);
  if (axes) return { u: world[axes.u], v: world[axes.v], plane: { ...target, offset: exactCells(world[axes.across]) } };
  const frame = planeFrame(target, 1)!;
  const from = subtractWorld(world, frame.origin);
  return { u: dotWorld(from, frame.u), v: dotWorld(from, frame.v), plane: target };
}

/** Whether what stands on a plane is read along its u; on the left wall it is read against it. */
const readFromLeft = (kind: PlaneKind): boolean => kind !== 'left';
