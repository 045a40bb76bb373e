import { containsPoint } from '../math/polygon';
import type { SheetPoint } from '../math/points';
import type { Area } from '../visibility/drawn-body';
import type { Visible } from './painted';
import type { Picture } from './picture';

/**
 * What is in front at a sheet point, or null for the bare sheet.
 * @param reach sheet units within which an open line counts as hit
 * @param skip nodes that cannot be pointed at, such as locked ones, and parts that are looked through
 */
export function pickAt(picture: Picture, at: SheetPoint, reach: number, skip: (node: string, part: Visible) => boolean = () => false): Visible | null {
  for (let i = picture.visible.length - 1; i >= 0; i--) {
    const part = picture.visible[i]!;
    if (skip(part.node, part)) continue;
    if (part.open ? distanceToPolyline(part.polygon, at) <= reach : isInside(part, at) && (part.inside?.some((area) => isInside(area, at)) ?? true))
      return part;
  }
  return null;
}

/** Holes leave what is seen through them to be pointed at. */
export function isInside({ polygon, holes }: Area, { x, y }: SheetPoint): boolean {
  return containsPoint(polygon, x, y) && !(holes ?? []).some((hole) => containsPoint(hole, x, y));
}

function distanceToPolyline(coords: ArrayLike<number>, at: SheetPoint): number {
  let nearest = Infinity;
  for (let i = 0; i + 3 < coords.length; i += 2) {
    const [x0, y0, x1, y1] = [coords[i]!, coords[i + 1]!, coords[i + 2]!, coords[i + 3]!];
    const square = (x1 - x0) ** 2 + (y1 - y0) ** 2;
    const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((at.x - x0) * (x1 - x0) + (at.y - y0) * (y1 - y0)) / square));
    nearest = Math.min(nearest, Math.hypot(at.x - x0 - t * (x1 - x0), at.y - y0 - t * (y1 - y0)));
  }
  return nearest;
}
