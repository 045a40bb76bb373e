import * as z from 'zod';
import { readResolvedSvg } from '../artwork/read-svg';
import { exactCells, isCells } from '../math/exact';
import { allPoints, type Outline } from '../shape/outline';
import { BLENDS, COLOUR_FORM, type Blend, type Paint, type Swatch } from '../paint/paint';
import { MAX_SWATCHES } from '../paint/palette';
import { dotWorld, type WorldPoint } from '../math/points';
import type { FaceName } from '../solid/faces';
import type { GridSettings } from '../grid/settings';
import { UNITS } from '../math/units';
import { FAMILIES } from '../projection/families';
import type { FamilyKey, ProjectionSetup } from '../projection/setup';
import type { Artwork, Bitmap, CheminDocument, DocumentNode, Light, PlacementTarget, Reference, Sheet, Stroke } from './types';
import { DOCUMENT_VERSION, MAX_GROUP_DEPTH } from './types';

// Compiled checks need `Function`, which a strict content policy forbids.
z.config({ jitless: true });

const id = z.string().min(1).max(80);
const name = z.string().max(200);
const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written #rrggbb in small letters');
const paintColour = z.string().max(120).regex(COLOUR_FORM, 'a colour is written #rrggbb in small letters, or swatch:id');
const cells = z.number().refine(isCells, 'a coordinate lies within a million cells').transform(exactCells);
const size = z.number().positive().max(1e6);
const tone = z.strictObject({ lightness: z.number().min(-1).max(1), chroma: z.number().min(0).max(4) });

const planePoint = z.strictObject({ u: cells, v: cells });

const outlinePoint = z.strictObject({
  id: z.int().min(1),
  u: cells,
  v: cells,
  into: planePoint.exactOptional(),
  out: planePoint.exactOptional(),
  arc: z.strictObject({ u: cells, v: cells, weight: z.number().min(1e-4).max(1e4) }).exactOptional(),
  corner: z.strictObject({ kind: z.enum(['round', 'bevel']), size: cells.refine((n) => n > 0, 'a rounding is more than 0') }).exactOptional(),
  press: z.number().min(0).max(1).exactOptional(),
});
const outline: z.ZodType<Outline> = z
  .strictObject({
    points: z.array(outlinePoint).max(100_000),
    closed: z.boolean(),
    holes: z.array(z.array(outlinePoint).min(2).max(100_000)).min(1).max(10_000).exactOptional(),
  })
  .refine((o) => o.closed || !o.holes, 'only closed outlines have holes');
const worldCells = z.strictObject({ a: cells, b: cells, h: cells });
const unit = z.number().min(-1).max(1);
const direction = z.strictObject({ a: unit, b: unit, h: unit });
const plane = z
  .strictObject({
    kind: z.enum(['floor', 'left', 'right', 'sheet', 'free']),
    offset: cells,
    stance: z.strictObject({ at: worldCells, u: direction, v: direction }).exactOptional(),
  })
  .refine((p) => (p.kind === 'free') === (p.stance !== undefined), 'a free plane, and no other, has a stance')
  .refine((p) => !p.stance || isSquare(p.stance), 'the directions of a free plane have length 1 and are square to each other');
const faceName = z
  .string()
  .regex(/^(base|end|side:\d+|round:\d+)$/, 'a face is named base, end, side:number or round:number') as unknown as z.ZodType<FaceName>;
const share = z.number().min(0).max(1);
const line = z.strictObject({
  colour: paintColour,
  width: z.number().positive().max(1000),
  unit: z.enum(UNITS).exactOptional(),
  on: z.literal('plane').exactOptional(),
  cap: z.enum(['butt', 'square']).exactOptional(),
  join: z.enum(['miter', 'bevel']).exactOptional(),
  dashes: z
    .array(z.number().min(0).max(1000))
    .min(1)
    .max(16)
    .refine((d) => d.some((n) => n > 0), 'dashes have a length')
    .exactOptional(),
});
const stops = z
  .array(z.strictObject({ at: share, colour: paintColour, strength: share }))
  .min(2)
  .max(64);
const fill = z.union([
  paintColour,
  z.strictObject({ kind: z.literal('linear'), from: planePoint, to: planePoint, stops }),
  z.strictObject({ kind: z.literal('radial'), centre: planePoint, edge: planePoint, stops }),
]);

export const paintSchema: z.ZodType<Paint> = z.strictObject({
  fill: fill.nullable(),
  line: line.nullable(),
  strength: share.exactOptional(),
  blend: z.enum(BLENDS.slice(1) as [Exclude<Blend, 'normal'>, ...Exclude<Blend, 'normal'>[]]).exactOptional(),
});
export const swatchSchema: z.ZodType<Swatch> = z.strictObject({ id: id.regex(/^[\w-]+$/, 'an id is made of letters, digits, - and _'), name, colour });
export const swatchesSchema = z.array(swatchSchema).max(MAX_SWATCHES);
/** Displacement in cells along the world's axes. */
export const moveSchema = worldCells;
const anchor = z.strictObject({ u: cells, v: cells, node: id.exactOptional(), point: z.int().min(1).exactOptional() });
export const dimensionFields = {
  plane,
  from: anchor,
  to: anchor,
  along: z.enum(['line', 'u', 'v']),
  apart: cells,
  colour: paintColour,
};
export const outlineSchema = outline;
export const planeSchema = plane;
export const cellsSchema = cells;
export const idSchema = id;
export const nameSchema = name;

export const lightSchema: z.ZodType<Light> = z.strictObject({
  sun: z.strictObject({ azimuthDeg: z.number().min(-720).max(720), elevationDeg: z.number().min(-90).max(90) }),
  ramp: z.strictObject({ lit: tone, grazed: tone, turned: tone }),
});

/** A coordinate in mm; vanishing points may lie kilometres away. */
const millimetres = z.number().min(-1e9).max(1e9);
const sheetPoint = z.strictObject({ x: millimetres, y: millimetres });
const chosen = z.enum(FAMILIES.map((family) => family.key) as [FamilyKey, ...FamilyKey[]]);
const angle = z.number().min(-360).max(360);
const ratio = z.number().min(0.01).max(10);

export const projectionSchema: z.ZodType<ProjectionSetup> = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('axonometric'),
    chosen,
    aDeg: z.number().min(-89.99).max(89.99),
    bDeg: z.number().min(-89.99).max(89.99),
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
    focal: z.number().min(0.01).max(1e8),
    principal: sheetPoint,
    turnDeg: angle,
    tiltDeg: z.number().min(-90).max(90),
    rollDeg: angle,
    eye: z.strictObject({ a: millimetres, b: millimetres, h: millimetres }),
  }),
]);

export const targetSchema: z.ZodType<PlacementTarget> = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('plane'), plane }),
  z.strictObject({ kind: z.literal('face'), node: id, face: faceName }),
]);

export const boxSchema = z.strictObject({
  x: cells,
  y: cells,
  width: cells.refine((w) => w > 0, 'a width is more than 0'),
  height: cells.refine((h) => h > 0, 'a height is more than 0'),
});

const nodeBase = { id, name, hidden: z.boolean(), locked: z.boolean() };

export const nodeSchema: z.ZodType<DocumentNode> = z.lazy(() =>
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('group'), ...nodeBase, children: z.array(nodeSchema) }),
    z.strictObject({ kind: z.literal('shape'), ...nodeBase, plane, outline, depth: cells, paint: paintSchema }),
    z.strictObject({ kind: z.literal('placement'), ...nodeBase, artwork: id, target: targetSchema, box: boxSchema }),
    z.strictObject({ kind: z.literal('copy'), ...nodeBase, of: id, by: worldCells }),
    z.strictObject({ kind: z.literal('dimension'), ...nodeBase, ...dimensionFields }),
  ]),
);

export const artworkSchema: z.ZodType<Artwork> = z
  .strictObject({ id, name, svg: z.string().max(16_000_000), width: size, height: size })
  .superRefine((artwork, context) => {
    const read = readResolvedSvg(artwork.svg);
    if (!read.ok) for (const problem of read.problems) context.addIssue({ code: 'custom', path: ['svg'], message: `${problem.path}: ${problem.message}` });
  });

const lines = z.strictObject({ shown: z.boolean(), colour: colour.nullable(), weight: z.number().min(0).max(20), strength: share });
const extent = z.strictObject({ minU: cells, maxU: cells, minV: cells, maxV: cells }).nullable();
const gridPlane = z.enum(['floor', 'left', 'right']);

export const gridSchema: z.ZodType<GridSettings> = z.strictObject({
  cell: z.number().min(0.01).max(10_000),
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

export const sheetSchema: z.ZodType<Sheet> = z.strictObject({
  width: size,
  height: size,
  unit: z.enum(UNITS),
  resolution: z.number().min(1).max(10_000),
  scale: z.number().min(0.001).max(1e6),
  background: colour,
});

/** Most characters of a bitmap in base64: 30 MB of file. */
const MAX_BITMAP_CHARACTERS = 40_000_000;

export const bitmapSchema: z.ZodType<Bitmap> = z.strictObject({
  id,
  type: z.enum(['image/png', 'image/jpeg', 'image/webp']),
  width: z.int().min(1).max(65_535),
  height: z.int().min(1).max(65_535),
  data: z
    .string()
    .max(MAX_BITMAP_CHARACTERS)
    .refine((text) => /^[A-Za-z0-9+/]*={0,2}$/.test(text), 'a bitmap is written in base64'),
});

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

export const strokeSchema: z.ZodType<Stroke> = z.strictObject({ id, from: sheetPoint, to: sheetPoint, axis: z.enum(['a', 'b', 'h']) });

function pointIdsRepeat(outline: Outline): boolean {
  const points = allPoints(outline);
  return new Set(points.map((p) => p.id)).size < points.length;
}

function isSquare({ u, v }: { readonly u: WorldPoint; readonly v: WorldPoint }): boolean {
  return Math.abs(dotWorld(u, u) - 1) < 1e-9 && Math.abs(dotWorld(v, v) - 1) < 1e-9 && Math.abs(dotWorld(u, v)) < 1e-9;
}

/** The schema of a document at every door; rules that span several places are checked here too. */
export const documentSchema: z.ZodType<CheminDocument> = z
  .strictObject({
    format: z.literal('chemin'),
    version: z.literal(DOCUMENT_VERSION),
    id,
    name,
    sheet: sheetSchema,
    projection: projectionSchema,
    grid: gridSchema,
    light: lightSchema,
    artworks: z.array(artworkSchema).max(1000),
    bitmaps: z.array(bitmapSchema).max(200),
    references: z.array(referenceSchema).max(200),
    strokes: z.array(strokeSchema).max(1000),
    swatches: swatchesSchema,
    nodes: z.array(nodeSchema),
  })
  .superRefine((document, context) => {
    const complain = (path: (string | number)[], message: string): void => {
      context.addIssue({ code: 'custom', path, message });
    };
    const ids = new Set<string>();
    const originals = new Set<string>();
    const copies: { of: string; path: (string | number)[] }[] = [];
    const artworks = new Set(document.artworks.map((artwork) => artwork.id));
    const visit = (nodes: readonly DocumentNode[], path: (string | number)[], depth: number): void => {
      if (depth > MAX_GROUP_DEPTH) return complain(path, `groups are nested more than ${MAX_GROUP_DEPTH} deep`);
      nodes.forEach((node, i) => {
        const at = [...path, i];
        if (ids.has(node.id)) complain([...at, 'id'], `the id “${node.id}” is used twice`);
        ids.add(node.id);
        if (node.kind === 'group') visit(node.children, [...at, 'children'], depth + 1);
        if (node.kind === 'placement' && !artworks.has(node.artwork)) complain([...at, 'artwork'], `there is no artwork “${node.artwork}”`);
        if (node.kind === 'copy') copies.push({ of: node.of, path: [...at, 'of'] });
        else originals.add(node.id);
        if (node.kind === 'shape' && pointIdsRepeat(node.outline)) complain([...at, 'outline', 'points'], 'two points have one id');
      });
    };
    visit(document.nodes, ['nodes'], 0);
    for (const { of, path } of copies) if (!originals.has(of)) complain(path, `there is nothing “${of}” that could be copied`);
    const swatches = new Set(document.swatches.map((swatch) => swatch.id));
    if (swatches.size < document.swatches.length) complain(['swatches'], 'two swatches have one id');
    const bitmaps = new Set(document.bitmaps.map((bitmap) => bitmap.id));
    document.references.forEach((reference, i) => {
      if (!bitmaps.has(reference.bitmap)) complain(['references', i, 'bitmap'], `there is no bitmap “${reference.bitmap}”`);
    });
  });
