import { CoreError } from '../math/errors';
import { TICKS_PER_CELL } from '../math/tolerances';
import { crossWorld, dotWorld, lengthWorld, subtractWorld, type WorldPoint } from '../math/points';
import type { PlaneFrame } from '../projection/planes';
import { worldPoints, type Body, type Facet } from '../geometry/body';
import { withoutPinches } from './mesh-loops';

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
/** Parts of a unit within which corners of neighbouring faces are one: what rounding leaves between them, floats of 32 bits included. */
const SAME = 0.25;

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

/** A face of a part before it is cut into triangles: rings of corners, of which all but the first are holes of a flat one. */
interface RawFace {
  readonly surface: number;
  readonly facet: Facet;
  readonly rings: readonly (readonly number[])[];
  /** Of flat surfaces: how they lie; facets of round ones are convex. */
  readonly frame: PlaneFrame | null;
}

function meshOf({ surfaces }: Body, part: number, { middle, scale, triangulate }: How, owners: FaceOwner[]): PartMesh {
  const welded = new WeldedCorners();
  const ringOf = (flat: readonly number[]): readonly number[] =>
    Array.from({ length: flat.length / 3 }, (_, i) =>
      welded.of((flat[3 * i]! - middle.a) * scale, (flat[3 * i + 1]! - middle.b) * scale, (flat[3 * i + 2]! - middle.h) * scale),
    ).filter((corner, i, all) => corner !== all[(i + 1) % all.length]);
  const raw = surfaces.flatMap(({ form, facets, loops }, surface): readonly RawFace[] =>
    form.kind === 'flat' && facets[0]
      ? [{ surface, facet: facets[0], rings: loops.map(ringOf), frame: form.frame }]
      : facets.map((facet) => ({ surface, facet, rings: [ringOf(facet.corners)], frame: null })),
  );
  const corners: number[] = [];
  const faces: number[] = [];
  for (const { surface, facet, rings, frame } of withSharedCorners(raw, welded)) {
    const all = rings.flat();
    const triangles = frame ? flatTriangles(rings, frame, welded, triangulate, part) : fan(all.length);
    for (const [p, q, r] of triangles) {
      corners.push(all[p]!, all[q]!, all[r]!);
      faces.push(owners.length);
    }
    owners.push({ part, surface, facet });
  }
  const whole = withoutPinches(Uint32Array.from(corners), worldPoints(welded.places));
  const copied = whole.copies.flatMap((corner) => welded.places.slice(3 * corner, 3 * corner + 3));
  return { places: Float32Array.from([...welded.places, ...copied]), corners: whole.corners, faces: Uint32Array.from(faces) };
}

const fan = (corners: number): ReturnType<Triangulate> => Array.from({ length: Math.max(0, corners - 2) }, (_, i) => [0, i + 1, i + 2] as const);

function flatTriangles(
  rings: readonly (readonly number[])[],
  frame: PlaneFrame,
  { places }: WeldedCorners,
  triangulate: Triangulate,
  part: number,
): ReturnType<Triangulate> {
  // Seen from outside, so that outer rings run anticlockwise.
  const sense = dotWorld(crossWorld(frame.u, frame.v), frame.normal) < 0 ? -1 : 1;
  const place = (i: number): WorldPoint => ({ a: places[3 * i]!, b: places[3 * i + 1]!, h: places[3 * i + 2]! });
  const flat = rings.map((ring) =>
    ring.map((corner): readonly [number, number] => [dotWorld(place(corner), frame.u) * sense, dotWorld(place(corner), frame.v)]),
  );
  const triangles = triangulate(flat);
  if (crossesItself(flat, triangles)) throw new CoreError('refused', `Part ${part + 1} cannot be joined: an outline of it crosses itself.`, { part });
  return triangles;
}

/** Corners of a part, those that lie at one place being one. */
class WeldedCorners {
  readonly places: number[] = [];
  private readonly near = new Map<string, number[]>();

  of(x: number, y: number, z: number): number {
    const [i, j, k] = [Math.round(x / SAME), Math.round(y / SAME), Math.round(z / SAME)];
    // What rounding has put on two sides of a border is one all the same.
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++)
        for (let dk = -1; dk <= 1; dk++)
          for (const other of this.near.get(`${i + di} ${j + dj} ${k + dk}`) ?? [])
            if (Math.hypot(this.places[3 * other]! - x, this.places[3 * other + 1]! - y, this.places[3 * other + 2]! - z) <= SAME) return other;
    const own = this.places.length / 3;
    this.places.push(x, y, z);
    const key = `${i} ${j} ${k}`;
    const there = this.near.get(key);
    if (there) there.push(own);
    else this.near.set(key, [own]);
    return own;
  }

  /** How far along the way from one corner to another a third lies, from 0 to 1; null where it does not lie on it, or is one of them. */
  along(from: number, to: number, other: number): number | null {
    if (other === from || other === to) return null;
    const p = this.places;
    const at = (i: number): WorldPoint => ({ a: p[3 * i]!, b: p[3 * i + 1]!, h: p[3 * i + 2]! });
    const [d, e] = [subtractWorld(at(to), at(from)), subtractWorld(at(other), at(from))];
    const square = dotWorld(d, d);
    const t = dotWorld(d, e) / square;
    return t > 0 && t < 1 && lengthWorld(crossWorld(d, e)) <= SAME * Math.sqrt(square) ? t : null;
  }
}

/**
 * Faces of which each edge is the edge of one neighbour alone: where a neighbour has corners along an edge, as round sides
 * have that were cut before, the edge gets them too.
 */
function withSharedCorners(raw: readonly RawFace[], welded: WeldedCorners): readonly RawFace[] {
  const key = (p: number, q: number): string => `${p} ${q}`;
  const count = new Map<string, number>();
  const edges = raw.flatMap(({ rings }) => rings.flatMap((ring) => ring.map((from, i) => [from, ring[(i + 1) % ring.length]!] as const)));
  for (const [p, q] of edges) count.set(key(p, q), (count.get(key(p, q)) ?? 0) + 1);
  const lone = edges.filter(([p, q]) => count.get(key(p, q)) !== count.get(key(q, p)));
  if (lone.length === 0) return raw;
  const ends = [...new Set(lone.flat())];
  const between = new Map(
    lone.map(([p, q]) => {
      const on = ends.flatMap((corner) => {
        const t = welded.along(p, q, corner);
        return t === null ? [] : [{ corner, t }];
      });
      return [key(p, q), on.sort((one, other) => one.t - other.t).map(({ corner }) => corner)];
    }),
  );
  return raw.map((face) => ({
    ...face,
    rings: face.rings.map((ring) => ring.flatMap((from, i) => [from, ...(between.get(key(from, ring[(i + 1) % ring.length]!)) ?? [])])),
  }));
}
