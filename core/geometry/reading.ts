import { addWorld, dotWorld, scaleWorld, type WorldPoint } from '../math/points';
import { planeFrame, readingDirections, type Plane, type PlaneFrame } from '../projection/planes';
import { worldPoints, type Surface } from './body';

/** A reading frame with the size of what is read in it, in cells. */
export interface ReadingFrame extends PlaneFrame {
  readonly width: number;
  readonly height: number;
}

/** The reading frame of a plane, in cells: x right and y down as text stands on it, from the plane's own origin; null for the sheet. */
export function planeReadingFrame(plane: Plane): PlaneFrame | null {
  const frame = planeFrame(plane, 1);
  if (!frame) return null;
  const { right, down } = readingDirections(frame.normal);
  return { origin: frame.origin, u: right, v: down, normal: frame.normal };
}

/**
 * The frame in which a flat surface is read, in cells: x to the right and y down as text would stand on it, from the
 * upper left corner of the surface's box. Upright surfaces have y straight down, level ones have x along a. Null for
 * surfaces that are not flat.
 */
export function surfaceReadingFrame({ form, loops }: Surface): ReadingFrame | null {
  const [loop] = loops;
  if (form.kind !== 'flat' || !loop) return null;
  const { normal } = form.frame;
  const { right, down } = readingDirections(normal);
  const corners = worldPoints(loop);
  const [x, y] = [spanOf(corners, right), spanOf(corners, down)];
  const level = corners[0] ? dotWorld(corners[0], normal) : 0;
  const origin = addWorld(addWorld(scaleWorld(right, x.min), scaleWorld(down, y.min)), scaleWorld(normal, level));
  return { origin, u: right, v: down, normal, width: x.max - x.min, height: y.max - y.min };
}

function spanOf(points: readonly WorldPoint[], along: WorldPoint): { readonly min: number; readonly max: number } {
  let [min, max] = [Infinity, -Infinity];
  for (const point of points) {
    const at = dotWorld(point, along);
    if (at < min) min = at;
    if (at > max) max = at;
  }
  return { min, max };
}
