import { exactCells } from '../math/exact';
import { mapWays } from './carry';
import type { Extent } from '../grid/settings';
import type { TextLine } from '../lettering/baseline';
import { mapPaint } from '../paint/paint';
import { mapOutline, mapPoint, type Outline } from '../shape/outline';
import type { Plane } from '../projection/planes';
import type { Anchor, CellMove, CheminDocument, DocumentNode, GroupNode } from './types';
import type { PlanePoint } from '../math/points';

/**
 * The document with another cell and every true size kept: all counts are multiplied by the old cell over the new.
 * Counts that do not fall on a tick of the new cell are moved to the nearest one, by less than 1/50,000 of a cell.
 */
export function recounted(document: CheminDocument, cell: number): CheminDocument {
  const k = document.grid.cell / cell;
  const count = (cells: number): number => exactCells(cells * k);
  const places = ({ a, b, h }: CellMove): CellMove => ({ a: count(a), b: count(b), h: count(h) });
  const plane = ({ stance, ...p }: Plane): Plane => ({
    ...p,
    offset: count(p.offset),
    ...(stance && { stance: { ...stance, at: places(stance.at) } }),
  });
  const scale = ({ u, v }: PlanePoint): PlanePoint => ({ u: count(u), v: count(v) });
  const outline = (o: Outline): Outline =>
    mapOutline(o, (p) => {
      const scaled = mapPoint(p, scale);
      return p.corner ? { ...scaled, corner: { ...p.corner, size: count(p.corner.size) } } : scaled;
    });
  const anchor = (at: Anchor): Anchor => ({ ...at, ...scale(at) });
  const node = (n: DocumentNode): DocumentNode => {
    if (n.kind === 'group')
      return { ...n, children: n.children.map(node), ...(n.lettering && { lettering: recountedLettering(n.lettering, count, places, outline) }) };
    if (n.kind === 'shape') {
      const surfaces = n.surfaces && Object.fromEntries(Object.entries(n.surfaces).map(([name, paint]) => [name, mapPaint(paint, scale)]));
      const paint = mapPaint(n.paint, scale);
      const ways = mapWays(n, count, scale);
      return { ...n, plane: plane(n.plane), outline: outline(n.outline), depth: count(n.depth), ...ways, paint, ...(surfaces && { surfaces }) };
    }
    if (n.kind === 'copy') return { ...n, by: places(n.by) };
    if (n.kind === 'dimension') return { ...n, plane: plane(n.plane), from: anchor(n.from), to: anchor(n.to), apart: count(n.apart) };
    const { at, width, height, middle } = n.anchor;
    const target = n.target.kind === 'plane' ? { ...n.target, plane: plane(n.target.plane) } : n.target;
    const pattern = n.pattern && { ...n.pattern, gapX: count(n.pattern.gapX), gapY: count(n.pattern.gapY) };
    return {
      ...n,
      target,
      ...(pattern && { pattern }),
      anchor: { ...n.anchor, at: places(at), width: count(width), height: count(height), ...(middle && { middle: scale(middle) }) },
    };
  };
  const { floor, left, right } = document.grid.extents;
  const extent = (e: Extent | null): Extent | null => e && { minU: count(e.minU), maxU: count(e.maxU), minV: count(e.minV), maxV: count(e.maxV) };
  const extents = { floor: extent(floor), left: extent(left), right: extent(right) };
  const trial = document.trial && { at: places(document.trial.at), size: places(document.trial.size) };
  const guides = document.guides?.map((guide) => ({ ...guide, plane: plane(guide.plane), at: scale(guide.at) }));
  return { ...document, grid: { ...document.grid, cell, extents }, nodes: document.nodes.map(node), ...(guides && { guides }), ...(trial && { trial }) };
}

function recountedLettering(
  lettering: NonNullable<GroupNode['lettering']>,
  count: (cells: number) => number,
  places: (p: CellMove) => CellMove,
  outline: (o: Outline) => Outline,
): NonNullable<GroupNode['lettering']> {
  const { marks, along, around } = lettering;
  const line = <T extends TextLine>(own: T): T => ({ ...own, line: outline(own.line), from: count(own.from) });
  const place = ({ u, v }: PlanePoint): PlanePoint => ({ u: count(u), v: count(v) });
  const seats = marks?.seats?.map(({ middle, half, rise }) => ({ middle: count(middle), half: count(half), rise: count(rise) }));
  const shared = {
    letter: count(lettering.letter),
    line: count(lettering.line),
    ...(lettering.bend !== undefined && { bend: count(lettering.bend) }),
    ...(along && { along: line(along) }),
    ...(around && { around: { ...line(around), at: places(around.at), ...(around.meets && { up: places(around.up) }) } }),
    ...(marks && { marks: { ...marks, at: marks.at.map(place), to: place(marks.to), ...(seats && { seats }) } }),
  };
  if (lettering.kind === 'font') return { ...lettering, ...shared, cap: count(lettering.cap), word: count(lettering.word) };
  return { ...lettering, ...shared, stem: count(lettering.stem), width: count(lettering.width), height: count(lettering.height) };
}

/** Whether every count of a document falls exactly on a tick after `recounted` to this cell. */
export function recountsExactly(document: CheminDocument, cell: number): boolean {
  const back = recounted(recounted(document, cell), document.grid.cell);
  return JSON.stringify(back.nodes) === JSON.stringify(document.nodes);
}
