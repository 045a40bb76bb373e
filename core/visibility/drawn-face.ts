import earcut from 'earcut';
import { isConvex, signedArea } from '../math/polygon';
import type { WorldPoint } from '../math/points';
import { EDGE_ON } from '../math/tolerances';
import { clipNear } from '../projection/near';
import { facing, type Homogeneous } from '../projection/projection';
import { nearnessOf, type Sight } from '../projection/sight';

/**
 * A flat thing as it is drawn: its polygon on the sheet and how near it is everywhere. Its identity is what the
 * order remembers it by, so keep the object while the thing does not change.
 */
export interface DrawnFace {
  /** Groups faces that are painted one after the other where the order allows it, such as those of one solid. */
  readonly owner: string;
  /** Flat sheet coordinates, clockwise on screen. */
  readonly polygon: Float64Array;
  /** Flat sheet coordinates of what is left out inside. */
  readonly holes?: readonly Float64Array[];
  /** The polygon without its holes in convex pieces, clockwise on screen; one piece where it is convex. */
  readonly pieces: readonly Float64Array[];
  /** Nearness p x + q y + r, larger towards the viewer. */
  readonly p: number;
  readonly q: number;
  readonly r: number;
  /**
   * Smallest and largest value along x, y and along the normals of the drawn axes: `[minX, maxX, minY, maxY, ...]`.
   * Two faces whose ranges are apart in any of them do not overlap; for faces whose edges run along two axes, such
   * as those of boxes, the test is exact.
   */
  readonly ranges: Float64Array;
}

/** The directions that ranges are measured along, as flat sheet vectors; made once for a projection. */
export function rangeDirections({ projection: { matrix: m } }: Sight): readonly number[] {
  const directions = [1, 0, 0, 1];
  if (m[8] !== 0 || m[9] !== 0 || m[10] !== 0) return directions;
  for (let axis = 0; axis < 3; axis++) {
    const length = Math.hypot(m[axis]!, m[axis + 4]!);
    if (length > 0) directions.push(-m[axis + 4]! / length, m[axis]! / length);
  }
  return directions;
}

/**
 * A face as it is drawn, or null where it is turned away, seen edge-on, behind the eye, or without area.
 * @param corners in world units, anticlockwise seen from the side of `normal`
 */
export function drawFace(
  sight: Sight,
  directions: readonly number[],
  owner: string,
  corners: readonly WorldPoint[],
  normal: WorldPoint,
  holes: readonly (readonly WorldPoint[])[] = [],
): DrawnFace | null {
  const first = corners[0];
  if (!first || corners.length < 3) return null;
  const { projection } = sight;
  const turned = facing(projection, normal, first);
  if (turned <= 0 || turned * turned < EDGE_ON * sightSquare(projection.eye, first)) return null;
  const polygon = projectClockwise(projection.matrix, clipNear(projection, corners));
  const near = nearnessOf(sight, normal, first);
  if (!polygon || !near) return null;
  if (holes.length === 0) return { owner, polygon, pieces: convexPieces(polygon), ...near, ranges: rangesOf(polygon, directions) };
  const cut = holes.flatMap((hole) => projectClockwise(projection.matrix, clipNear(projection, hole)) ?? []);
  return { owner, polygon, holes: cut, pieces: convexPieces(polygon, cut), ...near, ranges: rangesOf(polygon, directions) };
}

/** Square of the distance from a point to the eye, or of the length of the eye's direction. */
function sightSquare(eye: Homogeneous, on: WorldPoint): number {
  const w = eye[3];
  return (eye[0] - w * on.a) ** 2 + (eye[1] - w * on.b) ** 2 + (eye[2] - w * on.h) ** 2;
}

/** A drawn face from a polygon that lies on the sheet already, with the nearness of its plane. */
export function drawPolygon(
  directions: readonly number[],
  owner: string,
  polygon: Float64Array,
  pieces: readonly Float64Array[],
  near: { readonly p: number; readonly q: number; readonly r: number },
): DrawnFace {
  return { owner, polygon, pieces, p: near.p, q: near.q, r: near.r, ranges: rangesOf(polygon, directions) };
}

function projectClockwise(m: readonly number[], corners: readonly WorldPoint[]): Float64Array | null {
  const n = corners.length;
  if (n < 3) return null;
  const out = new Float64Array(2 * n);
  for (let i = 0; i < n; i++) {
    const c = corners[i]!;
    const w = m[8]! * c.a + m[9]! * c.b + m[10]! * c.h + m[11]!;
    if (!(w > 0)) return null;
    // Anticlockwise seen from the viewer is written backwards, so that it runs clockwise on screen.
    const at = 2 * (n - 1 - i);
    out[at] = (m[0]! * c.a + m[1]! * c.b + m[2]! * c.h + m[3]!) / w;
    out[at + 1] = (m[4]! * c.a + m[5]! * c.b + m[6]! * c.h + m[7]!) / w;
  }
  return out;
}

/** A polygon in convex pieces that run clockwise on screen: itself, or its triangles by ear clipping. */
export function convexPieces(outer: Float64Array, holes: readonly Float64Array[] = []): readonly Float64Array[] {
  if (holes.length === 0 && (outer.length === 6 || isConvex(outer))) return [outer];
  const polygon = holes.length === 0 ? outer : Float64Array.from([outer, ...holes].flatMap((ring) => [...ring]));
  const starts: number[] = [];
  let at = outer.length / 2;
  for (const hole of holes) {
    starts.push(at);
    at += hole.length / 2;
  }
  const indices = earcut(polygon as unknown as number[], starts);
  const pieces: Float64Array[] = [];
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const piece = new Float64Array(6);
    for (let k = 0; k < 3; k++) {
      const at = 2 * indices[i + k]!;
      piece[2 * k] = polygon[at]!;
      piece[2 * k + 1] = polygon[at + 1]!;
    }
    const area = signedArea(piece);
    if (area === 0) continue;
    if (area < 0) {
      [piece[2], piece[4]] = [piece[4]!, piece[2]!];
      [piece[3], piece[5]] = [piece[5]!, piece[3]!];
    }
    pieces.push(piece);
  }
  return pieces;
}

function rangesOf(polygon: Float64Array, directions: readonly number[]): Float64Array {
  const out = new Float64Array(directions.length);
  for (let d = 0; d < directions.length; d += 2) {
    const dx = directions[d]!;
    const dy = directions[d + 1]!;
    let min = Infinity;
    let max = -Infinity;
    for (let i = 0; i < polygon.length; i += 2) {
      const value = polygon[i]! * dx + polygon[i + 1]! * dy;
      if (value < min) min = value;
      if (value > max) max = value;
    }
    out[d] = min;
    out[d + 1] = max;
  }
  return out;
}
