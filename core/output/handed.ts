import { mapMarks } from '../artwork/artwork';
import type { Mark } from '../artwork/marks';
import type { CheminDocument, Sheet } from '../document/types';
import { mmPer } from '../math/units';
import type { Mat33 } from '../math/matrix';
import { affineOf } from '../math/matrix';
import { gridMarks } from '../picture/grid-marks';
import { guideMarks } from '../picture/guide-marks';
import type { HandedImages } from './images';
import { inGroups } from './in-groups';
import type { Picture } from '../picture/picture';
import type { Plane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import { cornerOf, moveWhole } from '../projection/steering';
import type { SheetPoint } from '../math/points';

/** What is handed over of a drawing. */
export interface HandOver {
  readonly content: 'drawing' | 'both' | 'grid';
  /** Where the grid's origin lies: where it is in the drawing, in the middle of the sheet, or at its lower left corner. */
  readonly gridFrom: 'drawing' | 'centre' | 'corner';
  /** Whether the sheet's background is painted; without it the sheet is transparent. */
  readonly background: boolean;
  /** Whether guides are handed over too, over everything. */
  readonly guides?: boolean;
}

/** A sheet with everything that is painted on it. */
export interface HandedSheet {
  readonly sheet: Sheet;
  readonly background: boolean;
  readonly marks: readonly Mark[];
  /** Its bitmaps; those that are missing are left out. */
  readonly images?: HandedImages;
}

const PX_PER_MM = 96 / 25.4;

/** The sheet as it is handed over: the drawing, its grid, or both in the order in which they are shown. */
export function handedSheet(document: CheminDocument, picture: Picture, active: Plane, { content, gridFrom, background, guides }: HandOver): HandedSheet {
  const { sheet, grid } = document;
  const drawing = content === 'grid' ? [] : inGroups(document.nodes, picture.marks);
  const over = guides ? guideMarks(document) : [];
  if (content === 'drawing') return { sheet, background, marks: [...drawing, ...over] };
  const seen = { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height };
  const projection = projectionFrom(originMoved(document.projection, gridFrom, sheet));
  const lines = gridMarks(projection, grid, active, seen, { pxPerMm: PX_PER_MM, leastWidth: 0 });
  return { sheet, background, marks: [...(grid.over ? [...drawing, ...lines] : [...lines, ...drawing]), ...over] };
}

/** The projection with its origin at another place of the sheet, everything else about it kept. */
export function originMoved(setup: ProjectionSetup, to: HandOver['gridFrom'], { width, height }: Pick<Sheet, 'width' | 'height'>): ProjectionSetup {
  if (to === 'drawing') return setup;
  const at: SheetPoint = to === 'centre' ? { x: width / 2, y: height / 2 } : { x: 0, y: height };
  if (setup.kind !== 'perspective') return { ...setup, origin: at };
  const corner = cornerOf(setup);
  return corner ? moveWhole(setup, { x: at.x - corner.at.x, y: at.y - corner.at.y }) : setup;
}

/** Marks in another unit than mm, such as px; lines keep their true width. */
export function marksIn(marks: readonly Mark[], unit: Sheet['unit'], resolution: number): readonly Mark[] {
  const k = 1 / mmPer(unit, resolution);
  const scale: Mat33 = [k, 0, 0, 0, k, 0, 0, 0, 1];
  return k === 1 ? marks : mapMarks(marks, affineOf(scale)!);
}
