import { randomFrom, runs } from '../testing/random';
import { scene } from '../testing/solids';
import { holds } from './holds';

describe('a closed body', () => {
  it('holds what its recipe says lies inside', () => {
    const random = randomFrom(12);
    const solids = scene(12, 24, ['box', 'angle', 'wedge', 'frame', 'steps', 'pyramid', 'letter', 'copy'], false);
    let inside = 0;
    for (let i = 0; i < runs(600); i++) {
      const { body, spans } = solids[i % solids.length]!;
      const within = (axis: 'a' | 'b' | 'h'): number => body.bounds.min[axis] - 0.2 + random() * (body.bounds.max[axis] - body.bounds.min[axis] + 0.4);
      const at = { a: within('a'), b: within('b'), h: within('h') };
      const truth = spans({ from: at, toEye: { a: 0.2, b: 0.3, h: 0.93 }, most: Infinity }).some(([low, high]) => low < 0 && high > 0);
      if (truth) inside++;
      expect(holds(body, at)).toBe(truth);
    }
    expect(inside).toBeGreaterThan(runs(100));
  });
});
