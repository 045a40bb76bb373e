import type { PhotoLight, PhotoSurface } from '@core';

/** A number of px in words. */
export const px = (value: number): string => `${value < 0.1 ? value.toFixed(3) : value < 10 ? value.toFixed(2) : value.toFixed(1)}\u2009px`;

/** A surface with its parts in the order in which they are written. */
export function inOrder({ id, name, latticed, registration, lattice, crossings, fit, outline, masks, light }: PhotoSurface): PhotoSurface {
  return {
    id,
    name,
    ...(latticed !== undefined && { latticed }),
    ...(registration && { registration }),
    lattice,
    crossings,
    ...(fit && { fit }),
    ...(outline && { outline }),
    ...(masks && { masks }),
    ...(light && { light: lightInOrder(light) }),
  };
}

const lightInOrder = ({ shade, shadeStrength, gloss, glossStrength, grain, blur }: PhotoLight): PhotoLight => ({
  shade,
  shadeStrength,
  gloss,
  glossStrength,
  ...(grain && { grain }),
  ...(blur !== undefined && { blur }),
});
