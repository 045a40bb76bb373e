import type { Mark } from '../artwork/marks';
import { nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, Shadows } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import { ContactShades } from '../shadow/contact-shade';
import { LampShades } from '../shadow/lamp-shades';
import { SunShades, type LitBody, type Shade, type Shades } from '../shadow/shade';
import { sunOf } from '../light/sun';
import { coveredTone, exposure, filledUp, sunDirection, toneAt, tonedColour } from '../light/tones';
import { channelsOf, hexOf } from '../light/channels';
import { kept, keptBy, keptByName } from '../math/keep';
import { meanColour } from '../paint/paint';
import { drawBody, type DrawnSurface } from '../visibility/drawn-body';
import type { DrawnNode } from './drawn-nodes';
import { floorBody, shadowBox } from './endless-floor';
import { PLAIN, type Painted } from './painted';
import { refusedBy } from './parents';
import { shadowLayers, tintsOf } from './shadow-marks';
import type { Haste, Stage } from './stage';

/** A thing of space as it takes part in the light. */
interface InSpace {
  readonly node: DrawnNode;
  readonly drawn: { readonly body: Body };
}

/** The shadows on surfaces, and what is painted of those on the floor. */
interface ShadowsThere {
  readonly shades: Shades;
  readonly floor: Painted | null;
  /** Of shadows that are only laid together so far: makes the exact ones in pieces, after which they are there at once. */
  readonly later: Generator<undefined, void> | null;
}

/** The sine of the sun's elevation below which its shadows have no end. */
const LOW_SUN = 0.01;
/** No box: told by numbers, so that it is kept by them. */
const NOWHERE = { minU: -Infinity, minV: -Infinity, maxU: Infinity, maxV: Infinity };

/** Surfaces above which shadows from nothing may keep a person waiting. */
const MANY = 200;

const NO_SHADES: ShadowsThere = { shades: new Map(), floor: null, later: null };

/** A light that shadows are kept of. */
interface KeptLight {
  /** What throws full shadows, and by kinds what lets some light through. */
  readonly full: SunShades | LampShades;
  readonly weak: (kind: string) => SunShades | LampShades;
}

/** Most kinds of glass that shadows are kept of. */
const MOST_KINDS = 64;

/** A light before anything has stood in it. */
const lightOf = (made: () => SunShades | LampShades): KeptLight => ({
  full: made(),
  weak: keptByName<string, [], SunShades | LampShades>(MOST_KINDS, () => made()),
});

/** The endless floor as far as it is seen, as it is drawn. */
interface Floor {
  readonly body: Body;
  readonly part: DrawnSurface | null;
}

/** Keeps the shadows of a document from one picture to the next. */
export class ShadowKeeper {
  private readonly bySun = kept((a: number, b: number, h: number, fade: number | null) => lightOf(() => new SunShades({ a, b, h }, fade)));
  private readonly byLamp = kept((a: number, b: number, h: number, reach: number, fade: number | null) => lightOf(() => new LampShades({ at: { a, b, h }, reach }, fade))); // prettier-ignore
  private readonly contacts = kept((width: number) => new ContactShades(width));
  private readonly floor = kept(
    (stage: Stage, width: number, height: number, floor: number, minU: number, minV: number, maxU: number, maxV: number): Floor | null => {
      const body = floorBody(stage, { width, height }, floor, Number.isFinite(minU) ? { minU, minV, maxU, maxV } : null);
      return body && { body, part: drawBody(stage.view, body).surfaces[0] ?? null };
    },
  );

  /** @param seen the surfaces that are turned to the viewer */
  update(document: CheminDocument, stage: Stage, space: readonly InSpace[], seen: ReadonlySet<Surface>, haste: Haste): ShadowsThere {
    const { light } = document;
    if (!light.shadows?.on) return NO_SHADES;
    const bodies = litBodies(document, stage, space);
    const level = light.shadows.floor;
    const floor = level === undefined ? null : this.floorUnder(document, stage, bodies, level);
    const surface = floor?.part?.surface;
    if (floor) bodies.push({ body: floor.body, casts: false, receives: true, half: 0 });
    const asked = surface ? new Set([...seen, surface]) : seen;
    const { full, weak } = this.shadesIn(document);
    const parts = [
      { light: full, bodies: bodies.map(opaque), strength: 1, through: undefined },
      ...glassesOf(bodies).map(({ key, strength, through }) => ({
        light: weak(key),
        bodies: bodies.map((lit): LitBody => ({ ...lit, casts: lit.casts && lit.strength === strength && lit.through === through })),
        strength,
        through,
      })),
    ];
    const waits = haste === 'soon' && full.isCold && asked.size > MANY;
    const shades = new Map<Surface, readonly Shade[]>();
    for (const part of parts) addTo(shades, part.light.update(part.bodies, haste === 'quick' || waits, asked), part.strength, part.through);
    for (const [on, shade] of this.contactsIn(light.shadows, bodies, asked)) shades.set(on, [...(shades.get(on) ?? []), shade]);
    return {
      shades,
      floor: surface ? floorShadow(document, floor!.part!, shades.get(surface) ?? []) : null,
      later: waits ? inTurn(parts.map((part) => part.light.working(part.bodies, false, asked))) : null,
    };
  }

  /** The floor as far as it is seen; under the sun, as far as shadows can fall on it. */
  private floorUnder(document: CheminDocument, stage: Stage, bodies: readonly LitBody[], level: number): Floor | null {
    const { light, sheet } = document;
    const towards = light.lamp ? null : sunDirection(sunOf(document));
    const box = towards && towards.h > LOW_SUN ? shadowBox(bodies, towards, level, light.shadows?.contact ?? null) : null;
    const { minU, minV, maxU, maxV } = box ?? NOWHERE;
    return this.floor(stage, sheet.width, sheet.height, level, minU, minV, maxU, maxV);
  }

  /** What is darkened close round what stands on something. */
  private contactsIn({ contact }: Shadows, bodies: readonly LitBody[], asked: ReadonlySet<Surface>): ReadonlyMap<Surface, Shade> {
    if (contact === undefined) return new Map<Surface, Shade>();
    return this.contacts(contact).update(bodies, asked);
  }

  private shadesIn(document: CheminDocument): KeptLight {
    const { lamp, shadows } = document.light;
    const fade = shadows?.fade ?? null;
    if (lamp) return this.byLamp(lamp.at.a, lamp.at.b, lamp.at.h, lamp.reach, fade);
    const { a, b, h } = sunDirection(sunOf(document));
    return this.bySun(a, b, h, fade);
  }
}

/** A body as it throws a full shadow: what lets light through throws none. */
const opaque = (lit: LitBody): LitBody => (lit.strength === undefined ? lit : { ...lit, casts: false });

/** The kinds of things that let light through: how much they keep back, and of what colour the rest is. */
function glassesOf(bodies: readonly LitBody[]): readonly { readonly key: string; readonly strength: number; readonly through: string | undefined }[] {
  const kinds = bodies.flatMap(({ casts, strength, through }) => (casts && strength !== undefined ? [{ key: `${strength} ${through ?? ''}`, strength, through }] : [])); // prettier-ignore
  return [...new Map(kinds.map((kind) => [kind.key, kind])).values()];
}

/** Puts shadows to others; those of what lets light through with their strength. */
function addTo(shades: Map<Surface, readonly Shade[]>, more: Shades, strength: number, through: string | undefined): void {
  for (const [surface, list] of more) {
    const own = strength === 1 ? list : list.map((shade) => weakerOf(shade, strength, through));
    const there = shades.get(surface);
    shades.set(surface, there ? [...there, ...own] : own);
  }
}

function* inTurn(works: readonly Generator<undefined, unknown>[]): Generator<undefined, void> {
  for (const work of works) yield* work;
}

/** A shade with its strength: the same object for the same one. */
const weakerOf = keptBy((shade: Shade, strength: number, through: string | undefined): Shade => ({ ...shade, strength, ...(through && { through }) }));

/** Everything of space in the light: artwork and dimensions throw no shadows, and what is said not to. */
function litBodies(document: CheminDocument, { cell }: Stage, space: readonly InSpace[]): LitBody[] {
  const byId = nodesById(document.nodes);
  return space.map(({ node: { node, owner }, drawn: { body } }) => {
    const drawnAs = byId.get(owner)?.kind;
    const line = node.kind === 'shape' && body.wires.length > 0 ? node.paint.line : null;
    const figure = drawnAs === 'dimension';
    const paint = node.kind === 'shape' ? node.paint : node.kind === 'group' ? shapesIn(node.children)[0]?.paint : undefined;
    const strength = paint?.strength ?? 1;
    const through = strength < 1 && paint?.fill ? lightThrough(meanColour(paint.fill, document.swatches)) : null;
    return {
      body,
      casts: !figure && node.kind !== 'placement' && node.casts !== false && !refusedBy(document, owner, 'casts'),
      receives: !figure && node.receives !== false && !refusedBy(document, owner, 'receives'),
      half: line ? line.width / 2 / cell : 0,
      ...(strength < 1 && { strength }),
      ...(through && { through }),
    };
  });
}

/** Of 255: how far the channels of a colour may lie apart for the light through it to be white. */
const WHITE = 8;

/** The colour of the light that gets through glass of a colour: as bright as can be; null for white. */
function lightThrough(colour: string): string | null {
  const channels = channelsOf(colour);
  const most = Math.max(1, ...channels);
  if (most - Math.min(...channels) < WHITE) return null;
  return hexOf(channels.map((value) => (255 * value) / most));
}

/** The shadows on the floor: as much darker than the sheet as a covered face is than a lit one. */
function floorShadow(document: CheminDocument, part: DrawnSurface, shades: readonly Shade[]): Painted | null {
  const { light, sheet } = document;
  const layers = shadowLayers(part, shades, light.shadows);
  if (layers.length === 0) return null;
  const { ink } = light.shadows!;
  const lit = filledUp(toneAt(light.ramp, exposure(part.normal, sunOf(document))), light.fill);
  const covered = filledUp(coveredTone(light.ramp), light.fill);
  const colour = ink?.colour ?? tonedColour(sheet.background, { lightness: Math.min(0, covered.lightness - lit.lightness), chroma: 1 });
  const marks = layers.map(({ path, strength, rough }): Mark => ({ kind: 'path', path, fill: { kind: 'flat', colour, strength: strength * (ink?.strength ?? 1) }, rule: rough ? 'nonzero' : 'evenodd', line: null })); // prettier-ignore
  return { node: 'floor shadow', name: 'shadow on the floor', look: PLAIN, marks: [...marks, ...(ink ? [] : tintsOf(layers, null))], visible: [] };
}
