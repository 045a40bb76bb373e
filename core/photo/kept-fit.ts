import type { LatticeSettings } from '../grid/lattice';
import type { KeptCrossing } from './photo';
import type { Crossing } from './find-crossings';
import { bentOf, type BentKind } from './fit-bent';
import { describeFit, type SurfaceFit, type SurfaceKind } from './fit-surface';
import type { PatchFit } from './fit-patch';

/** A fit as it is kept: what cannot be reckoned again from it and the crossings. */
export interface KeptFit {
  readonly kind: SurfaceKind;
  readonly shape: { readonly kind: BentKind; readonly parameters: readonly number[]; readonly covariance: readonly number[] | null } | PatchFit;
  readonly lattice: LatticeSettings;
  /** Size of the photograph in px. */
  readonly width: number;
  readonly height: number;
  /** Crossings that were found to be wrong, by columns and rows. */
  readonly wrong: readonly (readonly [column: number, row: number])[];
}

/** A fit to be kept. */
export function keptFit({ kind, shape, sizes, lattice, misses }: SurfaceFit): KeptFit {
  const own = shape.kind === 'patch' ? shape : { kind: shape.kind, parameters: shape.parameters, covariance: shape.covariance };
  const wrong = misses.flatMap((miss) => (miss.wrong ? [[miss.column, miss.row] as const] : []));
  return { kind, shape: own, lattice, width: sizes.width, height: sizes.height, wrong };
}

const crossingOf = ({ column, row, x, y, error }: KeptCrossing): Crossing => ({ column, row, at: { x, y }, error, sure: 1 });

/** Crossings as they are found, of those that were kept. */
export const crossingsOf = (kept: readonly KeptCrossing[]): readonly Crossing[] => kept.map(crossingOf);

/** A kept fit with its misses of some crossings; null where none of them is right. */
export function openedFit(kept: KeptFit, crossings: readonly KeptCrossing[]): SurfaceFit | null {
  const { kind, shape, lattice, width, height, wrong } = kept;
  const sizes = { width, height, length: Math.max(lattice.columns, lattice.rows) * lattice.box };
  const whole = shape.kind === 'patch' ? shape : { ...shape, ...bentOf(shape.parameters, sizes) };
  const left = new Set(wrong.map(([column, row]) => `${column} ${row}`));
  const out = new Set(crossings.flatMap(({ column, row }, i) => (left.has(`${column} ${row}`) ? [i] : [])));
  return describeFit(kind, whole, crossingsOf(crossings), out, sizes, lattice);
}
