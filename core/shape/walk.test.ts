import { arcOutline, ellipseOutline } from './forms';
import { outlineThrough } from './outline';
import { lineWalk } from './walk';

describe('the way along a line', () => {
  it('is measured on circles, and gone round again', () => {
    const walk = lineWalk(ellipseOutline({ u: 3, v: 2 }, { u: 5, v: 5 }))!;
    expect(walk.length).toBeCloseTo(10 * Math.PI, 5);
    for (let i = 0; i < 40; i++) {
      const { at, along } = walk.place((i / 7) * walk.length);
      expect(Math.hypot(at.u - 3, at.v - 2)).toBeCloseTo(5, 4);
      expect(along.u * (at.u - 3) + along.v * (at.v - 2)).toBeCloseTo(0, 3);
    }
    const [p, q] = [walk.place(1).at, walk.place(1 + walk.length / 4).at];
    expect((p.u - 3) * (q.u - 3) + (p.v - 2) * (q.v - 2)).toBeCloseTo(0, 3);
  });

  it('goes on straight beyond the ends of an open line', () => {
    const walk = lineWalk(outlineThrough([{ u: 0, v: 0 }, { u: 3, v: 4 }, { u: 3, v: 10 }], false))!; // prettier-ignore
    expect(walk.length).toBe(11);
    expect(walk.place(-5).at).toEqual({ u: -3, v: -4 });
    expect(walk.place(7).at).toEqual({ u: 3, v: 6 });
    expect(walk.place(13)).toEqual({ at: { u: 3, v: 12 }, along: { u: 0, v: 1 } });
  });

  it('finds how far along the nearest place is', () => {
    const walk = lineWalk(arcOutline({ u: 0, v: 0 }, { u: 4, v: 3 }, { u: 8, v: 0 })!)!;
    for (let d = 0; d <= walk.length; d += 0.37) expect(walk.nearest(walk.place(d).at)).toBeCloseTo(d, 2);
  });

  it('is none where there is no length', () => {
    expect(lineWalk(outlineThrough([{ u: 1, v: 1 }], false))).toBeNull();
  });
});
