import type { Affine } from '../math/matrix';
import { MAX_PEN_DASHES, MIN_DASH_MM } from '../math/tolerances';
import type { Blend } from '../paint/paint';
import { roughLength, type Path } from '../shape/path';

/** A stop of a gradient: place 0 to 1, colour `#rrggbb`, strength 0 to 1. */
export interface GradientStop {
  readonly at: number;
  readonly colour: string;
  readonly strength: number;
}

/** What fills a path or draws its line. Gradients have their own frame, carried to the sheet by `frame`. */
export type Ink =
  | { readonly kind: 'flat'; readonly colour: string; readonly strength: number }
  | {
      readonly kind: 'linear';
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly stops: readonly GradientStop[];
      readonly frame: Affine;
    }
  | {
      readonly kind: 'radial';
      readonly centre: readonly [number, number];
      readonly focus: readonly [number, number];
      readonly radius: number;
      readonly stops: readonly GradientStop[];
      readonly frame: Affine;
    };

/** How a line is drawn along a path: widths and dashes in sheet units, before the pen. */
export interface LineStyle {
  readonly ink: Ink;
  /** Width in units of the pen's frame. */
  readonly width: number;
  readonly cap: 'butt' | 'round' | 'square';
  readonly join: 'miter' | 'round' | 'bevel';
  readonly miterLimit: number;
  readonly dashes: readonly number[];
  /** Carries the pen to the sheet, so that a line drawn in a plane is foreshortened with it; identity on the sheet. */
  readonly pen: Affine;
  /**
   * It only closes the hair line between a face and its neighbours: on a canvas it is never wider than a part of a px,
   * and files have an undercoat in its place.
   */
  readonly hair?: true;
}

/** A painted path in sheet units. */
export interface PathMark {
  readonly kind: 'path';
  readonly path: Path;
  readonly fill: Ink | null;
  readonly rule: 'nonzero' | 'evenodd';
  readonly line: LineStyle | null;
}

/** Marks painted together: clipped, thinned as one, or belonging to one thing of the document. */
export interface GroupMark {
  readonly kind: 'group';
  /** The node that this belongs to; null inside artwork. */
  readonly node: string | null;
  /** The name handed over in files, such as `kiosk, left side`. */
  readonly name: string;
  readonly clip: { readonly path: Path; readonly rule: 'nonzero' | 'evenodd' } | null;
  readonly strength: number;
  /** How the whole group mixes with what lies under it (W3C Compositing 1); `normal` without. */
  readonly blend?: Exclude<Blend, 'normal'>;
  readonly marks: readonly Mark[];
}

/** What painters paint: a path, or marks together with a name, a clip or a strength. */
export type Mark = PathMark | GroupMark;

/** The ink of one colour, `#rrggbb`, with a strength from 0 to 1. */
export const flatInk = (colour: string, strength = 1): Ink => ({ kind: 'flat', colour, strength });

/**
 * Dashes as painters are given them, or none where they are too short to be told apart or too many: painters take
 * time for each, wherever it lies.
 * @param lengths dashes and gaps in turn, in units of the pen
 * @param path what is drawn, on the sheet
 * @param penScale mm of the sheet for a unit of the pen
 */
export function paintableDashes(lengths: readonly number[], path: Path, penScale: number): readonly number[] {
  const period = lengths.reduce((sum, length) => sum + length, 0) * penScale;
  return period < MIN_DASH_MM || roughLength(path) / period > MAX_PEN_DASHES ? [] : lengths;
}
