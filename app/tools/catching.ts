import {
  apply33,
  catchAt,
  cellsFromPlane,
  exactCells,
  figure,
  invert33,
  lockToAxis,
  lengthInUnit,
  measure,
  mmPer,
  realLength,
  axesOf,
  planeName,
  type Along,
  type Caught,
  type Plane,
  type PlanePoint,
  type SheetPoint,
} from '@core';
import type { PlaneContext, ToolContext } from './tool';

/** Farthest cell that a pointer reaches: just under a horizon, the next px would mean cells beyond counting. */
const FARTHEST = 20_000;

/** The plane point under the pointer, or null where the plane cannot be met there. */
export function planePointAt({ options }: PlaneContext, at: SheetPoint): PlanePoint | null {
  const inverse = invert33(options.sheetFromPlane);
  const p = inverse && apply33(inverse, at.x, at.y);
  return p && Math.abs(p.x) < FARTHEST && Math.abs(p.y) < FARTHEST ? { u: p.x, v: p.y } : null;
}

/** What the pointer takes, with the points drawn so far among what can be caught. */
export function catchPointer(
  on: PlaneContext,
  at: SheetPoint,
  drawn: readonly PlanePoint[],
  how: { readonly lock: boolean; readonly free: boolean },
): Caught | null {
  const pointer = planePointAt(on, at);
  if (!pointer) return null;
  const options = { ...on.options, grid: on.options.grid && !how.free, drawn };
  const caught: Caught = how.free ? { u: exactCells(pointer.u), v: exactCells(pointer.v), kind: 'free', with: null } : catchAt(pointer, on.source, options);
  const last = drawn.at(-1);
  return how.lock && last ? lockToAxis(last, caught, pointer, options) : caught;
}

/** Everything of a shape that is being drawn moved with the pointer, while that is asked for. */
export function carried(points: readonly PlanePoint[], before: PlanePoint | null, now: PlanePoint): readonly PlanePoint[] {
  if (!before) return points;
  return points.map((p) => ({ u: exactCells(p.u + now.u - before.u), v: exactCells(p.v + now.v - before.v) }));
}

/** A direction in words. */
function alongWord(plane: Plane, along: Along): string {
  return along === 'u' || along === 'v' ? axisName(plane, along) : `along ${along}`;
}

/** The axis that u or v of a plane runs along, as it is named. */
export function axisName(plane: Plane, direction: 'u' | 'v'): string {
  const axes = axesOf(plane);
  if (axes) return `along ${axes[direction]}`;
  return plane.kind === 'free' ? `along ${direction}` : direction === 'u' ? 'across' : 'down';
}

/** What was caught, in a word or two. */
export function caughtWord(plane: Plane, caught: Caught): string {
  if (caught.kind === 'part') return 'part of a cell';
  if (!caught.kind.startsWith('along ')) return caught.kind;
  const word = alongWord(plane, caught.kind.slice(6) as Along);
  return caught.also ? `${word}, in line with two points` : word;
}

/** Where something was caught: `crossing, left wall`. */
export function caughtPlace({ document }: Pick<ToolContext, 'document'>, plane: Plane, caught: Caught): string {
  return `${caughtWord(plane, caught)}, ${planeName(plane.kind, document.projection)}`;
}

/** The place in a, b, h for the read-out: `a 12  b 0  h 7`; on the sheet `x` and `y`. */
export function placeWords(plane: Plane, p: PlanePoint): string {
  const cells = cellsFromPlane(plane, p);
  if (plane.kind === 'sheet') return `x ${figure(p.u)}  y ${figure(p.v)}`;
  return (['a', 'b', 'h'] as const).map((axis) => `${axis} ${figure(cells[axis])}`).join('  ');
}

/** A length in cells and in the sheet's unit: `10 cells, 80 mm`. */
export function lengthWords({ document }: Pick<ToolContext, 'document'>, cells: number): string {
  return `${measure(cells, cells === 1 ? 'cell' : 'cells')}, ${lengthInUnit(cells * document.grid.cell, document.sheet)}`;
}

/** Two lengths side by side: `12 × 7 cells`, then `96 × 56 mm`; at a drawing scale the real thing's follow. */
export function areaWords({ document }: Pick<ToolContext, 'document'>, u: number, v: number): readonly string[] {
  const { sheet, grid } = document;
  const k = grid.cell / mmPer(sheet.unit, sheet.resolution);
  const real = (cells: number): string => realLength(cells * grid.cell, sheet.scale);
  return [
    `${figure(u)} × ${figure(v)}\u2009cells`,
    `${figure(u * k)} × ${figure(v * k)}\u2009${sheet.unit}${sheet.scale === 1 ? '' : ' on the sheet'}`,
    ...(sheet.scale === 1 ? [] : [`${real(u).replace(' real', '')} × ${real(v)}`]),
    ...((u === 0) === (v === 0) ? [] : [`no ${u === 0 ? 'width' : 'height'}: it bounds nothing`]),
  ];
}
