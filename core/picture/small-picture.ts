import type { GroupMark, Mark } from '../artwork/marks';
import type { CheminDocument } from '../document/types';
import { projectionFrom } from '../projection/projection';
import { roomOf } from '../projection/framing';
import type { ProjectionSetup } from '../projection/setup';
import { gridMarks } from './grid-marks';
import { PictureMaker } from './picture';
import { sampleNodes } from './sample';
import { subjectOf } from './subject';

/** What a small picture shows: a family by what is drawn, near enough to be seen; the sheet; or the sheet with its grid. */
export type SmallKind = 'family' | 'sheet' | 'sheet with grid';

/** A picture of a whole drawing made to fit a canvas, to be painted anywhere. */
export interface SmallPicture {
  /** Px per mm, and where the sheet's upper left corner lies in px. */
  readonly k: number;
  readonly x: number;
  readonly y: number;
  /** The ground: its colour, and whether it fills the canvas or the sheet alone, which then bounds the rest. */
  readonly ground: string;
  readonly whole: boolean;
  readonly sheet: { readonly width: number; readonly height: number };
  readonly layers: readonly (readonly Mark[])[];
}

/** Paper of the pictures of families. */
const PAPER = '#fffefb';
/** Share of a canvas that what is drawn takes, and room round a sheet in px. */
const SHARE = 0.86;
const ROUND = 16;

/**
 * A small picture in a projection; a sample stands in while nothing is drawn.
 * @param width of the canvas in px
 */
export function smallPicture(kept: CheminDocument, projection: ProjectionSetup, kind: SmallKind, width: number, height: number): SmallPicture {
  const nodes = kind === 'family' && kept.nodes.length === 0 ? sampleNodes() : kept.nodes;
  const document = { ...kept, projection, nodes };
  const maker = new PictureMaker();
  const picture = maker.make(document);
  return kind === 'family' ? ofFamily(document, maker, picture.marks, width, height) : ofSheet(document, kind, picture.marks, width, height);
}

function ofFamily(document: CheminDocument, maker: PictureMaker, marks: readonly GroupMark[], width: number, height: number): SmallPicture {
  const { sheet } = document;
  const projection = projectionFrom(document.projection);
  const room = roomOf(projection, subjectOf(document, maker.stageOf(document)));
  const nothing: SmallPicture = { k: 1, x: 0, y: 0, ground: PAPER, whole: true, sheet, layers: [] };
  if (!room) return nothing;
  const k = Math.min(width / room.width, height / room.height) * SHARE;
  const { x, y } = room.middle;
  const seen = { minX: x - width / 2 / k, minY: y - height / 2 / k, maxX: x + width / 2 / k, maxY: y + height / 2 / k };
  const grid = { ...document.grid, planes: 'active', closest: 7, extents: { floor: null, left: null, right: null } } as const;
  const lines = gridMarks(projection, grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: k, leastWidth: 1 / k });
  return { ...nothing, k, x: width / 2 - x * k, y: height / 2 - y * k, layers: [lines, marks] };
}

function ofSheet({ sheet, grid, projection }: CheminDocument, kind: SmallKind, marks: readonly GroupMark[], width: number, height: number): SmallPicture {
  const round = kind === 'sheet' ? ROUND : 0.02 * Math.min(width, height);
  const k = Math.min((width - 2 * round) / sheet.width, (height - 2 * round) / sheet.height);
  const seen = { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height };
  const lines = kind === 'sheet' ? [] : gridMarks(projectionFrom(projection), grid, { kind: 'floor', offset: 0 }, seen, { pxPerMm: k / 2, leastWidth: 2 / k });
  return {
    k,
    x: (width - sheet.width * k) / 2,
    y: (height - sheet.height * k) / 2,
    ground: sheet.background,
    whole: false,
    sheet,
    layers: [lines, marks],
  };
}
