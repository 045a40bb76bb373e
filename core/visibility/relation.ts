import { clipToConvex, signedArea } from '../math/polygon';
import { COPLANAR, CUTS_THROUGH, CUTS_THROUGH_CURVED, TOUCHING } from '../math/tolerances';
import type { Nearness } from '../projection/sight';
import { FINER, type DrawnSurface } from './drawn-body';

/** How two drawn surfaces lie to one another: the first in front, behind, in one plane with it, or apart on the sheet. */
export interface Relation {
  readonly kind: 'front' | 'behind' | 'level' | 'apart';
  /**
   * Where surfaces cut through each other: the convex parts of the sheet, clockwise, in which it is the other way
   * round. Null where they do not.
   */
  readonly reversed: readonly Float64Array[] | null;
  /** With `reversed`: the parts in which it is as `kind` says. */
  readonly agreed: readonly Float64Array[] | null;
  /** With `reversed`: they meet there, and are not only in front of each other in turns as a ring round a pole is. */
  readonly through?: boolean;
}

const FRONT: Relation = { kind: 'front', reversed: null, agreed: null };
const BEHIND: Relation = { kind: 'behind', reversed: null, agreed: null };
const LEVEL: Relation = { kind: 'level', reversed: null, agreed: null };
const APART: Relation = { kind: 'apart', reversed: null, agreed: null };

/** How much may be compared still: overlaps of facets. Whoever has none left finds everything apart. */
export interface Budget {
  left: number;
}

const UNBOUNDED: Budget = { left: Infinity };

let clipped = new Float64Array(256);
let scratch = new Float64Array(256);

/** Whether two ranges overlap by more than touching in every direction that is measured. */
export function rangesOverlap(s: readonly number[], t: readonly number[]): boolean {
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

/** An overlap of two facets, and which of them is how much nearer there. */
interface Overlap {
  readonly f: Nearness;
  readonly g: Nearness;
  readonly area: Float64Array;
}

/**
 * Compares two surfaces where they overlap on the sheet. Each facet of one is clipped to each of the other, and the
 * difference of their nearness, affine over the overlap, is taken at its corners; the largest gap decides. Surfaces that
 * cut through each other are in front of each other in parts, which are told.
 * @param quick leaves round surfaces as they come where they cut through each other, for pictures that last a frame
 */
export function relate(f: DrawnSurface, g: DrawnSurface, quick = false, budget: Budget = UNBOUNDED): Relation {
  const relation = compared(f, g, CUTS_THROUGH_CURVED, budget);
  if (quick || !relation.reversed || (f.room === 0 && g.room === 0)) return relation;
  // What shows along the cut is how close the facets are: with finer ones its curve is right to a ten-thousandth of a cell.
  return compared(f.finer, g.finer, CUTS_THROUGH_CURVED / FINER, budget);
}

/** @param curvedCut of the larger gap between curved surfaces, what the smaller has to exceed */
function compared(f: DrawnSurface, g: DrawnSurface, curvedCut: number, budget: Budget): Relation {
  let [most, least, overlap, scale, crossing] = [0, 0, 0, 0, 0];
  const overlaps: Overlap[] = [];
  const extent = Math.min(f.ranges[1]! - f.ranges[0]!, g.ranges[1]! - g.ranges[0]!) + Math.min(f.ranges[3]! - f.ranges[2]!, g.ranges[3]! - g.ranges[2]!);
  for (const piece of f.facets) {
    for (const k of g.facetsNear(piece)) {
      if (budget.left <= 0) return APART;
      const other = g.facets[k]!;
      const length = clippedTo(piece.polygon, other.polygon);
      if (length === 0) continue;
      budget.left--;
      const part = clipped.subarray(0, length);
      const [n, m] = [f.nearness(piece), g.nearness(other)];
      overlap += Math.abs(signedArea(part));
      const [p, q, r] = [n.p - m.p, n.q - m.q, n.r - m.r];
      let [high, low] = [-Infinity, Infinity];
      for (let at = 0; at < length; at += 2) {
        const gap = p * clipped[at]! + q * clipped[at + 1]! + r;
        if (gap > high) high = gap;
        if (gap < low) low = gap;
        scale = Math.max(scale, Math.abs(n.p * clipped[at]! + n.q * clipped[at + 1]! + n.r), Math.abs(n.r), Math.abs(m.r));
      }
      most = Math.max(most, high);
      least = Math.min(least, low);
      crossing = Math.max(crossing, Math.min(high, -low));
      if (most > 0 && least < 0) overlaps.push({ f: n, g: m, area: part.slice() });
      else if (f.facets.length > 1 || g.facets.length > 1) overlaps.push({ f: n, g: m, area: part.slice() });
    }
  }
  if (!(overlap > TOUCHING * extent * extent)) return APART;
  const widest = Math.max(most, -least);
  if (widest <= COPLANAR * (scale + 1)) return LEVEL;
  const curved = f.isRound || g.isRound;
  const front = most >= -least;
  const lesser = Math.min(most, -least);
  if (lesser <= COPLANAR * (scale + 1) || (curved && lesser <= curvedCut * widest)) return front ? FRONT : BEHIND;
  const parts = overlaps.map((part) => ({ ahead: halfOf(part, 1), beyond: halfOf(part, -1) }));
  const [ahead, beyond] = [parts.flatMap((part) => part.ahead ?? []), parts.flatMap((part) => part.beyond ?? [])];
  const strip = (front ? beyond : ahead).reduce((sum, part) => sum + Math.abs(signedArea(part)), 0);
  if (strip <= CUTS_THROUGH * extent) return front ? FRONT : BEHIND;
  const through = crossing > Math.max(COPLANAR * (scale + 1), curved ? curvedCut * widest : 0);
  return front ? { kind: 'front', reversed: beyond, agreed: ahead, through } : { kind: 'behind', reversed: ahead, agreed: beyond, through };
}

function clippedTo(piece: readonly number[], other: readonly number[]): number {
  const room = 2 * (piece.length + other.length);
  if (clipped.length < room) {
    clipped = new Float64Array(2 * room);
    scratch = new Float64Array(2 * room);
  }
  return clipToConvex(piece, piece.length, other, other.length, clipped, scratch);
}

/** The part of an overlap in which the first facet is nearer (`side` 1) or farther (-1); null where that is nothing. */
function halfOf({ f, g, area }: Overlap, side: 1 | -1): Float64Array | null {
  const [p, q, r] = [f.p - g.p, f.q - g.q, f.r - g.r];
  const gap = (i: number): number => side * (p * area[i]! + q * area[i + 1]! + r);
  const kept: number[] = [];
  for (let i = 0, before = area.length - 2; i < area.length; before = i, i += 2) {
    const [d, e] = [gap(before), gap(i)];
    if (d >= 0 !== e >= 0) {
      const t = d / (d - e);
      kept.push(area[before]! + t * (area[i]! - area[before]!), area[before + 1]! + t * (area[i + 1]! - area[before + 1]!));
    }
    if (e >= 0) kept.push(area[i]!, area[i + 1]!);
  }
  return kept.length >= 6 && signedArea(kept) !== 0 ? Float64Array.from(kept) : null;
}
