import { containsPoint } from '../math/polygon';
import { CORNERS } from '../math/tolerances';
import { flattenPath, type Path } from '../shape/path';
import type { Area } from './drawn-body';

/** The rings of a path as areas: each ring that is no hole with the holes in it. */
export function areasOf(path: Path): readonly Area[] {
  const rings = flattenPath(path, CORNERS).filter((ring) => ring.length >= 6);
  if (rings.length < 2) return rings.map((polygon) => ({ polygon }));
  const within = rings.map((ring, i) => rings.flatMap((other, k) => (k !== i && liesWithin(ring, other) ? [k] : [])));
  // Of rings by the even-odd rule, those within an odd number of others are holes, of the smallest around them.
  return rings.flatMap((polygon, i): readonly Area[] => {
    if (within[i]!.length % 2 === 1) return [];
    const holes = rings.filter((_, k) => within[k]!.length === within[i]!.length + 1 && within[k]!.includes(i));
    return [holes.length > 0 ? { polygon, holes } : { polygon }];
  });
}

/** Part of a place's coordinates within which it lies on a boundary. */
const ON_BOUNDARY = 1e-9;

/** Whether a ring lies within another that it does not cross: by a corner that is not one with its boundary, as corners at the near plane may be. */
function liesWithin(ring: readonly number[], other: readonly number[]): boolean {
  for (let i = 0; i < ring.length; i += 2) {
    const [x, y] = [ring[i]!, ring[i + 1]!];
    if (!isOnBoundary(other, x, y)) return containsPoint(other, x, y);
  }
  return containsPoint(other, ring[0]!, ring[1]!);
}

function isOnBoundary(ring: readonly number[], x: number, y: number): boolean {
  const near = ON_BOUNDARY * (1 + Math.abs(x) + Math.abs(y));
  for (let i = 0, k = ring.length - 2; i < ring.length; k = i, i += 2) {
    const [px, py, dx, dy] = [ring[k]!, ring[k + 1]!, ring[i]! - ring[k]!, ring[i + 1]! - ring[k + 1]!];
    const square = dx * dx + dy * dy;
    const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - px) * dx + (y - py) * dy) / square));
    if (Math.abs(x - px - t * dx) < near && Math.abs(y - py - t * dy) < near) return true;
  }
  return false;
}
