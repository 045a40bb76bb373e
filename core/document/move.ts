import { exactCells } from '../math/exact';
import { mapPaint } from '../paint/paint';
import { axesOf, type Plane } from '../projection/planes';
import { moveOutline } from '../shape/outline';
import type { Anchor, CellMove, DocumentNode } from './types';

/** A thing moved; what lies on a face moves with its host alone. */
export function moved(node: DocumentNode, by: CellMove): DocumentNode {
  if (node.kind === 'group') return { ...node, children: node.children.map((child) => moved(child, by)) };
  if (node.kind === 'shape') {
    const { plane, du, dv } = movedPlane(node.plane, by);
    if (du === 0 && dv === 0) return { ...node, plane };
    const paint = mapPaint(node.paint, (p) => ({ u: p.u + du, v: p.v + dv }));
    return { ...node, plane, outline: moveOutline(node.outline, du, dv), paint };
  }
  if (node.kind === 'copy') return { ...node, by: { a: exactCells(node.by.a + by.a), b: exactCells(node.by.b + by.b), h: exactCells(node.by.h + by.h) } };
  if (node.kind === 'dimension') {
    const { plane, du, dv } = movedPlane(node.plane, by);
    const anchor = (at: Anchor): Anchor => ({ ...at, u: exactCells(at.u + du), v: exactCells(at.v + dv) });
    return { ...node, plane, from: anchor(node.from), to: anchor(node.to) };
  }
  if (node.target.kind === 'face') return node;
  const { plane, du, dv } = movedPlane(node.target.plane, by);
  const [dx, dy] = plane.kind === 'left' ? [-du, -dv] : plane.kind === 'sheet' ? [du, dv] : [du, -dv];
  return { ...node, target: { kind: 'plane', plane }, box: { ...node.box, x: exactCells(node.box.x + dx), y: exactCells(node.box.y + dy) } };
}

function movedPlane(plane: Plane, by: CellMove): { readonly plane: Plane; readonly du: number; readonly dv: number } {
  if (plane.stance) {
    const { at } = plane.stance;
    const moved = { a: exactCells(at.a + by.a), b: exactCells(at.b + by.b), h: exactCells(at.h + by.h) };
    return { plane: { ...plane, stance: { ...plane.stance, at: moved } }, du: 0, dv: 0 };
  }
  const axes = axesOf(plane);
  if (!axes) return { plane, du: by.a, dv: by.b };
  const across = by[axes.across];
  return { plane: across === 0 ? plane : { ...plane, offset: exactCells(plane.offset + across) }, du: by[axes.u], dv: by[axes.v] };
}
