import { ClipType, FillRule, InternalClipper, PathType, PointInPolygonResult, type Path64, type Point64 } from 'clipper2-ts/dist/Core.js';
import { Clipper64 } from 'clipper2-ts/dist/Engine.js';

/**
 * Areas on whole numbers, combined by Clipper's sweep (Vatti 1992). Only its engine is brought in, by the files that hold
 * it: its door brings offsets, rectangles and triangulation too, which are as large again.
 */
export { ClipType, FillRule, PointInPolygonResult, type Path64, type Point64 };

/** The areas of some rings with those of others by an operation; outer rings have a positive area, holes a negative one. */
export function combineRings(operation: ClipType, subject: readonly Path64[], clip: readonly Path64[], rule: FillRule): Path64[] {
  const left: Path64[] = [];
  const engine = new Clipper64();
  engine.addPaths(subject as Path64[], PathType.Subject);
  if (clip.length > 0) engine.addPaths(clip as Path64[], PathType.Clip);
  engine.execute(operation, rule, left);
  return left;
}

/** What is left of open lines outside of the areas of some rings; null where they could not be cut. */
export function cutLines(lines: readonly Path64[], clip: readonly Path64[]): Path64[] | null {
  const left: Path64[] = [];
  const engine = new Clipper64();
  engine.addOpenSubject(lines as Path64[]);
  engine.addClip(clip as Path64[]);
  return engine.execute(ClipType.Difference, FillRule.NonZero, [], left) ? left : null;
}

/** Signed area in square units: positive for rings that run anticlockwise with y upwards. */
export function ringArea(ring: Path64): number {
  let twice = 0;
  let before = ring[ring.length - 1];
  for (const at of ring) {
    twice += (before!.y + at.y) * (before!.x - at.x);
    before = at;
  }
  return twice / 2;
}

/** The sum of the signed areas of rings: what they bound, holes left out. */
export const ringsArea = (rings: readonly Path64[]): number => rings.reduce((sum, ring) => sum + ringArea(ring), 0);

/** Whether a place lies inside of a ring, outside of it, or on it. */
export const placeInRing = (at: Point64, ring: Path64): PointInPolygonResult => InternalClipper.pointInPolygon(at, ring);
