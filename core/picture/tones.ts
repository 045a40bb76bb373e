import { flatInk, type Ink } from '../artwork/marks';
import type { Light } from '../document/types';
import { boundsOf, type Surface } from '../geometry/body';
import { shadowTone, sunDirection, toneAt, toned, type Tone, type Toned } from '../light/tones';
import { addWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { plainColour, type Colour, type Swatch } from '../paint/paint';

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
  private readonly faces = new Map<string, Map<number, string>>();
  private readonly rounds = new Map<string, Map<number, Toned>>();
  private readonly inks = new Map<string, Ink>();
  private readonly sun: LightThere;

  constructor(
    readonly light: Light,
    readonly swatches: readonly Swatch[],
    private readonly lit = true,
  ) {
    this.sun = { towards: sunDirection(light.sun), share: 1 };
    this.covered = lit ? new Tones(light, swatches, false) : this;
  }

  /** A colour as it is without any light. */
  plain(colour: Colour): string {
    return plainColour(colour, this.swatches);
  }

  /** Where the light comes from, as it is taken for the whole of a surface: seen from its middle. */
  lightOn(surface: Surface | null): LightThere {
    const { lamp } = this.light;
    if (!lamp || !surface) return this.sun;
    const { min, max } = boundsOf(surface.loops[0] ?? surface.facets.flatMap(({ corners }) => corners));
    return lampFrom(lamp, scaleWorld(addWorld(min, max), 0.5)) ?? this.sun;
  }

  /** The colour of a face with an outward unit normal. */
  face(base: string, normal: WorldPoint, { towards, share }: LightThere): string {
    const exposed = dotWorld(normal, towards);
    const exposure = exposed > 0 ? exposed * share : exposed;
    let known = this.faces.get(base);
    if (!known) this.faces.set(base, (known = new Map()));
    const key = Math.round(exposure * 1e6);
    let tone = known.get(key);
    if (tone === undefined) known.set(key, (tone = toned(base, this.toneOf(exposure)).colour));
    return tone;
  }

  /** The tone of a round surface where its normal meets the light at this cosine. */
  round(base: string, cosine: number, share: number): Toned {
    let known = this.rounds.get(base);
    if (!known) this.rounds.set(base, (known = new Map()));
    const step = Math.round(Math.max(-1, Math.min(1, cosine > 0 ? cosine * share : cosine)) * EXPOSURES);
    let tone = known.get(step);
    if (tone === undefined) known.set(step, (tone = toned(base, this.toneOf(step / EXPOSURES))));
    return tone;
  }

  /** The ink of a tone: one object for each. */
  ink(tone: string): Ink {
    let ink = this.inks.get(tone);
    if (!ink) this.inks.set(tone, (ink = flatInk(tone)));
    return ink;
  }

  private toneOf(exposure: number): Tone {
    const { ramp } = this.light;
    const exposed = Math.max(-1, Math.min(1, exposure));
    return this.lit ? toneAt(ramp, exposed) : shadowTone(ramp, exposed);
  }
}

/** Where the light of a lamp comes from at a place; null at the lamp itself. */
function lampFrom({ at, reach }: NonNullable<Light['lamp']>, place: WorldPoint): LightThere | null {
  const way = subtractWorld(at, place);
  const far = lengthWorld(way);
  return far === 0 ? null : { towards: scaleWorld(way, 1 / far), share: Math.max(0, 1 - far / reach) };
}
