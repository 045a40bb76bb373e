import {
  drawnBody,
  drawnNodes,
  pickAt,
  planeFrame,
  planeOfSurface,
  dotWorld,
  surfaceNamed,
  type CheminDocument,
  type Picture,
  type Plane,
  type Ruled,
  type SheetPoint,
  type Surface,
  type SurfaceName,
  type WorldPoint,
} from '@core';
import { ruledUnder } from '@later';
import type { ToolContext } from './tool';

/** A plane to build on, and whether depth grows along its normal or against it there. */
export interface Ground {
  readonly plane: Plane;
  /** Where it is the plane of a face: out of it. */
  readonly out: 1 | -1;
  /** The thing that has the face; null for a plane without one. */
  readonly node: string | null;
}

/** The surface of a thing that is drawn, what copies show included; the first of that name. */
export function drawnSurface(document: CheminDocument, owner: string, name: SurfaceName): Surface | null {
  for (const drawn of drawnNodes(document)) {
    const surface = drawn.owner === owner ? surfaceNamed(drawnBody(drawn), name) : null;
    if (surface) return surface;
  }
  return null;
}

/**
 * The flat face under a place of the sheet as a plane to build on; null where there is none.
 * @param skip things that are looked through
 */
export function groundAt(
  { document, picture }: { readonly document: CheminDocument; readonly picture: Picture },
  at: SheetPoint,
  skip: (node: string) => boolean = () => false,
): Ground | null {
  const hit = pickAt(picture, at, 0, skip);
  const surface = hit?.face ? drawnSurface(document, hit.node, hit.face) : null;
  const plane = surface && planeOfSurface(surface);
  const frame = plane && planeFrame(plane, 1);
  if (!frame || surface.form.kind !== 'flat') return null;
  return { plane, out: dotWorld(frame.normal, surface.form.frame.normal) < 0 ? -1 : 1, node: hit!.node };
}

/** A round side under a place of the sheet, and the place on it; null where there is none. */
export function roundSideAt(
  { document, picture, geometry }: Pick<ToolContext, 'document' | 'picture' | 'geometry'>,
  at: SheetPoint,
): { readonly side: Ruled; readonly s: number; readonly k: number } | null {
  const hit = pickAt(picture, at, 0);
  const form = hit?.face ? drawnSurface(document, hit.node, hit.face)?.form : undefined;
  if (!form || form.kind === 'flat' || form.kind === 'sphere') return null;
  const place = ruledUnder(geometry.view.sight.projection, form, at);
  return place && { side: form, ...place };
}

/** A unit vector out of a ground, and its place for a point of its plane, in cells. */
export function outOf({ plane, out }: Ground): WorldPoint {
  const { normal } = planeFrame(plane, 1)!;
  return { a: normal.a * out, b: normal.b * out, h: normal.h * out };
}
