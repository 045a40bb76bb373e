import { ClipperOffset, EndType, JoinType } from 'clipper2-ts/dist/Offset.js';
import { flatInk, paintableDashes, type PathMark } from '../artwork/marks';
import { exactCells } from '../math/exact';
import { affineOf, apply33, IDENTITY, type Mat33 } from '../math/matrix';
import type { PlanePoint } from '../math/points';
import { TICKS_PER_CELL } from '../math/tolerances';
import type { Path64 } from '../shape/flat-areas';
import { ringsOf, type Outline } from '../shape/outline';
import { polygonPath, joinPaths, type Path } from '../shape/path';
import { chordsOf, outlineSegments } from '../shape/segments';
import type { LinePaint } from '../paint/paint';
import { seenDashes, type SeenBox } from './dashes';

/** Distance in cells between a curve and the chords that its line is made of in perspective. */
const LINE_CHORDS = 0.004;

/** How a plane is drawn. */
export interface Drawn {
  /** Homography from the plane's cells to mm of the sheet, the cell's edge in mm, and the smallest w that is drawn. */
  readonly map: Mat33;
  readonly cell: number;
  readonly near: number;
  readonly seen: SeenBox;
}

/**
 * The mark of a line along a path. On the sheet it has one width; in the plane it is foreshortened: by its pen in
 * parallel projections, and in perspective as an area of the plane, so that it is thinner where it is farther. A line
 * whose points carry the pen's pressure is an area in any case.
 * @param path what is drawn, on the sheet
 * @param outline the same boundary in cells of its plane, for areas
 * @param colour `#rrggbb`
 */
export function lineMark(line: LinePaint, path: Path, outline: Outline, { map, cell, near, seen }: Drawn, colour: string): PathMark {
  const area = (shown: Path): PathMark => ({ kind: 'path', path: shown, fill: flatInk(colour), rule: 'nonzero', line: null });
  const pressed = outline.points.some((p) => p.press !== undefined);
  const affine = affineOf(map);
  if (pressed) return area(pressedPath(line, outline, map, cell));
  const inPlane = line.on === 'plane';
  if (inPlane && !affine) return area(recedingPath(line, outline, { map, cell, near, seen }));
  // The pen's unit is a mm of the plane; its place does not matter.
  const pen = inPlane && affine ? ([affine[0] / cell, affine[1] / cell, affine[2] / cell, affine[3] / cell, 0, 0] as const) : IDENTITY;
  const dashes = paintableDashes(
    (line.dashes ?? []).map((d) => d * line.width),
    path,
    1,
  );
  const style = { ink: flatInk(colour), width: line.width, cap: line.cap ?? 'round', join: line.join ?? 'round', miterLimit: 4, dashes, pen } as const;
  return { kind: 'path', path, fill: null, rule: 'nonzero', line: style };
}

/** A boundary as chords in cells; a closed one comes back to its start. */
function chordsAlong(outline: Outline): PlanePoint[] {
  const segments = outlineSegments(outline);
  const first = segments[0];
  return first ? [first.from, ...segments.flatMap((segment) => chordsOf(segment, LINE_CHORDS))] : [];
}

/** Dashes whose areas are united at once. */
const TOGETHER = 64;

const JOINS = { round: JoinType.Round, miter: JoinType.Miter, bevel: JoinType.Bevel } as const;
const CAPS = { round: EndType.Round, butt: EndType.Butt, square: EndType.Square } as const;

/** The areas that lines cover when they are widened by so much to both sides, on whole numbers. */
function offsetLines(lines: Path64[], half: number, join: JoinType, end: EndType): Path64[] {
  const offset = new ClipperOffset(4, half / 200);
  const areas: Path64[] = [];
  offset.addPaths(lines, join, end);
  offset.execute(half, areas);
  return areas;
}

/** The area that a line covers in its plane, projected. Offsets by Clipper's (Chen & McMains 2005 for the union). */
function recedingPath(line: LinePaint, outline: Outline, { map, cell, near, seen }: Drawn): Path {
  const half = (line.width / 2 / cell) * TICKS_PER_CELL;
  const dashes = (line.dashes ?? []).map((d) => (d * line.width) / cell);
  const paths: Path64[] = [];
  let closed = false;
  for (const ring of ringsOf(outline)) {
    const points = chordsAlong(ring);
    closed = ring.closed && dashes.length === 0;
    const pieces = dashes.length > 0 ? seenDashes(points, dashes, map, near, seen) : [closed ? points.slice(0, -1) : points];
    for (const piece of pieces) paths.push(piece.map((p) => ({ x: Math.round(p.u * TICKS_PER_CELL), y: Math.round(p.v * TICKS_PER_CELL) })));
  }
  const end = closed ? EndType.Joined : CAPS[line.cap ?? 'round'];
  const areas: Path64[] = [];
  // Dashes lie apart: a few at a time are as right as all at once, and take time in proportion.
  for (let i = 0; i < paths.length; i += TOGETHER) {
    areas.push(...offsetLines(paths.slice(i, i + TOGETHER), half, JOINS[line.join ?? 'round'], end));
  }
  return joinPaths(
    areas.flatMap((area) => {
      const flat = area.flatMap(({ x, y }) => {
        const p = apply33(map, x / TICKS_PER_CELL, y / TICKS_PER_CELL);
        return p ? [p.x, p.y] : [];
      });
      return flat.length === 2 * area.length ? [polygonPath(flat)] : [];
    }),
  );
}

/** Corners of the disc that a pressed pen leaves. */
const DISC = 16;

/** What a pen of varying pressure covers: a disc at every point and a quadrilateral between neighbours. */
function pressedPath(line: LinePaint, outline: Outline, map: Mat33, cell: number): Path {
  const segments = outlineSegments(outline);
  const pressOf = new Map(outline.points.map((p) => [p.id, p.press ?? 1]));
  const ids = outline.points.map((p) => p.id);
  const spots: { x: number; y: number; r: number }[] = [];
  const scale = line.on === 'plane' ? 1 / cell : 1;
  const put = (p: PlanePoint, press: number): void => {
    const r = (line.width / 2) * press * scale;
    if (line.on === 'plane') spots.push({ x: p.u, y: p.v, r });
    else {
      const at = apply33(map, p.u, p.v);
      if (at) spots.push({ x: at.x, y: at.y, r });
    }
  };
  segments.forEach((segment, i) => {
    const from = pressOf.get(segment.id) ?? 1;
    const to = pressOf.get(ids[ids.indexOf(segment.id) + 1] ?? ids[0]!) ?? 1;
    const chords = chordsOf(segment, LINE_CHORDS);
    if (i === 0) put(segment.from, from);
    chords.forEach((p, k) => put(p, from + ((to - from) * (k + 1)) / chords.length));
  });
  const areas: number[][] = spots.map(({ x, y, r }) =>
    Array.from({ length: DISC }, (_, k) => [x + r * Math.cos((k * 2 * Math.PI) / DISC), y + r * Math.sin((k * 2 * Math.PI) / DISC)]).flat(),
  );
  for (let i = 0; i + 1 < spots.length; i++) {
    const [p, q] = [spots[i]!, spots[i + 1]!];
    const length = Math.hypot(q.x - p.x, q.y - p.y);
    if (length === 0) continue;
    const [nx, ny] = [-(q.y - p.y) / length, (q.x - p.x) / length];
    areas.push([p.x - nx * p.r, p.y - ny * p.r, q.x - nx * q.r, q.y - ny * q.r, q.x + nx * q.r, q.y + ny * q.r, p.x + nx * p.r, p.y + ny * p.r]);
  }
  const shown = line.on !== 'plane' ? areas : areas.map((area) => area.flatMap((_, i) => (i % 2 === 0 ? onSheet(map, area[i]!, area[i + 1]!) : [])));
  return joinPaths(shown.map((area) => polygonPath(area)));
}

function onSheet(map: Mat33, u: number, v: number): number[] {
  const p = apply33(map, exactCells(u), exactCells(v));
  return p ? [p.x, p.y] : [];
}
