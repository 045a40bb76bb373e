import { keptBy } from '../math/keep';
import { pathBox, flattenPath, joinPaths, polygonPath, type Path } from '../shape/path';
import { ClipType, combineRings, FillRule, type Path64 } from '../shape/flat-areas';
import type { Ink, Mark } from './marks';
import { strokeArea } from './stroke-area';

/** Whole steps along the longer side of what is covered, and chords in steps, in which areas are put together. */
const [STEPS, CHORD] = [4_000_000, 400];

/** Strength from which something covers what lies behind it. */
const COVERS = 0.98;

const covers = (ink: Ink): boolean => (ink.kind === 'flat' ? ink.strength >= COVERS : ink.stops.every(({ strength }) => strength >= COVERS));

/**
 * The area that marks cover, as rings to be filled by winding, within less than a thousandth of their size: fills, and lines
 * as wide as they are, all within their clips. What lets through what lies behind does not cover it, and of bitmaps only
 * their px tell: neither counts. Made once for each list.
 */
export const coverageOf = keptBy(covered);

function covered(marks: readonly Mark[]): Path {
  let reach = 0;
  const measure = (mark: Mark): void => {
    if (mark.kind === 'group') return mark.marks.forEach(measure);
    const box = pathBox(mark.path);
    if (box) reach = Math.max(reach, Math.abs(box.minX), Math.abs(box.minY), Math.abs(box.maxX), Math.abs(box.maxY));
  };
  marks.forEach(measure);
  if (reach === 0) return { verbs: '', coords: [] };
  const k = STEPS / reach;
  const rings = union(
    marks.flatMap((mark) => ringsOf(mark, k)),
    FillRule.NonZero,
  );
  return joinPaths(rings.map((ring) => polygonPath(ring.flatMap(({ x, y }) => [x / k, y / k]))));
}

const union = (rings: readonly Path64[], rule: FillRule): Path64[] => (rings.length === 0 ? [] : combineRings(ClipType.Union, rings, [], rule));

function flat(path: Path, k: number): Path64[] {
  return flattenPath(path, CHORD / k).map((ring) =>
    Array.from({ length: ring.length / 2 }, (_, i) => ({ x: Math.round(ring[2 * i]! * k), y: Math.round(ring[2 * i + 1]! * k) })),
  );
}

/** What a mark covers, as rings of one winding that do not cross. */
function ringsOf(mark: Mark, k: number): Path64[] {
  if (mark.kind === 'image') return [];
  if (mark.kind === 'path') {
    const line = mark.line && covers(mark.line.ink) ? union(flat(strokeArea(mark.path, mark.line, CHORD / k), k), FillRule.NonZero) : [];
    return [...(mark.fill && covers(mark.fill) ? union(flat(mark.path, k), ruleOf(mark.rule)) : []), ...line];
  }
  if (mark.strength < COVERS || mark.blend) return [];
  const inside = union(
    mark.marks.flatMap((one) => ringsOf(one, k)),
    FillRule.NonZero,
  );
  if (!mark.clip || inside.length === 0) return inside;
  return combineRings(ClipType.Intersection, inside, union(flat(mark.clip.path, k), ruleOf(mark.clip.rule)), FillRule.NonZero);
}

const ruleOf = (rule: 'nonzero' | 'evenodd'): FillRule => (rule === 'nonzero' ? FillRule.NonZero : FillRule.EvenOdd);
