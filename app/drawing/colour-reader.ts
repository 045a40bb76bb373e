import type { Picture, Reference, SheetPoint } from '@core';
import { paintOnCanvas } from '../platform/canvas-paint';

/** Px to the mm when one px is painted to read its colour: so near that no edge lies across it. */
const PIXELS_PER_MM = 40;

function readPixel(context: CanvasRenderingContext2D): string | null {
  const [r, g, b, a] = context.getImageData(0, 0, 1, 1).data;
  return a === 0 ? null : `#${[r!, g!, b!].map((n) => n.toString(16).padStart(2, '0')).join('')}`;
}

/** Reads colours: of the drawing as it is painted, without its grid, and of references' own bitmaps. */
export class ColourReader {
  /** The colour that the drawing has at a place of the sheet, painted for this one px. */
  colourOf(picture: Picture, at: SheetPoint): string | null {
    const context = this.pixel();
    context.save();
    context.translate(0.5, 0.5);
    context.scale(PIXELS_PER_MM, PIXELS_PER_MM);
    context.translate(-at.x, -at.y);
    paintOnCanvas(context, picture);
    context.restore();
    return readPixel(context);
  }

  /** The colour of a reference's own bitmap at a place of the sheet. */
  colourOfReference(reference: Reference, image: CanvasImageSource & { readonly width: number; readonly height: number }, at: SheetPoint): string | null {
    const context = this.pixel();
    const [x, y] = [((at.x - reference.x) / reference.width) * image.width, ((at.y - reference.y) / reference.height) * image.height];
    context.drawImage(image, Math.floor(x), Math.floor(y), 1, 1, 0, 0, 1, 1);
    return readPixel(context);
  }

  private onePixel: CanvasRenderingContext2D | null = null;

  private pixel(): CanvasRenderingContext2D {
    if (!this.onePixel) {
      const canvas = document.createElement('canvas');
      canvas.width = canvas.height = 1;
      this.onePixel = canvas.getContext('2d', { willReadFrequently: true })!;
    }
    this.onePixel.clearRect(0, 0, 1, 1);
    return this.onePixel;
  }
}
