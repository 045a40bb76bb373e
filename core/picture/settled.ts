import { flattenTree } from '../document/tree';
import type { CheminDocument } from '../document/types';
import { geometry } from '../geometry/book';
import { isJoined } from './drawn-nodes';

/** Until everything of a document that a kernel makes is made, or cannot be: for pictures that are not made again. */
export async function settled(document: CheminDocument): Promise<void> {
  await Promise.all(flattenTree(document.nodes).map(({ node }) => (node.kind === 'group' && isJoined(node) ? geometry.settled(node) : null)));
}
