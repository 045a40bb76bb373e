import { exactCells } from '../math/exact';
import { dotWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { planeOfCorners } from '../projection/free-planes';
import { axesOf, planeFrame, samePlane, worldFromPlane, type Plane } from '../projection/planes';
import { boxAround, outlineThrough, type Outline, type OutlinePoint, type PlaneBox } from '../shape/outline';
import { flattenOutline, isCurved } from '../shape/segments';
import { surfaceNamed, surfaceRings, worldPoints, type Body, type FlatForm, type Surface } from './body';
import { bodyOf, type SpaceNode } from './book';
import type { Extruded } from './depth-recipe';
import { BASE, END, isDrawnEnd, type SurfaceName } from './names';
import { SAME_PLACE } from '../math/tolerances';

/** How finely curves are followed for their box, in cells. */
const CHORDS = 0.001;

/** A flat surface as a shape on the plane in which it lies, all in cells. */
export interface SurfaceOnPlane {
  readonly plane: Plane;
  /** Its boundary; of an end, as it was drawn, curves included. */
  readonly outline: Outline;
  readonly box: PlaneBox;
}

/** The plane in which a flat surface lies: one that two axes span, or a free one; null for round surfaces. */
export function planeOfSurface({ form, loops }: Surface): Plane | null {
  return form.kind === 'flat' && loops[0] ? planeOfCorners({ corners: worldPoints(loops[0].slice(0, 3)), normal: form.frame.normal }, 1) : null;
}

/** The surface of a shape with this name on its plane; null where the shape has none (any more), or a round one. */
export function surfaceOnPlane(host: Extruded & SpaceNode, name: SurfaceName): SurfaceOnPlane | null {
  const surface = surfaceNamed(bodyOf(host), name);
  if (!surface) return null;
  if (host.depth === 0) return laid(host.plane, host.outline);
  const plane = planeOfSurface(surface);
  if (!plane) return null;
  // Ends of shapes on the axes' planes have the plane's own directions: their outline is the drawn one.
  const asDrawn = isDrawnEnd(surface.name) && (surface.name === BASE || (!host.lean && host.taper === undefined)) && !host.round;
  if (asDrawn && plane.kind === host.plane.kind && plane.kind !== 'free') return laid(plane, host.outline);
  return laidSurface(surface);
}

/** A flat surface of anything on its plane; null for a round one. */
export function laidSurface(surface: Surface): SurfaceOnPlane | null {
  const plane = planeOfSurface(surface);
  return plane && laid(plane, outlineOfSurface(surface, plane));
}

/** The exact boundary of a flat surface as an outline of its plane, on whole ticks, curves and holes included. */
export function outlineOfSurface(surface: Surface, plane: Plane): Outline {
  if (surface.straight) return outlineThrough(cellsOn(plane, worldPoints(surface.loops[0]!))!, true);
  const { frame } = surface.form as FlatForm;
  const onto = planeFrame(plane, 1)!;
  const place = (p: PlanePoint): PlanePoint => {
    const from = subtractWorld(worldFromPlane(frame, p), onto.origin);
    return { u: exactCells(dotWorld(from, onto.u)), v: exactCells(dotWorld(from, onto.v)) };
  };
  let id = 0;
  const [points = [], ...holes] = surfaceRings(surface).map((ring) =>
    ring.map((segment, i): OutlinePoint => {
      const before = ring.at(i - 1)!;
      return {
        id: ++id,
        ...place(segment.from),
        ...(before.kind === 'cubic' && { into: place(before.into) }),
        ...(segment.kind === 'cubic' && { out: place(segment.out) }),
        ...(segment.kind === 'conic' && { arc: { ...place(segment.via), weight: segment.weight } }),
      };
    }),
  );
  return holes.length > 0 ? { points, closed: true, holes } : { points, closed: true };
}

function laid(plane: Plane, outline: Outline): SurfaceOnPlane | null {
  const box = boxAround(isCurved(outline) ? flattenOutline(outline, CHORDS) : outline.points);
  return box && { plane, outline, box };
}

/** Places of the world in cells as places of a plane, rounded to ticks; null on the sheet. */
export function cellsOn(plane: Plane, points: readonly WorldPoint[]): readonly PlanePoint[] | null {
  const frame = planeFrame(plane, 1);
  return (
    frame &&
    points.map((point) => {
      const from = subtractWorld(point, frame.origin);
      return { u: exactCells(dotWorld(from, frame.u)), v: exactCells(dotWorld(from, frame.v)) };
    })
  );
}

/** All surfaces of a shape that lie in a plane that two axes span, or of a flat shape in any plane. */
export function surfacesIn(host: Extruded & SpaceNode, plane: Plane): readonly SurfaceOnPlane[] {
  const body = bodyOf(host);
  if (!body || body.surfaces.length === 0) return [];
  if (host.depth === 0) return samePlane(host.plane, plane) ? [surfaceOnPlane(host, END)].filter((found) => found !== null) : [];
  if (!reaches(body, plane)) return [];
  return body.surfaces.flatMap(({ name }) => {
    const found = surfaceOnPlane(host, name);
    return found && samePlane(found.plane, plane) ? [found] : [];
  });
}

/** Whether a body's bounds hold a plane: a quick look before its surfaces are laid on theirs. */
function reaches({ bounds: { min, max } }: Body, plane: Plane): boolean {
  const axes = axesOf(plane);
  if (!axes) return plane.kind === 'free';
  return min[axes.across] - SAME_PLACE <= plane.offset && plane.offset <= max[axes.across] + SAME_PLACE;
}
