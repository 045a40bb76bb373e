import { CoreError } from '../math/errors';
import { idsWithin } from './tree';
import type { CheminDocument, DocumentNode } from './types';

/** Ids of everything that lies in one of these groups, at any depth. */
export function idsInside(nodes: readonly DocumentNode[], groups: ReadonlyMap<string, unknown>): readonly string[] {
  return nodes.flatMap((node) => {
    if (node.kind !== 'group') return [];
    return groups.has(node.id) ? node.children.flatMap(idsWithin) : idsInside(node.children, groups);
  });
}

/**
 * The nodes with those that are named changed, in one pass over the tree; what holds none of them is shared. What a
 * group holds is changed before the group itself.
 * @throws CoreError `unknown-node`
 */
export function changedNodes<T>(
  document: CheminDocument,
  changes: ReadonlyMap<string, T>,
  change: (node: DocumentNode, how: T) => DocumentNode,
): readonly DocumentNode[] {
  const left = new Set(changes.keys());
  const visit = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => {
    let next: DocumentNode[] | null = null;
    for (let i = 0; i < nodes.length && left.size > 0; i++) {
      const node = nodes[i]!;
      const children = node.kind === 'group' ? visit(node.children) : null;
      const inside = node.kind === 'group' && children !== node.children ? { ...node, children: children! } : node;
      const now = left.delete(node.id) ? change(inside, changes.get(node.id)!) : inside;
      if (now !== node) (next ??= [...nodes])[i] = now;
    }
    return next ?? nodes;
  };
  const nodes = visit(document.nodes);
  for (const id of left) throw unknownNode(id);
  return nodes;
}

/** What is thrown where an edit names a node that is not there. */
export function unknownNode(id: string): CoreError {
  return new CoreError('unknown-node', `There is no node “${id}”.`, { id });
}

/** What is thrown where an edit does not fit the kind of its node. */
export function wrongKind(node: DocumentNode, wanted: string): CoreError {
  return new CoreError('wrong-kind', `“${node.name}” is a ${node.kind}, not a ${wanted}.`, { id: node.id, actual: node.kind, expected: wanted });
}
