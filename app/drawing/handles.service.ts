import { computed, inject, Injectable, signal } from '@angular/core';
import {
  apply33,
  applyEdit,
  exactCells,
  findNode,
  idsWithin,
  invert33,
  anchorOfBox,
  artworkOnRuled,
  groundNormal,
  isRuled,
  placementGround,
  placementMap,
  readBox,
  readUnder,
  readWay,
  resizedAnchor,
  sheetFromWorld,
  worldOnRuled,
  type Edit,
  type PlacementNode,
  type SheetPoint,
  type Surface,
  photoMap,
  photoPlace,
  photoToSheet,
  surfaceUnder,
  type KeptFit,
  type SurfaceThere,
} from '@core';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { ViewStore } from '../state/view.store';
import { StagesService } from '../state/stages.service';
import type { SheetHandle } from '../tools/handle';

/** Something to take hold of: a named place on the screen, in px, and what dragging it does. */
export interface Handle {
  readonly name: string;
  readonly x: number;
  readonly y: number;
  /** Shown, but not to be moved. */
  readonly locked?: boolean;
  /** One of many, drawn small and without its name: a point, or the handle of a curve. */
  readonly quiet?: 'point' | 'curve' | 'edge';
  readonly chosen?: boolean;
  /** Of a bar: the direction in which it lies on the screen, in degrees clockwise. */
  readonly turnDeg?: number;
  readonly press?: (add: boolean) => void;
  readonly drag: (px: SheetPoint, free: boolean, end: boolean) => void;
}

/** The handles that are shown: those of the stages, and the size of a placement. */
@Injectable({ providedIn: 'root' })
export class HandlesService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);
  private readonly stages = inject(StagesService);

  /** Whether a handle is held, so that the tool beneath stays still. */
  readonly dragging = signal(false);

  /** Ids of everything that is selected, what groups hold included. */
  readonly selected = computed((): ReadonlySet<string> => {
    const document = this.documents.shown();
    return new Set(
      this.view.selection().flatMap((id) => {
        const node = findNode(document, id);
        return node ? idsWithin(node) : [];
      }),
    );
  });

  readonly handles = computed((): readonly Handle[] => {
    const current = this.stages.current();
    const ofStages = this.stages.here().flatMap((stage) => (stage.handles ? this.stages.get(stage.handles).handles(stage === current) : []));
    return [...ofStages.map((handle) => this.onScreen(handle)), ...this.ofSelection()];
  });

  private onScreen({ name, at, locked, quiet, chosen, turnDeg, press, drag }: SheetHandle): Handle {
    return {
      name,
      ...this.toScreen(at),
      locked: locked === true,
      ...(quiet && { quiet }),
      ...(chosen && { chosen }),
      ...(turnDeg !== undefined && { turnDeg }),
      ...(press && { press }),
      drag: (px, free, end) => {
        drag(this.toSheet(px), free, end);
        this.dragging.set(!end);
      },
    };
  }

  /** Whatever the stage: the size of a placement. */
  private ofSelection(): readonly Handle[] {
    const [id, ...more] = this.view.selection();
    const node = id === undefined || more.length > 0 ? null : findNode(this.documents.shown(), id);
    return node?.kind === 'placement' && !node.locked && !node.hidden ? this.sizeHandle(node) : [];
  }

  private toScreen({ x, y }: SheetPoint): SheetPoint {
    return { x: x * this.view.zoom() + this.view.panX(), y: y * this.view.zoom() + this.view.panY() };
  }

  private toSheet({ x, y }: SheetPoint): SheetPoint {
    return { x: (x - this.view.panX()) / this.view.zoom(), y: (y - this.view.panY()) / this.view.zoom() };
  }

  private sizeHandle(node: PlacementNode): readonly Handle[] {
    const document = this.documents.shown();
    const there = surfaceUnder(document, node);
    if (there?.surface.fit) return this.sizeHandlePhoto(node, there, there.surface.fit);
    const ground = placementGround(document, node);
    if (ground && 'form' in ground && ground.form.kind !== 'flat') return this.sizeHandleRound(node, ground);
    const map = ground && placementMap(this.pictures.geometry(), node, 'kind' in ground ? null : ground);
    const corner = map && apply33(map, node.anchor.width, node.anchor.height);
    const inverse = map && invert33(map);
    if (!ground || !corner || !inverse) return [];
    const drag = (px: SheetPoint, free: boolean, end: boolean): void => {
      const kept = findNode(this.documents.kept(), node.id);
      const at = this.toSheet(px);
      const p = apply33(inverse, at.x, at.y);
      if (kept?.kind !== 'placement' || !p) return;
      const ratio = kept.anchor.height / kept.anchor.width;
      // The larger of both movements sets the size; the proportions stay.
      const wanted = Math.max(p.x, p.y / ratio);
      const width = Math.max(0.25, free ? exactCells(wanted) : Math.round(wanted * 2) / 2);
      const anchor = resizedAnchor(kept.anchor, groundNormal(ground), exactCells(width), exactCells(width * ratio));
      this.finish(
        { kind: 'place', id: node.id, target: kept.target, anchor, ...(kept.overhangs && { overhangs: kept.overhangs }) },
        `set size of ${kept.name}`,
        end,
      );
    };
    return [{ name: 'size', ...this.toScreen(corner), drag }];
  }

  /** The same on a round side: the corner is drawn where the side has it. */
  private sizeHandleRound(node: PlacementNode, ground: Surface): readonly Handle[] {
    if (!isRuled(ground.form)) return [];
    const { origin, right, down } = artworkOnRuled(node.anchor, ground.form);
    const { width, height } = node.anchor;
    const stage = this.pictures.geometry();
    const own = { u: origin.u + right.u * width + down.u * height, v: origin.v + right.v * width + down.v * height };
    const corner = sheetFromWorld(stage.view.sight.projection, worldOnRuled(ground.form, own));
    if (!corner) return [];
    const drag = (px: SheetPoint, free: boolean, end: boolean): void => {
      const kept = findNode(this.documents.kept(), node.id);
      const p = readUnder(stage, ground, this.toSheet(px));
      if (kept?.kind !== 'placement' || !p) return;
      const box = readBox(ground, kept.anchor);
      const way = readWay(ground, box, p);
      const ratio = box.height / box.width;
      const wanted = Math.max(way.x, way.y / ratio);
      const wide = Math.max(0.25, free ? exactCells(wanted) : Math.round(wanted * 2) / 2);
      const anchor = anchorOfBox(ground, { ...box, width: exactCells(wide), height: exactCells(wide * ratio) }, kept.anchor);
      this.finish(
        { kind: 'place', id: node.id, target: kept.target, anchor, ...(kept.overhangs && { overhangs: kept.overhangs }) },
        `set size of ${kept.name}`,
        end,
      );
    };
    return [{ name: 'size', ...this.toScreen(corner), drag }];
  }

  /** The same on a photographed surface: the corner is seen where the fit has it. */
  private sizeHandlePhoto(node: PlacementNode, there: SurfaceThere, fit: KeptFit): readonly Handle[] {
    const { cell } = this.pictures.geometry();
    const { at, width, height } = node.anchor;
    const corner = photoMap(fit, photoToSheet(there))((at.a + width) * cell, (at.b + height) * cell);
    if (!corner) return [];
    const drag = (px: SheetPoint, free: boolean, end: boolean): void => {
      const kept = findNode(this.documents.kept(), node.id);
      const p = photoPlace(there, this.toSheet(px));
      if (kept?.kind !== 'placement' || !p) return;
      const ratio = kept.anchor.height / kept.anchor.width;
      const wanted = Math.max(p.u / cell - kept.anchor.at.a, (p.v / cell - kept.anchor.at.b) / ratio);
      const wide = Math.max(0.25, free ? exactCells(wanted) : Math.round(wanted * 2) / 2);
      const anchor = resizedAnchor(kept.anchor, null, exactCells(wide), exactCells(wide * ratio));
      this.finish({ kind: 'place', id: node.id, target: kept.target, anchor }, `set size of ${kept.name}`, end);
    };
    return [{ name: 'size', ...this.toScreen({ x: corner[0], y: corner[1] }), drag }];
  }

  /** What is being dragged goes back to where it was. */
  cancel(): void {
    this.documents.show(null);
    this.dragging.set(false);
  }

  private finish(edit: Edit, label: string, end: boolean): void {
    const kept = this.documents.kept();
    if (!end) this.documents.show(edit);
    else if (JSON.stringify(applyEdit(kept, edit).nodes) === JSON.stringify(kept.nodes)) this.documents.show(null);
    else this.documents.commit(edit, label);
    this.dragging.set(!end);
  }
}
