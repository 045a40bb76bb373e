import { keptBy } from '../math/keep';
import { exactCells } from '../math/exact';
import { cosDeg, sinDeg } from '../math/figures';
import { dotWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { readingDirections } from '../projection/planes';
import { carryDirection, carryPoint, type RigidMap } from './rigid';
import { exactAnchor, type ArtworkAnchor } from './anchor';
import { acrossAll, acrossTo, apexOf, parameterAcross, ruledCoordinates, ruledPoint, ruledTangent, ruledUnitNormal, type Ruled } from './ruled';

/** How artwork lies on a round side: `origin + right x + down y` in the side's own coordinates, unrolled, all in cells. */
export interface Wrapping {
  readonly origin: PlanePoint;
  readonly right: PlanePoint;
  readonly down: PlanePoint;
}

/** Which way text is read on a round side: its lines run along the tangent or along the generators, each either way. */
interface Reading {
  /** Reading to the right, in parts of the tangent and of the generator. */
  readonly right: readonly [number, number];
  readonly down: readonly [number, number];
}

/** Looks round a side for the place by which it is read. */
const LOOKS = 64;
/** A direction to where drawings are looked at from: from before, the left and above. */
const BEFORE: WorldPoint = { a: -1, b: -1, h: 0.4 };

/** How a round side is read: upright where its generators are steep, along them where they lie. The same all round. */
const readingOf = keptBy((ruled: Ruled): Reading => {
  let [best, at]: [number, number] = [-Infinity, 0];
  const n = ruled.directrix.length;
  for (let i = 0; i < LOOKS; i++) {
    const s = ((i + 0.5) * n) / LOOKS;
    const normal = ruledUnitNormal(ruled, s);
    const turned = normal ? dotWorld(normal, BEFORE) : -Infinity;
    if (turned > best) [best, at] = [turned, s];
  }
  const normal = ruledUnitNormal(ruled, at) ?? { a: 0, b: 0, h: 1 };
  const { right, down } = readingDirections(normal);
  const along = generatorAt(ruled, at);
  // Tangent, generator and normal make a right-handed frame where the outside lies to the side of their product.
  const upright = -dotWorld(along, down);
  return Math.abs(upright) >= Math.SQRT1_2
    ? upright > 0
      ? { right: [ruled.sense, 0], down: [0, -1] }
      : { right: [-ruled.sense, 0], down: [0, 1] }
    : dotWorld(right, along) > 0
      ? { right: [0, 1], down: [ruled.sense, 0] }
      : { right: [0, -1], down: [-ruled.sense, 0] };
});

/** The unit direction of a generator, from the first rim to the second. */
function generatorAt(ruled: Ruled, s: number): WorldPoint {
  return unitWorld(subtractWorld(ruledPoint(ruled, s, 1), ruledPoint(ruled, s, 0))) ?? { a: 0, b: 0, h: 1 };
}

/** The place of a round side nearest to a place of the world: its parameters, `k` outside of 0 to 1 beyond the rims. */
export function ruledNear(ruled: Ruled, at: WorldPoint): { readonly s: number; readonly k: number } {
  const n = ruled.directrix.length;
  const foot = (s: number): { readonly off: number; readonly k: number } => {
    const [p, q] = [ruledPoint(ruled, s, 0), ruledPoint(ruled, s, 1)];
    const [way, from] = [subtractWorld(q, p), subtractWorld(at, p)];
    const k = dotWorld(from, way) / (dotWorld(way, way) || 1);
    const off = subtractWorld(from, scaleWorld(way, k));
    return { off: dotWorld(off, off), k };
  };
  // Where the way to the place is square to the tangent, across the generator.
  const beside = (s: number): number => {
    const along = generatorAt(ruled, s);
    const tangent = ruledTangent(ruled, s);
    const across = subtractWorld(tangent, scaleWorld(along, dotWorld(tangent, along)));
    return dotWorld(subtractWorld(at, ruledPoint(ruled, s, 0)), across);
  };
  let [best, s]: [number, number] = [Infinity, 0];
  for (let i = 0; i < n * LOOKS; i++) {
    const { off } = foot(i / LOOKS);
    if (off < best) [best, s] = [off, i / LOOKS];
  }
  let [low, high] = [s - 1 / LOOKS, s + 1 / LOOKS];
  const inside = (p: number): number => (ruled.closed ? ((p % n) + n) % n : Math.max(0, Math.min(n - 1e-12, p)));
  if (beside(inside(low)) > 0 && beside(inside(high)) < 0)
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2;
      if (beside(inside(middle)) > 0) low = middle;
      else high = middle;
    }
  else [low, high] = [s, s];
  const found = inside((low + high) / 2);
  return { s: found, k: foot(found).k };
}

/** Directions of reading at a place of the side's own coordinates. */
function directionsAt(ruled: Ruled, { u, v }: PlanePoint): { readonly right: PlanePoint; readonly down: PlanePoint } {
  const { right, down } = readingOf(ruled);
  const [tangent, along]: readonly [PlanePoint, PlanePoint] = ruled.kind === 'cone' ? polarAt(ruled, Math.atan2(v, u)) : [{ u: 1, v: 0 }, { u: 0, v: 1 }]; // prettier-ignore
  const mix = ([t, g]: readonly [number, number]): PlanePoint => ({ u: t * tangent.u + g * along.u, v: t * tangent.v + g * along.v });
  return { right: mix(right), down: mix(down) };
}

/** On a cone's sector: the directions along the tangent and along the generator, from the first rim to the second. */
function polarAt(ruled: Ruled, angle: number): readonly [PlanePoint, PlanePoint] {
  const way = towardsApex(ruled) ? -1 : 1;
  return [{ u: -Math.sin(angle), v: Math.cos(angle) }, { u: way * Math.cos(angle), v: way * Math.sin(angle) }]; // prettier-ignore
}

/** Whether a cone's generators run towards its apex. */
function towardsApex(ruled: Ruled): boolean {
  const apex = apexOf(ruled);
  const far = (k: number): number => {
    const off = subtractWorld(ruledPoint(ruled, 0, k), apex);
    return dotWorld(off, off);
  };
  return far(1) < far(0);
}

/**
 * How an anchor lies on a round side. Its place is the upper left corner before any turn; it stands upright where its
 * middle is.
 */
export function artworkOnRuled({ at, width, height, turn = 0, mirrored, middle: told }: ArtworkAnchor, ruled: Ruled): Wrapping {
  const middle = told ?? middleUnder(ruled, at, width, height);
  const { right, down } = directionsAt(ruled, middle);
  const [cos, sin] = [cosDeg(turn), sinDeg(turn)];
  const mix = (p: PlanePoint, q: PlanePoint, x: number, y: number): PlanePoint => ({ u: p.u * x + q.u * y, v: p.v * x + q.v * y });
  const along = mix(right, down, cos, sin);
  const own = mirrored ? { u: -along.u, v: -along.v } : along;
  const aside = mix(right, down, -sin, cos);
  const origin = { u: middle.u - (own.u * width + aside.u * height) / 2, v: middle.v - (own.v * width + aside.v * height) / 2 };
  return { origin, right: own, down: aside };
}

function middleUnder(ruled: Ruled, at: WorldPoint, width: number, height: number): PlanePoint {
  const { s, k } = ruledNear(ruled, at);
  return middleFrom(ruled, ruledCoordinates(ruled, s, k), width, height);
}

/** The middle of artwork whose upper left corner is known: upright where it is itself. */
function middleFrom(ruled: Ruled, corner: PlanePoint, width: number, height: number): PlanePoint {
  if (ruled.kind === 'cylinder') {
    const { right, down } = directionsAt(ruled, corner);
    return { u: corner.u + (right.u * width + down.u * height) / 2, v: corner.v + (right.v * width + down.v * height) / 2 };
  }
  // The corner lies some way along the tangent and the generator of the middle: by Pythagoras, and by the angle between.
  const { right, down } = readingOf(ruled);
  const [x, y] = [(right[0] * width + down[0] * height) / 2, (right[1] * width + down[1] * height) / 2];
  const way = towardsApex(ruled) ? -1 : 1;
  const far = Math.hypot(corner.u, corner.v);
  const radius = Math.sqrt(Math.max(0, far * far - x * x)) + way * y;
  const angle = Math.atan2(corner.v, corner.u) + Math.atan2(x, Math.max(1e-9, radius - way * y));
  return { u: radius * Math.cos(angle), v: radius * Math.sin(angle) };
}

/** The anchor of artwork of a size whose middle lies at a place of a round side. @param from what else is kept of an anchor */
export function anchorOnRuled(
  ruled: Ruled,
  middle: { readonly s: number; readonly k: number },
  { width, height }: Pick<ArtworkAnchor, 'width' | 'height'>,
  from: Pick<ArtworkAnchor, 'turn' | 'mirrored'> = {},
): ArtworkAnchor {
  const there = ruledCoordinates(ruled, middle.s, middle.k);
  const { right, down } = directionsAt(ruled, there);
  const corner = { u: there.u - (right.u * width + down.u * height) / 2, v: there.v - (right.v * width + down.v * height) / 2 };
  return exactAnchor(worldOnRuled(ruled, corner), { width, height }, from);
}

/** The place of the world at own coordinates of a round side, gone on beyond its rims and, where it is closed, round it. */
export function worldOnRuled(ruled: Ruled, { u, v }: PlanePoint): WorldPoint {
  const n = ruled.directrix.length;
  const wrap = (s: number): number => (ruled.closed ? ((s % n) + n) % n : Math.max(0, Math.min(n - 1e-12, s)));
  if (ruled.kind === 'cylinder') {
    const s = wrap(parameterAcross(ruled, u));
    const base = ruledCoordinates(ruled, s, 0);
    return ruledPoint(ruled, s, (v - base.v) / (ruledCoordinates(ruled, s, 1).v - base.v));
  }
  const [angle, middle] = [Math.atan2(v, u), acrossAll(ruled) / 2];
  // The unrolled plane has one full turn about the apex: the one about the sector's middle.
  const s = wrap(parameterAcross(ruled, angle + 2 * Math.PI * Math.round((middle - angle) / (2 * Math.PI))));
  const [first, second] = [0, 1].map((k) => {
    const p = ruledCoordinates(ruled, s, k);
    return Math.hypot(p.u, p.v);
  });
  return ruledPoint(ruled, s, (Math.hypot(u, v) - first!) / (second! - first!));
}

/** The parameters of a place by its own coordinates. */
export function ruledOf(ruled: Ruled, own: PlanePoint): { readonly s: number; readonly k: number } {
  return ruledNear(ruled, worldOnRuled(ruled, own));
}

/** How long a radian about a cone's apex counts as it is read: at the middle of its generators. */
function meanRadius(ruled: Ruled): number {
  const [p, q] = [ruledCoordinates(ruled, 0, 0), ruledCoordinates(ruled, 0, 1)];
  return ruled.kind === 'cone' ? (Math.hypot(p.u, p.v) + Math.hypot(q.u, q.v)) / 2 : 1;
}

/** The length of a generator in cells. */
function generatorLength(ruled: Ruled, s: number): number {
  const way = subtractWorld(ruledPoint(ruled, s, 1), ruledPoint(ruled, s, 0));
  return Math.sqrt(dotWorld(way, way));
}

/** A place of a round side as it is read, in cells from where its directrix begins and from its upper rim: x to the right, y down. Inverse of `placeRead`. */
export function readPlace(ruled: Ruled, { s, k }: { readonly s: number; readonly k: number }): { readonly x: number; readonly y: number } {
  const { right, down } = readingOf(ruled);
  const across = acrossTo(ruled, s) * meanRadius(ruled);
  const length = generatorLength(ruled, s);
  // Along the generator from the rim that comes first as it is read.
  const along = (sign: number): number => (sign > 0 ? k : 1 - k) * length;
  return right[0] !== 0 ? { x: right[0] * across, y: along(down[1]) } : { x: along(right[1]), y: down[0] * across };
}

/** The place of a round side that is read at a place. */
export function placeRead(ruled: Ruled, { x, y }: { readonly x: number; readonly y: number }): { readonly s: number; readonly k: number } {
  const { right, down } = readingOf(ruled);
  const [across, along, sign] = right[0] !== 0 ? [right[0] * x, y, down[1]] : [down[0] * y, x, right[1]];
  const n = ruled.directrix.length;
  const turned = parameterAcross(ruled, across / meanRadius(ruled));
  const s = ruled.closed ? ((turned % n) + n) % n : Math.max(0, Math.min(n - 1e-12, turned));
  const part = along / generatorLength(ruled, s);
  return { s, k: sign > 0 ? part : 1 - part };
}

/** A way between places as they are read: of ways round a closed side the shortest. */
export function turnRead(ruled: Ruled, { x, y }: { readonly x: number; readonly y: number }): { readonly x: number; readonly y: number } {
  if (!ruled.closed) return { x, y };
  const whole = acrossAll(ruled) * meanRadius(ruled);
  const near = (way: number): number => way - whole * Math.round(way / whole);
  return readingOf(ruled).right[0] !== 0 ? { x: near(x), y } : { x, y: near(y) };
}

/** The size of a round side for artwork, in cells: how far it is round it in its middle, and along its generators. */
export function roomOnRuled(ruled: Ruled): { readonly width: number; readonly height: number } {
  const [p, q] = [ruledCoordinates(ruled, 0, 0), ruledCoordinates(ruled, 0, 1)];
  const along = Math.hypot(q.u - p.u, q.v - p.v);
  const round =
    ruled.kind === 'cylinder' ? acrossAll(ruled) : (acrossTo(ruled, ruled.directrix.length - 1e-12) * (Math.hypot(p.u, p.v) + Math.hypot(q.u, q.v))) / 2;
  const { right } = readingOf(ruled);
  return right[0] !== 0 ? { width: round, height: along } : { width: along, height: round };
}

/** Step in cells by which directions on a side are measured. */
const STEP = 1e-4;

/** A direction of the unrolled side in the world, at a place of it. */
function directionOn(ruled: Ruled, { u, v }: PlanePoint, way: PlanePoint): WorldPoint {
  const at = (k: number): WorldPoint => worldOnRuled(ruled, { u: u + way.u * k, v: v + way.v * k });
  return unitWorld(subtractWorld(at(STEP), at(-STEP))) ?? { a: 0, b: 0, h: 0 };
}

/** An anchor on a round side carried along with it. @param after the side in its new place */
export function carriedOnRuled(anchor: ArtworkAnchor, before: Ruled, after: Ruled, map: RigidMap): ArtworkAnchor {
  const { origin, right, down } = artworkOnRuled(anchor, before);
  const { width, height } = anchor;
  const middle = { u: origin.u + (right.u * width + down.u * height) / 2, v: origin.v + (right.v * width + down.v * height) / 2 };
  const [along, aside] = [right, down].map((way) => carryDirection(map, directionOn(before, middle, way))) as [WorldPoint, WorldPoint];
  const place = ruledNear(after, carryPoint(map, worldOnRuled(before, middle)));
  const there = ruledCoordinates(after, place.s, place.k);
  const read = directionsAt(after, there);
  const [x, y] = [read.right, read.down].map((way) => directionOn(after, there, way)) as [WorldPoint, WorldPoint];
  const mirrored = dotWorld(along, x) * dotWorld(aside, y) - dotWorld(along, y) * dotWorld(aside, x) < 0;
  const sign = mirrored ? -1 : 1;
  const turn = (Math.atan2(sign * dotWorld(along, y), sign * dotWorld(along, x)) * 180) / Math.PI;
  const whole = Math.abs(turn - Math.round(turn)) < 1e-4 ? Math.round(turn) + 0 : turn;
  const carried = anchorOnRuled(after, place, anchor, { ...(whole !== 0 && { turn: whole }), ...(mirrored && { mirrored: true as const }) });
  return anchor.middle ? { ...carried, middle: { u: exactCells(there.u), v: exactCells(there.v) } } : carried;
}
