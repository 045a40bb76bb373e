import * as z from 'zod';
import { exactCells, isCells } from '../math/exact';

// Compiled checks need `Function`, which a strict content policy forbids.
z.config({ jitless: true });

/** A coordinate in cells; read onto whole ticks. */
export const cells = z.number().refine(isCells, 'a coordinate lies within a million cells').transform(exactCells);

/** A place of a plane, in cells. */
export const planePoint = z.strictObject({ u: cells, v: cells });
