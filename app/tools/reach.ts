import { dotWorld, exactCells, findNode, planeFrame, subtractWorld, worldFromPlane, type Plane, type PlanePoint, type SheetPoint } from '@core';
import { groundAt } from './ground';
import type { ToolContext } from './tool';

/** How far along a plane's normal something is, and what it is called. */
export interface Reach {
  readonly cells: number;
  readonly word: string;
}

/** How parallel a line may run to a face and still be said to meet it. */
const GLANCING = 1e-6;

/**
 * Cells along the normal of a plane, from a point of it, up to the flat face under a place of the sheet; null where there
 * is none that way.
 * @param skip things that are looked through, such as what is being drawn
 */
export function reachTo(context: ToolContext<unknown>, plane: Plane, from: PlanePoint, at: SheetPoint, skip: (node: string) => boolean): Reach | null {
  const face = groundAt(context, at, skip);
  const [own, other] = [planeFrame(plane, 1), face && planeFrame(face.plane, 1)];
  if (!own || !other) return null;
  const slope = dotWorld(other.normal, own.normal);
  if (Math.abs(slope) < GLANCING) return null;
  const cells = exactCells(dotWorld(subtractWorld(other.origin, worldFromPlane(own, from)), other.normal) / slope);
  return cells === 0 ? null : { cells, word: `up to ${findNode(context.document, face!.node!)?.name ?? 'a face'}` };
}
