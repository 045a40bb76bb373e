import { flatPoints, worldPoints, type Body, type Surface } from '../geometry/body';
import { scaleWorld, type WorldPoint } from '../math/points';
import { convexHull, holdsCorners, signedArea } from '../math/polygon';
import { clipNear } from '../projection/near';
import { facing } from '../projection/projection';
import type { Path } from '../shape/path';
import { drawBody, DrawnSurface, type View } from '../visibility/drawn-body';
import type { LitBody, Shade } from './shade';

/** Cells within which something lies in the plane of a surface, and throws nothing on it. */
const FLUSH = 1e-6;

/** What throws shadows, as the light sees all of it: rings on its sheet that all wind one way, and how far they reach along the view's directions. */
interface Caster {
  readonly body: Body;
  readonly rings: readonly (readonly number[])[];
  readonly ranges: readonly number[];
  /** The one ring is convex, and all of it. */
  readonly isHull: boolean;
  /** What of it is turned to the light, as convex pieces of the world: for where it lies before a plane in part only. */
  pieces: readonly (readonly number[])[] | null;
}

/** Casters by their smallest x, with their ranges in one row. */
interface Casters {
  readonly sorted: readonly Caster[];
  readonly ranges: Float64Array;
  /** How far the widest reaches along x. */
  readonly widest: number;
}

/**
 * The shadows on flat surfaces as they are shown for a frame while the light turns or a lamp is moved: what lies before
 * the plane of a surface, seen from the light, is laid together as it is, to be filled by windings and clipped to the
 * surface. Nothing is compared or combined, so it costs little more than looking at what throws them; the exact ones
 * follow when the hand rests. Round surfaces show none until then, nor do the smallest where there are very many.
 */
export class RoughShades {
  private readonly casters: Casters;

  /** @param bodies what throws shadows on the surfaces that are put in */
  constructor(
    private readonly view: View,
    bodies: readonly LitBody[],
  ) {
    this.casters = castersIn(view, bodies);
  }

  /** About how large a flat surface is to the light; 0 for what is not flat or turned away. */
  areaOf(surface: Surface): number {
    if (surface.form.kind !== 'flat' || !turnedNormal(this.view, surface)) return 0;
    const outer = projected(this.view, surface.loops[0]!);
    return outer ? Math.abs(signedArea(outer)) : 0;
  }

  /** The shadow on a surface; null where there is none, and on what is not flat. @param own the body that it is of */
  on(surface: Surface, own: Body): Shade | null {
    if (surface.form.kind !== 'flat') return null;
    const normal = turnedNormal(this.view, surface);
    const path = normal && shadowOn(this.view, surface, normal, own, this.casters);
    return path && { turned: new DrawnSurface(this.view, surface, [], normal), path, parts: [], rough: true };
  }
}

/** The unit normal of a flat surface to the side that the light falls on; null where it runs along it or comes from behind. */
function turnedNormal({ sight: { projection } }: View, { form, loops, bothSides }: Surface): WorldPoint | null {
  const [loop] = loops;
  if (form.kind !== 'flat' || !loop || loop.length < 9) return null;
  const { normal } = form.frame;
  const turned = facing(projection, normal, { a: loop[0]!, b: loop[1]!, h: loop[2]! });
  if (turned > FLUSH) return normal;
  return bothSides && turned < -FLUSH ? scaleWorld(normal, -1) : null;
}

function castersIn(view: View, bodies: readonly LitBody[]): Casters {
  const sorted = bodies.flatMap((lit) => (lit.casts ? (casterOf(view, lit) ?? []) : [])).sort((p, q) => p.ranges[0]! - q.ranges[0]!);
  const stride = view.directions.length;
  const ranges = new Float64Array(sorted.length * stride);
  sorted.forEach((caster, i) => ranges.set(caster.ranges, i * stride));
  return { sorted, ranges, widest: sorted.reduce((most, { ranges: own }) => Math.max(most, own[1]! - own[0]!), 0) };
}

function casterOf(view: View, { body, half }: LitBody): Caster | null {
  const lines = body.wires.length > 0 ? drawBody(view, body, half).surfaces.filter(({ wire }) => wire) : [];
  const ribbons = lines.flatMap(({ facets }) => facets.map(({ polygon }) => polygon));
  const hull = body.convex && body.surfaces.length > 1 ? projected(view, body.points) : null;
  const pieces = hull ? null : piecesOf(view, body);
  const rings = [...(hull ? [convexHull(hull)] : ringsOf(view, pieces!)), ...ribbons];
  return rings.length === 0 ? null : { body, rings, ranges: rangesOf(rings, view.directions), isHull: hull !== null && ribbons.length === 0, pieces };
}

/** The facets of a body that are turned to the light, anticlockwise seen from there. */
function piecesOf({ sight: { projection } }: View, { surfaces }: Body): readonly (readonly number[])[] {
  return surfaces.flatMap(({ facets, bothSides }) =>
    facets.flatMap(({ corners, normal }) => {
      const turned = facing(projection, normal, { a: corners[0]!, b: corners[1]!, h: corners[2]! });
      if (turned > 0) return [corners];
      return bothSides && turned < 0 ? [flatPoints([...worldPoints(corners)].reverse())] : [];
    }),
  );
}

const ringsOf = (view: View, pieces: readonly (readonly number[])[]): readonly (readonly number[])[] =>
  pieces.map((piece) => projected(view, piece)).filter((ring) => ring !== null);

/** Places `[a0, b0, h0, ...]` of the world on the light's sheet, in the opposite order; null where less than a corner lies before it. */
function projected({ sight: { projection } }: View, points: readonly number[]): number[] | null {
  const kept = projection.near === 0 ? points : flatPoints(clipNear(projection, worldPoints(points)));
  const n = kept.length / 3;
  if (n < 3) return null;
  const { matrix: m } = projection;
  const out = new Array<number>(2 * n);
  for (let i = 0; i < n; i++) {
    const at = 3 * (n - 1 - i);
    const [a, b, h] = [kept[at]!, kept[at + 1]!, kept[at + 2]!];
    const w = m[8] * a + m[9] * b + m[10] * h + m[11];
    out[2 * i] = (m[0] * a + m[1] * b + m[2] * h + m[3]) / w;
    out[2 * i + 1] = (m[4] * a + m[5] * b + m[6] * h + m[7]) / w;
  }
  return out;
}

function rangesOf(rings: readonly (readonly number[])[], directions: readonly number[]): number[] {
  const out = new Array<number>(directions.length);
  for (let d = 0; d < directions.length; d += 2) {
    const [dx, dy] = [directions[d]!, directions[d + 1]!];
    let [min, max] = [Infinity, -Infinity];
    for (const ring of rings) {
      for (let i = 0; i < ring.length; i += 2) {
        const value = ring[i]! * dx + ring[i + 1]! * dy;
        if (value < min) min = value;
        if (value > max) max = value;
      }
    }
    out[d] = min;
    out[d + 1] = max;
  }
  return out;
}

/** What is thrown on a surface by what lies before its plane, whole where all of it does; null for nothing. */
function shadowOn(view: View, { loops }: Surface, normal: WorldPoint, own: Body, { sorted, ranges, widest }: Casters): Path | null {
  const loop = loops[0]!;
  const outer = projected(view, loop);
  if (!outer) return null;
  const under = rangesOf([outer], view.directions);
  const stride = under.length;
  const level = normal.a * loop[0]! + normal.b * loop[1]! + normal.h * loop[2]! + FLUSH;
  const rings: (readonly number[])[] = [];
  const first = firstFrom(ranges, stride, under[0]! - widest);
  for (let i = first, at = first * stride; i < sorted.length && ranges[at]! < under[1]!; i++, at += stride) {
    let d = 0;
    while (d < stride && ranges[at + d]! < under[d + 1]! && ranges[at + d + 1]! > under[d]!) d += 2;
    const caster = sorted[i]!;
    if (d < stride || (caster.body === own && own.convex)) continue;
    const { min, max } = caster.body.bounds;
    const high = normal.a * (normal.a > 0 ? max.a : min.a) + normal.b * (normal.b > 0 ? max.b : min.b) + normal.h * (normal.h > 0 ? max.h : min.h);
    if (high <= level) continue;
    const low = normal.a * (normal.a > 0 ? min.a : max.a) + normal.b * (normal.b > 0 ? min.b : max.b) + normal.h * (normal.h > 0 ? min.h : max.h);
    if (low < level - 2 * FLUSH) for (const ring of partBefore(view, caster, normal, level)) rings.push(ring);
    else if (caster.isHull && holdsCorners(caster.rings[0]!, outer)) return pathOf(caster.rings);
    else for (const ring of caster.rings) rings.push(ring);
  }
  return rings.length === 0 ? null : pathOf(rings);
}

/** The first of the casters that begins at a value of x or after it. */
function firstFrom(ranges: Float64Array, stride: number, x: number): number {
  let [low, high] = [0, ranges.length / stride];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ranges[middle * stride]! < x) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What of a caster lies before a plane (Sutherland & Hodgman 1974). */
function partBefore(view: View, caster: Caster, normal: WorldPoint, level: number): readonly (readonly number[])[] {
  caster.pieces ??= piecesOf(view, caster.body);
  const kept: (readonly number[])[] = [];
  for (const piece of caster.pieces) {
    const before: number[] = [];
    const n = piece.length;
    const over = (i: number): number => normal.a * piece[i]! + normal.b * piece[i + 1]! + normal.h * piece[i + 2]! - level;
    let d = over(n - 3);
    for (let i = 0, k = n - 3; i < n; k = i, i += 3) {
      const e = over(i);
      if (d >= 0 !== e >= 0) {
        const t = d / (d - e);
        for (let axis = 0; axis < 3; axis++) before.push(piece[k + axis]! + t * (piece[i + axis]! - piece[k + axis]!));
      }
      if (e >= 0) before.push(piece[i]!, piece[i + 1]!, piece[i + 2]!);
      d = e;
    }
    if (before.length > 6) kept.push(before);
  }
  return ringsOf(view, kept);
}

function pathOf(rings: readonly (readonly number[])[]): Path {
  let verbs = '';
  const coords: number[] = [];
  for (const ring of rings) {
    verbs += `M${'L'.repeat(ring.length / 2 - 1)}Z`;
    for (const value of ring) coords.push(value);
  }
  return { verbs, coords };
}
