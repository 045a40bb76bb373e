import type { ManifoldToplevel } from 'manifold-3d';
import { CoreError } from '../math/errors';
import type { JoinKind } from '../geometry/joined-recipe';
import type { PartMesh } from './mesh';

/** What the kernel makes of some meshes. */
export interface JoinedMesh {
  readonly places: Float32Array;
  readonly corners: Uint32Array;
  /** By triangle: the facet that it is a piece of. */
  readonly faces: Uint32Array;
}

/**
 * Joins closed meshes with the solids' kernel (Manifold, a boolean on floats that always gives a closed mesh).
 * @throws CoreError `refused` where a part is no closed mesh, with its place among them
 */
export function joinMeshes({ Manifold, Mesh }: ManifoldToplevel, parts: readonly PartMesh[], how: JoinKind): JoinedMesh {
  const made: InstanceType<typeof Manifold>[] = [];
  const first = Manifold.reserveIDs(parts.length);
  try {
    parts.forEach((part, i) => {
      const mesh = new Mesh({
        numProp: 3,
        vertProperties: part.places,
        triVerts: part.corners,
        faceID: part.faces,
        runIndex: Uint32Array.of(0, part.corners.length),
        runOriginalID: Uint32Array.of(first + i),
      });
      made.push(closed(Manifold, mesh, i));
    });
    const whole = how === 'join' ? Manifold.union(made) : how === 'take away' ? Manifold.difference(made) : Manifold.intersection(made);
    made.push(whole);
    const { vertProperties, triVerts, faceID, mergeFromVert, mergeToVert } = whole.getMesh();
    const merged = new Map<number, number>();
    mergeFromVert?.forEach((from, i) => merged.set(from, mergeToVert[i]!));
    return {
      places: vertProperties.slice(),
      corners: merged.size > 0 ? triVerts.map((corner) => merged.get(corner) ?? corner) : triVerts.slice(),
      faces: faceID.slice(),
    };
  } finally {
    for (const solid of made) solid.delete();
  }
}

function closed(
  Manifold: ManifoldToplevel['Manifold'],
  mesh: InstanceType<ManifoldToplevel['Mesh']>,
  part: number,
): InstanceType<ManifoldToplevel['Manifold']> {
  try {
    return new Manifold(mesh);
  } catch (error) {
    throw new CoreError('refused', `Part ${part + 1} cannot be joined: its faces do not close it (${error instanceof Error ? error.message : 'unknown'}).`, {
      part,
    });
  }
}
