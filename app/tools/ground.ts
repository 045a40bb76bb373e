import { faceUnder, planeFrame, planeOfSurface, dotWorld, type Picture, type Plane, type Ruled, type SeenFace, type SheetPoint, type WorldPoint } from '@core';
import { ruledUnder } from '@later';
import type { ToolContext } from './tool';

/** A plane to build on, and whether depth grows along its normal or against it there. */
export interface Ground {
  readonly plane: Plane;
  /** Where it is the plane of a face: out of it. */
  readonly out: 1 | -1;
  /** The thing that has the face; null for a plane without one. */
  readonly node: string | null;
  /** That face itself. */
  readonly seen?: SeenFace;
}

/**
 * The flat face under a place of the sheet, also where artwork covers it, as a plane to build on; null where there is none.
 * @param skip things that are looked through
 */
export function groundAt({ picture }: { readonly picture: Picture }, at: SheetPoint, skip: (node: string) => boolean = () => false): Ground | null {
  return groundOf(faceUnder(picture, at, skip));
}

/** A flat face as a plane to build on; null for round ones. */
export function groundOf(seen: SeenFace | null): Ground | null {
  const plane = seen && planeOfSurface(seen.surface);
  const frame = plane && planeFrame(plane, 1);
  if (!frame || seen.surface.form.kind !== 'flat') return null;
  return { plane, out: dotWorld(frame.normal, seen.surface.form.frame.normal) < 0 ? -1 : 1, node: seen.owner, seen };
}

/** A round side under a place of the sheet, and the place on it; null where there is none. */
export function roundSideAt(
  { picture, geometry }: Pick<ToolContext, 'picture' | 'geometry'>,
  at: SheetPoint,
): { readonly side: Ruled; readonly s: number; readonly k: number } | null {
  const form = faceUnder(picture, at)?.surface.form;
  if (!form || form.kind === 'flat' || form.kind === 'sphere') return null;
  const place = ruledUnder(geometry.view.sight.projection, form, at);
  return place && { side: form, ...place };
}

/** A unit vector out of a ground, and its place for a point of its plane, in cells. */
export function outOf({ plane, out }: Ground): WorldPoint {
  const { normal } = planeFrame(plane, 1)!;
  return { a: normal.a * out, b: normal.b * out, h: normal.h * out };
}
