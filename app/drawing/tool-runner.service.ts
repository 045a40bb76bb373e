import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { apply33, axesAt, CATCH_PX, parseLength, parseSum, type Edit, type History, type Plane, type PlanePoint, type SheetPoint } from '@core';
import { placeTool } from '../features/artwork/place.tool';
import { depthTool } from '../features/build/depth.tool';
import { arcTool, circleTool, ellipseTool, lineTool, polygonTool } from '../features/draw/form.tool';
import { curveTool, outlineTool, resumeOutline, type OutlineState } from '../features/draw/outline.tool';
import { freehandTool } from '../features/draw/freehand.tool';
import { cutTool, extendTool, regionTool } from '../features/draw/line-tools';
import { rectangleTool } from '../features/draw/rectangle.tool';
import { againTool, colourTool, dimensionTool, measureTool, stanceTool } from '../features/draw/space-tools';
import { traceTool } from '../features/projection/trace.tool';
import { PaintingService } from '../state/painting.service';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { RegionsService } from '../state/regions.service';
import { TraceService } from '../state/trace.service';
import { DRAWING_TOOLS, ViewStore, type ToolName } from '../state/view.store';
import { planePointAt } from '../tools/catching';
import { pickTool } from '../tools/pick.tool';
import type { Ghost, Tool, ToolContext, ToolEvent } from '../tools/tool';
import { newId } from '../platform/ids';

/** Settings pages leave the pointer to picking. */
const TOOLS = {
  pick: pickTool,
  projection: pickTool,
  grid: pickTool,
  sheet: pickTool,
  facts: pickTool,
  trace: traceTool,
  outline: outlineTool,
  rectangle: rectangleTool,
  line: lineTool,
  circle: circleTool,
  ellipse: ellipseTool,
  polygon: polygonTool,
  arc: arcTool,
  curve: curveTool,
  freehand: freehandTool,
  again: againTool,
  region: regionTool,
  cut: cutTool,
  extend: extendTool,
  measure: measureTool,
  dimension: dimensionTool,
  colour: colourTool,
  stance: stanceTool,
  depth: depthTool,
  place: placeTool,
} as unknown as Readonly<Record<ToolName, Tool<unknown>>>;

/** What is passed over is remembered for alignment when it is one of these. */
const HINTS: ReadonlySet<string> = new Set(['point', 'middle', 'centre', 'intersection']);

/** Drives the chosen tool: gives it events, shows its ghost, makes its edits. */
@Injectable({ providedIn: 'root' })
export class ToolRunnerService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly trace = inject(TraceService);
  private readonly regions = inject(RegionsService);
  private readonly painting = inject(PaintingService);

  private readonly state = signal<unknown>(pickTool.start());
  private readonly running = signal<ToolName>('pick');
  private marked: { readonly state: unknown; readonly tool: ToolName; readonly history: History; readonly selection: readonly string[] } | null = null;
  /** Where the keyboard's pointer stands, and whether it has moved since the last press. */
  private keyboardAt: PlanePoint | null = null;
  private keyboardMoved = false;

  /** Reads the colour that is seen at a place of the sheet; the drawing surface gives it. */
  readonly colourReader = signal<ToolContext['colourAt']>(() => null);

  /** Where the pointer is, in px of the drawing area; null when it has left. */
  readonly pointer = signal<SheetPoint | null>(null);
  readonly ghost = computed<Ghost | null>(() => TOOLS[this.running()].ghost(this.state(), this.context()));
  /** The lengths that can be typed now. */
  readonly fields = computed(() => TOOLS[this.running()].fields(this.state()));
  readonly busy = computed(() => this.fields().length > 0);
  /** The text that opened the typing field, or null while it is closed. */
  readonly typing = signal<string | null>(null);

  private readonly context = computed<ToolContext>(() => ({
    document: this.documents.kept(),
    geometry: this.pictures.geometry(),
    picture: this.pictures.picture(),
    plane: this.view.plane(),
    paint: this.view.paint(),
    sides: this.view.sides(),
    selection: this.view.selection(),
    artwork: this.view.artwork(),
    reach: CATCH_PX / this.view.zoom(),
    circleBy: this.view.circleBy(),
    assisted: this.view.assisted(),
    cleaning: this.view.cleaning(),
    pxPerUnit: this.view.zoom(),
    lastShape: this.view.lastShape(),
    directions: (plane, at) => this.directions(plane, at),
    spaceAt: (at) => this.pictures.spaceAt(at, this.view.plane(), CATCH_PX / this.view.zoom()),
    colourAt: this.colourReader(),
    on: (plane) => this.pictures.planeContext(plane),
    regions: (plane) => this.regions.on(this.documents.kept(), plane),
    traced: this.tracedCamera(),
    newId,
  }));
  private readonly tracedCamera = computed(() => {
    const solution = this.trace.solution();
    return solution?.ok ? solution.camera : null;
  });

  private directions(plane: Plane, at: PlanePoint): readonly PlanePoint[] {
    if (plane.kind !== 'sheet') return [{ u: 1, v: 0 }, { u: 0, v: 1 }]; // prettier-ignore
    const { sight, cell } = this.pictures.geometry();
    return axesAt(sight.projection, cell, at).map(({ du, dv }) => ({ u: du, v: dv }));
  }

  constructor() {
    effect(() => {
      const wanted = this.view.tool();
      untracked(() => this.switchTo(wanted));
    });
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
    const draft = this.documents.draft();
    if (!draft || draft.points.length === 0) {
      this.state.set(TOOLS[this.running()].start());
      return;
    }
    this.view.setStage('draw');
    this.view.setTool('outline');
    this.running.set('outline');
    this.state.set(resumeOutline(draft.plane, draft.points));
  }

  private switchTo(tool: ToolName): void {
    if (tool === this.running()) return;
    // What the tool before had begun ends here; the wish for another tool stands whatever that one wants next.
    // Picking keeps what is selected: another tool may be for it.
    if (TOOLS[this.running()] === TOOLS.pick) this.documents.show(null);
    else this.step({ kind: 'key', key: 'Escape' });
    this.view.setTool(tool);
    this.running.set(tool);
    this.state.set(TOOLS[tool].start());
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
    this.send({ kind, at, ...how });
  }

  /** Remembers where the work stands, so that a press that turns out to mean something else can be taken back. */
  mark(): void {
    this.marked = { state: this.state(), tool: this.running(), history: this.documents.history(), selection: this.view.selection() };
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
    if (this.running() !== marked.tool) this.view.setTool(marked.tool);
    this.running.set(marked.tool);
    this.state.set(marked.state);
    this.view.select(marked.selection);
    this.pointer.set(null);
  }

  key(key: 'Backspace' | 'Enter' | 'Escape'): void {
    if (key === 'Enter' && this.keyboardAt && this.keyboardMoved) {
      const at = this.keyboardSheet(this.keyboardAt);
      if (at) {
        this.keyboardMoved = false;
        this.send({ kind: 'down', at, lock: false, free: false });
        this.send({ kind: 'up', at, lock: false, free: false });
        return;
      }
    }
    this.send({ kind: 'key', key });
  }

  /** Moves the keyboard's pointer by cells along the plane's own directions and shows what it takes. */
  stepPointer(du: number, dv: number): void {
    const on = this.pictures.planeContext(this.view.plane());
    const centre = { x: (this.view.width() / 2 - this.view.panX()) / this.view.zoom(), y: (this.view.height() / 2 - this.view.panY()) / this.view.zoom() };
    const start = this.keyboardAt ?? this.ghost()?.caught ?? planePointAt(on, centre);
    if (!start) return;
    this.keyboardAt = { u: Math.round(start.u) + du, v: Math.round(start.v) + dv };
    this.keyboardMoved = true;
    const at = this.keyboardSheet(this.keyboardAt);
    if (!at) return;
    this.pointer.set({ x: at.x * this.view.zoom() + this.view.panX(), y: at.y * this.view.zoom() + this.view.panY() });
    this.send({ kind: 'move', at, lock: false, free: false });
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
      const angle = fields[i] === 'angle';
      const sum = text.trim() === '' ? null : angle ? parseSum(text.replace('°', '')) : parseLength(text, document.sheet, document.grid.cell);
      if (sum && !sum.ok) return sum.message;
      lengths.push(sum ? sum.value : null);
    }
    this.typing.set(null);
    this.send({ kind: 'typed', lengths });
    return null;
  }

  leave(): void {
    if (!this.busy()) this.pointer.set(null);
  }

  /** An event belongs to the tool that is chosen now, even where it comes before the page has been told of the choice. */
  private send(event: ToolEvent): void {
    this.switchTo(this.view.tool());
    this.step(event);
  }

  private step(event: ToolEvent): void {
    const name = this.running();
    const step = TOOLS[name].step(this.state(), event, this.context());
    this.state.set(step.state);
    if (step.preview !== undefined) this.documents.show(step.preview);
    if (step.commit) this.documents.commit(step.commit.edit, step.commit.label);
    if (step.select) this.view.select(step.select, step.face);
    if (step.measured) this.view.patch({ measured: step.measured });
    if (step.plane) this.view.putPlane(step.plane);
    this.remember(step.commit?.edit ?? null);
    if (step.colour !== undefined) this.finishColour(step.colour);
    if (name === 'outline' && this.opened === this.documents.history().base.id) {
      const { plane, points } = step.state as OutlineState;
      const kept = this.documents.draft();
      if (points !== (kept?.points ?? null) && (points.length > 0 || kept)) this.documents.setDraft(plane && points.length > 0 ? { plane, points } : null);
    }
    if (step.done) this.view.setTool('pick');
  }

  /** The shape that was drawn last, and the points that the pointer has passed over. */
  private remember(edit: Edit | null): void {
    const drawn = edit?.kind === 'add' && DRAWING_TOOLS.includes(this.running()) ? edit.nodes[0] : undefined;
    if (drawn?.kind === 'shape') this.view.patch({ lastShape: drawn.outline });
    const ghost = untracked(this.ghost);
    const caught = ghost?.caught;
    if (ghost && caught && HINTS.has(caught.kind)) this.pictures.passOver(ghost.plane, caught);
  }

  /** A picked colour goes to the selection, so picking comes first. */
  private finishColour(colour: string): void {
    this.view.setTool('pick');
    this.painting.setColour(this.view.colourSlot(), colour);
  }
}
