import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import { apply33, CATCH_PX, COLOUR_VISION, drawnNodes, findNode, findShape, idsWithin, invert33, isUnseen, pickAt, type SheetPoint } from '@core';
import { ImportsService } from '../state/imports.service';
import { ShapingService } from '../state/shaping.service';
import { FlatService } from '../state/flat.service';
import { RastersService } from '../state/rasters.service';
import { BitmapsService } from '../state/bitmaps.service';
import { PictureService } from '../state/picture.service';
import { DocumentStore } from '../state/document.store';
import { AidsStore } from '../state/aids.store';
import { StagesService } from '../state/stages.service';
import { ViewStore } from '../state/view.store';
import { AidsService } from './aids.service';
import { ColourReader } from './colour-reader';
import { HandlesService } from './handles.service';
import { HereMenuComponent } from './here-menu.component';
import { RulersComponent } from './rulers.component';
import { Surface } from './surface';
import { ToolRunnerService } from './tool-runner.service';
import { TouchTracker } from './touch';
import { TypingComponent } from './typing.component';
import { PointerWordsComponent } from './pointer-words.component';

/** Ms that a finger rests for a long press, and px that it may tremble meanwhile. */
const LONG_PRESS_MS = 550;
const STILL_PX = 8;

/** The most strength that a reference has over the drawing, so that both are seen. */
const SEEN_THROUGH = 0.55;

/** The drawing: the picture with its grid, ghosts and handles, and what the pointer does there. */
@Component({
  selector: 'chemin-drawing',
  imports: [HereMenuComponent, PointerWordsComponent, RulersComponent, TypingComponent],
  templateUrl: './drawing.component.html',
  styleUrl: './drawing.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawingComponent {
  protected readonly view = inject(ViewStore);
  private readonly stages = inject(StagesService);
  private readonly chosen = inject(AidsStore);
  protected readonly tools = inject(ToolRunnerService);
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly handles = inject(HandlesService);
  private readonly imports = inject(ImportsService);
  private readonly aids = inject(AidsService);
  private readonly bitmaps = inject(BitmapsService);
  private readonly shaping = inject(ShapingService);
  private readonly rasters = inject(RastersService);
  private readonly flat = inject(FlatService);
  /** References with their pictures; the chosen one is hidden in every other moment while it blinks. */
  private readonly references = computed(() => {
    const blinked = this.chosen.blink() === 'hidden' ? this.chosen.reference() : null;
    const onTop = this.chosen.onTop();
    return this.documents.shown().references.map((reference) => ({
      reference: {
        ...reference,
        ...(reference.id === blinked && { hidden: true }),
        ...(onTop && !reference.over && { over: true, strength: Math.min(reference.strength, SEEN_THROUGH) }),
      },
      image: this.bitmaps.images().get(reference.bitmap) ?? null,
    }));
  });
  /** Things whose paint cannot be told from the sheet. */
  private readonly unseen = computed((): ReadonlySet<string> => {
    const { sheet, swatches } = this.documents.shown();
    return new Set(
      drawnNodes(this.documents.shown()).flatMap(({ node, owner, hidden }) =>
        !hidden && node.kind === 'shape' && isUnseen(node.paint, sheet.background, swatches, node.plane.kind !== 'sheet') ? [owner] : [],
      ),
    );
  });
  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private surface: Surface | null = null;
  /** Wishes for the whole sheet that were met so far. */
  private refitted = 0;
  private readonly colours = new ColourReader();

  protected readonly spaceHeld = signal(false);
  private readonly touch = new TouchTracker();
  private readonly menu = viewChild<HereMenuComponent>('menu');
  private longPress: ReturnType<typeof setTimeout> | undefined;
  private pressedAt: SheetPoint = { x: 0, y: 0 };
  /** How hard the pen was pressed last. */
  private press = 0.5;
  private panning: { x: number; y: number; panX: number; panY: number } | null = null;
  private waiting: readonly { readonly at: SheetPoint; readonly how: ReturnType<DrawingComponent['how']> }[] = [];

  /** What the colours of the drawing are multiplied by, with one kind of cones missing. */
  protected readonly seenAs = computed(() => {
    const vision = this.view.vision();
    return vision && [...COLOUR_VISION[vision].map((row) => [...row, 0, 0]), [0, 0, 0, 1, 0]].flat().join(' ');
  });
  /** The picture is not exact yet. */
  protected readonly unfinished = computed(() => this.pictures.picture().later !== null);
  protected readonly cursor = computed(() => (this.spaceHeld() ? 'grab' : this.view.tool() === 'pick' ? 'default' : 'crosshair'));

  constructor() {
    const destroy = inject(DestroyRef);
    afterRenderEffect(() => {
      const surface = this.ensureSurface(destroy);
      surface.picture(this.pictures.picture(), this.documents.shown(), this.view.plane(), {
        grid: this.view.grid(),
        gridOver: this.documents.shown().grid.over || this.stages.draws(),
        references: this.references(),
        over: this.chosen.over(),
        seeThrough: this.view.seeThrough(),
        edges: this.pictures.edges(),
        rasters: this.rasters,
        smalls: this.rasters.smalls(),
        zoom: this.view.zoom(),
        panX: this.view.panX(),
        panY: this.view.panY(),
        theme: this.view.theme(),
        width: this.view.width(),
        height: this.view.height(),
      });
    });
    afterRenderEffect(() => {
      const wanted = this.view.refit();
      if (wanted > 0) requestAnimationFrame(() => this.refit(wanted));
    });
    afterRenderEffect(() => {
      this.view.theme();
      const surface = this.ensureSurface(destroy);
      surface.overlay(this.pictures.picture(), {
        ghost: this.tools.ghost(),
        map: this.tools.ghost() ? this.pictures.planeContext(this.tools.ghost()!.plane).options.sheetFromPlane : null,
        selection: this.handles.selected(),
        unseen: this.unseen(),
        aids: this.aids.aids(),
        spots: this.flat.marks().worked,
        zoom: this.view.zoom(),
        panX: this.view.panX(),
        panY: this.view.panY(),
      });
      surface.handles(this.handles.handles());
    });
  }

  /** Shows the whole sheet in the room that there is now, once for each wish. */
  private refit(wanted: number): void {
    if (this.refitted === wanted) return;
    const { width, height } = this.host().nativeElement.getBoundingClientRect();
    if (width === 0) return;
    this.refitted = wanted;
    this.view.patch({ width: Math.round(width), height: Math.round(height) });
    this.view.fit(this.documents.kept().sheet.width, this.documents.kept().sheet.height);
  }

  private ensureSurface(destroy: DestroyRef): Surface {
    if (this.surface) return this.surface;
    const host = this.host().nativeElement;
    this.surface = new Surface(host);
    this.tools.colourReader.set((at) => this.colourAt(at));
    let first = true;
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const { width, height } = entry.contentRect;
      this.view.patch({ width: Math.round(width), height: Math.round(height) });
      if (first && width > 0) {
        first = false;
        this.view.fit(this.documents.kept().sheet.width, this.documents.kept().sheet.height);
      }
    });
    observer.observe(host);
    destroy.onDestroy(() => {
      observer.disconnect();
      this.surface?.destroy();
    });
    return this.surface;
  }

  /** The colour of the drawing at a place, or of a reference where that is what is seen there. */
  private colourAt(at: SheetPoint): { readonly colour: string; readonly from: string } | null {
    const picture = this.pictures.picture();
    const inside = this.references().filter(({ reference: r }) => !r.hidden && at.x >= r.x && at.y >= r.y && at.x < r.x + r.width && at.y < r.y + r.height);
    const over = inside.filter(({ reference }) => reference.over).at(-1);
    const under = pickAt(picture, at, 0) ? undefined : inside.at(-1);
    const seen = over ?? under;
    if (seen?.image) {
      const colour = this.colours.colourOfReference(seen.reference, seen.image as ImageBitmap, at);
      if (colour) return { colour, from: `from the picture “${seen.reference.name}”` };
    }
    const colour = this.colours.colourOf(picture, at);
    return colour ? { colour, from: pickAt(picture, at, 0) ? 'from the drawing' : 'from the sheet' } : null;
  }

  /** Where a press has put the focus into a field for text, the browser does not take it from there. */
  protected keepFocus(event: MouseEvent): void {
    if (document.activeElement instanceof HTMLTextAreaElement) event.preventDefault();
  }

  /** A part of solids that are one is chosen; a point is added where a selected shape's boundary is pressed twice. */
  protected double(event: MouseEvent): void {
    if (this.view.tool() !== 'pick' || this.handles.dragging()) return;
    const at = this.onSheet(this.px(event));
    const artwork = this.flat.selectedArtwork();
    // Artwork is entered too: what is pressed twice opens flat.
    if (artwork !== null && this.view.selection().length === 1 && this.documents.sheetOf() === null) return this.flat.open(artwork);
    const { part } = pickAt(this.pictures.picture(), at, CATCH_PX / this.view.zoom()) ?? {};
    // Solids that are one are entered: what is pressed twice is the part.
    if (part) return this.view.select([part.node], part.name);
    if (this.view.stage() !== 'draw') return;
    for (const id of this.view.selection()) {
      const shape = findShape(this.documents.kept(), id);
      const map = shape && this.pictures.planeContext(shape.plane).options.sheetFromPlane;
      const inverse = map && invert33(map);
      const on = inverse && apply33(inverse, at.x, at.y);
      const unit = map && on && apply33(map, on.x + 1, on.y);
      if (!on || !unit) continue;
      const perCell = Math.hypot(unit.x - at.x, unit.y - at.y) * this.view.zoom();
      if (this.shaping.addPointAt(id, { u: on.x, v: on.y }, CATCH_PX / perCell)) return;
    }
  }

  /** A right press, or a long one with a finger: what is there is chosen, and the menu of what can be done opens. */
  protected openMenu(event: MouseEvent): void {
    event.preventDefault();
    if (this.tools.busy() || this.handles.dragging()) return;
    this.choose(this.px(event));
    this.menu()?.show(event);
  }

  private choose(px: SheetPoint): void {
    const at = this.onSheet(px);
    const hit = pickAt(this.pictures.picture(), at, CATCH_PX / this.view.zoom());
    const holds = (id: string): boolean => {
      const node = findNode(this.documents.kept(), id);
      return node !== null && hit !== null && idsWithin(node).includes(hit.node);
    };
    if (hit && !this.view.selection().some(holds)) this.view.select([hit.node], hit.face);
  }

  /** A finger comes down: the first draws; a second ends that, and both move and zoom. */
  private touchDown(event: PointerEvent): boolean {
    clearTimeout(this.longPress);
    const px = this.px(event);
    if (this.touch.down(event.pointerId, px)) this.letGo();
    if (!this.touch.draws) return false;
    this.tools.mark();
    this.pressedAt = px;
    this.longPress = setTimeout(() => {
      this.letGo();
      this.openMenu(event);
    }, LONG_PRESS_MS);
    return true;
  }

  /** What a press has begun is undone: by a second finger, a long press, or because the browser took the pointer away. */
  private letGo(): void {
    clearTimeout(this.longPress);
    this.waiting = [];
    this.surface?.cancelDrag();
    if (this.handles.dragging()) this.handles.cancel();
    this.tools.takeBack();
  }

  protected lost(event: PointerEvent): void {
    this.touch.up(event.pointerId);
    this.panning = null;
    this.letGo();
  }

  private onSheet(px: SheetPoint): SheetPoint {
    return { x: (px.x - this.view.panX()) / this.view.zoom(), y: (px.y - this.view.panY()) / this.view.zoom() };
  }

  protected down(event: PointerEvent): void {
    if (event.target instanceof HTMLElement && event.target.closest('chemin-typing')) return;
    this.host().nativeElement.parentElement?.focus({ preventScroll: true });
    if (event.pointerType === 'touch' && !this.touchDown(event)) return;
    if (event.pointerType !== 'touch') this.tools.mark();
    if (event.button === 1 || (event.button === 0 && this.spaceHeld())) {
      this.panning = { x: event.clientX, y: event.clientY, panX: this.view.panX(), panY: this.view.panY() };
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
      event.preventDefault();
      return;
    }
    if (event.button !== 0 || this.handles.dragging()) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.flush();
    this.tools.typing.set(null);
    this.tools.point('down', this.px(event), this.how(event));
  }

  /** Moves are gathered: one a frame reaches the tool, but all of a pen's. */
  protected move(event: PointerEvent): void {
    if (event.pointerType === 'touch') {
      const px = this.px(event);
      const pinch = this.touch.move(event.pointerId, px);
      if (Math.hypot(px.x - this.pressedAt.x, px.y - this.pressedAt.y) > STILL_PX) clearTimeout(this.longPress);
      if (pinch) {
        this.view.panBy(pinch.dx, pinch.dy);
        this.view.zoomAt(pinch.factor, pinch.about.x, pinch.about.y);
      }
      if (!this.touch.draws) return;
    }
    if (this.panning) {
      this.view.look(this.view.zoom(), this.panning.panX + event.clientX - this.panning.x, this.panning.panY + event.clientY - this.panning.y);
      return;
    }
    if (this.handles.dragging()) return;
    const idle = this.waiting.length === 0;
    // A pen's every place counts; other tools need only the last.
    const every = this.view.tool() === 'freehand' && event.buttons !== 0;
    const events = every ? event.getCoalescedEvents?.() : undefined;
    const moves = (events && events.length > 0 ? events : [event]).map((e) => ({ at: this.px(e), how: this.how(e) }));
    this.waiting = every ? [...this.waiting, ...moves] : moves;
    if (idle) requestAnimationFrame(() => this.flush());
  }

  private how(event: PointerEvent): { lock: boolean; free: boolean; carry: boolean; press: number } {
    // A pen that is lifted says nothing of how hard it was pressed; the last place before tells it.
    if (event.type !== 'pointerup') this.press = event.pointerType === 'mouse' ? 0.5 : event.pressure;
    return { lock: event.shiftKey, free: event.altKey, carry: event.ctrlKey || event.metaKey, press: this.press };
  }

  protected up(event: PointerEvent): void {
    clearTimeout(this.longPress);
    if (event.pointerType === 'touch') {
      const drew = this.touch.draws;
      this.touch.up(event.pointerId);
      if (!drew) return;
    }
    if (this.panning) {
      this.panning = null;
      return;
    }
    if (event.button !== 0 || this.handles.dragging()) return;
    this.flush();
    this.tools.point('up', this.px(event), this.how(event));
    this.tools.settle();
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const at = this.px(event);
    if (event.shiftKey) this.view.panBy(Math.round(-event.deltaY - event.deltaX), 0);
    else this.view.zoomAt(Math.exp(-Math.max(-200, Math.min(200, event.deltaY)) * 0.0016), at.x, at.y);
  }

  protected hold(event: KeyboardEvent, down: boolean): void {
    if (event.key === ' ' && event.target === event.currentTarget) {
      event.preventDefault();
      this.spaceHeld.set(down);
    }
  }

  /** Files are taken; artwork among them is placed where it was dropped. */
  protected async drop(event: DragEvent): Promise<void> {
    event.preventDefault();
    const px = this.px(event);
    const dropped = await this.imports.takeDropped([...(event.dataTransfer?.files ?? [])], true);
    if (dropped.length === 0) return;
    this.stages.go('artwork', 'place');
    await this.stages.load('artwork');
    this.view.patch({ dropped });
    this.tools.point('down', px, { lock: false, free: false });
    this.view.patch({ dropped: null });
  }

  private flush(): void {
    const { waiting } = this;
    this.waiting = [];
    for (const { at, how } of waiting) this.tools.point('move', at, how);
  }

  private px(event: MouseEvent): SheetPoint {
    const box = this.host().nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
}
