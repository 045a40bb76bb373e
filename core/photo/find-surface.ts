import type { LatticeSettings } from '../grid/lattice';
import { crossingAt, findCrossings, type Crossing, type KnownCrossing, type NotFound } from './find-crossings';
import { compareSurfaces, middleSpread, shownBy, slantAt, type Comparison, type SurfaceFit } from './fit-surface';
import type { Gray } from './gray';
import { armsOf, refinedCrossing } from './refine';

/** The crossings of a lattice in a photograph, and the surfaces that they may lie on, the best first. */
export interface FoundSurface {
  readonly crossings: readonly Crossing[];
  readonly surfaces: readonly Comparison[];
}

/** Px that a crossing may lie beside its place on the surface to be looked for there again. */
const NEAR = 3;
/** Times the least spread that a plainer surface may have, and the slant at which what was found may be something else. */
const [AS_WELL, SLANTWISE] = [2, 0.25];
/** Sine of the angle at which a surface is seen below which its crossings are not looked for. */
const GRAZING = 0.2;

/**
 * Finds a lattice and what it lies on: what was missed or taken for another is looked for once more where the surface
 * says that it is.
 * @param known crossings that are known already: they tell which is which where the printed numbers cannot be read
 */
export function findSurface(gray: Gray, lattice: LatticeSettings, known: readonly KnownCrossing[] = []): FoundSurface | NotFound {
  const found = findCrossings(gray, lattice, known);
  if (typeof found === 'string') return found;
  const surfaces = compareSurfaces(found.crossings, lattice, gray);
  const [best] = surfaces;
  if (!best) return { crossings: found.crossings, surfaces };
  const crossings = lookedForAgain(gray, lattice, found.crossings, plainest(surfaces));
  return crossings === found.crossings ? { crossings, surfaces } : { crossings, surfaces: compareSurfaces(crossings, lattice, gray) };
}

function lookedForAgain(gray: Gray, lattice: LatticeSettings, crossings: readonly Crossing[], fit: SurfaceFit): readonly Crossing[] {
  const { columns, rows, box } = lattice;
  const shown = shownBy(fit);
  const at = (column: number, row: number): { readonly x: number; readonly y: number } | null => shown(column * box, row * box);
  const wrong = new Set(fit.misses.filter((miss) => miss.wrong).map(({ column, row }) => column + row * (columns + 1)));
  const kept = crossings.filter(({ column, row }) => !wrong.has(column + row * (columns + 1)));
  const known = new Set(kept.map(({ column, row }) => column + row * (columns + 1)));
  const added: Crossing[] = [];
  for (let row = 0; row <= rows; row++)
    for (let column = 0; column <= columns; column++) {
      const place = at(column, row);
      if (known.has(column + row * (columns + 1)) || !place || slantAt(fit, column * box, row * box) <= GRAZING) continue;
      if (place.x < 2 || place.y < 2 || place.x > gray.width - 2 || place.y > gray.height - 2) continue;
      const arms = armsOf(lattice, at, column, row);
      const refined = arms && refinedCrossing(gray, place, arms);
      if (!refined || Math.hypot(refined.at.x - place.x, refined.at.y - place.y) > NEAR) continue;
      added.push(crossingAt(column, row, refined));
    }
  return added.length === 0 && wrong.size === 0 ? crossings : [...kept, ...added];
}

/**
 * The surface by which crossings are looked for once more: the best, or a plainer one that explains as well all but those
 * seen most slantwise, where something else is easily taken for them.
 */
function plainest(surfaces: readonly Comparison[]): SurfaceFit {
  const { fit } = surfaces[0]!;
  const least = Math.min(...surfaces.map((one) => middleSpread(one.fit)));
  const explains = (one: SurfaceFit): boolean =>
    one.kind !== 'patch' &&
    middleSpread(one) < AS_WELL * least &&
    one.misses.every(({ column, row, wrong }) => !wrong || slantAt(one, column * one.lattice.box, row * one.lattice.box) < SLANTWISE);
  return fit.kind === 'patch' ? (surfaces.find((one) => explains(one.fit))?.fit ?? fit) : fit;
}
