import type { Ruled } from '../geometry/ruled';
import type { Affine, Mat33 } from '../math/matrix';
import { MAX_PEN_DASHES, MIN_DASH_MM } from '../math/tolerances';
import type { Blend } from '../paint/paint';
import type { KeptFit } from '../photo/kept-fit';
import type { EyeMatrix } from '../projection/projection';
import { roughLength, type Path, type PathBox } from '../shape/path';

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
    }
  | {
      /** Around the origin of its frame, from the direction of x by that of y once round. */
      readonly kind: 'conic';
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

/** Where a bitmap lies: from its unit square, x to the right and y down, to the sheet. */
export type ImagePlace =
  | { readonly kind: 'flat'; readonly map: Mat33 }
  | {
      /** Round a cylinder or cone: `map` leads to the side's own coordinates, unrolled. */
      readonly kind: 'round';
      readonly map: Mat33;
      readonly ruled: Ruled;
      /** The part of the side that it is seen on, as parameters of its directrix. */
      readonly seen: { readonly from: number; readonly to: number };
      /** What is added to the way across for the turn of the side that it lies in. */
      readonly turn: number;
      readonly projection: EyeMatrix;
      /** From what the projection draws to the sheet. */
      readonly after: Affine;
    }
  | {
      /** On a photographed surface: `map` leads to its sheet, in mm from the lattice's upper left crossing. */
      readonly kind: 'photographed';
      readonly map: Mat33;
      readonly fit: KeptFit;
      /** From px of the photograph to the sheet. */
      readonly after: Affine;
    };

/** Colours that are made others: those of a lattice over all of sRGB, between which the others lie. */
export interface ToneTable {
  /** Tells tables apart that make other colours. */
  readonly key: string;
  /** Places of the lattice along each of red, green and blue. */
  readonly size: number;
  /** Three bytes for each place, blue running fastest. */
  readonly rgb: Uint8Array;
}

/** Light that lies on a bitmap: a picture, how strongly it is laid on, and how it mixes. */
export interface ImageLight {
  /** The id of the picture's bitmap. */
  readonly bitmap: string;
  /** From its unit square, x to the right and y down, to the sheet. */
  readonly map: Affine;
  /** 0 to 1. */
  readonly share: number;
  readonly blend: 'multiply' | 'screen' | 'overlay';
}

/** A bitmap on the sheet. */
export interface ImageMark {
  readonly kind: 'image';
  /** The id of the bitmap. */
  readonly bitmap: string;
  /** What of the sheet it covers. */
  readonly path: Path;
  readonly place: ImagePlace;
  /** Its colours are made others. */
  readonly tones?: ToneTable;
  /** What light lies on it, in order: on its own px alone, as far as they cover. */
  readonly lights?: readonly ImageLight[];
  /** It is seen within this box of the sheet alone, so that no more of it has to be made. */
  readonly within?: PathBox;
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
  /** Standard deviation in sheet units by which all of it is blurred as one, before it is mixed; sharp without. Such a group has no clip. */
  readonly blur?: number;
  /**
   * Carries its clip and marks from a frame of their own to that of what holds it; without, they are given there. Only in
   * pictures made in haste, which are painted on a canvas and not handed over.
   */
  readonly map?: Affine;
  readonly marks: readonly Mark[];
}

/** What painters paint: a path, a bitmap, or marks together with a name, a clip or a strength. */
export type Mark = PathMark | ImageMark | GroupMark;

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
