import type { MeasuredForm, Outline, SpiralForm } from '@core';
import type { Tool, ToolContext, ToolStep } from '../../tools/tool';

/** How a guide is set: along a direction of the plane, out of it, through two places, by an edge, in the middle of two places, or by dividing a face. */
export type GuideWay = 'u' | 'v' | 'out' | 'two' | 'parallel' | 'square' | 'middle' | 'divide';

/** What is set for the tools that draw. */
export interface DrawSettings {
  /** Corners of the next regular polygon. */
  readonly sides: number;
  /** The next star: its points, its inner radius in parts of the outer, how far the inner corners are turned, and its roundings in cells. */
  readonly star: { readonly points: number; readonly inner: number; readonly turnedDeg: number; readonly roundOuter: number; readonly roundInner: number };
  /** The next spiral: its turns, its inner radius in parts of the outer, how it grows, which way it runs outwards, and the width of its band in cells. */
  readonly spiral: {
    readonly turns: number;
    readonly inner: number;
    readonly steps: SpiralForm['steps'];
    readonly hand: 'left' | 'right';
    readonly band: number;
  };
  /** How the next guide runs, what faces are divided by, and along which of their directions. */
  readonly guide: { readonly way: GuideWay; readonly divide: string; readonly across: 'both' | 'u' | 'v' };
  /** How the next circle is given. */
  readonly circleBy: 'centre' | 'three points' | 'box' | 'face';
  /** Freehand: kept to the axes, and how far in px of the screen a cleaned stroke may lie from the pen's. */
  readonly assisted: boolean;
  readonly cleaning: number;
  /** The last shape that was drawn, for drawing it again. */
  readonly lastShape: Outline | null;
  /** What it was made by, where it has measures of its own. */
  readonly lastForm: MeasuredForm | null;
  /** What was last measured, a line each. */
  readonly measured: readonly string[];
}

/** What is set before anything else is. */
export const USUAL_DRAW: DrawSettings = {
  sides: 6,
  star: { points: 5, inner: 0.5, turnedDeg: 0, roundOuter: 0, roundInner: 0 },
  spiral: { turns: 3, inner: 0.1, steps: 'even', hand: 'left', band: 0 },
  guide: { way: 'u', divide: '3', across: 'both' },
  circleBy: 'centre',
  assisted: false,
  cleaning: 2,
  lastShape: null,
  lastForm: null,
  measured: [],
};

/** Tools that draw, and what they are given and give back. */
export type DrawTool<S> = Tool<S, DrawSettings>;
export type DrawContext = ToolContext<DrawSettings>;
export type DrawStep<S> = ToolStep<S, DrawSettings>;
