import { fitLeastSquares, solveSymmetric } from './least-squares';

describe('least squares', () => {
  it('fits a curve that is not linear in its parameters, and tells how certain they are', () => {
    const xs = Array.from({ length: 20 }, (_, i) => i / 4);
    const noise = (i: number): number => 0.01 * Math.sin(i * 12.9898);
    const ys = xs.map((x, i) => 3 * Math.exp(-0.7 * x) + 0.5 + noise(i));
    const fit = fitLeastSquares(([a, k, c]) => xs.map((x, i) => a! * Math.exp(-k! * x) + c! - ys[i]!), [1, 0.2, 0], [1e-6, 1e-6, 1e-6]);
    expect(fit.parameters[0]).toBeCloseTo(3, 1);
    expect(fit.parameters[1]).toBeCloseTo(0.7, 1);
    expect(fit.parameters[2]).toBeCloseTo(0.5, 1);
    expect(fit.cost).toBeLessThan(0.002);
    expect(fit.inverse![0]!).toBeGreaterThan(0);
  });

  it('says when observations do not tell every parameter', () => {
    const fit = fitLeastSquares(([p, q]) => [p! + q! - 3, 2 * (p! + q!) - 6], [0, 0], [1e-6, 1e-6]);
    expect(fit.parameters[0]! + fit.parameters[1]!).toBeCloseTo(3, 6);
    expect(fit.inverse).toBeNull();
  });

  it('solves symmetric systems by hand-computed values', () => {
    expect(solveSymmetric([4, 2, 2, 3], [8, 7])!.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([1.25, 1.5]);
    expect(solveSymmetric([1, 2, 2, 4], [1, 2])).toBeNull();
    expect(solveSymmetric([-1, 0, 0, 1], [1, 1])).toBeNull();
  });
});
