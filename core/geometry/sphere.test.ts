import { commonCap, type Sphere } from './sphere';

const SPHERE: Sphere = { kind: 'sphere', centre: { a: 1, b: 2, h: 3 }, radius: 2, axis: { a: 0, b: 0, h: 1 }, low: 0 };
const UP = { a: 0, b: 0, h: 1 };
const DOWN = { a: 0, b: 0, h: -1 };

describe('what two caps have in common', () => {
  it('is the smaller one about one direction, once where both are of one size', () => {
    expect(commonCap(SPHERE, { axis: UP, low: 0 }, { axis: UP, low: 0 })).toHaveLength(1);
    const rings = commonCap(SPHERE, { axis: UP, low: 0.5 }, { axis: UP, low: 0 })!;
    expect(rings).toHaveLength(1);
    expect(rings[0]![0]!.frame.origin.h).toBeCloseTo(4, 12);
  });

  it('is a band about opposite directions, and nothing where they only touch', () => {
    expect(commonCap(SPHERE, { axis: UP, low: -0.2 }, { axis: DOWN, low: -0.3 })).toHaveLength(2);
    expect(commonCap(SPHERE, { axis: UP, low: 0 }, { axis: DOWN, low: 0 })).toBeNull();
    expect(commonCap(SPHERE, { axis: UP, low: 0.4 }, { axis: DOWN, low: 0 })).toBeNull();
  });
});
