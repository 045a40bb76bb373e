import type { Inputs } from '../math/keep';
import { holdsCorners } from '../math/polygon';
import type { DrawnBody, DrawnSurface } from './drawn-body';
import { detailsOf, ownDetails, type Detail, type Links } from './pairs';
import { rangesOverlap } from './relation';

/** What lies in front of a surface: another, in the areas given or wherever it lies. */
export interface Cover {
  readonly surface: DrawnSurface;
  /** The body that it is of. */
  readonly of: DrawnBody;
  readonly areas: readonly Float64Array[] | null;
  /** All of its body lies in front. */
  readonly whole?: true;
}

/** Which parts of bodies are taken to lie in front of others. */
export interface CoverChoice {
  /** Whether a body lies in front of anything. */
  readonly body: (drawn: DrawnBody) => boolean;
  /** Lines do too, in their width. */
  readonly lines: boolean;
}

const SOLID: CoverChoice = { body: () => true, lines: false };

/** For each surface of a body, what lies in front of it. */
export function coversOf(links: Links, choice: CoverChoice = SOLID): readonly Cover[][] {
  const { surfaces } = links.drawn;
  const covers = surfaces.map((): Cover[] => []);
  const counts = (over: DrawnSurface): boolean => choice.lines || over.surface !== null;
  if (choice.body(links.drawn)) {
    const put = (under: number, over: number, { relation }: Detail, first: boolean): void => {
      if (counts(surfaces[over]!)) note(covers[under]!, surfaces[over]!, links.drawn, relation, first, over > under);
    };
    for (const detail of ownDetails(links).all) {
      put(detail.f, detail.g, detail, true);
      put(detail.g, detail.f, detail, false);
    }
  }
  for (const pair of links.pairs) {
    const other = pair.f === links ? pair.g : pair.f;
    if (pair.front === links || !choice.body(other.drawn)) continue;
    if (pair.front === other) {
      for (const over of other.drawn.surfaces) {
        if (counts(over))
          surfaces.forEach(
            (surface, i) => rangesOverlap(surface.ranges, over.ranges) && covers[i]!.push({ surface: over, of: other.drawn, areas: null, whole: true }),
          );
      }
      continue;
    }
    const first = pair.f === links;
    for (const detail of detailsOf(pair).all) {
      const [own, at] = first ? [detail.f, detail.g] : [detail.g, detail.f];
      const over = other.drawn.surfaces[at]!;
      if (counts(over)) note(covers[own]!, over, other.drawn, detail.relation, first, other.index > links.index);
    }
  }
  return covers;
}

/**
 * Notes where another surface lies in front of one.
 * @param first the relation tells of the one, not of the other
 * @param later the other comes later in the document: on top of what lies in one plane with it
 */
function note(covers: Cover[], over: DrawnSurface, of: DrawnBody, { kind, reversed, agreed }: Detail['relation'], first: boolean, later: boolean): void {
  if (kind === 'apart') return;
  const hidden = kind === 'level' ? later : (kind === 'behind') === first;
  if (hidden) covers.push({ surface: over, of, areas: agreed });
  else if (reversed) covers.push({ surface: over, of, areas: reversed });
}

/** What makes covers what they are: the same lies in front, in the same parts. They come in the order of bodies and surfaces. */
export const coverInputs = (covers: readonly Cover[]): Inputs => covers.flatMap(({ surface, areas }) => [surface, areas]);

/** Whether one convex piece of a surface lies over all of another. */
export function hides(over: DrawnSurface, under: DrawnSurface): boolean {
  if (under.room > 0 || !over.surface?.straight) return false;
  return over.facets.some(({ polygon }) => under.facets.every((facet) => holdsCorners(polygon, facet.polygon)));
}
