import { boundsAll, boundsOf, type Body, type Surface } from '../geometry/body';
import { Rounds } from '../math/keep';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { eyeAt } from '../projection/eye';
import { coversOf } from '../visibility/covers';
import { drawBody, type DrawnBody, type View } from '../visibility/drawn-body';
import { ALONE, pairOf, type Links } from '../visibility/pairs';
import { watcherOf } from '../visibility/separate';
import { RoughShades } from './rough-shade';
import { fadedShade, finished, SCALE, viewOf, type LitBody, type Shade, type Working } from './shade';

/** A lamp: its place in cells of the world, and how far it reaches. */
export interface Lamp {
  readonly at: WorldPoint;
  readonly reach: number;
}

/**
 * Keeps the shadows that bodies throw on each other in the light of a lamp. A lamp sees in all directions, which no
 * sheet holds: each surface is looked at by an eye at the lamp that looks straight at its plane, or at the middle of what
 * is round, with what lies between. Where that is the same as before, so is what lies in shadow.
 */
export class LampShades {
  private readonly kept = new Rounds<Surface, readonly Shade[]>();
  private made = false;

  constructor(
    private readonly lamp: Lamp,
    private readonly fade: number | null = null,
  ) {}

  /**
   * @param quick for a frame of a gesture: what is new is the `RoughShades`, of which nothing is kept
   * @param seen the surfaces that are asked for; all without
   */
  update(bodies: readonly LitBody[], quick = false, seen: ReadonlySet<Surface> | null = null): Map<Surface, readonly Shade[]> {
    return finished(this.working(bodies, quick, seen));
  }

  /** Nothing has been made yet: all would be made from nothing. */
  get isCold(): boolean {
    return !this.made;
  }

  /** The same in pieces, a body each; given up in between nothing is kept of it. */
  *working(bodies: readonly LitBody[], quick = false, seen: ReadonlySet<Surface> | null = null): Working {
    const { at } = this.lamp;
    const shades = new Map<Surface, readonly Shade[]>();
    this.kept.begin();
    const balls = bodies.map(({ body }) => ballAround(at, body));
    for (const [index, receiver] of bodies.entries()) {
      if (!receiver.receives) continue;
      const near = bodies.flatMap((other, i) => (other.casts && (i === index ? !other.body.convex : mayCover(balls[i]!, balls[index]!)) ? [i] : []));
      const between = [receiver, ...near.map((i) => bodies[i]!)];
      const inputs = between.flatMap(({ body, half }) => [body, half]);
      for (const surface of receiver.body.surfaces) {
        if (seen && !seen.has(surface)) continue;
        const rough = (): readonly Shade[] => {
          const view = surface.form.kind === 'flat' ? lampView(at, surface) : null;
          const shade = view && new RoughShades(view, between.slice(1)).on(surface, receiver.body);
          return shade ? [shade] : [];
        };
        const exact = (): readonly Shade[] => {
          const view = lampView(at, surface);
          return view ? shadesInView(view, surface, bodies, index, near, this.fade) : [];
        };
        const found = near.length === 0 ? [] : this.kept.of(surface, inputs, quick ? rough : exact, quick);
        if (found.length > 0) shades.set(surface, found);
      }
      yield;
    }
    this.kept.end();
    this.made ||= !quick;
    return shades;
  }
}

/** The eye at a lamp that looks at a surface; null where none of its light falls on it. */
function lampView(at: WorldPoint, surface: Surface): View | null {
  const look = lookAt(at, surface);
  return look && viewOf(eyeAt([at.a, at.b, at.h, 1], look, SCALE * lengthWorld(look)));
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
  const links = (drawn: DrawnBody, at: number): Links => ({ drawn, index: at, stamp: 0, touched: 0, pairs: [], own: ALONE });
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
