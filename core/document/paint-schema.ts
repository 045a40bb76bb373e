import * as z from 'zod';
import { UNITS } from '../math/units';
import { BLENDS, COLOUR_FORM, type Blend, type LinePaint, type Paint } from '../paint/paint';
import { planePoint } from './schema-parts';

/** A colour as it is, `#rrggbb`. */
export const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written #rrggbb in small letters');
/** A colour as it is, or one of the palette. */
export const paintColour = z.string().max(120).regex(COLOUR_FORM, 'a colour is written #rrggbb in small letters, or swatch:id');
/** A part of a whole. */
export const share = z.number().min(0).max(1);
/** A drawn line; its width is in mm. */
export const line: z.ZodType<LinePaint> = z.strictObject({
  colour: paintColour,
  width: z.number().positive('a line has a width').max(1000, 'a line is at most 1000 mm wide'),
  unit: z.enum(UNITS).exactOptional(),
  on: z.literal('plane').exactOptional(),
  cap: z.enum(['butt', 'square']).exactOptional(),
  join: z.enum(['miter', 'bevel']).exactOptional(),
  dashes: z
    .array(z.number().min(0).max(1000))
    .min(1)
    .max(16)
    .refine((d) => d.some((n) => n > 0), 'dashes have a length')
    .exactOptional(),
});
const stops = z
  .array(z.strictObject({ at: share, colour: paintColour, strength: share }))
  .min(2)
  .max(64);
const fill = z.union([
  paintColour,
  z.strictObject({ kind: z.literal('linear'), from: planePoint, to: planePoint, stops }),
  z.strictObject({ kind: z.literal('radial'), centre: planePoint, edge: planePoint, stops }),
  z.strictObject({ kind: z.literal('conic'), centre: planePoint, edge: planePoint, otherWay: z.literal(true).exactOptional(), stops }),
]);

/** How something mixes with what lies under it, but normally. */
export const blendSchema = z.enum(BLENDS.slice(1) as [Exclude<Blend, 'normal'>, ...Exclude<Blend, 'normal'>[]]);

/** Fill, line, strength and blend of a shape. */
export const paintSchema: z.ZodType<Paint> = z.strictObject({
  fill: fill.nullable(),
  line: line.nullable(),
  strength: share.exactOptional(),
  blend: blendSchema.exactOptional(),
  unlit: z.literal(true).exactOptional(),
});
