import { emptyDocument, type CheminDocument, type ShapeNode } from '../document/types';
import type { Plane } from '../projection/planes';
import { ellipseOutline } from '../shape/forms';
import { outlineThrough, rectangleOutline, type Outline } from '../shape/outline';
import { regionsOf } from '../shape/regions';
import { linesInPlane } from './plane-lines';

let count = 0;
const flat = (plane: Plane, outline: Outline, depth = 0): ShapeNode => ({
  kind: 'shape',
  id: `n${count++}`,
  name: 'n',
  hidden: false,
  locked: false,
  plane,
  outline,
  depth,
  paint: { fill: null, line: null },
});
const scene = (...nodes: ShapeNode[]): CheminDocument => ({ ...emptyDocument('d', 'd'), nodes });
const FLOOR: Plane = { kind: 'floor', offset: 0 };

describe('lines that lie in a plane', () => {
  it('include the edge of a wall that stands on the floor, so that it closes a region', () => {
    const open = outlineThrough([{ u: 0, v: 0 }, { u: 0, v: 5 }, { u: 6, v: 5 }, { u: 6, v: 0 }], false); // prettier-ignore
    const wall = flat({ kind: 'right', offset: 0 }, rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 4 }));
    expect(regionsOf(linesInPlane(scene(flat(FLOOR, open)), FLOOR)).regions).toHaveLength(0);
    const lines = linesInPlane(scene(flat(FLOOR, open), wall), FLOOR);
    expect(lines).toHaveLength(2);
    expect(regionsOf(lines).regions).toHaveLength(1);
  });

  it('leave out what only crosses the plane, what is hidden, solids, and the same plane elsewhere', () => {
    const across = flat({ kind: 'left', offset: 2 }, rectangleOutline({ u: 0, v: -1 }, { u: 3, v: 1 }));
    const solid = flat({ kind: 'right', offset: 0 }, rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 4 }), 2);
    const hidden = { ...flat(FLOOR, rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 })), hidden: true };
    const above = flat({ kind: 'floor', offset: 1 }, rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }));
    expect(linesInPlane(scene(across, solid, hidden, above), FLOOR)).toEqual([]);
  });

  it('keep a circle of a free plane that lies in the floor as true arcs', () => {
    const free: Plane = { kind: 'free', offset: 0, stance: { at: { a: 1, b: 1, h: 0 }, u: { a: 0.6, b: 0.8, h: 0 }, v: { a: -0.8, b: 0.6, h: 0 } } };
    const lines = linesInPlane(scene(flat(free, ellipseOutline({ u: 2, v: 0 }, { u: 1, v: 1 }))), FLOOR);
    expect(lines).toHaveLength(4);
    expect(lines.every((line) => line.points[0]!.arc)).toBe(true);
    const [region] = regionsOf(lines).regions;
    expect(region!.points).toHaveLength(4);
    for (const { u, v } of region!.points) expect(Math.hypot(u - 2.2, v - 2.6)).toBeCloseTo(1, 4);
  });
});
