import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, unitWorld, type WorldPoint } from '../math/points';
import { SAME_FOUND } from '../math/tolerances';
import { anchorThrough, artworkCorners, artworkOnSurface, type ArtworkAnchor } from './anchor';
import type { Body, Surface } from './body';

/** A straight edge in which two flat surfaces meet: its ends in cells, with the first surface to its left, seen from outside. */
export interface Corner {
  readonly to: Surface;
  readonly from: WorldPoint;
  readonly until: WorldPoint;
}

/** The straight edges of a flat surface as its corners have them, each with the surface to its left. */
export function edgesOf(surface: Surface): readonly (readonly [WorldPoint, WorldPoint])[] {
  return surface.loops.flatMap((loop) => {
    const corners = Array.from({ length: loop.length / 3 }, (_, i): WorldPoint => ({ a: loop[3 * i]!, b: loop[3 * i + 1]!, h: loop[3 * i + 2]! }));
    return corners.map((corner, i) => [corner, corners[(i + 1) % corners.length]!] as const);
  });
}

const near = (p: WorldPoint, q: WorldPoint): boolean => Math.abs(p.a - q.a) + Math.abs(p.b - q.b) + Math.abs(p.h - q.h) < SAME_FOUND;

/** The flat surfaces that a flat one meets in a whole straight edge, each once for every such edge. */
export function cornersOf(body: Body, surface: Surface): readonly Corner[] {
  if (surface.form.kind !== 'flat') return [];
  const own = edgesOf(surface);
  return body.surfaces.flatMap((to): readonly Corner[] => {
    if (to === surface || to.form.kind !== 'flat') return [];
    const others = edgesOf(to);
    // Neighbours run along their common edge in opposite ways.
    return own.flatMap(([from, until]) => (others.some(([p, q]) => near(p, until) && near(q, from)) ? [{ to, from, until }] : []));
  });
}

/** How places of a surface's plane lie in that of its neighbour when both are folded flat about their common edge. */
export function foldedOver(surface: Surface, { to, from, until }: Corner): ((p: WorldPoint) => WorldPoint) | null {
  const along = unitWorld(subtractWorld(until, from));
  if (!along || surface.form.kind !== 'flat' || to.form.kind !== 'flat') return null;
  // Into the first surface, and into its neighbour, square to the edge.
  const inward = crossWorld(surface.form.frame.normal, along);
  const onward = crossWorld(along, to.form.frame.normal);
  return (p) => {
    const off = subtractWorld(p, from);
    return addWorld(from, addWorld(scaleWorld(along, dotWorld(off, along)), scaleWorld(onward, -dotWorld(off, inward))));
  };
}

/** The anchor by which artwork goes on round a corner, as if it were bent about the edge: its part beyond the edge lies on the neighbour. */
export function anchorRound(anchor: ArtworkAnchor, surface: Surface, corner: Corner): ArtworkAnchor | null {
  const over = foldedOver(surface, corner);
  const frame = artworkOnSurface(anchor, surface);
  if (!over || !frame || corner.to.form.kind !== 'flat') return null;
  return anchorThrough(artworkCorners(frame, anchor).map(over), corner.to.form.frame.normal);
}
