import { inject, Injectable } from '@angular/core';
import {
  bodyOf,
  END,
  exactCells,
  findNode,
  findShape,
  isJoined,
  scaleWorld,
  sheetFromWorld,
  surfaceNamed,
  type JoinedNode,
  type ShapeNode,
  type SheetPoint,
  type WorldPoint,
} from '@core';
import {
  lengthAlong,
  measureHandles,
  MEASURES,
  partFace,
  surfaceMiddle,
  withMeasure,
  withPartFaceMoved,
  withSurfaceMoved,
  type MadeSolid,
  type MeasureHandle,
  type SolidResult,
} from '@later';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import type { StageHandles } from '../../state/stage';
import { ViewStore } from '../../state/view.store';
import type { SheetHandle } from '../../tools/handle';
import { depthHandle, runAlongNormal } from './depth.tool';

/** Steps in which a ratio is dragged. */
const RATIO = 0.05;

/** The measures of the solid that is selected as handles, its depth where it has none, and the face that was pressed. */
@Injectable({ providedIn: 'root' })
export class SolidHandlesService implements StageHandles {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);

  handles(current: boolean): readonly SheetHandle[] {
    const [id, ...more] = this.view.selection();
    // While something is drawn, a press is for that.
    const holds = current && (this.view.tool() === 'pick' || this.view.tool() === 'depth');
    const node = !holds || id === undefined || more.length > 0 ? null : findNode(this.documents.shown(), id);
    if (!node || node.locked || node.hidden) return [];
    if (node.kind === 'group' && isJoined(node)) return this.faceHandle(node);
    if (node.kind !== 'shape') return [];
    const { solid } = node;
    const measures = solid ? measureHandles({ ...node, solid }) : [];
    if (measures.length > 0) return [...measures.flatMap((handle) => this.measureHandle(node, handle)), ...this.faceHandle(node)];
    const at = depthHandle(this.documents.shown(), this.pictures.geometry(), node.id);
    if (!at) return this.faceHandle(node);
    const depth: SheetHandle = { name: 'depth', at, drag: (to, free, end) => this.dragDepth(node.id, to, free, end) };
    // The far end is held by the depth.
    return this.view.face() === END ? [depth] : [depth, ...this.faceHandle(node)];
  }

  private onSheet(at: WorldPoint): SheetPoint | null {
    const { sight, cell } = this.pictures.geometry();
    return sheetFromWorld(sight.projection, scaleWorld(at, cell));
  }

  /** How many cells along a direction from a place a place of the sheet is. */
  private run(from: WorldPoint, along: WorldPoint, to: SheetPoint): number {
    const { sight, cell } = this.pictures.geometry();
    return lengthAlong(sight.projection, scaleWorld(from, cell), scaleWorld(along, cell), to) ?? 0;
  }

  private measureHandle(node: ShapeNode, { name, at }: MeasureHandle): readonly SheetHandle[] {
    const on = this.onSheet(at);
    return on ? [{ name: MEASURES[name].label.toLowerCase(), at: on, drag: (to, free, end) => this.dragMeasure(node.id, name, to, free, end) }] : [];
  }

  private dragMeasure(id: string, name: MeasureHandle['name'], to: SheetPoint, free: boolean, end: boolean): void {
    const shape = findShape(this.documents.kept(), id);
    if (!shape?.solid) return;
    const solid: MadeSolid = { ...shape, solid: shape.solid };
    const start = measureHandles(solid).find((handle) => handle.name === name);
    if (!start) return;
    const wanted = start.value + this.run(start.at, start.along, to);
    const ratio = MEASURES[name].kind === 'ratio';
    const value = ratio ? Math.max(0, Math.round(wanted / RATIO) * RATIO) : free ? exactCells(wanted) : Math.round(wanted) + 0;
    const changed = withMeasure(solid, name, ratio ? Number(value.toFixed(4)) : value);
    this.take(
      shape,
      changed.ok ? { ok: true, value: { ...shape, ...changed.value } } : changed,
      end,
      `set ${MEASURES[name].label.toLowerCase()} of ${shape.name}`,
    );
  }

  /** The face that was pressed, held in its middle and moved along its normal. */
  private faceHandle(node: ShapeNode | JoinedNode): readonly SheetHandle[] {
    const name = this.view.face();
    const surface = name === null || (node.kind === 'shape' && node.depth === 0) ? null : surfaceNamed(bodyOf(node), name);
    const middle = surface && surfaceMiddle(surface);
    const on = middle && this.onSheet(middle.at);
    return on ? [{ name: 'face', at: on, drag: (to, free, end) => this.dragFace(node.id, name!, to, free, end) }] : [];
  }

  private dragFace(id: string, name: string, to: SheetPoint, free: boolean, end: boolean): void {
    const kept = this.documents.kept();
    const node = findNode(kept, id);
    const whole = node?.kind === 'group' && isJoined(node) ? node : null;
    const shape = node?.kind === 'shape' ? node : whole && partFace(kept, whole, name)?.part;
    const surface = surfaceNamed(whole || shape ? bodyOf(whole ?? shape!) : null, name);
    const middle = surface && surfaceMiddle(surface);
    if (!node || !shape || !middle) return;
    const run = this.run(middle.at, middle.normal, to);
    const by = free ? exactCells(run) : Math.round(run) + 0;
    this.take(shape, whole ? withPartFaceMoved(kept, whole, name, by) : withSurfaceMoved(shape, name, by), end, `move a face of ${node.name}`);
  }

  private take(before: ShapeNode, after: SolidResult<ShapeNode>, end: boolean, label: string): void {
    if (!after.ok) {
      if (end) this.documents.show(null);
      return;
    }
    const edit = { kind: 'change', nodes: [after.value] } as const;
    if (!end) this.documents.show(edit);
    else if (JSON.stringify(after.value) === JSON.stringify(before)) this.documents.show(null);
    else this.documents.commit(edit, label);
  }

  private dragDepth(id: string, to: SheetPoint, free: boolean, end: boolean): void {
    const kept = this.documents.kept();
    const shape = findShape(kept, id);
    const start = shape && depthHandle(kept, this.pictures.geometry(), id);
    if (!shape || !start) return;
    const wanted = shape.depth + runAlongNormal(this.pictures.geometry(), shape, start, to);
    const depth = free ? exactCells(wanted) : Math.round(wanted) + 0;
    const edit = { kind: 'depth', id, depth } as const;
    if (!end) this.documents.show(edit);
    else if (depth === shape.depth) this.documents.show(null);
    else this.documents.commit(edit, `set depth of ${shape.name}`);
  }
}
