import type { CheminDocument, DocumentNode } from '../document/types';
import { sheetFromWorld } from '../projection/projection';
import { containsPoint } from '../math/polygon';
import { drawnBody, drawnNodes } from './drawn-nodes';
import type { Visible } from './painted';
import { isInside } from './pick';
import type { Picture } from './picture';
import type { Stage } from './stage';

/** An upright rectangle of the sheet, in sheet units. */
export interface SheetFrame {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** Which things a frame takes: those that lie wholly within it, or all that are seen in it. */
export type FrameTakes = 'within' | 'touching';

/**
 * The things that a frame takes, in document order: a group in place of all that is in it where it takes all of that.
 * What hides behind something else counts with all of its outline where things are to lie within.
 * @param skip nodes that cannot be pointed at, such as locked ones
 */
export function thingsInFrame(
  document: CheminDocument,
  picture: Picture,
  stage: Stage,
  frame: SheetFrame,
  takes: FrameTakes,
  skip: (node: string) => boolean,
): readonly string[] {
  const taken = takes === 'touching' ? touched(picture, frame) : within(document, picture, stage, frame);
  const found: string[] = [];
  // How many of the things that can be pointed at a node has, and how many of them are taken.
  const visit = (node: DocumentNode): readonly [all: number, taken: number] => {
    if (node.hidden || skip(node.id)) return [0, 0];
    if (node.kind !== 'group' || node.joined !== undefined) {
      const is = taken.has(node.id);
      if (is) found.push(node.id);
      return taken.has(node.id) || seenIn(picture).has(node.id) ? [1, is ? 1 : 0] : [0, 0];
    }
    const before = found.length;
    const [all, some] = node.children.map(visit).reduce(([p, q], [r, s]) => [p + r, q + s] as const, [0, 0] as const);
    if (all > 0 && all === some) found.splice(before, found.length, node.id);
    return [all, some];
  };
  document.nodes.forEach(visit);
  return found;
}

const seen = new WeakMap<Picture, ReadonlySet<string>>();

function seenIn(picture: Picture): ReadonlySet<string> {
  let known = seen.get(picture);
  if (!known) seen.set(picture, (known = new Set(picture.visible.map(({ node }) => node))));
  return known;
}

function touched({ visible }: Picture, frame: SheetFrame): ReadonlySet<string> {
  const taken = new Set<string>();
  for (const part of visible) if (!taken.has(part.node) && touches(part, frame)) taken.add(part.node);
  return taken;
}

/** Things of which every part lies in the frame: of solids their whole outline, of the rest what is seen. */
function within(document: CheminDocument, picture: Picture, stage: Stage, frame: SheetFrame): ReadonlySet<string> {
  const [out, some] = [new Set<string>(), new Set<string>()];
  const whole = new Set<string>();
  for (const drawn of drawnNodes(document)) {
    const body = drawn.hidden || drawn.node.kind === 'placement' || out.has(drawn.owner) ? null : drawnBody(drawn);
    if (!body) continue;
    whole.add(drawn.owner);
    const { points } = body;
    for (let i = 0; i < points.length; i += 3) {
      const at = sheetFromWorld(stage.view.sight.projection, { a: points[i]!, b: points[i + 1]!, h: points[i + 2]! });
      if (at && holds(frame, at.x, at.y)) continue;
      out.add(drawn.owner);
      break;
    }
  }
  for (const { node, polygon } of picture.visible) {
    some.add(node);
    if (whole.has(node) || out.has(node)) continue;
    for (let i = 0; i + 1 < polygon.length; i += 2) if (!holds(frame, polygon[i]!, polygon[i + 1]!)) out.add(node);
  }
  return new Set([...whole, ...some].filter((id) => !out.has(id)));
}

const holds = ({ minX, minY, maxX, maxY }: SheetFrame, x: number, y: number): boolean => x >= minX && x <= maxX && y >= minY && y <= maxY;

/** Whether any of what is seen of a part lies in the frame. */
function touches(part: Visible, frame: SheetFrame): boolean {
  const rings = [part.polygon, ...(part.holes ?? [])];
  if (rings.some((ring) => crosses(ring, frame, !part.open))) return true;
  // Without an edge in it, the frame lies wholly inside or wholly outside; artwork is seen on its face alone.
  const middle = { x: (frame.minX + frame.maxX) / 2, y: (frame.minY + frame.maxY) / 2 };
  return (
    !part.open &&
    isInside(part, middle) &&
    (part.inside?.some(({ polygon }) => containsPoint(polygon, middle.x, middle.y) || crosses(polygon, frame, true)) ?? true)
  );
}

/** Whether an edge of a ring runs through a frame. */
function crosses(ring: ArrayLike<number>, frame: SheetFrame, closed: boolean): boolean {
  const n = ring.length;
  for (let i = closed ? 0 : 2; i + 1 < n; i += 2) {
    const from = (i + n - 2) % n;
    if (cuts(frame, ring[from]!, ring[from + 1]!, ring[i]!, ring[i + 1]!)) return true;
  }
  return false;
}

/** Whether a stretch has a place in the frame: what is left of it between the frame's sides (Liang and Barsky 1984). */
function cuts({ minX, minY, maxX, maxY }: SheetFrame, x0: number, y0: number, x1: number, y1: number): boolean {
  let [from, to] = [0, 1];
  for (const [way, room] of [
    [x0 - x1, x0 - minX],
    [x1 - x0, maxX - x0],
    [y0 - y1, y0 - minY],
    [y1 - y0, maxY - y0],
  ] as const) {
    if (way === 0) {
      if (room < 0) return false;
    } else if (way < 0) from = Math.max(from, room / way);
    else to = Math.min(to, room / way);
    if (from > to) return false;
  }
  return true;
}
