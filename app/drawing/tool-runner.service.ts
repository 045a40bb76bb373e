import { computed, effect, inject, Injectable, linkedSignal, signal, untracked } from '@angular/core';
import {
  addWorld,
  apply33,
  axesAt,
  CATCH_PX,
  parseLength,
  parseSum,
  scaleWorld,
  sheetFromWorld,
  type Edit,
  type History,
  type Plane,
  type PlanePoint,
  type SheetPoint,
} from '@core';
import { InHandService } from '../state/in-hand.service';
import { PaintingService } from '../state/painting.service';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { RegionsService } from '../state/regions.service';
import { PointerStore } from '../state/pointer.store';
import { using, type AnyTool } from '../state/stage';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';
import { planePointAt } from '../tools/catching';
import { pickTool } from '../tools/pick.tool';
import type { Ghost, ToolContext, ToolEvent } from '../tools/tool';
import type { OutlineDraft } from '../platform/database';
import { newId } from '../platform/ids';

/** What is passed over is remembered for alignment when it is one of these. */
const HINTS: ReadonlySet<string> = new Set(['point', 'middle', 'centre', 'intersection']);

const PICK: AnyTool = { name: 'pick', title: 'Pick', ...using({ tool: pickTool }) };

/** Drives the chosen tool: gives it events, shows its ghost, makes its edits. */
/** Fields at the pointer that are numbers rather than lengths. */
const PLAIN: ReadonlySet<string> = new Set(['angle', 'turns']);

@Injectable({ providedIn: 'root' })
export class ToolRunnerService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly stages = inject(StagesService);
  private readonly regions = inject(RegionsService);
  private readonly painting = inject(PaintingService);

  /** The tool that is chosen; picking while its stage is still to come. Stages that come meanwhile bring picking once more. */
  private readonly running = computed((): AnyTool => this.stages.tool(this.view.tool()) ?? PICK, { equal: (p, q) => p.name === q.name && p.tool === q.tool });
  /** Where it stands; another tool starts afresh. */
  private readonly state = linkedSignal({ source: this.running, computation: ({ tool }): unknown => tool.start() });
  private marked: {
    readonly state: unknown;
    readonly tool: string;
    readonly history: History;
    readonly selection: readonly string[];
    readonly past: readonly unknown[];
  } | null = null;
  /** Where the keyboard's pointer stands, and whether it has moved since the last press. */
  private keyboardAt: PlanePoint | null = null;
  private keyboardMoved = false;

  /** Reads the colour that is seen at a place of the sheet; the drawing surface gives it. */
  readonly colourReader = signal<ToolContext['colourAt']>(() => null);

  readonly pointer = inject(PointerStore).at;
  readonly ghost = computed<Ghost | null>(() => this.running().tool.ghost(this.state(), this.context()));
  /** The lengths that can be typed now. */
  readonly fields = computed(() => this.running().tool.fields(this.state()));
  readonly busy = computed(() => this.fields().length > 0);
  /** Whether something is in hand that undo takes back. */
  private readonly begun = computed(() => {
    const { tool } = this.running();
    return tool.begun?.(this.state()) ?? this.busy();
  });
  /** The text that opened the typing field, or null while it is closed. */
  readonly typing = signal<string | null>(null);

  private readonly context = computed<ToolContext>(() => ({
    settings: this.settings()?.current(),
    document: this.documents.kept(),
    geometry: this.pictures.geometry(),
    picture: this.pictures.picture(),
    plane: this.view.plane(),
    paint: this.view.paint(),
    selection: this.view.selection(),
    frameTakes: this.view.frameTakes(),
    reach: CATCH_PX / this.view.zoom(),
    pxPerUnit: this.view.zoom(),
    directions: (plane, at) => this.directions(plane, at),
    spaceAt: (at) => this.pictures.spaceAt(at, this.view.plane(), CATCH_PX / this.view.zoom()),
    colourAt: this.colourReader(),
    on: (plane) => this.pictures.planeContext(plane),
    regions: (plane) => this.regions.on(this.documents.kept(), plane),
    newId,
  }));
  /** What is set for tools like the one in use. */
  private readonly settings = computed(() => {
    const { settings } = this.running();
    return settings ? this.stages.get(settings) : null;
  });

  private directions(plane: Plane, at: PlanePoint): readonly PlanePoint[] {
    if (plane.kind !== 'sheet') return [{ u: 1, v: 0 }, { u: 0, v: 1 }]; // prettier-ignore
    const { sight, cell } = this.pictures.geometry();
    return axesAt(sight.projection, cell, at).map(({ du, dv }) => ({ u: du, v: dv }));
  }

  /** Where the tool in use stood before each press of what is in hand, and what was taken back of it, at which place of the drawing's steps. */
  private readonly past = signal<readonly unknown[]>([]);
  private readonly ahead = signal<readonly { readonly state: unknown; readonly tool: string; readonly history: Pick<History, 'steps' | 'position'> }[]>([]);

  constructor() {
    inject(InHandService).hold({
      canUndo: this.begun,
      canRedo: computed(() => {
        const next = this.ahead().at(-1);
        const { steps, position } = this.documents.history();
        return next?.tool === this.running().name && next.history.steps === steps && next.history.position === position;
      }),
      undo: () => this.undoInHand(),
      redo: () => this.redoInHand(),
    });
    this.view.beforeLeaving(() => this.end());
    effect(() => {
      const { base } = this.documents.history();
      untracked(() => this.takeUp(base.id));
    });
  }

  private opened = '';

  /** Starts afresh with another drawing, taking up the outline that was left in it. */
  private takeUp(id: string): void {
    if (id === this.opened || !this.documents.open()) return;
    this.opened = id;
    // What was in hand belongs to the drawing in which it was begun.
    this.past.set([]);
    this.ahead.set([]);
    const draft = this.documents.draft();
    this.state.set(this.running().tool.start());
    // Text that was being typed is taken up by the stage that writes, once it is there.
    if (draft) void this.stages.loadAll().then(() => this.opened === id && 'points' in draft && draft.points.length > 0 && this.resume(draft));
  }

  /** The tool that keeps what it has begun with the drawing goes on there. */
  private resume({ plane, points }: OutlineDraft): void {
    for (const { name, tools } of this.stages.here()) {
      const entry = tools.find((tool) => tool.draft);
      if (!entry) continue;
      this.stages.go(name, entry.name);
      this.state.set(entry.draft!.resume(plane, points));
      return;
    }
  }

  /** What the tool in use had begun ends here, before another is taken. */
  private end(): void {
    // Picking keeps what is selected: another tool may be for it.
    if (this.running().tool === PICK.tool) this.documents.show(null);
    else this.step({ kind: 'key', key: 'Escape' });
    this.typing.set(null);
  }

  /** A pointer event at a place of the drawing area in px. */
  point(
    kind: 'move' | 'down' | 'up',
    px: SheetPoint,
    how: { readonly lock: boolean; readonly free: boolean; readonly carry?: boolean; readonly press?: number },
  ): void {
    this.pointer.set(px);
    this.keyboardAt = null;
    const at = { x: (px.x - this.view.panX()) / this.view.zoom(), y: (px.y - this.view.panY()) / this.view.zoom() };
    this.step({ kind, at, ...how });
  }

  /** Remembers where the work stands, so that a press that turns out to mean something else can be taken back. */
  mark(): void {
    this.marked = { state: this.state(), tool: this.view.tool(), history: this.documents.history(), selection: this.view.selection(), past: this.past() };
  }

  /** A press has ended as it was meant: nothing of it is taken back any more. */
  settle(): void {
    this.marked = null;
  }

  /** Takes back what came since the mark, a step that was made included. */
  takeBack(): void {
    const { marked } = this;
    this.marked = null;
    if (!marked) return;
    this.documents.show(null);
    if (this.documents.history() !== marked.history) this.documents.undo();
    if (this.view.tool() !== marked.tool) this.view.setTool(marked.tool);
    this.state.set(marked.state);
    this.past.set(marked.past);
    this.view.select(marked.selection);
    this.pointer.set(null);
  }

  key(key: 'Backspace' | 'Enter' | 'Escape'): void {
    if (key === 'Enter' && this.keyboardAt && this.keyboardMoved) {
      const at = this.keyboardSheet(this.keyboardAt);
      if (at) {
        this.keyboardMoved = false;
        this.step({ kind: 'down', at, lock: false, free: false });
        this.step({ kind: 'up', at, lock: false, free: false });
        return;
      }
    }
    this.step({ kind: 'key', key });
  }

  /** Moves the keyboard's pointer by cells along the plane's own directions and shows what it takes. */
  stepPointer(du: number, dv: number): void {
    const rising = this.running().tool.rising?.(this.state(), this.context());
    if (rising) return this.stepHeight(rising, dv === 0 ? du : dv);
    const on = this.pictures.planeContext(this.view.plane());
    const centre = { x: (this.view.width() / 2 - this.view.panX()) / this.view.zoom(), y: (this.view.height() / 2 - this.view.panY()) / this.view.zoom() };
    const start = this.keyboardAt ?? this.ghost()?.caught ?? planePointAt(on, centre);
    if (!start) return;
    this.keyboardAt = { u: Math.round(start.u) + du, v: Math.round(start.v) + dv };
    this.keyboardMoved = true;
    const at = this.keyboardSheet(this.keyboardAt);
    if (!at) return;
    this.pointer.set({ x: at.x * this.view.zoom() + this.view.panX(), y: at.y * this.view.zoom() + this.view.panY() });
    this.step({ kind: 'move', at, lock: false, free: false });
  }

  /** A height that is drawn goes by whole cells. */
  private stepHeight({ foot, cell, cells }: NonNullable<ReturnType<NonNullable<AnyTool['tool']['rising']>>>, by: number): void {
    const to = Math.round(cells) + by;
    const at = sheetFromWorld(this.pictures.geometry().sight.projection, addWorld(foot, scaleWorld(cell, to)));
    if (!at) return;
    this.keyboardMoved = false;
    this.pointer.set({ x: at.x * this.view.zoom() + this.view.panX(), y: at.y * this.view.zoom() + this.view.panY() });
    // Exactly there, whatever else could be caught.
    this.step({ kind: 'move', at, lock: false, free: true });
  }

  private keyboardSheet(p: PlanePoint): SheetPoint | null {
    return apply33(this.pictures.planeContext(this.view.plane()).options.sheetFromPlane, p.u, p.v);
  }

  /** Takes typed lengths; comes back with what is wrong with the first that cannot be read. */
  type(texts: readonly string[]): string | null {
    const { document } = this.context();
    const lengths: (number | null)[] = [];
    const fields = this.fields();
    for (const [i, text] of texts.entries()) {
      const plain = PLAIN.has(fields[i] ?? '');
      const sum = text.trim() === '' ? null : plain ? parseSum(text.replace('°', '')) : parseLength(text, document.sheet, document.grid.cell);
      if (sum && !sum.ok) return sum.message;
      lengths.push(sum ? sum.value : null);
    }
    const [state, history] = [this.state(), this.documents.history()];
    this.step({ kind: 'typed', lengths });
    if (this.state() === state && this.documents.history() === history && lengths.some((length) => length !== null))
      return 'Nothing comes of these lengths: it would have no width, no height or no depth.';
    this.typing.set(null);
    return null;
  }

  /** Takes back the last press of what is in hand; what was begun before the page was opened, point by point. */
  private undoInHand(): void {
    const before = this.past().at(-1);
    const state = this.state();
    const ahead = [...this.ahead(), { state, tool: this.running().name, history: this.documents.history() }];
    this.typing.set(null);
    this.documents.show(null);
    if (before === undefined && this.running().draft) this.step({ kind: 'key', key: 'Backspace' });
    else this.state.set(before ?? this.running().tool.start());
    this.past.set(this.begun() && before !== undefined ? this.past().slice(0, -1) : []);
    this.ahead.set(ahead);
    this.keepDraft(this.running());
    this.pointAgain();
  }

  private redoInHand(): void {
    const next = this.ahead().at(-1);
    if (!next) return;
    this.past.update((past) => [...past, this.state()]);
    this.ahead.update((ahead) => ahead.slice(0, -1));
    this.state.set(next.state);
    this.keepDraft(this.running());
    this.pointAgain();
  }

  /** Shows what the tool would do where the pointer is. */
  private pointAgain(): void {
    const px = this.pointer();
    if (px && this.begun()) this.point('move', px, { lock: false, free: false });
  }

  /** Notes where the tool stood before a press; one that is finished, or was given up, has no steps any more. */
  private note(event: ToolEvent, before: unknown, finished: boolean): void {
    if (finished || !this.begun()) {
      if (this.past().length > 0) this.past.set([]);
      if (finished && this.ahead().length > 0) this.ahead.set([]);
      return;
    }
    if (this.state() === before || (event.kind !== 'down' && event.kind !== 'typed' && event.kind !== 'key')) return;
    this.past.update((past) => [...past, before]);
    if (this.ahead().length > 0) this.ahead.set([]);
  }

  leave(): void {
    if (!this.busy()) this.pointer.set(null);
  }

  private step(event: ToolEvent): void {
    const entry = this.running();
    const before = this.state();
    const step = entry.tool.step(before, event, this.context());
    this.state.set(step.state);
    if (step.preview !== undefined) this.documents.show(step.preview);
    if (step.commit) this.documents.commit(step.commit.edit, step.commit.label);
    if (step.select) this.view.select(step.select, step.face);
    if (step.settings) this.settings()?.patch(step.settings);
    if (step.plane) this.view.putPlane(step.plane);
    this.remember(entry, step.commit?.edit ?? null);
    if (step.colour !== undefined) this.finishColour(step.colour);
    this.keepDraft(entry);
    this.note(event, before, step.commit !== undefined);
    if (step.done) this.view.setTool('pick');
  }

  /** Keeps what the tool has begun with the drawing, where it is of that kind. */
  private keepDraft(entry: AnyTool): void {
    if (!entry.draft || this.opened !== this.documents.history().base.id) return;
    const { plane, points } = entry.draft.of(this.state());
    const draft = this.documents.draft();
    const kept = draft && 'points' in draft ? draft : null;
    if (points !== (kept?.points ?? null) && (points.length > 0 || kept)) this.documents.setDraft(plane && points.length > 0 ? { plane, points } : null);
  }

  /** What was drawn, and the points that the pointer has passed over. */
  private remember(entry: AnyTool, edit: Edit | null): void {
    if (edit && entry.draws) this.settings()?.made?.(edit);
    const ghost = untracked(this.ghost);
    const caught = ghost?.caught;
    if (ghost && caught && HINTS.has(caught.kind)) this.pictures.passOver(ghost.plane, caught);
  }

  /** A picked colour is taken, and what was in hand before is in hand again. */
  private finishColour(colour: string): void {
    this.painting.setColour(this.view.colourSlot(), colour);
    this.view.setTool(this.view.toolBefore());
  }
}
