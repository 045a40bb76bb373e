import { CoreError } from '../math/errors';
import { crossWorld, dotWorld, scaleWorld, unitWorld, type WorldPoint } from '../math/points';
import { NEAR_PLANE } from '../math/tolerances';
import type { EyeMatrix, Homogeneous } from './projection';

/**
 * What an eye sees that is not the viewer's: that of the sun, far off in a direction, or of a lamp at a place. Its sheet
 * has no meaning but to compare what it sees; how it is turned about the line of sight follows from that line alone.
 *
 * @param eye homogeneous, in the units of the places that it looks at; w = 0 for a direction towards the eye
 * @param look where an eye at a place looks: a direction in the world, square to its picture; it sees the half of the
 *   world before it. Not needed by an eye far off, which looks at everything
 * @param scale sheet units to one unit of length: of an eye at a place, at a distance of one unit
 * @throws CoreError `bad-argument` where a direction has no length
 */
export function eyeAt(eye: Homogeneous, look: WorldPoint | null, scale: number): EyeMatrix {
  const [a, b, h, w] = eye;
  const away = unitWorld(w === 0 ? { a: -a, b: -b, h: -h } : (look ?? { a: 0, b: 0, h: 0 }));
  if (!away) throw new CoreError('bad-argument', 'An eye needs a direction that it looks in, with a length.', { eye, look });
  const right = rightOf(away);
  const [x, y] = [scaleWorld(right, scale), scaleWorld(crossWorld(away, right), scale)];
  if (w === 0) return { matrix: [x.a, x.b, x.h, 0, y.a, y.b, y.h, 0, 0, 0, 0, 1], eye: [-away.a, -away.b, -away.h, 0], near: 0 };
  const at = { a: a / w, b: b / w, h: h / w };
  const row = (p: WorldPoint): readonly [number, number, number, number] => [p.a, p.b, p.h, -dotWorld(p, at)];
  return { matrix: [...row(x), ...row(y), ...row(away)], eye: [at.a, at.b, at.h, 1], near: NEAR_PLANE };
}

/** A unit vector square to another: level where that is not upright. */
function rightOf(away: WorldPoint): WorldPoint {
  return unitWorld(crossWorld(away, { a: 0, b: 0, h: 1 })) ?? { a: 1, b: 0, h: 0 };
}
