import { exactCells } from '../math/exact';
import { dotWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { planeOfCorners } from '../projection/free-planes';
import { axesOf, planeFrame, samePlane, type Plane } from '../projection/planes';
import { boxAround, outlineThrough, type Outline, type PlaneBox } from '../shape/outline';
import { boundsArea, flattenOutline, isCurved } from '../shape/segments';
import { depthFaces, type FaceName } from './faces';

/** How finely curves are followed for their box, in cells. */
const CHORDS = 0.001;

/** What faces are made from: a boundary on a plane and its depth in cells. */
export interface Extruded {
  readonly plane: Plane;
  readonly outline: Outline;
  readonly depth: number;
}

/** A flat face as a shape on the plane in which it lies, all in cells. */
export interface FaceOnPlane {
  readonly plane: Plane;
  /** Its boundary; of an end, as it was drawn, curves included. */
  readonly outline: Outline;
  readonly box: PlaneBox;
}

/** The face of a shape with this name on its plane; null where the shape has none (any more), or an open outline. */
export function faceOnPlane(host: Extruded, name: FaceName): FaceOnPlane | null {
  if (!boundsArea(host.outline)) return null;
  const frame = planeFrame(host.plane, 1);
  if (!frame || host.depth === 0) return name === 'end' ? laid(host.plane, host.outline) : null;
  const [face, ...more] = depthFaces(host.outline, frame, host.depth, 1).filter((f) => f.name === name);
  // A curved side has many facets and lies in no plane.
  const plane = face && more.length === 0 ? planeOfCorners(face, 1) : null;
  if (!face || !plane) return null;
  // Ends of shapes on the axes' planes have the plane's own directions: their outline is the drawn one.
  if ((name === 'end' || name === 'base') && plane.kind === host.plane.kind && plane.kind !== 'free') return laid(plane, host.outline);
  const corners = cellsOn(plane, face.corners);
  return corners && laid(plane, outlineThrough(corners, true));
}

function laid(plane: Plane, outline: Outline): FaceOnPlane | null {
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

/** All faces of a shape that lie in a plane that two axes span, or of a flat shape in any plane. */
export function facesIn(host: Extruded, plane: Plane): readonly FaceOnPlane[] {
  if (host.depth === 0) return samePlane(host.plane, plane) ? [faceOnPlane(host, 'end')].filter((face) => face !== null) : [];
  if (!reaches(host, plane)) return [];
  const names: readonly FaceName[] = ['base', 'end', ...host.outline.points.map((p): FaceName => `side:${p.id}`)];
  return names.flatMap((name) => {
    const face = faceOnPlane(host, name);
    return face && samePlane(face.plane, plane) ? [face] : [];
  });
}

/** Whether a solid's extent along the axis across a plane holds that plane: a quick look before its faces are made. */
function reaches(host: Extruded, plane: Plane): boolean {
  const [own, there] = [axesOf(host.plane), axesOf(plane)];
  if (!there || !own) return plane.kind === 'free' || host.plane.kind === 'free';
  const values =
    own.across === there.across
      ? [host.plane.offset, host.plane.offset + host.depth, host.plane.offset - host.depth]
      : host.outline.points.map((p) => (own.u === there.across ? p.u : p.v));
  return Math.min(...values) - 1e-9 <= plane.offset && plane.offset <= Math.max(...values) + 1e-9;
}
