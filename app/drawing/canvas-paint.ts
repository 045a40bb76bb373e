import { paintMarks, paintSheet, type CanvasLayers, type CanvasLike, type Mark, type Picture } from '@core';

/** Layers for thinned groups: canvases of the same size and transform as the one beneath. */
function layersOver(context: CanvasRenderingContext2D): CanvasLayers {
  return {
    open: () => {
      const canvas = document.createElement('canvas');
      canvas.width = context.canvas.width;
      canvas.height = context.canvas.height;
      const layer = canvas.getContext('2d');
      if (!layer) throw new Error('The browser gave no canvas to draw on.');
      layer.setTransform(context.getTransform());
      return layer as unknown as CanvasLike;
    },
    close: (layer, beneath, strength, blend) => {
      const from = (layer as unknown as CanvasRenderingContext2D).canvas;
      const to = beneath as unknown as CanvasRenderingContext2D;
      to.save();
      to.setTransform(1, 0, 0, 1, 0, 0);
      to.globalAlpha *= strength;
      to.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
      to.drawImage(from, 0, 0);
      to.restore();
    },
  };
}

/** Paints marks in the context's transform. */
export function paintMarksOnCanvas(context: CanvasRenderingContext2D, marks: readonly Mark[]): void {
  paintMarks(context as unknown as CanvasLike, marks, layersOver(context));
}

/** Paints a picture in the context's transform: the sheet, what is to lie between, then the marks. */
export function paintOnCanvas(context: CanvasRenderingContext2D, picture: Pick<Picture, 'sheet' | 'marks'>, between: () => void = () => undefined): void {
  const target = context as unknown as CanvasLike;
  paintSheet(target, picture.sheet);
  between();
  paintMarks(target, picture.marks, layersOver(context));
}
