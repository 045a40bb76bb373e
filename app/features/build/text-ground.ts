import {
  apply33,
  exactCells,
  findShape,
  outlineOfSurface,
  isLaid,
  pickAt,
  planeOfSurface,
  ringsOf,
  ruledPoint,
  samePlane,
  seenFace,
  type Outline,
  type Plane,
  type PlaneBox,
  type PlanePoint,
  type SheetPoint,
} from '@core';
import { lineWalk, textLineFrom, textPlace, type RoundLine, type TextLine } from '@later';
import { letterFrame, roundStart } from '@later';
import { planePointAt } from '../../tools/catching';
import { roundSideAt } from '../../tools/ground';
import type { BuildContext } from './build-set';

/** Where text is to begin: on a plane, along a line of it, or around a round side. */
export interface WritingPlace {
  readonly plane: Plane;
  readonly at: PlanePoint;
  readonly along?: TextLine;
  readonly around?: RoundLine;
  /** The flat face that it is to lie on: its box on the plane, in cells, and the colour that it is seen in. */
  readonly face?: { readonly box: PlaneBox; readonly colour?: string };
}

/** A place where text may begin, with what is shown of it. */
export interface TextGround {
  readonly place: WritingPlace;
  /** The baseline as far as it is shown, in the place's plane. */
  readonly points: readonly PlanePoint[];
  readonly words: string;
}

/** Cells of a baseline that are shown ahead of the pointer, and in how many pieces. */
const SHOWN = 12;
const PIECES = 40;

const shownOf = (line: TextLine): readonly PlanePoint[] => {
  const whole = Math.min(SHOWN, lineWalk(line.line)?.length ?? 0);
  return Array.from({ length: PIECES + 1 }, (_, i) => textPlace(line, (whole * i) / PIECES)!.at);
};

/** The round side under the pointer; text begins on whole cells of its height unless free. Null where there is none. */
export function roundGround(context: BuildContext, at: SheetPoint, free: boolean): TextGround | null {
  const found = roundSideAt(context, at);
  if (!found) return null;
  const { side, s } = found;
  const [low, high] = [ruledPoint(side, s, 0), ruledPoint(side, s, 1)];
  const length = Math.hypot(high.a - low.a, high.b - low.b, high.h - low.h);
  const height = free ? found.k * length : Math.round(found.k * length);
  const start = roundStart(side, s, height / length);
  if (!start) return null;
  const words = `${exactCells(Math.abs(height))} cells up the round side`;
  if (start.kind === 'plane') return { place: { plane: start.plane, at: { u: 0, v: 0 } }, points: [], words: 'along the round side' };
  const { round } = start;
  const plane: Plane = { kind: 'free', offset: 0, stance: { at: round.at, u: round.u, v: round.v } };
  return { place: { plane, at: textPlace(round, 0)!.at, around: round }, points: shownOf(round), words };
}

/** The edge, circle or drawn line under the pointer that text is to run along; null where there is none. */
export function lineGround(context: BuildContext, at: SheetPoint): TextGround | null {
  const { reach } = context;
  let best: { readonly plane: Plane; readonly line: Outline; readonly p: PlanePoint; readonly far: number } | null = null;
  for (const { plane, outline } of linesNear(context, at)) {
    const on = context.on(plane);
    const pointer = planePointAt(on, at);
    if (!pointer) continue;
    for (const line of ringsOf(outline)) {
      const walk = lineWalk(line);
      if (!walk) continue;
      const p = walk.place(walk.nearest(pointer)).at;
      const drawn = apply33(on.options.sheetFromPlane, p.u, p.v);
      // Of lines in one place, that of the chosen plane, so that text lies in it.
      const far = drawn ? Math.hypot(drawn.x - at.x, drawn.y - at.y) + (samePlane(plane, context.plane) ? 0 : reach / 8) : Infinity;
      if (far < 1.5 * reach && far < (best?.far ?? Infinity)) best = { plane, line, p, far };
    }
  }
  if (!best) return null;
  const { plane, line, p } = best;
  const { origin, x, y } = letterFrame(plane, p);
  const inText = ({ u, v }: PlanePoint): PlanePoint => {
    const [du, dv] = [u - origin.u, v - origin.v];
    return { u: exactCells(du * x.u + dv * x.v), v: exactCells(du * y.u + dv * y.v) };
  };
  const along = textLineFrom(carried(line, inText), { u: 0, v: 0 });
  if (!along) return null;
  const back = ({ u, v }: PlanePoint): PlanePoint => ({ u: origin.u + x.u * u + y.u * v, v: origin.v + x.v * u + y.v * v });
  return { place: { plane, at: p, along }, points: shownOf(along).map(back), words: line.closed ? 'text runs along the edge' : 'text runs along the line' };
}

function carried({ points, closed }: Outline, map: (p: PlanePoint) => PlanePoint): Outline {
  return {
    closed,
    points: points.map(({ id, u, v, into, out, arc, corner }) => ({
      id,
      ...map({ u, v }),
      ...(into && { into: map(into) }),
      ...(out && { out: map(out) }),
      ...(arc && { arc: { ...map(arc), weight: arc.weight } }),
      ...(corner && { corner }),
    })),
  };
}

/** The flat faces and lines at the pointer and just beside it. */
function linesNear({ document, picture, reach }: BuildContext, { x, y }: SheetPoint): readonly { readonly plane: Plane; readonly outline: Outline }[] {
  const found = new Map<string, { readonly plane: Plane; readonly outline: Outline }>();
  for (const [dx, dy] of [
    [0, 0],
    [1, 0],
    [-1, 0],
    [0, 1],
    [0, -1],
  ] as const) {
    const hit = pickAt(picture, { x: x + dx * reach, y: y + dy * reach }, reach, isLaid);
    const key = hit && `${hit.node} ${hit.face}`;
    if (!hit || found.has(key!)) continue;
    const shape = findShape(document, hit.node);
    const surface = seenFace(hit)?.surface;
    const plane = surface && planeOfSurface(surface);
    if (plane) found.set(key!, { plane, outline: outlineOfSurface(surface, plane) });
    else if (shape && shape.depth === 0) found.set(key!, shape);
  }
  return [...found.values()];
}
