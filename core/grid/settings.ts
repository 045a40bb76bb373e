import type { ByAxis } from '../projection/gauss';
import type { AxisPlaneKind, PlaneKind } from '../projection/planes';

/** How the lines along one axis are drawn. */
export interface LineLook {
  readonly shown: boolean;
  /** `#rrggbb`, or null for the colour of the plane that the lines lie on. */
  readonly colour: string | null;
  /** Width of fine lines in mm of the sheet; bold ones are twice as wide. On the screen never thinner than a px. */
  readonly weight: number;
  /** Opacity of bold lines from 0 to 1; fine ones have half of it. */
  readonly strength: number;
}

/** A part of a plane in cells. */
export interface Extent {
  readonly minU: number;
  readonly maxU: number;
  readonly minV: number;
  readonly maxV: number;
}

type GridPlane = AxisPlaneKind;

/** The grid of a drawing: what a cell is, and how its lines are shown. */
export interface GridSettings {
  /** Edge of a cell in mm of the world at drawing scale. */
  readonly cell: number;
  /** Every how many lines one is bold. */
  readonly bold: number;
  /** Whether the grid is shown on the plane that is drawn on, or on planes chosen once and for all. */
  readonly planes: 'active' | readonly GridPlane[];
  readonly lines: ByAxis<LineLook>;
  /** 0: lines are as strong far away as near; 1: their strength falls as they get farther from the eye. */
  readonly fading: number;
  /** Closest drawn distance of lines in px of the screen (1/96 inch of the sheet when exported); closer ones are thinned. */
  readonly closest: number;
  /** Over the drawing rather than under it. */
  readonly over: boolean;
  /** How far the grid reaches on each plane; null for as far as is seen. */
  readonly extents: Readonly<Record<GridPlane, Extent | null>>;
}

/** All planes that two axes span. */
export const GRID_PLANES: readonly GridPlane[] = ['floor', 'left', 'right'];

/** Where the grid of a family is shown at first: isometric lines of all three axes make one grid for every plane. */
export function usualPlanes(family: string): GridSettings['planes'] {
  return family === 'isometric' ? GRID_PLANES : 'active';
}

const LINE: LineLook = { shown: true, colour: null, weight: 0.12, strength: 0.5 };

/** The grid that a drawing starts with. */
export function gridOf(cell: number, bold = 5): GridSettings {
  return {
    cell,
    bold,
    planes: 'active',
    lines: { a: LINE, b: LINE, h: LINE },
    fading: 0.5,
    closest: 5,
    over: false,
    extents: { floor: null, left: null, right: null },
  };
}

/** The colours of the planes on white paper, where a line has none of its own. */
export const PLANE_COLOURS: Readonly<Record<PlaneKind, string>> = { floor: '#b77a0b', left: '#b23a63', right: '#1b7c77', free: '#6a5f9c', sheet: '#675f70' };
