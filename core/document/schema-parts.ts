import { wordsOf } from './schema-words';
import * as z from 'zod';
import { exactCells, isCells } from '../math/exact';
import { SQUARE, UNIT } from '../math/tolerances';
import { FORM_LIMITS, formFault, type MeasuredForm } from '../shape/measured-forms';
import { dotWorld, type WorldPoint } from '../math/points';
import type { Guide } from '../projection/guides';
import type { TrialBox } from '../projection/trial-box';
import type { Outline } from '../shape/outline';
import { MAX_NAME, MOST_GUIDES } from './types';
import { MOST_HOLES, MOST_RING, pointIdsRepeat, readOutline } from './read-outline';

// Compiled checks need `Function`, which a strict content policy forbids.
z.config({ jitless: true, customError: wordsOf });

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
/** What an outline has to be, told point by point: exact about faults, and slow. */
export const outlineFaults: z.ZodType<Outline> = z
  .strictObject({
    points: z.array(outlinePoint).max(MOST_RING),
    closed: z.boolean(),
    holes: z.array(z.array(outlinePoint).min(2).max(MOST_RING)).min(1).max(MOST_HOLES).exactOptional(),
  })
  .refine((o) => o.closed || !o.holes, 'only closed outlines have holes')
  .refine((o) => !pointIdsRepeat(o), 'two points have one id');

/** An outline in cells of its plane: read at once where it is right, and point by point where it is not. */
export const outline: z.ZodType<Outline> = z.unknown().transform((value, context) => {
  const right = readOutline(value);
  if (right) return right;
  const read = outlineFaults.safeParse(value);
  if (read.success) return read.data;
  for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path: [...path], message });
  return z.NEVER;
});

/** What an outline was made by. */
export const formSchema: z.ZodType<MeasuredForm> = z
  .discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('star'),
      points: z.int().min(FORM_LIMITS.points[0]).max(FORM_LIMITS.points[1]),
      outer: cells,
      inner: cells,
      turnedDeg: z.number().min(FORM_LIMITS.turnedDeg[0]).max(FORM_LIMITS.turnedDeg[1]),
    }),
    z.strictObject({
      kind: z.literal('spiral'),
      turns: z.number().min(FORM_LIMITS.turns[0]).max(FORM_LIMITS.turns[1]),
      inner: cells,
      outer: cells,
      steps: z.enum(['even', 'growing']),
      band: cells,
    }),
  ])
  .superRefine((form, context) => {
    const fault = formFault(form);
    if (fault !== null) context.addIssue({ code: 'custom', message: fault });
  });

/** A place of the world, in cells. */
export const worldCells = z.strictObject({ a: cells, b: cells, h: cells });
// Directions that were computed may be longer than 1 by a rounding.
const unit = z
  .number()
  .min(-1 - UNIT)
  .max(1 + UNIT);
/** A direction of a plane, of length 1. */
export const planeDirection = z.strictObject({ u: unit, v: unit }).refine(({ u, v }) => Math.abs(Math.hypot(u, v) - 1) < SQUARE, 'a direction has length 1');
/** A direction of the world, of length 1. */
export const direction = z.strictObject({ a: unit, b: unit, h: unit });

/** An id of a node, artwork or asset. */
export const id = z.string().min(1).max(80);
/** A name that a person gives. */
export const name = z.string().max(MAX_NAME, `a name has at most ${MAX_NAME} letters`);

/** A plane of the axes by its offset in cells, or a free one by its stance. */
export const plane = z
  .strictObject({
    kind: z.enum(['floor', 'left', 'right', 'sheet', 'free']),
    offset: cells,
    stance: z.strictObject({ at: worldCells, u: direction, v: direction }).exactOptional(),
  })
  .refine((p) => (p.kind === 'free') === (p.stance !== undefined), 'a free plane, and no other, has a stance')
  .refine((p) => !p.stance || isSquare(p.stance), 'the directions of a free plane have length 1 and are square to each other');
function isSquare({ u, v }: { readonly u: WorldPoint; readonly v: WorldPoint }): boolean {
  return Math.abs(dotWorld(u, u) - 1) < SQUARE && Math.abs(dotWorld(v, v) - 1) < SQUARE && Math.abs(dotWorld(u, v)) < SQUARE;
}

/** Lines to draw by. */
export const guidesSchema: z.ZodType<readonly Guide[]> = z
  .array(
    z
      .strictObject({ id, name, plane, at: planePoint, along: z.union([z.literal('out'), planeDirection]), hidden: z.boolean(), locked: z.boolean() })
      .refine((guide) => guide.along !== 'out' || guide.plane.kind !== 'sheet', 'on the sheet no guide runs along its normal'),
  )
  .max(MOST_GUIDES, `a drawing has at most ${MOST_GUIDES} guides`);

const extent = cells.refine((n) => n > 0, 'a box has an extent above 0 along every axis');
/** A box that is shown and not drawn, in cells. */
export const trialSchema: z.ZodType<TrialBox> = z.strictObject({ at: worldCells, size: z.strictObject({ a: extent, b: extent, h: extent }) });
