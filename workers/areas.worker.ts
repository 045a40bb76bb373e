import { combineOutlines, type Combining } from '../core/shape/combine';
import type { Outline } from '../core/shape/outline';
import { regionsOf, type Regions } from '../core/shape/regions';
import { offer } from './offer';

/** Areas of shapes away from the page: the regions that loose lines enclose, and shapes combined. */
const api = {
  regions: (lines: readonly Outline[]): Regions => regionsOf(lines),
  combine: (operation: Combining, first: Outline, others: readonly Outline[]): readonly Outline[] => combineOutlines(operation, first, others),
};

export type AreasWorker = typeof api;

offer(api);
