import type { DocumentNode } from './types';
import { idsWithin } from './tree';

/**
 * Copies of things with ids of their own. What lies on a face of something that is copied too lies on the copy's face;
 * names are kept, so that a row of lamps is a row of lamps.
 * @param newId gives an id that no other thing has
 */
export function copyNodes(nodes: readonly DocumentNode[], newId: () => string): readonly DocumentNode[] {
  const ids = new Map(nodes.flatMap(idsWithin).map((id) => [id, newId()]));
  const copy = (node: DocumentNode): DocumentNode => {
    const id = ids.get(node.id) ?? newId();
    if (node.kind === 'group') return { ...node, id, children: node.children.map(copy) };
    if (node.kind === 'shape' || node.target.kind === 'plane') return { ...node, id };
    return { ...node, id, target: { ...node.target, node: ids.get(node.target.node) ?? node.target.node } };
  };
  return nodes.map(copy);
}
