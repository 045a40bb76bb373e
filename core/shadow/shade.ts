import type { Body, Surface } from '../geometry/body';
import type { WorldPoint } from '../math/points';
import { keptBy, Rounds } from '../math/keep';
import { convexHull, signedArea } from '../math/polygon';
import { eyeAt } from '../projection/eye';
import type { EyeMatrix } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { joinPaths, polygonPath, reversePath, type Path } from '../shape/path';
import { coverInputs, coversOf, hides, type Cover } from '../visibility/covers';
import { commonPart, type CurvedArea } from '../visibility/cut';
import { drawBody, rangeDirections, type Area, type DrawnBody, type DrawnSurface, type View } from '../visibility/drawn-body';
import { PairKeeper } from '../visibility/pairs';
import { RoughShades } from './rough-shade';

/** A body as it takes part in the light. */
export interface LitBody {
  readonly body: Body;
  /** It throws shadows. */
  readonly casts: boolean;
  /** Shadows are seen on it. */
  readonly receives: boolean;
  /** Half the width in cells of its lines. */
  readonly half: number;
  /** How much of the light it keeps back, from 0 to 1; all without. */
  readonly strength?: number;
  /** The colour of what light it lets through, `#rrggbb`; white without. */
  readonly through?: string;
}

/** What of a surface that is turned to the light lies in shadow, as the light's eye sees it. */
export interface Shade {
  /** The part of the surface that is turned to the light, whole. */
  readonly turned: DrawnSurface;
  /** What of it lies in shadow, on the light's own sheet: with its curves, by the even-odd rule, and as corners. */
  readonly path: Path;
  readonly parts: readonly Area[];
  /** Of shadows that fade: what of it is thrown from within further and further away, the nearest first, all of it last. */
  readonly nearer?: readonly Shade[];
  /** It is only laid together from what throws it, for a frame: to be filled by windings, and clipped to the surface. */
  readonly rough?: true;
  /** Of the shadow of what lets light through: how much of it is kept back, and the colour of what passes, `#rrggbb`. */
  readonly strength?: number;
  readonly through?: string;
  /** Of what lies close round something that stands there: steps one over the other, the widest first. */
  readonly contact?: readonly { readonly path: Path; readonly strength: number }[];
}

/** The shadows on surfaces; those without any are not in it. A shade stays the same object as long as nothing changes it. */
export type Shades = ReadonlyMap<Surface, readonly Shade[]>;

/** Units of the light's sheet to a cell: what counts as a corner there is then less than a thousandth of a cell. */
export const SCALE = 10;

/** The eye of a sun far off in a direction. */
export function sunView(towards: WorldPoint): View {
  return viewOf(eyeAt([towards.a, towards.b, towards.h, 0], null, SCALE));
}

/** The eye of a light, ready for drawing what it sees. */
export function viewOf(eye: EyeMatrix): View {
  const sight = sightFrom(eye);
  return { sight, directions: rangeDirections(sight) };
}

/** Corners that are laid together for a frame at most. */
const MOST_ROUGH_CORNERS = 6000;

/** Shadows in the making, in pieces. */
export type Working = Generator<undefined, Map<Surface, readonly Shade[]>>;

/** Shadows made to the end at once. */
export function finished(working: Working): Map<Surface, readonly Shade[]> {
  for (;;) {
    const { done, value } = working.next();
    if (done) return value;
  }
}

/**
 * Keeps the shadows that bodies throw on each other in the light of a sun: what lies in front of a surface seen from the
 * sun. One sweep over the edges of a surface and of what covers it for each that is partly in shadow; where nothing new
 * lies in front of a surface its shadow stays as it is, so one body moved costs what it covers.
 */
export class SunShades {
  private readonly pairs = new PairKeeper();
  private readonly drawnOf = keptBy((body: Body, half: number): DrawnBody => drawBody(this.view, body, half * SCALE));
  private readonly kept = new Rounds<DrawnSurface, Shade | null>();
  private dark: ReadonlySet<DrawnBody> = new Set();
  private readonly view: View;
  private made = false;
  /** The last round came to its end: pairs that did not change since have their shades. */
  private ended = false;

  /**
   * @param towards direction to the sun
   * @param fade cells along the light from what throws a shadow within which it fades; null for shadows that do not
   */
  constructor(
    towards: WorldPoint,
    private readonly fade: number | null = null,
  ) {
    this.view = sunView(towards);
  }

  /**
   * @param quick for a frame of a gesture: what is new on flat surfaces is only laid together; where all is new it is the
   *   `RoughShades`, and nothing of it is kept
   * @param seen the surfaces that are asked for; all without
   */
  update(bodies: readonly LitBody[], quick = false, seen: ReadonlySet<Surface> | null = null): Map<Surface, readonly Shade[]> {
    if (quick && this.isCold) return this.rough(bodies, seen);
    return finished(this.working(bodies, quick, seen));
  }

  private rough(bodies: readonly LitBody[], seen: ReadonlySet<Surface> | null): Map<Surface, readonly Shade[]> {
    const rough = new RoughShades(this.view, bodies);
    const shades = new Map<Surface, readonly Shade[]>();
    const asked = bodies.flatMap(({ body, receives }) => (receives ? body.surfaces.flatMap((surface) => (!seen || seen.has(surface) ? [{ surface, body, area: rough.areaOf(surface) }] : [])) : [])); // prettier-ignore
    let corners = 0;
    for (const { surface, body, area } of asked.sort((p, q) => q.area - p.area)) {
      // The smallest wait for the exact ones where there are so many that a frame would not hold them.
      if (area === 0 || corners > MOST_ROUGH_CORNERS) break;
      const shade = rough.on(surface, body);
      if (!shade) continue;
      shades.set(surface, [shade]);
      corners += shade.path.verbs.length;
    }
    return shades;
  }

  /** Nothing has been made yet: all would be made from nothing. */
  get isCold(): boolean {
    return !this.made;
  }

  /** The same in pieces, a body each; given up in between nothing is kept of it. */
  *working(bodies: readonly LitBody[], quick = false, seen: ReadonlySet<Surface> | null = null): Working {
    const lit = bodies.map(({ body, half }) => this.drawnOf(body, half));
    const dark = new Set(lit.filter((_, i) => !bodies[i]!.casts));
    const sameDark = this.ended && dark.size === this.dark.size && [...dark].every((drawn) => this.dark.has(drawn));
    const shades = new Map<Surface, readonly Shade[]>();
    this.ended = false;
    this.kept.begin();
    for (const links of this.pairs.update(lit)) {
      if (!bodies[links.index]!.receives) continue;
      const same = sameDark && this.pairs.isSame(links);
      let found: readonly (readonly Cover[])[] | null = null;
      const coversAt = (i: number): readonly Cover[] => (found ??= coversOf(links, { body: (drawn) => !dark.has(drawn), lines: true }))[i]!;
      links.drawn.surfaces.forEach((turned, i) => {
        if (!turned.surface || (seen && !seen.has(turned.surface))) return;
        const known = same ? this.kept.again(turned, quick) : null;
        const shade = known ? known.value : this.kept.of(turned, coverInputs(coversAt(i)), () => fadedShade(turned, coversAt(i), this.fade, quick), quick);
        if (shade) shades.set(turned.surface, [...(shades.get(turned.surface) ?? []), shade]);
      });
      yield;
    }
    this.kept.end();
    this.ended = true;
    this.made ||= !quick;
    this.dark = dark;
    return shades;
  }
}

function shadeOf(turned: DrawnSurface, covers: readonly Cover[], quick = false): Shade | null {
  if (covers.length === 0) return null;
  if (covers.some(({ surface, areas }) => areas === null && hides(surface, turned))) return { turned, path: turned.path, parts: turned.outline };
  const areas = throwing(covers);
  if (quick && turned.surface!.form.kind === 'flat')
    return { turned, path: joinPaths(areas.flatMap(({ areas: some }) => some.map(woundPath))), parts: [], rough: true };
  const shade = commonShade(turned, areas);
  return shade.parts.length === 0 ? null : shade;
}

/** The areas that throw a shadow: of convex bodies with straight edges that lie wholly in front the outline of all their surfaces. */
function throwing(covers: readonly Cover[]): readonly CurvedArea[] {
  const done = new Set<DrawnBody>();
  return covers.flatMap(({ surface, of, areas, whole }): readonly CurvedArea[] => {
    if (areas) return [{ areas: areas.map((polygon) => ({ polygon })), path: null }];
    const hull = whole ? hullOf(of) : null;
    if (hull) {
      if (done.has(of)) return [];
      done.add(of);
      return [{ areas: [{ polygon: hull }], path: null }];
    }
    return [surface.surface ? { areas: surface.outline, path: surface.path } : { areas: surface.facets, path: null }];
  });
}

/** What an eye sees of a convex body with straight edges as one polygon; null for others. */
const hullOf = keptBy(({ body, surfaces }: DrawnBody): readonly number[] | null => {
  const plain = body.convex && surfaces.length > 1 && surfaces.every(({ surface, facets }) => surface?.straight && facets.length === 1);
  return plain ? convexHull(surfaces.flatMap(({ facets }) => facets[0]!.polygon)) : null;
});

/** An area as a path whose outer rings all wind one way, its holes the other. */
function woundPath({ polygon, holes = [] }: Area): Path {
  const ring = (flat: ArrayLike<number>, way: number): Path => {
    const path = polygonPath(flat);
    return signedArea(path.coords) * way < 0 ? reversePath(path) : path;
  };
  return joinPaths([ring(polygon, 1), ...holes.map((hole) => ring(hole, -1))]);
}

const commonShade = (turned: DrawnSurface, areas: readonly CurvedArea[]): Shade => ({ turned, ...commonPart(turned.path, areas) });

/** Steps in which a shadow fades. */
const FADES = 6;

/** What of a surface lies in shadow, and where that fades what of it is thrown from nearer by. */
export function fadedShade(turned: DrawnSurface, covers: readonly Cover[], fade: number | null, quick = false): Shade | null {
  if (fade === null || quick || covers.length === 0) return shadeOf(turned, covers, quick);
  const nearer = Array.from({ length: FADES }, (_, i) => commonShade(turned, covers.map((cover) => nearPart(turned, cover, (fade * (i + 1)) / FADES)))); // prettier-ignore
  const last = nearer.at(-1)!;
  return last.parts.length === 0 ? null : { ...last, nearer };
}

/** What of a cover lies within a distance along the light before a surface, in cells. */
function nearPart(turned: DrawnSurface, { surface, areas }: Cover, distance: number): CurvedArea {
  const { eye } = turned.view.sight.projection;
  const under = turned.nearness(turned.facets[Math.floor(turned.facets.length / 2)]!);
  const { unit } = turned.view.sight;
  const pieces = surface.facets.flatMap((facet): readonly Area[] => {
    const over = surface.nearness(facet);
    // How near a plane is grows with the way along the light of a sun; of a lamp it is one over the distance.
    const room = (x: number, y: number): number => {
      const [there, here] = [over.p * x + over.q * y + over.r, under.p * x + under.q * y + under.r];
      if (eye[3] === 0) return distance - (there - here);
      return unit / there - (unit / here - distance);
    };
    const polygon = halfWhere(facet.polygon, room);
    return polygon.length >= 6 ? [{ polygon }] : [];
  });
  if (!areas) return { areas: pieces, path: null };
  return {
    areas: pieces.flatMap(({ polygon }) => areas.flatMap((area) => commonPart(polygonPath(area), [{ areas: [{ polygon }], path: null }]).parts)),
    path: null,
  };
}

/** The part of a convex polygon in which a value is not negative. */
function halfWhere(polygon: readonly number[], value: (x: number, y: number) => number): readonly number[] {
  const kept: number[] = [];
  for (let i = 0, before = polygon.length - 2; i < polygon.length; before = i, i += 2) {
    const [x0, y0, x1, y1] = [polygon[before]!, polygon[before + 1]!, polygon[i]!, polygon[i + 1]!];
    const [d, e] = [value(x0, y0), value(x1, y1)];
    if (d >= 0 !== e >= 0) {
      const t = d / (d - e);
      kept.push(x0 + t * (x1 - x0), y0 + t * (y1 - y0));
    }
    if (e >= 0) kept.push(x1, y1);
  }
  return kept;
}
