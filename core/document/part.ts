import * as z from 'zod';
import type { Checked } from '../math/errors';
import { sameData } from '../math/same';
import { mapColours, swatchOf, type Colour } from '../paint/paint';
import { copyNodes } from './copy';
import { bitmapsOf } from './flat-sheet';
import { placedIn } from './held-artworks';
import { pathText } from './read';
import { recounted } from './recount';
import { artworkSchema, bitmapSchema, cellSizeSchema, nodeSchema, swatchesSchema } from './schema';
import { photographed } from './photo-edits';
import { findNode, flattenTree, idsWithin } from './tree';
import { DOCUMENT_VERSION, MAX_GROUP_DEPTH, type Artwork, type Bitmap, type CheminDocument, type DocumentNode, type PlacementTarget } from './types';
import type { Swatch } from '../paint/paint';

/** Part of a drawing, as the clipboard carries it from one document to another. */
export interface DocumentPart {
  readonly format: 'chemin-part';
  readonly version: number;
  /** Edge of a cell in mm: what the counts mean. */
  readonly cell: number;
  readonly nodes: readonly DocumentNode[];
  readonly artworks: readonly Artwork[];
  /** What the artworks show; the bytes are looked for where they are kept. */
  readonly bitmaps?: readonly Bitmap[];
  readonly swatches: readonly Swatch[];
}

/** The media type under which parts lie on the clipboard. */
export const PART_TYPE = 'application/x-chemin-part+json';

/** Most characters of a part. */
const MAX_CHARACTERS = 32_000_000;

const partSchema: z.ZodType<DocumentPart> = z.strictObject({
  format: z.literal('chemin-part'),
  version: z.literal(DOCUMENT_VERSION),
  cell: cellSizeSchema,
  nodes: z.array(nodeSchema).min(1),
  artworks: z.array(artworkSchema).max(1000),
  bitmaps: z.array(bitmapSchema).max(200).exactOptional(),
  swatches: swatchesSchema,
});

/** Nodes of a document, in its order, with the artworks and swatches that they need. */
export function partOf(document: CheminDocument, ids: readonly string[]): DocumentPart {
  const wanted = new Set(ids);
  const nodes: DocumentNode[] = [];
  const take = (list: readonly DocumentNode[]): void => {
    for (const node of list) {
      if (wanted.has(node.id)) nodes.push(node);
      else if (node.kind === 'group') take(node.children);
    }
  };
  take(document.nodes);
  const all = withOriginals(document, nodes);
  const entries = flattenTree(all).map(({ node }) => node);
  const artworks = withPlaced(
    document,
    entries.flatMap((node) => (node.kind === 'placement' ? [node.artwork] : [])),
  );
  const shown = new Set(artworks.flatMap(bitmapsOf));
  const bitmaps = document.bitmaps.filter(({ id }) => shown.has(id));
  const swatches = new Set<string>();
  const note = (colour: Colour): Colour => {
    const swatch = swatchOf(colour);
    if (swatch) swatches.add(swatch.id);
    return colour;
  };
  for (const node of entries) {
    if (node.kind === 'shape') mapColours(node.paint, note);
    if (node.kind === 'dimension') note(node.colour);
  }
  return {
    format: 'chemin-part',
    version: DOCUMENT_VERSION,
    cell: document.grid.cell,
    nodes: all,
    artworks,
    ...(bitmaps.length > 0 && { bitmaps }),
    swatches: document.swatches.filter((swatch) => swatches.has(swatch.id)),
  };
}

/** Things with what their copies show, which comes along as what they show, and with what copies among that show in turn. */
function withOriginals(document: CheminDocument, nodes: readonly DocumentNode[]): readonly DocumentNode[] {
  const inside = new Set(flattenTree(nodes).map(({ node }) => node.id));
  const missing = new Set(flattenTree(nodes).flatMap(({ node }) => (node.kind === 'copy' && !inside.has(node.of) ? (findNode(document, node.of) ?? []) : [])));
  if (missing.size === 0) return nodes;
  // What is in a group that comes along comes with it.
  const within = new Set([...missing].flatMap((node) => (node.kind === 'group' ? node.children.flatMap(idsWithin) : [])));
  return withOriginals(
    document,
    [...missing, ...nodes].filter(({ id }) => !within.has(id)),
  );
}

/** Artworks with those that are placed on them, in the document's order. */
function withPlaced(document: CheminDocument, ids: readonly string[]): readonly Artwork[] {
  const wanted = new Set<string>();
  const want = (id: string): void => {
    const artwork = wanted.has(id) ? undefined : document.artworks.find((one) => one.id === id);
    if (!artwork) return;
    wanted.add(id);
    placedIn(artwork.nodes ?? []).forEach(want);
  };
  ids.forEach(want);
  return document.artworks.filter(({ id }) => wanted.has(id));
}

/** The part in a text from the clipboard, or every reason why it is none, each with its place. */
export function readPart(text: string): Checked<DocumentPart> {
  const refuse = (code: string, message: string): Checked<never> => ({ ok: false, problems: [{ code, path: '', message }] });
  if (text.length > MAX_CHARACTERS) return refuse('too-large', 'What was copied is larger than 32 MB.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return refuse('not-json', 'What was copied is damaged or cut short.');
  }
  if (depthOf(data) > MAX_GROUP_DEPTH) return refuse('too-deep', `What was copied is nested more than ${MAX_GROUP_DEPTH} groups deep.`);
  const parsed = partSchema.safeParse(data);
  if (parsed.success) return { ok: true, value: parsed.data, notes: [] };
  return { ok: false, problems: parsed.error.issues.slice(0, 20).map((issue) => ({ code: 'schema', path: pathText(issue.path), message: issue.message })) };
}

/** How deep groups are nested in data that is not yet checked; followed no further than is needed to refuse it. */
function depthOf(data: unknown): number {
  let depth = 0;
  let level: unknown[] = [data];
  while (level.length > 0 && depth <= MAX_GROUP_DEPTH + 1) {
    depth++;
    level = level.flatMap((item): unknown[] => {
      const { children, nodes } = (item ?? {}) as { children?: unknown; nodes?: unknown };
      return [...(Array.isArray(children) ? children : []), ...(Array.isArray(nodes) ? nodes : [])] as unknown[];
    });
  }
  return depth - 1;
}

/** What pasting a part adds to a document: things with fresh ids, in the document's cells with their true sizes kept. */
export interface Pasted {
  readonly nodes: readonly DocumentNode[];
  readonly artworks: readonly Artwork[];
  readonly bitmaps: readonly Bitmap[];
  /** The palette with the swatches that were not in it. */
  readonly swatches: readonly Swatch[];
}

/** A part made ready for a document. Artworks that the document has already are not added again. */
export function pastePart(document: CheminDocument, part: DocumentPart, newId: () => string): Pasted {
  const artworkIds = new Map<string, string>();
  const artworks: Artwork[] = [];
  for (const artwork of part.artworks) {
    const known = document.artworks.find((a) => sameData({ ...a, id: '', name: '' }, { ...artwork, id: '', name: '' }));
    if (!known) artworks.push({ ...artwork, id: newId() });
    artworkIds.set(artwork.id, known?.id ?? artworks.at(-1)!.id);
  }
  const { nodes } = recounted({ ...document, grid: { ...document.grid, cell: part.cell }, nodes: part.nodes }, document.grid.cell);
  const here = (node: DocumentNode): DocumentNode => {
    if (node.kind === 'group') return { ...node, children: node.children.map(here) };
    return node.kind === 'placement' ? { ...node, artwork: artworkIds.get(node.artwork) ?? node.artwork, target: targetIn(document, node.target) } : node;
  };
  // What was added is placed on what was added.
  const brought = artworks.map((artwork): Artwork => (artwork.nodes ? { ...artwork, nodes: artwork.nodes.map((node) => here(node)) } : artwork));
  const known = new Set(document.swatches.map((swatch) => swatch.id));
  const swatches = [...document.swatches, ...part.swatches.filter((swatch) => !known.has(swatch.id))];
  return { nodes: copyNodes(nodes.filter(keeps(document, part)).map(here), newId), artworks: brought, bitmaps: part.bitmaps ?? [], swatches };
}

/** Artwork on a face that was not copied with it, and is not in the document either, has nowhere to lie. */
function keeps(document: CheminDocument, part: DocumentPart): (node: DocumentNode) => boolean {
  const inside = new Set(flattenTree(part.nodes).map(({ node }) => node.id));
  const artworks = new Set(part.artworks.map((artwork) => artwork.id));
  const there = (id: string): boolean => inside.has(id) || findNode(document, id)?.kind === 'shape';
  return (node) => node.kind !== 'placement' || (artworks.has(node.artwork) && (node.target.kind === 'plane' || there(node.target.node)));
}

/** What artwork lies on in another document: the sheet itself, in its true size, where the photographed surface is not there. */
function targetIn(document: CheminDocument, target: PlacementTarget): PlacementTarget {
  if (target.kind === 'face' || target.photographed === undefined || photographed(document, target.photographed)) return target;
  return { kind: 'plane', plane: target.plane };
}
