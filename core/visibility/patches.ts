import { signedArea } from '../math/polygon';
import type { WorldPoint } from '../math/points';
import { clipNear } from '../projection/near';
import { facing, sheetFromWorld, type EyeMatrix } from '../projection/projection';
import { joinPaths, polygonPath, reversePath, type Path } from '../shape/path';

/** A small piece of a round surface, all but flat. */
export interface Patch {
  readonly corners: readonly WorldPoint[];
  /** Outward normal in its middle. */
  readonly normal: WorldPoint;
}

/**
 * What is seen of small pieces of a round surface, as one path to be filled by windings: those that are turned away are left
 * out, and what lies before the near plane is cut off. For where exact curves run through that plane.
 */
export function patchesPath(projection: EyeMatrix, patches: readonly Patch[]): Path {
  return joinPaths(
    patches.flatMap(({ corners, normal }): readonly Path[] => {
      if (!(facing(projection, normal, corners[0]!) > 0)) return [];
      const points = clipNear(projection, corners).flatMap((corner) => {
        const on = sheetFromWorld(projection, corner);
        return on ? [on.x, on.y] : [];
      });
      if (points.length < 6) return [];
      const path = polygonPath(points);
      return [signedArea(points) < 0 ? reversePath(path) : path];
    }),
  );
}
