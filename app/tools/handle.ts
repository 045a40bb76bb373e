import type { SheetPoint } from '@core';

/** A handle in mm of the sheet: its name, its place, and what dragging it to another place does. */
export interface SheetHandle {
  readonly name: string;
  readonly at: SheetPoint;
  readonly locked?: boolean;
  /** One of many, drawn small and without its name: a point, or the handle of a curve. */
  readonly quiet?: 'point' | 'curve' | 'edge';
  /** Chosen among its like. */
  readonly chosen?: boolean;
  /** Of a bar: the direction in which it lies on the screen, in degrees clockwise. */
  readonly turnDeg?: number;
  /** What pressing does before anything is dragged. */
  readonly press?: (add: boolean) => void;
  readonly drag: (to: SheetPoint, free: boolean, end: boolean) => void;
}
