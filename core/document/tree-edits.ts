import type { JoinKind } from '../geometry/joined-recipe';
import { independentCopy } from './copy';
import { unknownNode, wrongKind } from './changed-nodes';
import { findNode, flattenTree, idsWithin } from './tree';
import type { CheminDocument, DocumentNode, GroupNode } from './types';

/** Things put under one that stands at the top level, or at the end. */
export function addedUnder(nodes: readonly DocumentNode[], added: readonly DocumentNode[], before: string | undefined): readonly DocumentNode[] {
  const at = before === undefined ? -1 : nodes.findIndex((node) => idsWithin(node).includes(before));
  return at < 0 ? [...nodes, ...added] : [...nodes.slice(0, at), ...added, ...nodes.slice(at)];
}

function replaceNode(document: CheminDocument, id: string, change: (node: DocumentNode) => readonly DocumentNode[]): readonly DocumentNode[] {
  const visit = (nodes: readonly DocumentNode[]): readonly DocumentNode[] | null => {
    for (let i = 0; i < nodes.length; i++) {
      const node = nodes[i]!;
      const inside = node.id === id ? null : node.kind === 'group' ? visit(node.children) : null;
      const next = node.id === id ? change(node) : inside ? [{ ...(node as GroupNode), children: inside }] : null;
      if (next) return [...nodes.slice(0, i), ...next, ...nodes.slice(i + 1)];
    }
    return null;
  };
  const nodes = visit(document.nodes);
  if (!nodes) throw unknownNode(id);
  return nodes;
}

/** Placements on a face go with the thing whose face it is. */
export function withoutNodes(document: CheminDocument, targets: readonly string[]): readonly DocumentNode[] {
  const gone = new Set<string>();
  for (const id of targets) {
    const node = findNode(document, id);
    if (!node) throw unknownNode(id);
    for (const inside of idsWithin(node)) gone.add(inside);
  }
  const keep = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => {
    const kept = nodes.filter((node) => !gone.has(node.id) && !(node.kind === 'placement' && node.target.kind === 'face' && gone.has(node.target.node)));
    const mapped = kept.map((node) => {
      if (node.kind !== 'group') return node;
      const children = keep(node.children);
      return children === node.children ? node : { ...node, children };
    });
    return mapped.length === nodes.length && mapped.every((node, i) => node === nodes[i]) ? nodes : mapped;
  };
  return freed(document, keep(document.nodes), gone);
}

/** Nodes in which every copy of something that is gone is a thing of its own, so that nothing else is lost. */
function freed(document: CheminDocument, left: readonly DocumentNode[], gone: ReadonlySet<string>): readonly DocumentNode[] {
  const entries = flattenTree(left);
  const copies = entries.flatMap(({ node }) => (node.kind === 'copy' && gone.has(node.of) ? [node] : []));
  if (copies.length === 0) return left;
  const taken = new Set(entries.map(({ node }) => node.id));
  return copies.reduce((nodes, copy) => {
    const own = independentCopy(document, copy, taken);
    for (const node of own ? [own.node, ...own.on] : []) for (const id of idsWithin(node)) taken.add(id);
    return replaceNode({ ...document, nodes }, copy.id, () => (own ? [own.node, ...own.on] : []));
  }, left);
}

/** What the group held, in its place; copies of the group become groups of their own. */
export function ungrouped(document: CheminDocument, id: string): readonly DocumentNode[] {
  return freed(
    document,
    replaceNode(document, id, (node) => [...asGroup(node).children]),
    new Set([id]),
  );
}

/** Ids that come back are not gone: what lies on their faces, and their copies, stay. */
export function replaced(document: CheminDocument, targets: readonly string[], nodes: readonly DocumentNode[]): readonly DocumentNode[] {
  const back = new Set(nodes.flatMap(idsWithin));
  const last = targets.at(-1)!;
  const marker: GroupNode = { kind: 'group', id: `${last} `, name: '', hidden: false, locked: false, children: [] };
  const marked = replaceNode(document, last, (old) => [marker, old]);
  const bare = targets.filter((id) => back.has(id)).reduce((now, id) => replaceNode({ ...document, nodes: now }, id, () => []), marked);
  const filled = replaceNode({ ...document, nodes: bare }, marker.id, () => nodes);
  const gone = targets.filter((id) => !back.has(id));
  return gone.length > 0 ? withoutNodes({ ...document, nodes: filled }, gone) : filled;
}

/** Things keep their order; what would lie in itself stays where it is. */
export function arranged(
  document: CheminDocument,
  { ids: targets, parent, before }: { readonly ids: readonly string[]; readonly parent: string | null; readonly before: string | null },
): readonly DocumentNode[] {
  const order = flattenTree(document.nodes).map(({ node }) => node);
  const into = parent === null ? null : findNode(document, parent);
  if (parent !== null && into?.kind !== 'group') throw into ? wrongKind(into, 'group') : unknownNode(parent);
  const wanted = new Set(targets);
  for (const id of targets) if (!findNode(document, id)) throw unknownNode(id);
  const moving = order.filter((node) => wanted.has(node.id) && !(parent !== null && idsWithin(node).includes(parent)) && node.id !== before);
  const rest = moving.reduce((nodes, { id }) => replaceNode({ ...document, nodes }, id, () => []), document.nodes);
  // What lies in something else that moves goes with it.
  const heads = moving.filter((node) => !moving.some((other) => other !== node && idsWithin(other).includes(node.id)));
  const put = (siblings: readonly DocumentNode[]): readonly DocumentNode[] => {
    const at = siblings.findIndex((node) => node.id === before);
    return at < 0 ? [...siblings, ...heads] : [...siblings.slice(0, at), ...heads, ...siblings.slice(at)];
  };
  if (parent === null) return put(rest);
  return replaceNode({ ...document, nodes: rest }, parent, (node) => [{ ...asGroup(node), children: put(asGroup(node).children) }]);
}

/** The new group stands where the last of its members stood, members in their order. */
export function grouped(
  document: CheminDocument,
  edit: { readonly ids: readonly string[]; readonly id: string; readonly name: string; readonly joined?: JoinKind },
): readonly DocumentNode[] {
  const wanted = new Set(edit.ids);
  const members: DocumentNode[] = [];
  for (const id of edit.ids) if (!findNode(document, id)) throw unknownNode(id);
  const take = (nodes: readonly DocumentNode[]): readonly DocumentNode[] =>
    nodes.flatMap((node): readonly DocumentNode[] => {
      if (wanted.has(node.id)) {
        members.push(node);
        return [];
      }
      return node.kind === 'group' ? [{ ...node, children: take(node.children) }] : [node];
    });
  const topLevel = document.nodes.map((node) => idsWithin(node).some((id) => wanted.has(id)));
  const rest = take(document.nodes);
  const group: GroupNode = {
    kind: 'group',
    id: edit.id,
    name: edit.name,
    hidden: false,
    locked: false,
    children: members,
    ...(edit.joined && { joined: edit.joined }),
  };
  const after = document.nodes.slice(topLevel.lastIndexOf(true) + 1).length;
  return [...rest.slice(0, rest.length - after), group, ...rest.slice(rest.length - after)];
}

function asGroup(node: DocumentNode): GroupNode {
  if (node.kind !== 'group') throw wrongKind(node, 'group');
  return node;
}
