import { flattenTree, shapesIn } from '../document/tree';
import type { CheminDocument } from '../document/types';
import type { DrawnNode } from './drawn-nodes';

/**
 * The nodes whose solids cut through others, each once. The letters of text around round sides do not count: they are
 * set into what they stand on.
 * @param pairs of solids that cut through each other, by their places among what is drawn
 */
export function cutThrough(
  document: CheminDocument,
  pairs: readonly (readonly [number, number])[],
  drawn: readonly { readonly node: DrawnNode }[],
): readonly string[] {
  if (pairs.length === 0) return [];
  const setIn = new Set(flattenTree(document.nodes).flatMap(({ node }) => (node.kind === 'group' && node.lettering?.around ? shapesIn(node.children).map(({ id }) => id) : []))); // prettier-ignore
  const found = new Set<string>();
  for (const pair of pairs) {
    const nodes = pair.map((i) => drawn[i]!.node);
    if (!nodes.some(({ node }) => setIn.has(node.id))) for (const { owner } of nodes) found.add(owner);
  }
  return [...found];
}
