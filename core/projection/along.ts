import { lengthWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { SQUARE } from '../math/tolerances';
import type { EyeMatrix } from './projection';

/**
 * How far along a direction from a place of the world a point of the sheet is: of the places on that line, the one that
 * is drawn beside the point. In lengths of the direction; exact in perspective too. Null where the line is seen as a
 * point, or runs beyond its vanishing point there.
 * @param from in the projection's units, as the direction is
 */
export function lengthAlong({ matrix: m }: EyeMatrix, from: WorldPoint, direction: WorldPoint, at: SheetPoint): number | null {
  const row = (k: number, p: WorldPoint, w: number): number => m[k]! * p.a + m[k + 1]! * p.b + m[k + 2]! * p.h + m[k + 3]! * w;
  const [x0, y0, w0] = [row(0, from, 1), row(4, from, 1), row(8, from, 1)];
  const [x1, y1, w1] = [row(0, direction, 0), row(4, direction, 0), row(8, direction, 0)];
  if (!(w0 > 0)) return null;
  const foot = { x: x0 / w0, y: y0 / w0 };
  // How the drawn place moves: along one straight line, whatever the projection.
  const [dx, dy] = [x1 - w1 * foot.x, y1 - w1 * foot.y];
  const square = dx * dx + dy * dy;
  const size = Math.hypot(m[0]!, m[1]!, m[2]!, m[4]!, m[5]!, m[6]!) * lengthWorld(direction);
  if (Math.sqrt(square) <= SQUARE * size) return null;
  const k = (at.x - foot.x) * dx + (at.y - foot.y) * dy;
  const t = (k * w0) / (square - k * w1);
  return Number.isFinite(t) && w0 + t * w1 > 0 ? t : null;
}
