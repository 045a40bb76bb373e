import { boundsArea } from '../shape/segments';
import type { ShapeNode } from './types';

/** Why a shape cannot be given depth, in words, or null where it can: its outline has to bound an area of a plane in space. */
export function whyNoDepth(shape: ShapeNode): string | null {
  if (shape.locked) return 'it is locked';
  if (shape.plane.kind === 'sheet') return 'it lies on the sheet';
  if (!shape.outline.closed) return 'its outline is open';
  return boundsArea(shape.outline) ? null : 'its outline bounds no area';
}

/** Whether a shape can be given depth. */
export function canHaveDepth(shape: ShapeNode): boolean {
  return whyNoDepth(shape) === null;
}
