import { computed, inject, Injectable } from '@angular/core';
import { axesOf, findNode, idsWithin, pickAt, type Edit } from '@core';
import { ToolRunnerService } from '../drawing/tool-runner.service';
import { newId } from '../platform/ids';
import { ClipboardService } from './clipboard.service';
import { HandOverService } from './hand-over.service';
import { ImportsService } from './imports.service';
import { KeepingService } from './keeping.service';
import { ReferencesService } from './references.service';
import { moveAll, moveOnPlane } from '../tools/pick.tool';
import { ArrangingService } from './arranging.service';
import { ShapingService } from './shaping.service';
import { DocumentStore } from './document.store';
import type { CommandId } from './keys';
import { MessageStore } from '../platform/messages.store';
import { PictureService } from './picture.service';
import { SteeringService } from './steering.service';
import { PX_PER_MM, STAGES, ViewStore, type ToolName } from './view.store';

interface Need {
  readonly ids: RegExp;
  readonly holds: (id: CommandId, commands: CommandsService) => boolean;
  readonly say: string;
}

const need = (ids: RegExp, what: keyof CommandsService['needs'], say: string): Need => ({ ids, holds: (_, { needs }) => needs[what](), say });

/** What has to be there for a command, and what to do where it is not. The first that fits and fails is said. */
const MISSING: readonly Need[] = [
  need(/^undo$/, 'undo', 'There is nothing to undo.'),
  need(/^redo$/, 'redo', 'There is nothing to redo.'),
  need(/^(delete|rename|hide|lock|group)$/, 'selected', 'Select something first.'),
  need(/^(duplicate|copy|cut|copy\.linked|view\.selection|order\..*)$/, 'things', 'Select something first.'),
  need(/^copy\.free$/, 'copies', 'Select a linked copy first.'),
  { ids: /^view\.alone$/, holds: (_, { needs }) => needs.alone() || needs.things(), say: 'Select what is to be shown first.' },
  need(/^(union|subtract|intersect|exclude)$|^(align|distribute|same)\./, 'several', 'Select two or more things first.'),
  need(/^(points\.delete|line\.split)$/, 'points', 'Choose a point of a selected shape first.'),
  need(/^(points|line|turn|mirror|to)\./, 'shapes', 'Select a shape first.'),
  need(/^ungroup$/, 'group', 'Select a group first.'),
  need(/^offset\./, 'space', 'The sheet has no offset: choose another plane first.'),
  need(/^(projection\.(calmer|stronger)|view\.cone)$/, 'perspective', 'Choose a perspective first.'),
  need(/^view\.back$/, 'brought', 'Nothing was brought into view.'),
];

/** Runs commands, from keys, buttons and the finder alike. */
@Injectable({ providedIn: 'root' })
export class CommandsService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly keeping = inject(KeepingService);
  private readonly imports = inject(ImportsService);
  private readonly tools = inject(ToolRunnerService);
  private readonly messages = inject(MessageStore);
  private readonly steering = inject(SteeringService);
  private readonly references = inject(ReferencesService);
  private readonly handOver = inject(HandOverService);
  private readonly arranging = inject(ArrangingService);
  private readonly shaping = inject(ShapingService);
  private readonly clipboard = inject(ClipboardService);

  /** Selected nodes that are still there. */
  readonly selected = computed(() => this.view.selection().filter((id) => findNode(this.documents.kept(), id) !== null));

  private readonly actions: Readonly<Record<CommandId, () => unknown>> = {
    'tool.pick': () => this.takeTool('pick'),
    'tool.outline': () => this.takeTool('outline'),
    'tool.rectangle': () => this.takeTool('rectangle'),
    'tool.line': () => this.takeTool('line'),
    'tool.circle': () => this.takeTool('circle'),
    'tool.ellipse': () => this.takeTool('ellipse'),
    'tool.polygon': () => this.takeTool('polygon'),
    'tool.arc': () => this.takeTool('arc'),
    'tool.curve': () => this.takeTool('curve'),
    'tool.freehand': () => this.takeTool('freehand'),
    'tool.again': () => this.takeTool('again'),
    'tool.region': () => this.takeTool('region'),
    'tool.cut': () => this.takeTool('cut'),
    'tool.extend': () => this.takeTool('extend'),
    'tool.measure': () => this.takeTool('measure'),
    'tool.dimension': () => this.takeTool('dimension'),
    'tool.colour': () => this.takeTool('colour'),
    'tool.stance': () => this.takeTool('stance'),
    'stage.previous': () => this.stepStage(-1),
    'stage.next': () => this.stepStage(1),
    'stage.projection': () => this.view.setStage('projection'),
    'stage.draw': () => this.view.setStage('draw'),
    'stage.build': () => this.view.setStage('build'),
    'stage.light': () => this.view.setStage('light'),
    'stage.artwork': () => this.view.setStage('artwork'),
    'stage.output': () => this.view.setStage('output'),
    'plane.floor': () => this.view.setPlane('floor'),
    'plane.left': () => this.view.setPlane('left'),
    'plane.right': () => this.view.setPlane('right'),
    'plane.sheet': () => this.view.setPlane('sheet'),
    'plane.under': () => this.planeUnderPointer(),
    'offset.more': () => this.offset(1),
    'offset.less': () => this.offset(-1),
    'view.grid': () => this.view.patch({ grid: !this.view.grid() }),
    'view.snap': () => this.view.patch({ snapping: !this.view.snapping() }),
    'view.see-through': () => this.view.patch({ seeThrough: !this.view.seeThrough() }),
    'view.fit': () => this.view.fit(this.documents.kept().sheet.width, this.documents.kept().sheet.height),
    'view.full': () => this.view.zoomAt(PX_PER_MM / this.view.zoom(), this.view.width() / 2, this.view.height() / 2),
    'view.selection': () => this.zoomToSelection(),
    'view.final': () => this.view.zoomAt(PX_PER_MM / this.view.zoom() / devicePixelRatio, this.view.width() / 2, this.view.height() / 2),
    'view.alone': () => this.view.patch({ alone: this.view.alone() ? null : this.selected() }),
    'view.catching': () => this.view.patch({ panel: 'catching' }),
    steps: () => this.view.patch({ panel: 'steps' }),
    'view.in': () => this.view.zoomAt(1.25, this.view.width() / 2, this.view.height() / 2),
    'view.out': () => this.view.zoomAt(0.8, this.view.width() / 2, this.view.height() / 2),
    'view.rulers': () => this.view.patch({ rulers: !this.view.rulers() }),
    'view.cone': () => this.view.patch({ cone: !this.view.cone() }),
    'view.figure': () => this.view.patch({ figure: !this.view.figure() }),
    'view.back': () => this.view.lookBack(),
    'view.compare': () => this.view.patch({ comparing: !this.view.comparing() }),
    'view.theme': () => this.view.setTheme(this.view.theme() === 'dark' ? 'light' : 'dark'),
    undo: () => this.documents.undo(),
    redo: () => this.documents.redo(),
    find: () => this.view.patch({ panel: 'find' }),
    keys: () => this.view.patch({ panel: 'keys' }),
    'select.all': () => this.view.select(this.documents.kept().nodes.map((node) => node.id)),
    delete: () => this.onSelection((ids) => ({ kind: 'delete', ids }), 'delete'),
    rename: () => document.querySelector<HTMLElement>('[data-rename]')?.focus(),
    hide: () => this.toggle('hidden'),
    lock: () => this.toggle('locked'),
    duplicate: () => this.arranging.duplicate(),
    'copy.linked': () => this.arranging.duplicate(true),
    'copy.free': () => this.arranging.makeIndependent(),
    copy: () => this.clipboard.copy(),
    cut: () => this.clipboard.copy().then((done) => done && this.onSelection((ids) => ({ kind: 'delete', ids }), 'cut')),
    paste: () => this.clipboard.pasteFromBrowser(),
    'order.up': () => this.reorder(1),
    'order.down': () => this.reorder(-1),
    union: () => this.shaping.combine('union'),
    subtract: () => this.shaping.combine('subtract'),
    intersect: () => this.shaping.combine('intersect'),
    exclude: () => this.shaping.combine('exclude'),
    'points.smooth': () => this.shaping.smooth(),
    'points.sharp': () => this.shaping.sharpen(),
    'points.delete': () => this.shaping.deletePoints(),
    'line.join': () => this.shaping.join(),
    'line.split': () => this.shaping.split(),
    'line.close': () => this.shaping.close(),
    'line.open': () => this.shaping.open(),
    'align.low-u': () => this.arranging.align('u', 'low'),
    'align.middle-u': () => this.arranging.align('u', 'middle'),
    'align.high-u': () => this.arranging.align('u', 'high'),
    'align.low-v': () => this.arranging.align('v', 'low'),
    'align.middle-v': () => this.arranging.align('v', 'middle'),
    'align.high-v': () => this.arranging.align('v', 'high'),
    'distribute.u': () => this.arranging.distribute('u'),
    'distribute.v': () => this.arranging.distribute('v'),
    'same.length': () => this.arranging.sameLength('u'),
    'same.height': () => this.arranging.sameLength('v'),
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
    'document.open-file': () => this.imports.openProject(),
    'document.save-file': () => this.saveProject(),
    'sheet.centre': () => this.steering.centre(),
    'use.isometric': () => this.steering.choose('isometric'),
    'use.pixel': () => this.steering.choose('pixel'),
    'use.dimetric': () => this.steering.choose('dimetric'),
    'use.trimetric': () => this.steering.choose('trimetric'),
    'use.cavalier': () => this.steering.choose('cavalier'),
    'use.cabinet': () => this.steering.choose('cabinet'),
    'use.planometric': () => this.steering.choose('planometric'),
    'use.one-point': () => this.steering.choose('one-point'),
    'use.two-point': () => this.steering.choose('two-point'),
    'use.three-point': () => this.steering.choose('three-point'),
    'projection.calmer': () => this.steering.calmer(1.25),
    'projection.stronger': () => this.steering.calmer(0.8),
    'reference.add': () => this.references.choose(),
    'output.png': () => this.handOver.png(),
    'output.pdf': () => this.handOver.pdf(),
    'output.svg': () => this.handOver.svg(),
    'output.grid-svg': () => this.handOver.grid('svg'),
    'output.grid-png': () => this.handOver.grid('png'),
    'artwork.add': () => this.imports.addArtwork(),
  };

  run(id: CommandId): void {
    void this.actions[id]();
  }

  /** What is missing for a command, as what to do first; null where it can be done now. */
  why(id: CommandId): string | null {
    const missing = MISSING.find(({ ids, holds }) => ids.test(id) && !holds(id, this));
    return missing?.say ?? null;
  }

  enabled(id: CommandId): boolean {
    return this.why(id) === null;
  }

  /** What commands need, each asked once for those whose names fit. */
  readonly needs = {
    undo: () => this.documents.canUndo(),
    redo: () => this.documents.canRedo(),
    selected: () => this.selected().length > 0,
    things: () => this.arranging.nodes().length > 0,
    several: () => this.arranging.nodes().length > 1,
    copies: () => this.arranging.copies().length > 0,
    alone: () => this.view.alone() !== null,
    points: () => this.view.points().length > 0,
    shapes: () => this.arranging.shapes().length > 0,
    group: () => this.selected().some((id) => findNode(this.documents.kept(), id)?.kind === 'group'),
    space: () => this.view.plane().kind !== 'sheet',
    perspective: () => this.steering.perspective() !== null,
    brought: () => this.view.lookBefore() !== null,
  } as const;

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

  private takeTool(tool: ToolName): void {
    if (!STAGES.find((stage) => stage.name === this.view.stage())?.tools.includes(tool)) this.view.setStage('draw');
    this.view.setTool(tool);
  }

  /** The part of the sheet that the selection takes, as large as fits. */
  private zoomToSelection(): void {
    const ids = new Set(this.arranging.nodes().flatMap(idsWithin));
    const parts = this.pictures.picture().visible.filter((part) => ids.has(part.node));
    const [xs, ys] = [0, 1].map((k) => parts.flatMap((part) => Array.from(part.polygon).filter((_, i) => i % 2 === k)));
    if (xs!.length > 0) this.view.showBox(Math.min(...xs!), Math.min(...ys!), Math.max(...xs!), Math.max(...ys!));
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
    if (at < 0 || (by > 0 && at > siblings.length)) return;
    this.documents.commit({ kind: 'arrange', ids, parent: entry.parent, before: siblings[at] ?? null }, by > 0 ? 'forward' : 'backward');
  }

  private stepStage(by: number): void {
    const at = STAGES.findIndex((stage) => stage.name === this.view.stage());
    const next = STAGES[Math.max(0, Math.min(STAGES.length - 1, at + by))];
    if (next) this.view.setStage(next.name);
  }

  private offset(by: number): void {
    const plane = this.view.plane();
    if (plane.kind !== 'sheet') this.view.putPlane({ ...plane, offset: plane.offset + by });
  }

  /** The plane of the face under the pointer; on the bare sheet nothing changes. */
  private planeUnderPointer(): void {
    const px = this.tools.pointer();
    if (!px) return;
    const at = { x: (px.x - this.view.panX()) / this.view.zoom(), y: (px.y - this.view.panY()) / this.view.zoom() };
    const hit = pickAt(this.pictures.picture(), at, 0);
    const plane = hit && this.pictures.planeOfFace(hit.node, hit.face);
    if (plane) this.view.putPlane(plane);
    else this.messages.say('info', 'No face along the axes is under the pointer');
  }

  private onSelection(edit: (ids: string[]) => Edit, label: string): void {
    const ids = this.selected();
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
