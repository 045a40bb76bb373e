import { carriedShape } from '../document/carry';
import { flattenTree, nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, CopyNode, DimensionNode, DocumentNode, GroupNode, JoinedNode, PlacementNode, ShapeNode, Sheet } from '../document/types';
import type { Body } from '../geometry/body';
import { bodyOf, isPart } from '../geometry/book';
import { movedBody } from '../geometry/moved-body';
import { composeMaps, rigidMap, type RigidMap } from '../geometry/rigid';
import type { LinePaint } from '../paint/paint';
import { keptBy, keptByPair } from '../math/keep';
import type { Plane } from '../projection/planes';
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

/** What is drawn, whether or not it can be pointed at. */
export type DrawnThing = Pick<DrawnNode, 'node' | 'owner' | 'map' | 'within'>;

export const thingOf = ({ node, owner, map, within }: DrawnNode): DrawnThing => ({ node, owner, map, within });

/** A placement on a face as it is drawn. */
export type DrawnOnFace = DrawnNode & { readonly node: PlacementNode & { readonly target: { readonly kind: 'face' } } };

const isOnFace = (drawn: DrawnNode): drawn is DrawnOnFace => drawn.node.kind === 'placement' && drawn.node.target.kind === 'face';

/** The body of what is drawn, in cells of the world; null for what has no place in space. */
export function drawnBody({ node, map }: DrawnThing): Body | null {
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
const drawings = new WeakMap<CheminDocument, Drawing>();

/**
 * Everything of a document that can be drawn, in document order: copies as what they show, dimensions as their strokes.
 * Made once for each document. What copies show beyond `MOST_SHOWN` things is left out.
 */
export function drawnNodes(document: CheminDocument): readonly DrawnNode[] {
  return drawingOf(document).nodes;
}

/** What one walk over the nodes of a document finds, made once for each document: a drag makes one in every frame. */
export interface DrawnDocument {
  readonly nodes: readonly DrawnNode[];
  /** What of them is seen and lies on faces, and what is seen and lies elsewhere. */
  readonly onFaces: readonly DrawnOnFace[];
  readonly elsewhere: readonly DrawnNode[];
  /** Whether anything has tones or a tint of its own. */
  readonly looks: boolean;
  /** The lines of their own that things and groups have round them, by ids. */
  readonly contours: ReadonlyMap<string, LinePaint>;
}

/**
 * Everything that can be drawn, and what there is beyond it that only few documents have.
 * @param like the drawing of the document as it was before, of which what is the same is taken over without being looked at
 */
export function drawingOf(document: CheminDocument, like: DrawnDocument | null = null): DrawnDocument {
  let drawing = drawings.get(document);
  if (!drawing) drawings.set(document, (drawing = new Drawing(document, like instanceof Drawing ? like : null)));
  return drawing;
}

/** A node as it is drawn for itself: the same object for as long as it is the same. */
const ownNode = keptBy((node: DrawnNode['node'], hidden: boolean, locked: boolean): DrawnNode => ({
  node,
  owner: node.id,
  hidden,
  locked,
  map: null,
  within: '',
}));

/** A hidden node as its copies show it. */
const unhidden = keptBy((node: DocumentNode): DocumentNode => ({ ...node, hidden: false }));

class Drawing implements DrawnDocument {
  readonly nodes: DrawnNode[] = [];
  readonly onFaces: DrawnOnFace[] = [];
  readonly elsewhere: DrawnNode[] = [];
  readonly contours = new Map<string, LinePaint>();
  looks = false;
  /** The document's own nodes, and how each is drawn that is drawn as itself and nothing more. */
  private readonly roots: readonly DocumentNode[];
  private readonly plain: (DrawnNode | null)[] = [];
  private readonly plainOnFace: boolean[] = [];
  private shown = 0;
  private on: ReadonlyMap<string, readonly PlacementNode[]> | null = null;

  constructor(
    private readonly document: CheminDocument,
    like: Drawing | null,
  ) {
    const roots = (this.roots = document.nodes);
    for (let i = 0; i < roots.length; i++) {
      const node = roots[i]!;
      const known = like && node === like.roots[i] ? like.plain[i]! : null;
      if (!known) {
        this.visit(node, false, false, false);
        this.note(node);
        continue;
      }
      const onFace = like!.plainOnFace[i]!;
      this.nodes.push(known);
      if (onFace) this.onFaces.push(known as DrawnOnFace);
      else this.elsewhere.push(known);
      this.plain.push(known);
      this.plainOnFace.push(onFace);
    }
  }

  /** Notes whether a node just visited can be taken over unseen. */
  private note(node: DocumentNode): void {
    const alone = (node.kind === 'shape' || node.kind === 'placement') && !node.hidden && !node.ramp && !node.tint && !node.contour;
    this.plain.push(alone ? this.nodes.at(-1)! : null);
    this.plainOnFace.push(node.kind === 'placement' && node.target.kind === 'face');
  }

  /** @param inJoined within solids that are one, which are drawn by what holds them */
  private visit(node: DocumentNode, hiddenAbove: boolean, lockedAbove: boolean, inJoined: boolean): void {
    if (node.ramp !== undefined || node.tint !== undefined) this.looks = true;
    if (node.contour) this.contours.set(node.id, node.contour);
    const [hidden, locked] = [hiddenAbove || node.hidden, lockedAbove || node.locked];
    const joined = node.kind === 'group' && isJoined(node);
    if (node.kind === 'copy') {
      if (!hidden) this.copy(node, null, { owner: node.id, hidden, locked }, node.id, new Set());
    } else if (node.kind === 'dimension') this.put(node, { owner: node.id, hidden, locked, map: null, within: '' });
    else if ((node.kind !== 'group' || joined) && !(inJoined && isPart(node))) this.push(ownNode(node as DrawnNode['node'], hidden, locked));
    if (node.kind === 'group') for (const child of node.children) this.visit(child, hidden, locked, inJoined || joined);
  }

  private push(drawn: DrawnNode): void {
    this.nodes.push(drawn);
    if (drawn.hidden) return;
    if (isOnFace(drawn)) this.onFaces.push(drawn);
    else this.elsewhere.push(drawn);
  }

  private put(node: DocumentNode, how: Omit<DrawnNode, 'node'>): void {
    if (node.kind === 'shape' || node.kind === 'placement' || (node.kind === 'group' && isJoined(node))) this.push({ node, ...how });
    else if (node.kind === 'dimension' && !how.hidden) for (const part of shownByDimension(this.document, node)) this.push({ node: part, ...how });
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
    show(original.hidden ? unhidden(original) : original);
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

/** Where a copy carries what it shows, under the map that carries the copy itself: the same object, so that bodies stay the same. */
const mapUnder = keptByPair((under: RigidMap | typeof ROOT, copy: CopyNode): RigidMap => (under === ROOT ? rigidMap(copy) : composeMaps(under as RigidMap, rigidMap(copy)))); // prettier-ignore
const mapOf = (copy: CopyNode, under: RigidMap | null): RigidMap => mapUnder(under ?? ROOT, copy);

const carried = keptByPair((map: RigidMap, node: ShapeNode) => carriedShape(node, map));

/** A drawn shape as a shape of the plane on which it is seen, for what works on outlines rather than bodies. */
export function shapeInPlace({ node, map }: DrawnNode): ShapeNode | null {
  return node.kind !== 'shape' ? null : map ? carried(map, node) : node;
}

type Coords = readonly [u: number, v: number];
type Reading = readonly [unit: Sheet['unit'], resolution: number, scale: number, cell: number];

/** The strokes of a dimension on a plane between two places of it. */
const strokesOf = keptBy((node: DimensionNode, plane: Plane, [u, v]: Coords, [toU, toV]: Coords, [unit, resolution, scale, cell]: Reading) =>
  dimensionShapes({ ...node, plane }, { u, v }, { u: toU, v: toV }, { unit, resolution, scale }, cell),
);

function shownByDimension(document: CheminDocument, node: DimensionNode): readonly ShapeNode[] {
  const [from, to] = [node.from, node.to].map((anchor) => {
    const shape = anchor.node === undefined ? null : nodesById(document.nodes).get(anchor.node);
    const point = shape?.kind === 'shape' && shape.plane.kind === node.plane.kind ? shape.outline.points.find((p) => p.id === anchor.point) : undefined;
    return point ? { u: point.u, v: point.v, plane: (shape as ShapeNode).plane } : { u: anchor.u, v: anchor.v, plane: node.plane };
  });
  const { sheet, grid } = document;
  return strokesOf(node, from!.plane, [from!.u, from!.v], [to!.u, to!.v], [sheet.unit, sheet.resolution, sheet.scale, grid.cell]);
}
