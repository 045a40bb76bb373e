import { flatInk, type GroupMark } from '../artwork/marks';
import type { CheminDocument } from '../document/types';
import { PLANE_COLOURS } from '../grid/settings';
import { IDENTITY } from '../math/matrix';
import { guideOnSheet } from '../projection/guides';
import { projectionFrom } from '../projection/projection';

/** Width of guides that are handed over, and their dashes in multiples of it. */
const WIDTH_MM = 0.2;
const DASHES = [10, 6];

/** A drawing's guides as marks, thin and dashed in the hue of their planes, for files that ask for them; those that are hidden are left out. */
export function guideMarks({ guides, projection, grid, sheet }: Pick<CheminDocument, 'guides' | 'projection' | 'grid' | 'sheet'>): readonly GroupMark[] {
  const eye = projectionFrom(projection);
  const box = { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height };
  const marks = (guides ?? []).flatMap((guide): GroupMark[] => {
    const ends = guide.hidden ? null : guideOnSheet(eye, guide, grid.cell, box);
    if (!ends) return [];
    const [p, q] = ends;
    const line = { ink: flatInk(PLANE_COLOURS[guide.plane.kind]), width: WIDTH_MM, cap: 'butt', join: 'round', miterLimit: 4, dashes: DASHES.map((d) => d * WIDTH_MM), pen: IDENTITY } as const; // prettier-ignore
    const path = { verbs: 'ML', coords: [p.x, p.y, q.x, q.y] };
    return [{ kind: 'group', node: null, name: guide.name, clip: null, strength: 1, marks: [{ kind: 'path', path, fill: null, rule: 'nonzero', line }] }];
  });
  return marks.length > 0 ? [{ kind: 'group', node: null, name: 'guides', clip: null, strength: 1, marks }] : [];
}
