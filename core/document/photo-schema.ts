import * as z from 'zod';
import type { BentKind } from '../photo/fit-bent';
import type { Photo, PhotoPart } from '../photo/photo';
import { share } from './paint-schema';
import { MAX_NAME } from './types';

const id = z.string().min(1).max(80);
const name = z.string().max(MAX_NAME, `a name has at most ${MAX_NAME} letters`);
/** A place in px; fits lead a little beyond the picture. */
const px = z.number().min(-1e6).max(1e6);
const count = z.int().min(1, 'a lattice has at least one box each way').max(2000, 'a lattice has at most 2000 boxes each way');
const mm = z.number().min(-1e6).max(1e6);
const length = z.number().positive('a size is more than 0').max(1e6, 'a size is at most 1000 m');
/** A number of a fit: px, mm, or parts of these, all within what any photograph can show. */
/** The logarithm of a length in px or mm, either way. */
const LOG = 20;
const fitted = z.number().min(-1e6, 'a number of a fit is at most a million').max(1e6, 'a number of a fit is at most a million');
/** A number that tells how sure those are: a product of two of them. */
const sureness = z.number().min(-1e12).max(1e12);

/** The lattice on a photographed thing: boxes each way, and the edge of one in mm. */
export const latticeSchema = z.strictObject({
  columns: count,
  rows: count,
  box: z.number().min(0.01, 'a box is at least 0.01 mm').max(10_000, 'a box is at most 10 m'),
});

const part: z.ZodType<PhotoPart> = z.strictObject({ bitmap: id, x: px, y: px, width: length, height: length });

const bent = <K extends BentKind>(kind: K, count: number) =>
  z.strictObject({
    kind: z.literal(kind),
    parameters: z
      .array(fitted)
      .length(count, 'a fit has as many numbers as its kind')
      .refine((p) => Math.abs(p[0]!) <= LOG && (count === 8 || Math.abs(p[7]!) <= LOG), 'a fit tells a focal length and a distance that a camera can have'),
    covariance: z.array(sureness).max(121).nullable(),
  });

const fitSchema = z
  .strictObject({
    kind: z.enum(['panel', 'cylinder', 'cone', 'patch']),
    shape: z.discriminatedUnion('kind', [
      bent('panel', 8),
      bent('cylinder', 10),
      bent('cone', 11),
      z
        .strictObject({
          kind: z.literal('patch'),
          across: z.int().min(1).max(12),
          down: z.int().min(1).max(12),
          minU: mm,
          minV: mm,
          maxU: mm,
          maxV: mm,
          control: z.array(fitted).max(450),
          inverse: z.array(sureness).max(50_625),
          freedom: z.number().min(0).max(1e6),
        })
        .refine((patch) => patch.minU < patch.maxU && patch.minV < patch.maxV, 'patches cover an area')
        .refine((patch) => patch.control.length === 2 * (patch.across + 3) * (patch.down + 3), 'a patch has all of its control points')
        .refine((patch) => patch.inverse.length === ((patch.across + 3) * (patch.down + 3)) ** 2, 'a patch tells how sure all of it is'),
    ]),
    lattice: latticeSchema,
    width: length,
    height: length,
    wrong: z.array(z.tuple([z.int(), z.int()])).max(10_000),
  })
  .refine((fit) => fit.kind === fit.shape.kind, 'a fit is of the kind of its shape');

const outline = z
  .array(px)
  .min(6, 'an outline has at least three corners')
  .max(20_000)
  .refine((all) => all.length % 2 === 0, 'a corner has two coordinates');

const photoSchema: z.ZodType<Photo> = z.strictObject({
  id,
  name,
  bitmap: id,
  x: mm,
  y: mm,
  width: length,
  height: length,
  surfaces: z
    .array(
      z.strictObject({
        id,
        name,
        latticed: id.exactOptional(),
        registration: z
          .strictObject({ dx: px, dy: px, turn: z.number().min(-1000).max(1000), scale: z.number().min(1e-3).max(1e3), agrees: z.number().min(-1e6).max(1e6) })
          .exactOptional(),
        lattice: latticeSchema,
        crossings: z
          .array(
            z.strictObject({
              column: z.int().min(0),
              row: z.int().min(0),
              x: px,
              y: px,
              error: z.number().positive().max(1000),
              hand: z.literal(true).exactOptional(),
            }),
          )
          .max(10_000, 'at most 10 000 crossings are kept'),
        fit: fitSchema.exactOptional(),
        outline: outline.exactOptional(),
        masks: z
          .array(z.strictObject({ id, points: outline, soft: z.number().min(0).max(500), part }))
          .max(50)
          .exactOptional(),
        light: z
          .strictObject({
            shade: part,
            shadeStrength: share,
            gloss: part,
            glossStrength: share,
            grain: part.exactOptional(),
            blur: z.number().min(0).max(50).exactOptional(),
          })
          .exactOptional(),
      }),
    )
    .max(50, 'at most 50 surfaces lie in one photograph'),
});

/** All photographs of a drawing. */
export const photosSchema: z.ZodType<readonly Photo[]> = z.array(photoSchema).max(20, 'a drawing has at most 20 photographs');

/** The bitmaps that a photograph and its surfaces show. */
export function bitmapsOfPhoto({ bitmap, surfaces }: Photo): readonly string[] {
  return [
    bitmap,
    ...surfaces.flatMap(({ latticed, light, masks }) => [
      ...(latticed === undefined ? [] : [latticed]),
      ...(light ? [light.shade.bitmap, light.gloss.bitmap, ...(light.grain ? [light.grain.bitmap] : [])] : []),
      ...(masks ?? []).map(({ part: own }) => own.bitmap),
    ]),
  ];
}

/** What is wrong between photographs, their surfaces and the bitmaps that there are, by their places in a document. */
export function photoFaults(
  photos: readonly Photo[],
  bitmaps: ReadonlySet<string>,
): readonly { readonly path: readonly (string | number)[]; readonly message: string }[] {
  const twice = (list: readonly { readonly id: string }[]): boolean => new Set(list.map(({ id: own }) => own)).size < list.length;
  return [
    ...(twice(photos) ? [{ path: ['photos'], message: 'two photographs have one id' }] : []),
    ...(twice(photos.flatMap(({ surfaces }) => surfaces)) ? [{ path: ['photos'], message: 'two photographed surfaces have one id' }] : []),
    ...photos.flatMap((photo, i) =>
      bitmapsOfPhoto(photo).flatMap((bitmap) => (bitmaps.has(bitmap) ? [] : [{ path: ['photos', i], message: `there is no bitmap “${bitmap}”` }])),
    ),
  ];
}
