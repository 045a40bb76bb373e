import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { TreeEntry } from '@core';
import { IconComponent } from '../controls/icon.component';
import { TakeFocusDirective } from '../controls/take-focus.directive';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** Contents: every thing of the drawing by name, the topmost first; chosen, renamed, hidden, locked, deleted here. */
@Component({
  selector: 'chemin-contents',
  imports: [IconComponent, TakeFocusDirective],
  templateUrl: './contents.component.html',
  styleUrl: './contents.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContentsComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly naming = signal<string | null>(null);
  private readonly folded = signal<ReadonlySet<string>>(new Set());

  /** Rows in reading order: what is on top first, groups before what they hold, folded groups closed. */
  protected readonly rows = computed(() => {
    const folded = this.folded();
    const byParent = new Map<string | null, TreeEntry[]>();
    for (const entry of this.store.entries()) byParent.set(entry.parent, [...(byParent.get(entry.parent) ?? []), entry]);
    const rows: TreeEntry[] = [];
    const visit = (parent: string | null): void => {
      for (const entry of [...(byParent.get(parent) ?? [])].reverse()) {
        rows.push(entry);
        if (entry.node.kind === 'group' && !folded.has(entry.node.id)) visit(entry.node.id);
      }
    };
    visit(null);
    return rows;
  });

  protected icon({ node }: TreeEntry): string {
    if (node.kind === 'group') return 'group';
    if (node.kind === 'placement') return 'place';
    return node.depth !== 0 ? 'box' : node.outline.closed ? 'rectangle' : 'outline';
  }

  protected isFolded(id: string): boolean {
    return this.folded().has(id);
  }

  protected fold(id: string): void {
    const folded = new Set(this.folded());
    if (!folded.delete(id)) folded.add(id);
    this.folded.set(folded);
  }

  protected choose(id: string, event: MouseEvent): void {
    const { ctrlKey, metaKey, shiftKey } = event;
    const selection = this.view.selection();
    if (!ctrlKey && !metaKey && !shiftKey) return this.view.select([id]);
    this.view.select(selection.includes(id) ? selection.filter((other) => other !== id) : [...selection, id]);
  }

  protected rename(id: string, old: string, text: string): void {
    this.naming.set(null);
    const name = text.trim().slice(0, 200);
    if (name && name !== old) this.store.commit({ kind: 'name', id, name }, `rename ${old}`);
  }

  protected delete({ node }: TreeEntry): void {
    this.store.commit({ kind: 'delete', ids: [node.id] }, `delete ${node.name}`);
  }
}
