import { flatInk, type GroupMark, type PathMark } from '../artwork/marks';
import { gridLines, type LineFamily, type SheetBox } from '../grid/lines';
import { PLANE_COLOURS, type GridSettings, type LineLook } from '../grid/settings';
import { IDENTITY } from '../math/matrix';
import { axesOf, planeName, sheetFromPlane, type Plane } from '../projection/planes';
import type { Projection } from '../projection/projection';

/** How fine a grid can be shown. */
export interface GridScale {
  /** Screen px to the mm of the sheet; 96/25.4 when it is handed over. */
  readonly pxPerMm: number;
  /** Thinnest line in mm: one px on the screen, 0 when it is handed over. */
  readonly leastWidth: number;
}

/** The planes whose grid is shown: the one that is drawn on, or those chosen once and for all, at no offset. */
export function gridPlanes(grid: GridSettings, active: Plane): readonly Plane[] {
  if (grid.planes === 'active' || active.kind === 'sheet') return [active];
  return grid.planes.map((kind) => (kind === active.kind ? active : { kind, offset: 0 }));
}

/** A line beyond a full one is drawn in one of so many strengths, so that lines of one strength are one path. */
const STRENGTHS = 24;

/**
 * The grid as marks: a named group for each plane and each family of lines, lines of one look in one path. The same
 * marks are shown, exported and printed.
 */
export function gridMarks(projection: Projection, grid: GridSettings, active: Plane, seen: SheetBox, scale: GridScale): readonly GroupMark[] {
  const planes = gridPlanes(grid, active);
  // Planes share an axis, and lines along it may fall on each other on the sheet: each is drawn once.
  const drawn = planes.length > 1 ? new Set<string>() : null;
  return planes.flatMap((plane): GroupMark[] => {
    const axes = axesOf(plane);
    const extent = plane.kind === 'sheet' || plane.kind === 'free' ? null : grid.extents[plane.kind];
    const look = { closest: grid.closest / scale.pxPerMm, bold: grid.bold, fading: grid.fading, extent };
    const families = gridLines(sheetFromPlane(projection, plane, grid.cell), seen, look);
    const name = `grid, ${planeName(plane.kind, projection.setup)}`;
    const marks = families.flatMap((whole): GroupMark[] => {
      const family = drawn ? withoutDrawn(whole, drawn) : whole;
      // Lines along which u is constant run along v.
      const axis = axes && axes[family.across === 'u' ? 'v' : 'u'];
      const lines = grid.lines[axis ?? (family.across === 'u' ? 'b' : 'a')];
      if (!lines.shown || family.indices.length === 0) return [];
      const along = axis ? `along ${axis}` : family.across === 'u' ? 'down' : 'across';
      const paths = familyPaths(family, lines, grid.bold, lines.colour ?? PLANE_COLOURS[plane.kind], scale.leastWidth);
      return [{ kind: 'group', node: null, name: `${name}, ${along}`, clip: null, strength: 1, marks: paths }];
    });
    return marks.length > 0 ? [{ kind: 'group', node: null, name, clip: null, strength: 1, marks }] : [];
  });
}

/** The lines of a family that do not fall on one of those drawn before, to a ten thousandth of a mm; they are drawn then. */
function withoutDrawn(family: LineFamily, drawn: Set<string>): LineFamily {
  const kept: number[] = [];
  family.indices.forEach((_, i) => {
    const [x0, y0, x1, y1] = [0, 1, 2, 3].map((k) => Math.round(family.ends[4 * i + k]! * 1e4)) as [number, number, number, number];
    const key = x0 < x1 || (x0 === x1 && y0 < y1) ? `${x0} ${y0} ${x1} ${y1}` : `${x1} ${y1} ${x0} ${y0}`;
    if (!drawn.has(key)) kept.push(i);
    drawn.add(key);
  });
  if (kept.length === family.indices.length) return family;
  return {
    across: family.across,
    indices: kept.map((i) => family.indices[i]!),
    ends: kept.flatMap((i) => family.ends.slice(4 * i, 4 * i + 4)),
    strengths: kept.map((i) => family.strengths[i]!),
  };
}

function familyPaths(family: LineFamily, lines: LineLook, bold: number, colour: string, leastWidth: number): PathMark[] {
  const paths = new Map<number, { verbs: string; coords: number[]; strength: number; width: number }>();
  family.indices.forEach((index, i) => {
    const rank = index === 0 ? 2 : bold > 1 && index % bold === 0 ? 1 : 0;
    const strength = Math.min(1, lines.strength * (rank === 2 ? 1.5 : rank === 1 ? 1 : 0.5)) * family.strengths[i]!;
    const step = Math.max(1, Math.round(strength * STRENGTHS * 4));
    const key = step * 3 + rank;
    let path = paths.get(key);
    if (!path) {
      const width = Math.max(leastWidth, lines.weight * (rank === 2 ? 2.4 : rank === 1 ? 2 : 1));
      paths.set(key, (path = { verbs: '', coords: [], strength: step / STRENGTHS / 4, width }));
    }
    path.verbs += 'ML';
    for (let k = 4 * i; k < 4 * i + 4; k++) path.coords.push(family.ends[k]!);
  });
  return [...paths.values()].map(({ verbs, coords, strength, width }) => ({
    kind: 'path',
    path: { verbs, coords },
    fill: null,
    rule: 'nonzero',
    line: { ink: flatInk(colour, strength), width, cap: 'butt', join: 'miter', miterLimit: 4, dashes: [], pen: IDENTITY },
  }));
}

/** How many cells the finest lines are apart that a grid shows at some size: 1, or a power of the bold count; null where none are shown. */
export function finestStep(projection: Projection, grid: GridSettings, active: Plane, seen: SheetBox, pxPerMm: number): number | null {
  const look = { closest: grid.closest / pxPerMm, bold: grid.bold, fading: 0, extent: null };
  const [family] = gridLines(sheetFromPlane(projection, active, grid.cell), seen, look);
  let finest: number | null = null;
  for (const index of family?.indices ?? []) {
    let step = 1;
    const n = grid.bold > 1 ? grid.bold : 5;
    while (index !== 0 && step < 1e6 && index % (step * n) === 0) step *= n;
    if (index !== 0 && (finest === null || step < finest)) finest = step;
    if (finest === 1) break;
  }
  return finest;
}
