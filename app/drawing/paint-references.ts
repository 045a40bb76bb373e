import type { Reference } from '@core';
import type { AidPicture } from '../state/aids.store';

/** A reference with what has been decoded of it. */
export interface SeenReference {
  readonly reference: Reference;
  readonly image: CanvasImageSource | null;
}

/** Paints references in mm of the sheet; of those that are not decoded yet the outline. @param over those that lie over the drawing, or those under it */
export function paintReferences(context: CanvasRenderingContext2D, references: readonly SeenReference[], over: boolean, zoom: number): void {
  for (const { reference, image } of references) {
    if (reference.over !== over || reference.hidden) continue;
    context.save();
    context.globalAlpha = reference.strength;
    if (image) context.drawImage(image, reference.x, reference.y, reference.width, reference.height);
    else {
      context.strokeStyle = '#675f70';
      context.lineWidth = 1 / zoom;
      context.strokeRect(reference.x, reference.y, reference.width, reference.height);
    }
    context.restore();
  }
}

/** Lays a picture over the drawing. */
export function layPicture(context: CanvasRenderingContext2D, { image, map }: AidPicture): void {
  context.save();
  context.transform(...map);
  context.drawImage(image, 0, 0);
  context.restore();
}
