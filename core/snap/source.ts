import type { PlanePoint } from '../math/points';

/** What lies in the active plane, in cells: outlines, faces, the points drawn so far. */
export interface CatchSource {
  readonly points: readonly PlanePoint[];
  readonly edges: readonly (readonly [PlanePoint, PlanePoint])[];
  readonly centres: readonly PlanePoint[];
  /** Chords of curves: caught anywhere along them, without middles of their own. */
  readonly chords: readonly (readonly [PlanePoint, PlanePoint])[];
}

/** Nothing to catch. */
export const NO_SOURCE: CatchSource = { points: [], edges: [], centres: [], chords: [] };

/** Everything of several sources. */
export function joinSources(sources: readonly CatchSource[]): CatchSource {
  return {
    points: sources.flatMap((s) => s.points),
    edges: sources.flatMap((s) => s.edges),
    centres: sources.flatMap((s) => s.centres),
    chords: sources.flatMap((s) => s.chords),
  };
}
