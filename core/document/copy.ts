import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import { carryPoint, onlyShifts, rigidMap, shiftedMove, type RigidMove } from '../geometry/rigid';
import { carriedAnchor, carriedDimension, carriedLettering, carriedPlacement, carriedShape, exactPoint } from './carry';
import { moved, movedAll } from './move';
import type { Anchor, CheminDocument, CopyNode, DocumentNode } from './types';
import { flattenTree, idsOf, idsWithin, nodesById } from './tree';

/**
 * Copies of things with ids of their own. What lies on a face of something that is copied too lies on the copy's face;
 * names are kept, so that a row of lamps is a row of lamps.
 * @param newId gives an id that no other thing has
 */
export function copyNodes(nodes: readonly DocumentNode[], newId: () => string): readonly DocumentNode[] {
  const ids = new Map(nodes.flatMap((node) => idsWithin(node)).map((id) => [id, newId()]));
  const anchor = (at: Anchor): Anchor => (at.node === undefined ? at : { ...at, node: ids.get(at.node) ?? at.node });
  const copy = (node: DocumentNode): DocumentNode => {
    const id = ids.get(node.id) ?? newId();
    if (node.kind === 'group') return { ...node, id, children: node.children.map(copy) };
    if (node.kind === 'copy') return { ...node, id, of: ids.get(node.of) ?? node.of };
    if (node.kind === 'dimension') return { ...node, id, from: anchor(node.from), to: anchor(node.to) };
    if (node.kind === 'shape') {
      const { inscribed } = node;
      return inscribed ? { ...node, id, inscribed: { ...inscribed, node: ids.get(inscribed.node) ?? inscribed.node } } : { ...node, id };
    }
    if (node.target.kind === 'plane') return { ...node, id };
    return { ...node, id, target: { ...node.target, node: ids.get(node.target.node) ?? node.target.node } };
  };
  return nodes.map(copy);
}

/**
 * Things carried by a rigid move, as data of their own. What lies on a face of one of them goes along; what lies on the
 * sheet is only displaced.
 * @param find the node with an id, for hosts of artwork
 */
export function carryAll(nodes: readonly DocumentNode[], move: RigidMove, find: (id: string) => DocumentNode | undefined): readonly DocumentNode[] {
  if (onlyShifts(move)) return movedAll(nodes, move.by);
  const map = rigidMap(move);
  const along = new Set(nodes.flatMap(idsWithin));
  const carry = (node: DocumentNode): DocumentNode => {
    if (node.kind === 'group') return { ...node, children: node.children.map(carry), ...carriedLettering(node, map) };
    if (node.kind === 'shape') return carriedShape(node, map) ?? moved(node, move.by);
    if (node.kind === 'dimension') return carriedDimension(node, map) ?? moved(node, move.by);
    if (node.kind === 'copy') return { ...node, ...shiftedMove(node, move.by, along.has(node.of)) };
    if (node.target.kind === 'plane') return carriedPlacement(node, map) ?? moved(node, move.by);
    if (!along.has(node.target.node)) return node;
    const host = find(node.target.node);
    const surface = host?.kind === 'shape' ? surfaceNamed(bodyOf(host), node.target.face) : null;
    if (surface?.form.kind !== 'flat') return { ...node, anchor: { ...node.anchor, at: exactPoint(carryPoint(map, node.anchor.at)) } };
    return { ...node, anchor: carriedAnchor(node.anchor, surface.form.frame.normal, surface.form.frame.origin, map) };
  };
  return nodes.map(carry);
}

/** Longest beginning of a copy's id in the ids made of it, so that copies of copies of copies stay short. */
const ID_STEM = 40;

/**
 * A linked copy as a thing of its own, with the copy's id, or null where its original is gone. What a group holds, and
 * what lies on the faces of an original, gets ids made of the copy's; the artwork on faces is told apart in `on`.
 * Copies within the original stay linked where the move only displaces; in turned ones they become what they show.
 * @param taken ids that are in use; without them, those of the document
 */
export function independentCopy(
  document: CheminDocument,
  copy: CopyNode,
  taken: ReadonlySet<string> = idsOf(document.nodes),
): { readonly node: DocumentNode; readonly on: readonly DocumentNode[] } | null {
  const parts = shownBy(document, copy, new Set());
  if (!parts) return null;
  let count = 0;
  const fresh = (): string => {
    if (count++ === 0) return copy.id;
    while (taken.has(`${copy.id.slice(0, ID_STEM)}.${count}`)) count++;
    return `${copy.id.slice(0, ID_STEM)}.${count}`;
  };
  const [node, ...on] = copyNodes(parts, fresh);
  const { name, hidden, locked } = copy;
  return { node: { ...node!, name, hidden, locked }, on };
}

/** What a copy shows, as data with the originals' ids: the original carried along, and the artwork on its faces. */
function shownBy(document: CheminDocument, copy: CopyNode, within: ReadonlySet<string>): readonly DocumentNode[] | null {
  const byId = nodesById(document.nodes);
  const original = byId.get(copy.of);
  if (!original || within.has(copy.id)) return null;
  const inside = new Set([...within, copy.id]);
  if (original.kind === 'copy') {
    const shown = shownBy(document, original, inside);
    return shown && carryAll(shown, copy, (id) => flattenTree(shown).find(({ node }) => node.id === id)?.node);
  }
  const own = new Set(idsWithin(original));
  const on = flattenTree(document.nodes).flatMap(({ node, hidden }) =>
    !hidden && node.kind === 'placement' && node.target.kind === 'face' && own.has(node.target.node) && !own.has(node.id) ? [node] : [],
  );
  const keep = (node: DocumentNode): readonly DocumentNode[] => {
    if (node.kind === 'group') return [{ ...node, children: node.children.flatMap(keep) }];
    if (node.kind !== 'copy') return [node];
    const of = byId.get(node.of);
    // A copy inside its own original is not drawn again.
    if (!of || idsWithin(of).includes(original.id)) return [];
    if (onlyShifts(copy)) return [node];
    const shown = shownBy(document, node, inside);
    return shown ? [{ kind: 'group', id: node.id, name: node.name, hidden: node.hidden, locked: node.locked, children: copyWithin(shown, node.id) }] : [];
  };
  const [whole] = keep(original);
  return whole ? carryAll([whole, ...on], copy, (id) => byId.get(id) ?? flattenTree([whole]).find(({ node }) => node.id === id)?.node) : null;
}

/** What an inner copy shows, with ids that its original does not have. */
function copyWithin(nodes: readonly DocumentNode[], id: string): readonly DocumentNode[] {
  let count = 0;
  return copyNodes(nodes, () => `${id.slice(0, ID_STEM)}/${++count}`);
}
