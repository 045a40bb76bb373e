import { computed, inject, Injectable } from '@angular/core';
import { axisOf, catchSource, exactCells, faceNamed, findShape, PictureMaker, sheetFromPlane, type FaceName, type Plane } from '@core';
import type { PlaneContext } from '../tools/tool';
import { DocumentStore } from './document.store';
import { ViewStore } from './view.store';

/** The picture of the shown document, and what can be caught in it; made once a change. */
@Injectable({ providedIn: 'root' })
export class PictureService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly maker = new PictureMaker();

  readonly picture = computed(() => this.maker.make(this.documents.shown()));
  readonly geometry = computed(() => this.maker.stageOf(this.documents.shown()));

  /** Catch sources by plane, of the document as it is kept; emptied with it. */
  private readonly contexts = computed(() => {
    this.documents.kept();
    this.view.zoom();
    this.view.snapping();
    return new Map<string, PlaneContext>();
  });

  planeContext(plane: Plane): PlaneContext {
    const key = `${plane.kind} ${plane.offset}`;
    const contexts = this.contexts();
    let context = contexts.get(key);
    if (!context) {
      const geometry = this.geometry();
      const document = this.documents.kept();
      context = {
        plane,
        options: {
          sheetFromPlane: sheetFromPlane(geometry.sight.projection, plane, geometry.cell),
          pxPerUnit: this.view.zoom(),
          grid: this.view.snapping(),
        },
        source: this.view.snapping() ? catchSource(document, geometry, plane) : { points: [], edges: [], centres: [], chords: [] },
      };
      contexts.set(key, context);
    }
    return context;
  }

  /** The plane that a face of a shape lies in, or null for slanting faces and things without faces. */
  planeOfFace(id: string, name: FaceName | null): Plane | null {
    const shape = findShape(this.documents.kept(), id);
    const face = shape && name ? faceNamed(this.geometry(), shape, name) : null;
    const along = face && axisOf(face.normal);
    const corner = face?.corners[0];
    if (!along || !corner) return null;
    const kind = along.axis === 'h' ? 'floor' : along.axis === 'a' ? 'left' : 'right';
    return { kind, offset: exactCells(corner[along.axis] / this.geometry().cell) };
  }
}
