import { Rounds } from '../math/keep';
import { signedArea } from '../math/polygon';
import type { Path } from '../shape/path';
import { cutSurface } from './cut';
import type { Area, DrawnBody, DrawnSurface } from './drawn-body';
import { coverInputs, coversOf, hides, type Cover } from './covers';
import { PairKeeper } from './pairs';

/** What an eye sees of one surface of one body. */
export interface SeenRegion {
  readonly surface: DrawnSurface;
  /** The place of its body among those given, and its own among the surfaces of the body that are turned to the eye. */
  readonly body: number;
  readonly index: number;
  /** All of it, some of it or none. */
  readonly extent: 'whole' | 'part' | 'none';
  /** What is seen as corners, each part with its holes; empty where nothing is. In the units of the eye's sheet. */
  readonly parts: readonly Area[];
  /** What is seen with the curves that it is bounded by. */
  readonly path: Path;
  /** It could not be cut: it is given whole. */
  readonly failed: boolean;
}

const NOTHING: Path = { verbs: '', coords: [] };

/**
 * Keeps what an eye sees of each surface of some bodies: the viewer's eye, the sun's or a lamp's, as the bodies were
 * drawn for it (`drawBody`). The regions do not overlap, and together they cover what the bodies cover.
 *
 * Each surface is cut by what lies in front of it, and by nothing else, so no order is needed and rings are no special
 * case; most surfaces are seen whole or are hidden by one that is convex, which is told without cutting. A region stays
 * the same object until something else lies in front of it. Costs one sweep over the edges of a surface and of what
 * covers it for each that is partly seen.
 */
export class RegionKeeper {
  private readonly pairs = new PairKeeper();
  private readonly kept = new Rounds<DrawnSurface, SeenRegion>();

  /** What is seen of each surface, in the order of the bodies and of their surfaces. Lines are seen but hide nothing. */
  update(bodies: readonly DrawnBody[]): readonly SeenRegion[] {
    const regions: SeenRegion[] = [];
    this.kept.begin();
    for (const links of this.pairs.update(bodies)) {
      const covers = coversOf(links);
      links.drawn.surfaces.forEach((surface, index) => {
        const own = covers[index]!;
        regions.push(this.kept.of(surface, [links.index, index, ...coverInputs(own)], () => seenOf(surface, links.index, index, own)));
      });
    }
    this.kept.end();
    return regions;
  }
}

function seenOf(surface: DrawnSurface, body: number, index: number, covers: readonly Cover[]): SeenRegion {
  if (covers.length === 0) return { surface, body, index, extent: 'whole', parts: surface.outline, path: surface.path, failed: false };
  if (covers.some(({ surface: over, areas }) => areas === null && hides(over, surface))) {
    return { surface, body, index, extent: 'none', parts: [], path: NOTHING, failed: false };
  }
  const areas = covers.flatMap(({ surface: over, areas }): readonly Area[] => (areas ? areas.map((polygon) => ({ polygon })) : over.outline));
  const { parts, path, failed } = cutSurface(surface, areas);
  return { surface, body, index, extent: parts.length > 0 ? 'part' : 'none', parts, path, failed };
}

/** The area of what is seen of a surface, in square units of the eye's sheet. */
export function seenArea({ parts }: SeenRegion): number {
  return parts.reduce(
    (sum, { polygon, holes = [] }) => sum + Math.abs(signedArea(polygon)) - holes.reduce((inner, hole) => inner + Math.abs(signedArea(hole)), 0),
    0,
  );
}
