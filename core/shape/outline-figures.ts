import { doubleAreaOf } from './from-segments';
import { ringsOf, type Outline } from './outline';
import { flattenOutline, outlineSegments } from './segments';

/** Chords that lengths of curves are summed over stray from them by less, in cells. */
const LENGTH_CHORDS = 1e-4;

/** How long an outline is, holes included, in cells, and the area that it bounds in square cells; null where it is open. */
export function outlineFigures(outline: Outline): { readonly length: number; readonly area: number | null } {
  let [length, area] = [0, 0];
  ringsOf(outline).forEach((ring, i) => {
    const points = flattenOutline(ring, LENGTH_CHORDS);
    const closed = ring.closed && points[0] ? [...points, points[0]] : points;
    for (let k = 1; k < closed.length; k++) length += Math.hypot(closed[k]!.u - closed[k - 1]!.u, closed[k]!.v - closed[k - 1]!.v);
    area += (i === 0 ? 0.5 : -0.5) * Math.abs(doubleAreaOf(outlineSegments(ring)));
  });
  return { length, area: outline.closed ? area : null };
}
