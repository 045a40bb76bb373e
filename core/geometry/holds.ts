import { crossWorld, dotWorld, subtractWorld, type WorldPoint } from '../math/points';
import { worldPoints, type Body } from './body';

/** A direction that runs along nothing that people draw. */
const ASKEW: WorldPoint = { a: 0.31713, b: 0.52931, h: 0.78691 };

/**
 * Whether a place lies inside of a closed body, round sides as their facets: a ray from it leaves once more often than it
 * comes in. On the boundary either may come back.
 */
export function holds({ closed, bounds, surfaces }: Body, at: WorldPoint): boolean {
  if (!closed || (['a', 'b', 'h'] as const).some((axis) => at[axis] < bounds.min[axis] || at[axis] > bounds.max[axis])) return false;
  let crossings = 0;
  for (const { facets } of surfaces) for (const { corners, normal } of facets) if (meets(worldPoints(corners), normal, at)) crossings++;
  return crossings % 2 === 1;
}

/** Whether the ray from a place meets a convex facet. */
function meets(corners: readonly WorldPoint[], normal: WorldPoint, at: WorldPoint): boolean {
  const along = dotWorld(normal, ASKEW);
  const over = dotWorld(normal, subtractWorld(corners[0]!, at));
  if (along === 0 || over / along <= 0) return false;
  // On one side of every edge, as the ray sees them.
  let side = 0;
  for (let i = 0; i < corners.length; i++) {
    const [p, q] = [subtractWorld(corners[i]!, at), subtractWorld(corners[(i + 1) % corners.length]!, at)];
    const turn = Math.sign(dotWorld(crossWorld(p, q), ASKEW));
    if (turn === 0 || (side !== 0 && turn !== side)) return false;
    side = turn;
  }
  return true;
}
