import type { Aid } from './aids.service';

/** A polygon by its flat coordinates as the context's path. */
export function tracePolygon(context: CanvasRenderingContext2D, flat: ArrayLike<number>, closed: boolean): void {
  context.beginPath();
  for (let i = 0; i + 1 < flat.length; i += 2) {
    if (i === 0) context.moveTo(flat[i]!, flat[i + 1]!);
    else context.lineTo(flat[i]!, flat[i + 1]!);
  }
  if (closed) context.closePath();
}

/** How strongly aids are drawn. */
const AID_LOOK: Readonly<Record<string, { readonly token: string; readonly width: number; readonly alpha: number }>> = {
  soft: { token: '--on-sheet', width: 1, alpha: 0.45 },
  plain: { token: '--on-sheet', width: 1.2, alpha: 0.8 },
  strong: { token: '--action-on-sheet', width: 2, alpha: 1 },
  warn: { token: '--warn-on-sheet', width: 3, alpha: 1 },
};

/** An aid of the projection in the context's transform, its widths in px of the screen. */
export function paintAid(context: CanvasRenderingContext2D, aid: Aid, zoom: number, colour: (token: string) => string): void {
  context.save();
  if (aid.kind === 'figure') {
    tracePolygon(context, aid.outline, true);
    context.fillStyle = colour('--on-sheet');
    context.globalAlpha = 0.8;
    context.fill();
  } else if (aid.kind === 'trail') {
    const look = AID_LOOK[aid.tone]!;
    tracePolygon(context, aid.points, false);
    // Photographs are of any colour: a light rim keeps dark lines to be seen.
    context.strokeStyle = '#ffffff';
    context.globalAlpha = 0.35;
    context.lineWidth = (look.width + 1.4) / zoom;
    context.stroke();
    context.strokeStyle = colour(look.token);
    context.globalAlpha = look.alpha;
    context.lineWidth = look.width / zoom;
    context.stroke();
  } else {
    const look = AID_LOOK[aid.kind === 'line' ? aid.tone : 'plain']!;
    const own = aid.kind === 'line' ? aid.colour : undefined;
    context.strokeStyle = own ?? colour(look.token);
    context.fillStyle = context.strokeStyle;
    context.globalAlpha = own ? Math.max(0.8, look.alpha) : look.alpha;
    context.lineWidth = look.width / zoom;
    context.setLineDash((aid.kind === 'line' ? aid.dash : [6, 5]).map((d) => d / zoom));
    context.beginPath();
    if (aid.kind === 'line') {
      context.moveTo(aid.from.x, aid.from.y);
      context.lineTo(aid.to.x, aid.to.y);
    } else context.arc(aid.centre.x, aid.centre.y, aid.radius, 0, 2 * Math.PI);
    context.stroke();
    const at = aid.kind === 'circle' ? { x: aid.centre.x, y: aid.centre.y - aid.radius } : { x: (aid.from.x + aid.to.x) / 2, y: (aid.from.y + aid.to.y) / 2 };
    if (aid.label) paintLabel(context, aid.label, at, zoom, colour);
  }
  context.restore();
}

function paintLabel(context: CanvasRenderingContext2D, text: string, at: { x: number; y: number }, zoom: number, colour: (token: string) => string): void {
  const size = 12.5 / zoom;
  context.setLineDash([]);
  context.globalAlpha = 1;
  context.font = `600 ${size}px 'Hanken Grotesk', sans-serif`;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  const half = context.measureText(text).width / 2 + 4 / zoom;
  const ink = context.fillStyle;
  context.fillStyle = colour('--paper');
  context.beginPath();
  context.roundRect(at.x - half, at.y - 9 / zoom, 2 * half, 18 / zoom, 3 / zoom);
  context.fill();
  context.fillStyle = colour('--ink');
  context.fillText(text, at.x, at.y + 0.5 / zoom);
  context.fillStyle = ink;
}
