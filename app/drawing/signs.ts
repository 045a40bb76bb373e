import { PLANE_COLOURS, type CatchKind, type PlaneKind } from '@core';

/** The colour of a plane's grid and ghosts on the sheet. */
export function planeColour(kind: PlaneKind): string {
  return PLANE_COLOURS[kind];
}

/** Fills the clipped area with the plane's hatch: dots, strokes falling or rising to the right, level strokes, or a plain wash. */
export function hatchPath(context: CanvasRenderingContext2D, kind: PlaneKind, flat: readonly number[], zoom: number, strength: number): void {
  const xs = flat.filter((_, i) => i % 2 === 0);
  const ys = flat.filter((_, i) => i % 2 === 1);
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const step = 7 / zoom;
  context.globalAlpha = strength;
  context.strokeStyle = planeColour(kind);
  context.fillStyle = context.strokeStyle;
  context.lineWidth = 1 / zoom;
  if (kind === 'sheet') {
    context.globalAlpha = strength * 0.25;
    context.fillRect(minX, minY, maxX - minX, maxY - minY);
  } else if (kind === 'free') {
    for (let y = minY; y <= maxY; y += 1.4 * step) context.fillRect(minX, y, maxX - minX, 1 / zoom);
  } else if (kind === 'floor') {
    for (let y = minY; y <= maxY; y += step) for (let x = minX; x <= maxX; x += step) context.fillRect(x, y, 1.6 / zoom, 1.6 / zoom);
  } else {
    const rise = kind === 'left' ? 1 : -1;
    const tall = maxY - minY;
    context.beginPath();
    for (let x = minX - tall; x <= maxX + tall; x += step) {
      context.moveTo(x, rise > 0 ? minY : maxY);
      context.lineTo(x + tall, rise > 0 ? maxY : minY);
    }
    context.stroke();
  }
  context.globalAlpha = 1;
}

/**
 * The mark of what is caught, a different figure for each kind: crossing, small diagonal cross; point, filled
 * lozenge; intersection, upright cross; middle, two bars; centre, cross in a square; edge, bar; grid line, two short
 * bars in a row; perpendicular, a foot; spacing, three bars; part of a cell, small square; alignment, angle; free, dot.
 */
export function signOf(context: CanvasRenderingContext2D, kind: CatchKind, x: number, y: number, zoom: number, colour: string): void {
  const k = 1 / zoom;
  const lines = (...segments: readonly number[][]): void => {
    context.beginPath();
    for (const [x0, y0, x1, y1] of segments) {
      context.moveTo(x + x0! * k, y + y0! * k);
      context.lineTo(x + x1! * k, y + y1! * k);
    }
    context.stroke();
  };
  context.save();
  context.strokeStyle = colour;
  context.fillStyle = colour;
  context.lineWidth = 2 * k;
  context.lineCap = 'round';
  if (kind === 'intersection') lines([-7, 0, 7, 0], [0, -7, 0, 7]);
  else if (kind === 'perpendicular') lines([-6, 5, 6, 5], [0, 5, 0, -6]);
  else if (kind === 'spacing') lines([-6, -4, -6, 4], [0, -4, 0, 4], [6, -4, 6, 4]);
  else if (kind === 'grid line') lines([-7, 0, -2, 0], [2, 0, 7, 0]);
  else if (kind === 'part') lines([-3, -3, 3, -3], [3, -3, 3, 3], [3, 3, -3, 3], [-3, 3, -3, -3]);
  else if (kind === 'crossing') lines([-5, -5, 5, 5], [-5, 5, 5, -5]);
  else if (kind === 'middle') lines([-5, -3, 5, -3], [-5, 3, 5, 3]);
  else if (kind === 'centre') lines([-5, -5, 5, -5], [5, -5, 5, 5], [5, 5, -5, 5], [-5, 5, -5, -5], [-2, 0, 2, 0], [0, -2, 0, 2]);
  else if (kind === 'edge') lines([-6, 0, 6, 0]);
  else if (kind.startsWith('along ')) lines([-6, 0, 0, 0], [0, 0, 0, -6]);
  else if (kind === 'point') {
    context.beginPath();
    context.moveTo(x, y - 6 * k);
    context.lineTo(x + 5 * k, y);
    context.lineTo(x, y + 6 * k);
    context.lineTo(x - 5 * k, y);
    context.closePath();
    context.fill();
  } else context.fillRect(x - 2 * k, y - 2 * k, 4 * k, 4 * k);
  context.restore();
}
