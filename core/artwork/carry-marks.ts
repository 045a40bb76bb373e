import type { Affine } from '../math/matrix';
import { pathBox, type Path } from '../shape/path';
import type { FlatMap } from './map-path';
import type { ImageMark, ImagePlace, Mark } from './marks';
import { mappedMark } from './project';

/** How flat marks come to lie on something that is bent. */
export interface Carrying {
  readonly map: FlatMap;
  /** A path on the sheet, as far as it is seen. */
  readonly carry: (path: Path) => Path;
  /** What of a flat path is carried. */
  readonly seen: (path: Path) => Path;
  /** Step in the flat units by which the map's tangent is measured. */
  readonly step: number;
  /** Where a bitmap lies then; null where it cannot. */
  readonly place: (mark: ImageMark) => ImagePlace | null;
}

/** Marks of flat artwork on something that is bent, with their clips; what is not seen is left out. */
export function carriedMarks(marks: readonly Mark[], on: Carrying): readonly Mark[] {
  const { map, carry, seen, step, place } = on;
  const tangentAt = (path: Path): Affine | null => {
    const box = pathBox(seen(path));
    return box && tangentOfMap(map, (box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, step);
  };
  return marks.flatMap((mark): readonly Mark[] => {
    if (mark.kind === 'path') return mappedMark(mark, { map, carry, tangentAt });
    if (mark.kind === 'image') {
      const path = carry(mark.path);
      const placed = path.verbs === '' ? null : place(mark);
      return placed ? [{ ...mark, path, place: placed }] : [];
    }
    const inside = carriedMarks(mark.marks, on);
    if (inside.length === 0) return [];
    const shown = mark.clip && carry(mark.clip.path);
    if (shown?.verbs === '') return [];
    return [{ ...mark, clip: mark.clip && { ...mark.clip, path: shown! }, marks: inside }];
  });
}

/** The affine map that touches a map at a place; null where it leads nowhere. */
function tangentOfMap(map: FlatMap, x: number, y: number, step: number): Affine | null {
  const [at, left, right, above, below] = [map(x, y), map(x - step, y), map(x + step, y), map(x, y - step), map(x, y + step)];
  if (!at || !left || !right || !above || !below) return null;
  const [a, b] = [(right[0] - left[0]) / (2 * step), (right[1] - left[1]) / (2 * step)];
  const [c, d] = [(below[0] - above[0]) / (2 * step), (below[1] - above[1]) / (2 * step)];
  return [a, b, c, d, at[0] - a * x - c * y, at[1] - b * x - d * y];
}
