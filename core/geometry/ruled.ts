import { keptBy } from '../math/keep';
import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { worldFromPlane, type PlaneFrame } from '../projection/planes';
import { pointAt, type Segment } from '../shape/segments';
import { tangentAt } from '../shape/split';
import { SAME_PLACE } from '../math/tolerances';

/**
 * A surface of straight generators between two rims, each the directrix in a frame of its own: a cylinder's rims are
 * the same curve moved, a cone's the same curve drawn towards its apex (a single point where the cone ends there). The
 * parameter `s` runs along the directrix, its whole part telling the segment; `k` runs along the generator, 0 at the
 * first rim and 1 at the second.
 */
export interface Ruled {
  readonly kind: 'cylinder' | 'cone';
  readonly directrix: readonly Segment[];
  /** The directrix ends where it starts, smoothly. */
  readonly closed: boolean;
  /** Where the two rims lie, in cells of the world; normals are not used. */
  readonly rims: readonly [PlaneFrame, PlaneFrame];
  /** 1 where the outside lies to the side of tangent x generator. */
  readonly sense: 1 | -1;
}

/** Whether a surface is a cylinder or a cone. */
export const isRuled = (form: { readonly kind: string }): form is Ruled => form.kind === 'cylinder' || form.kind === 'cone';

/** A place along a directrix as its segment and the parameter in it. */
function placeAlong(directrix: readonly Segment[], s: number): readonly [Segment, number] {
  const i = Math.max(0, Math.min(directrix.length - 1, Math.floor(s)));
  return [directrix[i]!, s - i];
}

/** A point of the surface in cells of the world. */
export function ruledPoint({ directrix, rims }: Ruled, s: number, k: number): WorldPoint {
  const p = pointAt(...placeAlong(directrix, s));
  const from = worldFromPlane(rims[0], p);
  return k === 0 ? from : addWorld(scaleWorld(from, 1 - k), scaleWorld(worldFromPlane(rims[1], p), k));
}

/** How fast the first rim's point moves with the parameter, in cells. */
export function ruledTangent({ directrix, rims }: Ruled, s: number): WorldPoint {
  const t: PlanePoint = tangentAt(...placeAlong(directrix, s));
  return addWorld(scaleWorld(rims[0].u, t.u), scaleWorld(rims[0].v, t.v));
}

/** The outward normal along a generator, of any length: the same all along it. */
export function ruledNormal(ruled: Ruled, s: number): WorldPoint {
  const generator = subtractWorld(ruledPoint(ruled, s, 1), ruledPoint(ruled, s, 0));
  return scaleWorld(crossWorld(ruledTangent(ruled, s), generator), ruled.sense);
}

/** The outward unit normal along a generator; null where the surface has none, such as at a cusp. */
export function ruledUnitNormal(ruled: Ruled, s: number): WorldPoint | null {
  return unitWorld(ruledNormal(ruled, s));
}

/** Nodes and weights of Gauss and Legendre's rule of five places on -1 to 1 (Abramowitz & Stegun, 25.4.30). */
const GAUSS = [
  [0, 0.568888888888889],
  [-0.538469310105683, 0.478628670499366],
  [0.538469310105683, 0.478628670499366],
  [-0.906179845938664, 0.236926885056189],
  [0.906179845938664, 0.236926885056189],
] as const;

/** Stretches into which a segment is cut for measuring it: the rule is then good to 1e-9 of a quarter ellipse of 1 : 4. */
const STRETCHES = 16;

/** What unrolling needs of a surface: the way across its generators, summed up from `s = 0`. */
interface Unrolled {
  /** Value at each of `STRETCHES` places of every segment, the start included. */
  readonly sums: Float64Array;
  readonly rate: (s: number) => number;
}

/** The apex of a cone. */
export function apexOf({ rims: [p, q], directrix }: Ruled): WorldPoint {
  // Where the generator through any point with a direction meets that of another: by the ratio of the rims' sizes.
  const ratio = lengthWorld(q.u) / lengthWorld(p.u);
  const at = directrix[0]!.from;
  const [from, to] = [worldFromPlane(p, at), worldFromPlane(q, at)];
  return addWorld(from, scaleWorld(subtractWorld(to, from), 1 / (1 - ratio)));
}

/** Sums up the way across the generators: a length on cylinders, an angle at the apex on cones. */
const unrolling = keptBy((ruled: Ruled): Unrolled => {
  const apex = ruled.kind === 'cone' ? apexOf(ruled) : null;
  const rate = (s: number): number => {
    const p = ruledPoint(ruled, s, 0);
    const along = unitWorld(apex ? subtractWorld(apex, p) : subtractWorld(ruledPoint(ruled, s, 1), p));
    const speed = ruledTangent(ruled, s);
    if (!along) return 0;
    const across = lengthWorld(crossWorld(speed, along));
    return apex ? across / lengthWorld(subtractWorld(apex, p)) : across;
  };
  const n = ruled.directrix.length * STRETCHES;
  const sums = new Float64Array(n + 1);
  for (let i = 0; i < n; i++) sums[i + 1] = sums[i]! + integral(rate, i / STRETCHES, (i + 1) / STRETCHES);
  return { sums, rate };
});

function integral(rate: (s: number) => number, from: number, to: number): number {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  return half * GAUSS.reduce((sum, [node, weight]) => sum + weight * rate(middle + half * node), 0);
}

function sumAt({ sums, rate }: Unrolled, s: number): number {
  const i = Math.max(0, Math.min(sums.length - 2, Math.floor(s * STRETCHES)));
  return sums[i]! + integral(rate, i / STRETCHES, s);
}

/**
 * The surface's own coordinates of a place, in cells, such that lengths are kept. On a cylinder u is the arc across the
 * generators and v runs along them; on a cone the unrolled sector lies about the apex at the origin, the generator
 * `s = 0` along u.
 */
export function ruledCoordinates(ruled: Ruled, s: number, k: number): PlanePoint {
  const across = sumAt(unrolling(ruled), s);
  const place = ruledPoint(ruled, s, k);
  if (ruled.kind === 'cone') {
    const far = lengthWorld(subtractWorld(place, apexOf(ruled)));
    return { u: far * Math.cos(across), v: far * Math.sin(across) };
  }
  const origin = ruledPoint(ruled, 0, 0);
  const along = unitWorld(subtractWorld(ruledPoint(ruled, 0, 1), origin));
  return { u: across, v: along ? dotWorld(subtractWorld(place, origin), along) : 0 };
}

/** The parameter at which the way across the generators comes to a value: by Newton's method, kept between bounds. */
function parameterAt(made: Unrolled, wanted: number): number {
  const { sums, rate } = made;
  let [low, high] = [0, sums.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (sums[middle]! <= wanted) low = middle;
    else high = middle;
  }
  let [from, to] = [low / STRETCHES, high / STRETCHES];
  const whole = sums[high]! - sums[low]!;
  let s = whole > 0 ? from + ((to - from) * (wanted - sums[low]!)) / whole : from;
  for (let i = 0; i < 60; i++) {
    const miss = sumAt(made, s) - wanted;
    if (miss > 0) to = s;
    else from = s;
    const speed = rate(s);
    const next = speed > 0 ? s - miss / speed : (from + to) / 2;
    const inside = next > from && next < to ? next : (from + to) / 2;
    if (Math.abs(inside - s) < 1e-15 * (1 + Math.abs(s)) || miss === 0) return s;
    s = inside;
  }
  return s;
}

/** The way across the generators up to a parameter, which may lie beyond the end of a closed directrix: a length on cylinders, an angle in radians on cones. */
export function acrossTo(ruled: Ruled, s: number): number {
  const made = unrolling(ruled);
  const n = ruled.directrix.length;
  const turns = ruled.closed ? Math.floor(s / n) : 0;
  return turns * made.sums.at(-1)! + sumAt(made, s - turns * n);
}

/** The way across all of a surface's generators. */
export const acrossAll = (ruled: Ruled): number => unrolling(ruled).sums.at(-1)!;

/** The parameter up to which the way across the generators has a value; beyond the ends of a closed directrix it goes on. Inverse of `acrossTo`. */
export function parameterAcross(ruled: Ruled, across: number): number {
  const made = unrolling(ruled);
  const whole = made.sums.at(-1)!;
  const turns = ruled.closed ? Math.floor(across / whole) : 0;
  return turns * ruled.directrix.length + parameterAt(made, across - turns * whole);
}

/**
 * The place of a surface's own coordinates: its parameters, `k` outside 0 to 1 beyond the rims. Null where they lie
 * beyond the directrix's ends. Inverse of `ruledCoordinates`.
 */
export function ruledPlace(ruled: Ruled, { u, v }: PlanePoint): { readonly s: number; readonly k: number } | null {
  const made = unrolling(ruled);
  const whole = made.sums.at(-1)!;
  const cone = ruled.kind === 'cone';
  let wanted = cone ? Math.atan2(v, u) : u;
  if (cone && wanted < 0) wanted += 2 * Math.PI;
  if (ruled.closed && !cone) wanted = ((wanted % whole) + whole) % whole;
  if (!(wanted >= -SAME_PLACE && wanted <= whole + SAME_PLACE)) return null;
  const s = parameterAt(made, wanted);
  const [from, to] = [ruledPoint(ruled, s, 0), ruledPoint(ruled, s, 1)];
  const length = lengthWorld(subtractWorld(to, from));
  if (cone) return { s, k: (lengthWorld(subtractWorld(from, apexOf(ruled))) - Math.hypot(u, v)) / length };
  const base = ruledCoordinates(ruled, s, 0);
  return { s, k: (v - base.v) / length };
}
