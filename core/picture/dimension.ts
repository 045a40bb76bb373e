import type { DimensionNode, ShapeNode, Sheet } from '../document/types';
import { strokeText, strokeWidth } from '../lettering/stroke-figures';
import { exactCells } from '../math/exact';
import { figure } from '../math/figures';
import type { PlanePoint } from '../math/points';
import { lengthInUnit, realLength } from '../math/sums';
import { outlineThrough } from '../shape/outline';
import { SQUARE } from '../math/tolerances';

/** Height of the figures, and what extension lines stand off and run over, in mm. */
const FIGURES = 3;
const STAND_OFF = 1;
const RUN_OVER = 1.5;
/** Half the length of the slanting tick at each end. */
const TICK = 1.2;
/** Width of a dimension's lines in mm of the sheet. */
const WIDTH = 0.25;

/** The length that a dimension measures, in cells. */
export function dimensionLength({ along }: Pick<DimensionNode, 'along'>, from: PlanePoint, to: PlanePoint): number {
  const [du, dv] = [to.u - from.u, to.v - from.v];
  return along === 'u' ? Math.abs(du) : along === 'v' ? Math.abs(dv) : Math.hypot(du, dv);
}

/**
 * The strokes of a dimension as open shapes of its plane: two extension lines, the dimension line between oblique ticks
 * (ISO 129-1), and the length in figures over its middle. None where the ends are one point.
 */
export function dimensionShapes(
  node: DimensionNode,
  from: PlanePoint,
  to: PlanePoint,
  sheet: Pick<Sheet, 'unit' | 'resolution' | 'scale'>,
  cell: number,
): readonly ShapeNode[] {
  const length = dimensionLength(node, from, to);
  if (length === 0) return [];
  const span = { u: to.u - from.u, v: to.v - from.v };
  const along: PlanePoint =
    node.along === 'u' ? { u: Math.sign(span.u), v: 0 } : node.along === 'v' ? { u: 0, v: Math.sign(span.v) } : { u: span.u / length, v: span.v / length };
  const side = { u: -along.v, v: along.u };
  const at = (p: PlanePoint, x: number, y: number): PlanePoint => ({ u: p.u + along.u * x + side.u * y, v: p.v + along.v * x + side.v * y });
  // Where `to` lies aside of the line through `from`, when only a part is measured.
  const lift = (to.u - from.u) * side.u + (to.v - from.v) * side.v;
  const end = at(from, length, 0);
  const sign = node.apart < 0 ? -1 : 1;
  const [off, over] = [(sign * STAND_OFF) / cell, (sign * RUN_OVER) / cell];
  const strokes: PlanePoint[][] = [
    [at(from, 0, off), at(from, 0, node.apart + over)],
    [at(end, 0, lift + off), at(end, 0, node.apart + over)],
    [at(from, 0, node.apart), at(end, 0, node.apart)],
  ];
  const tick = TICK / cell;
  for (const p of [at(from, 0, node.apart), at(end, 0, node.apart)]) strokes.push([at(p, -tick, -tick), at(p, tick, tick)]);
  strokes.push(...figures(node, length, at(from, length / 2, node.apart), along, sheet, cell));
  return strokes.map((points, i) => ({
    kind: 'shape',
    id: `${node.id}.${i}`,
    name: node.name,
    hidden: false,
    locked: false,
    plane: node.plane,
    outline: outlineThrough(
      points.map((p) => ({ u: exactCells(p.u), v: exactCells(p.v) })),
      false,
    ),
    depth: 0,
    paint: { fill: null, line: { colour: node.colour, width: WIDTH } },
  }));
}

/** The figures over the middle of the line, upright and readable as text stands on the plane. */
function figures(
  { plane }: DimensionNode,
  length: number,
  middle: PlanePoint,
  along: PlanePoint,
  sheet: Pick<Sheet, 'unit' | 'resolution' | 'scale'>,
  cell: number,
): PlanePoint[][] {
  const text = shownLength(length * cell, sheet).replace(/\u2009/g, ' ');
  const height = FIGURES / cell;
  // Text runs along u, against it on the left wall; on the sheet v runs down.
  const right = plane.kind === 'left' ? -1 : 1;
  const up = plane.kind === 'sheet' ? -1 : 1;
  const forwards = along.u * right > SQUARE || (Math.abs(along.u) <= SQUARE && along.v * up > 0);
  const x = forwards ? along : { u: -along.u, v: -along.v };
  const turned = { u: -x.v * right * up, v: x.u * right * up };
  const start = -strokeWidth(text, height) / 2;
  return strokeText(text, height).map((flat) => {
    const points: PlanePoint[] = [];
    for (let i = 0; i + 1 < flat.length; i += 2) {
      const [dx, dy] = [start + flat[i]!, flat[i + 1]! + height * 0.4];
      points.push({ u: middle.u + x.u * dx + turned.u * dy, v: middle.v + x.v * dx + turned.v * dy });
    }
    return points;
  });
}

/** The length that the figures say: of the real thing where the drawing has a scale. */
function shownLength(mm: number, sheet: Pick<Sheet, 'unit' | 'resolution' | 'scale'>): string {
  return sheet.scale === 1 ? lengthInUnit(mm, sheet) : realLength(mm, sheet.scale).replace(/ real$/, '');
}

/** A dimension's length in words: `12 cells, 96 mm`. */
export function dimensionWords(length: number, sheet: Pick<Sheet, 'unit' | 'resolution' | 'scale'>, cell: number): string {
  return `${figure(length)}\u2009${length === 1 ? 'cell' : 'cells'}, ${lengthInUnit(length * cell, sheet)}`;
}
