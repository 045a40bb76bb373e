import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';
import type { Path64 } from './flat-areas';

/**
 * Closed rings on whole numbers moved outwards by a distance, inwards by a negative one, corners rounded or kept sharp
 * (Clipper's offsets, Chen & McMains 2005 for the union).
 */
export function grownRings(rings: readonly Path64[], by: number, corners: 'round' | 'sharp'): Path64[] {
  const offset = new ClipperOffset(2, corners === 'round' ? Math.max(1, Math.abs(by) / 100) : 0.5);
  const out: Path64[] = [];
  offset.addPaths([...rings], corners === 'round' ? JoinType.Round : JoinType.Miter, EndType.Polygon);
  offset.execute(by, out);
  return out;
}
