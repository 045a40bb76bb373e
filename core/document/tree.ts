import { keptBy } from '../math/keep';
import { MAX_NAME, type Artwork, type CheminDocument, type DocumentNode, type ShapeNode } from './types';

/** A node with what its place in the tree adds. */
export interface TreeEntry {
  readonly node: DocumentNode;
  readonly depth: number;
  readonly parent: string | null;
  /** Hidden or locked itself, or by a group that holds it. */
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** Every node of the document, groups before what they hold, in document order; made once for each list of nodes. */
export const flattenTree = keptBy(flat);

function flat(nodes: readonly DocumentNode[]): readonly TreeEntry[] {
  const entries: TreeEntry[] = [];
  const visit = (list: readonly DocumentNode[], depth: number, parent: string | null, hidden: boolean, locked: boolean): void => {
    for (const node of list) {
      const entry = { node, depth, parent, hidden: hidden || node.hidden, locked: locked || node.locked };
      entries.push(entry);
      if (node.kind === 'group') visit(node.children, depth + 1, node.id, entry.hidden, entry.locked);
    }
  };
  visit(nodes, 0, null, false, false);
  return entries;
}

/** The node with this id, or null. */
export function findNode(document: CheminDocument, id: string): DocumentNode | null {
  const visit = (nodes: readonly DocumentNode[]): DocumentNode | null => {
    for (const node of nodes) {
      if (node.id === id) return node;
      const inside = node.kind === 'group' ? visit(node.children) : null;
      if (inside) return inside;
    }
    return null;
  };
  return visit(document.nodes);
}

/** The shape with this id, or null where there is none or it is something else. */
export function findShape(document: CheminDocument, id: string): ShapeNode | null {
  const node = findNode(document, id);
  return node?.kind === 'shape' ? node : null;
}

/** The artwork with this id, or null. */
export function findArtwork(document: CheminDocument, id: string): Artwork | null {
  return document.artworks.find((artwork) => artwork.id === id) ?? null;
}

/** Ids of a node and everything in it. */
export function idsWithin(node: DocumentNode): readonly string[] {
  return node.kind === 'group' ? [node.id, ...node.children.flatMap(idsWithin)] : [node.id];
}

/** All shapes of a tree in document order. */
export function shapesIn(nodes: readonly DocumentNode[]): readonly ShapeNode[] {
  return nodes.flatMap((node) => (node.kind === 'shape' ? [node] : node.kind === 'group' ? shapesIn(node.children) : []));
}

/** Every node of a tree by its id; made once for each list of nodes. */
export const nodesById = keptBy(
  (nodes: readonly DocumentNode[]): ReadonlyMap<string, DocumentNode> => new Map(flattenTree(nodes).map(({ node }) => [node.id, node])),
);

/** Every id in a tree; made once for each list of nodes. */
export const idsOf = keptBy((nodes: readonly DocumentNode[]): ReadonlySet<string> => new Set(nodes.flatMap(idsWithin)));

/**
 * An automatic name by kind, place and count, such as `rectangle 3, left wall`: the smallest number that no other
 * thing of that kind has yet.
 */
export function automaticName(document: CheminDocument, what: string, where: string): string {
  const taken = new Set<string>();
  for (const { node } of flattenTree(document.nodes)) {
    const match = /^(.*) (\d+)(?:,.*)?$/.exec(node.name);
    if (match?.[1] === what) taken.add(match[2]!);
  }
  let count = 1;
  while (taken.has(String(count))) count++;
  return where ? `${what} ${count}, ${where}` : `${what} ${count}`;
}

/** A name made of another, such as `Landing, copy`; a long one is cut so that the ending is seen. */
export function derivedName(name: string, ending: string): string {
  return name.slice(0, MAX_NAME - ending.length) + ending;
}
