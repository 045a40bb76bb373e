import { independentCopy } from '../document/copy';
import { findShape, flattenTree } from '../document/tree';
import type { CheminDocument, CopyNode, DimensionNode, DocumentNode, PlacementNode, ShapeNode } from '../document/types';
import { dimensionShapes } from './dimension';

/** Something that is drawn: a shape or a placement of the document, or one that a copy or a dimension stands for. */
export interface DrawnNode {
  readonly node: ShapeNode | PlacementNode;
  /** The node of the document that it belongs to. */
  readonly owner: string;
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** What copies and dimensions stood for last time, as long as what they stand for is the same. */
const copies = new WeakMap<CopyNode, { readonly of: DocumentNode; readonly on: string; readonly drawn: readonly (ShapeNode | PlacementNode)[] }>();
const dimensions = new WeakMap<DimensionNode, { readonly key: string; readonly drawn: readonly ShapeNode[] }>();

/** Everything of a document that can be drawn, in document order: copies as what they show, dimensions as their strokes. */
export function drawnNodes(document: CheminDocument): readonly DrawnNode[] {
  const entries = flattenTree(document.nodes);
  const byId = new Map(entries.map(({ node }) => [node.id, node]));
  return entries.flatMap(({ node, hidden, locked }): readonly DrawnNode[] => {
    if (node.kind === 'group') return [];
    if (node.kind === 'shape' || node.kind === 'placement') return [{ node, owner: node.id, hidden, locked }];
    const drawn = hidden ? [] : node.kind === 'copy' ? shownByCopy(document, node, byId) : shownByDimension(document, node);
    return drawn.map((part) => ({ node: part, owner: node.id, hidden, locked }));
  });
}

function shownByCopy(document: CheminDocument, copy: CopyNode, byId: ReadonlyMap<string, DocumentNode>): readonly (ShapeNode | PlacementNode)[] {
  const of = byId.get(copy.of);
  if (!of) return [];
  const on = placedOn(byId);
  const known = copies.get(copy);
  if (known && known.of === of && known.on === on) return known.drawn;
  const own = independentCopy(document, copy);
  const parts = own ? flattenTree([own.node, ...own.on]) : [];
  const drawn = parts.flatMap(({ node, hidden }) => (!hidden && (node.kind === 'shape' || node.kind === 'placement') ? [node] : []));
  copies.set(copy, { of, on, drawn });
  return drawn;
}

/** A text that changes whenever artwork on faces does. */
function placedOn(byId: ReadonlyMap<string, DocumentNode>): string {
  const parts: unknown[] = [];
  for (const node of byId.values()) if (node.kind === 'placement' && node.target.kind === 'face') parts.push(node.target, node.box, node.artwork, node.hidden);
  return parts.length === 0 ? '' : JSON.stringify(parts);
}

function shownByDimension(document: CheminDocument, node: DimensionNode): readonly ShapeNode[] {
  const at = [node.from, node.to].map((anchor) => {
    const shape = anchor.node === undefined ? null : findShape(document, anchor.node);
    const point = shape?.plane.kind === node.plane.kind ? shape.outline.points.find((p) => p.id === anchor.point) : undefined;
    return point ? { u: point.u, v: point.v, plane: shape!.plane } : { u: anchor.u, v: anchor.v, plane: node.plane };
  });
  const { sheet, grid } = document;
  const key = JSON.stringify([at, sheet.unit, sheet.resolution, sheet.scale, grid.cell]);
  const known = dimensions.get(node);
  if (known?.key === key) return known.drawn;
  const drawn = dimensionShapes({ ...node, plane: at[0]!.plane }, at[0]!, at[1]!, sheet, grid.cell);
  dimensions.set(node, { key, drawn });
  return drawn;
}
