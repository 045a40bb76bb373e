import type { Mark } from '../artwork/marks';
import { keptBy } from '../math/keep';
import { flattenPath, type Path } from '../shape/path';

/** Distance in mm within which curves are followed. */
const CHORDS = 0.002;

const flat = keptBy((path: Path) => {
  const rings = flattenPath(path, CHORDS);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      [minX, maxX] = [Math.min(minX, ring[i]!), Math.max(maxX, ring[i]!)];
      [minY, maxY] = [Math.min(minY, ring[i + 1]!), Math.max(maxY, ring[i + 1]!)];
    }
  return { rings, minX, minY, maxX, maxY };
});

/** Whether a path filled by a rule covers a place of the sheet. */
export function coversPlace(path: Path, rule: 'evenodd' | 'nonzero', x: number, y: number): boolean {
  const { rings, minX, minY, maxX, maxY } = flat(path);
  if (x < minX || x > maxX || y < minY || y > maxY) return false;
  let winding = 0;
  for (const ring of rings) {
    const n = ring.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const [x0, y0, x1, y1] = [ring[j]!, ring[j + 1]!, ring[i]!, ring[i + 1]!];
      if (y0 > y === y1 > y || x >= x0 + ((y - y0) * (x1 - x0)) / (y1 - y0)) continue;
      winding += y1 > y0 ? 1 : -1;
    }
  }
  return rule === 'evenodd' ? winding % 2 !== 0 : winding !== 0;
}

/** The fills that cover a place of the sheet, the last painted first: colours, of gradients that of a stop in their middle. Lines do not count. */
export function coloursAt(marks: readonly Mark[], x: number, y: number): readonly string[] {
  return [...marks].reverse().flatMap((mark): readonly string[] => {
    if (mark.kind === 'group') return !mark.clip || coversPlace(mark.clip.path, mark.clip.rule, x, y) ? coloursAt(mark.marks, x, y) : [];
    if (mark.kind === 'image' || !mark.fill || !coversPlace(mark.path, mark.rule, x, y)) return [];
    return [mark.fill.kind === 'flat' ? mark.fill.colour : mark.fill.stops[mark.fill.stops.length >> 1]!.colour];
  });
}
