import * as z from 'zod';
import { readResolvedSvg } from '../artwork/read-svg';
import { MAX_FAR, MAX_FOCAL } from '../math/tolerances';
import type { Swatch } from '../paint/paint';
import { MAX_SWATCHES } from '../paint/palette';
import { isSurfaceName } from '../geometry/names';
import { areAxes } from '../geometry/rigid';
import type { GridSettings } from '../grid/settings';
import { JOIN_KINDS } from '../geometry/joined-recipe';
import { LEAST_TOP, SOLID_KINDS } from '../solids/kinds';
import { UNITS } from '../math/units';
import { FAMILIES } from '../projection/families';
import type { FamilyKey, ProjectionSetup } from '../projection/setup';
import type { Artwork, Bitmap, CheminDocument, DocumentNode, PlacementTarget, Reference, Sheet, Stroke } from './types';
import { flatFault, holdsItself } from './held-artworks';
import { letteringSchema } from './lettering-schema';
import { lightSchema, rampSchema, tintSchema } from './light-schema';
import { blendSchema, colour, line, paintColour, paintSchema, share } from './paint-schema';
import { photoFaults, photosSchema } from './photo-schema';
import { cells, formSchema, guidesSchema, id, name, outline, plane, planePoint, trialSchema, worldCells } from './schema-parts';
import { DOCUMENT_VERSION, MAX_GROUP_DEPTH } from './types';

/** A number within limits that a person may meet, said in words. */
const within = (least: number, most: number, words: string) => z.number().min(least, words).max(most, words);

const size = z.number().positive('a size is more than 0').max(1e6, 'a size is at most 1000 m');

const surfaceName = z.string().refine(isSurfaceName, 'a surface is named by steps such as end, side:3 or cut:hatch/side:2');
/** A colour of the palette with its id and name. */
export const swatchSchema: z.ZodType<Swatch> = z.strictObject({ id: id.regex(/^[\w-]+$/, 'an id is made of letters, digits, - and _'), name, colour });
/** The whole palette. */
export const swatchesSchema = z.array(swatchSchema).max(MAX_SWATCHES);
/** Displacement in cells along the world's axes. */
export const moveSchema = worldCells;
const anchor = z.strictObject({ u: cells, v: cells, node: id.exactOptional(), point: z.int().min(1).exactOptional() });

/** What a dimension is besides a node: its plane, its ends in cells, and how far apart its line stands. */
export const dimensionFields = {
  plane,
  from: anchor,
  to: anchor,
  along: z.enum(['line', 'u', 'v']),
  apart: cells,
  colour: paintColour,
};

export { lightSchema } from './light-schema';
export { paintSchema } from './paint-schema';
/** An outline in cells of its plane. */
export const outlineSchema = outline;
/** A plane of the axes by its offset in cells, or a free one by its stance. */
export const planeSchema = plane;
/** A coordinate in cells; read onto whole ticks. */
export const cellsSchema = cells;
/** An id of a node, artwork or asset. */
export const idSchema = id;
/** A name that a person gives. */
export const nameSchema = name;

/** A coordinate in mm; vanishing points may lie kilometres away. */
const millimetres = within(-MAX_FAR, MAX_FAR, 'a place lies within 1000 km');
const sheetPoint = z.strictObject({ x: millimetres, y: millimetres });
const chosen = z.enum(FAMILIES.map((family) => family.key) as [FamilyKey, ...FamilyKey[]]);
const angle = within(-360, 360, 'an angle lies between \u2212360° and 360°');
const axisAngle = within(-89.99, 89.99, 'an axis rises by less than 90°');
const ratio = within(0.01, 10, 'a ratio lies between 0.01 and 10');

/** A set-up of any family; angles in degrees, lengths in mm. */
export const projectionSchema: z.ZodType<ProjectionSetup> = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('axonometric'),
    chosen,
    aDeg: axisAngle,
    bDeg: axisAngle,
    method: z.enum(['orthographic', 'parallel']),
    measure: z.enum(['drawing', 'true']),
    rollDeg: angle,
    origin: sheetPoint,
  }),
  z.strictObject({ kind: z.literal('oblique'), chosen, angleDeg: angle, ratio, origin: sheetPoint }),
  z.strictObject({ kind: z.literal('planometric'), chosen, turnDeg: angle, ratio, origin: sheetPoint }),
  z.strictObject({
    kind: z.literal('perspective'),
    chosen,
    focal: within(0.01, MAX_FOCAL, 'the eye is between 0.01 mm and 100 km away from the picture'),
    principal: sheetPoint,
    turnDeg: angle,
    tiltDeg: within(-90, 90, 'a tilt lies between \u221290° and 90°'),
    rollDeg: angle,
    eye: z.strictObject({ a: millimetres, b: millimetres, h: millimetres }),
  }),
]);

/** What artwork lies on: a plane, or a named surface of a thing. */
export const targetSchema: z.ZodType<PlacementTarget> = z.discriminatedUnion('kind', [
  z
    .strictObject({ kind: z.literal('plane'), plane, photographed: id.exactOptional() })
    .refine((target) => target.photographed === undefined || target.plane.kind === 'sheet', 'only what lies on the sheet can lie on a photographed surface'),
  z.strictObject({ kind: z.literal('face'), node: id, face: surfaceName, inside: z.literal(true).exactOptional() }),
]);

/** Where artwork lies: a place of the world and a size, in cells. */
export const anchorSchema = z.strictObject({
  at: worldCells,
  width: cells.refine((w) => w > 0, 'a width is more than 0'),
  height: cells.refine((h) => h > 0, 'a height is more than 0'),
  turn: angle.exactOptional(),
  mirrored: z.literal(true).exactOptional(),
  middle: planePoint.exactOptional(),
});

/** Whether artwork is seen beyond its face. */
export const overhangsSchema = z.literal(true).exactOptional();

/** How artwork is repeated. */
const patternSchema = z.strictObject({ gapX: cells, gapY: cells, along: z.enum(['rows', 'columns']), shift: share }).exactOptional();
/** A part of an artwork, in parts of its width and height. */
const partSchema = z
  .strictObject({ minX: share, minY: share, maxX: share, maxY: share })
  .refine((p) => p.minX < p.maxX && p.minY < p.maxY, 'a part of an artwork has an area')
  .exactOptional();

const signedAxis = z.enum(['a', 'b', 'h', '-a', '-b', '-h']);
const rigidFields = {
  axes: z.tuple([signedAxis, signedAxis, signedAxis]).refine(areAxes, 'the three axes are carried to three different ones').exactOptional(),
  turn: z.strictObject({ axis: z.enum(['a', 'b', 'h']), deg: angle }).exactOptional(),
  by: worldCells,
};

/** How depth runs besides straight along the normal. */
const depthWays = {
  start: cells.exactOptional(),
  lean: planePoint.exactOptional(),
  taper: z
    .number()
    .refine((to) => to === 0 || (to >= LEAST_TOP && to <= 100), `what tapers ends in a point, or in ${LEAST_TOP} to 100 times its base`)
    .exactOptional(),
  round: z.enum(['ball', 'dome']).exactOptional(),
};

const nodeBase = {
  id,
  name,
  hidden: z.boolean(),
  locked: z.boolean(),
  casts: z.literal(false).exactOptional(),
  receives: z.literal(false).exactOptional(),
  lined: z.literal(false).exactOptional(),
  contour: line.exactOptional(),
  ramp: rampSchema.exactOptional(),
  tint: tintSchema.exactOptional(),
};

/** Anything of the contents; groups hold their own kind. */
export const nodeSchema: z.ZodType<DocumentNode> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('group'),
      ...nodeBase,
      children: z.array(nodeSchema),
      joined: z.enum(JOIN_KINDS).exactOptional(),
      lettering: letteringSchema.exactOptional(),
    }),
    z.strictObject({
      kind: z.literal('shape'),
      ...nodeBase,
      plane,
      outline,
      depth: cells,
      ...depthWays,
      solid: z.enum(SOLID_KINDS).exactOptional(),
      form: formSchema.exactOptional(),
      paint: paintSchema,
      inscribed: z.strictObject({ node: id, face: surfaceName }).exactOptional(),
      surfaces: z
        .record(surfaceName, paintSchema)
        .refine((s) => Object.keys(s).length <= 1000, 'at most 1000 surfaces have paints of their own')
        .exactOptional(),
    }),
    z.strictObject({
      kind: z.literal('placement'),
      ...nodeBase,
      artwork: id,
      target: targetSchema,
      anchor: anchorSchema,
      overhangs: overhangsSchema,
      pattern: patternSchema,
      part: partSchema,
      lit: share.exactOptional(),
      shaded: z.literal(false).exactOptional(),
      strength: share.exactOptional(),
      blend: blendSchema.exactOptional(),
    }),
    z.strictObject({ kind: z.literal('copy'), ...nodeBase, of: id, ...rigidFields }),
    z.strictObject({ kind: z.literal('dimension'), ...nodeBase, ...dimensionFields }),
  ]),
);

const artworkSize = {
  width: size,
  height: size,
  unitMm: z.number().positive('a unit is more than 0').max(1000, 'a unit is at most 1 m').exactOptional(),
  background: colour.exactOptional(),
  version: z.strictObject({ of: id, name }).exactOptional(),
};
/** What can be set about an artwork besides what is on it. */
export const artworkLookSchema = z.strictObject({ id, name, ...artworkSize });

/** An artwork: its resolved SVG, or the hash by which storage has it, and its size. */
export const artworkSchema: z.ZodType<Artwork> = z
  .strictObject({
    id,
    name,
    svg: z.string().max(16_000_000),
    bitmap: id.exactOptional(),
    ...artworkSize,
    nodes: z.array(nodeSchema).exactOptional(),
    cell: z.lazy(() => cellSizeSchema).exactOptional(),
    net: z.strictObject({ of: id, tabs: z.boolean(), lines: z.array(nodeSchema) }).exactOptional(),
    guides: guidesSchema.exactOptional(),
  })
  .superRefine((artwork, context) => {
    if (artwork.svg === '') return;
    const read = readResolvedSvg(artwork.svg);
    if (!read.ok) for (const problem of read.problems) context.addIssue({ code: 'custom', path: ['svg'], message: `${problem.path}: ${problem.message}` });
  });

const lines = z.strictObject({ shown: z.boolean(), colour: colour.nullable(), weight: z.number().min(0).max(20), strength: share });
const extent = z.strictObject({ minU: cells, maxU: cells, minV: cells, maxV: cells }).nullable();
/** Edge of a cell in mm. */
export const cellSizeSchema = within(0.01, 10_000, 'a cell is between 0.01 mm and 10 m long');
const gridPlane = z.enum(['floor', 'left', 'right']);

/** The grid: the edge of a cell in mm, and how its lines look. */
export const gridSchema: z.ZodType<GridSettings> = z.strictObject({
  cell: cellSizeSchema,
  bold: z.int().min(1).max(1000),
  planes: z.union([z.literal('active'), z.array(gridPlane).max(3)]),
  lines: z.strictObject({ a: lines, b: lines, h: lines }),
  fading: share,
  closest: z.number().min(1).max(200),
  over: z.boolean(),
  extents: z.strictObject({ floor: extent, left: extent, right: extent }),
});

/** A set-up as a file. */
export const setupFileSchema = z.strictObject({
  format: z.literal('chemin-setup'),
  version: z.int().min(1),
  name,
  projection: projectionSchema,
  grid: gridSchema,
});

/** The sheet in mm, with the unit that it is read in. */
export const sheetSchema: z.ZodType<Sheet> = z.strictObject({
  width: size,
  height: size,
  unit: z.enum(UNITS),
  resolution: within(1, 10_000, 'a resolution lies between 1 and 10 000 px to the inch'),
  scale: within(0.001, 1e6, 'a drawing scale lies between 1 : 0.001 and 1 : 1 000 000'),
  background: colour,
});

/** A bitmap by the hash of its bytes, its size in px. */
export const bitmapSchema: z.ZodType<Bitmap> = z.strictObject({
  id,
  type: z.enum(['image/png', 'image/jpeg', 'image/webp']),
  width: z.int().min(1).max(65_535),
  height: z.int().min(1).max(65_535),
  asset: z.string().regex(/^[0-9a-f]{32}(?:[0-9a-f]{32})?$/, 'an asset is named by its SHA-256 in hexadecimal digits'),
});

/** A picture laid under the drawing, its box in mm of the sheet. */
export const referenceSchema: z.ZodType<Reference> = z.strictObject({
  id,
  name,
  bitmap: id,
  x: millimetres,
  y: millimetres,
  width: size,
  height: size,
  strength: share,
  over: z.boolean(),
  hidden: z.boolean(),
  locked: z.boolean(),
});

/** A traced edge in mm of the sheet, and the axis that it runs along. */
export const strokeSchema: z.ZodType<Stroke> = z.strictObject({ id, from: sheetPoint, to: sheetPoint, axis: z.enum(['a', 'b', 'h']) });
/** Most of each kind of thing that a drawing has beside its nodes. */
export const MOST = { artworks: 1000, bitmaps: 200, references: 200, strokes: 1000 } as const;

const ownFields = {
  format: z.literal('chemin'),
  version: z.literal(DOCUMENT_VERSION),
  id,
  name,
  sheet: sheetSchema,
  projection: projectionSchema,
  grid: gridSchema,
  light: lightSchema,
};

/** A fault of a document and where it is. */
export interface Fault {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/** What is wrong between the parts of a document that are each right by themselves: ids, references, nesting. */
export function crossFaults(document: CheminDocument): readonly Fault[] {
  const faults: Fault[] = [];
  const complain = (path: readonly (string | number)[], message: string): void => void faults.push({ path, message });
  let ids = new Set<string>();
  let copies: { of: string; path: readonly (string | number)[] }[] = [];
  const artworks = new Map(document.artworks.map((artwork) => [artwork.id, artwork]));
  const visit = (nodes: readonly DocumentNode[], path: readonly (string | number)[], depth: number): void => {
    if (depth > MAX_GROUP_DEPTH) return complain(path, `groups are nested more than ${MAX_GROUP_DEPTH} deep`);
    nodes.forEach((node, i) => {
      if (ids.has(node.id)) complain([...path, i, 'id'], `the id “${node.id}” is used twice`);
      ids.add(node.id);
      if (node.kind === 'group') visit(node.children, [...path, i, 'children'], depth + 1);
      if (node.kind === 'placement' && !artworks.has(node.artwork)) complain([...path, i, 'artwork'], `there is no artwork “${node.artwork}”`);
      if (node.kind === 'copy') copies.push({ of: node.of, path: [...path, i, 'of'] });
    });
  };
  /** A drawing, or an artwork's sheet: each is a small world of its own. */
  const world = (nodes: readonly DocumentNode[], path: readonly (string | number)[]): void => {
    [ids, copies] = [new Set(), []];
    visit(nodes, path, 0);
    for (const { of, path: where } of copies) if (!ids.has(of)) complain(where, `there is nothing “${of}” that could be copied`);
  };
  world(document.nodes, ['nodes']);
  document.artworks.forEach((artwork, i) => {
    world(artwork.nodes ?? [], ['artworks', i, 'nodes']);
    if (flatFault(artwork.nodes ?? [])) complain(['artworks', i, 'nodes'], 'what is drawn on an artwork lies on its sheet');
    if (holdsItself(artwork, artworks)) complain(['artworks', i, 'nodes'], `the artwork “${artwork.name}” holds itself`);
    if (artwork.bitmap !== undefined && !document.bitmaps.some((bitmap) => bitmap.id === artwork.bitmap))
      complain(['artworks', i, 'bitmap'], `there is no bitmap “${artwork.bitmap}”`);
  });
  const unique = (list: readonly { readonly id: string }[], where: string, what: string): Set<string> => {
    const known = new Set(list.map((part) => part.id));
    if (known.size < list.length) complain([where], `two ${what} have one id`);
    return known;
  };
  unique(document.artworks, 'artworks', 'artworks');
  unique(document.swatches, 'swatches', 'swatches');
  unique(document.references, 'references', 'references');
  unique(document.strokes, 'strokes', 'traced edges');
  unique(document.guides ?? [], 'guides', 'guides');
  const bitmaps = unique(document.bitmaps, 'bitmaps', 'bitmaps');
  for (const { path, message } of photoFaults(document.photos ?? [], bitmaps)) complain(path, message);
  document.references.forEach((reference, i) => {
    if (!bitmaps.has(reference.bitmap)) complain(['references', i, 'bitmap'], `there is no bitmap “${reference.bitmap}”`);
  });
  return faults;
}

/** The schema of a document at every door; rules that span several places are checked here too. */
export const documentSchema: z.ZodType<CheminDocument> = z
  .strictObject({
    ...ownFields,
    artworks: z.array(artworkSchema).max(MOST.artworks),
    bitmaps: z.array(bitmapSchema).max(MOST.bitmaps),
    references: z.array(referenceSchema).max(MOST.references),
    strokes: z.array(strokeSchema).max(MOST.strokes),
    swatches: swatchesSchema,
    nodes: z.array(nodeSchema),
    photos: photosSchema.exactOptional(),
    guides: guidesSchema.exactOptional(),
    trial: trialSchema.exactOptional(),
  })
  .superRefine((document, context) => {
    for (const { path, message } of crossFaults(document)) context.addIssue({ code: 'custom', path: [...path], message });
  });

/** A document whose lists are counted, but whose parts are not looked at. */
export const shellSchema = z.strictObject({
  ...ownFields,
  artworks: z.array(z.unknown()).max(MOST.artworks),
  bitmaps: z.array(z.unknown()).max(MOST.bitmaps),
  references: z.array(z.unknown()).max(MOST.references),
  strokes: z.array(z.unknown()).max(MOST.strokes),
  swatches: z.unknown(),
  nodes: z.unknown(),
  photos: z.unknown().optional(),
  guides: z.unknown().optional(),
  trial: trialSchema.exactOptional(),
});
