import { paintMarks, paintSheet, type CanvasImages, type CanvasLike, type Mark, type Picture } from '@core';
import { layersOver } from './canvas-layers';

/** Paints marks in the context's transform. */
export function paintMarksOnCanvas(context: CanvasRenderingContext2D, marks: readonly Mark[], images?: CanvasImages): void {
  paintMarks(context as unknown as CanvasLike, marks, layersOver(context, images));
}

/** The sheet with the shadow that it throws on the table. @param blur in px of the canvas */
export function paintSheetOnTable(context: CanvasRenderingContext2D, { width, height, background }: Picture['sheet'], blur: number): void {
  context.save();
  context.shadowColor = 'rgb(42 35 51 / 28%)';
  context.shadowBlur = blur;
  context.shadowOffsetY = 3;
  context.fillStyle = background;
  context.fillRect(0, 0, width, height);
  context.restore();
}

/** Paints a picture in the context's transform: the sheet, what is to lie between, then the marks. */
export function paintOnCanvas(
  context: CanvasRenderingContext2D,
  picture: Pick<Picture, 'sheet' | 'marks'>,
  between: () => void = () => undefined,
  images?: CanvasImages,
): void {
  const target = context as unknown as CanvasLike;
  paintSheet(target, picture.sheet);
  between();
  paintMarks(target, picture.marks, layersOver(context, images));
}
