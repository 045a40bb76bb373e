import type { TreeEntry } from '@core';

/** What a key does in a tree of rows, as in any tree (ARIA Authoring Practices, tree view). */
export type TreeAct =
  | { readonly kind: 'go'; readonly to: string; readonly extend: boolean }
  | { readonly kind: 'move'; readonly id: string; readonly by: 1 | -1 }
  | { readonly kind: 'fold' | 'unfold' | 'choose' | 'add' | 'rename' | 'delete'; readonly id: string };

/** A tree as its rows show it: those that are there, the one that has the focus, and which groups are open. */
export interface ShownTree {
  readonly rows: readonly TreeEntry[];
  readonly at: string;
  readonly open: (entry: TreeEntry) => boolean;
}

type Key = Pick<KeyboardEvent, 'key' | 'altKey' | 'ctrlKey' | 'metaKey' | 'shiftKey'>;

/** The act that a key stands for, or null where it means nothing in a tree. */
export function treeAct(event: Key, { rows, at, open }: ShownTree): TreeAct | null {
  const place = rows.findIndex((row) => row.node.id === at);
  const row = rows[place];
  if (!row) return null;
  const go = (to: TreeEntry | undefined): TreeAct | null => (to ? { kind: 'go', to: to.node.id, extend: event.shiftKey } : null);
  const group = row.node.kind === 'group';
  if (event.altKey) {
    if (event.key === 'ArrowUp') return { kind: 'move', id: at, by: 1 };
    return event.key === 'ArrowDown' ? { kind: 'move', id: at, by: -1 } : null;
  }
  const control = event.ctrlKey || event.metaKey;
  if (control && event.key !== ' ') return null;
  switch (event.key) {
    case 'ArrowDown':
      return go(rows[place + 1]);
    case 'ArrowUp':
      return go(rows[place - 1]);
    case 'Home':
      return go(rows[0]);
    case 'End':
      return go(rows.at(-1));
    case 'ArrowRight':
      if (!group) return null;
      return open(row) ? go(rows[place + 1]?.parent === at ? rows[place + 1] : undefined) : { kind: 'unfold', id: at };
    case 'ArrowLeft':
      if (group && open(row)) return { kind: 'fold', id: at };
      return go(rows.find((other) => other.node.id === row.parent));
    case 'Enter':
      return { kind: 'choose', id: at };
    case ' ':
      return { kind: control ? 'add' : 'choose', id: at };
    case 'F2':
      return { kind: 'rename', id: at };
    case 'Delete':
      return { kind: 'delete', id: at };
    default:
      return null;
  }
}

/** Ms after which letters begin a new word. */
const PAUSE_MS = 1000;

/** Finds rows by the letters that their names begin with, typed one after the other. */
export class TypeAhead {
  private typed = '';
  private last = 0;

  /** Whether a word is being typed, to which a space belongs. */
  typing(now: number): boolean {
    return this.typed !== '' && now - this.last <= PAUSE_MS;
  }

  /** @param now in ms @returns the id of the next row whose name begins with what was typed, or null */
  find(letter: string, rows: readonly TreeEntry[], at: string, now: number): string | null {
    const fresh = now - this.last > PAUSE_MS;
    this.typed = (fresh ? '' : this.typed) + letter.toLowerCase();
    this.last = now;
    const from = rows.findIndex((row) => row.node.id === at);
    // One letter looks on from the next row, more stay where they are as long as they fit.
    const first = this.typed.length === 1 ? from + 1 : from;
    for (let i = 0; i < rows.length; i++) {
      const row = rows[(first + i + rows.length) % rows.length]!;
      if (row.node.name.toLowerCase().startsWith(this.typed)) return row.node.id;
    }
    return null;
  }
}
