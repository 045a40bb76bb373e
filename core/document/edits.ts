import * as z from 'zod';
import { CoreError } from '../math/errors';
import type { Paint } from '../paint/paint';
import type { TrialBox } from '../projection/trial-box';
import type { Plane } from '../projection/planes';
import type { Outline } from '../shape/outline';
import {
  artworkLookSchema,
  artworkSchema,
  anchorSchema,
  cellsSchema,
  cellSizeSchema,
  dimensionFields,
  moveSchema,
  swatchesSchema,
  bitmapSchema,
  gridSchema,
  idSchema,
  lightSchema,
  nameSchema,
  overhangsSchema,
  nodeSchema,
  outlineSchema,
  paintSchema,
  planeSchema,
  projectionSchema,
  referenceSchema,
  sheetSchema,
  strokeSchema,
  targetSchema,
} from './schema';
import { guidesSchema, trialSchema } from './schema-parts';
import type { Photo } from '../photo/photo';
import { bitmapsOfPhoto, photosSchema } from './photo-schema';
import { flattenTree } from './tree';
import { JOIN_KINDS } from '../geometry/joined-recipe';
import { turnedLean } from './carry';
import { followFaces } from './inscribed';
import { movedNodes } from './move';
import { changedNodes, wrongKind } from './changed-nodes';
import { bitmapsOf, flatSheetOf, inOrder, withFlatSheet } from './flat-sheet';
import { placedIn } from './held-artworks';
import { addedUnder, arranged, grouped, replaced, ungrouped, withoutNodes } from './tree-edits';
import { recounted } from './recount';
import type { Artwork, Bitmap, CheminDocument, DocumentNode, PlacementNode, Reference } from './types';

const ids = z.array(idSchema).min(1);

const singleEditSchema = z.discriminatedUnion('kind', [
  /** New things at the end, or under another thing of the top level. */
  z.strictObject({
    kind: z.literal('add'),
    nodes: z.array(nodeSchema),
    artworks: z.array(artworkSchema),
    bitmaps: z.array(bitmapSchema).exactOptional(),
    before: idSchema.exactOptional(),
  }),
  z.strictObject({ kind: z.literal('delete'), ids }),
  /** Along the world's axes, in cells; on the sheet a is right and b is down. */
  z.strictObject({ kind: z.literal('move'), ids, by: moveSchema }),
  z.strictObject({ kind: z.literal('outline'), id: idSchema, outline: outlineSchema }),
  /** Shapes with another boundary, plane, or both, as one step. */
  z.strictObject({
    kind: z.literal('lay'),
    items: z.array(z.strictObject({ id: idSchema, plane: planeSchema, outline: outlineSchema, paint: paintSchema.exactOptional() })).min(1),
  }),
  /** Things taken out and others put where the last of them stood, as one step. */
  z.strictObject({ kind: z.literal('replace'), ids, nodes: z.array(nodeSchema) }),
  /** Things as they are from now on, each in the place of the one with its id. */
  z.strictObject({ kind: z.literal('change'), nodes: z.array(nodeSchema).min(1) }),
  /** Things put into a group, or none, before another thing there, or at its end. */
  z.strictObject({ kind: z.literal('arrange'), ids, parent: idSchema.nullable(), before: idSchema.nullable() }),
  z.strictObject({ kind: z.literal('paints'), items: z.array(z.strictObject({ id: idSchema, paint: paintSchema })).min(1) }),
  z.strictObject({ kind: z.literal('swatches'), swatches: swatchesSchema }),
  z.strictObject({ kind: z.literal('dimension'), id: idSchema, ...dimensionFields }),
  z.strictObject({ kind: z.literal('depth'), id: idSchema, depth: cellsSchema }),
  z.strictObject({ kind: z.literal('plane'), id: idSchema, plane: planeSchema }),
  z.strictObject({ kind: z.literal('paint'), ids, paint: paintSchema }),
  z.strictObject({ kind: z.literal('name'), id: idSchema, name: nameSchema }),
  z.strictObject({ kind: z.literal('hide'), ids, hidden: z.boolean() }),
  z.strictObject({ kind: z.literal('lock'), ids, locked: z.boolean() }),
  z.strictObject({ kind: z.literal('group'), ids, id: idSchema, name: nameSchema, joined: z.enum(JOIN_KINDS).exactOptional() }),
  z.strictObject({ kind: z.literal('ungroup'), id: idSchema }),
  z.strictObject({ kind: z.literal('place'), id: idSchema, target: targetSchema, anchor: anchorSchema, overhangs: overhangsSchema }),
  z.strictObject({ kind: z.literal('light'), light: lightSchema }),
  z.strictObject({ kind: z.literal('projection'), projection: projectionSchema }),
  z.strictObject({ kind: z.literal('grid'), grid: gridSchema }),
  /** Another cell with all true sizes kept: every count changes by the same ratio. */
  z.strictObject({ kind: z.literal('recount'), cell: cellSizeSchema }),
  /** Projection and grid at once, such as a kept set-up. */
  z.strictObject({ kind: z.literal('setup'), projection: projectionSchema, grid: gridSchema }),
  z.strictObject({ kind: z.literal('sheet'), sheet: sheetSchema }),
  z.strictObject({ kind: z.literal('add-reference'), reference: referenceSchema, bitmap: bitmapSchema }),
  z.strictObject({ kind: z.literal('reference'), reference: referenceSchema }),
  z.strictObject({ kind: z.literal('delete-reference'), id: idSchema }),
  z.strictObject({ kind: z.literal('strokes'), strokes: z.array(strokeSchema).max(1000) }),
  /** All photographs as they are from now on, with the bitmaps that they show for the first time. */
  z.strictObject({ kind: z.literal('photos'), photos: photosSchema, bitmaps: z.array(bitmapSchema).exactOptional() }),
  /** All guides as they are from now on. */
  z.strictObject({ kind: z.literal('guides'), guides: guidesSchema }),
  /** The box that is shown and not drawn, or none. */
  z.strictObject({ kind: z.literal('trial'), trial: trialSchema.nullable() }),
  z.strictObject({ kind: z.literal('title'), name: nameSchema }),
  /** Everything about artworks but what came from their files and what is drawn on them. */
  z.strictObject({ kind: z.literal('artworks'), items: z.array(artworkLookSchema).min(1) }),
  /** A net laid out anew: the artwork in its new size with its lines, and its placements. */
  z.strictObject({ kind: z.literal('net'), artwork: artworkSchema, nodes: z.array(nodeSchema) }),
  /** Artworks with all their placements. */
  z.strictObject({ kind: z.literal('delete-artworks'), ids }),
]);

const manySchema = z.strictObject({ kind: z.literal('all'), edits: z.array(singleEditSchema).min(1) });

/** Every edit as data: what undo keeps, storage writes, and a test can make by the thousand. */
export const editSchema = z.discriminatedUnion('kind', [
  ...singleEditSchema.options,
  /** Several edits as one step, one after the other. */
  manySchema,
  /** An edit of what is drawn on an artwork: its sheet is edited as a drawing is. */
  z.strictObject({ kind: z.literal('flat'), artwork: idSchema, edit: z.discriminatedUnion('kind', [...singleEditSchema.options, manySchema]) }),
]);

/** Data that nobody changes in place. */
type Frozen<T> = T extends readonly unknown[] | object ? { readonly [K in keyof T]: Frozen<T[K]> } : T;

/** One change to a document as data: what a gesture becomes, what history and storage keep. Lengths are in cells unless a field says mm. */
export type Edit = Frozen<z.infer<typeof editSchema>>;

/** An edit that is not made of others. */
export type SingleEdit = Frozen<z.infer<typeof singleEditSchema>>;

/**
 * The document after an edit. Pure; shares everything that did not change with the document before, so that caches
 * keyed by nodes stay warm.
 * @throws CoreError `unknown-node` or `wrong-kind` where the edit does not fit the document
 */
export function applyEdit(document: CheminDocument, edit: Edit): CheminDocument {
  return followFaces(document, edited(document, edit));
}

function edited(document: CheminDocument, edit: Edit): CheminDocument {
  switch (edit.kind) {
    case 'add':
      return {
        ...document,
        artworks: edit.artworks.length ? [...document.artworks, ...edit.artworks] : document.artworks,
        bitmaps: withBitmaps(document.bitmaps, edit.bitmaps ?? []),
        nodes: addedUnder(document.nodes, edit.nodes, edit.before),
      };
    case 'delete':
      return { ...document, nodes: withoutNodes(document, edit.ids) };
    case 'group':
      return { ...document, nodes: grouped(document, edit) };
    case 'ungroup':
      return { ...document, nodes: ungrouped(document, edit.id) };
    case 'light':
      return { ...document, light: edit.light };
    case 'projection':
      return { ...document, projection: edit.projection };
    case 'grid':
      return { ...document, grid: edit.grid };
    case 'lay':
      return { ...document, nodes: laidOut(document, edit.items) };
    case 'replace':
      return { ...document, nodes: replaced(document, edit.ids, edit.nodes) };
    case 'change':
      return { ...document, nodes: changedNodes(document, new Map(edit.nodes.map((node) => [node.id, node])), (_, node) => node) };
    case 'arrange':
      return { ...document, nodes: arranged(document, edit) };
    case 'all':
      return edit.edits.reduce<CheminDocument>(applyEdit, document);
    case 'paints':
      return { ...document, nodes: changedNodes(document, new Map(edit.items.map(({ id, paint }) => [id, paint])), painted) };
    case 'swatches':
      return { ...document, swatches: edit.swatches };
    case 'recount':
      return recounted(document, edit.cell);
    case 'setup':
      return { ...document, projection: edit.projection, grid: edit.grid };
    case 'sheet':
      return { ...document, sheet: edit.sheet };
    case 'add-reference':
      return addReference(document, edit.reference, edit.bitmap);
    case 'reference':
      return { ...document, references: document.references.map((r) => (r.id === edit.reference.id ? edit.reference : r)) };
    case 'delete-reference':
      return deleteReference(document, edit.id);
    case 'strokes':
      return { ...document, strokes: edit.strokes };
    case 'photos':
      return withPhotos(document, edit.photos, edit.bitmaps ?? []);
    case 'guides':
      return written({ ...document, guides: edit.guides });
    case 'trial':
      return withTrial(document, edit.trial);
    case 'title':
      return { ...document, name: edit.name };
    case 'artworks':
      return { ...document, artworks: looking(document, edit.items) };
    case 'net':
      return withNet(document, edit.artwork, edit.nodes);
    case 'delete-artworks':
      return withoutArtworks(document, new Set(edit.ids));
    case 'flat': {
      const flat = flatSheetOf(document, edit.artwork);
      if (!flat) throw new CoreError('unknown-artwork', `there is no artwork “${edit.artwork}”`);
      return withFlatSheet(document, edit.artwork, applyEdit(flat, edit.edit));
    }
    default:
      return { ...document, nodes: changeNodes(document, edit) };
  }
}

type NodeEdit = ChangeEdit | Extract<Edit, { kind: 'move' }>;
type ChangeEdit = Extract<Edit, { kind: 'outline' | 'depth' | 'plane' | 'paint' | 'name' | 'hide' | 'lock' | 'place' | 'dimension' }>;

function changeNodes(document: CheminDocument, edit: NodeEdit): readonly DocumentNode[] {
  if (edit.kind === 'move') return movedNodes(document, edit.ids, edit.by);
  const targets = 'ids' in edit ? edit.ids : [edit.id];
  const changes = new Map(targets.map((id) => [id, edit]));
  return changedNodes(document, changes, changed);
}

function changed(node: DocumentNode, edit: ChangeEdit): DocumentNode {
  switch (edit.kind) {
    case 'name':
      return { ...node, name: edit.name };
    case 'hide':
      return { ...node, hidden: edit.hidden };
    case 'lock':
      return { ...node, locked: edit.locked };
    case 'paint':
      return painted(node, edit.paint);
    case 'place':
      if (node.kind !== 'placement') throw wrongKind(node, 'placement');
      return placedAt(node, edit);
    case 'dimension':
      if (node.kind !== 'dimension') throw wrongKind(node, 'dimension');
      return { ...node, ...edit, kind: 'dimension' };
    default:
      if (node.kind !== 'shape') throw wrongKind(node, 'shape');
      if (edit.kind === 'outline') return { ...node, outline: edit.outline, ...turnedLean(node, node.outline, edit.outline) };
      return edit.kind === 'depth' ? { ...node, depth: edit.depth } : { ...node, plane: edit.plane };
  }
}

function placedAt({ overhangs: _, ...node }: PlacementNode, { target, anchor, overhangs }: Extract<Edit, { kind: 'place' }>): PlacementNode {
  return { ...node, target, anchor, ...(overhangs && { overhangs }) };
}

/** A thing in a paint; all that a group holds. */
function painted(node: DocumentNode, paint: Paint): DocumentNode {
  if (node.kind === 'group') return { ...node, children: node.children.map((child) => painted(child, paint)) };
  return node.kind === 'shape' ? { ...node, paint } : node;
}

interface LaidItem {
  readonly id: string;
  readonly plane: Plane;
  readonly outline: Outline;
  readonly paint?: Paint;
}

function laidOut(document: CheminDocument, items: readonly LaidItem[]): readonly DocumentNode[] {
  return changedNodes(document, new Map(items.map((item) => [item.id, item])), (node, { plane, outline, paint }) => {
    if (node.kind !== 'shape') throw wrongKind(node, 'shape');
    return { ...node, plane, outline, ...turnedLean(node, node.outline, outline), paint: paint ?? node.paint };
  });
}

/** A document with what it may lack in the order in which it is written, so that one drawing is one text; what is empty is left out. */
function written({ photos, guides, trial, ...document }: CheminDocument): CheminDocument {
  return { ...document, ...(photos && { photos }), ...(guides?.length && { guides }), ...(trial && { trial }) };
}

function withTrial({ trial: _, ...document }: CheminDocument, trial: TrialBox | null): CheminDocument {
  return written(trial ? { ...document, trial } : document);
}

/** Bitmaps are kept once, however often they are added. */
function withBitmaps(known: readonly Bitmap[], added: readonly Bitmap[]): readonly Bitmap[] {
  const fresh = added.filter((bitmap, i) => !known.some(({ id }) => id === bitmap.id) && added.findIndex(({ id }) => id === bitmap.id) === i);
  return fresh.length > 0 ? [...known, ...fresh] : known;
}

function addReference(document: CheminDocument, reference: Reference, bitmap: Bitmap): CheminDocument {
  return { ...document, bitmaps: withBitmaps(document.bitmaps, [bitmap]), references: [...document.references, reference] };
}

function deleteReference(document: CheminDocument, id: string): CheminDocument {
  return withoutUnused({ ...document, references: document.references.filter((r) => r.id !== id) });
}

/** A bitmap that nothing shows any more goes with the last that did. */
function withoutUnused(document: CheminDocument): CheminDocument {
  const photographed = (document.photos ?? []).flatMap(bitmapsOfPhoto);
  const used = new Set([...document.references.map((r) => r.bitmap), ...document.artworks.flatMap(bitmapsOf), ...photographed]);
  return { ...document, bitmaps: document.bitmaps.filter((b) => used.has(b.id)) };
}

function looking(document: CheminDocument, items: readonly z.infer<typeof artworkLookSchema>[]): readonly Artwork[] {
  const byId = new Map(items.map((item) => [item.id, item]));
  for (const { id } of items) if (!document.artworks.some((one) => one.id === id)) throw new CoreError('unknown-artwork', `there is no artwork “${id}”`);
  return document.artworks.map((artwork): Artwork => {
    const item = byId.get(artwork.id);
    if (!item) return artwork;
    const { svg, bitmap, nodes, cell, net, guides } = artwork;
    return inOrder({ ...item, svg, bitmap, nodes, cell, net, guides });
  });
}

/** A net laid out anew in the place of what it was; its placements take the places of those before them. */
function withNet(document: CheminDocument, artwork: Artwork, nodes: readonly DocumentNode[]): CheminDocument {
  const before = document.artworks.find(({ id }) => id === artwork.id);
  if (!before) throw new CoreError('unknown-artwork', `there is no artwork “${artwork.id}”`);
  const { nodes: drawn, cell, background, version, guides } = before;
  const next = inOrder({ ...artwork, nodes: drawn, cell: artwork.cell ?? cell, background, version, guides });
  const without = withoutArtworks(document, new Set([artwork.id]));
  return {
    ...without,
    artworks: document.artworks.map((one) => (one.id === artwork.id ? next : one)),
    bitmaps: document.bitmaps,
    nodes: addedUnder(without.nodes, nodes, undefined),
  };
}

/** Without artworks, and without their placements, on other artworks too. */
function withoutArtworks(document: CheminDocument, gone: ReadonlySet<string>): CheminDocument {
  const left = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => withoutPlacements(nodes, ({ artwork }) => gone.has(artwork));
  const artworks = document.artworks
    .filter(({ id }) => !gone.has(id))
    .map((one) => (one.nodes && placedIn(one.nodes).some((id) => gone.has(id)) ? { ...one, nodes: left(one.nodes) } : one));
  return withoutUnused({ ...document, artworks, nodes: left(document.nodes) });
}

/** Photographs as they are from now on; what lay on surfaces that are gone is gone with them. */
function withPhotos(document: CheminDocument, photos: readonly Photo[], bitmaps: readonly Bitmap[]): CheminDocument {
  const ids = (all: readonly Photo[] | undefined): readonly string[] => (all ?? []).flatMap(({ surfaces }) => surfaces.map(({ id }) => id));
  const gone = new Set(ids(document.photos));
  for (const id of ids(photos)) gone.delete(id);
  const lies = ({ target }: PlacementNode): boolean => target.kind === 'plane' && target.photographed !== undefined && gone.has(target.photographed);
  const nodes = gone.size > 0 ? withoutPlacements(document.nodes, lies) : document.nodes;
  return withoutUnused(written({ ...document, bitmaps: withBitmaps(document.bitmaps, bitmaps), photos, nodes }));
}

/** Nodes without some placements and what only shows them; the same where there are none of these. */
function withoutPlacements(nodes: readonly DocumentNode[], isGone: (node: PlacementNode) => boolean): readonly DocumentNode[] {
  const gone = new Set(flattenTree(nodes).flatMap(({ node }) => (node.kind === 'placement' && isGone(node) ? [node.id] : [])));
  if (gone.size === 0) return nodes;
  for (let before = 0; before !== gone.size;) {
    before = gone.size;
    for (const { node } of flattenTree(nodes)) if (node.kind === 'copy' && gone.has(node.of)) gone.add(node.id);
  }
  const left = (some: readonly DocumentNode[]): readonly DocumentNode[] =>
    some.flatMap((node): readonly DocumentNode[] => (gone.has(node.id) ? [] : [node.kind === 'group' ? { ...node, children: left(node.children) } : node]));
  return left(nodes);
}
