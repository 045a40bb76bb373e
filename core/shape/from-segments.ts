import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { OutlinePoint } from './outline';
import type { Segment } from './segments';

const exact = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });
const same = (p: PlanePoint, q: PlanePoint): boolean => p.u === q.u && p.v === q.v;

/**
 * The corners of a boundary that runs along segments, each starting where the one before ends; the inverse of
 * `outlineSegments`. Points keep the ids of the segments that start at them where these are told apart. Straight
 * pieces that go on in one line become one, unless a point of `keep` lies between.
 */
export function pointsOfSegments(segments: readonly Segment[], closed: boolean, keep: (at: PlanePoint) => boolean = () => false): readonly OutlinePoint[] {
  const pieces = straightened(
    segments.filter((s) => s.kind !== 'line' || !same(exact(s.from), exact(s.to))),
    closed,
    keep,
  );
  const first = pieces[0];
  if (!first) return [];
  const taken = new Set<number>();
  let next = Math.max(0, ...pieces.map((s) => s.id));
  const idOf = (id: number): number => {
    const fresh = taken.has(id) ? ++next : id;
    taken.add(fresh);
    return fresh;
  };
  const points: OutlinePoint[] = pieces.map((piece, i) => {
    const before = pieces[i - 1] ?? (closed ? pieces.at(-1) : undefined);
    const base = { id: idOf(piece.id), ...exact(piece.from) };
    const into = before?.kind === 'cubic' && !same(exact(before.into), base) ? { into: exact(before.into) } : {};
    const out = piece.kind === 'cubic' && !same(exact(piece.out), base) ? { out: exact(piece.out) } : {};
    const arc = piece.kind === 'conic' ? { arc: { ...exact(piece.via), weight: piece.weight } } : {};
    return { ...base, ...into, ...out, ...arc };
  });
  if (closed) return points;
  const last = pieces.at(-1)!;
  const into = last.kind === 'cubic' ? { into: exact(last.into) } : {};
  return [...points, { id: idOf(next + 1), ...exact(last.to), ...into }];
}

/** Straight pieces that go on in one line, joined. */
function straightened(segments: readonly Segment[], closed: boolean, keep: (at: PlanePoint) => boolean): readonly Segment[] {
  const pieces: Segment[] = [];
  for (const segment of segments) {
    const before = pieces.at(-1);
    if (before && goesOn(before, segment) && !keep(segment.from)) pieces[pieces.length - 1] = { ...before, to: segment.to } as Segment;
    else pieces.push(segment);
  }
  if (!closed || pieces.length < 3) return pieces;
  const [first, last] = [pieces[0]!, pieces.at(-1)!];
  if (!goesOn(last, first) || keep(first.from)) return pieces;
  return [{ ...first, id: last.id, from: last.from } as Segment, ...pieces.slice(1, -1)];
}

function goesOn(p: Segment, q: Segment): boolean {
  if (p.kind !== 'line' || q.kind !== 'line') return false;
  const [a, b, c] = [exact(p.from), exact(p.to), exact(q.to)];
  if (!same(b, exact(q.from))) return false;
  const [ax, ay, bx, by] = [b.u - a.u, b.v - a.v, c.u - b.u, c.v - b.v];
  const cross = Math.abs(ax * by - ay * bx);
  // On whole ticks a slanting line's points lie up to half a tick beside it.
  return ax * bx + ay * by > 0 && cross <= 3e-5 * Math.max(Math.hypot(ax, ay), Math.hypot(bx, by));
}

/** Twice the signed area under a boundary, curves exactly: Green's theorem on each piece. @returns square cells */
export function doubleAreaOf(segments: readonly Segment[]): number {
  const origin = segments[0]?.from ?? { u: 0, v: 0 };
  const at = (p: PlanePoint): readonly [number, number] => [p.u - origin.u, p.v - origin.v];
  return segments.reduce((sum, segment) => {
    const [[x0, y0], [x1, y1]] = [at(segment.from), at(segment.to)];
    if (segment.kind === 'line') return sum + x0 * y1 - x1 * y0;
    if (segment.kind === 'cubic') {
      const [[ax, ay], [bx, by]] = [at(segment.out), at(segment.into)];
      const cross = (px: number, py: number, qx: number, qy: number): number => px * qy - py * qx;
      // The integral of x dy - y dx over a cubic in Bernstein form.
      const twice =
        6 * cross(x0, y0, ax, ay) +
        3 * cross(x0, y0, bx, by) +
        cross(x0, y0, x1, y1) +
        3 * cross(ax, ay, bx, by) +
        3 * cross(ax, ay, x1, y1) +
        6 * cross(bx, by, x1, y1);
      return sum + twice / 10;
    }
    return sum + x0 * y1 - x1 * y0 + conicBulge(segment.from, segment.via, segment.to, segment.weight);
  }, 0);
}

/** Twice the signed area between a conic and its chord: the triangle of its tangents times a factor of its weight. */
function conicBulge(p: PlanePoint, q: PlanePoint, r: PlanePoint, w: number): number {
  const triangle = (q.u - p.u) * (r.v - p.v) - (q.v - p.v) * (r.u - p.u);
  // The part of the tangents' triangle under the curve, by the integral in closed form; w = 1 is a parabola.
  return triangle * (Math.abs(w - 1) < 1e-6 ? 2 / 3 : segmentShare(w));
}

/** Area under a conic arc over the area of the triangle of its end tangents. */
function segmentShare(w: number): number {
  const k = 1 - w * w;
  if (k > 0) {
    const root = Math.sqrt(k);
    return (w / k) * (Math.acos(w) / root - w);
  }
  const root = Math.sqrt(-k);
  return (w / -k) * (w - Math.acosh(w) / root);
}
