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

/** All that a stage is made from: a projection, the edge of a cell in mm, and the size of the sheet in mm. */
interface StageSettings {
  readonly projection: CheminDocument['projection'];
  readonly cell: number;
  readonly width: number;
  readonly height: number;
}

/** The stage for a projection, a cell and a sheet. */
export function stageFrom({ projection, cell, width, height }: StageSettings): Stage {
  const whole = projectionFrom(projection);
  const sight = sightFrom(inCells(whole, cell));
  return { sight: sightFrom(whole), view: { sight, directions: rangeDirections(sight) }, cell, seen: seenBox({ width, height }) };
}

/** The stage of a document. */
export function stageOf({ projection, grid, sheet }: Pick<CheminDocument, 'projection' | 'grid' | 'sheet'>): Stage {
  return stageFrom({ projection, cell: grid.cell, width: sheet.width, height: sheet.height });
}

/**
 * How soon a picture is wanted: `exact` however long it takes; `quick` for a frame of a gesture, where round things cut
 * along their facets and shadows are laid together only; `soon` for a person who looks at it: what would keep him
 * waiting is laid together at first, and made exact after.
 */
export type Haste = 'exact' | 'soon' | 'quick';
