import {
  afterNextRender,
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectModule } from 'primeng/select';
import { CdkDrag } from '@angular/cdk/drag-drop';
import type { ListRange } from '@angular/cdk/collections';
import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { idsWithin, isJoined, isUnseen, planeName, type DocumentNode, type TreeEntry } from '@core';
import { IconComponent } from '../controls/icon.component';
import { TakeFocusDirective } from '../controls/take-focus.directive';
import { CommandsService } from '../state/commands.service';
import { PictureService } from '../state/picture.service';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';
import { focusDrawing } from './key-rules';
import { treeAct, TypeAhead, type TreeAct } from './tree-keys';

/** Height of a row in px, and how much is made beyond what is seen. */
const ROW = 30;
const BUFFER = 600;
/** Solids that are one, and shown with their parts at first. */
const FEW_PARTS = 4;
/** Frames for which a row that was scrolled to may take to be made. */
const PATIENCE = 30;
/** Ms that a finger rests on a row before it drags it, so that it can scroll. */
const DRAG_DELAY = { touch: 300, mouse: 0 };

/** What things of a kind are called together. */
function kindWord(node: DocumentNode): string {
  if (node.kind === 'placement') return 'placed artwork';
  if (node.kind === 'copy') return 'linked copies';
  if (node.kind === 'dimension') return 'dimensions';
  if (node.kind === 'group') return 'groups';
  return node.depth !== 0 ? 'solids' : node.outline.closed ? 'flat shapes' : 'lines';
}

/**
 * Contents: every thing of the drawing by name, the topmost first; chosen, searched, renamed, hidden,
 * locked, deleted and dragged to another place here.
 */
@Component({
  selector: 'chemin-contents',
  imports: [CdkDrag, CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport, FormsModule, IconComponent, SelectModule, TakeFocusDirective],
  templateUrl: './contents.component.html',
  styleUrl: './contents.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContentsComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly commands = inject(CommandsService);
  private readonly pictures = inject(PictureService);
  protected readonly search = signal('');
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  protected readonly ROW = ROW;
  protected readonly BUFFER = BUFFER;
  protected readonly DRAG_DELAY = DRAG_DELAY;
  protected readonly chosen = computed(() => new Set(this.view.selection()));
  protected readonly naming = signal<string | null>(null);
  /** The row that has the focus, or had it last. */
  protected readonly active = signal<string | null>(null);
  /** Counts the rows that were gone to, so that an earlier one does not take the focus back. */
  private going = 0;
  private readonly ahead = new TypeAhead();
  private readonly injector = inject(Injector);
  /** Groups that were folded or unfolded by hand; the others are open at the top and, but for few solids that are one, folded further in. */
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
    effect((onCleanup) => {
      const stream = this.viewport()?.renderedRangeStream.subscribe((range) => this.made.set(range));
      onCleanup(() => stream?.unsubscribe());
    });
    // What is newly selected is brought into view, also where its row was not there before.
    afterRenderEffect(() => {
      const [first] = this.view.selection();
      this.search();
      const place = first === undefined ? -1 : untracked(() => this.rows().findIndex((row) => row.node.id === first));
      if (place >= 0) this.scrollTo(place);
    });
  }

  /** The rows that are made now. */
  private readonly made = signal<ListRange>({ start: 0, end: 1 });

  /** Scrolls as little as shows a row whole. */
  private scrollTo(place: number): void {
    const viewport = this.viewport();
    if (!viewport) return;
    const [top, bottom] = [place * ROW, (place + 1) * ROW];
    const [from, size] = [viewport.measureScrollOffset(), viewport.getViewportSize()];
    if (top < from) viewport.scrollToOffset(top);
    else if (size > 0 && bottom > from + size) viewport.scrollToOffset(bottom - size);
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
    const wanted = this.search().trim().toLowerCase();
    return wanted ? [...this.store.entries()].reverse().filter((entry) => entry.node.name.toLowerCase().includes(wanted)) : rows;
  });

  /** Kinds of things and planes that there are, to act on all of one. */
  protected readonly kinds = computed(() => {
    const kinds = new Map<string, TreeEntry[]>();
    const put = (key: string, entry: TreeEntry): void => void kinds.set(key, [...(kinds.get(key) ?? []), entry]);
    const { projection } = this.store.kept();
    for (const entry of this.store.entries()) {
      const { node } = entry;
      if (node.kind === 'group') continue;
      put(kindWord(node), entry);
      const plane = node.kind === 'shape' || node.kind === 'dimension' ? node.plane : null;
      if (plane) put(`things on the ${planeName(plane.kind, projection)}`, entry);
    }
    return [...kinds].map(([title, entries]) => ({
      key: title,
      title,
      ids: entries.map((entry) => entry.node.id),
      hidden: entries.every((entry) => entry.node.hidden),
      locked: entries.every((entry) => entry.node.locked),
    }));
  });

  /** What can be done with all things of a kind, or of a plane. */
  protected readonly kindActs = computed(() =>
    this.kinds().flatMap((kind) => [
      { label: `${kind.hidden ? 'Show' : 'Hide'} ${kind.title}`, value: `hide ${kind.key}` },
      { label: `${kind.locked ? 'Unlock' : 'Lock'} ${kind.title}`, value: `lock ${kind.key}` },
      { label: `Select ${kind.title}`, value: `pick ${kind.key}` },
    ]),
  );

  protected actOnKind(value: string | null): void {
    const [act, ...words] = (value ?? '').split(' ');
    const kind = this.kinds().find((k) => k.key === words.join(' '));
    if (!kind) return;
    if (act === 'pick') this.view.select(kind.ids);
    else if (act === 'hide') this.store.commit({ kind: 'hide', ids: kind.ids, hidden: !kind.hidden }, `${kind.hidden ? 'show' : 'hide'} ${kind.title}`);
    else this.store.commit({ kind: 'lock', ids: kind.ids, locked: !kind.locked }, `${kind.locked ? 'unlock' : 'lock'} ${kind.title}`);
  }

  /** What is being dragged, and where it would go. */
  protected readonly dragged = signal<readonly string[] | null>(null);
  protected readonly target = signal<{ readonly id: string; readonly where: 'above' | 'below' | 'inside' } | null>(null);

  protected drag(row: TreeEntry): void {
    this.dragged.set(this.chosen().has(row.node.id) ? [...this.view.selection()] : [row.node.id]);
  }

  /** Over the upper or lower part of a row means beside it, over the middle of a group means into it. */
  protected over({ y }: { readonly y: number }): void {
    const viewport = this.viewport();
    if (!viewport) return;
    const box = viewport.elementRef.nativeElement.getBoundingClientRect();
    if (y < box.top + ROW) viewport.scrollToOffset(Math.max(0, viewport.measureScrollOffset() - ROW / 2));
    else if (y > box.bottom - ROW) viewport.scrollToOffset(viewport.measureScrollOffset() + ROW / 2);
    const place = (y - box.top + viewport.measureScrollOffset()) / ROW;
    const row = this.rows()[Math.floor(place)];
    if (!row) return this.target.set(null);
    const share = place - Math.floor(place);
    const group = row.node.kind === 'group';
    const where = group && share > 0.25 && share < 0.75 ? 'inside' : share < 0.5 ? 'above' : 'below';
    this.target.set({ id: row.node.id, where });
  }

  protected drop(): void {
    const [ids, target] = [this.dragged(), this.target()];
    this.dragged.set(null);
    this.target.set(null);
    const entry = target && this.store.entries().find((e) => e.node.id === target.id);
    if (!ids || !target || !entry) return;
    if (target.where === 'inside') return this.arrange(ids, target.id, null);
    // The list runs from the top of the pile: above a row is after it in the document.
    const siblings = this.store.entries().filter((e) => e.parent === entry.parent).map((e) => e.node.id); // prettier-ignore
    const at = siblings.indexOf(target.id);
    const before = target.where === 'below' ? target.id : (siblings[at + 1] ?? null);
    this.arrange(ids, entry.parent, before);
  }

  private arrange(ids: readonly string[], parent: string | null, before: string | null): void {
    const moving = ids.filter((id) => id !== parent && id !== before);
    if (moving.length > 0) this.store.commit({ kind: 'arrange', ids: [...moving], parent, before }, 'change order');
  }

  /** Shapes whose paint cannot be told from the sheet. */
  protected readonly unseen = computed(() => {
    const { sheet, swatches } = this.store.shown();
    const hidden = this.store
      .entries()
      .filter(({ node }) => node.kind === 'shape' && isUnseen(node.paint, sheet.background, swatches, node.plane.kind !== 'sheet'));
    return new Set(hidden.map(({ node }) => node.id));
  });

  /** Things that are painted whole because they could not be cut where something lies in front of them. */
  protected readonly uncut = computed(() => new Set(this.pictures.picture().uncut));
  protected readonly unjoined = computed(() => this.pictures.picture().unjoined);
  protected readonly emptied = computed(() => new Set(this.pictures.picture().emptied));
  protected readonly through = computed(() => new Set(this.pictures.picture().through));
  /** Things on which shadows fall, and those on which they do not show. */
  protected readonly shaded = computed(() => new Set(this.pictures.picture().shaded));

  protected showShadows({ node }: TreeEntry, on: boolean): void {
    const { receives: _, ...plain } = node;
    const changed = { ...plain, ...(!on && { receives: false as const }) } as DocumentNode;
    this.store.commit({ kind: 'change', nodes: [changed] }, `${on ? 'show' : 'hide'} shadows on ${node.name}`);
  }

  protected readonly idOf = (_: number, { node }: TreeEntry): string => node.id;

  protected icon({ node }: TreeEntry): string {
    if (node.kind === 'group') return 'group';
    if (node.kind === 'placement') return 'place';
    if (node.kind === 'copy') return 'copy';
    if (node.kind === 'dimension') return 'dimension';
    return node.depth !== 0 ? 'box' : node.outline.closed ? 'rectangle' : 'outline';
  }

  protected isFolded({ node, depth }: TreeEntry): boolean {
    // What is cut out of a thing by a few others is looked for beside it.
    const parts = node.kind === 'group' && isJoined(node) && depth === 1 && node.children.length <= FEW_PARTS;
    return this.byHand().get(node.id) ?? (depth > 0 && !parts && !this.holders().has(node.id));
  }

  protected fold(entry: TreeEntry): void {
    this.byHand.set(new Map(this.byHand()).set(entry.node.id, !this.isFolded(entry)));
  }

  /** The row at which the Tab key stops: the one that had the focus, else the selected one, else the first. */
  protected readonly stop = computed(() => {
    const { start, end } = this.made();
    const made = this.rows().slice(start, end);
    const there = new Set(made.map((row) => row.node.id));
    const wanted = [this.active(), this.view.selection().at(-1) ?? null];
    return wanted.find((id) => id !== null && there.has(id)) ?? made[0]?.node.id ?? null;
  });

  protected press(event: KeyboardEvent): void {
    if (!(event.target instanceof HTMLElement)) return;
    // While a row is being made, the list itself has the keys.
    const list = event.target === this.viewport()?.elementRef.nativeElement;
    const at = list ? (this.active() ?? undefined) : event.target.dataset['row'];
    if (at === undefined) return;
    const rows = this.rows();
    // When the key was pressed, however late the page comes to it.
    const now = event.timeStamp;
    const word = event.key === ' ' && this.ahead.typing(now);
    const act = word ? null : treeAct(event, { rows, at, open: (entry) => !this.isFolded(entry) });
    if (act) this.act(act);
    else {
      const letter = event.key.length === 1 && (word || /\S/.test(event.key)) && !event.ctrlKey && !event.metaKey && !event.altKey;
      const found = letter ? this.ahead.find(event.key, rows, at, now) : null;
      if (!letter) return;
      if (found) this.goTo(found);
    }
    event.preventDefault();
    event.stopPropagation();
  }

  private act(act: TreeAct): void {
    if (act.kind === 'go') {
      if (act.extend) this.view.select([...new Set([...this.view.selection(), act.to])]);
      return this.goTo(act.to);
    }
    const row = this.rows().find((entry) => entry.node.id === act.id);
    if (!row) return;
    const { selection } = this.view;
    if (act.kind === 'fold' || act.kind === 'unfold') this.fold(row);
    else if (act.kind === 'choose') this.view.select([act.id]);
    else if (act.kind === 'add') this.view.select(selection().includes(act.id) ? selection().filter((id) => id !== act.id) : [...selection(), act.id]);
    else if (act.kind === 'rename') this.naming.set(act.id);
    else if (act.kind === 'delete') this.delete(row);
    else if (act.kind === 'move') this.moveBy(row, act.by);
  }

  /** Past its next neighbour in its group: up in the list is later in the document. */
  private moveBy(row: TreeEntry, by: 1 | -1): void {
    const siblings = this.store.entries().filter((entry) => entry.parent === row.parent).map((entry) => entry.node.id); // prettier-ignore
    const at = siblings.indexOf(row.node.id);
    const to = by > 0 ? at + 2 : at - 1;
    if (to < 0 || (by > 0 && at + 1 >= siblings.length)) return;
    this.arrange([row.node.id], row.parent, siblings[to] ?? null);
    this.goTo(row.node.id);
  }

  /** Brings a row into view and gives it the focus, also where it was not made yet. */
  protected goTo(id: string): void {
    const place = this.rows().findIndex((row) => row.node.id === id);
    if (place < 0) return;
    this.active.set(id);
    const going = ++this.going;
    const made = (): HTMLElement | undefined =>
      Array.from(this.host.querySelectorAll<HTMLElement>('[role=treeitem]')).find((element) => element.dataset['row'] === id);
    // Scrolling takes the row away that has the keys: until the other is there, the list has them.
    if (!made()) this.viewport()?.elementRef.nativeElement.focus({ preventScroll: true });
    this.scrollTo(place);
    // A row that was out of sight is made some frames after scrolling.
    let frames = 0;
    const focus = (): void => {
      if (going !== this.going) return;
      const row = made();
      if (row) row.focus({ preventScroll: true });
      else if (++frames < PATIENCE) requestAnimationFrame(focus);
    };
    afterNextRender(focus, { injector: this.injector });
  }

  /** By pointer: what is chosen so is worked on in the drawing, which then has the keys. */
  protected choose(id: string, event: MouseEvent): void {
    focusDrawing();
    const { ctrlKey, metaKey, shiftKey } = event;
    const selection = this.view.selection();
    if (!ctrlKey && !metaKey && !shiftKey) return this.view.select([id]);
    const rows = this.rows().map((row) => row.node.id);
    const from = rows.indexOf(selection.at(-1) ?? '');
    // Shift takes everything between, Ctrl one more.
    if (shiftKey && from >= 0) {
      const to = rows.indexOf(id);
      const between = rows.slice(Math.min(from, to), Math.max(from, to) + 1);
      return this.view.select([...new Set([...selection, ...between])]);
    }
    this.view.select(selection.includes(id) ? selection.filter((other) => other !== id) : [...selection, id]);
  }

  protected rename(id: string, old: string, text: string): void {
    this.naming.set(null);
    const name = text.trim().slice(0, 200);
    if (name && name !== old) this.store.commit({ kind: 'name', id, name }, `rename ${old}`);
  }

  /** Deletes what a row stands for; the focus goes to its neighbour. */
  protected delete({ node }: TreeEntry): void {
    const rows = this.rows();
    const inside = new Set(idsWithin(node));
    const place = rows.findIndex((row) => row.node.id === node.id);
    const next = rows.slice(place + 1).find((row) => !inside.has(row.node.id)) ?? rows[place - 1];
    this.store.commit({ kind: 'delete', ids: [node.id] }, `delete ${node.name}`);
    if (next) this.goTo(next.node.id);
  }
}
