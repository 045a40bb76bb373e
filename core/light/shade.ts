import { boundsAll, boundsOf, type Body, type Surface } from '../geometry/body';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { eyeAt } from '../projection/eye';
import type { EyeMatrix } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { polygonPath, type Path } from '../shape/path';
import { coversOf, hides, sameCovers, type Cover } from '../visibility/covers';
import { commonPart, type CurvedArea } from '../visibility/cut';
import { drawBody, rangeDirections, type Area, type DrawnBody, type DrawnSurface, type View } from '../visibility/drawn-body';
import { PairKeeper, pairOf, type Links } from '../visibility/pairs';
import { watcherOf } from '../visibility/separate';

/** A body as it takes part in the light. */
export interface LitBody {
  readonly body: Body;
  /** It throws shadows. */
  readonly casts: boolean;
  /** Shadows are seen on it. */
  readonly receives: boolean;
  /** Half the width in cells of its lines. */
  readonly half: number;
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
}

/** The shadows on surfaces; those without any are not in it. A shade stays the same object as long as nothing changes it. */
export type Shades = ReadonlyMap<Surface, readonly Shade[]>;

/** Units of the light's sheet to a cell: what counts as a corner there is then less than a thousandth of a cell. */
const SCALE = 10;

/** The eye of a sun far off in a direction. */
export function sunView(towards: WorldPoint): View {
  return viewOf(eyeAt([towards.a, towards.b, towards.h, 0], null, SCALE));
}

function viewOf(eye: EyeMatrix): View {
  const sight = sightFrom(eye);
  return { sight, directions: rangeDirections(sight) };
}

interface Kept {
  readonly covers: readonly Cover[];
  readonly shade: Shade | null;
}

/**
 * Keeps the shadows that bodies throw on each other in the light of a sun: what lies in front of a surface seen from the
 * sun. One sweep over the edges of a surface and of what covers it for each that is partly in shadow; where nothing new
 * lies in front of a surface its shadow stays as it is, so one body moved costs what it covers.
 */
export class SunShades {
  private readonly pairs = new PairKeeper();
  private readonly drawn = new WeakMap<Body, DrawnBody>();
  private kept = new Map<DrawnSurface, Kept>();
  private readonly view: View;

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

  update(bodies: readonly LitBody[]): Shades {
    const lit = bodies.map(({ body, half }) => this.drawnOf(body, half));
    const dark = new Set(lit.filter((_, i) => !bodies[i]!.casts));
    const shades = new Map<Surface, readonly Shade[]>();
    const kept = new Map<DrawnSurface, Kept>();
    for (const links of this.pairs.update(lit)) {
      if (!bodies[links.index]!.receives) continue;
      shadesOf(links, dark, this.kept, kept, shades, this.fade);
    }
    this.kept = kept;
    return shades;
  }

  private drawnOf(body: Body, half: number): DrawnBody {
    let drawn = this.drawn.get(body);
    if (!drawn) this.drawn.set(body, (drawn = drawBody(this.view, body, half * SCALE)));
    return drawn;
  }
}

/** Puts what of a body's surfaces lies in shadow among the shades. @param dark bodies that throw none */
function shadesOf(
  links: Links,
  dark: ReadonlySet<DrawnBody>,
  before: ReadonlyMap<DrawnSurface, Kept>,
  kept: Map<DrawnSurface, Kept>,
  shades: Map<Surface, readonly Shade[]>,
  fade: number | null,
): void {
  const covers = coversOf(links, { body: (drawn) => !dark.has(drawn), lines: true });
  links.drawn.surfaces.forEach((turned, i) => {
    if (!turned.surface) return;
    const known = before.get(turned);
    const shade = known && sameCovers(known.covers, covers[i]!) ? known.shade : fadedShade(turned, covers[i]!, fade);
    kept.set(turned, { covers: covers[i]!, shade });
    if (shade) shades.set(turned.surface, [...(shades.get(turned.surface) ?? []), shade]);
  });
}

function shadeOf(turned: DrawnSurface, covers: readonly Cover[]): Shade | null {
  if (covers.length === 0) return null;
  if (covers.some(({ surface, areas }) => areas === null && hides(surface, turned))) return { turned, path: turned.path, parts: turned.outline };
  const areas = covers.map(({ surface, areas: some }): CurvedArea => {
    if (some) return { areas: some.map((polygon) => ({ polygon })), path: null };
    return surface.surface ? { areas: surface.outline, path: surface.path } : { areas: surface.facets, path: null };
  });
  const shade = commonShade(turned, areas);
  return shade.parts.length === 0 ? null : shade;
}

const commonShade = (turned: DrawnSurface, areas: readonly CurvedArea[]): Shade => ({ turned, ...commonPart(turned.path, areas) });

/** Steps in which a shadow fades. */
const FADES = 6;

/** What of a surface lies in shadow, and where that fades what of it is thrown from nearer by. */
function fadedShade(turned: DrawnSurface, covers: readonly Cover[], fade: number | null): Shade | null {
  if (fade === null || covers.length === 0) return shadeOf(turned, covers);
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

/** A lamp: its place in cells of the world, and how far it reaches. */
export interface Lamp {
  readonly at: WorldPoint;
  readonly reach: number;
}

/**
 * The shadows that bodies throw on each other in the light of a lamp. A lamp sees in all directions, which no sheet
 * holds: each surface is looked at by an eye at the lamp that looks straight at its plane, or at the middle of what is
 * round, with what lies between.
 */
export function lampShades({ at }: Lamp, bodies: readonly LitBody[], fade: number | null = null): Shades {
  const shades = new Map<Surface, readonly Shade[]>();
  const balls = bodies.map(({ body }) => ballAround(at, body));
  bodies.forEach((receiver, index) => {
    if (!receiver.receives) return;
    const between = bodies.flatMap((other, i) => (other.casts && (i === index ? !other.body.convex : mayCover(balls[i]!, balls[index]!)) ? [i] : []));
    if (between.length === 0) return;
    for (const surface of receiver.body.surfaces) {
      const look = lookAt(at, surface);
      const found = look ? shadesInView(viewOf(eyeAt([at.a, at.b, at.h, 1], look, SCALE * lengthWorld(look))), surface, bodies, index, between, fade) : [];
      if (found.length > 0) shades.set(surface, found);
    }
  });
  return shades;
}

/** What lies in shadow of a surface of the body at a place of the list, seen by an eye at the lamp, by the bodies at some other places. */
function shadesInView(
  view: View,
  surface: Surface,
  bodies: readonly LitBody[],
  index: number,
  between: readonly number[],
  fade: number | null,
): readonly Shade[] {
  const whole = drawBody(view, bodies[index]!.body);
  const surfaces = whole.surfaces.filter((turned) => turned.surface === surface);
  if (surfaces.length === 0) return [];
  const links = (drawn: DrawnBody, at: number): Links => ({ drawn, index: at, stamp: 0, pairs: [], own: [] });
  const own = links({ ...whole, surfaces }, index);
  const watcher = watcherOf(view.sight.projection.eye);
  for (const i of between) {
    const { body, half } = bodies[i]!;
    const pair = pairOf(watcher, own, links(i === index ? whole : drawBody(view, body, half * SCALE), i));
    if (pair) own.pairs.push(pair);
  }
  const covers = coversOf(own, { body: () => true, lines: true });
  return surfaces.flatMap((turned, i) => fadedShade(turned, covers[i]!, fade) ?? []);
}

/** The way from a lamp straight to a surface's plane, or to the middle of what is round; null for what is turned away or along the light. */
function lookAt(at: WorldPoint, { form, facets, bothSides }: Surface): WorldPoint | null {
  if (form.kind === 'flat') {
    const { origin, normal } = form.frame;
    const before = dotWorld(normal, subtractWorld(at, origin));
    return (bothSides ? Math.abs(before) : before) > CLOSEST ? scaleWorld(normal, -before) : null;
  }
  const { min, max } = boundsOf(facets.flatMap(({ corners }) => corners));
  const way = subtractWorld(scaleWorld(addWorld(min, max), 0.5), at);
  return lengthWorld(way) > CLOSEST ? way : null;
}

/** Cells from a lamp within which a plane counts as lying along its light. */
const CLOSEST = 1e-6;

/** A ball around a body as it is seen from a place: the way to its middle, how long that is, and its radius. */
interface Ball {
  readonly way: WorldPoint;
  readonly far: number;
  readonly radius: number;
}

function ballAround(at: WorldPoint, body: Body): Ball {
  const { min, max } = boundsAll([body]) ?? body.bounds;
  const way = subtractWorld(scaleWorld(addWorld(min, max), 0.5), at);
  return { way, far: lengthWorld(way), radius: lengthWorld(subtractWorld(max, min)) / 2 };
}

/** Whether one ball may lie between the lamp and another: nearer, and overlapping it as the lamp sees them. */
function mayCover(over: Ball, under: Ball): boolean {
  if (over.far - over.radius >= under.far + under.radius) return false;
  if (over.far <= over.radius || under.far <= under.radius) return true;
  const apart = Math.acos(Math.max(-1, Math.min(1, dotWorld(over.way, under.way) / (over.far * under.far))));
  return apart <= Math.asin(over.radius / over.far) + Math.asin(under.radius / under.far) + 1e-9;
}
