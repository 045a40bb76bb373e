import { TestBed } from '@angular/core/testing';
import { apply33, emptyDocument, flattenTree, rectangleOutline, startHistory, type DocumentNode, type Plane, type ShapeNode, type SheetPoint } from '@core';
import { artworkStage } from '../features/artwork/stage';
import { buildStage } from '../features/build/stage';
import { drawStage } from '../features/draw/stage';
import { lightStage } from '../features/light/stage';
import { outputStage } from '../features/output/stage';
import { photoStage } from '../features/photo/stage';
import { projectionStage } from '../features/projection/stage';
import { STAGES } from '../features/stages';
import { STAGE_LINKS, StagesService } from '../state/stages.service';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { ViewStore } from '../state/view.store';

/** Every stage, here at once. */
const ALL_STAGES = [projectionStage, drawStage, buildStage, lightStage, artworkStage, photoStage, outputStage];

export function boxNode(id: string, from: readonly [number, number] = [0, 0], to: readonly [number, number] = [4, 4], depth = 2): ShapeNode {
  const outline = rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] });
  return {
    kind: 'shape',
    id,
    name: id,
    hidden: false,
    locked: false,
    plane: { kind: 'floor', offset: 0 },
    outline,
    depth,
    paint: { fill: '#c98a4b', line: null },
  };
}

/** Opens a drawing with these things in a window of 672 x 472 px, where a millimetre is two px. */
export function openDrawing(...nodes: DocumentNode[]): { store: InstanceType<typeof DocumentStore>; view: InstanceType<typeof ViewStore> } {
  TestBed.configureTestingModule({ providers: [{ provide: STAGE_LINKS, useValue: STAGES }] });
  ALL_STAGES.forEach((stage) => TestBed.inject(StagesService).put(stage));
  const store = TestBed.inject(DocumentStore);
  const view = TestBed.inject(ViewStore);
  const named = new Set(flattenTree(nodes).flatMap(({ node }) => (node.kind === 'placement' ? [node.artwork] : [])));
  const artworks = [...named].map((id) => ({
    id,
    name: id,
    svg: '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>',
    width: 4,
    height: 2,
  }));
  store.load(startHistory({ ...emptyDocument('test', 'test'), artworks, nodes }));
  view.patch({ width: 672, height: 472 });
  view.fit(300, 200);
  TestBed.tick();
  return { store, view };
}

/** The place in px of a plane point in cells. */
export function pxOf(plane: Plane, u: number, v: number): SheetPoint {
  const view = TestBed.inject(ViewStore);
  const at = apply33(TestBed.inject(PictureService).planeContext(plane).options.sheetFromPlane, u, v)!;
  return { x: at.x * view.zoom() + view.panX(), y: at.y * view.zoom() + view.panY() };
}
