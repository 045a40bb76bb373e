import { gridOf } from '../grid/settings';
import { isometricSetup } from '../projection/setup';

type Data = Record<string, unknown>;

const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Data of format 1 as data of format 2, unchecked: isometric projections become axonometries, the sheet gets a
 * resolution and a scale, the grid its looks, and there are no references yet. What does not look as format 1 had it
 * is left for the schema to complain about.
 */
export function fromVersion1(data: Data): Data {
  const { projection, grid, sheet } = data;
  const isometric = isData(projection) && projection['family'] === 'isometric';
  const measure = isometric && projection['measure'] === 'true' ? 'true' : 'drawing';
  return {
    ...data,
    version: 2,
    sheet: isData(sheet) ? { ...sheet, resolution: 300, scale: 1 } : sheet,
    projection: isometric ? { ...isometricSetup({ x: 0, y: 0 }, measure), origin: projection['origin'] } : projection,
    grid: isData(grid) ? { ...gridOf(1), ...grid } : grid,
    bitmaps: [],
    references: [],
    strokes: [],
  };
}

/** Data of format 2 as data of format 3, unchecked: there is no palette yet. */
export function fromVersion2(data: Data): Data {
  return { ...data, version: 3, swatches: [] };
}

/** A kept edit of format 1 as one of format 2, unchecked: those that set the projection or the grid. */
export function editFromVersion1(edit: unknown): unknown {
  if (!isData(edit)) return edit;
  if (edit['kind'] === 'projection' && isData(edit['projection']) && 'family' in edit['projection']) {
    return { ...edit, projection: fromVersion1({ projection: edit['projection'] })['projection'] };
  }
  if (edit['kind'] === 'grid' && isData(edit['grid']) && !('lines' in edit['grid'])) return { ...edit, grid: { ...gridOf(1), ...edit['grid'] } };
  return edit;
}

/** Data of any format up to the present one as data of the present one, unchecked. */
export function toPresentVersion(data: Data): Data {
  const second = data['version'] === 1 ? fromVersion1(data) : data;
  return second['version'] === 2 ? fromVersion2(second) : second;
}
