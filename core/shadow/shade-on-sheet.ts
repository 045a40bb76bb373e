import { projectPath } from '../artwork/project';
import { directionsAcross, onSphere, type Cap, type Sphere } from '../geometry/sphere';
import { ruledPoint, type Ruled } from '../geometry/ruled';
import { affineOf, invert33, multiply33, type Mat33 } from '../math/matrix';
import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { SHADOW_CURVES } from '../math/tolerances';
import { clipNear } from '../projection/near';
import { sheetFromFrame } from '../projection/planes';
import { sheetFromWorld, type EyeMatrix } from '../projection/projection';
import type { Sight } from '../projection/sight';
import { ClipType, combineRings, FillRule } from '../shape/flat-areas';
import { fitRing } from '../shape/fit-curve';
import { joinPaths, mapPath, type Path } from '../shape/path';
import { commonPart } from '../visibility/cut';
import type { Area, DrawnSurface } from '../visibility/drawn-body';
import { ruledWithin } from '../visibility/place-under';
import { seenCap } from '../visibility/sphere-view';
import { ruledPath, type Stretch } from '../visibility/stretches';
import type { Shade } from './shade';

/** Largest step of a directrix's parameter between two corners of a shadow's edge: a fiftieth of a quarter circle. */
const STEP = 1 / 48;
/** Largest angle in radians between two corners of a shadow's edge on a ball. */
const ANGLE = 0.03;
/** Cells from a ball's outline within which a corner is one of the outline's, which chords stand for: on the ball that is much farther. */
const OUTLINE = 0.0012;
/** Most halvings of an edge. */
const HALVINGS = 8;

const NOTHING: Path = { verbs: '', coords: [] };

/**
 * A shadow as the viewer sees it: what of a part of a surface that is drawn lies in shadow, by the even-odd rule. On flat
 * surfaces it is carried over with its curves, which perspective follows as artwork's; on round ones
 * by curves through corners so close together that they miss it by less than a thousandth of the radius.
 */
export function shadeOnSheet(part: DrawnSurface, shade: Shade): Path {
  const { surface, view } = part;
  const form = surface?.form;
  if (!form) return NOTHING;
  const { projection } = view.sight;
  if (form.kind === 'flat') {
    const light = invert33(sheetFromFrame(shade.turned.view.sight.projection, form.frame));
    if (!light || dotWorld(part.normal, shade.turned.normal) < 0) return NOTHING;
    // An eye at a lamp looks straight at the plane, so that all of it is as deep: depths are then the viewer's own.
    const map = multiply33(sheetFromFrame(projection, form.frame), light.map((value) => value / light[8]) as unknown as Mat33);
    const affine = affineOf(map);
    return affine ? mapPath(shade.path, affine) : projectPath(shade.path, map, projection.near);
  }
  if (form.kind === 'sphere') return joinPaths(ringsOf(shade.parts).map((ring) => ballRing(projection, form, part.path, shade, ring)));
  const { stretch: seen } = part;
  if (!seen) return NOTHING;
  const stretches = inStretches(form, shade);
  const rings = stretches.map(({ lit, parts }) => ringsOf(parts).flatMap((ring) => ruledRings(form, seen, lit, shade, ring)));
  const n = form.directrix.length;
  // What lies in neighbouring stretches is one shadow.
  const whole = rings.length > 1 ? united(rings) : rings.flat();
  return joinPaths(
    whole.map((places) =>
      worldRing(
        projection,
        places.map(([s, k]) => ruledPoint(form, ((s % n) + n) % n, k)),
      ),
    ),
  );
}

const ringsOf = (parts: readonly Area[]): readonly ArrayLike<number>[] => parts.flatMap(({ polygon, holes = [] }) => [polygon, ...holes]);

/**
 * A shadow on a ruled surface by stretches along which its generators sweep over the light's sheet by less than half a
 * turn: of what is lit all round, each segment, and where a cone's point lies close to its rim smaller parts of it.
 */
function inStretches(form: Ruled, { turned, parts }: Shade): readonly { readonly lit: Stretch; readonly parts: readonly Area[] }[] {
  const { stretch, view } = turned;
  const n = form.directrix.length;
  if (!stretch) return [];
  if (!form.closed || stretch.to - stretch.from < n) return [{ lit: stretch, parts }];
  const { projection } = view.sight;
  return form.directrix
    .flatMap((_, i) => narrowStretches(projection, form, { from: i, to: i + 1 }))
    .flatMap((lit) => {
      const path = ruledPath(projection, { ...form, closed: false }, lit);
      return path ? [{ lit, parts: commonPart(path, [{ areas: parts, path: null }]).parts }] : [];
    });
}

/** Largest turn in radians of a stretch's generators on the sheet, in how many steps it is measured, and the shortest stretch. */
const WIDEST = 2.4;
const TURN_STEPS = 8;
const SHORTEST = 1 / 64;

function narrowStretches(projection: EyeMatrix, form: Ruled, { from, to }: Stretch): readonly Stretch[] {
  const last = form.directrix.length;
  const angles = Array.from({ length: TURN_STEPS + 1 }, (_, i) => {
    const s = Math.min(from + ((to - from) * i) / TURN_STEPS, last - 1e-12);
    const [p, q] = [sheetFromWorld(projection, ruledPoint(form, s, 0)), sheetFromWorld(projection, ruledPoint(form, s, 1))];
    return p && q ? Math.atan2(q.y - p.y, q.x - p.x) : 0;
  });
  const turn = angles.slice(1).reduce((sum, angle, i) => sum + Math.atan2(Math.sin(angle - angles[i]!), Math.cos(angle - angles[i]!)), 0);
  if (Math.abs(turn) < WIDEST || to - from < SHORTEST) return [{ from, to }];
  const middle = (from + to) / 2;
  return [...narrowStretches(projection, form, { from, to: middle }), ...narrowStretches(projection, form, { from: middle, to })];
}

type Place = readonly [s: number, k: number];

/** Whole numbers to a unit of the parameters of places. */
const PER_PLACE = 2 ** 20;

/** Areas by the even-odd rule, each of several rings, as the rings of all of them together. */
function united(areas: readonly (readonly (readonly Place[])[])[]): readonly (readonly Place[])[] {
  const each = areas.flatMap((rings) => {
    const whole = rings.map((places) => places.map(([s, k]) => ({ x: Math.round(s * PER_PLACE), y: Math.round(k * PER_PLACE) })));
    return combineRings(ClipType.Union, whole, [], FillRule.EvenOdd);
  });
  return combineRings(ClipType.Union, each, [], FillRule.NonZero).map((ring) => ring.map(({ x, y }): Place => [x / PER_PLACE, y / PER_PLACE]));
}

/** A ring of a shadow on a ruled surface as far as the viewer sees it, in as many rings as the stretch is met in. */
function ruledRings(form: Ruled, seen: Stretch, lit: Stretch, { turned }: Shade, ring: ArrayLike<number>): readonly (readonly Place[])[] {
  const light = turned.view.sight.projection;
  const placeOf = (x: number, y: number): Place => {
    const { s, k } = ruledWithin(light, form, lit, { x, y });
    return [s, Math.max(0, Math.min(1, k))];
  };
  const places = edgePlaces(ring, placeOf, (p, q) => Math.abs(p[0] - q[0]) > STEP);
  const n = form.directrix.length;
  const turns = form.closed ? [-n, 0, n] : [0];
  return turns.flatMap((turn): readonly (readonly Place[])[] => {
    // Parameters of both stretches may run on beyond the end of a closed directrix.
    const kept = clippedTo(clippedTo(places, seen.from + turn, 1), seen.to + turn, -1);
    return kept.length < 3 ? [] : [kept.map(([s, k]): Place => [s - turn, k])];
  });
}

/** What of a ring of places lies to one side of a parameter (Sutherland & Hodgman 1974). */
function clippedTo(places: readonly Place[], limit: number, side: 1 | -1): readonly Place[] {
  return places.flatMap((place, i): readonly Place[] => {
    const before = places[(i + places.length - 1) % places.length]!;
    const [d, e] = [side * (before[0] - limit), side * (place[0] - limit)];
    const crossing: readonly Place[] = d >= 0 !== e >= 0 ? [[limit, before[1] + ((place[1] - before[1]) * d) / (d - e)]] : [];
    return e >= 0 ? [...crossing, place] : crossing;
  });
}

/** The corners of a ring and places between them on its straight edges, as close together as asked. */
function edgePlaces<T>(ring: ArrayLike<number>, placeOf: (x: number, y: number) => T, apart: (p: T, q: T) => boolean): readonly T[] {
  const places: T[] = [];
  const between = (x0: number, y0: number, p: T, x1: number, y1: number, q: T, halvings: number): void => {
    if (halvings === HALVINGS || !apart(p, q)) return;
    const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
    const middle = placeOf(x, y);
    between(x0, y0, p, x, y, middle, halvings + 1);
    places.push(middle);
    between(x, y, middle, x1, y1, q, halvings + 1);
  };
  const n = ring.length;
  const first = placeOf(ring[0]!, ring[1]!);
  let last = first;
  for (let i = 0; i < n; i += 2) {
    const [x, y] = [ring[(i + 2) % n]!, ring[(i + 3) % n]!];
    const next = i + 2 < n ? placeOf(x, y) : first;
    places.push(last);
    between(ring[i]!, ring[i + 1]!, last, x, y, next, 0);
    last = next;
  }
  return places;
}

/** A ring of a shadow on a ball on the viewer's sheet: as far as it is seen, and along the ball's outline between. @param whole what is seen of the ball */
function ballRing(projection: EyeMatrix, sphere: Sphere, whole: Path, { turned }: Shade, ring: ArrayLike<number>): Path {
  const cap = seenCap(projection, sphere);
  if (!cap) return NOTHING;
  const { sight } = turned.view;
  const units = edgePlaces(
    ring,
    (x, y) => unitAt(sight, sphere, { x, y }),
    (p, q) => lengthWorld(subtractWorld(p, q)) > ANGLE,
  );
  const inRing = (unit: WorldPoint): boolean => {
    const lit = seenCap(sight.projection, sphere);
    const at = lit && dotWorld(unit, lit.axis) >= lit.low ? sheetFromWorld(sight.projection, onSphere(sphere, unit)) : null;
    return at !== null && containsPoint(ring, at.x, at.y);
  };
  const kept: WorldPoint[] = [];
  let left: WorldPoint | null = null;
  const height = (unit: WorldPoint): number => dotWorld(unit, cap.axis) - cap.low;
  // A ring none of which is seen goes round all that is, or past it.
  if (units.every((unit) => height(unit) < 0)) return inRing(cap.axis) ? whole : NOTHING;
  // Begins where the ring is seen, so that it comes back to that.
  const start = Math.max(0, units.findIndex((unit) => height(unit) >= 0)); // prettier-ignore
  for (let step = 0; step <= units.length; step++) {
    const [before, unit] = [units[(start + step + units.length - 1) % units.length]!, units[(start + step) % units.length]!];
    const [d, e] = [height(before), height(unit)];
    if (step > 0 && d >= 0 !== e >= 0) {
      const crossing = onRim(cap, addWorld(before, scaleWorld(subtractWorld(unit, before), d / (d - e))));
      if (e >= 0 && left) kept.push(...rimBetween(cap, left, crossing, inRing));
      kept.push(crossing);
      left = e >= 0 ? null : crossing;
    }
    if (e >= 0 && step < units.length) kept.push(unit);
  }
  return worldRing(
    projection,
    kept.map((unit) => onSphere(sphere, unit)),
  );
}

/** A ring of places in the world on the sheet, without what lies before the near plane. */
function worldRing(projection: EyeMatrix, ring: readonly WorldPoint[]): Path {
  const corners = clipNear(projection, ring).flatMap((p) => {
    const at = sheetFromWorld({ ...projection, near: projection.near / 2 }, p);
    return at ? [at.x, at.y] : [];
  });
  return corners.length >= 6 ? fitRing(corners, SHADOW_CURVES) : NOTHING;
}

/** The direction from a ball's middle to the place of it that is seen at a place of an eye's sheet; beside it, to its outline. */
function unitAt({ back, projection }: Sight, sphere: Sphere, { x, y }: SheetPoint): WorldPoint {
  const { centre, radius, hollow } = sphere;
  const row = (i: number): number => back[i]! * x + back[i + 1]! * y + back[i + 2]!;
  const [a, b, h, w] = projection.eye;
  const from: WorldPoint = w === 0 ? { a: row(0), b: row(3), h: row(6) } : { a, b, h };
  const way = unitWorld(w === 0 ? { a: -a, b: -b, h: -h } : { a: row(0), b: row(3), h: row(6) })!;
  const off = subtractWorld(from, centre);
  const along = dotWorld(off, way);
  const square = along * along - dotWorld(off, off) + radius * radius;
  const far = -along + (hollow ? 1 : -1) * Math.sqrt(Math.max(0, square));
  const unit = unitWorld(addWorld(off, scaleWorld(way, far))) ?? way;
  const cap = square < 2 * radius * OUTLINE ? seenCap(projection, sphere) : null;
  return cap ? onRim(cap, unit) : unit;
}

/** The direction on a cap's rim that is nearest to another. */
function onRim({ axis, low }: Cap, unit: WorldPoint): WorldPoint {
  const across = unitWorld(subtractWorld(unit, scaleWorld(axis, dotWorld(unit, axis)))) ?? directionsAcross(axis)[0];
  return addWorld(scaleWorld(axis, low), scaleWorld(across, Math.sqrt(Math.max(0, 1 - low * low))));
}

/** Places along a cap's rim from one to another, the way round whose middle lies in the shadow. */
function rimBetween(cap: Cap, from: WorldPoint, to: WorldPoint, inside: (unit: WorldPoint) => boolean): readonly WorldPoint[] {
  const { axis } = cap;
  const [u] = directionsAcross(axis);
  const v = crossWorld(axis, u);
  const angle = (unit: WorldPoint): number => Math.atan2(dotWorld(unit, v), dotWorld(unit, u));
  const start = angle(from);
  const short = Math.atan2(Math.sin(angle(to) - start), Math.cos(angle(to) - start));
  const at = (turned: number): WorldPoint => onRim(cap, addWorld(scaleWorld(u, Math.cos(start + turned)), scaleWorld(v, Math.sin(start + turned))));
  const long = short - Math.sign(short) * 2 * Math.PI;
  const turn = inside(at(short / 2)) || !inside(at(long / 2)) ? short : long;
  const count = Math.ceil(Math.abs(turn) / ANGLE);
  return Array.from({ length: Math.max(0, count - 1) }, (_, i) => at((turn * (i + 1)) / count));
}
