import { turningPlace } from '../math/turning-place';
import { keptBy } from '../math/keep';
import { ruledNormal, ruledPoint, type Ruled } from '../geometry/ruled';
import { dotWorld } from '../math/points';
import { sheetFromFrame } from '../projection/planes';
import type { EyeMatrix } from '../projection/projection';
import { drawSegments } from '../shape/draw-segments';
import { joinPaths, reversePath, type Path } from '../shape/path';
import type { Segment } from '../shape/segments';
import { sliceSegment } from '../shape/split';

/** A stretch of a directrix, from one parameter to another. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** How often the sign of a ruled surface's facing is looked at in each segment to find where it turns away. */
const LOOKS = 24;

/** Each look lies inside its segment: at joints there may be no tangent. */
const lookAt = (i: number): number => (i + 0.5) / LOOKS;

/**
 * Normals of a ruled surface where it is looked at, four numbers each: the normal and its product with the place. What does
 * not depend on the eye is taken once.
 */
const looksOf = keptBy((ruled: Ruled): Float64Array => {
  const count = ruled.directrix.length * LOOKS;
  const made = new Float64Array(4 * count);
  for (let i = 0; i < count; i++) {
    const normal = ruledNormal(ruled, lookAt(i));
    made.set([normal.a, normal.b, normal.h, dotWorld(normal, ruledPoint(ruled, lookAt(i), 0))], 4 * i);
  }
  return made;
});

/** The stretches of a ruled surface that are turned to the viewer, as parameters; bounded where it turns away. */
export function seenStretches({ eye }: EyeMatrix, ruled: Ruled): readonly Stretch[] {
  const towards = (s: number): number => {
    const normal = ruledNormal(ruled, s);
    return normal.a * eye[0] + normal.b * eye[1] + normal.h * eye[2] - (eye[3] === 0 ? 0 : eye[3] * dotWorld(normal, ruledPoint(ruled, s, 0)));
  };
  const n = ruled.directrix.length;
  const ends: number[] = [];
  const made = looksOf(ruled);
  const count = n * LOOKS;
  const facingAt = (i: number): number => made[4 * i]! * eye[0] + made[4 * i + 1]! * eye[1] + made[4 * i + 2]! * eye[2] - eye[3] * made[4 * i + 3]!;
  let before = facingAt(0);
  const starts = before > 0;
  for (let i = 1; i < count; i++) {
    const now = facingAt(i);
    if (now > 0 !== before > 0) ends.push(turningPlace(towards, lookAt(i - 1), before, lookAt(i), now));
    before = now;
  }
  if (ends.length === 0) return starts ? [{ from: 0, to: n }] : [];
  if (ruled.closed && before > 0 !== starts) ends.push(turningPlace((s) => towards(s % n), lookAt(count - 1), before, lookAt(0) + n, facingAt(0)));
  const stretches: Stretch[] = [];
  if (ruled.closed) {
    // Turning places come in pairs; a stretch that passes the start runs on beyond the last parameter.
    for (let i = starts ? 1 : 0; i < ends.length; i += 2) stretches.push({ from: ends[i]!, to: ends[i + 1] ?? ends[0]! + n });
    return stretches.map(({ from, to }) => (from >= n ? { from: from - n, to: to - n } : { from, to }));
  }
  const all = [...(starts ? [0] : []), ...ends, ...(before > 0 ? [n] : [])];
  for (let i = 0; i + 1 < all.length; i += 2) stretches.push({ from: all[i]!, to: all[i + 1]! });
  return stretches;
}

/** Whether a parameter of a directrix of `n` segments lies in a stretch, which may pass the end. */
export function withinStretch({ from, to }: Stretch, s: number, n: number): boolean {
  return (s >= from && s <= to) || (s + n >= from && s + n <= to);
}

/** The segments of a stretch of a directrix; one that runs on beyond the end comes round to the start. */
export function segmentsOf(directrix: readonly Segment[], { from, to }: Stretch): readonly Segment[] {
  const n = directrix.length;
  const segments: Segment[] = [];
  for (let i = Math.floor(from); i < to; i++) {
    const [start, end] = [Math.max(from - i, 0), Math.min(to - i, 1)];
    if (end > start) segments.push(sliceSegment(directrix[i % n]!, start, end));
  }
  return segments;
}

/**
 * The exact path of a stretch of a ruled surface: along one rim, down a generator, back along the other, up again. All
 * of a closed one is bounded by its rims alone. Null where a part lies before the near plane.
 */
export function ruledPath(projection: EyeMatrix, ruled: Ruled, stretch: Stretch): Path | null {
  const whole = ruled.closed && stretch.to - stretch.from >= ruled.directrix.length;
  const segments = segmentsOf(ruled.directrix, stretch);
  const [near, far] = ruled.rims.map((frame) => drawSegments(segments, whole, sheetFromFrame(projection, frame), projection.near));
  if (!near || !far) return null;
  if (whole) return joinPaths([near, reversePath(far)]);
  const back = reversePath(far);
  return { verbs: `${near.verbs}L${back.verbs.slice(1)}Z`, coords: [...near.coords, ...back.coords] };
}
