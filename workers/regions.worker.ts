import { expose } from 'comlink';
import type { Outline } from '../core/shape/outline';
import { regionsOf, type Regions } from '../core/shape/regions';

/** Finds the regions that loose lines enclose away from the page. */
const api = { regions: (lines: readonly Outline[]): Regions => regionsOf(lines) };

export type RegionsWorker = typeof api;

expose(api);
