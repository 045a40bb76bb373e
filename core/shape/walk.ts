import { keptBy } from '../math/keep';
import type { PlanePoint } from '../math/points';
import type { Outline } from './outline';
import { outlineSegments, pointAt, type Segment } from './segments';
import { nearestParameter, tangentAt } from './split';

/** A place of a line: where it is, and the unit direction in which the line runs there. */
export interface LinePlace {
  readonly at: PlanePoint;
  readonly along: PlanePoint;
}

/** A line measured by the way along it, in cells. */
export interface LineWalk {
  readonly length: number;
  readonly closed: boolean;
  /** The place so far along; a closed line goes round again, an open one goes on straight beyond its ends. */
  readonly place: (distance: number) => LinePlace;
  /** How far along the place nearest to a point is. */
  readonly nearest: (p: PlanePoint) => number;
}

/** Steps into which a curve is cut for measuring it; Gauss and Legendre's rule of three places measures each. */
const STEPS = 32;
const GAUSS = [
  [-0.774596669241483, 5 / 9],
  [0, 8 / 9],
  [0.774596669241483, 5 / 9],
] as const;

/** The outer boundary of an outline, or an open line, measured; null where it has no length. */
export const lineWalk = keptBy((outline: Outline): LineWalk | null => {
  const segments = outlineSegments({ points: outline.points, closed: outline.closed });
  const sums = segments.map(sumsOf);
  const starts: number[] = [];
  let length = 0;
  for (const own of sums) {
    starts.push(length);
    length += own.at(-1)!;
  }
  if (!(length > 0)) return null;
  const inside = (distance: number): LinePlace => {
    let i = segments.length - 1;
    while (i > 0 && starts[i]! > distance) i--;
    const t = parameterAt(sums[i]!, distance - starts[i]!);
    return { at: pointAt(segments[i]!, t), along: directionAt(segments[i]!, t) };
  };
  const walk: LineWalk = {
    length,
    closed: outline.closed,
    place: (distance) => {
      if (outline.closed) return inside(((distance % length) + length) % length);
      const end = inside(Math.max(0, Math.min(length, distance)));
      const beyond = distance < 0 ? distance : Math.max(0, distance - length);
      return beyond === 0 ? end : { ...end, at: { u: end.at.u + end.along.u * beyond, v: end.at.v + end.along.v * beyond } };
    },
    nearest: (p) => {
      let [best, least] = [0, Infinity];
      segments.forEach((segment, i) => {
        const t = nearestParameter(segment, p);
        const at = pointAt(segment, t);
        const far = Math.hypot(at.u - p.u, at.v - p.v);
        if (far < least) [best, least] = [starts[i]! + distanceAt(sums[i]!, t), far];
      });
      return best;
    },
  };
  return walk;
});

/** Lengths from a segment's start to each of its steps. */
function sumsOf(segment: Segment): readonly number[] {
  const steps = segment.kind === 'line' ? 1 : STEPS;
  const sums = [0];
  for (let i = 0; i < steps; i++) {
    const part = GAUSS.reduce((sum, [node, weight]) => {
      const { u, v } = tangentAt(segment, (i + (1 + node) / 2) / steps);
      return sum + weight * Math.hypot(u, v);
    }, 0);
    sums.push(sums[i]! + part / (2 * steps));
  }
  return sums;
}

/** The parameter at a length, between the steps by their share. */
function parameterAt(sums: readonly number[], length: number): number {
  const steps = sums.length - 1;
  let i = 0;
  while (i < steps - 1 && sums[i + 1]! < length) i++;
  const own = sums[i + 1]! - sums[i]!;
  return Math.max(0, Math.min(1, (i + (own > 0 ? (length - sums[i]!) / own : 0)) / steps));
}

function distanceAt(sums: readonly number[], t: number): number {
  const steps = sums.length - 1;
  const i = Math.min(steps - 1, Math.floor(t * steps));
  return sums[i]! + (sums[i + 1]! - sums[i]!) * (t * steps - i);
}

/** The unit direction of a segment; where a handle lies on its end, that from a little further along. */
function directionAt(segment: Segment, t: number): PlanePoint {
  for (const at of [t, t < 0.5 ? t + 1e-4 : t - 1e-4]) {
    const { u, v } = tangentAt(segment, at);
    const length = Math.hypot(u, v);
    if (length > 1e-9) return { u: u / length, v: v / length };
  }
  return { u: 1, v: 0 };
}
