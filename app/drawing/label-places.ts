/** A label to be put beside a point, in px. */
export interface Labelled {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Distance in px between a handle and its label, and room that a handle itself takes. */
const GAP = 10;
const HANDLE = 7;

/**
 * Where labels stand so that none covers another or a handle: each at the first of eight places round its handle that
 * is free, beginning on the side that leads away from the others; where none is free, the one that covers least.
 * @returns the upper left corner of each label, in px
 */
export function placeLabels(labels: readonly Labelled[]): readonly { readonly x: number; readonly y: number }[] {
  const taken: Box[] = labels.map(({ x, y }) => ({ x: x - HANDLE, y: y - HANDLE, width: 2 * HANDLE, height: 2 * HANDLE }));
  const middle = labels.reduce((sum, { x }) => sum + x / labels.length, 0);
  return labels.map((label) => {
    let best: Box | null = null;
    let least = Infinity;
    for (const { x, y } of around(label, label.x < middle - HANDLE)) {
      const box = { x, y, width: label.width, height: label.height };
      const covered = taken.reduce((sum, other) => sum + overlap(box, other), 0);
      if (covered < least) [best, least] = [box, covered];
      if (covered === 0) break;
    }
    taken.push(best!);
    return { x: best!.x, y: best!.y };
  });
}

function around({ x, y, width, height }: Labelled, leftFirst: boolean): readonly { readonly x: number; readonly y: number }[] {
  const [right, left, above, below, level, middle] = [x + GAP, x - GAP - width, y - GAP - height, y + GAP, y - GAP, x - width / 2];
  const [first, second] = leftFirst ? [left, right] : [right, left];
  return [
    { x: first, y: level },
    { x: second, y: level },
    { x: first, y: above },
    { x: first, y: below },
    { x: middle, y: above },
    { x: middle, y: below },
    { x: second, y: above },
    { x: second, y: below },
  ];
}

function overlap(p: Box, q: Box): number {
  const [w, h] = [Math.min(p.x + p.width, q.x + q.width) - Math.max(p.x, q.x), Math.min(p.y + p.height, q.y + q.height) - Math.max(p.y, q.y)];
  return w > 0 && h > 0 ? w * h : 0;
}
