import { flatInk, type Ink } from '../artwork/marks';
import type { Light } from '../document/types';
import { boundsOf, type Surface } from '../geometry/body';
import {
  coveredTone,
  filledUp,
  fixedTone,
  shadowTone,
  sunDirection,
  tinted,
  toneAt,
  toned,
  type FixedTones,
  type Sun,
  type Tint,
  type Tone,
  type Toned,
} from '../light/tones';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { meanColour, plainColour, type Colour, type Fill, type Swatch } from '../paint/paint';
import type { OwnLook } from './own-looks';

/** Where the light comes from at a place. */
export interface LightThere {
  /** Unit direction to it. */
  readonly towards: WorldPoint;
  /** How much of it arrives: less the farther a lamp is, nothing beyond its reach. */
  readonly share: number;
}

/** Steps of the exposure from 0 to 1 that tones of round surfaces are taken at: an eighth of a level of 255 apart with the usual ramp. */
const EXPOSURES = 1024;

/** What colours become in a light, each worked out once: tones of faces by how squarely they meet it, and the inks for them. */
export class Tones {
  /** What they become where something keeps the light away. */
  readonly covered: Tones;
  private readonly faces = new Map<string, Map<number, Toned>>();
  private readonly rounds = new Map<string, Map<number, Toned>>();
  private readonly inks = new Map<string, Ink>();
  private readonly sun: LightThere;
  private readonly others = new Map<string, Tones>();

  /**
   * @param at where the sun stands in the world
   * @param tints laid over every colour, one after the other
   */
  constructor(
    readonly light: Light,
    private readonly at: Sun,
    readonly swatches: readonly Swatch[],
    private readonly lit = true,
    private readonly tints: readonly Tint[] = [],
  ) {
    this.sun = { towards: sunDirection(at), share: 1 };
    this.covered = lit ? new Tones(light, at, swatches, false, tints) : this;
  }

  /** The tones of what has a look of its own: the same object for the same look. */
  own({ ramp, tints }: OwnLook): Tones {
    const key = JSON.stringify([ramp, tints]);
    let own = this.others.get(key);
    if (!own) {
      const { fixed: _, ...free } = this.light;
      this.others.set(key, (own = new Tones(ramp ? { ...free, ramp } : this.light, this.at, this.swatches, true, tints)));
    }
    return own;
  }

  /** Whether colours are other than they are written. */
  get hasTint(): boolean {
    return this.tints.length > 0;
  }

  /** A colour as it is without any light. */
  plain(colour: Colour): string {
    return this.over(plainColour(colour, this.swatches));
  }

  /** The mean colour of a fill as it is without any light. */
  mean(fill: Fill): string {
    return this.over(meanColour(fill, this.swatches));
  }

  /** A colour with the tints over it. */
  over(colour: string): string {
    return this.tints.reduce(tinted, colour);
  }

  /** Where the light comes from, as it is taken for the whole of a surface: seen from its middle. */
  lightOn(surface: Surface | null): LightThere {
    const { lamp } = this.light;
    if (!lamp || !surface) return this.sun;
    const { min, max } = boundsOf(surface.loops[0] ?? surface.facets.flatMap(({ corners }) => corners));
    return lampFrom(lamp, scaleWorld(addWorld(min, max), 0.5)) ?? this.sun;
  }

  /** The colour of a face with an outward unit normal. */
  face(base: string, normal: WorldPoint, there: LightThere): string {
    const { fixed } = this.light;
    if (fixed) return this.toned(this.faces, base, normalKey(normal), () => this.fixed(normal, fixed)).colour;
    const exposure = exposedTo(dotWorld(normal, there.towards), there);
    return this.toned(this.faces, base, Math.round(exposure * 1e6), () => this.toneOf(exposure)).colour;
  }

  /** The tone of a round surface by its outward unit normal. */
  round(base: string, normal: WorldPoint, there: LightThere): Toned {
    const { fixed } = this.light;
    if (fixed) return this.toned(this.rounds, base, normalKey(normal), () => this.fixed(normal, fixed));
    return this.around(base, dotWorld(normal, there.towards), there);
  }

  /**
   * A colour that is printed on something: as it is where that faces the light, else as much darker as a face is. In
   * parts of the whole way.
   */
  printed(base: string, normal: WorldPoint, there: LightThere, share: number): string {
    const { fixed, ramp, fill } = this.light;
    const tone = fixed ? this.fixed(normal, fixed) : this.toneOf(exposedTo(dotWorld(normal, there.towards), there));
    const lit = fixed ? ramp.lit : filledUp(ramp.lit, fill);
    const beside = { lightness: Math.min(0, tone.lightness - lit.lightness) * share, chroma: 1 + (Math.min(1, tone.chroma / (lit.chroma || 1)) - 1) * share };
    return toned(base, beside).colour;
  }

  /** The tone of a ball where its normal meets the light at a cosine. */
  around(base: string, cosine: number, there: LightThere): Toned {
    const step = Math.round(exposedTo(cosine, there) * EXPOSURES);
    return this.toned(this.rounds, base, step, () => this.toneOf(step / EXPOSURES));
  }

  /** Whether tones go by the side that a surface faces, and not by how squarely it meets the light. */
  get isBySide(): boolean {
    return this.light.fixed !== undefined && this.lit;
  }

  /** Whether this is what light falls on. */
  get isLit(): boolean {
    return this.lit;
  }

  private toneOf(exposure: number): Tone {
    const { ramp, fill } = this.light;
    return filledUp(this.lit ? toneAt(ramp, exposure) : shadowTone(ramp, exposure), fill);
  }

  private fixed(normal: WorldPoint, fixed: FixedTones): Tone {
    const { ramp } = this.light;
    return this.lit ? fixedTone(fixed, ramp, normal) : coveredTone(ramp);
  }

  private toned(kept: Map<string, Map<number, Toned>>, base: string, key: number, tone: () => Tone): Toned {
    let known = kept.get(base);
    if (!known) kept.set(base, (known = new Map()));
    let there = known.get(key);
    if (there === undefined) known.set(key, (there = toned(base, tone())));
    return there;
  }

  /** The ink of a tone: one object for each. */
  ink(tone: string): Ink {
    let ink = this.inks.get(tone);
    if (!ink) this.inks.set(tone, (ink = flatInk(tone)));
    return ink;
  }
}

const exposedTo = (cosine: number, { share }: LightThere): number => Math.max(-1, Math.min(1, cosine > 0 ? cosine * share : cosine));

/** A unit normal to a millionth as one number: two coordinates and the sign of the third tell it. */
function normalKey({ a, b, h }: WorldPoint): number {
  return ((Math.round(a * 1e6) + 1e6) * 2_000_003 + Math.round(b * 1e6) + 1e6) * 2 + (h < 0 ? 1 : 0);
}

/** Where the light of a lamp comes from at a place; null at the lamp itself. */
function lampFrom({ at, reach }: NonNullable<Light['lamp']>, place: WorldPoint): LightThere | null {
  const way = subtractWorld(at, place);
  const far = lengthWorld(way);
  return far === 0 ? null : { towards: scaleWorld(way, 1 / far), share: Math.max(0, 1 - far / reach) };
}
