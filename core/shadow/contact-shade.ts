import { boundsOf, type Surface } from '../geometry/body';
import { Rounds } from '../math/keep';
import { dotWorld, scaleWorld, type WorldPoint } from '../math/points';
import { SIDE_BY_SIDE } from '../math/tolerances';
import { ClipType, combineRings, FillRule, type Path64 } from '../shape/flat-areas';
import { grownRings } from '../shape/grow';
import { joinPaths, polygonPath, type Path } from '../shape/path';
import { commonPart, type CurvedArea } from '../visibility/cut';
import { DrawnSurface, type View } from '../visibility/drawn-body';
import { SCALE, sunView, type LitBody, type Shade } from './shade';

/** Steps in which it gets lighter, and how dark it is right beside what stands there. */
const STEPS = 6;
const DARKEST = 0.6;
/** Whole numbers to a unit of the sheet on which a plane is looked at straight. */
const PER_UNIT = 1000;

/**
 * Keeps the darkening round what stands on flat surfaces, where little light gets between: from the outline in which
 * something touches a surface it gets lighter outwards, within the surface. It does not depend on where the light is.
 */
export class ContactShades {
  private readonly kept = new Rounds<Surface, Shade | null>();

  /** @param width how far out it reaches, in cells */
  constructor(private readonly width: number) {}

  /** @param seen the surfaces that are asked for */
  update(bodies: readonly LitBody[], seen: ReadonlySet<Surface>): ReadonlyMap<Surface, Shade> {
    const standing = new Map<string, Surface[]>();
    for (const { body, casts } of bodies) {
      if (!casts || !body.closed) continue;
      for (const surface of body.surfaces) {
        const normal = normalOf(surface);
        if (!normal) continue;
        const key = directionName(scaleWorld(normal, -1));
        const list = standing.get(key);
        if (list) list.push(surface);
        else standing.set(key, [surface]);
      }
    }
    this.kept.begin();
    const shades = new Map<Surface, Shade>();
    for (const { body, receives } of bodies) {
      if (!receives) continue;
      const own = new Set(body.surfaces);
      for (const surface of body.surfaces) {
        const normal = normalOf(surface);
        if (!normal || !seen.has(surface)) continue;
        const there = (standing.get(directionName(normal)) ?? []).filter((other) => !own.has(other) && touches(surface, other, normal));
        if (there.length === 0) continue;
        const shade = this.kept.of(surface, there, () => contactShade(surface, there, normal, this.width));
        if (shade) shades.set(surface, shade);
      }
    }
    this.kept.end();
    return shades;
  }
}

const normalOf = ({ form, loops }: Surface): WorldPoint | null => (form.kind === 'flat' && loops.length > 0 ? form.frame.normal : null);

const directionName = ({ a, b, h }: WorldPoint): string => [a, b, h].map((x) => Math.round(x * 1e6) + 0).join(' ');

/** Whether two surfaces that face each other lie in one plane and overlap as far as their boxes tell. */
function touches(surface: Surface, other: Surface, normal: WorldPoint): boolean {
  const [loop, there] = [surface.loops[0]!, other.loops[0]!];
  const level = (flat: readonly number[]): number => dotWorld(normal, { a: flat[0]!, b: flat[1]!, h: flat[2]! });
  if (Math.abs(level(loop) - level(there)) > SIDE_BY_SIDE) return false;
  const [p, q] = [boundsOf(loop), boundsOf(there)];
  return (['a', 'b', 'h'] as const).every((axis) => p.min[axis] <= q.max[axis] + SIDE_BY_SIDE && q.min[axis] <= p.max[axis] + SIDE_BY_SIDE);
}

/** The rings of a surface on the sheet of an eye far off. */
function ringsOn({ sight: { projection } }: View, { loops }: Surface): readonly (readonly number[])[] {
  const { matrix: m } = projection;
  return loops.map((loop) => {
    const ring: number[] = [];
    for (let i = 0; i < loop.length; i += 3)
      for (const r of [0, 4]) ring.push(m[r]! * loop[i]! + m[r + 1]! * loop[i + 1]! + m[r + 2]! * loop[i + 2]! + m[r + 3]!);
    return ring;
  });
}

const whole = (ring: readonly number[]): Path64 => Array.from({ length: ring.length / 2 }, (_, i) => ({ x: Math.round(ring[2 * i]! * PER_UNIT), y: Math.round(ring[2 * i + 1]! * PER_UNIT) })); // prettier-ignore

function contactShade(surface: Surface, standing: readonly Surface[], normal: WorldPoint, width: number): Shade | null {
  // An eye right over the plane sees it as it is.
  const view = sunView(normal);
  const each = standing.flatMap((other) => combineRings(ClipType.Union, ringsOn(view, other).map(whole), [], FillRule.EvenOdd));
  const under = combineRings(ClipType.Union, each, [], FillRule.NonZero);
  const [polygon, ...holes] = ringsOn(view, surface);
  const within: CurvedArea = { areas: [{ polygon: polygon!, holes }], path: null };
  const pathOf = (rings: readonly Path64[]): Path => joinPaths(rings.map((ring) => polygonPath(ring.flatMap(({ x, y }) => [x / PER_UNIT, y / PER_UNIT]))));
  if (commonPart(pathOf(under), [within]).parts.length === 0) return null;
  const contact = Array.from({ length: STEPS }, (_, i) => ({
    path: commonPart(pathOf(grownRings(under, (width * SCALE * PER_UNIT * (STEPS - i)) / STEPS, 'round')), [within]).path,
    // One over the other they get darker in even steps.
    strength: DARKEST / STEPS / (1 - (DARKEST * i) / STEPS),
  }));
  return { turned: new DrawnSurface(view, surface, [], normal), path: contact[0]!.path, parts: [], contact };
}
