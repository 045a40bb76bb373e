import Flatbush from 'flatbush';
import { containsPoint } from '../math/polygon';
import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import { FOUND_PARAMETER, SAME_PARAMETER, TICKS_PER_CELL } from '../math/tolerances';
import { doubleAreaOf, pointsOfSegments } from './from-segments';
import { outlineOfRings, ringsOf, type Outline } from './outline';
import { chordsOf, outlineSegments, pointAt, type Segment } from './segments';
import { crossSegments, reverseSegment, sliceSegment, tangentAt } from './split';

/** Ticks within which ends count as one point: what rounding to ticks leaves. */
const JOIN_TICKS = 2;
/** Chords of curves when it is asked what lies inside, in cells. */
const CHORDS = 0.002;

/** The regions that loose lines enclose, and the ends that lead nowhere. */
export interface Regions {
  /** Each region with what is left out inside it; lines within that enclose nothing are no part of it. */
  readonly regions: readonly Outline[];
  /** Ends of lines that meet no other line. */
  readonly looseEnds: readonly PlanePoint[];
}

/** A piece between two nodes, run one way. */
interface HalfEdge {
  readonly segment: Segment;
  readonly from: number;
  readonly to: number;
  readonly twin: number;
}

/** A closed walk along half-edges with the enclosed area to its left. */
interface Cycle {
  readonly segments: readonly Segment[];
  readonly area: number;
  readonly polygon: Float64Array;
  readonly component: number;
}

/**
 * The regions of the planar graph that lines make: all lines are cut where they cross or touch, pieces drawn twice
 * count once, dead ends are left aside, and the faces of what remains are walked round (de Berg et al., 2). Curves stay
 * curves. An outline of a shape counts as a line like any other.
 */
export function regionsOf(lines: readonly Outline[]): Regions {
  const graph = new Graph(lines.flatMap(ringsOf).flatMap(outlineSegments));
  const looseEnds = graph.looseEnds();
  graph.dropDeadEnds();
  const cycles = graph.cycles();
  const faces = cycles.filter((cycle) => cycle.area > 0).sort((p, q) => p.area - q.area);
  const outsides = cycles.filter((cycle) => cycle.area < 0);
  // The outside of one connected part lies in the smallest face of another part that holds it.
  const holes = new Map<Cycle, Cycle[]>();
  for (const outside of outsides) {
    const [x, y] = [outside.polygon[0]!, outside.polygon[1]!];
    const host = faces.find((face) => face.component !== outside.component && containsPoint(face.polygon, x, y));
    if (host) holes.set(host, [...(holes.get(host) ?? []), outside]);
  }
  const regions = faces.map((face) =>
    outlineOfRings(
      [face, ...(holes.get(face) ?? [])].map(({ segments }) => pointsOfSegments(segments, true)),
      true,
    ),
  );
  return { regions, looseEnds };
}

/** The region that holds a point, or null where no line goes all round it. */
export function regionAt({ regions }: Regions, at: PlanePoint): Outline | null {
  const holds = (ring: Outline): boolean => containsPoint(polygonOf(outlineSegments(ring)), at.u, at.v);
  return regions.find((region) => ringsOf(region).every((ring, i) => holds(ring) === (i === 0))) ?? null;
}

function polygonOf(segments: readonly Segment[]): Float64Array {
  return Float64Array.from(segments.flatMap((segment) => chordsOf(segment, CHORDS).flatMap((p) => [p.u, p.v])));
}

class Graph {
  private readonly nodes: PlanePoint[] = [];
  private readonly byPlace = new Map<string, number>();
  private edges: HalfEdge[] = [];
  private alive: boolean[] = [];
  private readonly around = new Map<number, number[]>();

  constructor(segments: readonly Segment[]) {
    const known = new Set<string>();
    for (const piece of piecesOf(segments)) {
      const [from, to] = [this.node(piece.from), this.node(piece.to)];
      const middle = pointAt(piece, 0.5);
      const key = `${Math.min(from, to)} ${Math.max(from, to)} ${Math.round(middle.u * 1e4)} ${Math.round(middle.v * 1e4)}`;
      if (known.has(key) || (from === to && piece.kind === 'line')) continue;
      known.add(key);
      const [p, q] = [this.nodes[from]!, this.nodes[to]!];
      const i = this.edges.length;
      this.edges.push({ segment: { ...piece, from: p, to: q }, from, to, twin: i + 1 });
      this.edges.push({ segment: { ...reverseSegment(piece), from: q, to: p }, from: to, to: from, twin: i });
      this.alive.push(true, true);
      this.leave(from, i);
      this.leave(to, i + 1);
    }
    for (const [node, edges] of this.around) edges.sort((p, q) => this.angle(p) - this.angle(q) || this.bend(p, node) - this.bend(q, node));
  }

  private leave(node: number, edge: number): void {
    this.around.set(node, [...(this.around.get(node) ?? []), edge]);
  }

  /** The node at a place, its neighbours within rounding included. */
  private node(at: PlanePoint): number {
    const [x, y] = [Math.round(at.u * TICKS_PER_CELL), Math.round(at.v * TICKS_PER_CELL)];
    for (let dx = -JOIN_TICKS; dx <= JOIN_TICKS; dx++) {
      for (let dy = -JOIN_TICKS; dy <= JOIN_TICKS; dy++) {
        const known = this.byPlace.get(`${x + dx} ${y + dy}`);
        if (known !== undefined) return known;
      }
    }
    this.byPlace.set(`${x} ${y}`, this.nodes.length);
    this.nodes.push({ u: exactCells(at.u), v: exactCells(at.v) });
    return this.nodes.length - 1;
  }

  private angle(edge: number): number {
    const { u, v } = tangentAt(this.edges[edge]!.segment, FOUND_PARAMETER);
    return Math.atan2(v, u);
  }

  /** Of curves that leave in one direction, the one that bends more to the left comes later. */
  private bend(edge: number, node: number): number {
    const from = this.nodes[node]!;
    const [early, later] = [pointAt(this.edges[edge]!.segment, 0.02), pointAt(this.edges[edge]!.segment, 0.2)];
    return (early.u - from.u) * (later.v - from.v) - (early.v - from.v) * (later.u - from.u);
  }

  private degree(node: number): number {
    return (this.around.get(node) ?? []).filter((edge) => this.alive[edge]).length;
  }

  looseEnds(): readonly PlanePoint[] {
    return [...this.around.keys()].filter((node) => this.degree(node) === 1).map((node) => this.nodes[node]!);
  }

  dropDeadEnds(): void {
    const ends = [...this.around.keys()].filter((node) => this.degree(node) === 1);
    for (let node = ends.pop(); node !== undefined; node = ends.pop()) {
      const edge = (this.around.get(node) ?? []).find((e) => this.alive[e]);
      if (edge === undefined) continue;
      const { to, twin } = this.edges[edge]!;
      this.alive[edge] = this.alive[twin] = false;
      if (this.degree(to) === 1) ends.push(to);
    }
  }

  /** All closed walks that keep to the left. */
  cycles(): readonly Cycle[] {
    const component = this.components();
    const done = new Set<number>();
    const cycles: Cycle[] = [];
    this.edges.forEach((_, start) => {
      if (!this.alive[start] || done.has(start)) return;
      const walk: number[] = [];
      for (let edge = start; !done.has(edge); edge = this.after(edge)) {
        done.add(edge);
        walk.push(edge);
      }
      const segments = walk.map((edge, i): Segment => ({ ...this.edges[edge]!.segment, id: i + 1 }));
      cycles.push({ segments, area: doubleAreaOf(segments), polygon: polygonOf(segments), component: component.get(this.edges[start]!.from)! });
    });
    return cycles;
  }

  /** The next edge of a face: at the end, the first one clockwise from where it came. */
  private after(edge: number): number {
    const { to, twin } = this.edges[edge]!;
    const leaving = (this.around.get(to) ?? []).filter((e) => this.alive[e]);
    const at = leaving.indexOf(twin);
    return leaving[(at + leaving.length - 1) % leaving.length]!;
  }

  private components(): ReadonlyMap<number, number> {
    const component = new Map<number, number>();
    for (const start of this.around.keys()) {
      if (component.has(start)) continue;
      const queue = [start];
      component.set(start, start);
      for (let node = queue.pop(); node !== undefined; node = queue.pop()) {
        for (const edge of this.around.get(node) ?? []) {
          const { to } = this.edges[edge]!;
          if (!this.alive[edge] || component.has(to)) continue;
          component.set(to, start);
          queue.push(to);
        }
      }
    }
    return component;
  }
}

/** All segments cut at all their crossings. */
function piecesOf(segments: readonly Segment[]): readonly Segment[] {
  const whole = segments.filter((segment) => segment.kind !== 'line' || segment.from.u !== segment.to.u || segment.from.v !== segment.to.v);
  if (whole.length === 0) return [];
  const boxes = whole.map(segmentBox);
  const index = new Flatbush(whole.length);
  for (const box of boxes) index.add(...box);
  index.finish();
  const cuts = whole.map((): number[] => []);
  const slack = (2 * JOIN_TICKS) / TICKS_PER_CELL;
  whole.forEach((segment, i) => {
    const [minU, minV, maxU, maxV] = boxes[i]!;
    for (const k of index.search(minU - slack, minV - slack, maxU + slack, maxV + slack)) {
      if (k <= i) continue;
      for (const { t, s } of crossSegments(segment, whole[k]!)) {
        cuts[i]!.push(t);
        cuts[k]!.push(s);
      }
    }
  });
  return whole.flatMap((segment, i) => {
    const at = [0, ...cuts[i]!.filter((t) => t > SAME_PARAMETER && t < 1 - SAME_PARAMETER).sort((p, q) => p - q), 1];
    return at.slice(1).flatMap((to, k) => (to - at[k]! < SAME_PARAMETER ? [] : [sliceSegment(segment, at[k]!, to)]));
  });
}

function segmentBox(segment: Segment): [number, number, number, number] {
  const points = segment.kind === 'line' ? [segment.from, segment.to] : [segment.from, ...chordsOf(segment, CHORDS)];
  const [us, vs] = [points.map((p) => p.u), points.map((p) => p.v)];
  return [Math.min(...us), Math.min(...vs), Math.max(...us), Math.max(...vs)];
}
