import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import { BASE, END, stepsOf, type SurfaceName } from '../geometry/names';
import { exactCells } from '../math/exact';
import { dotWorld, type PlanePoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { planeFrame } from '../projection/planes';
import { ellipseOf4, ellipseOutline } from '../shape/forms';
import { doubleAreaTicks, ringsOf, type Outline, type OutlinePoint } from '../shape/outline';
import { boundsArea, flattenOutline, isStraight } from '../shape/segments';
import { withMeasure, type SolidResult } from '../solids/solids';
import type { ShapeNode } from './types';

const refused = (reason: string): { readonly ok: false; readonly reason: string } => ({ ok: false, reason });

/** Chords in cells that tell which way an outline turns. */
const COARSE = 0.05;

/**
 * A solid with one of its surfaces moved along its normal, its neighbours following: an end changes the depth, the base
 * its plane, a side the outline, a round side its radius.
 * @param by cells out of the solid; negative into it
 */
export function withSurfaceMoved(shape: ShapeNode, name: SurfaceName, by: number): SolidResult<ShapeNode> {
  const surface = surfaceNamed(bodyOf(shape), name);
  if (!surface || shape.depth === 0) return refused('There is no such face.');
  const forward = Math.sign(shape.depth);
  if (shape.round) return shape.round === 'dome' && name === BASE ? refused('A dome rests on this face.') : withSphereGrown(shape, by);
  if (name === END || name === BASE) {
    const depth = exactCells(shape.depth + forward * by);
    if (depth === 0 || Math.sign(depth) !== forward) return refused('Nothing of the solid would be left.');
    if (name === END) return { ok: true, value: { ...shape, depth } };
    return { ok: true, value: { ...shape, depth, plane: { ...shape.plane, offset: exactCells(shape.plane.offset - forward * by * alongOffset(shape)) } } };
  }
  const [step] = stepsOf(name).slice(-1);
  const id = Number(step?.key);
  if (step?.word === 'round') return refused('A rounding follows the sides that it rounds.');
  if (shape.taper !== undefined) return refused('The sides of what tapers follow its base and its end.');
  return withSideMoved(shape, id, by);
}

/** 1 where the plane's offset grows along its normal, -1 where against it, as on the walls. */
function alongOffset({ plane }: ShapeNode): 1 | -1 {
  const here = planeFrame(plane, 1)!;
  const next = planeFrame({ ...plane, offset: plane.offset + 1 }, 1)!;
  const d = { a: next.origin.a - here.origin.a, b: next.origin.b - here.origin.b, h: next.origin.h - here.origin.h };
  return dotWorld(d, here.normal) < 0 ? -1 : 1;
}

function withSphereGrown(shape: ShapeNode, by: number): SolidResult<ShapeNode> {
  const round = ellipseOf4(shape.outline);
  if (!round || !shape.solid) return refused('It no longer has the form that it was drawn as.');
  const grown = withMeasure({ ...shape, solid: shape.solid }, 'width', exactCells(2 * (round.radii.u + by)));
  return grown.ok ? { ok: true, value: { ...shape, ...grown.value } } : grown;
}

function withSideMoved(shape: ShapeNode, id: number, by: number): SolidResult<ShapeNode> {
  const rings = ringsOf(shape.outline);
  const at = rings.findIndex(({ points }) => points.some((p) => p.id === id));
  const ring = rings[at];
  if (!ring) return refused('There is no such face.');
  const sense = doubleAreaTicks(flattenOutline(ring, COARSE)) > 0 === (at === 0) ? 1 : -1;
  const points = ellipseGrown(ring, sense * outwards(ring) * by) ?? edgeMoved(ring.points, id, by, sense);
  if (!points) return refused('Only straight sides between straight sides, and round ones all the way round, can be moved.');
  const [outer, ...holes] = rings.map((one, i) => (i === at ? points : one.points));
  const outline: Outline = { ...shape.outline, points: outer!, ...(holes.length > 0 && { holes }) };
  const turned = (o: Outline): number => Math.sign(doubleAreaTicks(flattenOutline(o, COARSE)));
  const same = ringsOf(outline).every((one, i) => boundsArea(one) && turned(one) === turned(rings[i]!));
  const [frameRing, ...inner] = ringsOf(outline).map((one) => flattenOutline(one, COARSE));
  const flat = frameRing!.flatMap(({ u, v }) => [u, v]);
  const within = inner.every((hole) => hole.every((p) => containsPoint(flat, p.u, p.v)));
  return same && within ? { ok: true, value: { ...shape, outline } } : refused('Nothing of the solid would be left there.');
}

/** 1 where a ring turns from u to v. */
const outwards = (ring: Outline): 1 | -1 => (doubleAreaTicks(flattenOutline(ring, COARSE)) > 0 ? 1 : -1);

/** An ellipse with its half axes longer by some cells; null for another outline. */
function ellipseGrown(ring: Outline, by: number): readonly OutlinePoint[] | null {
  const round = ellipseOf4({ points: ring.points, closed: true });
  if (!round) return null;
  const radii = { u: exactCells(round.radii.u + by), v: exactCells(round.radii.v + by) };
  if (radii.u <= 0 || radii.v <= 0) return null;
  // An ellipse that turns the other way, or starts elsewhere, keeps its own corners' ids and places.
  return ellipseOutline(round.centre, radii).points.map((p) => {
    const nearest = ring.points.reduce((best, q) => (Math.hypot(q.u - p.u, q.v - p.v) < Math.hypot(best.u - p.u, best.v - p.v) ? q : best));
    return { ...p, id: nearest.id };
  });
}

/** A ring with one straight edge moved to its outer side, its ends sliding along the neighbouring edges; null where those do not meet it. */
function edgeMoved(points: readonly OutlinePoint[], id: number, by: number, sense: 1 | -1): readonly OutlinePoint[] | null {
  const n = points.length;
  const i = points.findIndex((p) => p.id === id);
  const [before, from, to, after] = [points[(i + n - 1) % n]!, points[i]!, points[(i + 1) % n]!, points[(i + 2) % n]!];
  if (n < 3 || ![[before, from] as const, [from, to] as const, [to, after] as const].every(([p, q]) => isStraight(p, q))) return null;
  const length = Math.hypot(to.u - from.u, to.v - from.v);
  const out = { u: ((to.v - from.v) / length) * sense * by, v: (-(to.u - from.u) / length) * sense * by };
  const along = { u: to.u - from.u, v: to.v - from.v };
  const start = meeting(before, from, { u: from.u + out.u, v: from.v + out.v }, along);
  const end = meeting(after, to, { u: to.u + out.u, v: to.v + out.v }, along);
  if (!start || !end) return null;
  return points.map((p, k) => (k === i ? { ...p, ...start } : k === (i + 1) % n ? { ...p, ...end } : p));
}

/** Where the line through two points meets another through a point, on whole ticks; null where they are parallel. */
function meeting(p: PlanePoint, q: PlanePoint, at: PlanePoint, d: PlanePoint): PlanePoint | null {
  const [u, v] = [q.u - p.u, q.v - p.v];
  const cross = u * d.v - v * d.u;
  if (Math.abs(cross) < 1e-9 * Math.hypot(u, v) * Math.hypot(d.u, d.v)) return null;
  const t = ((at.u - p.u) * d.v - (at.v - p.v) * d.u) / cross;
  return { u: exactCells(p.u + u * t), v: exactCells(p.v + v * t) };
}
