import { keptBy } from '../math/keep';
import { flatPoints, type Body } from '../geometry/body';
import { onSphere } from '../geometry/sphere';
import { unitWorld } from '../math/points';
import { SAME_PLACE, SIDE_BY_SIDE, UNIT } from '../math/tolerances';
import type { Homogeneous } from '../projection/projection';

/** How two bodies lie to one another as wholes; `mixed` where no plane was found that parts them. */
export type BodyRelation = 'front' | 'behind' | 'apart' | 'mixed';

/** Part of the line of sight's length below which it counts as running along a plane. */
const ALONG = 1e-12;

/** An eye made ready for comparing bodies. */
export interface Watcher {
  readonly eye: Homogeneous;
  /** By axis: of an eye far off, 1 or -1 by the side on which it is, 0 where it looks along; else where it is. */
  readonly places: readonly [number, number, number];
  readonly far: boolean;
}

/** An eye made ready for comparing many bodies. */
export function watcherOf(eye: Homogeneous): Watcher {
  const [a, b, h, w] = eye;
  const along = ALONG * Math.hypot(a, b, h);
  const side = (x: number): number => (Math.abs(x) < along ? 0 : Math.sign(x));
  return { eye, places: w === 0 ? [side(a), side(b), side(h)] : [a / w, b / w, h / w], far: w === 0 };
}

/**
 * How a body lies to another seen from an eye: where a plane has them on its two sides, the one on the eye's side is in
 * front and nothing more need be compared. Planes square to the axes are tried first, then those of the bodies' own
 * surfaces, which part all convex bodies that are not set edge against edge.
 */
export function relateBodies(watcher: Watcher, f: Body, g: Body): BodyRelation {
  const p = f.bounds;
  const q = g.bounds;
  const { places, far } = watcher;
  return (
    alongAxis(places[0], far, p.min.a, p.max.a, q.min.a, q.max.a) ??
    alongAxis(places[1], far, p.min.b, p.max.b, q.min.b, q.max.b) ??
    alongAxis(places[2], far, p.min.h, p.max.h, q.min.h, q.max.h) ??
    byPlanes(watcher.eye, f, g, 'behind', 'front') ??
    byPlanes(watcher.eye, g, f, 'front', 'behind') ??
    'mixed'
  );
}

/** By a plane square to an axis, along which the first body reaches from `low` to `high`, the second from `from` to `to`. */
function alongAxis(place: number, far: boolean, low: number, high: number, from: number, to: number): BodyRelation | null {
  const above = from - high;
  const below = low - to;
  if ((above < -SIDE_BY_SIDE && below < -SIDE_BY_SIDE) || Math.abs(above - below) < SAME_PLACE) return null;
  const second = above > below;
  if (far) return place === 0 ? 'apart' : place > 0 === second ? 'behind' : 'front';
  const start = second ? high : to;
  const end = second ? from : low;
  if (place >= Math.max(start, end)) return second ? 'behind' : 'front';
  return place <= Math.min(start, end) ? (second ? 'front' : 'behind') : 'apart';
}

/**
 * By a plane of the first body that has all of it on its inner side and the other outside.
 * @param towards the answer where the eye is on the outer side, with the other
 */
function byPlanes(eye: Homogeneous, f: Body, g: Body, towards: BodyRelation, away: BodyRelation): BodyRelation | null {
  const planes = outerPlanes(f);
  for (let i = 0; i < planes.length; i += 4) {
    const [a, b, h, d] = [planes[i]!, planes[i + 1]!, planes[i + 2]!, planes[i + 3]!];
    let [least, most] = [Infinity, -Infinity];
    const { points } = g;
    for (let k = 0; k < points.length; k += 3) {
      const value = a * points[k]! + b * points[k + 1]! + h * points[k + 2]! - d;
      if (value < least) least = value;
      if (value > most) most = value;
      if (least < -SIDE_BY_SIDE) break;
    }
    // What lies in the plane itself is neither before nor behind a flat shape in it.
    if (least < -SIDE_BY_SIDE || most <= SIDE_BY_SIDE) continue;
    const side = a * eye[0] + b * eye[1] + h * eye[2] - eye[3] * d;
    if (Math.abs(side) < ALONG * Math.hypot(eye[0], eye[1], eye[2], eye[3])) return 'apart';
    return side > 0 ? towards : away;
  }
  return null;
}

/** Unit directions all round: those to the corners, the middles of edges and between them of a grid of three steps. */
const TOUCHED = [-2, -1, 0, 1, 2].flatMap((a) =>
  [-2, -1, 0, 1, 2].flatMap((b) => [-2, -1, 0, 1, 2].flatMap((h) => (Math.max(Math.abs(a), Math.abs(b), Math.abs(h)) === 2 ? [unitWorld({ a, b, h })!] : []))),
);

/** Planes `n . p = d` of a body's surfaces, slanting ones only, that have all of its points on their inner side. */
const outerPlanes = keptBy((body: Body): Float64Array => {
  const found: number[] = [];
  const add = (a: number, b: number, h: number, corners: readonly number[]): void => {
    if (Math.max(Math.abs(a), Math.abs(b), Math.abs(h)) > 1 - UNIT) return;
    const d = a * corners[0]! + b * corners[1]! + h * corners[2]!;
    for (let k = 0; k < body.points.length; k += 3) {
      if (a * body.points[k]! + b * body.points[k + 1]! + h * body.points[k + 2]! - d > SIDE_BY_SIDE) return;
    }
    found.push(a, b, h, d);
  };
  for (const { form, facets, bothSides } of body.surfaces) {
    if (form.kind === 'sphere') {
      // Planes that touch it, in a few directions all round: many more would cost more than they part.
      for (const axis of TOUCHED) add(axis.a, axis.b, axis.h, flatPoints([onSphere(form, axis)]));
      continue;
    }
    for (const { normal, corners } of form.kind === 'flat' ? facets.slice(0, 1) : facets) {
      add(normal.a, normal.b, normal.h, corners);
      if (bothSides) add(-normal.a, -normal.b, -normal.h, corners);
    }
  }
  for (const { frame, points } of body.wires) {
    const { a, b, h } = frame.normal;
    add(a, b, h, points);
    add(-a, -b, -h, points);
  }
  return Float64Array.from(found);
});
