import { gridOf } from '../grid/settings';
import { anchorIn, readingFrameOf, SHEET_READING } from '../geometry/anchor';
import { surfaceNamed } from '../geometry/body';
import { depthBody, type Extruded } from '../geometry/depth-recipe';
import type { Plane, PlaneFrame } from '../projection/planes';
import { isometricSetup } from '../projection/setup';
import type { Edit } from './edits';
import { nodesById } from './tree';
import type { CheminDocument } from './types';

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

/**
 * Data of format 3 as data of format 4, unchecked: artwork is anchored in the world instead of in the box of its face,
 * and bitmaps are named by what they hold.
 */
export function fromVersion3(data: Data): Data {
  const nodes = data['nodes'];
  const bitmaps = data['bitmaps'];
  return {
    ...data,
    version: 4,
    nodes: Array.isArray(nodes) ? anchored(nodes, (id) => rawNode(nodes, id)) : nodes,
    bitmaps: Array.isArray(bitmaps) ? bitmaps.map(namedBitmap) : bitmaps,
  };
}

/** A raw bitmap without its bytes. Those kept in this browser had the first half of their hash as their id. */
export function namedBitmap(bitmap: unknown): unknown {
  if (!isData(bitmap) || 'asset' in bitmap) return bitmap;
  const { data: _, ...rest } = bitmap;
  return { ...rest, asset: bitmap['id'] };
}

/** Raw nodes with the boxes of their placements as anchors. */
function anchored(nodes: readonly unknown[], find: (id: unknown) => unknown): readonly unknown[] {
  return nodes.map((node) => {
    if (!isData(node)) return node;
    if (Array.isArray(node['children'])) return { ...node, children: anchored(node['children'], find) };
    return node['kind'] === 'placement' && isData(node['box']) ? withAnchor(node, find) : node;
  });
}

/** A raw placement, or an edit that places one, with an anchor in place of its box; as it is where its box or host makes no sense. */
function withAnchor({ box, ...rest }: Data, find: (id: unknown) => unknown): Data {
  const target = rest['target'];
  const frame = isData(target) ? readingFrameOfRaw(target, find) : null;
  const numbers = isData(box) ? ['x', 'y', 'width', 'height'].map((key) => box[key]) : [];
  if (!numbers.every((n) => typeof n === 'number' && Number.isFinite(n)) || numbers.length === 0) return { ...rest, box };
  const [x, y, width, height] = numbers as [number, number, number, number];
  return { ...rest, anchor: anchorIn(frame ?? SHEET_READING, { x, y, width, height }) };
}

function readingFrameOfRaw(target: Data, find: (id: unknown) => unknown): PlaneFrame | null {
  try {
    if (target['kind'] === 'plane') return readingFrameOf(target['plane'] as Plane);
    const host = find(target['node']);
    const surface = isData(host) && host['kind'] === 'shape' ? surfaceNamed(depthBody(host as unknown as Extruded), String(target['face'])) : null;
    return surface && readingFrameOf(surface);
  } catch {
    // What the host is will be told by the schema.
    return null;
  }
}

/** Whether raw data holds a placement by its box. */
function holdsBox(data: unknown): boolean {
  if (!isData(data)) return false;
  if (isData(data['box']) && (data['kind'] === 'place' || data['kind'] === 'placement')) return true;
  return ['nodes', 'children', 'edits'].some((key) => Array.isArray(data[key]) && (data[key] as unknown[]).some(holdsBox));
}

function rawNode(nodes: readonly unknown[], id: unknown): unknown {
  for (const node of nodes) {
    if (!isData(node)) continue;
    if (node['id'] === id) return node;
    const inside = Array.isArray(node['children']) ? rawNode(node['children'], id) : undefined;
    if (inside) return inside;
  }
  return undefined;
}

/**
 * A kept edit of format 3 as one of format 4, unchecked: those that bring or place artwork.
 * @param document what it was made to, for the faces that artwork lies on
 */
export function editFromVersion3(edit: unknown, document: CheminDocument): unknown {
  if (!isData(edit)) return edit;
  const brought = Array.isArray(edit['nodes']) ? edit['nodes'] : [];
  if (edit['kind'] === 'add-reference') return { ...edit, bitmap: namedBitmap(edit['bitmap']) };
  if (!holdsBox(edit) && !Array.isArray(edit['edits'])) return edit;
  const find = (id: unknown): unknown => rawNode(brought, id) ?? (typeof id === 'string' ? nodesById(document.nodes).get(id) : undefined);
  if (Array.isArray(edit['edits'])) return { ...edit, edits: edit['edits'].map((part) => editFromVersion3(part, document)) };
  if (edit['kind'] === 'place') return withAnchor(edit, find);
  return brought.length > 0 ? { ...edit, nodes: anchored(brought, find) } : edit;
}

/** A kept edit of any format as one of the present format, unchecked; the same object where it is one. */
export function presentEdit(edit: Edit, document: CheminDocument): Edit {
  return editFromVersion3(editFromVersion1(edit), document) as Edit;
}

/** Data of any format up to the present one as data of the present one, unchecked. */
export function toPresentVersion(data: Data): Data {
  const second = data['version'] === 1 ? fromVersion1(data) : data;
  const third = second['version'] === 2 ? fromVersion2(second) : second;
  return third['version'] === 3 ? fromVersion3(third) : third;
}
