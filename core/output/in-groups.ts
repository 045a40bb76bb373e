import { mapMarks, marksBox } from '../artwork/artwork';
import type { GroupMark, Mark } from '../artwork/marks';
import type { DocumentNode, GroupNode } from '../document/types';
import type { HandedSheet } from './handed';

/**
 * Marks in the groups in which their things lie in the contents: what follows each other in one group becomes one part
 * of it. A group that painting order takes apart is there in as many parts, each with its name.
 */
export function inGroups(nodes: readonly DocumentNode[], marks: readonly GroupMark[]): readonly GroupMark[] {
  const holders = holdersOf(nodes);
  return nested(
    marks.map((mark) => ({ mark, within: (mark.node !== null ? holders.get(mark.node) : undefined) ?? NONE })),
    0,
  );
}

const NONE: readonly GroupNode[] = [];

interface Held {
  readonly mark: GroupMark;
  readonly within: readonly GroupNode[];
}

function nested(held: readonly Held[], depth: number): readonly GroupMark[] {
  const out: GroupMark[] = [];
  for (let i = 0; i < held.length;) {
    const group = held[i]!.within[depth];
    if (!group) {
      out.push(held[i++]!.mark);
      continue;
    }
    let end = i;
    while (end < held.length && held[end]!.within[depth] === group) end++;
    out.push({ kind: 'group', node: null, name: group.name, clip: null, strength: 1, marks: nested(held.slice(i, end), depth + 1) });
    i = end;
  }
  return out;
}

/** The groups that hold each thing, the outermost first. Solids that are one are painted as one thing: they hold nothing. */
function holdersOf(nodes: readonly DocumentNode[]): ReadonlyMap<string, readonly GroupNode[]> {
  const holders = new Map<string, readonly GroupNode[]>();
  const visit = (list: readonly DocumentNode[], within: readonly GroupNode[]): void => {
    for (const node of list) {
      holders.set(node.id, within);
      if (node.kind === 'group') visit(node.children, node.joined === undefined ? [...within, node] : within);
    }
  };
  visit(nodes, NONE);
  return holders;
}

/** A sheet cut down to what is painted on it; as it is where nothing is. */
export function trimmedSheet(handed: HandedSheet): HandedSheet {
  const box = marksBox(handed.marks);
  if (!box) return handed;
  const marks: readonly Mark[] = mapMarks(handed.marks, [1, 0, 0, 1, -box.minX, -box.minY]);
  return { ...handed, sheet: { ...handed.sheet, width: box.maxX - box.minX, height: box.maxY - box.minY }, marks };
}
