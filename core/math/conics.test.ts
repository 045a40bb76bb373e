import { apply33, type Mat33 } from './matrix';
import { circleConic, drawnCircle, ellipseOf, mapConic } from './conics';

/** Largest distance from an ellipse of points of a circle mapped one by one. */
function farthest(h: Mat33, u: number, v: number, radius: number): number {
  const ellipse = drawnCircle(h, u, v, radius)!;
  let most = 0;
  for (let i = 0; i < 720; i++) {
    const t = (i / 720) * 2 * Math.PI;
    const p = apply33(h, u + radius * Math.cos(t), v + radius * Math.sin(t))!;
    const [x, y] = [p.x - ellipse.centre.x, p.y - ellipse.centre.y];
    const along = x * Math.cos(ellipse.turnRad) + y * Math.sin(ellipse.turnRad);
    const across = -x * Math.sin(ellipse.turnRad) + y * Math.cos(ellipse.turnRad);
    most = Math.max(most, Math.abs((along / ellipse.major) ** 2 + (across / ellipse.minor) ** 2 - 1));
  }
  return most;
}

describe('circles as they are drawn', () => {
  it('are exact ellipses under parallel projections and in perspective', () => {
    const isometric: Mat33 = [0.866, -0.866, 10, -0.5, -0.5, 20, 0, 0, 1];
    const perspective: Mat33 = [200, -90, 150, 12, -30, 120, 0.004, 0.006, 1.2];
    expect(farthest(isometric, 3, -2, 4)).toBeLessThan(1e-9);
    expect(farthest(perspective, 5, 3, 20)).toBeLessThan(1e-9);
    const round = drawnCircle([2, 0, 5, 0, 2, 7, 0, 0, 1], 1, 1, 3)!;
    expect([round.centre.x, round.centre.y]).toEqual([expect.closeTo(7, 12), expect.closeTo(9, 12)]);
    expect([round.major, round.minor]).toEqual([expect.closeTo(6, 12), expect.closeTo(6, 12)]);
    const flat = drawnCircle([3, 0, 0, 0, 1, 0, 0, 0, 1], 0, 0, 1)!;
    expect([flat.major, flat.minor, Math.abs(Math.sin(flat.turnRad))]).toEqual([expect.closeTo(3, 12), expect.closeTo(1, 12), 0]);
    expect(Math.abs(Math.sin(drawnCircle([1, 0, 0, 0, 3, 0, 0, 0, 1], 0, 0, 1)!.turnRad))).toBe(1);
  });

  it('are none where they cross the eye’s plane, and conics that are no ellipse are told', () => {
    const perspective: Mat33 = [200, 0, 0, 0, 200, 0, 0, 1, 1];
    expect(drawnCircle(perspective, 0, 0, 0.9)).not.toBeNull();
    expect(drawnCircle(perspective, 0, 0, 1)).toBeNull();
    expect(drawnCircle(perspective, 0, 0, 2)).toBeNull();
    expect(ellipseOf(mapConic(circleConic(0, 0, 2), perspective)!)).toBeNull();
    expect(ellipseOf([1, 0, 0, 0, 1, 0, 0, 0, 1])).toBeNull();
    expect(mapConic(circleConic(0, 0, 1), [1, 2, 0, 2, 4, 0, 0, 0, 1])).toBeNull();
  });
});
