import { apply33, type Mat33 } from '../math/matrix';
import { flatInk, type Mark } from './marks';
import { projectMarks, projectPath, tangentOf } from './project';

/** A plane that recedes to the right: depth grows from 1 to 3 over a hundred. */
const receding: Mat33 = [2, 0.1, 20, 0.4, 1.8, 30, 0.02, 0.004, 1];
const curve = { verbs: 'MCLZ', coords: [10, 10, 30, -20, 70, 60, 95, 20, 60, 70] };

function cubicAt(c: readonly number[], t: number): { x: number; y: number } {
  const s = 1 - t;
  const at = (o: number): number => s * s * s * c[o]! + 3 * s * s * t * c[2 + o]! + 3 * s * t * t * c[4 + o]! + t * t * t * c[6 + o]!;
  return { x: at(0), y: at(1) };
}

describe('artwork in perspective', () => {
  it('has its corners and straight lines exactly, and curves within a hundredth of a mm', () => {
    const path = projectPath(curve, receding, 0.001);
    const start = apply33(receding, 10, 10)!;
    expect(path.coords.slice(0, 2)).toEqual([start.x, start.y]);
    const corner = apply33(receding, 60, 70)!;
    expect(path.coords.slice(-2)).toEqual([corner.x, corner.y]);
    // Every point of the true curve has a drawn one beside it.
    const drawn: { x: number; y: number }[] = [];
    let from = path.coords.slice(0, 2);
    const cubics = path.verbs.split('C').length - 1;
    for (let k = 0; k < cubics; k++) {
      const c = [...from, ...path.coords.slice(2 + 6 * k, 8 + 6 * k)];
      for (let i = 0; i <= 400; i++) drawn.push(cubicAt(c, i / 400));
      from = c.slice(6);
    }
    expect(cubics).toBeGreaterThan(2);
    let most = 0;
    for (let i = 0; i <= 200; i++) {
      const p = cubicAt(curve.coords, i / 200);
      const q = apply33(receding, p.x, p.y)!;
      most = Math.max(most, Math.min(...drawn.map((d) => Math.hypot(d.x - q.x, d.y - q.y))));
    }
    expect(most).toBeLessThan(0.06);
  });

  it('touches its map with pens and gradients, and is mapped whole where nothing recedes', () => {
    const tangent = tangentOf(receding, 50, 40)!;
    const step = 1e-5;
    const [p, q] = [apply33(receding, 50, 40)!, apply33(receding, 50 + step, 40)!];
    expect(tangent[0]).toBeCloseTo((q.x - p.x) / step, 4);
    expect(tangent[1]).toBeCloseTo((q.y - p.y) / step, 4);
    const mark: Mark = { kind: 'path', path: curve, fill: flatInk('#b4553c'), rule: 'nonzero', line: null };
    const [affine] = projectMarks([mark], [2, 0, 5, 0, 2, 7, 0, 0, 1], 0);
    expect(affine).toMatchObject({ path: { verbs: 'MCLZ', coords: curve.coords.map((c, i) => 2 * c + (i % 2 ? 7 : 5)) } });
  });

  it('is cut at the near plane, where the rest would lie behind the eye', () => {
    const square = { verbs: 'MLLLZ', coords: [-80, 0, 40, 0, 40, 40, -80, 40] };
    const cut = projectPath(square, [1, 0, 0, 0, 1, 0, 0.02, 0, 1], 0.1);
    expect(cut.verbs).toBe('MLLLZ');
    expect(cut.coords.every((c) => Number.isFinite(c) && Math.abs(c) < 1000)).toBe(true);
    expect(projectPath(square, [1, 0, 0, 0, 1, 0, 0, 0, -1], 0.1).coords).toEqual([]);
  });
});
