import { computed, inject, Injectable } from '@angular/core';
import { axesOf, faceUnder, findNode, idsWithin, planeOfSurface, type Edit } from '@core';
import { newId } from '../platform/ids';
import { lockedIds } from '../tools/tool';
import { ClipboardService } from './clipboard.service';
import { ImportsService } from './imports.service';
import { KeepingService } from './keeping.service';
import { moveAll, moveOnPlane } from '../tools/pick.tool';
import { ArrangingService } from './arranging.service';
import { InHandService } from './in-hand.service';
import { DocumentStore } from './document.store';
import { COMMANDS, keyName, NEEDS, type CommandWords, type CommonId, type Need } from './keys';
import { MessageStore } from '../platform/messages.store';
import { PictureService } from './picture.service';
import { SteeringService } from './steering.service';
import { AidsStore } from './aids.store';
import { PointerStore } from './pointer.store';
import type { StageCommand } from './stage';
import { StagesService } from './stages.service';
import { PX_PER_MM, ViewStore } from './view.store';

/** Runs commands, from keys, buttons and the finder alike. */
@Injectable({ providedIn: 'root' })
export class CommandsService {
  private readonly inHand = inject(InHandService);
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly aids = inject(AidsStore);
  private readonly pictures = inject(PictureService);
  private readonly keeping = inject(KeepingService);
  private readonly imports = inject(ImportsService);
  private readonly pointer = inject(PointerStore);
  private readonly stages = inject(StagesService);
  private readonly messages = inject(MessageStore);
  private readonly steering = inject(SteeringService);
  private readonly arranging = inject(ArrangingService);
  private readonly clipboard = inject(ClipboardService);

  /** Selected nodes that are still there. */
  readonly selected = computed(() => this.view.selection().filter((id) => findNode(this.documents.kept(), id) !== null));

  private readonly actions: Readonly<Record<CommonId, () => unknown>> = {
    'stage.previous': () => this.stepStage(-1),
    'stage.next': () => this.stepStage(1),
    'plane.floor': () => this.view.setPlane('floor'),
    'plane.left': () => this.view.setPlane('left'),
    'plane.right': () => this.view.setPlane('right'),
    'plane.sheet': () => this.view.setPlane('sheet'),
    'plane.under': () => this.planeUnderPointer(),
    'offset.more': () => this.offset(1),
    'offset.less': () => this.offset(-1),
    'view.grid': () => this.view.patch({ grid: !this.view.grid() }),
    'view.snap': () => this.view.patch({ snapping: !this.view.snapping() }),
    'view.frames': () => this.view.patch({ frameTakes: this.view.frameTakes() === 'within' ? 'touching' : 'within' }),
    'view.references': () => this.aids.patch({ onTop: !this.aids.onTop() }),
    'view.see-through': () => this.view.patch({ seeThrough: !this.view.seeThrough() }),
    'view.fit': () => this.view.fit(this.documents.kept().sheet.width, this.documents.kept().sheet.height),
    'view.full': () => this.view.zoomAt(PX_PER_MM / this.view.zoom(), this.view.width() / 2, this.view.height() / 2),
    'view.selection': () => this.zoomToSelection(),
    'view.final': () => this.view.zoomAt(PX_PER_MM / this.view.zoom() / devicePixelRatio, this.view.width() / 2, this.view.height() / 2),
    'view.alone': () => this.view.patch({ alone: this.view.alone() ? null : this.selected() }),
    'view.catching': () => this.view.patch({ panel: 'catching' }),
    'view.in': () => this.view.zoomAt(1.25, this.view.width() / 2, this.view.height() / 2),
    'view.out': () => this.view.zoomAt(0.8, this.view.width() / 2, this.view.height() / 2),
    'view.grid-page': () => this.stages.go('projection', 'grid'),
    'view.rulers': () => this.view.patch({ rulers: !this.view.rulers() }),
    'view.compare': () => this.aids.patch({ comparing: !this.aids.comparing() }),
    'view.theme': () => this.view.setTheme(this.view.theme() === 'dark' ? 'light' : 'dark'),
    undo: () => (this.inHand.canUndo() ? this.inHand.undo() : this.documents.undo()),
    steps: () => this.view.patch({ panel: 'steps' }),
    redo: () => (this.inHand.canRedo() ? this.inHand.redo() : this.documents.redo()),
    find: () => this.view.patch({ panel: 'find' }),
    keys: () => this.view.patch({ panel: 'keys' }),
    'select.all': () => this.view.select(this.documents.kept().nodes.map((node) => node.id)),
    delete: () => this.onSelection((ids) => ({ kind: 'delete', ids }), 'delete', this.unlocked()),
    rename: () => document.querySelector<HTMLElement>('[data-rename]')?.focus(),
    hide: () => this.toggle('hidden'),
    lock: () => this.toggle('locked'),
    duplicate: () => this.arranging.duplicate(),
    'copy.linked': () => this.arranging.duplicate(true),
    'copy.free': () => this.arranging.makeIndependent(),
    copy: () => this.clipboard.copy(),
    cut: () => this.clipboard.copy().then((done) => done && this.onSelection((ids) => ({ kind: 'delete', ids }), 'cut', this.unlocked())),
    paste: () => this.clipboard.pasteFromBrowser(),
    'order.up': () => this.reorder(1),
    'order.down': () => this.reorder(-1),
    'turn.left': () => this.arranging.turn(90),
    'turn.right': () => this.arranging.turn(-90),
    'mirror.across': () => this.arranging.mirror('u'),
    'mirror.up': () => this.arranging.mirror('v'),
    'to.floor': () => this.arranging.toPlane('floor'),
    'to.left': () => this.arranging.toPlane('left'),
    'to.right': () => this.arranging.toPlane('right'),
    'to.sheet': () => this.arranging.toPlane('sheet'),
    group: () => this.group(),
    ungroup: () => this.ungroup(),
    'document.new': () => this.keeping.startEmpty(),
    'document.list': () => this.view.patch({ panel: 'drawings' }),
    'document.demo': () => this.keeping.addDemos(),
    'document.demo.quay9': () => this.keeping.addDemos('quay9'),
    'document.demo.deck': () => this.keeping.addDemos('deck'),
    'document.demo.lighthouse': () => this.keeping.addDemos('lighthouse'),
    'document.demo.hoarding': () => this.keeping.addDemos('hoarding'),
    'document.demo.funnel': () => this.keeping.addDemos('funnel'),
    'document.open-file': () => this.imports.openProject(),
    'document.save-file': () => this.saveProject(),
  };

  /** Every command that is here: the common ones, those that go to a stage, and those of stages that are loaded. */
  readonly all = computed((): readonly CommandWords[] => [...COMMANDS, ...this.ofStages(), ...this.stages.commands()]);
  private readonly byId = computed(() => new Map(this.all().map((command) => [command.id, command])));
  private readonly byKey = computed(() => new Map(this.all().flatMap((command) => command.keys.map((key) => [key, command.id] as const))));

  private ofStages(): readonly CommandWords[] {
    return this.stages.links.map(({ name, title }): CommandWords => ({ id: `stage.${name}`, title: `Go to ${title}`, keys: [], group: 'Stages' }));
  }

  /** Runs a command; one of a stage that is not here yet when it has come. */
  run(id: string): void {
    const common = (this.actions as Readonly<Record<string, (() => unknown) | undefined>>)[id];
    if (common) return void common();
    if (id.startsWith('stage.')) return this.stages.go(id.slice('stage.'.length));
    const own = (): StageCommand | undefined => this.stages.commands().find((command) => command.id === id);
    const here = own();
    if (here) return void here.run(this.stages.get);
    void this.stages.loadAll().then(() => own()?.run(this.stages.get));
  }

  /** The command that a key stands for, or null. */
  forKey(event: Parameters<typeof keyName>[0]): string | null {
    return this.byKey().get(keyName(event)) ?? null;
  }

  /** What is missing for a command, as what to do first; null where it can be done now. */
  why(id: string): string | null {
    const needs = this.byId().get(id)?.needs;
    return needs && !this.needs[needs]() ? NEEDS[needs] : null;
  }

  enabled(id: string): boolean {
    return this.why(id) === null;
  }

  /** What commands need, each asked once for those whose names fit. */
  readonly needs: Readonly<Record<Need, () => boolean>> = {
    undo: () => this.inHand.canUndo() || this.documents.canUndo(),
    redo: () => this.inHand.canRedo() || this.documents.canRedo(),
    selected: () => this.selected().length > 0,
    things: () => this.arranging.nodes().length > 0,
    several: () => this.arranging.nodes().length > 1,
    copies: () => this.arranging.copies().length > 0,
    showable: () => this.view.alone() !== null || this.arranging.nodes().length > 0,
    points: () => this.view.points().length > 0,
    shapes: () => this.arranging.shapes().length > 0,
    group: () => this.selected().some((id) => findNode(this.documents.kept(), id)?.kind === 'group'),
    space: () => this.view.plane().kind !== 'sheet',
    perspective: () => this.steering.perspective() !== null,
    brought: () => this.view.lookBefore() !== null,
  };

  /** Moves the selection by cells along its plane; `across` along its normal towards the viewer. */
  nudge(du: number, dv: number, across: number): boolean {
    const ids = this.selected();
    const first = ids[0] === undefined ? null : findNode(this.documents.kept(), ids[0]);
    if (!first) return false;
    const lies = first.kind === 'placement' && first.target.kind === 'plane' ? first.target.plane : null;
    const plane = first.kind === 'shape' || first.kind === 'dimension' ? first.plane : (lies ?? this.view.plane());
    const by = moveOnPlane(plane, du, plane.kind === 'sheet' ? -dv : dv);
    const axes = axesOf(plane);
    if (across !== 0 && axes) by[axes.across] += plane.kind === 'floor' ? across : -across;
    const edit = moveAll(this.documents.kept(), ids, by, { x: du, y: -dv });
    return edit !== null && this.documents.commit(edit, ids.length === 1 ? `move ${first.name}` : 'move');
  }

  saveProject(): void {
    void this.keeping.saveFile().then(
      (name) => this.messages.say('good', 'The project was saved as a file', [name]),
      (error: unknown) => this.messages.say('bad', 'The project was not saved as a file', [error instanceof Error ? error.message : String(error)]),
    );
  }

  /** The part of the sheet that the selection takes, as large as fits. */
  private zoomToSelection(): void {
    const ids = new Set(this.arranging.nodes().flatMap(idsWithin));
    const parts = this.pictures.picture().visible.filter((part) => ids.has(part.node));
    const [xs, ys] = [0, 1].map((k) => parts.flatMap((part) => Array.from(part.polygon).filter((_, i) => i % 2 === k)));
    if (xs!.length > 0) return this.view.showBox(Math.min(...xs!), Math.min(...ys!), Math.max(...xs!), Math.max(...ys!));
    const [first] = this.arranging.nodes();
    if (first) this.messages.say('info', `“${first.name}” is not seen`, ['It is hidden, holds nothing, or is what another thing is cut by.']);
  }

  /** Moves the selection past its next neighbour in the order of things of one plane. */
  private reorder(by: 1 | -1): void {
    const [first] = this.arranging.nodes();
    const entries = this.documents.entries();
    const entry = first && entries.find((e) => e.node.id === first.id);
    if (!first || !entry) return;
    const siblings = entries.filter((e) => e.parent === entry.parent).map((e) => e.node.id);
    const ids = this.arranging.nodes().map((node) => node.id);
    const places = ids.map((id) => siblings.indexOf(id)).filter((place) => place >= 0);
    const at = by > 0 ? Math.max(...places) + 2 : Math.min(...places) - 1;
    if (at < 0 || (by > 0 && at > siblings.length)) return void this.messages.say('info', `“${first.name}” is ${by > 0 ? 'in front' : 'at the back'} already`);
    this.documents.commit({ kind: 'arrange', ids, parent: entry.parent, before: siblings[at] ?? null }, by > 0 ? 'forward' : 'backward');
  }

  private stepStage(by: number): void {
    const { links } = this.stages;
    const at = links.findIndex((stage) => stage.name === this.view.stage());
    const next = links[Math.max(0, Math.min(links.length - 1, at + by))];
    if (next) this.stages.go(next.name);
  }

  private offset(by: number): void {
    const plane = this.view.plane();
    if (plane.kind !== 'sheet') this.view.putPlane({ ...plane, offset: plane.offset + by });
  }

  /** The plane of the face under the pointer; on the bare sheet nothing changes. */
  private planeUnderPointer(): void {
    const px = this.pointer.at();
    if (!px) return;
    const at = { x: (px.x - this.view.panX()) / this.view.zoom(), y: (px.y - this.view.panY()) / this.view.zoom() };
    const seen = faceUnder(this.pictures.picture(), at);
    const plane = seen && planeOfSurface(seen.surface);
    if (plane) this.view.putPlane(plane);
    else this.messages.say('info', 'No face along the axes is under the pointer');
  }

  /** What of the selection is not locked, nor held by what is; what is, is said. */
  private unlocked(): string[] {
    const locked = lockedIds(this.documents.kept().nodes);
    const ids = this.selected();
    this.arranging.saySkipped(ids.flatMap((id) => (locked.has(id) ? [`“${findNode(this.documents.kept(), id)!.name}” is locked.`] : [])));
    return ids.filter((id) => !locked.has(id));
  }

  private onSelection(edit: (ids: string[]) => Edit, label: string, ids = this.selected()): void {
    if (ids.length === 0) return;
    // What lies inside another selected thing goes with it.
    const document = this.documents.kept();
    const inner = new Set(
      this.documents
        .entries()
        .filter((e) => e.parent !== null && ids.includes(e.parent))
        .map((e) => e.node.id),
    );
    const outer = ids.filter((id) => !inner.has(id));
    const name = outer.length === 1 ? (findNode(document, outer[0]!)?.name ?? '') : `${outer.length} things`;
    this.documents.commit(edit(outer), `${label} ${name}`);
  }

  private toggle(flag: 'hidden' | 'locked'): void {
    const first = findNode(this.documents.kept(), this.selected()[0] ?? '');
    if (!first) return;
    const on = !first[flag];
    this.onSelection(
      (ids) => (flag === 'hidden' ? { kind: 'hide', ids, hidden: on } : { kind: 'lock', ids, locked: on }),
      flag === 'hidden' ? (on ? 'hide' : 'show') : on ? 'lock' : 'unlock',
    );
  }

  private group(): void {
    const id = newId();
    this.onSelection((ids) => ({ kind: 'group', ids, id, name: 'group' }), 'group');
    this.view.select([id]);
  }

  private ungroup(): void {
    const groups = this.selected().flatMap((id) => {
      const node = findNode(this.documents.kept(), id);
      return node?.kind === 'group' ? [node] : [];
    });
    if (groups.length === 0) return;
    const edits = groups.map(({ id }) => ({ kind: 'ungroup', id }) as const);
    const held = groups.flatMap((group) => group.children.map((node) => node.id));
    const others = this.selected().filter((id) => !groups.some((group) => group.id === id));
    this.documents.commit(
      edits.length === 1 ? edits[0]! : { kind: 'all', edits },
      `ungroup ${groups.length === 1 ? groups[0]!.name : `${groups.length} groups`}`,
    );
    // What came out is selected, so that the next act is on it.
    this.view.select([...others, ...held]);
  }
}
