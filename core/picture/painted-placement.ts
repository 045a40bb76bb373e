import type { Mark } from '../artwork/marks';
import type { FlatArtwork } from '../artwork/read-svg';
import { recolouredMarks } from '../artwork/recolour-marks';
import type { PlacementNode, ShapeNode } from '../document/types';
import type { Path } from '../shape/path';
import type { Area, DrawnSurface } from '../visibility/drawn-body';
import { thingOf, type DrawnNode } from './drawn-nodes';
import { placedArtwork, placementSurface } from './paint-placement';
import { PLAIN, type Look, type Painted } from './painted';
import { printedMarks } from './printed';
import type { Stage } from './stage';
import type { Tones } from './tones';

/**
 * What a placement is painted with, and where it can be pointed at.
 * @param host what it lies on, for a placement on a surface
 * @param clip what it is seen within
 * @param part of the host, where it is drawn in parts
 * @param quick for a frame of a gesture
 */
export function paintPlacement(
  stage: Stage,
  tones: Tones,
  drawn: DrawnNode,
  node: PlacementNode,
  artwork: FlatArtwork | null | undefined,
  host: ShapeNode | null,
  clip: { readonly path: Path; readonly areas: readonly Area[] } | null,
  part: DrawnSurface | null = null,
  quick = false,
): Painted {
  const { owner, map } = drawn;
  const surface = host && placementSurface(node, () => host);
  const placed = placedArtwork(stage, node, artwork, surface, map, part, quick);
  const { name } = node;
  if (!placed) return { node: owner, name, look: PLAIN, marks: [], visible: [] };
  const { polygon } = placed;
  const own = tones.hasTint ? recolouredMarks(placed.marks, (colour) => tones.over(colour)) : placed.marks;
  const marks = node.lit && part ? printedMarks(tones, part, own, node.lit) : own;
  const { strength, blend } = node;
  const look: Look = strength === undefined && blend === undefined ? PLAIN : { strength: strength ?? 1, ...(blend && { blend }) };
  const clipped: readonly Mark[] = clip ? [{ kind: 'group', node: null, name: '', clip: { path: clip.path, rule: 'evenodd' }, strength: 1, marks }] : marks;
  return {
    node: owner,
    name,
    look,
    marks: clipped,
    visible: [{ node: owner, face: null, drawn: thingOf(drawn), polygon, open: false, ...(clip && { inside: clip.areas }) }],
  };
}
