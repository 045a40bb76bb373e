import { exactCells } from '../math/exact';
import { dotWorld, subtractWorld, type PlanePoint, type WorldPoint } from '../math/points';
import type { DepthWays } from '../geometry/depth-recipe';
import type { SurfaceName } from '../geometry/names';
import { seatOn, turnedLine, type RoundLine } from '../lettering/baseline';
import type { LaidLetter, LaidText } from '../lettering/laid-text';
import type { Lettering } from '../lettering/lettering';
import type { Paint } from '../paint/paint';
import { planeFrame, readingDirections, worldFromPlane, type Plane, type PlaneFrame } from '../projection/planes';
import { doubleAreaTicks, mapOutline, mapPoint, type Outline } from '../shape/outline';
import { flattenOutline } from '../shape/segments';
import { exactPoint, mapWays } from './carry';
import type { DocumentNode, GroupNode, LetterMarks, ShapeNode } from './types';

/** Where text lies on a plane: where it begins, and the unit directions in which it runs and stands, in the plane's coordinates. */
export interface LetterFrame {
  readonly plane: Plane;
  readonly origin: PlanePoint;
  readonly x: PlanePoint;
  readonly y: PlanePoint;
}

/** How letters are made besides their outlines. */
export interface LetterLook extends DepthWays {
  readonly depth: number;
  readonly paint: Paint;
  readonly surfaces?: Readonly<Record<SurfaceName, Paint>>;
}

/** The frame in which text is read on a plane, from a place of it: to the right and upright as it is seen from the side that the plane is drawn from. */
export function letterFrame(plane: Plane, origin: PlanePoint): LetterFrame {
  const frame = planeFrame(plane, 1);
  if (!frame) return { plane, origin, x: { u: 1, v: 0 }, y: { u: 0, v: -1 } };
  const { right, down } = readingDirections(frame.normal);
  const along = (d: typeof right): PlanePoint => ({ u: dotWorld(d, frame.u) + 0, v: dotWorld(d, frame.v) + 0 });
  const [x, y] = [along(right), along(down)];
  return { plane, origin, x, y: { u: -y.u + 0, v: -y.v + 0 } };
}

/** Chords in cells that tell which way an outline turns. */
const COARSE = 0.02;

const turnOf = ({ points }: Outline): 1 | -1 => (doubleAreaTicks(flattenOutline({ points, closed: true }, COARSE)) < 0 ? -1 : 1);

/**
 * Letters as a group that stays text: a shape for each letter, or a group of shapes where it has several parts.
 * @param before the same lettering as it was: its letters keep their paint, names and own displacements as far as the text is the same
 */
export function letteringGroup(
  head: Pick<GroupNode, 'id' | 'name' | 'hidden' | 'locked'>,
  lettering: Lettering,
  laid: LaidText,
  frame: LetterFrame,
  look: LetterLook,
  before: GroupNode | null = null,
): GroupNode {
  const kept = before ? keptLetters(before, laid) : null;
  const around = lettering.around?.mirrored ? turnedRound(lettering.around, laid.letters.map(({ seat }) => seat!)) : lettering.around; // prettier-ignore
  const children = laid.letters.map(({ text, outlines, seat }, index): DocumentNode => {
    const own = kept?.[index] ?? null;
    const by = own?.by ?? { u: 0, v: 0 };
    const stands = around && seat ? seatFrame(around, seat) : { frame, behind: 0 };
    const { plane, origin, x, y } = stands.frame;
    const at = (p: PlanePoint): PlanePoint => {
      const [u, v] = [p.u + by.u, p.v + by.v];
      return { u: exactCells(origin.u + x.u * u + y.u * v), v: exactCells(origin.v + x.v * u + y.v * v) };
    };
    const parts = outlines.map((outline, part): ShapeNode => {
      const was = own?.shapes[part];
      const shape: ShapeNode = {
        kind: 'shape',
        id: outlines.length === 1 ? `${head.id}.${index}` : `${head.id}.${index}.${part}`,
        name: was?.name ?? text,
        hidden: was?.hidden ?? false,
        locked: was?.locked ?? false,
        plane,
        outline: mapOutline(outline, (p) => mapPoint(p, at)),
        ...look,
        ...(around && { start: stands.behind === 0 ? 0 : -stands.behind }),
        paint: was?.paint ?? look.paint,
      };
      const surfaces = was ? was.surfaces : look.surfaces;
      return surfaces ? { ...shape, surfaces } : shape;
    });
    const [only] = parts;
    if (parts.length === 1) return only!;
    return { kind: 'group', id: `${head.id}.${index}`, name: text, hidden: false, locked: false, children: parts };
  });
  const marks = marksOf(laid);
  return { kind: 'group', ...head, children, lettering: { ...lettering, ...(around && { around }), ...(marks && { marks }) } };
}

type Seat = NonNullable<LaidLetter['seat']>;

/** The frame of a letter on a round side, and how far the side falls behind it at its edges; where there is no such place, that of the line's start. */
function seatFrame(around: RoundLine, { middle, rise, half }: Seat): { readonly frame: LetterFrame; readonly behind: number } {
  const seat = seatOn(around, middle, rise, half) ?? seatOn(around, 0, 0, 0);
  const { at, u, v } = seat?.stance ?? { at: around.at, u: around.u, v: around.v };
  const plane: Plane = { kind: 'free', offset: 0, stance: { at: exactPoint(at), u: plain(u), v: plain(v) } };
  return { frame: { plane, origin: { u: 0, v: 0 }, x: { u: 1, v: 0 }, y: { u: 0, v: 1 } }, behind: exactCells(seat?.behind ?? 0) };
}

/** A direction as it is written: without a zero's sign. */
const plain = ({ a, b, h }: WorldPoint): WorldPoint => ({ a: a + 0, b: b + 0, h: h + 0 });

/** A line that a mirror has turned round as one that is read rightly, over the same stretch. */
function turnedRound(around: RoundLine, seats: readonly Seat[]): RoundLine {
  const { mirrored: _, ...line } = turnedLine(around);
  const ends = seats.flatMap(({ middle, half }) => [middle - half, middle + half]);
  return { ...line, from: exactCells(line.from - (Math.min(...ends) + Math.max(...ends))) };
}

/** Text around a round side that a mirror has turned, read rightly again: every letter stands where another stood. */
export function readableRound(group: GroupNode): GroupNode {
  const { lettering } = group;
  const seats = lettering?.marks?.seats;
  if (!lettering?.around?.mirrored || !seats) return group;
  const [was, around] = [lettering.around, turnedRound(lettering.around, seats)];
  const children = group.children.map((child, i) => {
    const seat = seats[i];
    if (!seat) return child;
    const [from, to] = [planeFrame(seatFrame(was, seat).frame.plane, 1)!, seatFrame(around, seat).frame.plane];
    const carry = (node: DocumentNode): DocumentNode => {
      if (node.kind === 'group') return { ...node, children: node.children.map(carry) };
      const own = node.kind === 'shape' ? planeFrame(node.plane, 1) : null;
      if (node.kind !== 'shape' || !own) return node;
      const local = (p: PlanePoint): PlanePoint => {
        const at = subtractWorld(worldFromPlane(own, p), from.origin);
        return { u: exactCells(dotWorld(at, from.u)), v: exactCells(dotWorld(at, from.v)) };
      };
      // The plane's normal points into the side where a mirror has turned it.
      const out = dotWorld(own.normal, from.normal) < 0 ? 1 : -1;
      const ways = mapWays(node, (n) => n * out, local);
      return { ...node, plane: to, outline: mapOutline(node.outline, (p) => mapPoint(p, local)), depth: node.depth === 0 ? 0 : node.depth * out, ...ways };
    };
    return carry(child);
  });
  return { ...group, children, lettering: { ...lettering, around } };
}

/** Where each letter begins in the text's own directions, and how the first is found again. */
function marksOf({ letters }: LaidText): LetterMarks | null {
  const first = letters[0]?.outlines[0];
  if (!first) return null;
  const [from] = first.points;
  const far = first.points.reduce((best, p) => (distance(p, from!) > distance(best, from!) ? p : best));
  const seats = letters.flatMap(({ seat }) => seat ?? []);
  return {
    ...(seats.length > 0 && { seats }),
    signs: letters.map(({ text }) => text),
    at: letters.map(({ outlines }) => ({ u: outlines[0]!.points[0]!.u, v: outlines[0]!.points[0]!.v })),
    to: { u: far.u, v: far.v },
    point: far.id,
    turn: turnOf(first),
  };
}

const distance = (p: PlanePoint, q: PlanePoint): number => Math.hypot(p.u - q.u, p.v - q.v);

/** The shapes of a letter. */
function shapesOf(node: DocumentNode | undefined): readonly ShapeNode[] {
  if (node?.kind === 'shape') return [node];
  return node?.kind === 'group' ? node.children.flatMap((child) => (child.kind === 'shape' ? [child] : [])) : [];
}

/** Where a lettering lies now, told by its letters; null where the first was changed by hand. */
export function frameOfLettering(group: GroupNode): LetterFrame | null {
  const marks = group.lettering?.marks;
  const around = group.lettering?.around;
  if (around) return marks?.seats?.[0] ? seatFrame(around, marks.seats[0]).frame : null;
  const [first] = shapesOf(group.children[0]);
  const [from, to] = [first?.outline.points[0], first?.outline.points.find((p) => p.id === marks?.point)];
  if (!marks || !first || !from || !to) return null;
  const [own] = marks.at;
  const [p, q] = [
    { u: marks.to.u - own!.u, v: marks.to.v - own!.v },
    { u: to.u - from.u, v: to.v - from.v },
  ];
  const square = p.u * p.u + p.v * p.v;
  const flip = turnOf(first.outline) === marks.turn ? 1 : -1;
  // The turn that carries p, mirrored where the letters are, onto q.
  const [cos, sin] = [(p.u * q.u + flip * p.v * q.v) / square, (p.u * q.v - flip * p.v * q.u) / square];
  const length = Math.hypot(cos, sin);
  if (!(Math.abs(length - 1) * Math.sqrt(square) < 1e-3)) return null;
  const x = rounded({ u: cos / length, v: sin / length });
  const y = rounded({ u: (-sin / length) * flip, v: (cos / length) * flip });
  const base: LetterFrame = { plane: first.plane, origin: { u: from.u - x.u * own!.u - y.u * own!.v, v: from.v - x.v * own!.u - y.v * own!.v }, x, y };
  // Where most of the others lie elsewhere by one way, it is the first letter that was moved.
  const ways = displacements(group, base);
  const common = commonWay(ways);
  const origin = { u: exactCells(base.origin.u + x.u * common.u + y.u * common.v), v: exactCells(base.origin.v + x.v * common.u + y.v * common.v) };
  return { ...base, origin };
}

const rounded = (d: PlanePoint): PlanePoint => {
  const near = (n: number): number => (Math.abs(n - Math.round(n)) < 1e-5 ? Math.round(n) + 0 : n);
  return { u: near(d.u), v: near(d.v) };
};

/** How far each letter lies from where the text has it, in the text's own directions; null for letters that are gone. */
function displacements(group: GroupNode, { origin, x, y }: LetterFrame): readonly (PlanePoint | null)[] {
  const { around, marks } = group.lettering!;
  return marks!.at.map((mark, i) => {
    const shape = shapesOf(group.children[i])[0];
    const at = shape?.outline.points[0];
    if (!at) return null;
    const seat = marks!.seats?.[i];
    if (around && seat) return onSeat(shape, at, planeFrame(seatFrame(around, seat).frame.plane, 1)!, mark);
    const [u, v] = [at.u - origin.u, at.v - origin.v];
    return { u: exactCells(u * x.u + v * x.v - mark.u), v: exactCells(u * y.u + v * y.v - mark.v) };
  });
}

/** How far a letter on a round side lies from where the text has it, in the plane in which it stood. */
function onSeat(shape: ShapeNode, at: PlanePoint, seat: PlaneFrame, mark: PlanePoint): PlanePoint | null {
  const own = planeFrame(shape.plane, 1);
  if (!own) return null;
  const from = subtractWorld(worldFromPlane(own, at), seat.origin);
  return { u: exactCells(dotWorld(from, seat.u) - mark.u), v: exactCells(dotWorld(from, seat.v) - mark.v) };
}

/** Cells within which two displacements are one. */
const SAME_WAY = 1e-3;

function commonWay(ways: readonly (PlanePoint | null)[]): PlanePoint {
  let [best, most]: [PlanePoint, number] = [{ u: 0, v: 0 }, 0];
  for (const way of ways) {
    if (!way) continue;
    const count = ways.filter((other) => other && distance(other, way) < SAME_WAY).length;
    if (count > most) [best, most] = [way, count];
    if (most > ways.length / 2) break;
  }
  return best;
}

interface Kept {
  readonly shapes: readonly ShapeNode[];
  readonly by: PlanePoint;
}

/** What letters keep: those before the first that is another sign, and those after the last. */
function keptLetters(before: GroupNode, laid: LaidText): readonly (Kept | null)[] {
  const frame = frameOfLettering(before);
  const ways = frame && before.lettering?.marks ? displacements(before, frame) : [];
  const old = before.children;
  const names = laid.letters.map(({ text }) => text);
  const signs = before.lettering?.marks?.signs ?? [];
  let start = 0;
  while (start < Math.min(names.length, signs.length) && names[start] === signs[start]) start++;
  let end = 0;
  while (end < Math.min(names.length, signs.length) - start && names.at(-1 - end) === signs.at(-1 - end)) end++;
  return names.map((_, i): Kept | null => {
    const from = i < start ? i : i >= names.length - end ? i - names.length + signs.length : -1;
    const shapes = from < 0 ? [] : shapesOf(old[from]);
    if (shapes.length === 0) return null;
    const way = ways[from];
    return { shapes, by: way && distance(way, { u: 0, v: 0 }) > SAME_WAY ? way : { u: 0, v: 0 } };
  });
}
