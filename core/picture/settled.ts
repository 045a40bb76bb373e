import type { CheminDocument } from '../document/types';
import { geometry } from '../geometry/book';
import { nodesById } from '../document/tree';
import { drawnNodes } from './drawn-nodes';

/** A thing whose solids could not be joined: its parts stand for it as they are. */
export interface Unjoined {
  readonly node: string;
  readonly name: string;
  readonly reason: string;
}

/**
 * What of a document a kernel could not make, once everything else of it is made: for pictures that are not made again.
 * What copies show is waited for too; each thing is told once.
 */
export async function settled(document: CheminDocument): Promise<readonly Unjoined[]> {
  const joined = drawnNodes(document).flatMap(({ node, owner }) => (node.kind === 'group' ? [{ node, owner }] : []));
  const unjoined = new Map<string, Unjoined>();
  for (const { evaluated, owner } of await Promise.all(joined.map(async ({ node, owner }) => ({ owner, evaluated: await geometry.settled(node) }))))
    if (evaluated.state === 'failed' && !unjoined.has(owner))
      unjoined.set(owner, { node: owner, name: nodesById(document.nodes).get(owner)?.name ?? owner, reason: evaluated.reason ?? '' });
  return [...unjoined.values()];
}

/** Whether everything of a document that a kernel makes is made: what is drawn is then what it is. */
export function isSettled(document: CheminDocument): boolean {
  return drawnNodes(document).every(({ node, hidden }) => hidden || node.kind !== 'group' || geometry.of(node).state === 'ready');
}
