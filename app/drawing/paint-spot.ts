import type { SheetPoint } from '@core';

/** A spot that is pointed at in the other view: a ring about a point, dark in light. */
export function paintSpot(context: CanvasRenderingContext2D, { x, y }: SheetPoint, zoom: number): void {
  context.save();
  for (const [style, width] of [
    ['#ffffff', 4],
    ['#5a3ea6', 1.8],
  ] as const) {
    context.strokeStyle = style;
    context.lineWidth = width / zoom;
    context.beginPath();
    context.arc(x, y, 7 / zoom, 0, 2 * Math.PI);
    context.moveTo(x - 11 / zoom, y);
    context.lineTo(x - 3 / zoom, y);
    context.moveTo(x + 3 / zoom, y);
    context.lineTo(x + 11 / zoom, y);
    context.moveTo(x, y - 11 / zoom);
    context.lineTo(x, y - 3 / zoom);
    context.moveTo(x, y + 3 / zoom);
    context.lineTo(x, y + 11 / zoom);
    context.stroke();
  }
  context.restore();
}
