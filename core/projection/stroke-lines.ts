import type { Axis, SheetPoint } from '../math/points';

/** An edge traced over a picture, in mm of the sheet, and the axis that it runs along. */
export interface TracedStroke {
  readonly id: string;
  readonly from: SheetPoint;
  readonly to: SheetPoint;
  readonly axis: Axis;
}

/** What the picture is taken for. `auto`: parallel where strokes do not converge beyond what noise explains. */
export type SolveAs = 'auto' | 'parallel' | 'one' | 'two' | 'three';

/** What is known besides the strokes: what they are taken for, the middle and width of the picture in mm, and the size of a px. */
export interface SolveOptions {
  readonly as: SolveAs;
  /** The middle of the picture, in mm of the sheet; taken for the principal point where none is given. */
  readonly centre: SheetPoint;
  /** The principal point where it is known, such as in a picture that was cropped. */
  readonly principal?: SheetPoint | null;
  /** Width of the picture in mm, for the angle of view. */
  readonly width: number;
  /** Mm of the sheet to one px of the picture; misses are told in px. */
  readonly mmPerPx: number;
}

/** Strokes with less than this miss in px are as good as a hand can trace. */
export const HAND_PX = 0.6;

/** Middle, direction and half length of a stroke. */
export interface Line {
  readonly axis: Axis;
  readonly mx: number;
  readonly my: number;
  readonly dx: number;
  readonly dy: number;
  readonly half: number;
}

/** A stroke by its middle in mm of the sheet, its unit direction and half of its length. A stroke without a length has no direction (NaN). */
export function lineOf({ from, to, axis }: TracedStroke): Line {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  return { axis, mx: (from.x + to.x) / 2, my: (from.y + to.y) / 2, dx: (to.x - from.x) / length, dy: (to.y - from.y) / length, half: length / 2 };
}

/** Signed distance of a stroke's end from the line through its middle towards a homogeneous vanishing point. */
export function missOf({ mx, my, dx, dy, half }: Line, vx: number, vy: number, vw: number): number {
  const [x, y] = [vx - mx * vw, vy - my * vw];
  const length = Math.hypot(x, y);
  if (length === 0) return half;
  // Towards the point or away from it is the same line; the sign keeps residuals smooth through zero.
  const along = x * dx + y * dy;
  return ((x * dy - y * dx) / length) * half * (along < 0 ? -1 : 1);
}

/** Rounds in which the point that lines share is found: each weighs a line by how far off it is. */
const ROUNDS = 12;

/** The point that several strokes run to best, by least squares of their ends' distances; null where they are as good as parallel. */
export function sharedPoint(lines: readonly Line[]): SheetPoint | null {
  let weights = lines.map(() => 1);
  let at: SheetPoint | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    let [xx, xy, yy, x, y] = [0, 0, 0, 0, 0];
    lines.forEach(({ mx, my, dx, dy }, i) => {
      // The line's normal, and how far along it the line lies.
      const [nx, ny, w] = [-dy, dx, weights[i]!];
      const d = nx * mx + ny * my;
      xx += w * nx * nx;
      xy += w * nx * ny;
      yy += w * ny * ny;
      x += w * nx * d;
      y += w * ny * d;
    });
    const det = xx * yy - xy * xy;
    if (!(Math.abs(det) > 1e-12 * (xx + yy) ** 2)) return null;
    at = { x: (x * yy - y * xy) / det, y: (xx * y - xy * x) / det };
    const { x: px, y: py } = at;
    weights = lines.map(({ mx, my, half }) => (half / Math.max(half, Math.hypot(px - mx, py - my))) ** 2);
  }
  return at;
}

/** The direction that several strokes share, weighted by length squared: the main axis of their scatter. */
export function meanDirection(lines: readonly Line[]): number {
  let [xx, xy, yy] = [0, 0, 0];
  for (const { dx, dy, half } of lines) {
    const w = half * half;
    xx += w * dx * dx;
    xy += w * dx * dy;
    yy += w * dy * dy;
  }
  return 0.5 * Math.atan2(2 * xy, xx - yy);
}

/** An angle of a line in degrees, from -90 (excluded) to 90. */
export function withinHalf(deg: number): number {
  const turned = ((deg % 180) + 180) % 180;
  return turned > 90 ? turned - 180 : turned;
}
