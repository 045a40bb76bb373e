import {
  faceTarget,
  findArtwork,
  isLaid,
  pickAt,
  seenFace,
  type Edit,
  type PlacementTarget,
  type ReadBox,
  type RigidMap,
  type SheetPoint,
  type Visible,
} from '@core';
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
    const spot = artwork && spotAt(at, context);
    const copied = spot?.carried ? ['lies on its original, and so on every copy'] : [];
    const words = artwork && spot ? [`place ${artwork.name}`, targetWords(spot.target, context), ...copied] : ['no artwork is chosen'];
    const part = spot?.part?.polygon;
    return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words, ...(part && { part }) };
  },
  fields: () => [],
};

/** What artwork would lie on at a place of the sheet. */
export interface ArtworkSpot {
  readonly target: PlacementTarget;
  /** Where its face is seen carried to, by a copy. */
  readonly carried: RigidMap | null;
  /** The part of the picture that is that face. */
  readonly part: Visible | null;
}

/** The face under a place of the sheet, of whatever is seen there, where artwork can lie on it; else the active plane. */
export function spotAt(at: SheetPoint, context: Pick<ToolContext, 'document' | 'picture' | 'reach' | 'plane'>): ArtworkSpot {
  const locked = lockedIds(context.document.nodes);
  const hit = pickAt(context.picture, at, context.reach, (id, part) => locked.has(id) || isLaid(id, part));
  const seen = seenFace(hit);
  // Balls and domes cannot be unrolled.
  if (!seen || seen.surface.form.kind === 'sphere') return { target: { kind: 'plane', plane: context.plane }, carried: null, part: null };
  return { target: faceTarget(seen), carried: seen.map, part: hit };
}

function place(at: SheetPoint, context: Context): ToolStep<PlaceState, PlaceToolSettings> {
  const { artwork: chosen, dropped } = context.settings;
  const artworks = (dropped ?? (chosen === null ? [] : [chosen])).flatMap((id) => findArtwork(context.document, id) ?? []);
  if (artworks.length === 0) return { state: { at } };
  const { target, carried } = spotAt(at, context);
  const beside: ReadBox[] = [];
  const nodes = artworks.map((artwork) => {
    const { node, box } = placementOn(artwork, target, context, { at, carried, ownSize: dropped !== undefined, beside });
    beside.push(box);
    return node;
  });
  const edit: Edit = { kind: 'add', nodes, artworks: [] };
  const label = artworks.length === 1 ? `place ${artworks[0]!.name}` : `place ${artworks.length} artworks`;
  return { state: { at: null }, commit: { edit, label }, select: nodes.map(({ id }) => id), done: true };
}
