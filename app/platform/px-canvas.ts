/** Px of four bytes each, red lowest, as what canvases take; they are not copied. */
export const imageOf = (px: Uint32Array<ArrayBuffer>, width: number, height: number): ImageData =>
  new ImageData(new Uint8ClampedArray(px.buffer), width, height);

/** The same as a canvas, of the page or of a worker. */
export function canvasOf(px: Uint32Array<ArrayBuffer>, width: number, height: number): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(imageOf(px, width, height), 0, 0);
  return canvas;
}
