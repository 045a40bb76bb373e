import type { Axis, WorldPoint } from '../math/points';
import type { Surface } from './body';
import { UNIT } from '../math/tolerances';

/** The axis that a direction runs along and its sense, or null for a slanting one. */
export function axisOf(direction: WorldPoint): { readonly axis: Axis; readonly sense: 1 | -1 } | null {
  for (const axis of ['a', 'b', 'h'] as const) {
    if (Math.abs(Math.abs(direction[axis]) - 1) < UNIT) return { axis, sense: direction[axis] > 0 ? 1 : -1 };
  }
  return null;
}

/** What people call a flat surface with this outward normal: top, underside, left, right, back left, back right, or slanting side. */
export function faceWord(normal: WorldPoint): string {
  const along = axisOf(normal);
  if (!along) return normal.h > UNIT ? 'slope' : normal.h < -UNIT ? 'overhang' : 'slanting side';
  if (along.axis === 'h') return along.sense > 0 ? 'top' : 'underside';
  if (along.axis === 'a') return along.sense < 0 ? 'left side' : 'far right side';
  return along.sense < 0 ? 'right side' : 'far left side';
}

/** What people call a surface. */
export function surfaceWord({ form }: Surface): string {
  return form.kind === 'flat' ? faceWord(form.frame.normal) : 'round side';
}
