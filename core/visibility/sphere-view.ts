import { bandOfCaps, commonCap, type Arc, type Cap, type Sphere } from '../geometry/sphere';
import { lengthWorld, scaleWorld, subtractWorld, unitWorld } from '../math/points';
import { sheetFromFrame } from '../projection/planes';
import type { EyeMatrix } from '../projection/projection';
import { drawSegments } from '../shape/draw-segments';
import { joinPaths, type Path } from '../shape/path';

/**
 * What an eye sees of a whole sphere: half of it from far off, less from near by, and of a hollow one the other side.
 * Null from within; a hollow one is then seen all round.
 */
export function seenCap({ eye: [a, b, h, w] }: EyeMatrix, { centre, radius, hollow }: Sphere): Cap | null {
  const side = hollow ? -1 : 1;
  if (w === 0) {
    const axis = unitWorld({ a, b, h });
    return axis && { axis: scaleWorld(axis, side), low: 0 };
  }
  const towards = subtractWorld({ a: a / w, b: b / w, h: h / w }, centre);
  const distance = lengthWorld(towards);
  if (distance <= radius) return hollow ? { axis: { a: 0, b: 0, h: 1 }, low: -1 } : null;
  return { axis: scaleWorld(towards, side / distance), low: (side * radius) / distance };
}

/**
 * The exact path of what an eye sees of a sphere, or of what of that lies in a further cap: conics throughout. Null
 * where a part lies before the near plane, an empty path where there is nothing.
 * @param error as in `drawSegments`
 */
export function spherePath(projection: EyeMatrix, sphere: Sphere, cap: Cap = sphere, error: number | null = null): Path | null {
  const seen = seenCap(projection, sphere);
  const rings = seen && commonCap(sphere, seen, cap);
  if (!rings) return { verbs: '', coords: [] };
  const paths = rings.map((ring) => ringPath(projection, ring, error));
  return paths.every((path) => path !== null) ? joinPaths(paths) : null;
}

/**
 * The exact path of what an eye sees of the band between two caps about one direction: of `outer` without `inner`. Null
 * and empty as in `spherePath`.
 */
export function bandPath(projection: EyeMatrix, sphere: Sphere, outer: Cap, inner: Cap): Path | null {
  const seen = seenCap(projection, sphere);
  const rings = seen && bandOfCaps(sphere, seen, outer, inner);
  if (!rings) return { verbs: '', coords: [] };
  const paths = rings.map((ring) => ringPath(projection, ring, null));
  return paths.every((path) => path !== null) ? joinPaths(paths) : null;
}

function ringPath(projection: EyeMatrix, ring: readonly Arc[], error: number | null): Path | null {
  let verbs = '';
  const coords: number[] = [];
  for (const { frame, segments, closed } of ring) {
    const path = drawSegments(segments, closed, sheetFromFrame(projection, frame), projection.near, error);
    if (!path) return null;
    if (closed) return path;
    // Each piece begins where the one before it ends.
    verbs += verbs === '' ? path.verbs : path.verbs.slice(1);
    for (let i = coords.length === 0 ? 0 : 2; i < path.coords.length; i++) coords.push(path.coords[i]!);
  }
  return { verbs: `${verbs}Z`, coords };
}
