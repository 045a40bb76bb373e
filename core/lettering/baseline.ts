import { exactCells } from '../math/exact';
import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import type { Stance } from '../projection/planes';
import type { Outline } from '../shape/outline';
import { lineWalk, type LinePlace, type LineWalk } from '../shape/walk';

/** A line that text runs along. */
export interface TextLine {
  /** In cells; without holes. */
  readonly line: Outline;
  /** Cells along it where the text begins, in the direction in which it is read. */
  readonly from: number;
  /** Text runs against the direction in which the line was drawn. */
  readonly against?: true;
}

/** A line around a round side, level on it, that letters stand on, each in a plane of its own that touches the side. */
export interface RoundLine extends TextLine {
  /** The plane in which the line lies: a place of it in cells of the world, and its directions. */
  readonly at: WorldPoint;
  readonly u: WorldPoint;
  readonly v: WorldPoint;
  /** Where letters point: the direction up of a cylinder; or the place where the straight lines of a cone meet, above them or below. */
  readonly up: WorldPoint;
  readonly meets?: 'above' | 'below';
  /** A mirror has turned it round: what stands on it reads backwards until it is laid anew. */
  readonly mirrored?: true;
}

/** Where a letter stands on a round side: the plane that touches it there, u to the right and v up as it is read. */
export interface Seat {
  readonly stance: Stance;
  /** Cells by which the side falls behind that plane at the letter's edges; 0 where it comes towards it. */
  readonly behind: number;
}

const turned = (walk: LineWalk, { against }: TextLine, distance: number): LinePlace => {
  const { at, along } = walk.place(against ? walk.length - distance : distance);
  return { at, along: against ? { u: -along.u, v: -along.v } : along };
};

/** The place of a line as far along as asked from where its text begins. */
export function textPlace(line: TextLine, distance: number): LinePlace | null {
  const walk = lineWalk(line.line);
  return walk && turned(walk, line, line.from + distance);
}

/**
 * A line through a plane as text runs along it from the place nearest to a point: the way in which it is read to the
 * right there, or upwards. Null where it has no length.
 */
export function textLineFrom(line: Outline, p: PlanePoint): TextLine | null {
  const walk = lineWalk(line);
  if (!walk) return null;
  const near = walk.nearest(p);
  const { along } = walk.place(near);
  const against = along.u < -1e-6 || (Math.abs(along.u) <= 1e-6 && along.v < 0);
  return against ? { line, from: exactCells(walk.length - near), against: true } : { line, from: exactCells(near) };
}

/** The same line, read the other way from the same place. */
export function turnedLine<T extends TextLine>(line: T): T {
  const { against, ...rest } = line;
  const length = lineWalk(line.line)?.length ?? 0;
  return { ...rest, from: exactCells(length - line.from), ...(!against && { against: true as const }) } as T;
}

/**
 * Where a letter stands on a round side.
 * @param middle cells from where the text begins to the letter's middle
 * @param rise cells by which its baseline lies above the line
 * @param half cells from its middle to its edges
 */
export function seatOn(round: RoundLine, middle: number, rise: number, half: number): Seat | null {
  const begin = placeOn(round, 0);
  // Lines of text further up a cone go round a smaller circle.
  const far = begin && round.meets ? lengthWorld(subtractWorld(round.up, begin.at)) : Infinity;
  const share = round.meets ? 1 + ((round.meets === 'above' ? -1 : 1) * rise) / far : 1;
  if (!begin || !(share > 0)) return null;
  const own = placeOn(round, middle / share);
  if (!own) return null;
  const at = addWorld(own.at, scaleWorld(own.generator, rise));
  const [left, right] = [placeOn(round, (middle - half) / share), placeOn(round, (middle + half) / share)];
  const behind = Math.max(...[left, right].map((edge) => (edge ? dotWorld(subtractWorld(own.at, edge.at), own.normal) : 0))) * share;
  return { stance: { at, u: own.right, v: crossWorld(own.normal, own.right) }, behind: Math.max(0, behind) };
}

interface OnRound {
  readonly at: WorldPoint;
  readonly right: WorldPoint;
  /** Unit, up along the side's straight line. */
  readonly generator: WorldPoint;
  readonly normal: WorldPoint;
}

function placeOn(round: RoundLine, distance: number): OnRound | null {
  const place = textPlace(round, distance);
  if (!place) return null;
  const world = (p: PlanePoint): WorldPoint => addWorld(scaleWorld(round.u, p.u), scaleWorld(round.v, p.v));
  const at = addWorld(round.at, world(place.at));
  const right = unitWorld(world(place.along));
  const towards = round.meets ? scaleWorld(subtractWorld(round.up, at), round.meets === 'above' ? 1 : -1) : round.up;
  const generator = unitWorld(towards);
  const normal = right && generator && unitWorld(crossWorld(right, generator));
  return normal && { at, right, generator, normal };
}
