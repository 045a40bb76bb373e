import type { CanvasImages, CanvasLayers, CanvasLike } from '@core';

/** What layers need of a 2D context, of the page or of a worker. */
export interface Context2D {
  readonly canvas: { readonly width: number; readonly height: number };
  getTransform(): DOMMatrix;
}

/** Most canvases that are kept for later layers; more are made where groups are nested deeper, and given up again. */
const MOST_KEPT = 3;

const spare: OffscreenCanvas[] = [];

/** Layers for thinned groups: canvases of the same size and transform as the one beneath, kept for the next layer. */
export function layersOver(context: Context2D, images?: CanvasImages): CanvasLayers {
  const { width, height } = context.canvas;
  return {
    ...(images && { images }),
    open: () => {
      const canvas = spare.pop() ?? new OffscreenCanvas(width, height);
      // Setting a size empties a canvas, also where it stays the same.
      [canvas.width, canvas.height] = [width, height];
      const layer = canvas.getContext('2d');
      if (!layer) throw new Error('The browser gave no canvas to draw on.');
      layer.setTransform(context.getTransform());
      return layer as unknown as CanvasLike;
    },
    close: (layer, beneath, strength, blend, blur) => {
      const from = (layer as unknown as OffscreenCanvasRenderingContext2D).canvas;
      const to = beneath as unknown as OffscreenCanvasRenderingContext2D;
      to.save();
      to.setTransform(1, 0, 0, 1, 0, 0);
      to.globalAlpha *= strength;
      to.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
      if (blur > 0) to.filter = `blur(${blur}px)`;
      to.drawImage(from, 0, 0);
      to.restore();
      if (spare.length < MOST_KEPT) spare.push(from);
    },
  };
}
