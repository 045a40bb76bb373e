import {
  exactCells,
  faceNamed,
  faceWord,
  findArtwork,
  findShape,
  pickAt,
  planeReadingFrame,
  PLANE_NAMES,
  readingFrame,
  sheetFromFrame,
  invert33,
  apply33,
  type Artwork,
  type Edit,
  type PlacementNode,
  type PlacementTarget,
  type SheetPoint,
  type Visible,
} from '@core';
import { lockedIds, type Tool, type ToolContext, type ToolStep } from '../../tools/tool';

export interface PlaceState {
  readonly at: SheetPoint | null;
}

/** Cells that artwork is wide when it is placed on a bare plane. */
const WIDTH_ON_PLANE = 6;

/** Places the chosen artwork: on the face under the pointer, fitted to it, or on the active plane. */
export const placeTool: Tool<PlaceState> = {
  start: () => ({ at: null }),
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Escape' ? { state: { at: null }, done: true } : { state };
    if (event.kind === 'typed') return { state };
    if (event.kind === 'down') return place(event.at, context);
    return { state: { at: event.at } };
  },
  ghost: ({ at }, context) => {
    if (!at) return null;
    const artwork = context.artwork === null ? null : findArtwork(context.document, context.artwork);
    const target = artwork && targetAt(at, context);
    const words = artwork && target ? [`place ${artwork.name}`, targetWords(target, context)] : ['no artwork is chosen'];
    const part = target?.kind === 'face' ? partAt(at, context)?.polygon : undefined;
    return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words, ...(part && { part }) };
  },
  fields: () => [],
};

/** The part of a shape under the pointer that could carry artwork. */
function partAt(at: SheetPoint, context: ToolContext): Visible | null {
  const locked = lockedIds(context.document.nodes);
  return pickAt(context.picture, at, context.reach, (id) => locked.has(id) || !findShape(context.document, id));
}

function targetAt(at: SheetPoint, context: ToolContext): PlacementTarget {
  const hit = partAt(at, context);
  const host = hit && findShape(context.document, hit.node);
  if (hit?.face && host && host.plane.kind !== 'sheet') return { kind: 'face', node: hit.node, face: hit.face };
  return { kind: 'plane', plane: context.plane };
}

/** A target as people name it: `kiosk, left side`. */
export function targetWords(target: PlacementTarget, { document, geometry }: Pick<ToolContext, 'document' | 'geometry'>): string {
  if (target.kind === 'plane') return PLANE_NAMES[target.plane.kind];
  const host = findShape(document, target.node);
  const face = host && faceNamed(geometry, host, target.face);
  return host && face ? (host.depth === 0 ? host.name : `${host.name}, ${faceWord(face.normal)}`) : 'a face that is gone';
}

function place(at: SheetPoint, context: ToolContext): ToolStep<PlaceState> {
  const artwork = context.artwork === null ? null : findArtwork(context.document, context.artwork);
  if (!artwork) return { state: { at } };
  const target = targetAt(at, context);
  const node = placementOn(artwork, target, context, at);
  const edit: Edit = { kind: 'add', nodes: [node], artworks: [] };
  return { state: { at: null }, commit: { edit, label: `place ${artwork.name}` }, select: [node.id], done: true };
}

/** A new placement: fitted to the middle of a face, or at a plane point, its proportions kept. */
export function placementOn(
  artwork: Artwork,
  target: PlacementTarget,
  context: Pick<ToolContext, 'document' | 'geometry' | 'newId'>,
  at: SheetPoint | null,
): PlacementNode {
  const ratio = artwork.height / artwork.width;
  const host = target.kind === 'face' ? findShape(context.document, target.node) : null;
  const face = host && target.kind === 'face' ? faceNamed(context.geometry, host, target.face) : null;
  let box = { x: 0, y: 0, width: WIDTH_ON_PLANE, height: WIDTH_ON_PLANE * ratio };
  if (face) {
    const { width, height } = readingFrame(face, context.geometry.cell);
    const fitted = Math.min(width, height / ratio);
    box = { x: (width - fitted) / 2, y: (height - fitted * ratio) / 2, width: fitted, height: fitted * ratio };
  } else if (at && target.kind === 'plane') {
    const frame = planeReadingFrame(context.geometry, target.plane);
    const { cell } = context.geometry;
    const map = frame ? sheetFromFrame(context.geometry.sight.projection, frame) : ([cell, 0, 0, 0, cell, 0, 0, 0, 1] as const);
    const inverse = invert33(map);
    const p = inverse && apply33(inverse, at.x, at.y);
    if (p) box = { ...box, x: Math.round(p.x), y: Math.round(p.y) };
  }
  return {
    kind: 'placement',
    id: context.newId(),
    name: `${artwork.name}, ${targetWords(target, context)}`,
    hidden: false,
    locked: false,
    artwork: artwork.id,
    target,
    box: { x: exactCells(box.x), y: exactCells(box.y), width: exactCells(box.width), height: exactCells(box.height) },
  };
}
