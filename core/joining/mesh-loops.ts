/** A mesh by its corners: three for each triangle, anticlockwise seen from outside. */
export interface Mesh {
  readonly corners: Uint32Array;
  /** By triangle: the surface that it is a part of. */
  readonly surfaceOf: Uint32Array;
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
export function patchesOf({ corners, surfaceOf }: Mesh): readonly Patch[] {
  const triangles = surfaceOf.length;
  const beside = neighbours(corners);
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

/** By half edge: the one on the other side, which runs the other way. */
function neighbours(corners: Uint32Array): Int32Array {
  const beside = new Int32Array(corners.length).fill(-1);
  const waiting = new Map<number, number[]>();
  const span = corners.reduce((most, corner) => Math.max(most, corner), 0) + 1;
  for (let e = 0; e < corners.length; e++) {
    const [from, to] = [corners[e]!, corners[nextInTriangle(e)]!];
    const others = waiting.get(to * span + from);
    const other = others?.pop();
    if (other !== undefined) {
      beside[e] = other;
      beside[other] = e;
      continue;
    }
    const own = waiting.get(from * span + to);
    if (own) own.push(e);
    else waiting.set(from * span + to, [e]);
  }
  return beside;
}

const nextInTriangle = (e: number): number => (e % 3 === 2 ? e - 2 : e + 1);

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
