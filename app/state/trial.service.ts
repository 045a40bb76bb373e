import { computed, inject, Injectable } from '@angular/core';
import {
  automaticName,
  exactCells,
  fitPaint,
  LOOSE_BOX,
  outlineBox,
  planeFromSheet,
  planeName,
  rectangleOutline,
  type Axis,
  type ShapeNode,
  type TrialBox,
} from '@core';
import { newId } from '../platform/ids';
import { MessageStore } from '../platform/messages.store';
import { DocumentStore } from './document.store';
import { PictureService } from './picture.service';
import { ViewStore } from './view.store';

/** Where a trial box stands that the sheet's middle tells no place for. */
const ORIGIN = { a: 0, b: 0, h: 0 };
/** Its extents along a, b and h in parts of the sheet's width. */
const SHARES = { a: 1 / 6, b: 1 / 8, h: 1 / 10 };

/** The box that is shown and not drawn: set up, changed by number, drawn, and put away. */
@Injectable({ providedIn: 'root' })
export class TrialService {
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);

  readonly trial = computed(() => this.documents.shown().trial ?? null);

  /** A box on the floor under the middle of the sheet. */
  set(): void {
    if (this.documents.sheetOf() !== null)
      return void this.messages.say('info', 'A trial box stands in the drawing', ['The sheet of an artwork has no depth.']);
    if (this.trial()) return void this.messages.say('info', 'The trial box is there already', ['Drag its corners, or put it away.']);
    const { sheet, grid } = this.documents.kept();
    const cells = (share: number): number => Math.max(1, Math.round((sheet.width * share) / grid.cell));
    const size = { a: cells(SHARES.a), b: cells(SHARES.b), h: cells(SHARES.h) };
    const { projection } = this.pictures.geometry().sight;
    const under = planeFromSheet(projection, { kind: 'floor', offset: 0 }, grid.cell, { x: sheet.width / 2, y: sheet.height / 2 });
    const at = under && Math.hypot(under.u, under.v) < 1000 ? { a: Math.round(under.u - size.a / 2), b: Math.round(under.v - size.b / 2), h: 0 } : ORIGIN;
    this.put({ at, size }, 'set up a trial box');
  }

  /** @param keep whether the step is made, or only shown */
  put(trial: TrialBox, label: string, keep = true): void {
    const edit = { kind: 'trial', trial } as const;
    if (keep) this.documents.commit(edit, label);
    else this.documents.show(edit);
  }

  resize(axis: Axis, extent: number): void {
    const trial = this.documents.kept().trial;
    if (trial) this.put({ ...trial, size: { ...trial.size, [axis]: exactCells(extent) } }, 'resize the trial box');
  }

  moveTo(axis: Axis, to: number): void {
    const trial = this.documents.kept().trial;
    if (trial) this.put({ ...trial, at: { ...trial.at, [axis]: exactCells(to) } }, 'move the trial box');
  }

  away(): void {
    if (!this.documents.kept().trial) return this.none();
    this.documents.commit({ kind: 'trial', trial: null }, 'put the trial box away');
  }

  /** The box as a drawn one in its place, painted as the next shape is. */
  draw(): void {
    const document = this.documents.kept();
    const { trial } = document;
    if (!trial) return this.none();
    const { at, size } = trial;
    const outline = rectangleOutline({ u: at.a, v: at.b }, { u: at.a + size.a, v: at.b + size.b });
    const plane = { kind: 'floor', offset: at.h } as const;
    const node: ShapeNode = {
      kind: 'shape',
      id: newId(),
      name: automaticName(document, 'box', planeName(plane.kind, document.projection)),
      hidden: false,
      locked: false,
      plane,
      outline,
      depth: size.h,
      solid: 'box',
      paint: fitPaint(this.view.paint(), outlineBox(outline) ?? LOOSE_BOX),
    };
    this.documents.commit({ kind: 'all', edits: [{ kind: 'add', nodes: [node], artworks: [] }, { kind: 'trial', trial: null }] }, `draw ${node.name}`); // prettier-ignore
    this.view.select([node.id]);
  }

  private none(): void {
    this.messages.say('info', 'There is no trial box', ['Set one up first, in Projection.']);
  }
}
