import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';

/** A mesh by its corners: three for each triangle, anticlockwise seen from outside. */
export interface Mesh {
  readonly places: readonly WorldPoint[];
  readonly corners: Uint32Array;
  /** By triangle: the surface that it is a part of. */
  readonly surfaceOf: Uint32Array;
}

/**
 * Corners of a closed mesh so that at each the triangles hang together: where solids only touch, in a corner or along an
 * edge, each has corners of its own. `copies` tells of which corner each one that is new is a copy.
 */
export function withoutPinches(corners: Uint32Array, places: readonly WorldPoint[]): { readonly corners: Uint32Array; readonly copies: readonly number[] } {
  const beside = neighbours(corners, places);
  const out = new Uint32Array(corners.length);
  const done = new Uint8Array(corners.length);
  const taken = new Set<number>();
  const copies: number[] = [];
  for (let start = 0; start < corners.length; start++) {
    if (done[start]) continue;
    const corner = corners[start]!;
    const own = taken.has(corner) ? places.length + copies.push(corner) - 1 : corner;
    taken.add(corner);
    // Round the corner from triangle to triangle; where the mesh is not closed, from its start once more the other way.
    for (let e = start; e >= 0 && !done[e]; e = beside[previousInTriangle(e)]!) [done[e], out[e]] = [1, own];
    for (let e = start; ;) {
      const before = beside[e]!;
      e = before < 0 ? -1 : nextInTriangle(before);
      if (e < 0 || done[e]) break;
      [done[e], out[e]] = [1, own];
    }
  }
  return { corners: out, copies };
}

/** A run of triangles of one surface that hang together, and the rings of corners around it, its own side to the left. */
export interface Patch {
  readonly surface: number;
  readonly triangles: readonly number[];
  readonly rings: readonly Ring[];
}

/** A ring of corners; `beyond[i]` is the surface on the other side of the edge from corner i to the next. */
export interface Ring {
  readonly corners: readonly number[];
  readonly beyond: readonly number[];
}

/** The patches of a closed mesh. Costs as many steps as it has triangles. */
export function patchesOf({ places, corners, surfaceOf }: Mesh): readonly Patch[] {
  const triangles = surfaceOf.length;
  const beside = neighbours(corners, places);
  const patchOf = new Int32Array(triangles).fill(-1);
  const patches: Patch[] = [];
  for (let start = 0; start < triangles; start++) {
    if (patchOf[start]! >= 0) continue;
    const surface = surfaceOf[start]!;
    const members = [start];
    patchOf[start] = patches.length;
    for (const t of members) {
      for (let side = 0; side < 3; side++) {
        const other = Math.floor(beside[3 * t + side]! / 3);
        if (surfaceOf[other] !== surface || patchOf[other]! >= 0) continue;
        patchOf[other] = patches.length;
        members.push(other);
      }
    }
    patches.push({ surface, triangles: members, rings: ringsAround(members, corners, surfaceOf, beside) });
  }
  return patches;
}

/** By half edge: the one on the other side, which runs the other way; where several do, the one with the solid between. */
function neighbours(corners: Uint32Array, places: readonly WorldPoint[]): Int32Array {
  const beside = new Int32Array(corners.length).fill(-1);
  const runs = new Map<number, number[]>();
  const span = corners.reduce((most, corner) => Math.max(most, corner), 0) + 1;
  for (let e = 0; e < corners.length; e++) {
    const key = corners[e]! * span + corners[nextInTriangle(e)]!;
    const own = runs.get(key);
    if (own) own.push(e);
    else runs.set(key, [e]);
  }
  for (const [key, ways] of runs) {
    const [from, to] = [Math.floor(key / span), key % span];
    const back = from < to ? runs.get(to * span + from) : undefined;
    if (!back) continue;
    const link = (e: number, other: number): void => {
      beside[e] = other;
      beside[other] = e;
    };
    if (ways.length === 1 && back.length === 1) link(ways[0]!, back[0]!);
    else pairAround(ways, back, corners, places, link);
  }
  return beside;
}

/**
 * Pairs the triangles round an edge along which solids only touch: each with the first that is met turning from it through
 * the inside, so that what only touches stays apart.
 */
function pairAround(
  ways: readonly number[],
  back: readonly number[],
  corners: Uint32Array,
  places: readonly WorldPoint[],
  link: (e: number, other: number) => void,
): void {
  const [from, to] = [places[corners[ways[0]!]!]!, places[corners[nextInTriangle(ways[0]!)]!]!];
  const along = subtractWorld(to, from);
  const square = dotWorld(along, along);
  /** The way from the edge into a triangle, square on the edge. */
  const into = (e: number): WorldPoint => {
    const tip = subtractWorld(places[corners[nextInTriangle(nextInTriangle(e))]!]!, from);
    return addWorld(tip, scaleWorld(along, square === 0 ? 0 : -dotWorld(tip, along) / square));
  };
  const waiting = new Set(back);
  for (const e of ways) {
    const own = into(e);
    const outwards = scaleWorld(crossWorld(along, own), 1 / Math.sqrt(square || 1));
    const turned = (other: number): number => {
      const way = into(other);
      const angle = -Math.atan2(dotWorld(way, outwards), dotWorld(way, own));
      return angle > ALONGSIDE ? angle : angle + 2 * Math.PI;
    };
    const partner = [...waiting].reduce<number | null>((best, other) => (best === null || turned(other) < turned(best) ? other : best), null);
    if (partner === null) continue;
    waiting.delete(partner);
    link(e, partner);
  }
}

/** Radians within which a triangle that lies on another is met only after a whole turn. */
const ALONGSIDE = 1e-9;

const nextInTriangle = (e: number): number => (e % 3 === 2 ? e - 2 : e + 1);
const previousInTriangle = (e: number): number => (e % 3 === 0 ? e + 2 : e - 1);

function ringsAround(members: readonly number[], corners: Uint32Array, surfaceOf: Uint32Array, beside: Int32Array): readonly Ring[] {
  const isRim = (e: number): boolean => surfaceOf[Math.floor(beside[e]! / 3)] !== surfaceOf[Math.floor(e / 3)];
  const seen = new Set<number>();
  const rings: Ring[] = [];
  for (const t of members) {
    for (let side = 0; side < 3; side++) {
      const start = 3 * t + side;
      if (seen.has(start) || !isRim(start)) continue;
      const [ring, beyond]: [number[], number[]] = [[], []];
      for (let e = start; !seen.has(e);) {
        seen.add(e);
        ring.push(corners[e]!);
        beyond.push(surfaceOf[Math.floor(beside[e]! / 3)]!);
        // Around the corner at its end, through the patch's own triangles, to the next rim.
        e = nextInTriangle(e);
        while (!isRim(e)) e = nextInTriangle(beside[e]!);
      }
      rings.push({ corners: ring, beyond });
    }
  }
  return rings;
}
