import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, signal, untracked } from '@angular/core';
import type { TreeEntry } from '@core';
import { IconComponent } from '../controls/icon.component';
import { TakeFocusDirective } from '../controls/take-focus.directive';
import { CommandsService } from '../state/commands.service';
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
  protected readonly commands = inject(CommandsService);
  protected readonly naming = signal<string | null>(null);
  /** Groups that were folded or unfolded by hand; the others are open at the top and folded further in. */
  private readonly byHand = signal<ReadonlyMap<string, boolean>>(new Map());
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;

  /** Groups that hold something selected. */
  private readonly holders = computed(() => {
    const parents = new Map(this.store.entries().map((entry) => [entry.node.id, entry.parent]));
    const holders = new Set<string>();
    for (const id of this.view.selection()) {
      for (let parent = parents.get(id) ?? null; parent !== null; parent = parents.get(parent) ?? null) holders.add(parent);
    }
    return holders;
  });

  constructor() {
    // A new selection opens the groups that hold it, also those that were folded by hand before.
    effect(() => {
      const holders = this.holders();
      untracked(() => this.byHand.set(new Map([...this.byHand()].filter(([id, folded]) => !(folded && holders.has(id))))));
    });
    afterRenderEffect(() => {
      if (this.view.selection().length === 0) return;
      this.host.querySelector('li.chosen')?.scrollIntoView({ block: 'nearest' });
    });
  }

  /** Rows in reading order: what is on top first, groups before what they hold, folded groups closed. */
  protected readonly rows = computed(() => {
    const byParent = new Map<string | null, TreeEntry[]>();
    for (const entry of this.store.entries()) byParent.set(entry.parent, [...(byParent.get(entry.parent) ?? []), entry]);
    const rows: TreeEntry[] = [];
    const visit = (parent: string | null): void => {
      for (const entry of [...(byParent.get(parent) ?? [])].reverse()) {
        rows.push(entry);
        if (entry.node.kind === 'group' && !this.isFolded(entry)) visit(entry.node.id);
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

  protected isFolded({ node, depth }: TreeEntry): boolean {
    return this.byHand().get(node.id) ?? (depth > 0 && !this.holders().has(node.id));
  }

  protected fold(entry: TreeEntry): void {
    this.byHand.set(new Map(this.byHand()).set(entry.node.id, !this.isFolded(entry)));
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
