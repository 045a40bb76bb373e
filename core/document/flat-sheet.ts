import { SHEET_READING } from '../geometry/anchor';
import { gridOf } from '../grid/settings';
import { exactCells } from '../math/exact';
import { keptBy, keptByName } from '../math/keep';
import { sameData } from '../math/same';
import { holdsItself } from './held-artworks';
import type { Artwork, CheminDocument, DocumentNode, PlacementNode } from './types';
import { emptyDocument } from './types';

/** Mm of a unit of SVG (CSS 2.2: 96 to the inch). */
export const SVG_UNIT_MM = 25.4 / 96;
/** Edge of a cell of an artwork's sheet in mm, where none is set. */
export const FLAT_CELL_MM = 5;
/** The id of what came from a file, as it lies on the sheet of its artwork. */
export const FROM_FILE = 'from-file';

/** The id of a net's lines, as they lie on its sheet. */
export const NET_LINES = 'net-lines';

/** Mm of one unit of an artwork. */
export const unitOf = ({ unitMm }: Pick<Artwork, 'unitMm'>): number => unitMm ?? SVG_UNIT_MM;

/** An artwork's size in mm. */
export function sizeMm({ width, height, unitMm }: Pick<Artwork, 'width' | 'height' | 'unitMm'>): { readonly width: number; readonly height: number } {
  const k = unitOf({ ...(unitMm !== undefined && { unitMm }) });
  return { width: width * k, height: height * k };
}

/** What came from a file as an artwork of its own. */
const fileOf = ({ id, name, svg, bitmap, width, height, unitMm }: Artwork): Artwork => ({
  id: `${id}-file`,
  name: `${name}, file`,
  svg,
  ...(bitmap !== undefined && { bitmap }),
  width,
  height,
  ...(unitMm !== undefined && { unitMm }),
});

const holdsFile = ({ svg, bitmap }: Artwork): boolean => svg !== '' || bitmap !== undefined;

/** What came from a file as it lies on the sheet of its artwork: filling it. */
function filePlaced(artwork: Artwork): PlacementNode {
  const { width, height } = sizeMm(artwork);
  const cell = artwork.cell ?? FLAT_CELL_MM;
  return {
    kind: 'placement',
    id: FROM_FILE,
    name: `${artwork.name}, file`,
    hidden: false,
    locked: true,
    artwork: `${artwork.id}-file`,
    target: { kind: 'plane', plane: { kind: 'sheet', offset: 0 } },
    anchor: { at: SHEET_READING.origin, width: exactCells(width / cell), height: exactCells(height / cell) },
  };
}

/** The bitmaps that an artwork shows by itself: that which fills it, and those in its SVG. */
export const bitmapsOf = keptBy(({ bitmap, svg }: Artwork): readonly string[] => [
  ...(bitmap === undefined ? [] : [bitmap]),
  ...Array.from(svg.matchAll(/"bitmap:([\w-]+)"/g), ([, id]) => id!),
]);

/** An artwork with its parts in the order in which they are written; those that are not there are left out. */
export function inOrder({
  id,
  name,
  svg,
  bitmap,
  width,
  height,
  unitMm,
  background,
  version,
  nodes,
  cell,
  net,
  guides,
}: { readonly [K in keyof Artwork]?: Artwork[K] | undefined }): Artwork {
  const all = { id, name, svg, bitmap, width, height, unitMm, background, version, nodes, cell, net, guides };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined)) as unknown as Artwork;
}

/**
 * An artwork's sheet as a drawing by itself, so that everything that works on drawings works on it: what came from its
 * file is a placement that lies under the rest. Made once for each; null where there is no such artwork.
 */
export function flatSheetOf(document: CheminDocument, id: string): CheminDocument | null {
  return flatSheetsOf(document)(id);
}

/** Most sheets of one document that are remembered. */
const MOST_SHEETS = 1000;
const flatSheetsOf = keptBy((document: CheminDocument) => keptByName(MOST_SHEETS, (id: string) => madeFlat(document, id)));

/** What a sheet of an artwork takes over from its drawing besides the artwork itself. */
interface Around {
  readonly swatches: CheminDocument['swatches'];
  readonly unit: CheminDocument['sheet']['unit'];
  readonly resolution: number;
}

/** An artwork's sheet as a drawing by itself, without the artworks and bitmaps of the drawing. */
export function flatSheet(artwork: Artwork, { swatches, unit, resolution }: Around): CheminDocument {
  const { width, height } = sizeMm(artwork);
  const empty = emptyDocument('', artwork.name, { x: width / 2, y: height / 2 });
  const { background } = artwork;
  return {
    ...empty,
    sheet: { ...empty.sheet, width, height, unit, resolution, ...(background !== undefined && { background }) },
    grid: gridOf(artwork.cell ?? FLAT_CELL_MM),
    swatches,
    nodes: [...(holdsFile(artwork) ? [filePlaced(artwork)] : []), ...(artwork.nodes ?? []), ...(artwork.net ? [linesOf(artwork.net)] : [])],
  };
}

function madeFlat(document: CheminDocument, id: string): CheminDocument | null {
  const artwork = document.artworks.find((one) => one.id === id);
  if (!artwork) return null;
  const { unit, resolution } = document.sheet;
  const flat = flatSheet(artwork, { swatches: document.swatches, unit, resolution });
  const byId = new Map(document.artworks.map((one) => [one.id, one]));
  // What it is placed on cannot be placed on it.
  const fits = document.artworks.filter((one) => one.id !== id && !holdsItself({ ...artwork, nodes: [placed(one)] }, byId));
  return {
    ...flat,
    id: document.id,
    grid: { ...flat.grid, over: document.grid.over },
    artworks: holdsFile(artwork) ? [...fits, fileOf(artwork)] : fits,
    bitmaps: document.bitmaps,
    ...(artwork.guides && { guides: artwork.guides }),
  };
}

/** A net's lines as they lie on its sheet, over everything. */
const linesOf = ({ lines }: NonNullable<Artwork['net']>): DocumentNode => ({
  kind: 'group',
  id: NET_LINES,
  name: 'net',
  hidden: false,
  locked: true,
  children: lines,
});

const placed = (artwork: Artwork): PlacementNode => ({ ...filePlaced(artwork), artwork: artwork.id });

/**
 * The drawing with an artwork as its sheet has become. What came from its file stays what it was as long as it lies as it
 * did; once it is moved it is an artwork of its own that is placed there.
 */
export function withFlatSheet(document: CheminDocument, id: string, flat: CheminDocument): CheminDocument {
  const before = flatSheetOf(document, id);
  const artwork = document.artworks.find((one) => one.id === id);
  if (!before || !artwork || before === flat) return document;
  const unit = unitOf(artwork);
  const drawn = flat.nodes.filter((node) => node.id !== NET_LINES);
  const [first, ...rest] = drawn;
  const resized = before.sheet.width !== flat.sheet.width || before.sheet.height !== flat.sheet.height || before.grid.cell !== flat.grid.cell;
  const keepsFile = holdsFile(artwork) && first?.id === FROM_FILE && sameData(first, before.nodes[0]) && !resized;
  const { svg, bitmap } = artwork;
  const cell = flat.grid.cell === FLAT_CELL_MM ? undefined : flat.grid.cell;
  const background = flat.sheet.background !== before.sheet.background ? flat.sheet.background : artwork.background;
  const nodes = keepsFile ? rest : drawn;
  const next = inOrder({
    ...artwork,
    name: flat.name,
    svg: keepsFile ? svg : '',
    bitmap: keepsFile ? bitmap : undefined,
    width: flat.sheet.width === before.sheet.width ? artwork.width : flat.sheet.width / unit,
    height: flat.sheet.height === before.sheet.height ? artwork.height : flat.sheet.height / unit,
    background,
    nodes: nodes.length > 0 ? nodes : undefined,
    cell,
    guides: flat.guides,
  });
  const known = new Set(document.artworks.map((one) => one.id));
  const used = !keepsFile && nodes.some((node) => node.kind === 'placement' && node.artwork === `${id}-file`);
  const added = flat.artworks.filter((one) => !known.has(one.id) && (used || one.id !== `${id}-file`));
  return {
    ...document,
    artworks: [...document.artworks.map((one) => (one.id === id ? next : (flat.artworks.find((other) => other.id === one.id) ?? one))), ...added],
    // References of the drawing show some that nothing on the sheet does.
    bitmaps: [...document.bitmaps, ...flat.bitmaps.filter(({ id: fresh }) => !document.bitmaps.some((one) => one.id === fresh))],
    swatches: flat.swatches,
  };
}
