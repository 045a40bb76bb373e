import type { CheminDocument } from '../document/types';
import { inCells, projectionFrom, type Projection } from '../projection/projection';
import { sightFrom, type Sight } from '../projection/sight';
import { rangeDirections, type View } from '../visibility/drawn-body';
import { seenBox, type SeenBox } from './dashes';

/** Everything that a thing's place on the sheet depends on besides itself. Made once a projection, cell size and sheet. */
export interface Stage {
  /** Lines of sight for places in mm of the world. */
  readonly sight: Sight<Projection>;
  /** The same for bodies, which are in cells. */
  readonly view: View;
  readonly cell: number;
  readonly seen: SeenBox;
}

/** The stage of a document. */
export function stageFrom({ projection, grid, sheet }: Pick<CheminDocument, 'projection' | 'grid' | 'sheet'>): Stage {
  const whole = projectionFrom(projection);
  const sight = sightFrom(inCells(whole, grid.cell));
  return { sight: sightFrom(whole), view: { sight, directions: rangeDirections(sight) }, cell: grid.cell, seen: seenBox(sheet) };
}

/**
 * How soon a picture is wanted: `exact` however long it takes; `quick` for a frame of a gesture, where round things cut
 * along their facets and shadows are laid together only; `soon` for a person who looks at it: what would keep him
 * waiting is laid together at first, and made exact after.
 */
export type Haste = 'exact' | 'soon' | 'quick';
