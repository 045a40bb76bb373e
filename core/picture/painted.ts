import { keptBy } from '../math/keep';
import { flatInk, type GroupMark, type Ink, type LineStyle, type Mark } from '../artwork/marks';
import type { Surface, SurfaceOrigin } from '../geometry/body';
import type { SurfaceName } from '../geometry/names';
import { IDENTITY } from '../math/matrix';
import type { LinePaint, Paint } from '../paint/paint';
import type { Path } from '../shape/path';
import type { Area, DrawnSurface } from '../visibility/drawn-body';
import { thingOf, type DrawnNode, type DrawnThing } from './drawn-nodes';

/** Sheet units of same-coloured line that close the hair line between two faces that share an edge. */
const SEAM = 0.12;

/** Something visible that can be pointed at, in paint order. */
export interface Visible extends Area {
  readonly node: string;
  readonly face: SurfaceName | null;
  /** What it is of: of copies, which of the things that they show, and where it is carried. */
  readonly drawn: DrawnThing;
  /** Of solids that are one: the surface of the part that it came from. */
  readonly part?: SurfaceOrigin;
  /** Areas one of which it is seen inside of, such as the face that artwork lies on; everywhere without. */
  readonly inside?: readonly Area[];
  /** Open lines are hit along their length, areas inside. */
  readonly open: boolean;
  /** Of faces: the colour that they are filled with where light falls on them, the middle one of several. */
  readonly colour?: string;
}

/** A stroke along a fill's own path is one mark with it; anything else follows it. */
export function withLines(own: Mark[], lines: readonly Mark[]): readonly Mark[] {
  const [fill, line] = [own[0], lines[0]];
  if (own.length !== 1 || fill?.kind !== 'path' || line?.kind !== 'path' || line.path !== fill.path || line.fill) return lines;
  own[0] = { ...fill, line: line.line };
  return [];
}

/** A line round a side of a solid. */
export function sideLine({ width, join }: LinePaint, path: Path, colour: string): Mark {
  const style: LineStyle = { ink: flatInk(colour), width, cap: 'round', join: join ?? 'round', miterLimit: 4, dashes: [], pen: IDENTITY };
  return { kind: 'path', path, fill: null, rule: 'nonzero', line: style };
}

/** How a thing is laid over what lies under it, by its paint. */
export function lookOf({ strength, blend }: Paint): Look {
  return strength === undefined && blend === undefined ? PLAIN : { strength: strength ?? 1, ...(blend && { blend }) };
}

/** An area of the sheet as something that can be pointed at. */
function visibleArea(drawn: DrawnThing, { name, from }: Surface, { polygon, holes }: Area): Visible {
  return { node: drawn.owner, face: name, drawn, polygon, open: false, ...(holes && { holes }), ...(from && { part: from }) };
}

/** How a whole thing is laid over what lies under it. */
export type Look = Pick<GroupMark, 'strength' | 'blend'>;
/** Laid over with full strength. */
export const PLAIN: Look = { strength: 1 };

/**
 * What a surface is painted with. Where it can be pointed at is found when it is first asked for: while the camera
 * moves, nobody points.
 */
export class PaintedSurface implements Painted {
  private found: readonly Visible[] | null = null;

  constructor(
    private readonly drawn: DrawnNode,
    readonly look: Look,
    readonly marks: readonly Mark[],
    private readonly part: DrawnSurface,
    /** What is left of it where something was cut out. */
    private readonly cut: readonly Area[] | null,
    /** The artwork on it. */
    private readonly placed: readonly Painted[],
  ) {}

  get node(): string {
    return this.drawn.owner;
  }

  get name(): string {
    return this.drawn.node.name;
  }

  get visible(): readonly Visible[] {
    if (this.found) return this.found;
    const colour = fillOf(this.marks);
    const drawn = thingOf(this.drawn);
    const visible = (this.cut ?? this.part.outline).map((area) => ({
      ...visibleArea(drawn, this.part.surface!, area),
      ...(colour !== null && { colour }),
    }));
    for (const { visible: on } of this.placed) visible.push(...on);
    return (this.found = visible);
  }
}

/** The colour of the first fill among some marks, of gradients that in the middle; null where there is none. */
function fillOf(marks: readonly Mark[]): string | null {
  for (const mark of marks) {
    if (mark.kind === 'group') return fillOf(mark.marks);
    if (mark.kind === 'image') continue;
    if (mark.fill) return mark.fill.kind === 'flat' ? mark.fill.colour : (mark.fill.stops[mark.fill.stops.length >> 1]?.colour ?? null);
  }
  return null;
}

/** What one part of a thing is painted with, and where it can be pointed at. */
export interface Painted {
  readonly node: string;
  readonly name: string;
  readonly look: Look;
  readonly marks: readonly Mark[];
  readonly visible: readonly Visible[];
}

/** Neighbours in paint order that belong to one node become one named group. */
export function groupByNode(painted: readonly Painted[]): GroupMark[] {
  const groups: (GroupMark & { marks: readonly Mark[] })[] = [];
  let of: string | null = null;
  let several: Mark[] | null = null;
  for (const { node, name, look, marks } of painted) {
    if (marks.length === 0) continue;
    if (of !== node) {
      groups.push({ kind: 'group', node, name, clip: null, ...look, marks });
      [of, several] = [node, null];
      continue;
    }
    const group = groups.at(-1)!;
    // What one part alone is painted with, which may be much, is not copied.
    if (!several) group.marks = several = [...group.marks];
    for (const mark of marks) several.push(mark);
  }
  return groups;
}

/** The line in the colour of a face that closes the hair line to its neighbour. One object for each ink. */
export const seam = keptBy(seamOf);

function seamOf(ink: Ink): LineStyle {
  return { ink, width: SEAM, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY, hair: true };
}
