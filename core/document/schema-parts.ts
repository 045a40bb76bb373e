import * as z from 'zod';
import { exactCells, isCells } from '../math/exact';
import { UNIT } from '../math/tolerances';
import { allPoints, type Outline } from '../shape/outline';

// Compiled checks need `Function`, which a strict content policy forbids.
z.config({ jitless: true });

/** A coordinate in cells; read onto whole ticks. */
export const cells = z.number().refine(isCells, 'a coordinate lies within a million cells').transform(exactCells);

/** A place of a plane, in cells. */
export const planePoint = z.strictObject({ u: cells, v: cells });

const outlinePoint = z.strictObject({
  id: z.int().min(1),
  u: cells,
  v: cells,
  into: planePoint.exactOptional(),
  out: planePoint.exactOptional(),
  arc: z.strictObject({ u: cells, v: cells, weight: z.number().min(1e-4).max(1e4) }).exactOptional(),
  corner: z.strictObject({ kind: z.enum(['round', 'bevel']), size: cells.refine((n) => n > 0, 'a rounding is more than 0') }).exactOptional(),
  press: z.number().min(0).max(1).exactOptional(),
});
/** An outline in cells of its plane. */
export const outline: z.ZodType<Outline> = z
  .strictObject({
    points: z.array(outlinePoint).max(100_000),
    closed: z.boolean(),
    holes: z.array(z.array(outlinePoint).min(2).max(100_000)).min(1).max(10_000).exactOptional(),
  })
  .refine((o) => o.closed || !o.holes, 'only closed outlines have holes')
  .refine((o) => !pointIdsRepeat(o), 'two points have one id');

/** A place of the world, in cells. */
export const worldCells = z.strictObject({ a: cells, b: cells, h: cells });
// Directions that were computed may be longer than 1 by a rounding.
const unit = z
  .number()
  .min(-1 - UNIT)
  .max(1 + UNIT);
/** A direction of the world, of length 1. */
export const direction = z.strictObject({ a: unit, b: unit, h: unit });

function pointIdsRepeat(outline: Outline): boolean {
  const points = allPoints(outline);
  return new Set(points.map((p) => p.id)).size < points.length;
}
