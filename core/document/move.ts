import { keptByPair } from '../math/keep';
import { exactCells } from '../math/exact';
import { mapPaint } from '../paint/paint';
import { axesOf, type Plane } from '../projection/planes';
import { moveOutline } from '../shape/outline';
import { shiftedMove, type CellMove } from '../geometry/rigid';
import { changedNodes, idsInside } from './changed-nodes';
import { idsWithin, nodesById } from './tree';
import type { Anchor, CheminDocument, DocumentNode, GroupNode } from './types';

/**
 * A thing moved; what lies on a face moves with its host.
 * @param along ids of everything that moves by the same amount: copies of these keep their distance to them
 */
export function moved(node: DocumentNode, by: CellMove, along: ReadonlySet<string> = NOTHING): DocumentNode {
  if (node.kind === 'group') return { ...node, children: node.children.map((child) => moved(child, by, along)), ...movedLettering(node, by) };
  if (node.kind === 'shape') {
    const { plane, du, dv } = movedPlane(node.plane, by);
    if (du === 0 && dv === 0) return { ...node, plane };
    const shift = (p: { u: number; v: number }): { u: number; v: number } => ({ u: p.u + du, v: p.v + dv });
    const surfaces = node.surfaces && Object.fromEntries(Object.entries(node.surfaces).map(([name, paint]) => [name, mapPaint(paint, shift)]));
    return { ...node, plane, outline: moveOutline(node.outline, du, dv), paint: mapPaint(node.paint, shift), ...(surfaces && { surfaces }) };
  }
  if (node.kind === 'copy') return { ...node, ...shiftedMove(node, by, along.has(node.of)) };
  if (node.kind === 'dimension') {
    const { plane, du, dv } = movedPlane(node.plane, by);
    const anchor = (at: Anchor): Anchor => ({ ...at, u: exactCells(at.u + du), v: exactCells(at.v + dv) });
    return { ...node, plane, from: anchor(node.from), to: anchor(node.to) };
  }
  if (node.target.kind === 'face' && !along.has(node.target.node)) return node;
  const { at } = node.anchor;
  const anchor = { ...node.anchor, at: { a: exactCells(at.a + by.a), b: exactCells(at.b + by.b), h: exactCells(at.h + by.h) } };
  return node.target.kind === 'face' ? { ...node, anchor } : { ...node, target: { ...node.target, plane: movedPlane(node.target.plane, by).plane }, anchor };
}

/** Text around a round side with its line moved along. */
function movedLettering({ lettering }: GroupNode, by: CellMove): Pick<GroupNode, 'lettering'> {
  const around = lettering?.around;
  if (!around) return {};
  const shift = (p: CellMove): CellMove => ({ a: exactCells(p.a + by.a), b: exactCells(p.b + by.b), h: exactCells(p.h + by.h) });
  return { lettering: { ...lettering, around: { ...around, at: shift(around.at), ...(around.meets && { up: shift(around.up) }) } } };
}

const NOTHING: ReadonlySet<string> = new Set();

/** Things moved together, with what lies on their faces and is among them; copies among them keep their distance to their originals. */
export function movedAll(nodes: readonly DocumentNode[], by: CellMove): readonly DocumentNode[] {
  const along = new Set(nodes.flatMap(idsWithin));
  return nodes.map((node) => moved(node, by, along));
}

/**
 * The nodes with some moved by the same amount: each once, though it may lie in a group that is moved too, and copies of
 * what is moved stay where they are to it.
 * @throws CoreError `unknown-node`
 */
export function movedNodes(document: CheminDocument, ids: readonly string[], by: CellMove): readonly DocumentNode[] {
  const changes = new Map(ids.map((id) => [id, by]));
  // What lies in something that is moved moves with it, not once more.
  if (changes.size > 1) for (const id of idsInside(document.nodes, changes)) changes.delete(id);
  return changedNodes(document, changes, (node) => moved(node, by, along(document, changes)));
}

/** Everything that moves with these, groups' contents included, and the copies among them, whose copies move along too. */
const along = keptByPair((document: CheminDocument, heads: ReadonlyMap<string, unknown>): ReadonlySet<string> => {
  const byId = nodesById(document.nodes);
  return new Set([...heads.keys()].flatMap((id) => (byId.has(id) ? idsWithin(byId.get(id)!) : [])));
});

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
