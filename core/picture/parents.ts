import { nodesById } from '../document/tree';
import type { CheminDocument, DocumentNode } from '../document/types';

const known = new WeakMap<readonly DocumentNode[], ReadonlyMap<string, string>>();

/** What each thing of a document lies in, by ids; things of the top level are not in it. */
export function parentsOf({ nodes }: CheminDocument): ReadonlyMap<string, string> {
  let parents = known.get(nodes);
  if (!parents) {
    const made = new Map<string, string>();
    const visit = (list: readonly DocumentNode[], parent: string | null): void => {
      for (const node of list) {
        if (parent !== null) made.set(node.id, parent);
        if (node.kind === 'group') visit(node.children, node.id);
      }
    };
    visit(nodes, null);
    known.set(nodes, (parents = made));
  }
  return parents;
}

/** Whether a thing, or something that it lies in, is said not to take part in something. */
export function refusedBy(document: CheminDocument, id: string, what: 'casts' | 'receives' | 'lined'): boolean {
  const byId = nodesById(document.nodes);
  const parents = parentsOf(document);
  for (let at: string | undefined = id; at !== undefined; at = parents.get(at)) if (byId.get(at)?.[what] === false) return true;
  return false;
}
