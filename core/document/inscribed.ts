import type { PlanePoint } from '../math/points';
import { mapPaint } from '../paint/paint';
import { samePlane, type Plane } from '../projection/planes';
import { ellipseOf4, ellipseOutline } from '../shape/forms';
import type { Outline, OutlinePoint } from '../shape/outline';
import { faceOnPlane } from '../solid/face-on-plane';
import type { FaceName } from '../solid/faces';
import { findShape } from './tree';
import type { CheminDocument, DocumentNode, ShapeNode } from './types';

/** The circle that touches the nearer sides of the box around a face, in cells of the face's plane. */
export interface InscribedCircle {
  readonly plane: Plane;
  readonly outline: Outline;
  readonly centre: PlanePoint;
  readonly radius: number;
}

/** The circle inscribed in a face of a shape; null where there is no such flat face. */
export function inscribedIn(host: ShapeNode, name: FaceName): InscribedCircle | null {
  const face = faceOnPlane(host, name);
  if (!face) return null;
  const { minU, minV, maxU, maxV } = face.box;
  const centre = { u: (minU + maxU) / 2, v: (minV + maxV) / 2 };
  const radius = Math.min(maxU - minU, maxV - minV) / 2;
  return radius > 0 ? { plane: face.plane, centre, radius, outline: ellipseOutline(centre, { u: radius, v: radius }) } : null;
}

/**
 * A document after an edit with every inscribed circle where its face is now. One that was itself changed so that it
 * touches its face's sides no longer is let go, as are those whose host is gone; where only the face is gone the circle
 * waits as it is. O(nodes) where something is inscribed or not.
 */
export function followFaces(before: CheminDocument, after: CheminDocument): CheminDocument {
  if (before.nodes === after.nodes) return after;
  const follow = (nodes: readonly DocumentNode[]): readonly DocumentNode[] => {
    let next: DocumentNode[] | null = null;
    nodes.forEach((node, i) => {
      const now = node.kind === 'shape' && node.inscribed ? followed(node, before, after) : node.kind === 'group' ? inGroup(node) : node;
      if (now !== node) (next ??= [...nodes])[i] = now;
    });
    return next ?? nodes;
  };
  const inGroup = (group: Extract<DocumentNode, { kind: 'group' }>): DocumentNode => {
    const children = follow(group.children);
    return children === group.children ? group : { ...group, children };
  };
  const nodes = follow(after.nodes);
  return nodes === after.nodes ? after : { ...after, nodes };
}

function followed(node: ShapeNode, before: CheminDocument, after: CheminDocument): ShapeNode {
  const { inscribed, ...free } = node;
  const host = findShape(after, inscribed!.node);
  if (!host || host.id === node.id) return free;
  const old = findShape(before, host.id);
  if (old === host && findShape(before, node.id) === node) return node;
  const circle = inscribedIn(host, inscribed!.face);
  if (!circle) return node;
  if (samePlane(circle.plane, node.plane) && sameCircle(circle.outline, node.outline)) return node;
  if (old === host || old === null) return free;
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
