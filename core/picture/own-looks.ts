import { nodesById } from '../document/tree';
import type { CheminDocument, DocumentNode } from '../document/types';
import type { Ramp, Tint } from '../light/tones';
import { parentsOf } from './parents';

/** What a thing has of its own in the light. */
export interface OwnLook {
  /** Tones in place of the light's. */
  readonly ramp?: Ramp;
  /** Colours over its own, the nearest first. */
  readonly tints: readonly Tint[];
}

/** What is known of a document's things: of those that were asked for, and whether any has a look of its own at all. */
interface Known {
  readonly any: boolean;
  readonly looks: Map<string, OwnLook | null>;
}

const known = new WeakMap<readonly DocumentNode[], Known>();

/**
 * The look that a thing has of its own, and by what it lies in: the nearest ramp, and every tint. A copy takes those of
 * what it shows too, its own ramp before theirs. Null for what looks as the light has it, which is most.
 * @param owner the thing as the contents have it; @param id what is drawn of it
 */
export function ownLook(document: CheminDocument, owner: string, id: string): OwnLook | null {
  const there = knownOf(document);
  if (!there.any) return null;
  const key = `${owner} ${id}`;
  let look = there.looks.get(key);
  if (look === undefined) there.looks.set(key, (look = lookOf(document, owner === id ? [owner] : [id, owner])));
  return look;
}

/** Whether anything has a look of its own. */
export const anyLook = (document: CheminDocument): boolean => knownOf(document).any;

function knownOf({ nodes }: CheminDocument): Known {
  let there = known.get(nodes);
  if (!there) known.set(nodes, (there = { any: hasLook(nodes), looks: new Map() }));
  return there;
}

const hasLook = (nodes: readonly DocumentNode[]): boolean =>
  nodes.some((node) => node.ramp !== undefined || node.tint !== undefined || (node.kind === 'group' && hasLook(node.children)));

function lookOf(document: CheminDocument, starts: readonly string[]): OwnLook | null {
  const [byId, parents] = [nodesById(document.nodes), parentsOf(document)];
  const seen = new Set<string>();
  const tints: Tint[] = [];
  let ramp: Ramp | undefined;
  for (const start of starts) {
    let nearest: Ramp | undefined;
    for (let at: string | undefined = start; at !== undefined && !seen.has(at); at = parents.get(at)) {
      seen.add(at);
      const node = byId.get(at);
      nearest ??= node?.ramp;
      if (node?.tint) tints.push(node.tint);
    }
    ramp = nearest ?? ramp;
  }
  return ramp || tints.length > 0 ? { tints, ...(ramp && { ramp }) } : null;
}
