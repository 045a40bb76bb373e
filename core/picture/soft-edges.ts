import { CORNERS } from '../math/tolerances';
import { ClipType, combineRings, FillRule, type Path64 } from '../shape/flat-areas';
import { grownRings } from '../shape/grow';
import { flattenPath, joinPaths, polygonPath, type Path } from '../shape/path';

/** An area that is laid over others with a strength. */
export interface Layer {
  readonly path: Path;
  readonly strength: number;
  /** Laid together for a frame: filled by windings, and clipped to the surface. */
  readonly rough?: true;
  /** The colour of the light that gets through what throws it, `#rrggbb`, and where it falls: not in the full shadow of anything else. */
  readonly through?: { readonly colour: string; readonly path: Path };
}

/** Whole numbers to a mm of the sheet. */
const PER_MM = 1000;
/** Steps of a soft edge. */
const STEPS = 8;

/**
 * Layers that laid one over the other fade out across the edge of a shadow, evenly over a width with its middle on the
 * edge, by the even-odd rule. Where the shadow ends with the surface that it lies on it does not fade.
 * @param within the surface, on the sheet
 * @param width in mm of the sheet
 */
export function softened(shadow: Path, within: Path, width: number, steps = STEPS): readonly Layer[] {
  const [own, whole] = [shadow, within].map((path) => combineRings(ClipType.Union, ringsOf(path), [], FillRule.EvenOdd));
  const lit = combineRings(ClipType.Difference, whole!, own!, FillRule.NonZero);
  return Array.from({ length: steps }, (_, i): Layer => {
    const by = width * PER_MM * (0.5 - (i + 0.5) / steps);
    const rings =
      by >= 0
        ? combineRings(ClipType.Intersection, grownRings(own!, by, 'round'), whole!, FillRule.NonZero)
        : combineRings(ClipType.Difference, own!, grownRings(lit, -by, 'round'), FillRule.NonZero);
    return { path: joinPaths(rings.map((ring) => polygonPath(ring.flatMap(({ x, y }) => [x / PER_MM, y / PER_MM])))), strength: strengthOf(i, steps) };
  }).filter(({ path }) => path.verbs !== '');
}

/** The strength of a layer of several, the widest first, with which all laid over each other make even steps. */
export const strengthOf = (i: number, count: number): number => 1 / (count - i);

const ringsOf = (path: Path): Path64[] => flattenPath(path, CORNERS).map((ring) => Array.from({ length: ring.length / 2 }, (_, i) => ({ x: Math.round(ring[2 * i]! * PER_MM), y: Math.round(ring[2 * i + 1]! * PER_MM) }))); // prettier-ignore
