import { keptBy, keptByKey } from '../math/keep';
import type { CheminDocument, ShapeNode } from '../document/types';
import { dotWorld, subtractWorld, type PlanePoint } from '../math/points';
import { planeFrame, planeKey, samePlane, worldFromPlane, type Plane } from '../projection/planes';
import { pointsOfSegments } from '../shape/from-segments';
import { ringsOf, type Outline } from '../shape/outline';
import { outlineSegments, type Segment } from '../shape/segments';
import { cellsOn } from '../geometry/surface-on-plane';
import { drawnNodes } from './drawn-nodes';

/** Distance in cells from a plane up to which a line counts as lying in it: what rounding to ticks leaves. */
const IN_PLANE = 1e-4;

/**
 * The boundaries of flat shapes and lines that lie in a plane, in its cells: those drawn on it, and those pieces of
 * shapes of other planes that happen to lie in it, such as the foot of a wall in the floor. Hidden ones do not count.
 */
export function linesInPlane(document: CheminDocument, plane: Plane): readonly Outline[] {
  return drawnNodes(document).flatMap(({ node, map, owner, hidden }): readonly Outline[] => {
    if (hidden || node.kind !== 'shape' || map || node.id !== owner || node.depth !== 0) return [];
    return samePlane(node.plane, plane) ? [node.outline] : piecesIn(node, plane);
  });
}

/** Most planes that what a shape has in them is remembered of. */
const MOST_PLANES = 16;
const pieces = keptBy((node: ShapeNode) => keptByKey(MOST_PLANES, planeKey, (plane: Plane) => foundPieces(node, plane)));

/** What a shape of another plane has in a plane. */
const piecesIn = (node: ShapeNode, plane: Plane): readonly Outline[] => pieces(node)(plane);

function foundPieces(node: ShapeNode, plane: Plane): readonly Outline[] {
  const [own, other] = [planeFrame(node.plane, 1), planeFrame(plane, 1)];
  if (!own || !other) return [];
  const there = (p: PlanePoint): PlanePoint | null => {
    const world = worldFromPlane(own, p);
    const off = dotWorld(subtractWorld(world, other.origin), other.normal);
    return Math.abs(off) <= IN_PLANE ? (cellsOn(plane, [world])?.[0] ?? null) : null;
  };
  return ringsOf(node.outline)
    .flatMap(outlineSegments)
    .flatMap((segment) => {
      const laid = laidSegment(segment, there);
      return laid ? [{ points: pointsOfSegments([laid], false), closed: false }] : [];
    });
}

/** A segment on another plane, or null where a part of it leaves that plane. Affine maps keep curves and weights. */
function laidSegment(segment: Segment, there: (p: PlanePoint) => PlanePoint | null): Segment | null {
  const [from, to] = [there(segment.from), there(segment.to)];
  if (!from || !to) return null;
  if (segment.kind === 'line') return { ...segment, from, to };
  if (segment.kind === 'cubic') {
    const [out, into] = [there(segment.out), there(segment.into)];
    return out && into && { ...segment, from, out, into, to };
  }
  const via = there(segment.via);
  return via && { ...segment, from, via, to };
}
