import { toPresentVersion, type Bitmap, type CheminDocument, type Step } from '@core';

/**
 * Drawings and steps as storage keeps them: bitmaps by name alone, so that saving a drawing writes no picture again.
 */

const slim = (bitmap: Bitmap): Bitmap => (bitmap.data === '' ? bitmap : { ...bitmap, data: '' });

export function slimDocument(document: CheminDocument): CheminDocument {
  return document.bitmaps.length === 0 ? document : { ...document, bitmaps: document.bitmaps.map(slim) };
}

export function slimStep(step: Step): Step {
  return step.edit.kind === 'add-reference' ? { ...step, edit: { ...step.edit, bitmap: slim(step.edit.bitmap) } } : step;
}

/** The document with its bitmaps again. What was kept before bitmaps came has none. */
export function fullDocument(document: CheminDocument, bitmaps: ReadonlyMap<string, Bitmap>): CheminDocument {
  if (!Array.isArray(document?.bitmaps) || document.bitmaps.length === 0) return document;
  return { ...document, bitmaps: document.bitmaps.map((bitmap) => bitmaps.get(bitmap.id) ?? bitmap) };
}

/** A stored document in the present format, unchecked, for lists and thumbnails. */
export function currentFormat(document: CheminDocument): CheminDocument {
  if (typeof document !== 'object' || document === null) return document;
  return toPresentVersion(document as unknown as Record<string, unknown>) as unknown as CheminDocument;
}

/** A step with its bitmap again, unchecked. */
export function fullStep(step: Step, bitmaps: ReadonlyMap<string, Bitmap>): Step {
  const edit = step?.edit;
  if (edit?.kind !== 'add-reference') return step;
  return { ...step, edit: { ...edit, bitmap: bitmaps.get(edit.bitmap?.id) ?? edit.bitmap } };
}

/** Every bitmap that a document or its steps need. */
export function bitmapsOf(document: CheminDocument | null, steps: readonly Step[]): readonly Bitmap[] {
  return [...(document?.bitmaps ?? []), ...steps.flatMap(({ edit }) => (edit.kind === 'add-reference' ? [edit.bitmap] : []))];
}
