import type { ManifoldToplevel } from 'manifold-3d';
import type { Body } from '../geometry/body';
import { joinMeshes } from './kernel';
import type { JoinKind, Part } from '../geometry/joined-recipe';
import { meshesOf, type Triangulate } from './mesh';
import { rebuiltBody } from './rebuild';

/**
 * Bodies joined by the solids' kernel, on their own exact surfaces. Null where nothing is left.
 * @throws CoreError `refused` where a part does not close
 */
export function joinedBody(kernel: ManifoldToplevel, parts: readonly Part[], how: JoinKind): Body | null {
  const triangulate: Triangulate = (rings) => kernel.triangulate(rings as [number, number][][]);
  const meshes = meshesOf(parts.map(({ body }) => body), triangulate); // prettier-ignore
  return rebuiltBody(parts, meshes, joinMeshes(kernel, meshes.parts, how));
}
