import { flattenTree } from '../document/tree';
import type { CheminDocument, PlacementNode } from '../document/types';
import type { ReadBox } from '../geometry/anchor';
import type { Surface } from '../geometry/body';
import type { SheetPoint } from '../math/points';
import type { Plane } from '../projection/planes';
import { artworkRoom, readBox } from './reading-places';

/** Lines to which artwork is drawn while it is moved, in cells as its ground is read. */
export interface PlacementLines {
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/** Edges, thirds and the middle of a length. */
const partsOf = (length: number): readonly number[] => [0, length / 3, length / 2, (2 * length) / 3, length];

/**
 * The lines of what a placement lies on: edges, thirds and middles of its face, or of the sheet, and edges and middles of
 * other artwork there.
 */
export function placementLines(document: CheminDocument, node: PlacementNode, ground: Surface | Plane): PlacementLines {
  const { sheet, grid } = document;
  const onSheet = 'kind' in ground && ground.kind === 'sheet';
  const room = onSheet ? { width: sheet.width / grid.cell, height: sheet.height / grid.cell } : 'kind' in ground ? null : artworkRoom(ground);
  const others = flattenTree(document.nodes).flatMap(({ node: other, hidden }) => {
    if (other.kind !== 'placement' || other.id === node.id || hidden || !sameTarget(other, node)) return [];
    return [readBox(ground, other.anchor)];
  });
  return {
    x: [...(room ? partsOf(room.width) : []), ...others.flatMap(({ x, width }) => [x, x + width / 2, x + width])],
    y: [...(room ? partsOf(room.height) : []), ...others.flatMap(({ y, height }) => [y, y + height / 2, y + height])],
  };
}

function sameTarget({ target: p }: PlacementNode, { target: q }: PlacementNode): boolean {
  if (p.kind === 'face') return q.kind === 'face' && p.node === q.node && p.face === q.face;
  return q.kind === 'plane' && p.plane.kind === q.plane.kind && p.plane.offset === q.plane.offset;
}

/** The way by which an edge or the middle of a box comes to lie on a line, of those within reach the shortest change; null where none is. */
export function wayToLine(box: ReadBox, way: SheetPoint, lines: PlacementLines, reach: number): { readonly x: number | null; readonly y: number | null } {
  const along = (from: number, size: number, moved: number, to: readonly number[]): number | null => {
    let [best, least]: [number | null, number] = [null, reach];
    for (const part of [from, from + size / 2, from + size])
      for (const line of to) {
        const off = Math.abs(line - part - moved);
        if (off < least) [best, least] = [line - part, off];
      }
    return best;
  };
  return { x: along(box.x, box.width, way.x, lines.x), y: along(box.y, box.height, way.y, lines.y) };
}
