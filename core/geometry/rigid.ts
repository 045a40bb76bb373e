import { exactCells } from '../math/exact';
import { cosDeg, sinDeg } from '../math/figures';
import type { Axis, WorldPoint } from '../math/points';

/** A direction along an axis, or against it. */
export type SignedAxis = Axis | `-${Axis}`;

/** Displacement in cells along the world's axes; on the sheet a is right and b is down. */
export interface CellMove {
  readonly a: number;
  readonly b: number;
  readonly h: number;
}

/**
 * A move that keeps all lengths: first quarter turns and mirrors about the world's origin, as the directions into which
 * a, b and h are carried, then a free turn about an axis through the origin, then a displacement. Without turns it is
 * exact in ticks, and with quarter turns and mirrors too.
 */
export interface RigidMove {
  readonly axes?: readonly [SignedAxis, SignedAxis, SignedAxis];
  /** Anticlockwise seen from the axis's far end, in degrees. */
  readonly turn?: { readonly axis: Axis; readonly deg: number };
  readonly by: CellMove;
}

/** A rigid move as three columns and a displacement, for applying it. */
export interface RigidMap {
  /** The images of the directions a, b and h. */
  readonly columns: readonly [WorldPoint, WorldPoint, WorldPoint];
  readonly by: CellMove;
  /** It turns left into right. */
  readonly mirrors: boolean;
}

const AXES = ['a', 'b', 'h'] as const;

function unitOf(signed: SignedAxis): WorldPoint {
  const axis = signed.at(-1) as Axis;
  return { a: 0, b: 0, h: 0, [axis]: signed.length === 2 ? -1 : 1 };
}

/** Whether three directions are three different axes. */
export function areAxes(axes: readonly SignedAxis[]): boolean {
  return axes.length === 3 && new Set(axes.map((signed) => signed.at(-1))).size === 3;
}

/** A move ready to be applied. */
export function rigidMap({ axes, turn, by }: RigidMove): RigidMap {
  let columns = (axes ?? AXES).map(unitOf) as [WorldPoint, WorldPoint, WorldPoint];
  if (turn) columns = columns.map((column) => turned(column, turn)) as typeof columns;
  const [p, q, r] = columns;
  const determinant = p.a * (q.b * r.h - q.h * r.b) - p.b * (q.a * r.h - q.h * r.a) + p.h * (q.a * r.b - q.b * r.a);
  return { columns, by, mirrors: determinant < 0 };
}

function turned(p: WorldPoint, { axis, deg }: NonNullable<RigidMove['turn']>): WorldPoint {
  const i = AXES.indexOf(axis);
  const [x, y] = [AXES[(i + 1) % 3]!, AXES[(i + 2) % 3]!];
  const [cos, sin] = [cosDeg(deg), sinDeg(deg)];
  return { ...p, [x]: p[x] * cos - p[y] * sin, [y]: p[x] * sin + p[y] * cos };
}

/** A direction carried along. */
export function carryDirection({ columns: [p, q, r] }: RigidMap, d: WorldPoint): WorldPoint {
  return { a: p.a * d.a + q.a * d.b + r.a * d.h, b: p.b * d.a + q.b * d.b + r.b * d.h, h: p.h * d.a + q.h * d.b + r.h * d.h };
}

/** A place in cells carried along. */
export function carryPoint(map: RigidMap, at: WorldPoint): WorldPoint {
  const d = carryDirection(map, at);
  return { a: d.a + map.by.a, b: d.b + map.by.b, h: d.h + map.by.h };
}

/** The way back of a move. */
export function inverseMap({ columns: [p, q, r], by, mirrors }: RigidMap): RigidMap {
  const back: RigidMap = { columns: [{ a: p.a, b: q.a, h: r.a }, { a: p.b, b: q.b, h: r.b }, { a: p.h, b: q.h, h: r.h }], by: { a: 0, b: 0, h: 0 }, mirrors }; // prettier-ignore
  const at = carryDirection(back, by);
  return { ...back, by: { a: 0 - at.a, b: 0 - at.b, h: 0 - at.h } };
}

/** Whether a move only displaces. */
export function onlyShifts({ axes, turn }: RigidMove): boolean {
  return (!axes || AXES.every((axis, i) => axes[i] === axis)) && (!turn || turn.deg === 0);
}

const exactMove = ({ a, b, h }: CellMove): CellMove => ({ a: exactCells(a), b: exactCells(b), h: exactCells(h) });

/**
 * The move of a copy after a displacement of the copy alone, or of it and its original by the same amount: their
 * distance then stays what it was.
 * @param along the original is displaced too
 */
export function shiftedMove(move: RigidMove, by: CellMove, along: boolean): RigidMove {
  const { by: at } = move;
  if (!along) return { ...move, by: exactMove({ a: at.a + by.a, b: at.b + by.b, h: at.h + by.h }) };
  if (onlyShifts(move)) return move;
  // T(d) M T(-d): the original's displacement reaches the copy turned, and is taken back.
  const back = carryDirection(rigidMap(move), by);
  return { ...move, by: exactMove({ a: at.a + by.a - back.a, b: at.b + by.b - back.b, h: at.h + by.h - back.h }) };
}

/** A map after another, for copies within copies. */
export function composeMaps(second: RigidMap, first: RigidMap): RigidMap {
  const columns = first.columns.map((column) => carryDirection(second, column)) as unknown as RigidMap['columns'];
  return { columns, by: carryPoint(second, first.by), mirrors: second.mirrors !== first.mirrors };
}
