import { exactCells } from '../math/exact';
import { cosDeg, sinDeg } from '../math/figures';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { readingDirections, type Plane, type PlaneFrame } from '../projection/planes';
import type { Surface } from './body';
import { planeReadingFrame, surfaceReadingFrame } from './reading';

/**
 * Where artwork lies on a plane: a place of the world, so that nothing that happens to the face's boundary moves it.
 * Where the plane is another, the place is the nearest on it.
 */
export interface ArtworkAnchor {
  /** The upper left corner as it is read, before any turn, in cells of the world; on the sheet a is right and b is down. */
  readonly at: WorldPoint;
  /** Size in cells. */
  readonly width: number;
  readonly height: number;
  /** Degrees clockwise as it is read, about the middle. */
  readonly turn?: number;
  /** Left is right, as in a mirror. */
  readonly mirrored?: true;
  /** On a round side, of artwork that reaches too far round it for its corner to tell: its middle in the side's own coordinates, unrolled. */
  readonly middle?: PlanePoint;
}

/** A box in a reading frame, in cells: x right and y down. */
export interface ReadBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The frame of the sheet for reading: x right, y down, in cells; a stands for x and b for y. */
export const SHEET_READING: PlaneFrame = { origin: { a: 0, b: 0, h: 0 }, u: { a: 1, b: 0, h: 0 }, v: { a: 0, b: 1, h: 0 }, normal: { a: 0, b: 0, h: 1 } };

/** The frame in which a target is read: from the upper left of a surface's box, or a plane's own origin; null for round surfaces. */
export function readingFrameOf(target: Surface | Plane): PlaneFrame | null {
  if ('kind' in target) return target.kind === 'sheet' ? SHEET_READING : planeReadingFrame(target);
  return surfaceReadingFrame(target);
}

/** An anchor as a box of a reading frame, turned back. Inverse of `anchorIn`. */
export function boxIn({ origin, u, v }: PlaneFrame, { at, width, height }: ArtworkAnchor): ReadBox {
  const from = subtractWorld(at, origin);
  return { x: exactCells(dotWorld(from, u)), y: exactCells(dotWorld(from, v)), width, height };
}

/** The anchor of a box of a reading frame; turns and mirrors are those of the anchor that it comes from. */
export function anchorIn({ origin, u, v }: PlaneFrame, { x, y, width, height }: ReadBox, from: Pick<ArtworkAnchor, 'turn' | 'mirrored'> = {}): ArtworkAnchor {
  const at = addWorld(origin, addWorld(scaleWorld(u, x), scaleWorld(v, y)));
  return exactAnchor(at, { width, height }, from);
}

/** An anchor in whole ticks. @param from the anchor that its turn and mirror are of */
export function exactAnchor(
  at: WorldPoint,
  { width, height }: Pick<ArtworkAnchor, 'width' | 'height'>,
  from: Pick<ArtworkAnchor, 'turn' | 'mirrored'>,
): ArtworkAnchor {
  return {
    at: { a: exactCells(at.a), b: exactCells(at.b), h: exactCells(at.h) },
    width: exactCells(width),
    height: exactCells(height),
    ...(from.turn !== undefined && { turn: from.turn }),
    ...(from.mirrored && { mirrored: from.mirrored }),
  };
}

/**
 * The frame of artwork itself, in cells of the world: from its upper left corner, x along its upper edge and y down its
 * side, turned and mirrored as it is.
 * @param normal unit normal of the plane, with a place `on` it; null on the sheet
 */
export function artworkFrame({ at, width, height, turn = 0, mirrored }: ArtworkAnchor, normal: WorldPoint | null, on: WorldPoint): PlaneFrame {
  const { right, down } = normal ? readingDirections(normal) : { right: SHEET_READING.u, down: SHEET_READING.v };
  const corner = normal ? addWorld(at, scaleWorld(normal, dotWorld(subtractWorld(on, at), normal))) : at;
  const [cos, sin] = [cosDeg(turn), sinDeg(turn)];
  const along = addWorld(scaleWorld(right, cos), scaleWorld(down, sin));
  const u = mirrored ? scaleWorld(along, -1) : along;
  const v = addWorld(scaleWorld(right, -sin), scaleWorld(down, cos));
  if (turn === 0 && !mirrored) return { origin: corner, u, v, normal: normal ?? SHEET_READING.normal };
  const half = (p: WorldPoint, q: WorldPoint): WorldPoint => addWorld(scaleWorld(p, width / 2), scaleWorld(q, height / 2));
  return { origin: subtractWorld(addWorld(corner, half(right, down)), half(u, v)), u, v, normal: normal ?? SHEET_READING.normal };
}

/** The frame of artwork on a plane. */
export function artworkOnPlane(anchor: ArtworkAnchor, plane: Plane): PlaneFrame | null {
  if (plane.kind === 'sheet') return artworkFrame(anchor, null, SHEET_READING.origin);
  const frame = planeReadingFrame(plane);
  return frame && artworkFrame(anchor, frame.normal, frame.origin);
}

/** The frame of artwork on a surface; null on round ones. */
export function artworkOnSurface(anchor: ArtworkAnchor, { form }: Surface): PlaneFrame | null {
  return form.kind === 'flat' ? artworkFrame(anchor, form.frame.normal, form.frame.origin) : null;
}

/** The corners of artwork in cells of the world: upper left, upper right, lower right and lower left as it is read. */
export function artworkCorners({ origin, u, v }: PlaneFrame, { width, height }: Pick<ArtworkAnchor, 'width' | 'height'>): readonly WorldPoint[] {
  const at = (x: number, y: number): WorldPoint => addWorld(origin, addWorld(scaleWorld(u, x), scaleWorld(v, y)));
  return [at(0, 0), at(width, 0), at(width, height), at(0, height)];
}

/** Degrees within which a turn counts as a whole number of them. */
const WHOLE_DEGREES = 1e-3;

/**
 * The anchor of artwork with these corners; of what they do not tell, such as that its edges are square, the upper edge
 * decides. Inverse of `artworkCorners`.
 * @param normal by which it is read; null on the sheet
 */
export function anchorThrough([p, q, , r]: readonly WorldPoint[], normal: WorldPoint | null): ArtworkAnchor {
  const [along, aside] = [subtractWorld(q!, p!), subtractWorld(r!, p!)];
  const [width, height] = [lengthWorld(along), lengthWorld(aside)];
  const { right, down } = normal ? readingDirections(normal) : { right: SHEET_READING.u, down: SHEET_READING.v };
  const [x, y] = [dotWorld(along, right), dotWorld(along, down)];
  const mirrored = x * dotWorld(aside, down) - y * dotWorld(aside, right) < 0;
  const turn = (Math.atan2(mirrored ? -y : y, mirrored ? -x : x) * 180) / Math.PI;
  const whole = Math.abs(turn - Math.round(turn)) < WHOLE_DEGREES ? Math.round(turn) + 0 : turn;
  const middle = addWorld(p!, scaleWorld(addWorld(along, aside), 0.5));
  const at = subtractWorld(middle, addWorld(scaleWorld(right, width / 2), scaleWorld(down, height / 2)));
  return {
    at: { a: exactCells(at.a), b: exactCells(at.b), h: exactCells(at.h) },
    width: exactCells(width),
    height: exactCells(height),
    ...(whole !== 0 && { turn: whole }),
    ...(mirrored && { mirrored }),
  };
}

/** Artwork in another size, its own upper left corner kept. @param normal by which it is read; null on the sheet */
export function resizedAnchor(anchor: ArtworkAnchor, normal: WorldPoint | null, width: number, height: number): ArtworkAnchor {
  if (!anchor.turn && !anchor.mirrored) return { ...anchor, width, height };
  const frame = artworkFrame(anchor, normal, anchor.at);
  return anchorThrough(artworkCorners(frame, { width, height }), normal);
}
