import { invertSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import type { Seen } from './fit-bent';

/**
 * A free surface as it is shown: bicubic patches joined with equal bends, a tensor product of uniform cubic B-splines
 * from the sheet to the photograph. One patch each way is a bicubic Bezier patch.
 */
export interface PatchFit {
  readonly kind: 'patch';
  /** Patches along the sheet and down it. */
  readonly across: number;
  readonly down: number;
  /** The sheet's rectangle that they cover, in mm from its middle. */
  readonly minU: number;
  readonly minV: number;
  readonly maxU: number;
  readonly maxV: number;
  /** Control points in px, x and y, row by row: across + 3 to the row. */
  readonly control: readonly number[];
  /** The inverse of the normal equations, by which its uncertainty is told; the same for x and y. */
  readonly inverse: readonly number[];
  /** How many numbers of each coordinate the crossings tell, of as many as there are control points. */
  readonly freedom: number;
}

/** Weight of the bends against the misses, so that patches without crossings are not left to chance. */
const STIFF = 1e-6;

/** The four B-splines that are not 0 at a place, and the first of them. */
function basis(t: number, spans: number): { readonly first: number; readonly w: readonly number[] } {
  const s = t * spans;
  const first = Math.max(0, Math.min(spans - 1, Math.floor(s)));
  const x = s - first;
  const y = 1 - x;
  return { first, w: [(y * y * y) / 6, (3 * x * x * x - 6 * x * x + 4) / 6, (-3 * x * x * x + 3 * x * x + 3 * x + 1) / 6, (x * x * x) / 6] };
}

/** The control points that count at a place of the sheet, each with its weight. */
function weightsAt(patch: Pick<PatchFit, 'across' | 'down' | 'minU' | 'minV' | 'maxU' | 'maxV'>, u: number, v: number): readonly (readonly [number, number])[] {
  const [p, q] = [basis((u - patch.minU) / (patch.maxU - patch.minU), patch.across), basis((v - patch.minV) / (patch.maxV - patch.minV), patch.down)];
  const columns = patch.across + 3;
  return q.w.flatMap((b, j) => p.w.map((a, i) => [(q.first + j) * columns + p.first + i, a * b] as const));
}

/** Where places of a patch are shown. */
export function patchShown(patch: PatchFit): (u: number, v: number) => SheetPoint {
  return (u, v) => {
    let [x, y] = [0, 0];
    for (const [k, w] of weightsAt(patch, u, v)) {
      x += w * patch.control[2 * k]!;
      y += w * patch.control[2 * k + 1]!;
    }
    return { x, y };
  };
}

/** The variance that a patch has at a place of the sheet, in parts of that of one crossing of weight 1. */
export function patchVariance(patch: PatchFit, u: number, v: number): number {
  const n = (patch.across + 3) * (patch.down + 3);
  const at = weightsAt(patch, u, v);
  let sum = 0;
  for (const [i, a] of at) for (const [j, b] of at) sum += a * b * patch.inverse[i * n + j]!;
  return Math.max(0, sum);
}

/**
 * The patches nearest to what was seen, linear least squares with a small weight on their bends.
 * @param weights of each crossing, 1/px
 * @returns null where too little was seen
 */
export function fitPatch(
  seen: readonly Seen[],
  weights: readonly number[],
  across: number,
  down: number,
  half: { readonly u: number; readonly v: number },
): PatchFit | null {
  const area = { across, down, minU: -half.u, minV: -half.v, maxU: half.u, maxV: half.v };
  const n = (across + 3) * (down + 3);
  const normal = new Array<number>(n * n).fill(0);
  const [rx, ry] = [new Array<number>(n).fill(0), new Array<number>(n).fill(0)];
  seen.forEach(({ u, v, at }, i) => {
    const square = weights[i]! ** 2;
    if (square === 0) return;
    const own = weightsAt(area, u, v);
    for (const [k, a] of own) {
      rx[k]! += square * a * at.x;
      ry[k]! += square * a * at.y;
      for (const [l, b] of own) normal[k * n + l]! += square * a * b;
    }
  });
  const mean = normal.reduce((sum, value, k) => sum + (k % (n + 1) === 0 ? value : 0), 0) / n;
  const data = [...normal];
  for (const row of bends(across + 3, down + 3)) for (const [k, a] of row) for (const [l, b] of row) normal[k * n + l]! += STIFF * mean * a * b;
  const inverse = invertSymmetric(normal, n);
  if (!inverse) return null;
  const [x, y] = [rx, ry].map((right) => right.map((_, i) => right.reduce((sum, value, k) => sum + inverse[i * n + k]! * value, 0))) as [number[], number[]];
  let freedom = 0;
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) freedom += inverse[i * n + j]! * data[j * n + i]!;
  return { kind: 'patch', ...area, control: x.flatMap((value, i) => [value, y[i]!]), inverse, freedom };
}

/** Second differences of neighbouring control points, along both ways and across. */
function bends(columns: number, rows: number): readonly (readonly (readonly [number, number])[])[] {
  const out: (readonly [number, number])[][] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const k = j * columns + i;
      if (i + 2 < columns) out.push([[k, 1], [k + 1, -2], [k + 2, 1]]); // prettier-ignore
      if (j + 2 < rows) out.push([[k, 1], [k + columns, -2], [k + 2 * columns, 1]]); // prettier-ignore
      if (i + 1 < columns && j + 1 < rows) out.push([[k, 1], [k + 1, -1], [k + columns, -1], [k + columns + 1, 1]]); // prettier-ignore
    }
  return out;
}
