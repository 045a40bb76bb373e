import type { CheminDocument, PlacementTarget, ShapeNode } from '../document/types';
import { nodesById } from '../document/tree';
import { surfaceNamed, type Surface } from '../geometry/body';
import type { SurfaceName } from '../geometry/names';
import type { RigidMap } from '../geometry/rigid';
import type { SheetPoint } from '../math/points';
import { drawnBody, drawnNodes, type DrawnThing } from './drawn-nodes';
import { targetSurface } from './paint-placement';
import type { Visible } from './painted';
import { pickAt } from './pick';
import type { Picture } from './picture';

/** A face or side of anything that is drawn, be it of a shape, of solids that are one, of a group's or of what a copy shows. */
export interface SeenFace {
  /** The thing of the document that it belongs to: a copy for what that shows, the whole for solids that are one. */
  readonly owner: string;
  /** What has it, of which a copy may only be showing it: a shape, or solids that are one. */
  readonly thing: string;
  /** As it lies in the world. */
  readonly surface: Surface;
  /** The shape whose paint and artwork it has, and its name there. */
  readonly shape: string;
  readonly face: SurfaceName;
  /** It is seen from within that shape: the wall of what is taken away. */
  readonly inside: boolean;
  /** Where it is carried from where its shape lies; null where it is not. */
  readonly map: RigidMap | null;
  /** The colour that it is seen in where light falls on it; not where it has none. */
  readonly colour?: string;
}

/** The face that is seen at a place that was picked; null for lines, artwork and the bare sheet. */
export function seenFace(hit: Pick<Visible, 'drawn' | 'face' | 'colour'> | null): SeenFace | null {
  const surface = hit?.face ? surfaceNamed(drawnBody(hit.drawn), hit.face) : null;
  return hit && surface ? { ...faceOf(hit.drawn, surface), ...(hit.colour !== undefined && { colour: hit.colour }) } : null;
}

/** Artwork is looked through to what it lies on. */
export const isLaid = (_node: string, { drawn }: Visible): boolean => drawn.node.kind === 'placement';

/** The face that is seen at a place of the sheet, also where artwork covers it; null where there is none. @param skip things that are looked through too */
export function faceUnder(picture: Picture, at: SheetPoint, skip: (node: string) => boolean = () => false): SeenFace | null {
  return seenFace(pickAt(picture, at, 0, (node, part) => isLaid(node, part) || skip(node)));
}

function faceOf(drawn: DrawnThing, surface: Surface): SeenFace {
  const { node, owner, map } = drawn;
  const { from } = surface;
  return { owner, thing: node.id, surface, shape: from?.node ?? node.id, face: from?.name ?? surface.name, inside: from?.inside === true, map };
}

/** Every face of everything that is drawn and not hidden, in document order; of solids that are one, each piece. */
export function facesOf(document: CheminDocument): readonly SeenFace[] {
  return drawnNodes(document).flatMap((drawn) => (drawn.hidden || drawn.node.kind === 'placement' ? [] : (drawnBody(drawn)?.surfaces ?? []).map((surface) => faceOf(drawn, surface)))); // prettier-ignore
}

/** The face of a thing by the name that it has in its body; the first of that name. Null where there is none. */
export function faceNamed(document: CheminDocument, owner: string, name: SurfaceName): SeenFace | null {
  for (const drawn of drawnNodes(document)) {
    const surface = drawn.owner === owner ? surfaceNamed(drawnBody(drawn), name) : null;
    if (surface) return faceOf(drawn, surface);
  }
  return null;
}

/** What artwork on a face lies on in a document; it is then seen on all copies of it too. */
export function faceTarget({ shape, face, inside }: SeenFace): Extract<PlacementTarget, { kind: 'face' }> {
  return { kind: 'face', node: shape, face, ...(inside && { inside }) };
}

/** The shape whose face artwork lies on, and that face as it is read; null for planes, and where it is gone. */
export function targetFace(document: CheminDocument, target: PlacementTarget): { readonly shape: ShapeNode; readonly surface: Surface } | null {
  const shape = target.kind === 'face' ? nodesById(document.nodes).get(target.node) : undefined;
  const surface = shape?.kind === 'shape' && target.kind === 'face' ? targetSurface(shape, target) : null;
  return surface && { shape: shape as ShapeNode, surface };
}
