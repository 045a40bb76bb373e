import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import type { SheetPoint } from '@core';
import { ImportsService } from '../platform/imports.service';
import { BitmapsService } from '../state/bitmaps.service';
import { PictureService } from '../state/picture.service';
import { DocumentStore } from '../state/document.store';
import { DRAWING_TOOLS, ViewStore } from '../state/view.store';
import { AidsService } from './aids.service';
import { HandlesService } from './handles.service';
import { RulersComponent } from './rulers.component';
import { Surface } from './surface';
import { ToolRunnerService } from './tool-runner.service';
import { TypingComponent } from './typing.component';
import { PointerWordsComponent } from './pointer-words.component';

/** The drawing: the picture with its grid, ghosts and handles, and what the pointer does there. */
@Component({
  selector: 'chemin-drawing',
  imports: [PointerWordsComponent, RulersComponent, TypingComponent],
  templateUrl: './drawing.component.html',
  styleUrl: './drawing.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DrawingComponent {
  protected readonly view = inject(ViewStore);
  protected readonly tools = inject(ToolRunnerService);
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly handles = inject(HandlesService);
  private readonly imports = inject(ImportsService);
  private readonly aids = inject(AidsService);
  private readonly bitmaps = inject(BitmapsService);
  /** References with their pictures; the chosen one is hidden in every other moment while it blinks. */
  private readonly references = computed(() => {
    const blinked = this.view.blink() === 'hidden' ? this.view.reference() : null;
    return this.documents.shown().references.map((reference) => ({
      reference: reference.id === blinked ? { ...reference, hidden: true } : reference,
      image: this.bitmaps.images().get(reference.bitmap) ?? null,
    }));
  });
  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  private surface: Surface | null = null;

  protected readonly spaceHeld = signal(false);
  private panning: { x: number; y: number; panX: number; panY: number } | null = null;
  private waiting: (() => void) | null = null;

  protected readonly cursor = computed(() => (this.spaceHeld() ? 'grab' : this.view.tool() === 'pick' ? 'default' : 'crosshair'));

  constructor() {
    const destroy = inject(DestroyRef);
    afterRenderEffect(() => {
      const surface = this.ensureSurface(destroy);
      surface.picture(this.pictures.picture(), this.documents.shown(), this.view.plane(), {
        grid: this.view.grid(),
        gridOver: this.documents.shown().grid.over || DRAWING_TOOLS.includes(this.view.tool()),
        references: this.references(),
        seeThrough: this.view.seeThrough(),
        zoom: this.view.zoom(),
        panX: this.view.panX(),
        panY: this.view.panY(),
        theme: this.view.theme(),
        width: this.view.width(),
        height: this.view.height(),
      });
    });
    afterRenderEffect(() => {
      this.view.theme();
      const surface = this.ensureSurface(destroy);
      surface.overlay(this.pictures.picture(), {
        ghost: this.tools.ghost(),
        map: this.tools.ghost() ? this.pictures.planeContext(this.tools.ghost()!.plane).options.sheetFromPlane : null,
        selection: this.handles.selected(),
        aids: this.aids.aids(),
        zoom: this.view.zoom(),
        panX: this.view.panX(),
        panY: this.view.panY(),
      });
      surface.handles(this.handles.handles());
    });
  }

  private ensureSurface(destroy: DestroyRef): Surface {
    if (this.surface) return this.surface;
    const host = this.host().nativeElement;
    this.surface = new Surface(host);
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

  protected down(event: PointerEvent): void {
    if (event.target instanceof HTMLElement && event.target.closest('chemin-typing')) return;
    this.host().nativeElement.parentElement?.focus({ preventScroll: true });
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
    this.tools.point('down', this.px(event), { lock: event.shiftKey, free: event.altKey });
  }

  /** Moves are gathered: one a frame reaches the tool. */
  protected move(event: PointerEvent): void {
    if (this.panning) {
      this.view.look(this.view.zoom(), this.panning.panX + event.clientX - this.panning.x, this.panning.panY + event.clientY - this.panning.y);
      return;
    }
    if (this.handles.dragging()) return;
    const at = this.px(event);
    const how = { lock: event.shiftKey, free: event.altKey };
    const idle = this.waiting === null;
    this.waiting = () => this.tools.point('move', at, how);
    if (idle) requestAnimationFrame(() => this.flush());
  }

  protected up(event: PointerEvent): void {
    if (this.panning) {
      this.panning = null;
      return;
    }
    if (event.button !== 0 || this.handles.dragging()) return;
    this.flush();
    this.tools.point('up', this.px(event), { lock: event.shiftKey, free: event.altKey });
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

  protected drop(event: DragEvent): void {
    event.preventDefault();
    void this.imports.takeDropped([...(event.dataTransfer?.files ?? [])]);
  }

  private flush(): void {
    const { waiting } = this;
    this.waiting = null;
    waiting?.();
  }

  private px(event: MouseEvent): SheetPoint {
    const box = this.host().nativeElement.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  }
}
