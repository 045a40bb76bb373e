import fc from 'fast-check';
import { bodyVolume, surfaceArea } from '../geometry/body-measures';
import { surfaceNamed, worldPoints } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import { dotWorld } from '../math/points';
import { outlineThrough } from '../shape/outline';
import type { SOLID_KINDS } from '../solids/kinds';
import { solidOn } from '../solids/solids';
import { withSurfaceMoved } from './move-surface';
import type { ShapeNode } from './types';

const node = (made: Pick<ShapeNode, 'plane' | 'outline' | 'depth'>): ShapeNode => ({ kind: 'shape', id: 'x', name: 'x', hidden: false, locked: false, paint: { fill: '#888888', line: null }, ...made }); // prettier-ignore

function solid(kind: (typeof SOLID_KINDS)[number], turn = 0, height = 3): ShapeNode {
  const made = solidOn(kind, { plane: { kind: 'floor', offset: 1 }, from: { u: 1, v: 2 }, to: { u: 7, v: 6 }, height, turn }, { ridge: 2, wall: 0.5, bar: 1, pier: 1, crown: 0.5, sides: 4, count: 3, top: 0.5 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  return node(made.value);
}

describe('moving a face along its normal', () => {
  it('moves flat faces of what does not taper, and nothing but them: the volume grows by the area times the way', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('box', 'frame', 'prism' as const),
        fc.integer({ min: 0, max: 3 }),
        fc.boolean(),
        fc.nat(40),
        fc.integer({ min: -3, max: 12 }),
        (kind, turn, down, pick, tenths) => {
          const shape = solid(kind, turn, down ? -3 : 3);
          const before = bodyOf(shape)!;
          const surface = before.surfaces[pick % before.surfaces.length]!;
          const by = tenths / 10;
          const moved = withSurfaceMoved(shape, surface.name, by);
          if (!moved.ok) throw new Error(moved.reason);
          const after = bodyOf(moved.value)!;
          expect(bodyVolume(after)! - bodyVolume(before)!).toBeCloseTo(surfaceArea(surface) * by, 6);
          const level = (body: typeof before): number => {
            const there = surfaceNamed(body, surface.name)!;
            return there.form.kind === 'flat' ? dotWorld(worldPoints(there.loops[0]!)[0]!, there.form.frame.normal) : 0;
          };
          expect(level(after) - level(before)).toBeCloseTo(by, 9);
          expect(after.surfaces.map(({ name }) => name)).toEqual(before.surfaces.map(({ name }) => name));
        },
      ),
      { seed: 5, numRuns: 200 },
    );
  });

  it('slides corners along slanting neighbours', () => {
    const corners = outlineThrough([{ u: 0, v: 0 }, { u: 6, v: 0 }, { u: 4, v: 3 }, { u: 0, v: 3 }], true); // prettier-ignore
    const moved = withSurfaceMoved(node({ plane: { kind: 'floor', offset: 0 }, outline: corners, depth: 2 }), 'side:3', 1.5);
    expect(moved.ok && moved.value.outline.points.map(({ u, v }) => [u, v])).toEqual([[0, 0], [6, 0], [3, 4.5], [0, 4.5]]); // prettier-ignore
  });

  it('widens round sides all the way round, inner ones into the wall', () => {
    const cylinder = withSurfaceMoved(solid('cylinder'), 'side:1', 0.5);
    expect(cylinder.ok && bodyVolume(bodyOf(cylinder.value)!)).toBeCloseTo((Math.PI / 4) * 7 * 5 * 3, 6);
    const tube = withSurfaceMoved(solid('tube'), 'side:5', 0.25);
    expect(tube.ok && bodyVolume(bodyOf(tube.value)!)).toBeCloseTo((Math.PI / 4) * (6 * 4 - 4.5 * 2.5) * 3, 6);
    const ball = withSurfaceMoved(solid('ball'), 'round:1', 0.5);
    expect(ball.ok && bodyVolume(bodyOf(ball.value)!)).toBeCloseTo((Math.PI / 6) * 7 ** 3, 6);
  });

  it('says why not', () => {
    const reason = (shape: ShapeNode, name: string, by: number): string => {
      const moved = withSurfaceMoved(shape, name, by);
      return moved.ok ? '' : moved.reason;
    };
    expect(reason(solid('box'), 'end', -3)).toContain('Nothing of the solid');
    expect(reason(solid('box'), 'side:2', -6)).toContain('Nothing of the solid');
    expect(reason(solid('box'), 'side:9', 1)).toContain('no such face');
    expect(reason(solid('pyramid'), 'side:1', 1)).toContain('taper');
    expect(reason(solid('arch'), 'side:3', 1)).toContain('straight');
    expect(reason(solid('frame'), 'side:5', 3)).toContain('Nothing of the solid');
    expect(reason(solid('frame'), 'side:5', -1.5)).toContain('Nothing of the solid');
    expect(reason(solid('frame'), 'side:5', -0.5)).toBe('');
  });
});
