import { keptBy } from '../math/keep';
import type { PlanePoint } from '../math/points';
import { mapPaint } from '../paint/paint';
import { samePlane, type Plane } from '../projection/planes';
import { ellipseOf4, ellipseOutline } from '../shape/forms';
import type { Outline, OutlinePoint } from '../shape/outline';
import { exactCells } from '../math/exact';
import { isRuled } from '../geometry/ruled';
import { carriedOnRuled } from '../geometry/wrapping';
import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import type { SurfaceName } from '../geometry/names';
import { surfaceOnPlane, type SurfaceOnPlane } from '../geometry/surface-on-plane';
import { carriedAnchor, keepsDirections, rigidBetween } from './carry';
import { flattenTree, nodesById } from './tree';
import type { CheminDocument, DocumentNode, PlacementNode, ShapeNode } from './types';

/** The circle that touches the nearer sides of the box around a face, in cells of the face's plane. */
export interface InscribedCircle {
  readonly plane: Plane;
  readonly outline: Outline;
  readonly centre: PlanePoint;
  readonly radius: number;
}

/** The circle inscribed in a face of a shape; null where there is no such flat face. */
export function inscribedIn(host: ShapeNode, name: SurfaceName): InscribedCircle | null {
  return inscribedOn(surfaceOnPlane(host, name));
}

/** The circle inscribed in a flat face of anything; null for a round one. */
export function inscribedOn(face: SurfaceOnPlane | null): InscribedCircle | null {
  if (!face) return null;
  const { minU, minV, maxU, maxV } = face.box;
  const centre = { u: (minU + maxU) / 2, v: (minV + maxV) / 2 };
  const radius = Math.min(maxU - minU, maxV - minV) / 2;
  return radius > 0 ? { plane: face.plane, centre, radius, outline: ellipseOutline(centre, { u: radius, v: radius }) } : null;
}

/**
 * A document after an edit with everything that hangs on surfaces where these are now. An inscribed circle follows its
 * face; one that was itself changed so that it touches its face's sides no longer is let go, as are those whose host is
 * gone; where only the face is gone the circle waits as it is. Artwork goes along where its host was moved, turned or
 * mirrored as a whole, and stays where it is on its plane whatever else happens to the host. O(nodes).
 */
export function followFaces(before: CheminDocument, after: CheminDocument): CheminDocument {
  if (before.nodes === after.nodes) return after;
  const { changed, roots } = changedNodes(before, after);
  const follow = (nodes: readonly DocumentNode[], places?: Iterable<number>): readonly DocumentNode[] => {
    let next: DocumentNode[] | null = null;
    for (const i of places ?? nodes.keys()) {
      const node = nodes[i]!;
      const now = followedNode(node, before, after, changed, follow);
      if (now !== node) (next ??= [...nodes])[i] = now;
    }
    return next ?? nodes;
  };
  const nodes = follow(after.nodes, roots);
  return nodes === after.nodes ? after : { ...after, nodes };
}

type Changed = ReadonlyMap<string, DocumentNode>;

interface WhatChanged {
  /** What an edit changed or added, by ids; null where it took something away. */
  readonly changed: Changed | null;
  /** Places among the document's own nodes where something changed or hangs on what did; all where this is not known. */
  readonly roots?: ReadonlySet<number>;
}

/** What an edit changed; a gesture asks in every frame. */
function changedNodes(before: CheminDocument, after: CheminDocument): WhatChanged {
  const changed = new Map<string, DocumentNode>();
  if (comparedInPlace(before.nodes, after.nodes, changed)) {
    const roots = new Set<number>();
    for (let i = 0; i < after.nodes.length; i++) if (before.nodes[i] !== after.nodes[i]) roots.add(i);
    const hanging = hangingIn(before.nodes);
    for (const id of changed.keys()) for (const i of hanging.get(id) ?? []) roots.add(i);
    return { changed, roots };
  }
  changed.clear();
  const known = nodesById(before.nodes);
  let left = known.size;
  for (const { node } of flattenTree(after.nodes)) {
    const was = known.get(node.id);
    if (was) left--;
    if (was !== node) changed.set(node.id, node);
  }
  return { changed: left === 0 ? changed : null };
}

/** Where among a document's own nodes something hangs on another, by the id of that. Made once for what a gesture starts from. */
const hangingIn = keptBy((nodes: readonly DocumentNode[]): ReadonlyMap<string, readonly number[]> => {
  const hanging = new Map<string, number[]>();
  const visit = (node: DocumentNode, root: number): void => {
    if (node.kind === 'group') for (const child of node.children) visit(child, root);
    const host = node.kind === 'shape' ? node.inscribed?.node : node.kind === 'placement' && node.target.kind === 'face' ? node.target.node : undefined;
    if (host === undefined) return;
    const there = hanging.get(host);
    if (there) there.push(root);
    else hanging.set(host, [root]);
  };
  nodes.forEach(visit);
  return hanging;
});

/** Notes what is another; false where something came, went or changed its place. */
function comparedInPlace(before: readonly DocumentNode[], after: readonly DocumentNode[], changed: Map<string, DocumentNode>): boolean {
  if (before === after) return true;
  if (before.length !== after.length) return false;
  for (let i = 0; i < after.length; i++) {
    const [was, now] = [before[i]!, after[i]!];
    if (was === now) continue;
    if (was.id !== now.id || was.kind !== now.kind) return false;
    changed.set(now.id, now);
    if (now.kind === 'group' && was.kind === 'group' && !comparedInPlace(was.children, now.children, changed)) return false;
  }
  return true;
}

function followedNode(
  node: DocumentNode,
  before: CheminDocument,
  after: CheminDocument,
  changed: Changed | null,
  follow: (nodes: readonly DocumentNode[]) => readonly DocumentNode[],
): DocumentNode {
  if (node.kind === 'group') {
    const children = follow(node.children);
    return children === node.children ? node : { ...node, children };
  }
  if (node.kind === 'shape') {
    const { inscribed } = node;
    return inscribed && (!changed || changed.has(inscribed.node) || changed.has(node.id)) ? followed(node, before, after) : node;
  }
  if (node.kind !== 'placement' || node.target.kind !== 'face' || (changed && !changed.has(node.target.node))) return node;
  return carriedByHost(node, node.target, before, changed?.get(node.target.node) ?? nodesById(after.nodes).get(node.target.node));
}

function carriedByHost(
  node: PlacementNode,
  { node: host, face }: { node: string; face: string },
  before: CheminDocument,
  is: DocumentNode | undefined,
): PlacementNode {
  const was = nodesById(before.nodes).get(host);
  if (was === is || was?.kind !== 'shape' || is?.kind !== 'shape' || nodesById(before.nodes).get(node.id) !== node) return node;
  if (was.outline === is.outline && was.plane === is.plane) return node;
  const map = rigidBetween(was, is);
  if (!map) return node;
  const { by } = map;
  if (keepsDirections(map)) {
    if (by.a === 0 && by.b === 0 && by.h === 0) return node;
    const { at } = node.anchor;
    return { ...node, anchor: { ...node.anchor, at: { a: exactCells(at.a + by.a), b: exactCells(at.b + by.b), h: exactCells(at.h + by.h) } } };
  }
  const form = surfaceNamed(bodyOf(was), face)?.form;
  if (form?.kind === 'flat') return { ...node, anchor: carriedAnchor(node.anchor, form.frame.normal, form.frame.origin, map) };
  const then = surfaceNamed(bodyOf(is), face)?.form;
  return form && then && isRuled(form) && isRuled(then) ? { ...node, anchor: carriedOnRuled(node.anchor, form, then, map) } : node;
}

function followed(node: ShapeNode, before: CheminDocument, after: CheminDocument): ShapeNode {
  const { inscribed, ...free } = node;
  const host = nodesById(after.nodes).get(inscribed!.node);
  if (host?.kind !== 'shape' || host.id === node.id) return free;
  const old = nodesById(before.nodes).get(host.id);
  if (old === host && nodesById(before.nodes).get(node.id) === node) return node;
  const circle = inscribedIn(host, inscribed!.face);
  if (!circle) return node;
  if (samePlane(circle.plane, node.plane) && sameCircle(circle.outline, node.outline)) return node;
  if (old === host || old?.kind !== 'shape') return free;
  return placed(node, circle);
}

/** A circle in its new place, its own point ids and its paint's places kept. */
function placed(node: ShapeNode, { plane, outline, centre, radius }: InscribedCircle): ShapeNode {
  const was = ellipseOf4(node.outline);
  const points = outline.points.map((p, i): OutlinePoint => ({ ...p, id: node.outline.points[i]?.id ?? p.id }));
  const k = was && was.radii.u > 0 ? radius / was.radii.u : 1;
  const paint = was ? mapPaint(node.paint, (p) => ({ u: centre.u + (p.u - was.centre.u) * k, v: centre.v + (p.v - was.centre.v) * k })) : node.paint;
  return { ...node, plane, outline: { points, closed: true }, paint };
}

function sameCircle(p: Outline, q: Outline): boolean {
  return (
    !q.holes &&
    q.closed &&
    p.points.length === q.points.length &&
    p.points.every((at, i) => {
      const other = q.points[i]!;
      return at.u === other.u && at.v === other.v && at.arc?.u === other.arc?.u && at.arc?.v === other.arc?.v;
    })
  );
}
