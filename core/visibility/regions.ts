import { signedArea } from '../math/polygon';
import type { Path } from '../shape/path';
import { cutSurface } from './cut';
import type { Area, DrawnBody, DrawnSurface } from './drawn-body';
import { detailsOf, ownDetails, PairKeeper, type Detail, type Links } from './pairs';
import { rangesOverlap } from './relation';

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

/** What lies in front of a surface: another, in the areas given or wherever it lies. */
interface Cover {
  readonly surface: DrawnSurface;
  readonly areas: readonly Float64Array[] | null;
}

interface Kept {
  readonly covers: readonly Cover[];
  readonly region: SeenRegion;
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
  private kept = new Map<DrawnSurface, Kept>();

  /** What is seen of each surface, in the order of the bodies and of their surfaces. Lines are seen but hide nothing. */
  update(bodies: readonly DrawnBody[]): readonly SeenRegion[] {
    const kept = new Map<DrawnSurface, Kept>();
    const regions: SeenRegion[] = [];
    for (const links of this.pairs.update(bodies)) {
      const covers = coversOf(links);
      links.drawn.surfaces.forEach((surface, index) => {
        const known = this.kept.get(surface);
        const same = known && sameCovers(known.covers, covers[index]!) ? known.region : null;
        const region = same ? placed(same, links.index, index) : seenOf(surface, links.index, index, covers[index]!);
        kept.set(surface, { covers: covers[index]!, region });
        regions.push(region);
      });
    }
    this.kept = kept;
    return regions;
  }
}

const placed = (region: SeenRegion, body: number, index: number): SeenRegion =>
  region.body === body && region.index === index ? region : { ...region, body, index };

function sameCovers(p: readonly Cover[], q: readonly Cover[]): boolean {
  if (p.length !== q.length) return false;
  // Pairs are not kept in an order: what was compared last comes last.
  const known = new Map(p.map(({ surface, areas }) => [surface, areas]));
  return q.every(({ surface, areas }) => known.get(surface) === areas && known.has(surface));
}

/** For each surface of a body, what lies in front of it. */
function coversOf(links: Links): readonly Cover[][] {
  const { surfaces } = links.drawn;
  const covers = surfaces.map((): Cover[] => []);
  for (const { f, g, relation } of ownDetails(links)) {
    note(covers[f]!, surfaces[g]!, relation, true, g > f);
    note(covers[g]!, surfaces[f]!, relation, false, f > g);
  }
  for (const pair of links.pairs) {
    const other = pair.f === links ? pair.g : pair.f;
    if (pair.front === links) continue;
    if (pair.front === other) {
      for (const over of other.drawn.surfaces) {
        if (over.surface) surfaces.forEach((surface, i) => rangesOverlap(surface.ranges, over.ranges) && covers[i]!.push({ surface: over, areas: null }));
      }
      continue;
    }
    const first = pair.f === links;
    for (const detail of detailsOf(pair)) {
      const [own, over] = first ? [detail.f, detail.g] : [detail.g, detail.f];
      note(covers[own]!, other.drawn.surfaces[over]!, detail.relation, first, other.index > links.index);
    }
  }
  return covers;
}

/**
 * Notes where another surface lies in front of one.
 * @param first the relation tells of the one, not of the other
 * @param later the other comes later in the document: on top of what lies in one plane with it
 */
function note(covers: Cover[], over: DrawnSurface, { kind, reversed, agreed }: Detail['relation'], first: boolean, later: boolean): void {
  if (!over.surface || kind === 'apart') return;
  const hidden = kind === 'level' ? later : (kind === 'behind') === first;
  if (hidden) covers.push({ surface: over, areas: agreed });
  else if (reversed) covers.push({ surface: over, areas: reversed });
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

/** Whether one convex piece of a surface lies over all of another. */
function hides(over: DrawnSurface, under: DrawnSurface): boolean {
  if (under.room > 0 || !over.surface?.straight) return false;
  return over.facets.some(({ polygon }) => under.facets.every((facet) => contains(polygon, facet.polygon)));
}

/** Whether a convex polygon that runs clockwise has all corners of another inside of it or on its edges. */
function contains(outer: readonly number[], inner: readonly number[]): boolean {
  const n = outer.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [x, y] = [outer[j]!, outer[j + 1]!];
    const [dx, dy] = [outer[i]! - x, outer[i + 1]! - y];
    for (let k = 0; k < inner.length; k += 2) if (dx * (inner[k + 1]! - y) - dy * (inner[k]! - x) < 0) return false;
  }
  return true;
}

/** The area of what is seen of a surface, in square units of the eye's sheet. */
export function seenArea({ parts }: SeenRegion): number {
  return parts.reduce(
    (sum, { polygon, holes = [] }) => sum + Math.abs(signedArea(polygon)) - holes.reduce((inner, hole) => inner + Math.abs(signedArea(hole)), 0),
    0,
  );
}
