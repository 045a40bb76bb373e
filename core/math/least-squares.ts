/** What a fit comes to. */
export interface Fit {
  readonly parameters: readonly number[];
  /** Residuals at the end, in the unit of the residual function. */
  readonly residuals: readonly number[];
  /** Sum of their squares. */
  readonly cost: number;
  /** The inverse of J^T J by rows, or null where it is singular: the observations do not tell every parameter. */
  readonly inverse: readonly number[] | null;
}

const MAX_ROUNDS = 60;

/**
 * The parameters that make the sum of squared residuals least, near a start: Levenberg-Marquardt with Marquardt's
 * scaling and a numeric Jacobian (Press et al., Numerical Recipes, 15.5). For fits of a handful of parameters.
 * @param steps a small step of each parameter, for its derivative
 * @param rounds most steps that are taken
 */
export function fitLeastSquares(
  residualsOf: (p: readonly number[]) => readonly number[],
  start: readonly number[],
  steps: readonly number[],
  rounds = MAX_ROUNDS,
): Fit {
  const n = start.length;
  let p = [...start];
  let r = residualsOf(p);
  let cost = squares(r);
  let damping = 1e-3;
  for (let round = 0; round < rounds; round++) {
    const { normal, gradient } = normalEquations(residualsOf, p, r, steps);
    let improved = false;
    for (let tries = 0; tries < 12 && !improved; tries++) {
      const damped = normal.map((value, k) => (k % (n + 1) === 0 ? value * (1 + damping) + 1e-300 : value));
      const step = solveSymmetric(damped, gradient);
      const next = step && p.map((value, k) => value - step[k]!);
      const nextR = next && residualsOf(next);
      const nextCost = nextR ? squares(nextR) : Infinity;
      if (next && nextR && nextCost < cost) {
        const gain = cost - nextCost;
        [p, r, cost, damping, improved] = [next, nextR, nextCost, damping / 5, true];
        if (gain <= 1e-14 * cost) return finish(residualsOf, p, r, cost, steps);
      } else damping *= 5;
    }
    if (!improved) break;
  }
  return finish(residualsOf, p, r, cost, steps);
}

function finish(
  residualsOf: (p: readonly number[]) => readonly number[],
  p: readonly number[],
  r: readonly number[],
  cost: number,
  steps: readonly number[],
): Fit {
  const { normal } = normalEquations(residualsOf, p, r, steps);
  const inverse = invertSymmetric(normal, p.length);
  return { parameters: p, residuals: r, cost, inverse };
}

const squares = (r: readonly number[]): number => r.reduce((sum, value) => sum + value * value, 0);

function normalEquations(
  residualsOf: (p: readonly number[]) => readonly number[],
  p: readonly number[],
  r: readonly number[],
  steps: readonly number[],
): { normal: number[]; gradient: number[] } {
  const n = p.length;
  const columns = p.map((value, k) => {
    const step = steps[k]!;
    const ahead = residualsOf(p.map((other, i) => (i === k ? value + step : other)));
    const behind = residualsOf(p.map((other, i) => (i === k ? value - step : other)));
    return ahead.map((a, i) => (a - behind[i]!) / (2 * step));
  });
  const dot = (x: readonly number[], y: readonly number[]): number => x.reduce((sum, value, i) => sum + value * y[i]!, 0);
  const normal: number[] = [];
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) normal.push(dot(columns[i]!, columns[j]!));
  return { normal, gradient: columns.map((column) => dot(column, r)) };
}

/** The solution of a symmetric positive definite system by Cholesky's decomposition, or null where it is not definite. */
export function solveSymmetric(matrix: readonly number[], right: readonly number[]): number[] | null {
  const l = cholesky(matrix, right.length);
  return l && solveBy(l, right);
}

/** The inverse of a symmetric positive definite matrix of n rows, by rows, or null where it is not definite. O(n^3). */
export function invertSymmetric(matrix: readonly number[], n: number): number[] | null {
  const l = cholesky(matrix, n);
  if (!l) return null;
  const unit = new Array<number>(n).fill(0);
  const out: number[] = [];
  for (let k = 0; k < n; k++) {
    unit[k] = 1;
    for (const value of solveBy(l, unit)) out.push(value);
    unit[k] = 0;
  }
  return out;
}

/** The lower triangle L with L L^T the matrix, by rows. */
function cholesky(matrix: readonly number[], n: number): readonly number[] | null {
  const l = new Array<number>(n * n).fill(0);
  let scale = 0;
  for (const value of matrix) scale = Math.max(scale, Math.abs(value));
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!;
      if (i !== j) l[i * n + j] = sum / l[j * n + j]!;
      else if (sum > 1e-15 * scale || (sum > 0 && sum > 1e-13 * matrix[i * n + i]!)) l[i * n + i] = Math.sqrt(sum);
      else return null;
    }
  }
  return l;
}

function solveBy(l: readonly number[], right: readonly number[]): number[] {
  const n = right.length;
  const x = [...right];
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) x[i]! -= l[i * n + k]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= l[k * n + i]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  return x;
}
