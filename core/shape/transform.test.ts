import fc from 'fast-check';
import { ellipseOf4, ellipseOutline, smoothOutline } from './forms';
import { moveOutline, outlineThrough, rectangleOutline } from './outline';
import { mirrorOutline, outlineBox, scaleOutline, toPlane, turnOutline, turnQuarters, type Laid } from './transform';
import type { Plane } from '../projection/planes';

const flag = outlineThrough([{ u: 1, v: 2 }, { u: 5, v: 2 }, { u: 5, v: 4 }, { u: 1, v: 9 }], true); // prettier-ignore
const plane = (kind: Plane['kind'], offset = 0): Plane => ({ kind, offset });
const PLAIN = { fill: '#204060', line: null };
const places = (laid: Laid): string[] => laid.outline.points.map((p) => `${p.u} ${p.v}`);

describe('turning, mirroring and scaling', () => {
  it('are exact by quarters, and come back', () => {
    expect(turnQuarters(flag, { u: 0, v: 0 }, 1).points[1]).toMatchObject({ u: -2, v: 5 });
    fc.assert(
      fc.property(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -300, max: 300 }), (quarters, centre) => {
        const about = { u: centre / 7, v: -centre / 3 };
        expect(turnQuarters(turnQuarters(flag, about, quarters), about, -quarters)).toEqual(flag);
        expect(mirrorOutline(mirrorOutline(flag, 'u', about.u), 'u', about.u)).toEqual(flag);
      }),
      { seed: 9, numRuns: 100 },
    );
    const turned = turnOutline(turnOutline(flag, { u: 3, v: 3 }, 30), { u: 3, v: 3 }, 60);
    turned.points.forEach((p, i) => {
      expect(p.u).toBeCloseTo(turnQuarters(flag, { u: 3, v: 3 }, 1).points[i]!.u, 3);
      expect(p.v).toBeCloseTo(turnQuarters(flag, { u: 3, v: 3 }, 1).points[i]!.v, 3);
    });
  });

  it('carry curves, conics and roundings along', () => {
    const circle = ellipseOutline({ u: 2, v: 2 }, { u: 2, v: 1 });
    expect(ellipseOf4(scaleOutline(circle, { u: 2, v: 2 }, 1.5))).toEqual({ centre: { u: 2, v: 2 }, radii: { u: 3, v: 1.5 } });
    const box = outlineBox(turnQuarters(circle, { u: 2, v: 2 }, 1))!;
    expect(box.maxV - box.minV).toBeCloseTo(4, 3);
    expect(box.maxU - box.minU).toBeCloseTo(2, 3);
    const curve = smoothOutline([{ u: 0, v: 0 }, { u: 4, v: 2 }, { u: 8, v: 0 }], false); // prettier-ignore
    const [, p] = mirrorOutline(curve, 'v', 0).points;
    expect([p!.v, p!.into!.v, p!.out!.v]).toEqual([-2, -2, -2]);
    const rounded = { ...flag, points: flag.points.map((q) => ({ ...q, corner: { kind: 'round', size: 0.5 } as const })) };
    expect(scaleOutline(rounded, { u: 0, v: 0 }, 2).points[0]!.corner).toEqual({ kind: 'round', size: 1 });
    expect(outlineBox({ points: [], closed: false })).toBeNull();
  });
});

describe('laying on another plane', () => {
  it('goes round the upright that the walls share, keeps sizes, and stays readable', () => {
    const laid = toPlane({ outline: flag, plane: plane('right', 3), paint: PLAIN }, 'left');
    // The right wall's shape stands at a 1 to 5 with b 3; its near upright is at a 1, b 3.
    expect(laid.plane).toEqual(plane('left', 1));
    // Read from left to right it begins with its left edge: on the left wall that is the larger b.
    expect(places(laid)).toEqual(['7 2', '3 2', '3 4', '7 9']);
    expect(toPlane(laid, 'right')).toEqual({ outline: flag, plane: plane('right', 3), paint: PLAIN });
  });

  it('folds at the lower edge between the right wall and the floor, or keeps the middle', () => {
    const down = toPlane({ outline: flag, plane: plane('right', 3), paint: PLAIN }, 'floor');
    expect(down.plane).toEqual(plane('floor', 2));
    expect(places(down)).toEqual(['1 3', '5 3', '5 5', '1 10']);
    const square = rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 });
    const middle = toPlane({ outline: square, plane: plane('right', 6), paint: PLAIN }, 'left', 'centre');
    expect(middle.plane).toEqual(plane('left', 2));
    expect(outlineBox(middle.outline)).toEqual({ minU: 4, maxU: 8, minV: 0, maxV: 4 });
  });

  it('comes back from everywhere, for any shape and offset', () => {
    const kinds = fc.constantFrom<'floor' | 'left' | 'right' | 'sheet'>('floor', 'left', 'right', 'sheet');
    fc.assert(
      fc.property(kinds, kinds, fc.integer({ min: -99, max: 99 }), fc.integer({ min: -50, max: 50 }), (from, to, offset, by) => {
        const before: Laid = { outline: moveOutline(flag, by / 6, by / 7), plane: plane(from, from === 'sheet' ? 0 : offset / 10), paint: PLAIN };
        const there = toPlane(before, to);
        expect(there.plane.kind).toBe(to);
        const [p, q] = [outlineBox(before.outline)!, outlineBox(there.outline)!];
        expect(q.maxU - q.minU).toBeCloseTo(p.maxU - p.minU, 9);
        expect(q.maxV - q.minV).toBeCloseTo(p.maxV - p.minV, 9);
        const floors = [from, to].includes('floor') && [from, to].includes('left');
        if (from !== 'sheet' && to !== 'sheet' && !floors) expect(toPlane(there, from)).toEqual(before);
      }),
      { seed: 12, numRuns: 300 },
    );
  });
});
