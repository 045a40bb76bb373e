import Konva from 'konva/lib/Core';
import { Circle } from 'konva/lib/shapes/Circle';
import { Label, Tag } from 'konva/lib/shapes/Label';
import { Text } from 'konva/lib/shapes/Text';
import {
  apply33,
  gridMarks,
  projectionFrom,
  tracePath,
  type CanvasLike,
  type Path,
  type CheminDocument,
  type Mat33,
  type Picture,
  type Plane,
  type PlanePoint,
  type SheetBox,
  type SheetPoint,
} from '@core';
import type { Ghost } from '../tools/tool';
import type { Aid } from './aids.service';
import { paintMarksOnCanvas, paintOnCanvas, paintSheetOnTable } from '../platform/canvas-paint';
import type { Handle } from './handles.service';
import { placeLabels } from './label-places';
import type { AidPicture } from '../state/aids.store';
import { RasterSet, type RasterSource } from '../state/raster-set';
import { paintSpot } from './paint-spot';
import { MovedPicture, type Look } from './moved-picture';
import { paintAid, tracePolygon } from './paint-aids';
import { layPicture, paintReferences, type SeenReference } from './paint-references';
import { hatchPath, planeColour, signOf } from './signs';

/** Things from which on a picture is moved as it was painted while the sheet is panned and zoomed. */
const LARGE = 300;

interface PictureLook extends Look {
  readonly grid: boolean;
  /** Over the drawing, so that cells can be counted on what is drawn already. */
  readonly gridOver: boolean;
  readonly seeThrough: boolean;
  /** Every edge in space, hidden ones too, where the drawing is looked through. */
  readonly edges: readonly Path[];
  readonly theme: string;
  readonly width: number;
  readonly height: number;
  /** Where the bitmaps of artworks are found. */
  readonly rasters: RasterSource;
  /** What is there of them in small: with more the picture is another. */
  readonly smalls: unknown;
  /** Pictures under or over the drawing, with what has been decoded of them. */
  readonly references: readonly SeenReference[];
  /** A picture that the stage lays over it. */
  readonly over: AidPicture | null;
}

interface Overlay extends Look {
  /** What is pointed at in the view beside, in mm of the sheet. */
  readonly spots: readonly SheetPoint[];
  readonly ghost: Ghost | null;
  readonly map: Mat33 | null;
  readonly selection: ReadonlySet<string>;
  /** Things of which nothing is seen: their outline is shown as a ghost. */
  readonly unseen: ReadonlySet<string>;
  readonly aids: readonly Aid[];
}

/** Selected parts beyond which their outlines are drawn more simply. */
const MANY_PARTS = 400;

/** A polygon without corners nearer than a distance to the one before. */
function thinned(polygon: ArrayLike<number>, least: number): ArrayLike<number> {
  const kept = [polygon[0]!, polygon[1]!];
  for (let i = 2; i + 1 < polygon.length; i += 2) {
    const [dx, dy] = [polygon[i]! - kept[kept.length - 2]!, polygon[i + 1]! - kept[kept.length - 1]!];
    if (dx * dx + dy * dy >= least * least) kept.push(polygon[i]!, polygon[i + 1]!);
  }
  return kept.length >= 6 ? kept : polygon;
}

/**
 * The drawing surface: a stage with three layers (picture and grid; ghosts and selection; handles). The picture is
 * painted from the display list; nothing here decides anything.
 */
export class Surface {
  private readonly stage: Konva.Stage;
  private readonly pictureLayer = new Konva.Layer({ listening: false });
  private readonly overlayLayer = new Konva.Layer({ listening: false });
  private readonly handleLayer = new Konva.Layer();
  private paintPicture: (context: CanvasRenderingContext2D) => void = () => undefined;
  private paintOverlay: (context: CanvasRenderingContext2D) => void = () => undefined;
  private readonly styles: CSSStyleDeclaration;
  private cancelling = false;
  private current: readonly Handle[] = [];
  private readonly moved = new MovedPicture(() => this.pictureLayer.batchDraw());
  private rasters: RasterSet | null = null;

  constructor(host: HTMLElement) {
    this.styles = getComputedStyle(document.documentElement);
    this.stage = new Konva.Stage({ container: host as HTMLDivElement, width: host.clientWidth || 1, height: host.clientHeight || 1 });
    const shape = (paint: (context: CanvasRenderingContext2D) => void): Konva.Shape =>
      new Konva.Shape({ listening: false, perfectDrawEnabled: false, sceneFunc: (context) => paint(context._context) });
    this.pictureLayer.add(shape((context) => this.paintPicture(context)));
    this.overlayLayer.add(shape((context) => this.paintOverlay(context)));
    this.stage.add(this.pictureLayer, this.overlayLayer, this.handleLayer);
  }

  destroy(): void {
    this.moved.forget();
    this.stage.destroy();
  }

  /** Shows a picture with the grid of a plane under its marks. */
  picture(picture: Picture, document: CheminDocument, plane: Plane, look: PictureLook): void {
    if (this.stage.width() !== look.width || this.stage.height() !== look.height) this.stage.size({ width: look.width, height: look.height });
    const { zoom: _zoom, panX: _x, panY: _y, references, ...rest } = look;
    const of = [
      picture,
      document.grid,
      document.projection,
      plane,
      ...Object.values(rest),
      ...references.flatMap(({ reference, image }) => [reference, image]),
    ];
    const large = picture.marks.length > LARGE;
    if (!large) this.moved.forget();
    this.paintPicture = (context) => {
      if (large && this.moved.paint(context, look, of)) return;
      context.save();
      context.translate(look.panX, look.panY);
      context.scale(look.zoom, look.zoom);
      paintSheetOnTable(context, picture.sheet, 14);
      const grid = (): void => this.grid(context, document, plane, look);
      const under = (): void => {
        paintReferences(context, look.references, false, look.zoom);
        if (look.grid && !(look.gridOver && !look.seeThrough)) grid();
      };
      this.rasters ??= new RasterSet(look.rasters, () => {
        this.moved.forget();
        this.pictureLayer.batchDraw();
      });
      const ratio = this.pictureLayer.getCanvas().getPixelRatio();
      paintOnCanvas(context, look.seeThrough ? { ...picture, marks: [] } : picture, under, this.rasters.images({ ...look, ratio }));
      if (look.seeThrough) this.seeThrough(context, picture, look);
      else if (look.grid && look.gridOver) grid();
      paintReferences(context, look.references, true, look.zoom);
      if (look.over) layPicture(context, look.over);
      context.restore();
      if (large) this.moved.keep(context, look, of);
    };
    this.pictureLayer.batchDraw();
  }

  /** Shows what is selected and what is about to be drawn. */
  overlay(picture: Picture, overlay: Overlay): void {
    this.paintOverlay = (context) => {
      context.save();
      context.translate(overlay.panX, overlay.panY);
      context.scale(overlay.zoom, overlay.zoom);
      for (const aid of overlay.aids) paintAid(context, aid, overlay.zoom, (token) => this.colour(token));
      this.unseen(context, picture, overlay);
      this.selection(context, picture, overlay);
      const { ghost, map } = overlay;
      if (ghost && map) this.ghost(context, ghost, map, overlay.zoom);
      for (const at of overlay.spots) paintSpot(context, at, overlay.zoom);
      context.restore();
    };
    this.overlayLayer.batchDraw();
  }

  /** Shows handles with their names; a held one stays under the pointer. */
  handles(handles: readonly Handle[]): void {
    const held = this.handleLayer.find('Circle').some((circle) => circle.isDragging());
    const names = handles.map((handle) => handle.name).join(' ');
    const before = this.current.map((handle) => handle.name).join(' ');
    this.current = handles;
    if (names !== before) this.makeHandles(handles);
    const circles = this.handleLayer.find<Circle>('Circle');
    const labels = this.handleLayer.find<Label>('Label');
    const shown = handles.flatMap((handle, i) => {
      const label = handle.quiet ? undefined : labels[i];
      return label ? [{ label, x: handle.x, y: handle.y, width: label.width(), height: label.height() }] : [];
    });
    placeLabels(shown).forEach((place, i) => shown[i]!.label.position(place));
    handles.forEach((handle, i) => {
      if (!held) circles[i]?.position({ x: handle.x, y: handle.y });
      labels[i]?.getTag().fill(this.colour('--paper'));
      labels[i]?.getText().fill(this.colour('--ink'));
      circles[i]?.rotation(handle.turnDeg ?? 0);
      const locked = handle.locked === true;
      circles[i]
        ?.draggable(!locked)
        .opacity(locked ? 0.6 : 1)
        .fill(this.colour(locked ? '--stone-3' : handle.quiet === 'curve' || handle.chosen ? '--violet' : '--paper'))
        .stroke(this.colour('--violet'));
    });
    this.handleLayer.batchDraw();
  }

  /** Lets go of the handle that is dragged, without an end to its drag. */
  cancelDrag(): void {
    this.cancelling = true;
    for (const circle of this.handleLayer.find<Circle>('Circle')) if (circle.isDragging()) circle.stopDrag();
    this.cancelling = false;
  }

  private makeHandles(handles: readonly Handle[]): void {
    this.handleLayer.destroyChildren();
    handles.forEach((handle, i) => {
      const circle = new Circle({
        radius: handle.quiet === 'curve' ? 3 : handle.quiet === 'point' ? 4 : handle.quiet === 'edge' ? 7 : 6,
        scaleY: handle.quiet === 'edge' ? 0.4 : 1,
        strokeWidth: handle.quiet ? 1.5 : 2,
        draggable: true,
        hitStrokeWidth: handle.quiet ? 8 : 18,
        name: handle.name,
      });
      const act = (event: { readonly evt: MouseEvent }, end: boolean): void => this.current[i]?.drag(circle.position(), event.evt.altKey, end);
      circle.on('pointerdown', (event) => {
        if (this.current[i]?.locked) return;
        this.current[i]?.press?.(event.evt.shiftKey);
        if (this.current[i]) this.current[i].drag(circle.position(), event.evt.altKey, false);
      });
      circle.on('dragmove', (event) => act(event, false));
      circle.on('dragend', (event) => {
        if (!this.cancelling) act(event, true);
      });
      circle.on('pointerup', (event) => {
        if (!circle.isDragging() && !this.current[i]?.locked) act(event, true);
      });
      const label = new Label({ listening: false, visible: !handle.quiet });
      label.add(new Tag({ cornerRadius: 2, opacity: 0.92 }), new Text({ text: handle.name, fontSize: 12, fontFamily: 'Hanken Grotesk', padding: 4 }));
      this.handleLayer.add(circle, label);
    });
  }

  private colour(token: string): string {
    return this.styles.getPropertyValue(token).trim() || '#2a2333';
  }

  /** The grid on the part of the sheet that is seen, its lines at least a px wide. */
  private grid(context: CanvasRenderingContext2D, { sheet, grid, projection }: CheminDocument, plane: Plane, look: PictureLook): void {
    const seen: SheetBox = {
      minX: Math.max(0, -look.panX / look.zoom),
      minY: Math.max(0, -look.panY / look.zoom),
      maxX: Math.min(sheet.width, (look.width - look.panX) / look.zoom),
      maxY: Math.min(sheet.height, (look.height - look.panY) / look.zoom),
    };
    if (seen.minX >= seen.maxX || seen.minY >= seen.maxY) return;
    paintMarksOnCanvas(context, gridMarks(projectionFrom(projection), grid, plane, seen, { pxPerMm: look.zoom, leastWidth: 1 / look.zoom }));
  }

  /** Seen edges whole, and over them all edges dashed, so that hidden ones show as dashes alone. */
  private seeThrough(context: CanvasRenderingContext2D, picture: Picture, look: PictureLook): void {
    context.save();
    context.strokeStyle = '#2a2333';
    context.lineWidth = 1.1 / look.zoom;
    context.lineJoin = 'round';
    for (const part of picture.visible) {
      for (const ring of [part.polygon, ...(part.holes ?? [])]) {
        tracePolygon(context, ring, !part.open);
        context.stroke();
      }
    }
    context.lineWidth = 0.8 / look.zoom;
    context.globalAlpha = 0.75;
    context.setLineDash([3 / look.zoom, 3 / look.zoom]);
    for (const path of look.edges) {
      tracePath(context as unknown as CanvasLike, path);
      context.stroke();
    }
    context.restore();
  }

  private unseen(context: CanvasRenderingContext2D, picture: Picture, { unseen, zoom }: Overlay): void {
    if (unseen.size === 0) return;
    context.save();
    context.strokeStyle = this.colour('--on-sheet');
    context.globalAlpha = 0.5;
    context.lineWidth = 1 / zoom;
    context.setLineDash([2 / zoom, 4 / zoom]);
    for (const part of picture.visible) {
      if (!unseen.has(part.node)) continue;
      tracePolygon(context, part.polygon, !part.open);
      context.stroke();
    }
    context.restore();
  }

  private selection(context: CanvasRenderingContext2D, picture: Picture, { selection, zoom }: Overlay): void {
    if (selection.size === 0) return;
    context.save();
    context.strokeStyle = '#5a3ea6';
    context.lineJoin = 'round';
    const parts = picture.visible.filter((part) => selection.has(part.node));
    // Of thousands of small things, such as the letters of a long text, the halo would be all that is seen, and take its time.
    const many = parts.length > MANY_PARTS;
    if (many) context.lineWidth = 1.3 / zoom;
    for (const part of parts) {
      for (const ring of [part.polygon, ...(part.holes ?? [])]) {
        if (many) {
          tracePolygon(context, thinned(ring, 1.5 / zoom), !part.open);
          context.stroke();
          continue;
        }
        tracePolygon(context, ring, !part.open);
        context.globalAlpha = 0.35;
        context.lineWidth = 4 / zoom;
        context.stroke();
        context.globalAlpha = 1;
        context.lineWidth = 1.3 / zoom;
        context.stroke();
      }
    }
    context.restore();
  }

  private ghost(context: CanvasRenderingContext2D, ghost: Ghost, map: Mat33, zoom: number): void {
    const colour = planeColour(ghost.plane.kind);
    const flat = ghost.points.flatMap((p) => this.on(map, p));
    context.save();
    context.strokeStyle = colour;
    context.lineJoin = 'round';
    context.lineWidth = 1.8 / zoom;
    if (flat.length >= 4) {
      tracePolygon(context, flat, ghost.closed);
      if (ghost.closed) {
        context.save();
        context.clip();
        hatchPath(context, ghost.plane.kind, flat, zoom, ghost.closes ? 0.95 : 0.4);
        context.restore();
        tracePolygon(context, flat, true);
      }
      context.stroke();
    }
    for (const line of ghost.more ?? []) {
      tracePolygon(
        context,
        line.flatMap((p) => this.on(map, p)),
        false,
      );
      context.stroke();
    }
    for (const mark of ghost.marks ?? []) {
      const [x, y] = this.on(map, mark);
      context.save();
      context.strokeStyle = this.colour('--warn-on-sheet');
      context.strokeRect(x! - 4 / zoom, y! - 4 / zoom, 8 / zoom, 8 / zoom);
      context.restore();
    }
    if (ghost.line) {
      tracePolygon(context, ghost.line, false);
      context.strokeStyle = '#5a3ea6';
      context.stroke();
    }
    if (ghost.part) {
      context.save();
      context.strokeStyle = '#5a3ea6';
      context.fillStyle = 'rgb(90 62 166 / 16%)';
      tracePolygon(context, ghost.part, true);
      context.fill();
      context.stroke();
      context.restore();
    }
    context.fillStyle = colour;
    if (!ghost.smooth) for (let i = 0; i + 1 < flat.length; i += 2) context.fillRect(flat[i]! - 2 / zoom, flat[i + 1]! - 2 / zoom, 4 / zoom, 4 / zoom);
    if (ghost.caught) {
      const [x, y] = this.on(map, ghost.caught);
      for (const aligned of [ghost.caught.with, ghost.caught.also]) {
        if (!aligned) continue;
        const [fx, fy] = this.on(map, aligned);
        context.save();
        context.setLineDash([4 / zoom, 4 / zoom]);
        context.lineWidth = 1 / zoom;
        tracePolygon(context, [fx!, fy!, x!, y!], false);
        context.stroke();
        context.restore();
      }
      signOf(context, ghost.caught.kind, x!, y!, zoom, colour);
    }
    context.restore();
  }

  private on(map: Mat33, p: PlanePoint): readonly number[] {
    const at = apply33(map, p.u, p.v);
    return at ? [at.x, at.y] : [];
  }
}
