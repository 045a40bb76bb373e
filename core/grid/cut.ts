/** A straight piece of the sheet by its ends. */
export type Segment = readonly [number, number, number, number];

/** The part of a segment where p x + q y + r is at least `least`, or null where there is none. */
export function cutHalfPlane([x0, y0, x1, y1]: Segment, [p, q, r]: readonly [number, number, number], least: number): Segment | null {
  const from = p * x0 + q * y0 + r - least;
  const to = p * x1 + q * y1 + r - least;
  if (from < 0 && to < 0) return null;
  if (from >= 0 && to >= 0) return [x0, y0, x1, y1];
  const t = from / (from - to);
  const [x, y] = [x0 + (x1 - x0) * t, y0 + (y1 - y0) * t];
  return from < 0 ? [x, y, x1, y1] : [x0, y0, x, y];
}
