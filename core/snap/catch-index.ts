import { keptBy } from '../math/keep';
import Flatbush from 'flatbush';
import type { PlanePoint } from '../math/points';
import type { CatchSource } from './source';

/** A box of a plane in cells. */
export interface PlaneReach {
  readonly minU: number;
  readonly minV: number;
  readonly maxU: number;
  readonly maxV: number;
}

/** What of a source lies within reach. `middles` are the edges whose middle does. */
export interface Near {
  readonly points: readonly PlanePoint[];
  readonly centres: readonly PlanePoint[];
  readonly middles: CatchSource['edges'];
  readonly edges: CatchSource['edges'];
  readonly chords: CatchSource['edges'];
}

/** Fewer things than this are looked through one by one: an index would cost more than it saves. */
const FEW = 24;

/** Answers what lies near in a source, whatever its size, in logarithmic time (packed Hilbert R-tree, Kamel & Faloutsos 1993). */
export class CatchIndex {
  private readonly points: Finder<PlanePoint>;
  private readonly centres: Finder<PlanePoint>;
  private readonly middles: Finder<CatchSource['edges'][number]>;
  private readonly edges: Finder<CatchSource['edges'][number]>;
  private readonly chords: Finder<CatchSource['edges'][number]>;

  constructor(source: CatchSource) {
    const pointBox = (p: PlanePoint): Box => [p.u, p.v, p.u, p.v];
    this.points = finder(source.points, pointBox);
    this.centres = finder(source.centres, pointBox);
    this.middles = finder(source.edges, ([p, q]) => pointBox({ u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 }));
    this.edges = finder(source.edges, edgeBox);
    this.chords = finder(source.chords, edgeBox);
  }

  within(reach: PlaneReach): Near {
    return {
      points: this.points(reach),
      centres: this.centres(reach),
      middles: this.middles(reach),
      edges: this.edges(reach),
      chords: this.chords(reach),
    };
  }
}

type Box = readonly [number, number, number, number];
type Finder<T> = (reach: PlaneReach) => readonly T[];

const edgeBox = ([p, q]: readonly [PlanePoint, PlanePoint]): Box => [Math.min(p.u, q.u), Math.min(p.v, q.v), Math.max(p.u, q.u), Math.max(p.v, q.v)];

function finder<T>(items: readonly T[], boxOf: (item: T) => Box): Finder<T> {
  if (items.length < FEW) {
    return (reach) =>
      items.filter((item) => {
        const [minU, minV, maxU, maxV] = boxOf(item);
        return minU <= reach.maxU && maxU >= reach.minU && minV <= reach.maxV && maxV >= reach.minV;
      });
  }
  const tree = new Flatbush(items.length);
  for (const item of items) tree.add(...boxOf(item));
  tree.finish();
  return ({ minU, minV, maxU, maxV }) => tree.search(minU, minV, maxU, maxV).map((i) => items[i]!);
}

/** The index of a source, built when it is first asked for. */
export const indexOf = keptBy((source: CatchSource) => new CatchIndex(source));
