import type { GroupMark, Ink, LineStyle, Mark, PathMark } from '../artwork/marks';
import { mapMarks } from '../artwork/artwork';
import type { FlatArtwork } from '../artwork/read-svg';
import { exactCells } from '../math/exact';
import type { Checked } from '../math/errors';
import type { Affine } from '../math/matrix';
import type { PlanePoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import type { Gradient, Paint } from '../paint/paint';
import type { Plane } from '../projection/planes';
import { doubleAreaOf, pointsOfSegments } from '../shape/from-segments';
import { outlineOfRings, type OutlinePoint } from '../shape/outline';
import { chordsOf, type Segment } from '../shape/segments';
import { COORDS_OF, type Path } from '../shape/path';
import type { ShapeNode } from './types';

/** Most corners of all shapes that are taken from one SVG. */
export const MAX_SVG_POINTS = 100_000;
/** Largest coordinate in mm that is taken. */
const MAX_MM = 100_000;

/**
 * The paths of flat artwork as shapes that can be edited, on a plane: straight lines, cubic curves, fills, gradients
 * and lines. On walls and floor what was up stays up, and it is read from left to right. Clips are left out, each with
 * a note.
 * @param at where the artwork's lower left corner lies (on the sheet its upper left), in cells
 * @param unit mm of one unit of the artwork
 */
export function shapesFromArtwork(
  artwork: FlatArtwork,
  plane: Plane,
  at: PlanePoint,
  cell: number,
  unit: number,
  newId: () => string,
): Checked<readonly ShapeNode[]> {
  const k = unit / cell;
  const flip = plane.kind !== 'sheet';
  const mirror = plane.kind === 'left';
  const map: Affine = [mirror ? -k : k, 0, 0, flip ? -k : k, mirror ? at.u + artwork.width * k : at.u, flip ? at.v + artwork.height * k : at.v];
  const found: { mark: PathMark; name: string; strength: number; blend: GroupMark['blend'] }[] = [];
  let [clips, bitmaps] = [0, 0];
  const visit = (marks: readonly Mark[], name: string, strength: number, blend: GroupMark['blend']): void => {
    for (const mark of marks) {
      if (mark.kind === 'path') found.push({ mark, name, strength, blend });
      else if (mark.kind === 'image') bitmaps++;
      else {
        if (mark.clip) clips++;
        visit(mark.marks, mark.name || name, strength * mark.strength, mark.blend ?? blend);
      }
    }
  };
  visit(mapMarks(artwork.marks, map), '', 1, undefined);
  const points = found.reduce((sum, { mark }) => sum + mark.path.coords.length / 2, 0);
  if (points > MAX_SVG_POINTS) {
    return refuse(
      'too-many',
      `The SVG has ${Math.round(points).toLocaleString('en')} points; as shapes at most ${MAX_SVG_POINTS.toLocaleString('en')} are taken. Add it as artwork.`,
    );
  }
  if (found.some(({ mark }) => mark.path.coords.some((c) => !Number.isFinite(c) || Math.abs(c) * cell > MAX_MM))) {
    return refuse('too-far', 'A coordinate of the SVG is no number, or lies more than 100 m away.');
  }
  const nodes = found.flatMap(({ mark, name, strength, blend }, i): ShapeNode[] => {
    const paint = paintOf(mark, strength, blend, cell);
    return outlinesOf(mark.path).map(({ rings, closed }) => ({
      kind: 'shape',
      id: newId(),
      name: name || `pasted ${i + 1}`,
      hidden: false,
      locked: false,
      plane,
      outline: outlineOfRings(rings, closed),
      depth: 0,
      paint: closed ? paint : { ...paint, fill: null, line: paint.line ?? { colour: '#2a2333', width: 0.4 } },
    }));
  });
  if (nodes.length === 0) return refuse('empty', 'The SVG holds no paths that could be shapes.');
  const notes = [
    ...(clips > 0 ? [{ code: 'clip', path: '', message: 'Left out: clips. Shapes are whole.' }] : []),
    ...(bitmaps > 0 ? [{ code: 'bitmap', path: '', message: 'Left out: bitmaps. Add the file as artwork to keep them.' }] : []),
  ];
  return { ok: true, value: nodes, notes };
}

function refuse(code: string, message: string): Checked<never> {
  return { ok: false, problems: [{ code, path: '', message }] };
}

interface Ring {
  readonly points: readonly OutlinePoint[];
  readonly closed: boolean;
  readonly polygon: number[];
  readonly area: number;
}

/** The outlines of a path: open subpaths each by itself, closed ones with those that lie within them as holes. */
function outlinesOf(path: Path): readonly { readonly rings: readonly (readonly OutlinePoint[])[]; readonly closed: boolean }[] {
  const rings = ringsOfPath(path);
  const open = rings.filter((ring) => !ring.closed && ring.points.length > 1).map((ring) => ({ rings: [ring.points], closed: false }));
  const closed = rings.filter((ring) => ring.closed && ring.points.length > 1 && ring.area > 0).sort((p, q) => q.area - p.area);
  const depths = closed.map((ring, i) => closed.slice(0, i).filter((outer) => containsPoint(outer.polygon, ring.polygon[0]!, ring.polygon[1]!)).length);
  const solid = closed.flatMap((ring, i) => {
    if (depths[i]! % 2 === 1) return [];
    const holes = closed.filter((hole, k) => k > i && depths[k] === depths[i]! + 1 && containsPoint(ring.polygon, hole.polygon[0]!, hole.polygon[1]!));
    return [{ rings: [ring.points, ...holes.map((hole) => hole.points)], closed: true }];
  });
  return [...solid, ...open];
}

function ringsOfPath({ verbs, coords }: Path): readonly Ring[] {
  const rings: Ring[] = [];
  let segments: Segment[] = [];
  let start: PlanePoint = { u: 0, v: 0 };
  let pen = start;
  let at = 0;
  const end = (closed: boolean): void => {
    const back = closed && (pen.u !== start.u || pen.v !== start.v) ? [{ kind: 'line', id: segments.length + 1, from: pen, to: start } as const] : [];
    const all = [...segments, ...back];
    const met = all.length > 1 && exactCells(pen.u) === exactCells(start.u) && exactCells(pen.v) === exactCells(start.v);
    if (all.length > 0) {
      const polygon = all.flatMap((s) => chordsOf(s, 0.01).flatMap((p) => [p.u, p.v]));
      rings.push({ points: pointsOfSegments(all, closed || met), closed: closed || met, polygon, area: Math.abs(doubleAreaOf(all)) });
    }
    segments = [];
    pen = start;
  };
  for (const verb of verbs) {
    const n = COORDS_OF[verb] ?? 0;
    const c = coords.slice(at, at + n);
    at += n;
    const to = { u: c[n - 2] ?? 0, v: c[n - 1] ?? 0 };
    if (verb === 'Z') end(true);
    else if (verb === 'M') {
      end(false);
      start = pen = to;
    } else {
      const id = segments.length + 1;
      if (verb === 'C') segments.push({ kind: 'cubic', id, from: pen, out: { u: c[0]!, v: c[1]! }, into: { u: c[2]!, v: c[3]! }, to });
      else segments.push({ kind: 'line', id, from: pen, to });
      pen = to;
    }
  }
  end(false);
  return rings;
}

function paintOf({ fill, line }: PathMark, strength: number, blend: GroupMark['blend'], cell: number): Paint {
  const ink = fill && fillOf(fill);
  const whole = strength * (fill?.kind === 'flat' ? fill.strength : 1);
  return {
    fill: ink,
    line: line && lineOf(line, cell),
    ...(whole < 1 && { strength: Math.max(0, whole) }),
    ...(blend && { blend }),
  };
}

function fillOf(ink: Ink): Paint['fill'] {
  if (ink.kind === 'flat') return ink.colour;
  const on = (x: number, y: number): PlanePoint => {
    const [a, b, c, d, e, f] = ink.frame;
    return { u: exactCells(a * x + c * y + e), v: exactCells(b * x + d * y + f) };
  };
  const stops = ink.stops.map((stop) => ({ at: Math.max(0, Math.min(1, stop.at)), colour: stop.colour, strength: stop.strength }));
  if (stops.length < 2) return stops[0]?.colour ?? null;
  const gradient: Gradient =
    ink.kind === 'linear'
      ? { kind: 'linear', from: on(...ink.from), to: on(...ink.to), stops }
      : ink.kind === 'radial'
        ? { kind: 'radial', centre: on(...ink.centre), edge: on(ink.centre[0] + ink.radius, ink.centre[1]), stops }
        : { kind: 'conic', centre: on(0, 0), edge: on(1, 0), ...(ink.frame[0] * ink.frame[3] < ink.frame[1] * ink.frame[2] && { otherWay: true }), stops };
  return gradient;
}

function lineOf({ ink, width, cap, join, dashes, pen }: LineStyle, cell: number): Paint['line'] {
  // The pen's frame is in cells here; a width is what its area says.
  const mm = width * Math.sqrt(Math.abs(pen[0] * pen[3] - pen[1] * pen[2])) * cell;
  if (!(mm > 0)) return null;
  const colour = ink.kind === 'flat' ? ink.colour : (ink.stops[0]?.colour ?? '#2a2333');
  const pattern = dashes.slice(0, 16).map((d) => Math.min(1000, d / width));
  return {
    colour,
    width: Math.min(1000, mm),
    ...(cap !== 'round' && { cap }),
    ...(join !== 'round' && { join }),
    ...(pattern.some((d) => d > 0) && { dashes: pattern }),
  };
}
