import { clipToConvex, signedArea } from '../math/polygon';
import { COPLANAR, TOUCHING } from '../math/tolerances';
import type { DrawnFace } from './drawn-face';

/** How two drawn faces lie to one another: the first in front, behind, in one plane with it, or apart on the sheet. */
export type Relation = 'front' | 'behind' | 'level' | 'apart';

let clipped = new Float64Array(256);
let scratch = new Float64Array(256);

/** Whether the ranges of two faces overlap by more than touching in every direction that is measured. */
export function rangesOverlap(f: DrawnFace, g: DrawnFace): boolean {
  const s = f.ranges;
  const t = g.ranges;
  for (let d = 0; d < s.length; d += 2) {
    const from = s[d]!;
    const to = s[d + 1]!;
    const other = t[d]!;
    const end = t[d + 1]!;
    if (from >= end || other >= to) return false;
    const slack = TOUCHING * (Math.abs(to) + Math.abs(end) + 1);
    if (from + slack >= end || other + slack >= to) return false;
  }
  return true;
}

/**
 * Compares two faces where they overlap on the sheet. Each convex piece of one is clipped to each of the other, and
 * the difference of their nearness, affine over the sheet, is taken at the corners of what is left; the corner where
 * they are farthest apart decides. For faces that do not cut through each other the sign is the same all over the
 * overlap, so the answer is exact; for those that do, the larger gap wins.
 */
export function relate(f: DrawnFace, g: DrawnFace): Relation {
  const p = f.p - g.p;
  const q = f.q - g.q;
  const r = f.r - g.r;
  let widest = 0;
  let overlap = 0;
  let scale = 0;
  for (const piece of f.pieces) {
    for (const other of g.pieces) {
      const room = 2 * (piece.length + other.length);
      if (clipped.length < room) {
        clipped = new Float64Array(2 * room);
        scratch = new Float64Array(2 * room);
      }
      const length = clipToConvex(piece, piece.length, other, other.length, clipped, scratch);
      if (length === 0) continue;
      const part = length === clipped.length ? clipped : clipped.subarray(0, length);
      overlap += Math.abs(signedArea(part));
      for (let i = 0; i < length; i += 2) {
        const gap = p * clipped[i]! + q * clipped[i + 1]! + r;
        if (Math.abs(gap) > Math.abs(widest)) widest = gap;
        scale = Math.max(scale, Math.abs(f.p * clipped[i]! + f.q * clipped[i + 1]! + f.r), Math.abs(f.r), Math.abs(g.r));
      }
    }
  }
  const extent = Math.min(f.ranges[1]! - f.ranges[0]!, g.ranges[1]! - g.ranges[0]!) + Math.min(f.ranges[3]! - f.ranges[2]!, g.ranges[3]! - g.ranges[2]!);
  if (!(overlap > TOUCHING * extent * extent)) return 'apart';
  if (Math.abs(widest) <= COPLANAR * (scale + 1)) return 'level';
  return widest > 0 ? 'front' : 'behind';
}
