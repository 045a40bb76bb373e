import Flatbush from 'flatbush';
import polygonClipping from 'polygon-clipping';
import { CoreError } from '../math/errors';
import type { PlanePoint } from '../math/points';
import { FOUND_PARAMETER, SAME_FOUND, SAME_PARAMETER, TICKS_PER_CELL } from '../math/tolerances';
import { ClipType, combineRings, FillRule, ringsArea, type Path64, type Point64 } from './flat-areas';
import { pointsOfSegments } from './from-segments';
import { nestRings } from './nest';
import { outlineOfRings, ringsOf, type Outline } from './outline';
import { chordsOf, outlineSegments, pointAt, type Segment } from './segments';
import { refineCrossing, reverseSegment, sliceSegment } from './split';

/** How areas are combined. */
export type Combining = 'union' | 'subtract' | 'intersect' | 'exclude';

const CLIP_TYPES: Readonly<Record<Combining, ClipType>> = {
  union: ClipType.Union,
  subtract: ClipType.Difference,
  intersect: ClipType.Intersection,
  exclude: ClipType.Xor,
};

/** Distance in cells between curves and the chords that stand for them while areas are combined: 25 ticks. */
const CHORDS = 0.001;
/** Ticks that a corner of a result may lie off the chord that it belongs to: results are rounded to whole ticks. */
const OFF_CHORD = 1.6;

/**
 * Closed outlines of one plane combined: the area of the first with that of the others by the operation. Each outline
 * that comes back bounds one connected area, with its holes. Computed on whole ticks of the plane, where straight
 * shapes are exact, and never on the sheet; curves are stood for by chords, and what is left of them comes back as
 * pieces of the same curves, cut where they truly cross. The sums of areas check every result (|A or B| + |A and B| =
 * |A| + |B|, and likewise for the others); where they fail, a second method takes over.
 * @returns none where nothing is left
 * @throws CoreError `bad-argument` where an outline is open
 */
export function combineOutlines(operation: Combining, first: Outline, others: readonly Outline[]): readonly Outline[] {
  const open = [first, ...others].findIndex((outline) => !outline.closed);
  if (open >= 0) throw new CoreError('bad-argument', 'Only closed outlines bound an area that can be combined.', { outline: open });
  const sources = new Sources();
  const subject = sources.add(first);
  const clips = others.map((outline) => sources.add(outline));
  if (operation === 'exclude' || operation === 'intersect') {
    return sources.outlines(clips.reduce((area, clip) => checked(operation, area, clip), subject));
  }
  const clip = clips.reduce<Path64[]>((area, next) => (area.length === 0 ? next : checked('union', area, next)), []);
  return sources.outlines(clip.length === 0 ? normal(subject) : checked(operation, subject, clip));
}

/** The area of paths by the even-odd rule as paths that do not cross. */
const normal = (area: Path64[]): Path64[] => combineRings(ClipType.Union, area, [], FillRule.EvenOdd);

/** An operation whose sum of areas is right, by the one method or the other. */
function checked(operation: Combining, a: Path64[], b: Path64[]): Path64[] {
  const result = combineRings(CLIP_TYPES[operation], a, b, FillRule.EvenOdd);
  const miss = areaMiss(operation, a, b, result);
  if (miss <= 1) return result;
  const second = bySweep(operation, a, b);
  return second && areaMiss(operation, a, b, second) < miss ? second : result;
}

/** How far the sum of areas is off, over what rounding to ticks can explain; at most 1 where it holds. */
export function areaMiss(operation: Combining, a: Path64[], b: Path64[], result: Path64[]): number {
  const [na, nb] = [normal(a), normal(b)];
  const common = combineRings(ClipType.Intersection, a, b, FillRule.EvenOdd);
  const area = (paths: Path64[]): number => ringsArea(paths);
  const expected = {
    union: area(na) + area(nb) - area(common),
    subtract: area(na) - area(common),
    intersect: area(na) + area(nb) - area(combineRings(ClipType.Union, a, b, FillRule.EvenOdd)),
    exclude: area(na) + area(nb) - 2 * area(common),
  }[operation];
  // Every corner may be moved by a tick, which changes the area by at most the boundary's length.
  const allowed = 2 * (boundaryLength(na) + boundaryLength(nb)) + 16;
  return Math.abs(area(result) - expected) / allowed;
}

function boundaryLength(paths: Path64[]): number {
  return paths.reduce(
    (sum, path) =>
      path.reduce((s, p, i) => {
        const q = path[(i + 1) % path.length]!;
        return s + Math.hypot(q.x - p.x, q.y - p.y);
      }, sum),
    0,
  );
}

/** The operation by the sweep of Martinez, Rueda and Feito (2009), rounded to ticks; null where it gives up. */
function bySweep(operation: Combining, a: Path64[], b: Path64[]): Path64[] | null {
  const method = { union: 'union', subtract: 'difference', intersect: 'intersection', exclude: 'xor' } as const;
  const polygons = (paths: Path64[]): [number, number][][][] =>
    nestRings(normal(paths)).map((rings) => rings.map((ring) => ring.map((p): [number, number] => [p.x, p.y])));
  try {
    const result = polygonClipping[method[operation]](polygons(a), polygons(b));
    return result.flat().map((ring) => ring.slice(0, -1).map(([x, y]) => ({ x: Math.round(x), y: Math.round(y) })));
  } catch {
    return null;
  }
}

/** A chord of a source: between two parameters of one of the segments. */
interface Chord {
  readonly segment: number;
  readonly t0: number;
  readonly t1: number;
  readonly p: Point64;
  readonly q: Point64;
}

/** A stretch of a boundary that follows one segment from one parameter to another, either way. */
interface Stretch {
  readonly segment: number;
  readonly from: number;
  readonly to: number;
  readonly start: Point64;
  readonly end: Point64;
}

/** What was combined, kept so that the boundary of a result can be told piece by piece. */
class Sources {
  private readonly segments: Segment[] = [];
  private readonly chords: Chord[] = [];
  private index: Flatbush | null = null;

  /** The rings of an outline on whole ticks. */
  add(outline: Outline): Path64[] {
    return ringsOf(outline).map((ring) => {
      const path: Path64 = [];
      for (const segment of outlineSegments(ring)) {
        const points = chordsOf(segment, CHORDS);
        let before = ticks(segment.from);
        points.forEach((point, k) => {
          const at = ticks(point);
          this.chords.push({ segment: this.segments.length, t0: k / points.length, t1: (k + 1) / points.length, p: before, q: at });
          path.push(at);
          before = at;
        });
        this.segments.push(segment);
      }
      return path;
    });
  }

  outlines(area: Path64[]): readonly Outline[] {
    return nestRings(normal(area)).flatMap((rings) => {
      const [outer, ...holes] = rings.map((ring) => pointsOfSegments(this.follow(ring), true));
      const bounds = outer && outer.length >= 2 ? outer : null;
      return bounds ? [outlineOfRings([bounds, ...holes.filter((hole) => hole.length >= 2)], true)] : [];
    });
  }

  /** A ring of a result as pieces of the segments that it runs along. */
  private follow(ring: Path64): readonly Segment[] {
    const stretches: Stretch[] = [];
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      const stretch = this.stretchAlong(p, q);
      const before = stretches.at(-1);
      if (before && continues(before, stretch)) stretches[stretches.length - 1] = { ...before, to: stretch.to, end: stretch.end };
      else stretches.push(stretch);
    });
    const [first, last] = [stretches[0], stretches.at(-1)];
    if (first && last && first !== last && continues(last, first)) {
      stretches[0] = { ...last, to: first.to, end: first.end };
      stretches.pop();
    }
    return this.joined(stretches);
  }

  private stretchAlong(p: Point64, q: Point64): Stretch {
    this.index ??= this.makeIndex();
    const found = this.index.search(Math.min(p.x, q.x) - 2, Math.min(p.y, q.y) - 2, Math.max(p.x, q.x) + 2, Math.max(p.y, q.y) + 2);
    let best: Stretch = { segment: -1, from: 0, to: 1, start: p, end: q };
    let least = OFF_CHORD;
    for (const i of found) {
      const chord = this.chords[i]!;
      const [a, b] = [placeOn(chord, p), placeOn(chord, q)];
      const off = Math.max(a.off, b.off);
      if (off < least) {
        least = off;
        const at = (s: number): number => chord.t0 + s * (chord.t1 - chord.t0);
        best = { segment: chord.segment, from: at(a.s), to: at(b.s), start: p, end: q };
      }
    }
    return best;
  }

  private makeIndex(): Flatbush {
    const index = new Flatbush(Math.max(1, this.chords.length));
    for (const { p, q } of this.chords) index.add(Math.min(p.x, q.x), Math.min(p.y, q.y), Math.max(p.x, q.x), Math.max(p.y, q.y));
    if (this.chords.length === 0) index.add(0, 0, 0, 0);
    index.finish();
    return index;
  }

  /** The stretches as segments, cut where the curves truly meet. */
  private joined(stretches: readonly Stretch[]): readonly Segment[] {
    const n = stretches.length;
    const ends = stretches.map(({ from, to }) => ({ from, to }));
    const places = stretches.map(({ start }) => cells(start));
    for (let i = 0; i < n; i++) {
      const k = (i + 1) % n;
      const [p, q] = [this.segments[stretches[i]!.segment], this.segments[stretches[k]!.segment]];
      if (!p || !q || p === q || (p.kind === 'line' && q.kind === 'line')) continue;
      const met = meetingOf(p, ends[i]!.to, q, ends[k]!.from);
      if (!met) continue;
      [ends[i]!.to, ends[k]!.from] = [met.t, met.s];
      places[k] = met.at;
    }
    return stretches.flatMap(({ segment }, i): readonly Segment[] => {
      const [from, to] = [places[i]!, places[(i + 1) % n]!];
      const source = this.segments[segment];
      if (!source || source.kind === 'line') return [{ kind: 'line', id: source?.id ?? 1, from, to }];
      const { from: t0, to: t1 } = ends[i]!;
      if (Math.abs(t1 - t0) < SAME_PARAMETER) return n > 1 ? [] : [source];
      const forwards = t1 > t0;
      const piece = sliceSegment(source, Math.min(t0, t1), Math.max(t0, t1));
      return [{ ...(forwards ? piece : reverseSegment(piece)), from, to }];
    });
  }
}

/** Ends of segments stay where they are; elsewhere two segments meet where Newton's method finds it. */
function meetingOf(p: Segment, t: number, q: Segment, s: number): { readonly at: PlanePoint; readonly t: number; readonly s: number } | null {
  const atEnd = (x: number): number | null => (x < FOUND_PARAMETER ? 0 : x > 1 - FOUND_PARAMETER ? 1 : null);
  const [te, se] = [atEnd(t), atEnd(s)];
  if (te !== null && se !== null) return { at: pointAt(p, te), t: te, s: se };
  const [rt, rs] = refineCrossing(p, q, t, s);
  const [a, b] = [pointAt(p, rt), pointAt(q, rs)];
  return Math.hypot(a.u - b.u, a.v - b.v) < SAME_FOUND ? { at: a, t: rt, s: rs } : null;
}

/** Whether a stretch goes on along the same segment in the same direction. */
function continues(p: Stretch, q: Stretch): boolean {
  return p.segment >= 0 && p.segment === q.segment && Math.abs(p.to - q.from) < FOUND_PARAMETER && p.to > p.from === q.to > q.from;
}

const ticks = ({ u, v }: PlanePoint): Point64 => ({ x: Math.round(u * TICKS_PER_CELL), y: Math.round(v * TICKS_PER_CELL) });
const cells = ({ x, y }: Point64): PlanePoint => ({ u: x / TICKS_PER_CELL, v: y / TICKS_PER_CELL });

/** Where a point lies along a chord, and how far off it in ticks. */
function placeOn({ p, q }: Chord, at: Point64): { readonly s: number; readonly off: number } {
  const [x, y] = [q.x - p.x, q.y - p.y];
  const square = x * x + y * y;
  const s = square === 0 ? 0 : Math.max(0, Math.min(1, ((at.x - p.x) * x + (at.y - p.y) * y) / square));
  return { s, off: Math.hypot(at.x - p.x - s * x, at.y - p.y - s * y) };
}
