/** Px as a browser decodes them: red, green, blue, alpha to the px, not multiplied by alpha, row by row from above. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray | Uint8Array;
}
