import { inject, Injectable } from '@angular/core';
import { exactCells, findNode, findShape, type SheetPoint } from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import type { StageHandles } from '../../state/stage';
import { ViewStore } from '../../state/view.store';
import type { SheetHandle } from '../../tools/handle';
import { depthHandle, runAlongNormal } from './depth.tool';

/** The depth of the shape that is selected, as a handle over the middle of its end. */
@Injectable({ providedIn: 'root' })
export class DepthHandleService implements StageHandles {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);

  handles(current: boolean): readonly SheetHandle[] {
    const [id, ...more] = this.view.selection();
    const node = !current || id === undefined || more.length > 0 ? null : findNode(this.documents.shown(), id);
    if (node?.kind !== 'shape' || node.locked || node.hidden) return [];
    const at = depthHandle(this.documents.shown(), this.pictures.geometry(), node.id);
    return at ? [{ name: 'depth', at, drag: (to, free, end) => this.drag(node.id, to, free, end) }] : [];
  }

  private drag(id: string, to: SheetPoint, free: boolean, end: boolean): void {
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
