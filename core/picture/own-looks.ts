import { nodesById } from '../document/tree';
import type { CheminDocument, DocumentNode } from '../document/types';
import type { Ramp, Tint } from '../light/tones';
import { drawingOf } from './drawn-nodes';
import { parentsOf } from './parents';

/** What a thing has of its own in the light. */
export interface OwnLook {
  /** Tones in place of the light's. */
  readonly ramp?: Ramp;
  /** Colours over its own, the nearest first. */
  readonly tints: readonly Tint[];
}

const known = new WeakMap<readonly DocumentNode[], Map<string, OwnLook | null>>();

/**
 * The look that a thing has of its own, and by what it lies in: the nearest ramp, and every tint. A copy takes those of
 * what it shows too, its own ramp before theirs. Null for what looks as the light has it, which is most.
 * @param owner the thing as the contents have it; @param id what is drawn of it
 */
export function ownLook(document: CheminDocument, owner: string, id: string): OwnLook | null {
  if (!drawingOf(document).looks) return null;
  let looks = known.get(document.nodes);
  if (!looks) known.set(document.nodes, (looks = new Map()));
  const key = `${owner} ${id}`;
  let look = looks.get(key);
  if (look === undefined) looks.set(key, (look = lookOf(document, owner === id ? [owner] : [id, owner])));
  return look;
}

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
