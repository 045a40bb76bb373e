import type { Plane } from '../projection/planes';
import { artworkOnPlane, type ArtworkAnchor } from './anchor';
import { boundsOf, type Body } from './body';
import { flatSurface } from './depth-recipe';
import { END } from './names';

/** What is laid on a plane, or on a surface of something else. */
export interface Placed {
  readonly target: { readonly kind: 'plane'; readonly plane: Plane } | { readonly kind: 'face' };
  readonly anchor: ArtworkAnchor;
}

/** The body of a placement on a plane in space: its box, seen from both sides. Null on the sheet and on faces, which have theirs. */
export function placementBody({ target, anchor }: Placed): Body | null {
  const frame = target.kind === 'plane' && target.plane.kind !== 'sheet' ? artworkOnPlane(anchor, target.plane) : null;
  if (!frame) return null;
  const { width, height } = anchor;
  const corners = [{ u: 0, v: 0 }, { u: width, v: 0 }, { u: width, v: height }, { u: 0, v: height }]; // prettier-ignore
  const outline = { points: corners.map((p, i) => ({ id: i + 1, ...p })), closed: true };
  const surface = flatSurface(END, outline, frame, true);
  const points = surface.loops[0]!;
  return { surfaces: [surface], wires: [], points, bounds: boundsOf(points), closed: false, convex: true };
}
