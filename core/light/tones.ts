import { clampChroma, converter, formatHex, modeLrgb, modeOklab, modeOklch, modeRgb, parse, useMode, type Oklch } from 'culori/fn';
import { radians } from '../math/figures';
import { dotWorld, type WorldPoint } from '../math/points';

useMode(modeRgb);
useMode(modeLrgb);
useMode(modeOklch);
useMode(modeOklab);
const toOklch = converter('oklch');
const toOklab = converter('oklab');
const toRgb = converter('rgb');

/** A tone of the ramp: what it does to a base colour in OKLCH (CSS Color 4). */
export interface Tone {
  /** Added to the lightness, which runs from 0 to 1. */
  readonly lightness: number;
  /** Multiplies the chroma. */
  readonly chroma: number;
}

/**
 * The designer's ramp. `lit`: a face square to the light; `grazed`: one that the light runs along; `turned`: one turned
 * right away; `covered`: what lies in the shadow of something, somewhat darker than grazed where it is not told.
 */
export interface Ramp {
  readonly lit: Tone;
  readonly grazed: Tone;
  readonly turned: Tone;
  readonly covered?: Tone;
}

/** Tones of the sides that face along h, against a and against b, as drawings seen from above show them. */
export interface FixedTones {
  readonly top: Tone;
  readonly left: Tone;
  readonly right: Tone;
}

/**
 * The tone of a direction between fixed ones: each takes part by the square of the normal's component, so that all
 * together make one. What faces the other ways takes the ramp's tone for what is turned away.
 */
export function fixedTone({ top, left, right }: FixedTones, { turned }: Ramp, { a, b, h }: WorldPoint): Tone {
  const parts = [[h * h, h > 0 ? top : turned], [a * a, a < 0 ? left : turned], [b * b, b < 0 ? right : turned]] as const; // prettier-ignore
  const sum = (of: (tone: Tone) => number): number => parts.reduce((total, [share, tone]) => total + share * of(tone), 0);
  return { lightness: sum(({ lightness }) => lightness), chroma: sum(({ chroma }) => chroma) };
}

/** A colour that is laid over others: how far they become it, from 0 to 1. */
export interface Tint {
  readonly colour: string;
  readonly strength: number;
}

/** A colour with a tint over it, as `#rrggbb`, mixed in OKLab (CSS Color 4); as it is where one of them is no colour. */
export function tinted(base: string, { colour, strength }: Tint): string {
  const [from, to] = [toOklab(parse(base)), toOklab(parse(colour))];
  if (!from || !to || strength === 0) return base;
  const mix = (x: number, y: number): number => x + (y - x) * strength;
  return formatHex({ mode: 'oklab', l: mix(from.l, to.l), a: mix(from.a, to.a), b: mix(from.b, to.b) });
}

/** The sun that is seen from a place as it throws a shadow from there to another, degrees to a thousandth; null where the light would come from below or nowhere. */
export function sunThrowing(from: WorldPoint, to: WorldPoint): Sun | null {
  const [a, b, h] = [from.a - to.a, from.b - to.b, from.h - to.h];
  const level = Math.hypot(a, b);
  if (!(h > 0)) return null;
  const degrees = (radians: number): number => Math.round((radians * 180_000) / Math.PI) / 1000;
  return { azimuthDeg: level === 0 ? 0 : (degrees(Math.atan2(b, a)) + 360) % 360, elevationDeg: degrees(Math.atan2(h, level)) };
}

/** The sun's place: where it stands, not where its light goes. */
export interface Sun {
  /** Degrees anticlockwise from the a axis, seen from above. */
  readonly azimuthDeg: number;
  /** Degrees above the floor, -90 to 90. */
  readonly elevationDeg: number;
}

/** The unit vector from the scene to the sun. */
export function sunDirection({ azimuthDeg, elevationDeg }: Sun): WorldPoint {
  const azimuth = radians(azimuthDeg);
  const elevation = radians(elevationDeg);
  return { a: Math.cos(elevation) * Math.cos(azimuth), b: Math.cos(elevation) * Math.sin(azimuth), h: Math.sin(elevation) };
}

/** How squarely a face meets the light: 1 square to it, 0 along it, -1 turned right away. */
export function exposure(normal: WorldPoint, sun: Sun): number {
  return Math.max(-1, Math.min(1, dotWorld(normal, sunDirection(sun))));
}

/** The ramp's tone at an exposure, linear from `turned` over `grazed` to `lit`. */
export function toneAt(ramp: Ramp, exposed: number): Tone {
  return exposed >= 0 ? mixed(ramp.grazed, ramp.lit, exposed) : mixed(ramp.grazed, ramp.turned, -exposed);
}

/** The tone that changes nothing. */
const NEUTRAL: Tone = { lightness: 0, chroma: 1 };

/** A tone in light from all around, from 0 to 1: brought so far towards the colour as it was set, which it is with 1. */
export const filledUp = (tone: Tone, fill = 0): Tone => (fill === 0 ? tone : fill === 1 ? NEUTRAL : mixed(tone, NEUTRAL, fill));

function mixed(from: Tone, to: Tone, t: number): Tone {
  const mix = (x: number, y: number): number => x + (y - x) * t;
  return { lightness: mix(from.lightness, to.lightness), chroma: mix(from.chroma, to.chroma) };
}

/** How much of the difference between faces is left where they lie in shadow, by what light is about them. */
const FORM_IN_SHADOW = 0.25;

/** The tone of what lies in the shadow of something. */
export function coveredTone({ grazed, turned, covered }: Ramp): Tone {
  return covered ?? mixed(grazed, turned, 0.2);
}

/** The same of a face with an exposure: a little of its form is still seen, so that edges do not drown. */
export function shadowTone(ramp: Ramp, exposed: number): Tone {
  const [dark, lit] = [coveredTone(ramp), toneAt(ramp, exposed)];
  const there = { lightness: dark.lightness + (lit.lightness - ramp.lit.lightness) * FORM_IN_SHADOW, chroma: dark.chroma };
  return exposed > 0 ? there : lit;
}

/** A colour in a tone: as it is written, and its exact channels from 0 to 255. */
export interface Toned {
  readonly colour: string;
  readonly rgb: readonly [number, number, number];
}

/**
 * A base colour in a tone, as `#rrggbb`; lightness is kept within 0 to 1, and chroma is lowered until the colour
 * can be shown in sRGB. In the tone that changes nothing it is what it was, to the last digit; one that cannot be shown
 * in sRGB is cut off to it channel by channel there. A text that is no CSS colour comes back as it is.
 */
export function tonedColour(base: string, tone: Tone): string {
  return toned(base, tone).colour;
}

/** The same with its exact channels; those of a text that is no colour are a middle grey's. */
export function toned(base: string, tone: Tone): Toned {
  if (tone.lightness === 0 && tone.chroma === 1) return asSet(base);
  const colour = toOklch(parse(base));
  if (!colour) return { colour: base, rgb: [128, 128, 128] };
  const there: Oklch = { ...colour, l: Math.max(0, Math.min(1, colour.l + tone.lightness)), c: Math.max(0, colour.c * tone.chroma) };
  const shown = clampChroma(there, 'oklch');
  const { r, g, b } = toRgb(shown);
  const channel = (n: number): number => 255 * Math.max(0, Math.min(1, n));
  return { colour: formatHex(shown) ?? base, rgb: [channel(r), channel(g), channel(b)] };
}

function asSet(base: string): Toned {
  const colour = toRgb(parse(base));
  if (!colour) return { colour: base, rgb: [128, 128, 128] };
  const channel = (n: number): number => 255 * Math.max(0, Math.min(1, n));
  return { colour: formatHex(colour), rgb: [channel(colour.r), channel(colour.g), channel(colour.b)] };
}

/** The colour of a face with this outward normal. */
export function faceColour(base: string, normal: WorldPoint, sun: Sun, ramp: Ramp): string {
  return tonedColour(base, toneAt(ramp, exposure(normal, sun)));
}
