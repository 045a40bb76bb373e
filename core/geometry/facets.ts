import earcut from 'earcut';
import { isConvex } from '../math/polygon';
import { crossWorld, dotWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { TICKS_PER_CELL } from '../math/tolerances';
import { worldFromPlane, type PlaneFrame } from '../projection/planes';
import { ringsCross } from '../shape/crossing';
import { ClipType, combineRings, FillRule } from '../shape/flat-areas';
import { nestRings } from '../shape/nest';
import { chordsOf, type Segment } from '../shape/segments';
import { flatPoints, type Facet, type Surface } from './body';
import type { Ruled } from './ruled';
import { sphereFacets } from './sphere';

/** Distance in cells between curved sides and their facets, and between curved boundaries and their corners. */
export const FACET = 0.004;

/** Parts of the radius within which the finest facets of spheres lie: some 10,000 of them. */
const FINEST_SPHERE = 2000;

/**
 * The facets of a surface closer to the true one than those that it comes with: for where two surfaces cut through each
 * other, which is seen along the cut. Straight ones come back as they are. Costs as many facets as the root of how much
 * closer.
 */
export function finerFacets({ form, rings, facets, straight }: Surface, within: number): readonly Facet[] {
  if (form.kind === 'sphere') return sphereFacets(form, Math.max(within, form.radius / FINEST_SPHERE));
  if (form.kind !== 'flat') return ruledFacets(form, within);
  if (straight || rings.length === 0) return facets;
  const { frame } = form;
  const flat = rings.map((ring, i) => {
    const points = ring.flatMap((segment: Segment) => chordsOf(segment, within));
    const turns = doubleArea(points) * dotWorld(crossWorld(frame.u, frame.v), frame.normal) > 0;
    return turns === (i === 0) ? points : [...points].reverse();
  });
  return flatFacets(
    flat,
    flat.map((points) => flatPoints(points.map((p) => worldFromPlane(frame, p)))),
    frame,
  );
}

/** Twice the signed area of a ring, in cells. */
function doubleArea(points: readonly PlanePoint[]): number {
  return points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + p.u * q.v - q.u * p.v;
  }, 0);
}

/**
 * A flat surface in convex pieces: itself, or its triangles by ear clipping; of rings that cross each other or themselves,
 * those of what they bound by the even-odd rule.
 */
export function flatFacets(rings: readonly (readonly PlanePoint[])[], loops: readonly (readonly number[])[], frame: PlaneFrame): readonly Facet[] {
  const { normal } = frame;
  const coords = rings.map((ring) => ring.flatMap(({ u, v }) => [u, v]));
  if (loops.length === 1 && (coords[0]!.length === 6 || isConvex(coords[0]!))) return [{ corners: loops[0]!, normal }];
  if (ringsCross(rings)) {
    return evenOddPieces(rings).flatMap((piece) =>
      triangles(
        piece,
        piece.map((ring) => flatPoints(ring.map((p) => worldFromPlane(frame, p)))),
        normal,
      ),
    );
  }
  return triangles(rings, loops, normal);
}

/** Rings by the even-odd rule as pieces that cross nothing, each with its holes; to a tick. */
function evenOddPieces(rings: readonly (readonly PlanePoint[])[]): readonly (readonly (readonly PlanePoint[])[])[] {
  const ticks = (x: number): number => Math.round(x * TICKS_PER_CELL);
  const whole = rings.map((ring) => ring.map(({ u, v }) => ({ x: ticks(u), y: ticks(v) })));
  const pieces = nestRings(combineRings(ClipType.Union, whole, [], FillRule.EvenOdd));
  return pieces.map((piece) => piece.map((ring) => ring.map(({ x, y }) => ({ u: x / TICKS_PER_CELL, v: y / TICKS_PER_CELL }))));
}

function triangles(rings: readonly (readonly PlanePoint[])[], loops: readonly (readonly number[])[], normal: WorldPoint): readonly Facet[] {
  const coords = rings.map((ring) => ring.flatMap(({ u, v }) => [u, v]));
  const corners = loops.flatMap((loop) => [...loop]);
  const starts = coords.slice(0, -1).reduce<number[]>((at, ring) => [...at, (at.at(-1) ?? 0) + ring.length / 2], []);
  const indices = earcut(coords.flat(), starts);
  const facets: Facet[] = [];
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const at = indices.slice(i, i + 3).map((k) => ({ a: corners[3 * k]!, b: corners[3 * k + 1]!, h: corners[3 * k + 2]! })) as [
      WorldPoint,
      WorldPoint,
      WorldPoint,
    ];
    const turn = dotWorld(crossWorld(subtractWorld(at[1], at[0]), subtractWorld(at[2], at[0])), normal);
    if (turn !== 0) facets.push({ corners: flatPoints(turn > 0 ? at : [at[0], at[2], at[1]]), normal });
  }
  return facets;
}

/** Flat pieces along the generators; those without area are left out. @param within distance in cells from the true surface */
export function ruledFacets({ directrix, rims: [near, far], sense }: Ruled, within = FACET): readonly Facet[] {
  const facets: Facet[] = [];
  directrix.forEach((segment, i) => {
    const chords = chordsOf(segment, within);
    let from = segment.from;
    chords.forEach((to, k) => {
      const [p, q] = sense > 0 ? [from, to] : [to, from];
      from = to;
      const corners = [worldFromPlane(near, p), worldFromPlane(near, q), worldFromPlane(far, q), worldFromPlane(far, p)];
      const normal = unitWorld(crossWorld(subtractWorld(corners[2]!, corners[0]!), subtractWorld(corners[3]!, corners[1]!)));
      // At an apex two corners are one.
      const distinct = corners.filter((corner, c) => c === 0 || !samePlace(corner, corners[c - 1]!));
      if (!normal || distinct.length < 3) return;
      facets.push({ corners: flatPoints(distinct), normal, from: i + k / chords.length, to: i + (k + 1) / chords.length });
    });
  });
  return facets;
}

const samePlace = (p: WorldPoint, q: WorldPoint): boolean => p.a === q.a && p.b === q.b && p.h === q.h;
