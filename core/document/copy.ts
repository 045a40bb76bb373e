import type { Anchor, CheminDocument, CopyNode, DocumentNode, PlacementNode } from './types';
import { moved } from './move';
import { findNode, flattenTree, idsOf, idsWithin } from './tree';

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

/** Longest beginning of a copy's id in the ids made of it, so that copies of copies of copies stay short. */
const ID_STEM = 40;

/**
 * A linked copy as a thing of its own, with the copy's id, or null where its original is gone. What a group holds, and
 * what lies on the faces of an original, gets ids made of the copy's; the artwork on faces is told apart in `on`.
 * @param taken ids that are in use; without them, those of the document
 */
export function independentCopy(
  document: CheminDocument,
  copy: CopyNode,
  taken: ReadonlySet<string> = idsOf(document.nodes),
): { readonly node: DocumentNode; readonly on: readonly PlacementNode[] } | null {
  const original = findNode(document, copy.of);
  if (!original || original.kind === 'copy') return null;
  const within = new Set(idsWithin(original));
  const on = flattenTree(document.nodes).flatMap(({ node, hidden }) =>
    !hidden && node.kind === 'placement' && node.target.kind === 'face' && within.has(node.target.node) && !within.has(node.id) ? [node] : [],
  );
  let count = 0;
  const fresh = (): string => {
    if (count++ === 0) return copy.id;
    while (taken.has(`${copy.id.slice(0, ID_STEM)}.${count}`)) count++;
    return `${copy.id.slice(0, ID_STEM)}.${count}`;
  };
  const [node, ...placed] = copyNodes([withoutCopies(original), ...on], fresh);
  return { node: { ...moved(node!, copy.by), name: copy.name, hidden: copy.hidden, locked: copy.locked }, on: placed as PlacementNode[] };
}

const withoutCopies = (node: DocumentNode): DocumentNode =>
  node.kind === 'group' ? { ...node, children: node.children.filter((child) => child.kind !== 'copy').map(withoutCopies) } : node;
