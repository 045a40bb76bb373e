import type { Axis, SheetPoint } from '../math/points';
import { MAX_FAR, MAX_FOCAL, MIN_EYE_HEIGHT, MIN_FOCAL } from '../math/tolerances';
import { axesInCamera, depthOf, focalFromView, withPointAt } from './camera';
import type { PerspectiveSetup } from './setup';
import { cameraFromThree, cameraFromTwo, horizonOf, vanishingPoints, type CameraAngles, type FromVanishing } from './vanishing';

/**
 * Changing a perspective by hand or by number. The nearest corner is the world's origin. Every function here keeps
 * the corner's place on the sheet and the drawn length of an upright there, unless moving these is its very purpose;
 * what else it keeps stands in its comment.
 */

/** What comes of a wish: the set-up, or why it cannot be and the nearest one that can. */
export type Steered =
  { readonly ok: true; readonly setup: PerspectiveSetup } | { readonly ok: false; readonly reason: string; readonly nearest: PerspectiveSetup };

const CORNER = { a: 0, b: 0, h: 0 };

/** Where the nearest corner is drawn and how deep it lies; null where it is not in front of the eye. */
export function cornerOf(setup: PerspectiveSetup): { readonly at: SheetPoint; readonly depth: number } | null {
  const axes = axesInCamera(setup);
  const { eye, focal, principal } = setup;
  const x = -(axes.a.x * eye.a + axes.b.x * eye.b + axes.h.x * eye.h);
  const y = -(axes.a.y * eye.a + axes.b.y * eye.b + axes.h.y * eye.h);
  const depth = depthOf(setup, CORNER);
  if (!(depth > MIN_FOCAL)) return null;
  return { at: { x: principal.x + (focal * x) / depth, y: principal.y + (focal * y) / depth }, depth };
}

/** A changed camera with the corner where it was and as large as it was. */
function keepingCorner(before: PerspectiveSetup, change: Partial<CameraAngles>): PerspectiveSetup {
  const corner = cornerOf(before);
  const after = { ...before, ...change };
  return corner ? withPointAt(after, CORNER, corner.at, (corner.depth * after.focal) / before.focal) : after;
}

/** Why a camera cannot be kept, or null: figures that are none, or farther off than anything that is drawn. */
function outOfRange({ focal, principal, eye, turnDeg, tiltDeg, rollDeg }: PerspectiveSetup): string | null {
  const places = [principal.x, principal.y, eye.a, eye.b, eye.h];
  if (![focal, ...places, turnDeg, tiltDeg, rollDeg].every(Number.isFinite)) return 'a figure that is given is not a number';
  if (focal > MAX_FOCAL) return 'the eye would be more than 100 km away from the picture';
  return places.some((place) => Math.abs(place) > MAX_FAR) ? 'the eye or its foot would lie more than 1000 km away' : null;
}

/** The one door for changed cameras: refuses what cannot be kept, and an eye in the floor; the nearest possible one stands just above or below it. */
function checked(before: PerspectiveSetup, after: PerspectiveSetup): Steered {
  const beyond = outOfRange(after);
  if (beyond) return { ok: false, reason: beyond, nearest: before };
  const least = MIN_EYE_HEIGHT * before.focal;
  const { h } = after.eye;
  if (Math.abs(h) >= least) return { ok: true, setup: after };
  const side = before.eye.h < 0 ? -1 : 1;
  const corner = cornerOf(after);
  const lifted = { ...after, eye: { ...after.eye, h: side * least } };
  return {
    ok: false,
    reason: 'the eye would lie in the floor, which would be seen as a line',
    nearest: corner ? shiftToCorner(lifted, corner.at) : lifted,
  };
}

/** The same view with the whole picture shifted until the corner is drawn at a place. */
function shiftToCorner(setup: PerspectiveSetup, at: SheetPoint): PerspectiveSetup {
  const now = cornerOf(setup);
  if (!now) return setup;
  const { principal } = setup;
  return { ...setup, principal: { x: principal.x + at.x - now.at.x, y: principal.y + at.y - now.at.y } };
}

function fromVanishing(before: PerspectiveSetup, found: FromVanishing): Steered {
  if (!found.ok) return { ok: false, reason: found.reason, nearest: before };
  if (!(found.camera.focal >= MIN_FOCAL)) return { ok: false, reason: 'the eye would touch the picture', nearest: before };
  return checked(before, keepingCorner(before, found.camera));
}

const between = (p: SheetPoint, q: SheetPoint, t: number): SheetPoint => ({ x: p.x + (q.x - p.x) * t, y: p.y + (q.y - p.y) * t });

/** The farthest that a point may go from where it is towards where it is wanted, by halving; 40 halvings are 1e-12 of the way. */
function nearestPossible(before: PerspectiveSetup, from: SheetPoint, to: SheetPoint, attempt: (at: SheetPoint) => Steered): Steered {
  const wanted = attempt(to);
  if (wanted.ok) return wanted;
  let [possible, impossible] = [0, 1];
  let nearest = before;
  for (let i = 0; i < 40; i++) {
    const t = (possible + impossible) / 2;
    const steered = attempt(between(from, to, t));
    if (steered.ok) [possible, nearest] = [t, steered.setup];
    else impossible = t;
  }
  return { ok: false, reason: wanted.reason, nearest };
}

/**
 * Moves the vanishing point of an axis.
 *
 * - a and b keep to the horizon; each keeps the other and the third. With an upright picture (third at infinity) the
 *   principal point stays; otherwise it becomes the new triangle's orthocentre.
 * - h keeps a and b, and with them the horizon; it may go anywhere that leaves the triangle acute.
 * - In one-point perspective, b takes the horizon and the principal point with it.
 *
 * A point at infinity cannot be dragged; it comes in from there by the turn or the tilt.
 */
export function moveVanishingPoint(setup: PerspectiveSetup, axis: Axis, to: SheetPoint): Steered {
  const points = vanishingPoints(setup);
  const { a, b, h } = points;
  const from = points[axis];
  const horizon = horizonOf(setup);
  if (from.w === 0 || !horizon) {
    return { ok: false, reason: `the vanishing point of ${axis} lies at infinity: change the ${axis === 'h' ? 'tilt' : 'turn'} first`, nearest: setup };
  }
  if (axis === 'b' && a.w === 0 && h.w === 0) return checked(setup, keepingCorner(setup, { principal: to }));
  if (axis === 'h') {
    if (a.w === 0 || b.w === 0) {
      const along = onLine(to, setup.principal, { x: -horizon.along.y, y: horizon.along.x });
      return nearestPossible(setup, from, along, (at) => fromHorizonAndNadir(setup, at));
    }
    return nearestPossible(setup, from, to, (at) => fromVanishing(setup, cameraFromThree({ a, b, h: at })));
  }
  const target = onLine(to, horizon.at, horizon.along);
  const other = axis === 'a' ? b : a;
  if (other.w === 0) {
    // The other runs along the picture: this one is straight ahead, and takes the principal point along with it.
    const by = { x: target.x - from.x, y: target.y - from.y };
    return checked(setup, keepingCorner(setup, { principal: { x: setup.principal.x + by.x, y: setup.principal.y + by.y } }));
  }
  return nearestPossible(setup, from, target, (at) => {
    const pair = axis === 'a' ? { a: at, b } : { a, b: at };
    return fromVanishing(setup, h.w === 0 ? cameraFromTwo(pair.a, pair.b, setup.principal) : cameraFromThree({ ...pair, h }));
  });
}

/** With b straight ahead, h below or above it: the tilt follows from both, the principal point lies between them. */
function fromHorizonAndNadir(setup: PerspectiveSetup, h: SheetPoint): Steered {
  const horizon = horizonOf(setup);
  if (!horizon) return { ok: false, reason: 'there is no horizon', nearest: setup };
  const reach = { x: h.x - setup.principal.x, y: h.y - setup.principal.y };
  const up = { x: horizon.at.x - setup.principal.x, y: horizon.at.y - setup.principal.y };
  const square = -(reach.x * up.x + reach.y * up.y);
  if (!(square > 0)) return { ok: false, reason: 'the principal point has to lie between the horizon and the vanishing point h', nearest: setup };
  const focal = Math.sqrt(square);
  const tiltDeg = (Math.sign(setup.tiltDeg) * Math.atan2(Math.hypot(up.x, up.y), focal) * 180) / Math.PI;
  return checked(setup, keepingCorner(setup, { focal, tiltDeg }));
}

/** The foot of a point on a line. */
function onLine(p: SheetPoint, at: SheetPoint, along: SheetPoint): SheetPoint {
  const t = (p.x - at.x) * along.x + (p.y - at.y) * along.y;
  return { x: at.x + along.x * t, y: at.y + along.y * t };
}

/**
 * Moves the horizon, square to itself, through a point. The vanishing points a and b go with it; h stays, finite or
 * not. The corner stays, so the eye rises or sinks.
 */
export function moveHorizon(setup: PerspectiveSetup, through: SheetPoint): Steered {
  const horizon = horizonOf(setup);
  if (!horizon) return { ok: false, reason: 'looking straight down there is no horizon', nearest: setup };
  const foot = onLine(through, horizon.at, horizon.along);
  const by = { x: through.x - foot.x, y: through.y - foot.y };
  const moved = (p: SheetPoint, t: number): SheetPoint => ({ x: p.x + by.x * t, y: p.y + by.y * t });
  const { a, b, h } = vanishingPoints(setup);
  if (h.w === 0) {
    const wanted = (t: number): Steered => checked(setup, keepingCorner(setup, { principal: moved(setup.principal, t) }));
    return wanted(1);
  }
  return nearestPossible(setup, horizon.at, moved(horizon.at, 1), (at) => {
    const t = by.x * by.x + by.y * by.y === 0 ? 0 : ((at.x - horizon.at.x) * by.x + (at.y - horizon.at.y) * by.y) / (by.x * by.x + by.y * by.y);
    if (a.w === 1 && b.w === 1) return fromVanishing(setup, cameraFromThree({ a: moved(a, t), b: moved(b, t), h }));
    // With an axis along the picture the principal point divides the upright between horizon and h.
    const reach = Math.hypot(at.x - h.x, at.y - h.y);
    const tilt = (Math.abs(setup.tiltDeg) * Math.PI) / 180;
    const focal = reach / (Math.tan(tilt) + 1 / Math.tan(tilt));
    const share = (focal * Math.tan(tilt)) / reach;
    return checked(setup, keepingCorner(setup, { focal, principal: between(at, h, share) }));
  });
}

/** Moves the corner on the sheet. Vanishing points and horizon stay; the eye moves along the picture plane. */
export function moveCorner(setup: PerspectiveSetup, to: SheetPoint): Steered {
  const corner = cornerOf(setup);
  if (!corner) return { ok: false, reason: 'the corner is not in front of the eye', nearest: setup };
  return nearestPossible(setup, corner.at, to, (at) => checked(setup, withPointAt(setup, CORNER, at, corner.depth)));
}

/** Moves everything on the sheet: a shifted view, as by a rising front. The eye stays. */
export function moveWhole(setup: PerspectiveSetup, by: SheetPoint): PerspectiveSetup {
  return { ...setup, principal: { x: setup.principal.x + by.x, y: setup.principal.y + by.y } };
}

/** Turns the picture about its principal point. The eye stays. */
export function rollTo(setup: PerspectiveSetup, rollDeg: number): PerspectiveSetup {
  return { ...setup, rollDeg: ((((rollDeg + 180) % 360) + 360) % 360) - 180 };
}

/** Sets how far a recedes from the picture plane, from 0 (one-point) to below 90. The horizon stays; the eye goes round the corner. */
export function turnTo(setup: PerspectiveSetup, turnDeg: number): Steered {
  const possible = Math.max(0, Math.min(89, turnDeg));
  const steered = checked(setup, keepingCorner(setup, { turnDeg: possible }));
  if (possible === turnDeg || !steered.ok) return steered;
  return { ok: false, reason: 'the turn lies between 0° and 89°; turn the drawing instead', nearest: steered.setup };
}

/** Sets how far the line of sight looks down. The principal point stays; the eye goes over the corner. */
export function tiltTo(setup: PerspectiveSetup, tiltDeg: number): Steered {
  const possible = Math.max(-89, Math.min(89, tiltDeg));
  const steered = checked(setup, keepingCorner(setup, { tiltDeg: possible }));
  if (possible === tiltDeg || !steered.ok) return steered;
  return { ok: false, reason: 'the tilt lies between −89° and 89°', nearest: steered.setup };
}

/** Sets the eye's height over the floor. The corner stays; horizon and vanishing points go up and down together. */
export function eyeHeightTo(setup: PerspectiveSetup, height: number): Steered {
  const corner = cornerOf(setup);
  const lifted = { ...setup, eye: { ...setup.eye, h: height } };
  return checked(setup, corner ? shiftToCorner(lifted, corner.at) : lifted);
}

/** Sets the depth of the corner from the eye. Vanishing points and the corner's place stay; what is drawn grows or shrinks. */
export function distanceTo(setup: PerspectiveSetup, distance: number): Steered {
  const corner = cornerOf(setup);
  if (!corner) return { ok: false, reason: 'the corner is not in front of the eye', nearest: setup };
  const least = MIN_FOCAL * 2;
  if (!(distance >= least)) {
    return { ok: false, reason: 'the eye would reach the corner', nearest: withPointAt(setup, CORNER, corner.at, least) };
  }
  return checked(setup, withPointAt(setup, CORNER, corner.at, distance));
}

/** Sets the angle of view over a width of the sheet. The eye stays; the picture grows or shrinks about the corner. */
export function viewAngleTo(setup: PerspectiveSetup, angleDeg: number, width: number): Steered {
  const possible = Math.max(1, Math.min(150, angleDeg));
  const focal = focalFromView(possible, width);
  const k = focal / setup.focal;
  const about = cornerOf(setup)?.at ?? setup.principal;
  const { principal: p } = setup;
  const after = { ...setup, focal, principal: { x: about.x + (p.x - about.x) * k, y: about.y + (p.y - about.y) * k } };
  if (possible === angleDeg || Number.isNaN(possible)) return checked(setup, after);
  return { ok: false, reason: 'the angle of view lies between 1° and 150°', nearest: after };
}

/**
 * A calmer (factor over 1) or stronger (under 1) perspective: the eye goes back or comes nearer by the factor along
 * its ray through a point of the subject, and the focal length grows with it, so that this point keeps its place and
 * what lies at its depth its size. Directions stay; vanishing points move away from the principal point or towards it.
 */
export function calmer(setup: PerspectiveSetup, factor: number, subject: { readonly a: number; readonly b: number; readonly h: number }): Steered {
  const depth = depthOf(setup, subject);
  const focal = setup.focal * factor;
  if (!(depth > MIN_FOCAL)) return { ok: false, reason: 'the subject is not in front of the eye', nearest: setup };
  if (!(focal >= MIN_FOCAL)) return { ok: false, reason: 'it cannot be made any stronger: the eye would touch the picture', nearest: setup };
  if (focal > MAX_FOCAL) return { ok: false, reason: 'it cannot be made any calmer: it is as good as a parallel projection', nearest: setup };
  const axes = axesInCamera(setup);
  const from = { a: subject.a - setup.eye.a, b: subject.b - setup.eye.b, h: subject.h - setup.eye.h };
  const at = {
    x: setup.principal.x + (setup.focal * (axes.a.x * from.a + axes.b.x * from.b + axes.h.x * from.h)) / depth,
    y: setup.principal.y + (setup.focal * (axes.a.y * from.a + axes.b.y * from.b + axes.h.y * from.h)) / depth,
  };
  return checked(setup, withPointAt({ ...setup, focal }, subject, at, depth * factor));
}
