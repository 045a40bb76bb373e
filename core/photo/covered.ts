import type { LatticeSettings } from '../grid/lattice';
import type { SheetPoint } from '../math/points';

/** Boxes of paper round a lattice that are taken to be printed with it, and parts of a box by which it is followed. */
const [AROUND, FINE] = [1, 2];

/**
 * The px of a photograph in which the paper of a lattice lies.
 * @param shown where a place of the sheet is shown, in mm from the upper left crossing; null where it is not
 * @returns 1 for each px that is covered, row by row
 */
export function coveredBy(
  { columns, rows, box }: LatticeSettings,
  shown: (u: number, v: number) => SheetPoint | null,
  { width, height }: { readonly width: number; readonly height: number },
): Uint8Array {
  const out = new Uint8Array(width * height);
  const step = box / FINE;
  const corner = (i: number, j: number): SheetPoint | null => shown(i * step - AROUND * box, j * step - AROUND * box);
  const turn = turnOf([shown(0, 0), shown(columns * box, 0), shown(columns * box, rows * box), shown(0, rows * box)]);
  for (let j = 0; j < (rows + 2 * AROUND) * FINE; j++)
    for (let i = 0; i < (columns + 2 * AROUND) * FINE; i++) {
      const quad = [corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)];
      // What is turned away lies behind.
      if (turnOf(quad) * turn > 0) fill(out, width, height, quad as SheetPoint[]);
    }
  return out;
}

/** Twice the area of a polygon, with a sign by the way it goes round; 0 where a corner is not shown. */
function turnOf(points: readonly (SheetPoint | null)[]): number {
  return points.every((p) => p !== null) ? points.reduce((sum, p, i) => sum + cross(p, points[(i + 1) % points.length]!), 0) : 0;
}

const cross = (p: SheetPoint, q: SheetPoint): number => p.x * q.y - q.x * p.y;

/** Sets every px that a convex polygon touches. */
function fill(out: Uint8Array, width: number, height: number, points: readonly SheetPoint[]): void {
  const ys = points.map(({ y }) => y);
  for (let y = Math.max(0, Math.floor(Math.min(...ys))); y <= Math.min(height - 1, Math.floor(Math.max(...ys))); y++) {
    let [from, to] = [Infinity, -Infinity];
    points.forEach((p, i) => {
      const q = points[(i + 1) % points.length]!;
      // The part of the edge within this row of px.
      const [low, high] = [Math.max(y, Math.min(p.y, q.y)), Math.min(y + 1, Math.max(p.y, q.y))];
      if (low > high) return;
      for (const at of [low, high]) {
        const x = p.y === q.y ? p.x : p.x + ((at - p.y) / (q.y - p.y)) * (q.x - p.x);
        [from, to] = [Math.min(from, x), Math.max(to, x)];
      }
      if (p.y === q.y) [from, to] = [Math.min(from, q.x), Math.max(to, q.x)];
    });
    for (let x = Math.max(0, Math.floor(from)); x <= Math.min(width - 1, Math.floor(to)); x++) out[y * width + x] = 1;
  }
}
