import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { PlaneBox } from './outline';

/** Sides of boxes that are brought to one line; `low` and `high` are along the direction's own sense. */
export type Side = 'low' | 'middle' | 'high';
/** Along u or along v of a plane. */
export type Direction = 'u' | 'v';

const ends = (box: PlaneBox, along: Direction): readonly [number, number] => (along === 'u' ? [box.minU, box.maxU] : [box.minV, box.maxV]);
const by = (along: Direction, amount: number): PlanePoint => (along === 'u' ? { u: exactCells(amount), v: 0 } : { u: 0, v: exactCells(amount) });

const placeOf = ([low, high]: readonly [number, number], side: Side): number => (side === 'low' ? low : side === 'high' ? high : (low + high) / 2);

/**
 * How far each box goes so that one side of all lies on one line: that of the box around them, or of a box that stays,
 * such as a face's.
 */
export function alignBoxes(boxes: readonly PlaneBox[], along: Direction, side: Side, to: PlaneBox = aroundAll(boxes)): readonly PlanePoint[] {
  const target = placeOf(ends(to, along), side);
  return boxes.map((box) => by(along, target - placeOf(ends(box, along), side)));
}

/** How far each box goes so that the gaps between neighbours are equal, the outermost staying where they are. */
export function distributeBoxes(boxes: readonly PlaneBox[], along: Direction): readonly PlanePoint[] {
  const order = inOrder(boxes, along);
  const all = ends(aroundAll(boxes), along);
  const filled = boxes.reduce((sum, box) => sum + ends(box, along)[1] - ends(box, along)[0], 0);
  const gap = boxes.length > 1 ? (all[1] - all[0] - filled) / (boxes.length - 1) : 0;
  return stacked(boxes, order, along, all[0], gap);
}

/** How far each box goes so that neighbours have a given gap, the first staying where it is. */
export function gapBoxes(boxes: readonly PlaneBox[], along: Direction, gap: number): readonly PlanePoint[] {
  return stacked(boxes, inOrder(boxes, along), along, Math.min(...boxes.map((box) => ends(box, along)[0])), gap);
}

function inOrder(boxes: readonly PlaneBox[], along: Direction): readonly number[] {
  return boxes.map((_, i) => i).sort((i, k) => ends(boxes[i]!, along)[0] - ends(boxes[k]!, along)[0]);
}

function stacked(boxes: readonly PlaneBox[], order: readonly number[], along: Direction, start: number, gap: number): readonly PlanePoint[] {
  const moves: PlanePoint[] = boxes.map(() => ({ u: 0, v: 0 }));
  let at = start;
  for (const i of order) {
    const [low, high] = ends(boxes[i]!, along);
    moves[i] = by(along, at - low);
    at += high - low + gap;
  }
  return moves;
}

/** The gap between the two nearest neighbours among boxes along a direction; null for fewer than two. */
export function gapOf(boxes: readonly PlaneBox[], along: Direction): number | null {
  const order = inOrder(boxes, along);
  const gaps = order.slice(1).map((i, k) => ends(boxes[i]!, along)[0] - ends(boxes[order[k]!]!, along)[1]);
  return gaps.length > 0 ? Math.min(...gaps) : null;
}

/** The box around boxes. */
export function aroundAll(boxes: readonly PlaneBox[]): PlaneBox {
  return boxes.reduce((p, q) => ({
    minU: Math.min(p.minU, q.minU),
    minV: Math.min(p.minV, q.minV),
    maxU: Math.max(p.maxU, q.maxU),
    maxV: Math.max(p.maxV, q.maxV),
  }));
}
