import { cellFault } from '../lettering/cell-letters';
import type { Lettering } from '../lettering/lettering';
import { letteringSchema } from './lettering-schema';

/** Why letters cannot be drawn by a recipe, in words that name the measure; null where they can. */
export function letteringFault(lettering: Lettering): string | null {
  const fault = lettering.kind === 'cells' ? cellFault(lettering) : null;
  if (fault !== null) return fault;
  const read = letteringSchema.safeParse(lettering);
  const [first] = read.success ? [] : read.error.issues;
  return first ? `${first.path.join('.')}: ${first.message}` : null;
}
