import { exactCells } from '../math/exact';
import { addWorld, scaleWorld, type Axis, type SheetPoint, type WorldPoint } from '../math/points';

import { lengthAlong } from './along';
import { clipLineNear } from './near';
import { facing, sheetFromWorld, type Projection } from './projection';

/** A box along the axes that is shown and not drawn: to judge a view by, or to lay out where something will stand. In cells. */
export interface TrialBox {
  /** Its lowest corner along every axis. */
  readonly at: WorldPoint;
  /** Its extents, all more than 0. */
  readonly size: WorldPoint;
}

/** A corner of a box: along which axes it lies at the far end. */
export type BoxCorner = Readonly<Record<Axis, 0 | 1>>;

const AXES = ['a', 'b', 'h'] as const;
/** The eight corners. */
export const BOX_CORNERS: readonly BoxCorner[] = [0, 1].flatMap((h) => [0, 1].flatMap((b) => [0, 1].map((a) => ({ a, b, h }) as BoxCorner)));

/** Least extent that dragging leaves, in cells. */
const LEAST_CELLS = 0.1;

/** Where a corner of a trial box is, in cells. */
export function trialCorner({ at, size }: TrialBox, corner: BoxCorner): WorldPoint {
  return { a: exactCells(at.a + corner.a * size.a), b: exactCells(at.b + corner.b * size.b), h: exactCells(at.h + corner.h * size.h) };
}

/** An edge of a trial box as it is drawn. */
export interface TrialEdge {
  readonly axis: Axis;
  readonly from: SheetPoint;
  readonly to: SheetPoint;
  /** The two faces that meet in it are both turned away. */
  readonly hidden: boolean;
  /** One of them is, the other is seen: it lies on the outline. */
  readonly outer: boolean;
}

/** The edges of a trial box on the sheet, as far as they lie before the eye. @param cell edge of a cell in mm */
export function trialEdges(projection: Projection, trial: TrialBox, cell: number): readonly TrialEdge[] {
  const turned = turnedFaces(projection, trial, cell);
  return AXES.flatMap((axis) =>
    BOX_CORNERS.filter((corner) => corner[axis] === 0).flatMap((corner): TrialEdge[] => {
      const ends = [corner, { ...corner, [axis]: 1 as const }].map((end) => scaleWorld(trialCorner(trial, end), cell));
      const [run] = clipLineNear(projection, ends);
      const [from, to] = (run ?? []).flatMap((p) => sheetFromWorld(projection, p) ?? []);
      const seen = AXES.filter((other) => other !== axis && turned(other, corner[other])).length;
      return from && to ? [{ axis, from, to, hidden: seen === 0, outer: seen === 1 }] : [];
    }),
  );
}

/** Whether the face of a box at an end of an axis is turned to the eye. */
function turnedFaces(projection: Projection, trial: TrialBox, cell: number): (axis: Axis, end: 0 | 1) => boolean {
  return (axis, end) => {
    const normal = { a: 0, b: 0, h: 0, [axis]: end === 1 ? 1 : -1 };
    return facing(projection, normal, scaleWorld(trialCorner(trial, { a: 0, b: 0, h: 0, [axis]: end }), cell)) > 0;
  };
}

/** A trial box whose corner lies elsewhere along an axis; the opposite end stays. */
export function withTrialCorner(trial: TrialBox, corner: BoxCorner, axis: Axis, to: number): TrialBox {
  const far = trial.at[axis] + trial.size[axis];
  const [from, until] = corner[axis] === 1 ? [trial.at[axis], Math.max(to, trial.at[axis] + LEAST_CELLS)] : [Math.min(to, far - LEAST_CELLS), far];
  return { at: { ...trial.at, [axis]: exactCells(from) }, size: { ...trial.size, [axis]: exactCells(until - from) } };
}

/**
 * A trial box with a corner dragged to a place of the sheet: along the axis that leads there best, in whole cells unless
 * it is free. Null where no axis leads there.
 */
export function dragTrialCorner(projection: Projection, trial: TrialBox, corner: BoxCorner, at: SheetPoint, cell: number, free: boolean): TrialBox | null {
  const from = scaleWorld(trialCorner(trial, corner), cell);
  let best: { axis: Axis; length: number; miss: number } | null = null;
  for (const axis of AXES) {
    const direction = { a: 0, b: 0, h: 0, [axis]: cell };
    const length = lengthAlong(projection, from, direction, at);
    const there = length === null ? null : sheetFromWorld(projection, addWorld(from, scaleWorld(direction, length)));
    const miss = there ? Math.hypot(there.x - at.x, there.y - at.y) : Infinity;
    if (length !== null && miss < (best?.miss ?? Infinity)) best = { axis, length, miss };
  }
  if (!best) return null;
  const to = trialCorner(trial, corner)[best.axis] + best.length;
  return withTrialCorner(trial, corner, best.axis, free ? exactCells(to) : Math.round(to));
}
