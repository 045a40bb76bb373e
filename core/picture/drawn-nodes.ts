import { carriedShape } from '../document/carry';
import { flattenTree, nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, CopyNode, DimensionNode, DocumentNode, GroupNode, JoinedNode, PlacementNode, ShapeNode } from '../document/types';
import type { Body } from '../geometry/body';
import { bodyOf, isPart } from '../geometry/book';
import { movedBody } from '../geometry/moved-body';
import { composeMaps, rigidMap, type RigidMap } from '../geometry/rigid';
import { dimensionShapes } from './dimension';

/** Something that is drawn: a shape, a placement, or solids that are one, of the document or what a copy or a dimension stands for. */
export interface DrawnNode {
  readonly node: ShapeNode | PlacementNode | JoinedNode;
  /** The node of the document that it belongs to. */
  readonly owner: string;
  readonly hidden: boolean;
  readonly locked: boolean;
  /** Where it is carried from where its node lies; null where it is not. */
  readonly map: RigidMap | null;
  /** Tells apart what several copies show of one node; empty for nodes themselves. */
  readonly within: string;
}

/** The body of what is drawn, in cells of the world; null for what has no place in space. */
export function drawnBody({ node, map }: DrawnNode): Body | null {
  const body = bodyOf(node);
  return body && map ? movedBody(body, map) : body;
}

/** Whether the solids of a group are one. */
export function isJoined(node: GroupNode): node is JoinedNode {
  return node.joined !== undefined;
}

/** Most things that copies may show in all: copies of copies of groups can multiply without end. */
export const MOST_SHOWN = 50_000;

const ROOT = {};
/** Where copies carry what they show, by the map that carries them and the copy, so that bodies stay the same objects. */
const maps = new WeakMap<object, WeakMap<CopyNode, RigidMap>>();
const dimensions = new WeakMap<DimensionNode, { readonly key: string; readonly drawn: readonly ShapeNode[] }>();
const lists = new WeakMap<CheminDocument, readonly DrawnNode[]>();

/**
 * Everything of a document that can be drawn, in document order: copies as what they show, dimensions as their strokes.
 * Made once for each document. What copies show beyond `MOST_SHOWN` things is left out.
 */
export function drawnNodes(document: CheminDocument): readonly DrawnNode[] {
  let list = lists.get(document);
  if (!list) lists.set(document, (list = new Drawing(document).nodes));
  return list;
}

const own = new WeakMap<DrawnNode['node'], DrawnNode>();

/** A node as it is drawn for itself: the same object for as long as it is the same. */
function ownNode(node: DrawnNode['node'], { owner, hidden, locked }: Pick<DrawnNode, 'owner' | 'hidden' | 'locked'>): DrawnNode {
  const known = own.get(node);
  if (known && known.owner === owner && known.hidden === hidden && known.locked === locked) return known;
  const made = { node, owner, hidden, locked, map: null, within: '' };
  own.set(node, made);
  return made;
}

class Drawing {
  readonly nodes: DrawnNode[] = [];
  private shown = 0;
  private on: ReadonlyMap<string, readonly PlacementNode[]> | null = null;

  constructor(private readonly document: CheminDocument) {
    const within = new Set<string>();
    for (const { node, parent, hidden, locked } of flattenTree(document.nodes)) {
      // Solids that are one are drawn by what holds them.
      const inJoined = parent !== null && within.has(parent);
      if (node.kind === 'group' && (isJoined(node) || inJoined)) within.add(node.id);
      if (inJoined && isPart(node)) continue;
      if (node.kind === 'group' && !isJoined(node)) continue;
      if (node.kind === 'copy') {
        if (!hidden) this.copy(node, null, { owner: node.id, hidden, locked }, node.id, new Set());
      } else this.put(node, { owner: node.id, hidden, locked, map: null, within: '' });
    }
  }

  private put(node: DocumentNode, how: Omit<DrawnNode, 'node'>): void {
    const { owner, hidden, locked, map, within } = how;
    if (node.kind === 'shape' || node.kind === 'placement' || (node.kind === 'group' && isJoined(node)))
      this.nodes.push(map || within !== '' ? { node, owner, hidden, locked, map, within } : ownNode(node, how));
    else if (node.kind === 'dimension' && !how.hidden) for (const part of shownByDimension(this.document, node)) this.nodes.push({ node: part, ...how });
  }

  /** What a copy shows: its original carried along, with what lies on the original's faces. */
  private copy(copy: CopyNode, under: RigidMap | null, how: Pick<DrawnNode, 'owner' | 'hidden' | 'locked'>, within: string, stack: ReadonlySet<string>): void {
    const original = nodesById(this.document.nodes).get(copy.of);
    if (!original || stack.has(copy.id) || stack.has(copy.of)) return;
    const map = mapOf(copy, under);
    const inside = new Set([...stack, copy.id, ...(original.kind === 'copy' ? [] : [copy.of])]);
    const show = (node: DocumentNode, inJoined = false): void => {
      if (node.hidden || this.shown > MOST_SHOWN || (inJoined && isPart(node))) return;
      if (node.kind === 'group') {
        if (isJoined(node)) this.putJoined(node, { ...how, map, within });
        return node.children.forEach((child) => show(child, inJoined || isJoined(node)));
      }
      if (node.kind === 'copy') return this.copy(node, map, how, `${within} ${node.id}`, inside);
      // Artwork on a face comes with the face's own thing.
      if (node.kind === 'placement' && node.target.kind === 'face') return;
      this.shown++;
      this.put(node, { ...how, map, within });
      if (node.kind !== 'shape') return;
      for (const placed of this.placedOn(node.id)) this.put(placed, { ...how, map, within });
    };
    // A hidden original is shown by its copies all the same, as what it holds would be.
    show(original.hidden ? { ...original, hidden: false } : original);
  }

  /** Solids that are one, with what lies on the faces of its parts. */
  private putJoined(node: JoinedNode, how: Omit<DrawnNode, 'node'>): void {
    this.shown++;
    this.put(node, how);
    for (const part of shapesIn(node.children)) for (const placed of this.placedOn(part.id)) this.put(placed, how);
  }

  private placedOn(host: string): readonly PlacementNode[] {
    if (!this.on) {
      const on = new Map<string, PlacementNode[]>();
      for (const { node, hidden } of flattenTree(this.document.nodes)) {
        if (hidden || node.kind !== 'placement' || node.target.kind !== 'face') continue;
        const list = on.get(node.target.node);
        if (list) list.push(node);
        else on.set(node.target.node, [node]);
      }
      this.on = on;
    }
    return this.on.get(host) ?? [];
  }
}

function mapOf(copy: CopyNode, under: RigidMap | null): RigidMap {
  const parent = under ?? ROOT;
  let own = maps.get(parent);
  if (!own) maps.set(parent, (own = new WeakMap()));
  let map = own.get(copy);
  if (!map) own.set(copy, (map = under ? composeMaps(under, rigidMap(copy)) : rigidMap(copy)));
  return map;
}

const carried = new WeakMap<RigidMap, WeakMap<ShapeNode, ShapeNode | null>>();

/** A drawn shape as a shape of the plane on which it is seen, for what works on outlines rather than bodies. */
export function shapeInPlace({ node, map }: DrawnNode): ShapeNode | null {
  if (node.kind !== 'shape' || !map) return node.kind === 'shape' ? node : null;
  let known = carried.get(map);
  if (!known) carried.set(map, (known = new WeakMap<ShapeNode, ShapeNode | null>()));
  let there = known.get(node);
  if (there === undefined) known.set(node, (there = carriedShape(node, map)));
  return there;
}

function shownByDimension(document: CheminDocument, node: DimensionNode): readonly ShapeNode[] {
  const at = [node.from, node.to].map((anchor) => {
    const shape = anchor.node === undefined ? null : nodesById(document.nodes).get(anchor.node);
    const point = shape?.kind === 'shape' && shape.plane.kind === node.plane.kind ? shape.outline.points.find((p) => p.id === anchor.point) : undefined;
    return point ? { u: point.u, v: point.v, plane: (shape as ShapeNode).plane } : { u: anchor.u, v: anchor.v, plane: node.plane };
  });
  const { sheet, grid } = document;
  const key = JSON.stringify([at, sheet.unit, sheet.resolution, sheet.scale, grid.cell]);
  const known = dimensions.get(node);
  if (known?.key === key) return known.drawn;
  const drawn = dimensionShapes({ ...node, plane: at[0]!.plane }, at[0]!, at[1]!, sheet, grid.cell);
  dimensions.set(node, { key, drawn });
  return drawn;
}
