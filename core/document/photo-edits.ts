import type { Photo, PhotoPart, PhotoSurface } from '../photo/photo';
import type { Affine } from '../math/matrix';
import type { CheminDocument, PlacementNode } from './types';

/** A photograph with one of its surfaces, and the size of the photograph in px. */
export interface SurfaceThere {
  readonly photo: Photo;
  readonly surface: PhotoSurface;
  readonly width: number;
  readonly height: number;
}

/** The surface of this id; null where there is none. */
export function photographed(document: CheminDocument, id: string): SurfaceThere | null {
  for (const photo of document.photos ?? []) {
    const surface = photo.surfaces.find((one) => one.id === id);
    const size = surface && document.bitmaps.find((bitmap) => bitmap.id === photo.bitmap);
    if (surface && size) return { photo, surface, width: size.width, height: size.height };
  }
  return null;
}

/** The photographed surface that a placement lies on; null where it lies elsewhere, or the surface is gone. */
export function surfaceUnder(document: CheminDocument, { target }: PlacementNode): SurfaceThere | null {
  return target.kind === 'plane' && target.photographed !== undefined ? photographed(document, target.photographed) : null;
}

/** From px of a photograph to mm of the sheet. */
export function photoToSheet({ photo, width, height }: Pick<SurfaceThere, 'photo' | 'width' | 'height'>): Affine {
  return [photo.width / width, 0, 0, photo.height / height, photo.x, photo.y];
}

/** All photographs of a document with one surface changed. */
export function withSurface(document: CheminDocument, id: string, change: (surface: PhotoSurface) => PhotoSurface): readonly Photo[] {
  return (document.photos ?? []).map((photo) =>
    photo.surfaces.some((one) => one.id === id) ? { ...photo, surfaces: photo.surfaces.map((one) => (one.id === id ? change(one) : one)) } : photo,
  );
}

/** The box of a part of a photograph on the sheet, in mm. */
export function partOnSheet(there: Pick<SurfaceThere, 'photo' | 'width' | 'height'>, part: PhotoPart): { x: number; y: number; width: number; height: number } {
  const [k, , , l, x, y] = photoToSheet(there);
  return { x: x + part.x * k, y: y + part.y * l, width: part.width * k, height: part.height * l };
}
