/** A box of the drawing's area in px. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The corners of the drawing's area in which messages may lie, the usual one first. */
export const CORNERS = ['low left', 'low right', 'top right', 'top left'] as const;
/** A corner of the drawing's area. */
export type Corner = (typeof CORNERS)[number];

/** Px between messages and the edge of the drawing's area. */
export const MARGIN = 12;
/** Px about a handle that belong to it. */
const HANDLE = 14;

/** Where a stack of messages lies in a corner of an area. */
export function boxIn(
  corner: Corner,
  area: { readonly width: number; readonly height: number },
  stack: { readonly width: number; readonly height: number },
): Box {
  return {
    x: corner.endsWith('left') ? MARGIN : area.width - MARGIN - stack.width,
    y: corner.startsWith('top') ? MARGIN : area.height - MARGIN - stack.height,
    ...stack,
  };
}

/**
 * The corner in which messages cover least: no handle where that can be, and as little as can be of what is drawn.
 * @param drawn boxes of what is drawn, and @param handles the places of handles, in px of the area
 */
export function freeCorner(
  area: { readonly width: number; readonly height: number },
  stack: { readonly width: number; readonly height: number },
  drawn: readonly Box[],
  handles: readonly { readonly x: number; readonly y: number }[],
): Corner {
  let [best, least]: [Corner, readonly [number, number]] = [CORNERS[0], [Infinity, Infinity]];
  for (const corner of CORNERS) {
    const box = boxIn(corner, area, stack);
    const held = handles.filter(({ x, y }) => overlap(box, { x: x - HANDLE, y: y - HANDLE, width: 2 * HANDLE, height: 2 * HANDLE }) > 0).length;
    const covered = drawn.reduce((sum, other) => sum + overlap(box, other), 0);
    if (held < least[0] || (held === least[0] && covered < least[1])) [best, least] = [corner, [held, covered]];
  }
  return best;
}

function overlap(p: Box, q: Box): number {
  const [w, h] = [Math.min(p.x + p.width, q.x + q.width) - Math.max(p.x, q.x), Math.min(p.y + p.height, q.y + q.height) - Math.max(p.y, q.y)];
  return w > 0 && h > 0 ? w * h : 0;
}
