import { CoreError } from '../math/errors';
import { TICKS_PER_CELL } from '../math/tolerances';
import { crossWorld, dotWorld, type WorldPoint } from '../math/points';
import { worldPoints, type Body, type Facet } from '../geometry/body';

/** A closed mesh of one part for the kernel: places in ticks from the common middle, corners of triangles, and the face of each. */
export interface PartMesh {
  readonly places: Float32Array;
  readonly corners: Uint32Array;
  /** By triangle: the number of its face among those of all parts. */
  readonly faces: Uint32Array;
}

/** Which surface of which part a face of a mesh belongs to: all of a flat one, or one facet of a round one. */
export interface FaceOwner {
  readonly part: number;
  readonly surface: number;
  readonly facet: Facet;
}

/** Triangles of flat rings by the places of their corners, the rings one after the other: every corner is one of a triangle's. */
export type Triangulate = (rings: readonly (readonly (readonly [number, number])[])[]) => readonly (readonly [number, number, number])[];

/** What some bodies give the kernel. */
export interface Meshes {
  readonly parts: readonly PartMesh[];
  readonly owners: readonly FaceOwner[];
  /** What places are told from, in cells. */
  readonly middle: WorldPoint;
  /** Units to a cell. */
  readonly scale: number;
}

/** Largest whole number that a float of 32 bits holds exactly together with all below it. */
const EXACT = 2 ** 24;
/** Parts of a unit within which corners of neighbouring facets are one: what rounding leaves between them. */
const SAME = 1e-3;

/**
 * Bodies as meshes: places on ticks stay exact as long as all lies within 665 cells of the middle; larger ones are told
 * in coarser units. Corners that neighbouring surfaces share are one.
 * @throws CoreError `refused` where an outline crosses itself, with its part
 */
export function meshesOf(bodies: readonly Body[], triangulate: Triangulate): Meshes {
  const owners: FaceOwner[] = [];
  const { middle, reach } = extentOf(bodies);
  const scale = Math.min(TICKS_PER_CELL, TICKS_PER_CELL * 2 ** Math.floor(Math.log2(EXACT / Math.max(1, reach * TICKS_PER_CELL))));
  const parts = bodies.map((body, part) => meshOf(body, part, { middle, scale, triangulate }, owners));
  return { parts, owners, middle, scale };
}

function extentOf(bodies: readonly Body[]): { readonly middle: WorldPoint; readonly reach: number } {
  const along = (axis: 'a' | 'b' | 'h'): readonly [number, number] => {
    const [min, max] = [Math.min(...bodies.map(({ bounds }) => bounds.min[axis])), Math.max(...bodies.map(({ bounds }) => bounds.max[axis]))];
    return [Math.round((min + max) / 2), (max - min) / 2 + 1];
  };
  const [a, b, h] = [along('a'), along('b'), along('h')];
  return { middle: { a: a[0], b: b[0], h: h[0] }, reach: Math.max(a[1], b[1], h[1]) };
}

type Flat = readonly (readonly (readonly [number, number])[])[];

/** Parts of an area by which its triangles may miss it: more than rounding leaves. */
const MISS = 1e-6;

/** Whether rings cross each other or themselves: the triangles between their corners then have another area. */
function crossesItself(rings: Flat, triangles: ReturnType<Triangulate>): boolean {
  const doubled = (p: readonly [number, number], q: readonly [number, number]): number => p[0] * q[1] - q[0] * p[1];
  const whole = rings.reduce((sum, ring) => ring.reduce((own, p, i) => own + doubled(p, ring[(i + 1) % ring.length]!), sum), 0);
  const corners = rings.flat();
  const covered = triangles.reduce((sum, [p, q, r]) => {
    const [a, b, c] = [corners[p]!, corners[q]!, corners[r]!];
    return sum + Math.abs(doubled(a, b) + doubled(b, c) + doubled(c, a));
  }, 0);
  return Math.abs(covered - whole) > MISS * covered;
}

interface How {
  readonly middle: WorldPoint;
  readonly scale: number;
  readonly triangulate: Triangulate;
}

function meshOf({ surfaces }: Body, part: number, { middle, scale, triangulate }: How, owners: FaceOwner[]): PartMesh {
  const places: number[] = [];
  const corners: number[] = [];
  const faces: number[] = [];
  const known = new Map<string, number>();
  const corner = (flat: readonly number[], i: number): number => {
    const at = [(flat[i]! - middle.a) * scale, (flat[i + 1]! - middle.b) * scale, (flat[i + 2]! - middle.h) * scale];
    const key = at.map((n) => Math.round(n / SAME)).join(' ');
    let index = known.get(key);
    if (index === undefined) {
      index = places.length / 3;
      known.set(key, index);
      places.push(...at);
    }
    return index;
  };
  const add = (p: number, q: number, r: number): void => {
    if (p === q || q === r || r === p) return;
    corners.push(p, q, r);
    faces.push(owners.length);
  };
  surfaces.forEach(({ form, facets, loops }, surface) => {
    if (form.kind === 'flat' && facets[0]) {
      const rings = loops.map((loop) => Array.from({ length: loop.length / 3 }, (_, i) => corner(loop, 3 * i)));
      const all = rings.flat();
      const { frame } = form;
      // Seen from outside, so that outer rings run anticlockwise.
      const sense = dotWorld(crossWorld(frame.u, frame.v), frame.normal) < 0 ? -1 : 1;
      const flat = loops.map((loop) =>
        worldPoints(loop).map((p): readonly [number, number] => [dotWorld(p, frame.u) * sense * scale, dotWorld(p, frame.v) * scale]),
      );
      const triangles = triangulate(flat);
      if (crossesItself(flat, triangles)) {
        throw new CoreError('refused', `Part ${part + 1} cannot be joined: an outline of it crosses itself.`, { part });
      }
      for (const [p, q, r] of triangles) add(all[p]!, all[q]!, all[r]!);
      owners.push({ part, surface, facet: facets[0] });
      return;
    }
    for (const facet of facets) {
      const ring = Array.from({ length: facet.corners.length / 3 }, (_, i) => corner(facet.corners, 3 * i));
      for (let i = 1; i + 1 < ring.length; i++) add(ring[0]!, ring[i]!, ring[i + 1]!);
      owners.push({ part, surface, facet });
    }
  });
  return { places: Float32Array.from(places), corners: Uint32Array.from(corners), faces: Uint32Array.from(faces) };
}
