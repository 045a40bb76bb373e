import * as z from 'zod';
import { CoreError } from '../math/errors';
import { exactCells } from '../math/exact';
import { PLANE_AXES, type Plane } from '../projection/planes';
import { moveOutline, type Outline } from '../shape/outline';
import {
  artworkSchema,
  boxSchema,
  cellsSchema,
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
import { findNode, idsWithin } from './tree';
import { recounted } from './recount';
import type { Bitmap, CheminDocument, DocumentNode, GroupNode, Reference } from './types';

const ids = z.array(idSchema).min(1);

/** Every edit as data: what undo keeps, storage writes, and a test can make by the thousand. */
export const editSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('add'), nodes: z.array(nodeSchema), artworks: z.array(artworkSchema) }),
  z.strictObject({ kind: z.literal('delete'), ids }),
  /** Along the world's axes, in cells; on the sheet a is right and b is down. */
  z.strictObject({ kind: z.literal('move'), ids, by: z.strictObject({ a: cellsSchema, b: cellsSchema, h: cellsSchema }) }),
  z.strictObject({ kind: z.literal('outline'), id: idSchema, outline: outlineSchema }),
  /** Shapes with another boundary, plane, or both, as one step. */
  z.strictObject({
    kind: z.literal('lay'),
    items: z.array(z.strictObject({ id: idSchema, plane: planeSchema, outline: outlineSchema })).min(1),
  }),
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
  z.strictObject({ kind: z.literal('recount'), cell: z.number().min(0.01).max(10_000) }),
  /** Projection and grid at once, such as a kept set-up. */
  z.strictObject({ kind: z.literal('setup'), projection: projectionSchema, grid: gridSchema }),
  z.strictObject({ kind: z.literal('sheet'), sheet: sheetSchema }),
  z.strictObject({ kind: z.literal('add-reference'), reference: referenceSchema, bitmap: bitmapSchema }),
  z.strictObject({ kind: z.literal('reference'), reference: referenceSchema }),
  z.strictObject({ kind: z.literal('delete-reference'), id: idSchema }),
  z.strictObject({ kind: z.literal('strokes'), strokes: z.array(strokeSchema).max(1000) }),
  z.strictObject({ kind: z.literal('title'), name: nameSchema }),
]);

export type Edit = z.infer<typeof editSchema>;

/**
 * The document after an edit. Pure; shares everything that did not change with the document before, so that caches
 * keyed by nodes stay warm.
 * @throws CoreError `unknown-node` or `wrong-kind` where the edit does not fit the document
 */
export function applyEdit(document: CheminDocument, edit: Edit): CheminDocument {
  switch (edit.kind) {
    case 'add':
      return {
        ...document,
        artworks: edit.artworks.length ? [...document.artworks, ...edit.artworks] : document.artworks,
        nodes: [...document.nodes, ...edit.nodes],
      };
    case 'delete':
      return { ...document, nodes: withoutNodes(document, edit.ids) };
    case 'group':
      return { ...document, nodes: grouped(document, edit) };
    case 'ungroup':
      return { ...document, nodes: replaceNode(document, edit.id, (node) => [...asGroup(node).children]) };
    case 'light':
      return { ...document, light: edit.light };
    case 'projection':
      return { ...document, projection: edit.projection };
    case 'grid':
      return { ...document, grid: edit.grid };
    case 'lay':
      return { ...document, nodes: edit.items.reduce((nodes, item) => layNode({ ...document, nodes }, item), document.nodes) };
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

type NodeEdit = Extract<Edit, { kind: 'move' | 'outline' | 'depth' | 'plane' | 'paint' | 'name' | 'hide' | 'lock' | 'place' }>;

function changeNodes(document: CheminDocument, edit: NodeEdit): readonly DocumentNode[] {
  const targets = 'ids' in edit ? edit.ids : [edit.id];
  return targets.reduce((nodes, id) => replaceNode({ ...document, nodes }, id, (node) => [changed(node, edit)]), document.nodes);
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
      return node.kind === 'group'
        ? { ...node, children: node.children.map((child) => changed(child, edit)) }
        : node.kind === 'shape'
          ? { ...node, paint: edit.paint }
          : node;
    case 'place':
      if (node.kind !== 'placement') throw wrongKind(node, 'placement');
      return { ...node, target: edit.target, box: edit.box };
    default:
      if (node.kind !== 'shape') throw wrongKind(node, 'shape');
      if (edit.kind === 'outline') return { ...node, outline: edit.outline };
      return edit.kind === 'depth' ? { ...node, depth: edit.depth } : { ...node, plane: edit.plane };
  }
}

function layNode(document: CheminDocument, { id, plane, outline }: { id: string; plane: Plane; outline: Outline }): readonly DocumentNode[] {
  return replaceNode(document, id, (node) => {
    if (node.kind !== 'shape') throw wrongKind(node, 'shape');
    return [{ ...node, plane, outline }];
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

/** Displacement in cells along the world's axes. */
export interface CellMove {
  readonly a: number;
  readonly b: number;
  readonly h: number;
}

/** A thing moved; what lies on a face moves with its host alone. */
export function moved(node: DocumentNode, by: CellMove): DocumentNode {
  if (node.kind === 'group') return { ...node, children: node.children.map((child) => moved(child, by)) };
  if (node.kind === 'shape') {
    const { plane, du, dv } = movedPlane(node.plane, by);
    return { ...node, plane, outline: du === 0 && dv === 0 ? node.outline : moveOutline(node.outline, du, dv) };
  }
  if (node.target.kind === 'face') return node;
  const { plane, du, dv } = movedPlane(node.target.plane, by);
  const [dx, dy] = plane.kind === 'left' ? [-du, -dv] : plane.kind === 'sheet' ? [du, dv] : [du, -dv];
  return { ...node, target: { kind: 'plane', plane }, box: { ...node.box, x: exactCells(node.box.x + dx), y: exactCells(node.box.y + dy) } };
}

function movedPlane(plane: Plane, by: CellMove): { readonly plane: Plane; readonly du: number; readonly dv: number } {
  if (plane.kind === 'sheet') return { plane, du: by.a, dv: by.b };
  const axes = PLANE_AXES[plane.kind];
  const across = by[axes.across];
  return { plane: across === 0 ? plane : { ...plane, offset: exactCells(plane.offset + across) }, du: by[axes.u], dv: by[axes.v] };
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
  if (!nodes) throw new CoreError('unknown-node', `There is no node “${id}”.`, { id });
  return nodes;
}

/** Placements on a face go with the thing whose face it is. */
function withoutNodes(document: CheminDocument, targets: readonly string[]): readonly DocumentNode[] {
  const gone = new Set<string>();
  for (const id of targets) {
    const node = findNode(document, id);
    if (!node) throw new CoreError('unknown-node', `There is no node “${id}”.`, { id });
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
  return keep(document.nodes);
}

/** The new group stands where the last of its members stood, members in their order. */
function grouped(document: CheminDocument, edit: Extract<Edit, { kind: 'group' }>): readonly DocumentNode[] {
  const wanted = new Set(edit.ids);
  const members: DocumentNode[] = [];
  for (const id of edit.ids) if (!findNode(document, id)) throw new CoreError('unknown-node', `There is no node “${id}”.`, { id });
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

function wrongKind(node: DocumentNode, wanted: string): CoreError {
  return new CoreError('wrong-kind', `“${node.name}” is a ${node.kind}, not a ${wanted}.`, { id: node.id, actual: node.kind, expected: wanted });
}

/** What an edit is called in the list of steps and in the words beside undo and redo. */
export function describeEdit(edit: Edit): string {
  const names: Readonly<Record<Edit['kind'], string>> = {
    add: 'add',
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
