import { flattenTree, type CheminDocument } from '@core';
import type { MessageStore } from '../platform/messages.store';

/** How many things of a drawing went with what was removed from it. */
export function goneWith(before: CheminDocument, after: CheminDocument): number {
  const left = new Set(flattenTree(after.nodes).map(({ node }) => node.id));
  return flattenTree(before.nodes).filter(({ node }) => !left.has(node.id)).length;
}

/** Says what went with something that was removed, where anything did. */
export function sayRemoved(messages: InstanceType<typeof MessageStore>, name: string, before: CheminDocument, after: CheminDocument): void {
  const count = goneWith(before, after);
  if (count === 0) return;
  messages.say('info', `“${name}” was removed`, [
    `${count === 1 ? 'One placement' : `${count} placements`} of the drawing went with it. Undo brings back all of it.`,
  ]);
}
