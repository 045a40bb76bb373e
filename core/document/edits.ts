import * as z from 'zod';
import { CoreError } from '../math/errors';
import type { Paint } from '../paint/paint';
import type { Plane } from '../projection/planes';
import type { Outline } from '../shape/outline';
import {
  artworkSchema,
  boxSchema,
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
import { independentCopy } from './copy';
import { followFaces } from './inscribed';
import { moved } from './move';
import { findNode, flattenTree, idsWithin } from './tree';
import { recounted } from './recount';
import type { Bitmap, CheminDocument, DocumentNode, GroupNode, Reference } from './types';

const ids = z.array(idSchema).min(1);

const singleEditSchema = z.discriminatedUnion('kind', [
  /** New things at the end, or under another thing of the top level. */
  z.strictObject({ kind: z.literal('add'), nodes: z.array(nodeSchema), artworks: z.array(artworkSchema), before: idSchema.exactOptional() }),
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
  z.strictObject({ kind: z.literal('group'), ids, id: idSchema, name: nameSchema }),
  z.strictObject({ kind: z.literal('ungroup'), id: idSchema }),
  z.strictObject({ kind: z.literal('place'), id: idSchema, target: targetSchema, box: boxSchema }),
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
  z.strictObject({ kind: z.literal('title'), name: nameSchema }),
]);

/** Every edit as data: what undo keeps, storage writes, and a test can make by the thousand. */
export const editSchema = z.discriminatedUnion('kind', [
  ...singleEditSchema.options,
  /** Several edits as one step, one after the other. */
  z.strictObject({ kind: z.literal('all'), edits: z.array(singleEditSchema).min(1) }),
]);

export type Edit = z.infer<typeof editSchema>;

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
    case 'title':
      return { ...document, name: edit.name };
    default:
      return { ...document, nodes: changeNodes(document, edit) };
  }
}

type NodeEdit = Extract<Edit, { kind: 'move' | 'outline' | 'depth' | 'plane' | 'paint' | 'name' | 'hide' | 'lock' | 'place' | 'dimension' }>;

function changeNodes(document: CheminDocument, edit: NodeEdit): readonly DocumentNode[] {
  const targets = 'ids' in edit ? edit.ids : [edit.id];
  const changes = new Map(targets.map((id) => [id, edit]));
  // What lies in something that is moved moves with it, not once more.
  if (edit.kind === 'move' && changes.size > 1) for (const id of idsInside(document.nodes, changes)) changes.delete(id);
  return changedNodes(document, changes, changed);
}

/** Ids of everything that lies in one of these groups, at any depth. */
function idsInside(nodes: readonly DocumentNode[], groups: ReadonlyMap<string, unknown>): readonly string[] {
  return nodes.flatMap((node) => {
    if (node.kind !== 'group') return [];
    return groups.has(node.id) ? node.children.flatMap(idsWithin) : idsInside(node.children, groups);
  });
}

/**
 * The nodes with those that are named changed, in one pass over the tree; what holds none of them is shared. What a
 * group holds is changed before the group itself.
 * @throws CoreError `unknown-node`
 */
function changedNodes<T>(
  document: CheminDocument,
  changes: ReadonlyMap<string, T>,
  change: (node: DocumentNode, how: T) => DocumentNode,
): readonly DocumentNode[] {
  const left = new Set(changes.keys());
  const visit = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => {
    let next: DocumentNode[] | null = null;
    for (let i = 0; i < nodes.length && left.size > 0; i++) {
      const node = nodes[i]!;
      const children = node.kind === 'group' ? visit(node.children) : null;
      const inside = node.kind === 'group' && children !== node.children ? { ...node, children: children! } : node;
      const now = left.delete(node.id) ? change(inside, changes.get(node.id)!) : inside;
      if (now !== node) (next ??= [...nodes])[i] = now;
    }
    return next ?? nodes;
  };
  const nodes = visit(document.nodes);
  for (const id of left) throw unknownNode(id);
  return nodes;
}

function changed(node: DocumentNode, edit: NodeEdit): DocumentNode {
  switch (edit.kind) {
    case 'name':
      return { ...node, name: edit.name };
    case 'hide':
      return { ...node, hidden: edit.hidden };
    case 'lock':
      return { ...node, locked: edit.locked };
    case 'move':
      return moved(node, edit.by);
    case 'paint':
      return painted(node, edit.paint);
    case 'place':
      if (node.kind !== 'placement') throw wrongKind(node, 'placement');
      return { ...node, target: edit.target, box: edit.box };
    case 'dimension':
      if (node.kind !== 'dimension') throw wrongKind(node, 'dimension');
      return { ...node, ...edit, kind: 'dimension' };
    default:
      if (node.kind !== 'shape') throw wrongKind(node, 'shape');
      if (edit.kind === 'outline') return { ...node, outline: edit.outline };
      return edit.kind === 'depth' ? { ...node, depth: edit.depth } : { ...node, plane: edit.plane };
  }
}

/** A thing in a paint; all that a group holds. */
function painted(node: DocumentNode, paint: Paint): DocumentNode {
  if (node.kind === 'group') return { ...node, children: node.children.map((child) => painted(child, paint)) };
  return node.kind === 'shape' ? { ...node, paint } : node;
}

/** Things put under one that stands at the top level, or at the end. */
function addedUnder(nodes: readonly DocumentNode[], added: readonly DocumentNode[], before: string | undefined): readonly DocumentNode[] {
  const at = before === undefined ? -1 : nodes.findIndex((node) => idsWithin(node).includes(before));
  return at < 0 ? [...nodes, ...added] : [...nodes.slice(0, at), ...added, ...nodes.slice(at)];
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
    return { ...node, plane, outline, paint: paint ?? node.paint };
  });
}

/** The bitmap is kept once, however often it is added. */
function addReference(document: CheminDocument, reference: Reference, bitmap: Bitmap): CheminDocument {
  const known = document.bitmaps.some((b) => b.id === bitmap.id);
  return { ...document, bitmaps: known ? document.bitmaps : [...document.bitmaps, bitmap], references: [...document.references, reference] };
}

/** A bitmap that no reference shows any more goes with the last one. */
function deleteReference(document: CheminDocument, id: string): CheminDocument {
  const references = document.references.filter((r) => r.id !== id);
  const used = new Set(references.map((r) => r.bitmap));
  return { ...document, references, bitmaps: document.bitmaps.filter((b) => used.has(b.id)) };
}

function replaceNode(document: CheminDocument, id: string, change: (node: DocumentNode) => readonly DocumentNode[]): readonly DocumentNode[] {
  const visit = (nodes: readonly DocumentNode[]): readonly DocumentNode[] | null => {
    for (let i = 0; i < nodes.length; i++) {
      const node = nodes[i]!;
      const inside = node.id === id ? null : node.kind === 'group' ? visit(node.children) : null;
      const next = node.id === id ? change(node) : inside ? [{ ...(node as GroupNode), children: inside }] : null;
      if (next) return [...nodes.slice(0, i), ...next, ...nodes.slice(i + 1)];
    }
    return null;
  };
  const nodes = visit(document.nodes);
  if (!nodes) throw unknownNode(id);
  return nodes;
}

/** Placements on a face go with the thing whose face it is. */
function withoutNodes(document: CheminDocument, targets: readonly string[]): readonly DocumentNode[] {
  const gone = new Set<string>();
  for (const id of targets) {
    const node = findNode(document, id);
    if (!node) throw unknownNode(id);
    for (const inside of idsWithin(node)) gone.add(inside);
  }
  const keep = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => {
    const kept = nodes.filter((node) => !gone.has(node.id) && !(node.kind === 'placement' && node.target.kind === 'face' && gone.has(node.target.node)));
    const mapped = kept.map((node) => {
      if (node.kind !== 'group') return node;
      const children = keep(node.children);
      return children === node.children ? node : { ...node, children };
    });
    return mapped.length === nodes.length && mapped.every((node, i) => node === nodes[i]) ? nodes : mapped;
  };
  return freed(document, keep(document.nodes), gone);
}

/** Nodes in which every copy of something that is gone is a thing of its own, so that nothing else is lost. */
function freed(document: CheminDocument, left: readonly DocumentNode[], gone: ReadonlySet<string>): readonly DocumentNode[] {
  const entries = flattenTree(left);
  const copies = entries.flatMap(({ node }) => (node.kind === 'copy' && gone.has(node.of) ? [node] : []));
  if (copies.length === 0) return left;
  const taken = new Set(entries.map(({ node }) => node.id));
  return copies.reduce((nodes, copy) => {
    const own = independentCopy(document, copy, taken);
    for (const node of own ? [own.node, ...own.on] : []) for (const id of idsWithin(node)) taken.add(id);
    return replaceNode({ ...document, nodes }, copy.id, () => (own ? [own.node, ...own.on] : []));
  }, left);
}

/** What the group held, in its place; copies of the group become groups of their own. */
function ungrouped(document: CheminDocument, id: string): readonly DocumentNode[] {
  return freed(
    document,
    replaceNode(document, id, (node) => [...asGroup(node).children]),
    new Set([id]),
  );
}

/** Ids that come back are not gone: what lies on their faces, and their copies, stay. */
function replaced(document: CheminDocument, targets: readonly string[], nodes: readonly DocumentNode[]): readonly DocumentNode[] {
  const back = new Set(nodes.map((node) => node.id));
  const last = targets.at(-1)!;
  const marker: GroupNode = { kind: 'group', id: `${last} `, name: '', hidden: false, locked: false, children: [] };
  const marked = replaceNode(document, last, (old) => [marker, old]);
  const bare = targets.filter((id) => back.has(id)).reduce((now, id) => replaceNode({ ...document, nodes: now }, id, () => []), marked);
  const filled = replaceNode({ ...document, nodes: bare }, marker.id, () => nodes);
  const gone = targets.filter((id) => !back.has(id));
  return gone.length > 0 ? withoutNodes({ ...document, nodes: filled }, gone) : filled;
}

/** Things keep their order; what would lie in itself stays where it is. */
function arranged(document: CheminDocument, { ids: targets, parent, before }: Extract<Edit, { kind: 'arrange' }>): readonly DocumentNode[] {
  const order = flattenTree(document.nodes).map(({ node }) => node);
  const into = parent === null ? null : findNode(document, parent);
  if (parent !== null && into?.kind !== 'group') throw into ? wrongKind(into, 'group') : unknownNode(parent);
  const wanted = new Set(targets);
  for (const id of targets) if (!findNode(document, id)) throw unknownNode(id);
  const moving = order.filter((node) => wanted.has(node.id) && !(parent !== null && idsWithin(node).includes(parent)) && node.id !== before);
  const rest = moving.reduce((nodes, { id }) => replaceNode({ ...document, nodes }, id, () => []), document.nodes);
  // What lies in something else that moves goes with it.
  const heads = moving.filter((node) => !moving.some((other) => other !== node && idsWithin(other).includes(node.id)));
  const put = (siblings: readonly DocumentNode[]): readonly DocumentNode[] => {
    const at = siblings.findIndex((node) => node.id === before);
    return at < 0 ? [...siblings, ...heads] : [...siblings.slice(0, at), ...heads, ...siblings.slice(at)];
  };
  if (parent === null) return put(rest);
  return replaceNode({ ...document, nodes: rest }, parent, (node) => [{ ...asGroup(node), children: put(asGroup(node).children) }]);
}

/** The new group stands where the last of its members stood, members in their order. */
function grouped(document: CheminDocument, edit: Extract<Edit, { kind: 'group' }>): readonly DocumentNode[] {
  const wanted = new Set(edit.ids);
  const members: DocumentNode[] = [];
  for (const id of edit.ids) if (!findNode(document, id)) throw unknownNode(id);
  const take = (nodes: readonly DocumentNode[]): readonly DocumentNode[] =>
    nodes.flatMap((node): readonly DocumentNode[] => {
      if (wanted.has(node.id)) {
        members.push(node);
        return [];
      }
      return node.kind === 'group' ? [{ ...node, children: take(node.children) }] : [node];
    });
  const topLevel = document.nodes.map((node) => idsWithin(node).some((id) => wanted.has(id)));
  const rest = take(document.nodes);
  const group: GroupNode = { kind: 'group', id: edit.id, name: edit.name, hidden: false, locked: false, children: members };
  const after = document.nodes.slice(topLevel.lastIndexOf(true) + 1).length;
  return [...rest.slice(0, rest.length - after), group, ...rest.slice(rest.length - after)];
}

function asGroup(node: DocumentNode): GroupNode {
  if (node.kind !== 'group') throw wrongKind(node, 'group');
  return node;
}

function unknownNode(id: string): CoreError {
  return new CoreError('unknown-node', `There is no node “${id}”.`, { id });
}

function wrongKind(node: DocumentNode, wanted: string): CoreError {
  return new CoreError('wrong-kind', `“${node.name}” is a ${node.kind}, not a ${wanted}.`, { id: node.id, actual: node.kind, expected: wanted });
}

/** What an edit is called in the list of steps and in the words beside undo and redo. */
export function describeEdit(edit: Edit): string {
  const names: Readonly<Record<Edit['kind'], string>> = {
    add: 'add',
    replace: 'replace',
    change: 'change',
    arrange: 'change order',
    paints: 'paint',
    all: 'change several things',
    swatches: 'change palette',
    dimension: 'change dimension',
    delete: 'delete',
    move: 'move',
    outline: 'change outline',
    lay: 'change shapes',
    depth: 'set depth',
    plane: 'change plane',
    paint: 'paint',
    name: 'rename',
    hide: 'hide or show',
    lock: 'lock or unlock',
    group: 'group',
    ungroup: 'ungroup',
    place: 'place artwork',
    light: 'set light',
    projection: 'set projection',
    grid: 'set grid',
    recount: 'set cell, sizes kept',
    setup: 'use set-up',
    sheet: 'set sheet',
    'add-reference': 'add reference',
    reference: 'change reference',
    'delete-reference': 'delete reference',
    strokes: 'trace edges',
    title: 'rename drawing',
  };
  if (edit.kind === 'add') return edit.nodes[0] ? `add ${edit.nodes[0].name}` : 'add artwork';
  return names[edit.kind];
}
