import type * as z from 'zod';
import { CoreError } from '../math/errors';
import { applyEdit, editSchema, type Edit } from './edits';
import { artworkSchema, bitmapSchema, crossFaults, nodeSchema, referenceSchema, shellSchema, strokeSchema, swatchesSchema, type Fault } from './schema';
import { photosSchema } from './photo-schema';
import { guidesSchema } from './schema-parts';
import { flattenTree } from './tree';
import type { Artwork, CheminDocument, DocumentNode } from './types';

/**
 * The gate that every edit passes before it is kept: what can be made can be opened again. Parts that were found
 * right once are remembered, outside the data, so that a change costs what it touches, and one look at all ids.
 */
const right = new WeakSet<object>();

/** Notes parts that a schema has just read as right. */
function noteNodes(nodes: readonly DocumentNode[]): void {
  for (const { node } of flattenTree(nodes)) right.add(node);
}

/** Notes everything in a document that its schema has just read. */
export function noteRight(document: CheminDocument): void {
  noteNodes(document.nodes);
  for (const { nodes } of document.artworks) if (nodes) noteNodes(nodes);
  for (const list of [document.artworks, document.bitmaps, document.references, document.strokes]) for (const part of list) right.add(part);
  right.add(document.swatches);
  if (document.photos) right.add(document.photos);
  if (document.guides) right.add(document.guides);
}

/**
 * Why a document could not be read again after it was written, or null where it could. Only what was not found right
 * before is looked at closely; O(nodes) for ids and references.
 */
export function documentFault(document: CheminDocument): Fault | null {
  const shell = faultOf(shellSchema, document);
  if (shell) return shell;
  const lists: readonly (readonly [string, z.ZodType, readonly object[]])[] = [
    ['bitmaps', bitmapSchema, document.bitmaps],
    ['references', referenceSchema, document.references],
    ['strokes', strokeSchema, document.strokes],
  ];
  for (const [i, artwork] of document.artworks.entries()) {
    const fault = artworkFault(artwork);
    if (fault) return { ...fault, path: ['artworks', i, ...fault.path] };
  }
  for (const [name, schema, parts] of lists) {
    for (const [i, part] of parts.entries()) {
      const fault = checkedPart(schema, part);
      if (fault) return { ...fault, path: [name, i, ...fault.path] };
    }
  }
  const swatches = checkedPart(swatchesSchema, document.swatches);
  if (swatches) return { ...swatches, path: ['swatches', ...swatches.path] };
  const photos = document.photos && checkedPart(photosSchema, document.photos);
  if (photos) return { ...photos, path: ['photos', ...photos.path] };
  const guides = document.guides && checkedPart(guidesSchema, document.guides);
  if (guides) return { ...guides, path: ['guides', ...guides.path] };
  // Ids and nesting first: they bound what follows.
  const [between] = crossFaults(document);
  if (between) return between;
  const inside = nodesFault(document.nodes);
  return inside && { ...inside, path: ['nodes', ...inside.path] };
}

function nodesFault(nodes: readonly DocumentNode[]): Fault | null {
  for (const [i, node] of nodes.entries()) {
    if (right.has(node)) continue;
    // What a group holds is looked at by itself, so that what is known in it is not read again.
    const own = faultOf(nodeSchema, node.kind === 'group' ? { ...node, children: [] } : node);
    if (own) return { path: [i, ...own.path], message: `“${node.name}”: ${own.message}` };
    const inside = node.kind === 'group' ? nodesFault(node.children) : null;
    if (inside) return { ...inside, path: [i, 'children', ...inside.path] };
    right.add(node);
  }
  return null;
}

/** SVGs that were found right, the last of them: what is drawn on an artwork changes its SVG not at all. */
const rightSvgs = new Set<string>();
const MOST_SVGS = 64;

/** What came from a file is read once; what is drawn on it is looked at node by node. */
function artworkFault(artwork: Artwork): Fault | null {
  if (right.has(artwork)) return null;
  const known = rightSvgs.has(artwork.svg);
  const fault = faultOf(artworkSchema, { ...artwork, ...(artwork.nodes && { nodes: [] }), ...(known && { svg: '' }) });
  if (fault) return fault;
  const inside = nodesFault(artwork.nodes ?? []);
  if (inside) return { ...inside, path: ['nodes', ...inside.path] };
  rightSvgs.add(artwork.svg);
  if (rightSvgs.size > MOST_SVGS) rightSvgs.delete(rightSvgs.values().next().value!);
  right.add(artwork);
  return null;
}

function checkedPart(schema: z.ZodType, part: object): Fault | null {
  if (right.has(part)) return null;
  const fault = faultOf(schema, part);
  if (!fault) right.add(part);
  return fault;
}

function faultOf(schema: z.ZodType, data: unknown): Fault | null {
  const issue = schema.safeParse(data).error?.issues[0];
  return issue ? { path: issue.path.map((part) => (typeof part === 'number' ? part : String(part))), message: issue.message } : null;
}

/**
 * An edit as data that can be kept and read again, and the document after it.
 * @throws CoreError `refused` where a value of the edit lies beyond its limits or the document could not be opened
 * again; `unknown-node` or `wrong-kind` where the edit does not fit the document
 */
export function passEdit(document: CheminDocument, edit: Edit): { readonly edit: Edit; readonly document: CheminDocument } {
  const read = editSchema.safeParse(edit);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new CoreError('refused', issue?.message ?? 'the change cannot be kept', { path: issue?.path });
  }
  const whole = read.data.kind === 'flat' ? read.data.edit : read.data;
  for (const single of whole.kind === 'all' ? whole.edits : [whole]) if ('nodes' in single) noteNodes(single.nodes);
  const next = applyEdit(document, read.data);
  const fault = documentFault(next);
  if (fault) throw new CoreError('refused', fault.message, { path: fault.path });
  return { edit: read.data, document: next };
}
