import type { SheetPoint, WorldPoint } from '../math/points';
import { axesInCamera } from './camera';
import { parallelSetup } from './families';
import { sheetFromWorld, projectionFrom, type Projection } from './projection';
import type { FamilyKey, PerspectiveSetup, ProjectionSetup } from './setup';

/** A box of the world in mm: what a projection is to show. */
export interface WorldBox {
  readonly min: WorldPoint;
  readonly max: WorldPoint;
}

/** The room that something takes on the sheet: the middle and the size of its box. */
export interface Room {
  readonly middle: SheetPoint;
  readonly width: number;
  readonly height: number;
}

/** The eight corners of a box. */
export function boxPoints({ min, max }: WorldBox): readonly WorldPoint[] {
  return [min.a, max.a].flatMap((a) => [min.b, max.b].flatMap((b) => [min.h, max.h].map((h) => ({ a, b, h }))));
}

/** The middle of a box. */
export function boxMiddle({ min, max }: WorldBox): WorldPoint {
  return { a: (min.a + max.a) / 2, b: (min.b + max.b) / 2, h: (min.h + max.h) / 2 };
}

/** The room that a box takes in a projection, or null where a part of it lies before the near plane. */
export function roomOf(projection: Projection, box: WorldBox): Room | null {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const point of boxPoints(box)) {
    const p = sheetFromWorld(projection, point);
    if (!p) return null;
    [minX, maxX] = [Math.min(minX, p.x), Math.max(maxX, p.x)];
    [minY, maxY] = [Math.min(minY, p.y), Math.max(maxY, p.y)];
  }
  return { middle: { x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, width: maxX - minX, height: maxY - minY };
}

/** Turn and tilt that a perspective starts with, in degrees. */
const START: Readonly<Partial<Record<FamilyKey, readonly [number, number]>>> = { 'one-point': [0, 0], 'two-point': [36, 0], 'three-point': [38, 24] };

/** Distance of the eye in lengths of the subject's diagonal: near enough to converge, far enough to stay in the cone. */
const DISTANCE = 1.9;
/** Height of a level eye over the floor, in heights of the subject. */
const EYE_OVER = 1.35;

/**
 * The set-up of a chosen family that shows a subject where it is shown now: parallel families at drawing scale with
 * the subject's middle kept, perspectives with its size on the sheet kept too.
 * @param room where the subject is to stand on the sheet
 */
export function frameFamily(chosen: FamilyKey, subject: WorldBox, room: Room): ProjectionSetup {
  const parallel = parallelSetup(chosen, { x: 0, y: 0 });
  if (parallel) {
    const now = roomOf(projectionFrom(parallel), subject);
    const { x, y } = now ? now.middle : { x: 0, y: 0 };
    return { ...parallel, origin: { x: room.middle.x - x, y: room.middle.y - y } };
  }
  const [turnDeg, tiltDeg] = START[chosen] ?? [36, 0];
  return fitRoom(aimedAt(chosen, turnDeg, tiltDeg, subject), subject, room);
}

/** A camera that looks at the middle of a subject, from over its height where it looks straight ahead. */
function aimedAt(chosen: FamilyKey, turnDeg: number, tiltDeg: number, subject: WorldBox): PerspectiveSetup {
  const { min, max } = subject;
  const middle = boxMiddle(subject);
  const diagonal = Math.hypot(max.a - min.a, max.b - min.b, max.h - min.h);
  const axes = axesInCamera({ turnDeg, tiltDeg, rollDeg: 0 });
  const back = DISTANCE * diagonal;
  const over = Math.max(max.h - min.h, diagonal / 4) * EYE_OVER + min.h;
  const eye = {
    a: middle.a - axes.a.z * back,
    b: middle.b - axes.b.z * back,
    h: tiltDeg === 0 ? Math.max(over, diagonal / 8) : middle.h - axes.h.z * back,
  };
  return { kind: 'perspective', chosen, focal: 100, principal: { x: 0, y: 0 }, turnDeg, tiltDeg, rollDeg: 0, eye };
}

/** A perspective enlarged and shifted until a subject fits a room; the eye and every direction stay. */
export function fitRoom(setup: PerspectiveSetup, subject: WorldBox, room: Room): PerspectiveSetup {
  const now = roomOf(projectionFrom(setup), subject);
  if (!now || now.width === 0 || now.height === 0) return setup;
  const k = Math.min(room.width / now.width, room.height / now.height);
  const { principal: p, focal } = setup;
  const shift = (to: number, at: number, from: number): number => to + (from - at) * k;
  return { ...setup, focal: focal * k, principal: { x: shift(room.middle.x, now.middle.x, p.x), y: shift(room.middle.y, now.middle.y, p.y) } };
}

/**
 * A perspective with its eye at a height and everything else about its view kept, and a subject in its old room. This
 * is what presets by eye height do.
 */
export function lookFrom(setup: PerspectiveSetup, height: number, subject: WorldBox): PerspectiveSetup {
  const room = roomOf(projectionFrom(setup), subject);
  const lifted = { ...setup, eye: { ...setup.eye, h: height } };
  return room ? fitRoom(lifted, subject, room) : lifted;
}

/** Eye heights that people draw from, in metres of the real thing. */
export const EYE_HEIGHTS: readonly { readonly name: string; readonly metres: number }[] = [
  { name: 'lying', metres: 0.3 },
  { name: 'seated', metres: 1.2 },
  { name: 'standing', metres: 1.6 },
  { name: 'raised platform', metres: 3 },
  { name: 'roof', metres: 8 },
  { name: 'mast', metres: 25 },
];
