import type { LatticeSettings } from '../grid/lattice';
import type { KeptFit } from './kept-fit';
import type { Registration } from './register';

/** A picture made for a part of a photograph: its bitmap, and its box in px of the photograph. */
export interface PhotoPart {
  readonly bitmap: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A crossing of the lattice in px of the bare photograph. */
export interface KeptCrossing {
  readonly column: number;
  readonly row: number;
  readonly x: number;
  readonly y: number;
  /** Standard error in px. */
  readonly error: number;
  /** It was set by hand. */
  readonly hand?: true;
}

/** Something in front of a surface: its outline in px of the photograph, and that part of the photograph with a soft edge. */
export interface PhotoMask {
  readonly id: string;
  /** x and y of its corners, in px. */
  readonly points: readonly number[];
  /** Px over which its edge fades. */
  readonly soft: number;
  readonly part: PhotoPart;
}

/** The light on a surface as pictures, and how strongly each is laid on artwork, 0 to 1. */
export interface PhotoLight {
  /** What artwork is multiplied with. */
  readonly shade: PhotoPart;
  readonly shadeStrength: number;
  /** Highlights that are added. */
  readonly gloss: PhotoPart;
  readonly glossStrength: number;
  /** The grain of the photograph, laid over artwork; none without. */
  readonly grain?: PhotoPart;
  /** How soft the photograph is: artwork is blurred by as much, a standard deviation in px; it stays sharp without. */
  readonly blur?: number;
}

/** A surface of a photographed thing, on which artwork can lie in true size. */
export interface PhotoSurface {
  readonly id: string;
  readonly name: string;
  /** The photograph with the lattice on it, and how it lies on the bare one. */
  readonly latticed?: string;
  readonly registration?: Registration;
  readonly lattice: LatticeSettings;
  readonly crossings: readonly KeptCrossing[];
  readonly fit?: KeptFit;
  /** Its outline in px of the photograph, x and y of its corners: artwork is not seen beyond. */
  readonly outline?: readonly number[];
  readonly masks?: readonly PhotoMask[];
  readonly light?: PhotoLight;
}

/** A photograph on the sheet, its box in mm, with the surfaces that were fitted on it. */
export interface Photo {
  readonly id: string;
  readonly name: string;
  /** The bare photograph. */
  readonly bitmap: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly surfaces: readonly PhotoSurface[];
}
