import type { LatticeSettings } from '../grid/lattice';
import type { Pixels } from '../math/pixels';
import { crossingsOf, keptFit, type KeptFit } from './kept-fit';
import { tellingGrays } from './telling';
import type { NotFound } from './find-crossings';
import { findSurface } from './find-surface';
import { compareSurfaces, shownBy, type Comparison, type SurfaceKind } from './fit-surface';
import { grayOf } from './gray';
import type { KeptCrossing } from './photo';
import { coveredBy } from './covered';
import { registeredPlace, registerPhotos, SAME_THING, unregisteredPlace, UNSURE, type Registration } from './register';

/** One kind of surface that crossings may lie on, and how well they do. Misses in px. */
export interface KindTried {
  readonly kind: SurfaceKind;
  readonly fit: KeptFit;
  readonly mean: number;
  readonly p95: number;
  readonly largest: number;
  /** Misses of one crossing in one direction, corrected for what the kind takes up. */
  readonly spread: number;
}

/** What was found of a lattice in a photograph, or in a pair of them, in px of the bare one. */
export interface SolvedPhoto {
  readonly registration: Registration | null;
  readonly crossings: readonly KeptCrossing[];
  /** The best first. */
  readonly kinds: readonly KindTried[];
}

/** Why nothing was found: of the lattice, of the pair, or too few crossings for any surface. */
export type Unsolved = NotFound | 'different-things' | 'place-unsure' | 'different-sizes' | 'too-few';

/** A pair between which nothing moved. */
const AS_TAKEN: Registration = { dx: 0, dy: 0, turn: 0, scale: 1, agrees: 0 };

/** What is being done. */
export type SolveStep = 'registering' | 'finding' | 'fitting';

/**
 * Finds a lattice in a photograph and the surface that it lies on. Of a pair the second is laid on the first by what its
 * paper leaves uncovered, and what was found is carried to it.
 * @param latticed the photograph with the lattice; null where the bare one has it
 * @param byHand crossings that were set by hand: they are kept, and the others counted from them
 * @param told is told what is being done
 * @param asTaken whether a pair that agrees nowhere is taken as it was photographed, the camera not moved
 */
export function solvePhoto(
  bare: Pixels,
  latticed: Pixels | null,
  lattice: LatticeSettings,
  byHand: readonly KeptCrossing[],
  told: (step: SolveStep) => void,
  asTaken = false,
): SolvedPhoto | Unsolved {
  const first = grayOf(bare);
  const second = latticed && grayOf(latticed);
  if (second && (second.width !== first.width || second.height !== first.height)) return 'different-sizes';
  told('finding');
  // What was set by hand is carried to the second as well as the whole of both tells.
  const rough = latticed && byHand.length > 0 && !asTaken ? placeOfPair(bare, latticed, null) : AS_TAKEN;
  const known = byHand.map(({ column, row, x, y }) => ({ column, row, at: typeof rough === 'string' ? { x, y } : registeredPlace(rough, first, { x, y }) }));
  const found = findSurface(second ?? first, lattice, known);
  if (typeof found === 'string') return found;
  let registration: Registration | null = null;
  if (latticed && second) {
    told('registering');
    const [best] = found.surfaces;
    const covered = best ? coveredBy(lattice, shownBy(best.fit), second) : null;
    const place = asTaken ? AS_TAKEN : placeOfPair(bare, latticed, covered);
    if (typeof place === 'string') return place;
    registration = place;
  }
  told('fitting');
  const seen = found.crossings.map(({ column, row, at, error }): KeptCrossing => {
    const { x, y } = registration ? unregisteredPlace(registration, bare, at) : at;
    return { column, row, x, y, error: Math.max(1e-3, error) };
  });
  const together = (byThem: readonly KeptCrossing[]): SolvedPhoto => {
    const taken = new Set(byThem.map(({ column, row }) => `${column} ${row}`));
    const crossings = [...byThem, ...seen.filter(({ column, row }) => !taken.has(`${column} ${row}`))];
    return { registration, crossings, kinds: kindsOf(crossings, lattice, bare) };
  };
  const all = together(byHand);
  // What was set where it cannot be is found instead.
  const wrong = new Set(all.kinds[0]?.fit.wrong.map(([column, row]) => `${column} ${row}`));
  const right = byHand.filter(({ column, row }) => !wrong.has(`${column} ${row}`));
  const solved = right.length === byHand.length ? all : together(right);
  return solved.kinds.length === 0 ? 'too-few' : solved;
}

/** How two photographs lie on each other, or why that is not known. @param covered 1 at every px of the second in which something lies that the first has not; null where that is not known */
export function placeOfPair(
  bare: Pixels,
  latticed: Pixels,
  covered: Uint8Array | null,
): Registration | 'different-sizes' | 'different-things' | 'place-unsure' {
  const found = registerPhotos(...tellingGrays(bare, latticed, covered), covered);
  if (!found) return 'different-sizes';
  if (found.agrees < SAME_THING) return 'different-things';
  const { error, ...place } = found;
  return error > UNSURE * bare.width ? 'place-unsure' : place;
}

/** The kinds of surfaces that crossings may lie on, the best first. */
export function kindsOf(
  crossings: readonly KeptCrossing[],
  lattice: LatticeSettings,
  photo: { readonly width: number; readonly height: number },
): readonly KindTried[] {
  const { width, height } = photo;
  return compareSurfaces(crossingsOf(crossings), lattice, { width, height }).map(({ kind, spread, fit }: Comparison): KindTried => ({
    kind,
    spread,
    fit: keptFit(fit),
    mean: fit.mean,
    p95: fit.p95,
    largest: fit.largest,
  }));
}
