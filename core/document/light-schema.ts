import * as z from 'zod';
import type { Ramp, Tint } from '../light/tones';
import { colour, line, share } from './paint-schema';
import { cells, worldCells } from './schema-parts';
import type { Light } from './types';

const tone = z.strictObject({ lightness: z.number().min(-1).max(1), chroma: z.number().min(0).max(4) });

/** What becomes of a base colour by how squarely it meets the light. */
export const rampSchema: z.ZodType<Ramp> = z.strictObject({ lit: tone, grazed: tone, turned: tone, covered: tone.exactOptional() });
/** A colour over others. */
export const tintSchema: z.ZodType<Tint> = z.strictObject({ colour, strength: share });

/** The sun, a lamp where there is one, and the ramp of tones. */
export const lightSchema: z.ZodType<Light> = z.strictObject({
  sun: z.strictObject({ azimuthDeg: z.number().min(-720).max(720), elevationDeg: z.number().min(-90).max(90) }),
  keep: z.literal('picture').exactOptional(),
  fill: share.exactOptional(),
  fixed: z.strictObject({ top: tone, left: tone, right: tone }).exactOptional(),
  lamp: z.strictObject({ at: worldCells, reach: cells.refine((n) => n > 0, 'a lamp reaches some way') }).exactOptional(),
  ramp: rampSchema,
  shadows: z
    .strictObject({
      on: z.boolean(),
      floor: cells.exactOptional(),
      ink: z.strictObject({ colour, strength: share }).exactOptional(),
      soft: z.number().positive().max(100, 'an edge is at most 100 mm soft').exactOptional(),
      fade: z.number().positive().max(1e6, 'a shadow fades within a million cells').exactOptional(),
      contact: z.number().positive().max(1000, 'a contact shadow reaches at most 1000 cells').exactOptional(),
    })
    .exactOptional(),
  lines: z
    .strictObject({
      contour: z.strictObject({ of: z.enum(['thing', 'group', 'all']), line }).exactOptional(),
      inner: z.strictObject({ smooth: z.boolean(), line }).exactOptional(),
      hidden: z.strictObject({ line }).exactOptional(),
      highlight: z.strictObject({ line, soft: z.number().min(0).max(100, 'a highlight fades within 100 mm'), strength: share }).exactOptional(),
    })
    .exactOptional(),
});
