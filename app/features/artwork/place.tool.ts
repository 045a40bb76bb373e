import { bodyOf, findArtwork, findShape, pickAt, surfaceNamed, type Edit, type PlacementTarget, type SheetPoint, type Visible } from '@core';
import { lockedIds, type Tool, type ToolContext, type ToolStep } from '../../tools/tool';
import { placementOn, targetWords } from './placing';
import type { PlaceToolSettings } from './place.settings';

type Context = ToolContext<PlaceToolSettings>;

export interface PlaceState {
  readonly at: SheetPoint | null;
}

/** Places the chosen artwork: on the face under the pointer, fitted to it, or on the active plane. */
export const placeTool: Tool<PlaceState, PlaceToolSettings> = {
  start: () => ({ at: null }),
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Escape' ? { state: { at: null }, done: true } : { state };
    if (event.kind === 'typed') return { state };
    if (event.kind === 'down') return place(event.at, context);
    return { state: { at: event.at } };
  },
  ghost: ({ at }, context) => {
    if (!at) return null;
    const artwork = context.settings.artwork === null ? null : findArtwork(context.document, context.settings.artwork);
    const target = artwork && targetAt(at, context);
    const words = artwork && target ? [`place ${artwork.name}`, targetWords(target, context)] : ['no artwork is chosen'];
    const part = target?.kind === 'face' ? partAt(at, context)?.polygon : undefined;
    return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words, ...(part && { part }) };
  },
  fields: () => [],
};

/** The part of a shape under the pointer that could carry artwork. */
function partAt(at: SheetPoint, context: Context): Visible | null {
  const locked = lockedIds(context.document.nodes);
  return pickAt(context.picture, at, context.reach, (id) => locked.has(id) || !findShape(context.document, id));
}

/** The face under the pointer, where artwork can lie on it; else the active plane. */
function targetAt(at: SheetPoint, context: Context): PlacementTarget {
  const hit = partAt(at, context);
  const host = hit && findShape(context.document, hit.node);
  const surface = hit?.face && host && host.plane.kind !== 'sheet' ? surfaceNamed(bodyOf(host), hit.face) : null;
  // Balls and domes cannot be unrolled.
  if (hit && surface && surface.form.kind !== 'sphere') return { kind: 'face', node: hit.node, face: surface.name };
  return { kind: 'plane', plane: context.plane };
}

function place(at: SheetPoint, context: Context): ToolStep<PlaceState, PlaceToolSettings> {
  const artwork = context.settings.artwork === null ? null : findArtwork(context.document, context.settings.artwork);
  if (!artwork) return { state: { at } };
  const target = targetAt(at, context);
  const node = placementOn(artwork, target, context, at);
  const edit: Edit = { kind: 'add', nodes: [node], artworks: [] };
  return { state: { at: null }, commit: { edit, label: `place ${artwork.name}` }, select: [node.id], done: true };
}
