import * as z from 'zod';
import { readResolvedSvg } from '../artwork/read-svg';
import { exactCells, isCells } from '../math/exact';
import type { FaceName } from '../solid/faces';
import type { Artwork, CheminDocument, DocumentNode, Light, PlacementTarget } from './types';
import { MAX_GROUP_DEPTH } from './types';

// Compiled checks need `Function`, which a strict content policy forbids.
z.config({ jitless: true });

const id = z.string().min(1).max(80);
const name = z.string().max(200);
const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written #rrggbb in small letters');
const cells = z.number().refine(isCells, 'a coordinate lies within a million cells').transform(exactCells);
const size = z.number().positive().max(1e6);
const tone = z.strictObject({ lightness: z.number().min(-1).max(1), chroma: z.number().min(0).max(4) });

const outline = z.strictObject({
  points: z.array(z.strictObject({ id: z.int().min(1), u: cells, v: cells })).max(100_000),
  closed: z.boolean(),
});
const plane = z.strictObject({ kind: z.enum(['floor', 'left', 'right', 'sheet']), offset: cells });
const faceName = z.string().regex(/^(base|end|side:\d+)$/, 'a face is named base, end or side:number') as unknown as z.ZodType<FaceName>;
const line = z.strictObject({ colour, width: z.number().positive().max(1000) });

export const paintSchema = z.strictObject({ fill: colour.nullable(), line: line.nullable() });
export const outlineSchema = outline;
export const planeSchema = plane;
export const cellsSchema = cells;
export const idSchema = id;
export const nameSchema = name;

export const lightSchema: z.ZodType<Light> = z.strictObject({
  sun: z.strictObject({ azimuthDeg: z.number().min(-720).max(720), elevationDeg: z.number().min(-90).max(90) }),
  ramp: z.strictObject({ lit: tone, grazed: tone, turned: tone }),
});

export const projectionSchema = z.strictObject({
  family: z.literal('isometric'),
  measure: z.enum(['drawing', 'true']),
  origin: z.strictObject({ x: z.number().min(-1e6).max(1e6), y: z.number().min(-1e6).max(1e6) }),
});

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
  ]),
);

export const artworkSchema: z.ZodType<Artwork> = z
  .strictObject({ id, name, svg: z.string().max(16_000_000), width: size, height: size })
  .superRefine((artwork, context) => {
    const read = readResolvedSvg(artwork.svg);
    if (!read.ok) for (const problem of read.problems) context.addIssue({ code: 'custom', path: ['svg'], message: `${problem.path}: ${problem.message}` });
  });

export const gridSchema = z.strictObject({ cell: z.number().min(0.01).max(10_000), bold: z.int().min(1).max(1000) });

/** The schema of a document at every door; rules that span several places are checked here too. */
export const documentSchema: z.ZodType<CheminDocument> = z
  .strictObject({
    format: z.literal('chemin'),
    version: z.literal(1),
    id,
    name,
    sheet: z.strictObject({ width: size, height: size, unit: z.literal('mm'), background: colour }),
    projection: projectionSchema,
    grid: gridSchema,
    light: lightSchema,
    artworks: z.array(artworkSchema).max(1000),
    nodes: z.array(nodeSchema),
  })
  .superRefine((document, context) => {
    const complain = (path: (string | number)[], message: string): void => {
      context.addIssue({ code: 'custom', path, message });
    };
    const ids = new Set<string>();
    const artworks = new Set(document.artworks.map((artwork) => artwork.id));
    const visit = (nodes: readonly DocumentNode[], path: (string | number)[], depth: number): void => {
      if (depth > MAX_GROUP_DEPTH) return complain(path, `groups are nested more than ${MAX_GROUP_DEPTH} deep`);
      nodes.forEach((node, i) => {
        const at = [...path, i];
        if (ids.has(node.id)) complain([...at, 'id'], `the id “${node.id}” is used twice`);
        ids.add(node.id);
        if (node.kind === 'group') visit(node.children, [...at, 'children'], depth + 1);
        if (node.kind === 'placement' && !artworks.has(node.artwork)) complain([...at, 'artwork'], `there is no artwork “${node.artwork}”`);
        if (node.kind === 'shape' && new Set(node.outline.points.map((p) => p.id)).size < node.outline.points.length) {
          complain([...at, 'outline', 'points'], 'two points have one id');
        }
      });
    };
    visit(document.nodes, ['nodes'], 0);
  });
