import { surfaceNamed, type Form } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import type { SurfaceName } from '../geometry/names';
import { dotWorld } from '../math/points';
import type { SolidResult } from '../solids/solids';
import { withSurfaceMoved } from './move-surface';
import { nodesById } from './tree';
import type { CheminDocument, JoinedNode, ShapeNode } from './types';

/** A face of a part of solids that are one. */
interface PartFace {
  readonly part: ShapeNode;
  readonly name: SurfaceName;
  /** 1 where out of the whole is out of the part, -1 on the walls of what the part takes away. */
  readonly out: 1 | -1;
}

/** The face of a part that a face of solids that are one came from; null where there is none. */
export function partFace(document: CheminDocument, whole: JoinedNode, name: SurfaceName): PartFace | null {
  const surface = surfaceNamed(bodyOf(whole), name);
  const part = surface?.from && nodesById(document.nodes).get(surface.from.node);
  const own = part?.kind === 'shape' ? surfaceNamed(bodyOf(part), surface!.from!.name) : null;
  if (!own || part?.kind !== 'shape') return null;
  return { part, name: own.name, out: facesAlike(surface!.form, own.form) ? 1 : -1 };
}

/** Whether two forms of one surface have their outer sides on the same side. */
function facesAlike(p: Form, q: Form): boolean {
  if (p.kind === 'flat') return q.kind === 'flat' && dotWorld(p.frame.normal, q.frame.normal) > 0;
  if (p.kind === 'sphere') return q.kind === 'sphere' && p.hollow === q.hollow;
  return q.kind !== 'flat' && q.kind !== 'sphere' && p.sense === q.sense;
}

/**
 * The part of solids that are one whose face is moved along its normal, its neighbours following; all is then joined
 * anew. Where a part takes away, the wall moves with the space that it leaves.
 * @param by cells out of the whole; negative into it
 */
export function withPartFaceMoved(document: CheminDocument, whole: JoinedNode, name: SurfaceName, by: number): SolidResult<ShapeNode> {
  const face = partFace(document, whole, name);
  return face ? withSurfaceMoved(face.part, face.name, face.out * by) : { ok: false, reason: 'There is no such face.' };
}
