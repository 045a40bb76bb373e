import type { DocumentNode, GroupNode, ShapeNode } from '../document/types';
import type { JoinKind } from '../geometry/joined-recipe';
import { rectangleOutline } from '../shape/outline';
import type { SolidKind } from '../solids/kinds';
import { solidOn } from '../solids/solids';

/** Three figures: along a, b and up. */
export type Triple = readonly [number, number, number];

/** What every thing has besides its kind. */
export const base = (id: string) => ({ id, name: id, hidden: false, locked: false });
const PAINT = { fill: '#c98a4b', line: null };

/** A box from a corner at a, b, h by its width, length and height, in cells. */
export function box(id: string, [a, b, h]: Triple, [w, l, t]: Triple, more: Partial<ShapeNode> = {}): ShapeNode {
  const outline = rectangleOutline({ u: a, v: b }, { u: a + w, v: b + l });
  return { ...base(id), kind: 'shape', plane: { kind: 'floor', offset: h }, outline, depth: t, paint: PAINT, ...more };
}

export function solid(id: string, kind: SolidKind, [a, b, h]: Triple, [w, l, t]: Triple): ShapeNode {
  const made = solidOn(kind, { plane: { kind: 'floor', offset: h }, from: { u: a, v: b }, to: { u: a + w, v: b + l }, height: t, turn: 0 }, { ridge: 1, wall: 0.5, bar: 1, pier: 1, crown: 1, sides: 5, count: 3, top: 0.5 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  return { ...base(id), kind: 'shape', paint: PAINT, ...made.value };
}

export const group = (id: string, children: readonly DocumentNode[], joined?: JoinKind): GroupNode => ({
  ...base(id),
  kind: 'group',
  children,
  ...(joined && { joined }),
});
