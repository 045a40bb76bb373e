import {
  clampChroma,
  converter,
  formatHex,
  modeHsl,
  modeHwb,
  modeLab,
  modeLch,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeP3,
  modeRgb,
  parse,
  useMode,
} from 'culori/fn';
import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { Unit } from '../math/units';

// Every form of colour that CSS Color 4 writes for screens.
[modeRgb, modeLrgb, modeHsl, modeHwb, modeLab, modeLch, modeOklab, modeOklch, modeP3].forEach((mode) => useMode(mode as typeof modeRgb));
const toOklch = converter('oklch');

/**
 * A colour of a paint: `#rrggbb`, or a swatch by its id, `swatch:sea`, perhaps lighter or darker by hundredths of
 * OKLCH lightness (CSS Color 4), `swatch:sea+12` or `swatch:sea-8`.
 */
export type Colour = string;

/** A named colour of the palette. Whatever is painted with it follows it. */
export interface Swatch {
  readonly id: string;
  readonly name: string;
  /** `#rrggbb`. */
  readonly colour: string;
}

/** A stop of a gradient: place 0 to 1, colour, strength 0 to 1. */
export interface PaintStop {
  readonly at: number;
  readonly colour: Colour;
  readonly strength: number;
}

/**
 * A gradient whose handles lie in the shape's plane, in cells. `edge` is a point on the rim of a radial one, and of one
 * around a point (conic) a place of the ray at which it begins; it runs from there by way of the plane's u to its v, or
 * the other way.
 */
export type Gradient =
  | { readonly kind: 'linear'; readonly from: PlanePoint; readonly to: PlanePoint; readonly stops: readonly PaintStop[] }
  | { readonly kind: 'radial'; readonly centre: PlanePoint; readonly edge: PlanePoint; readonly stops: readonly PaintStop[] }
  | {
      readonly kind: 'conic';
      readonly centre: PlanePoint;
      readonly edge: PlanePoint;
      readonly otherWay?: true;
      readonly stops: readonly PaintStop[];
    };

/** What an area is filled with: one colour, or a gradient with handles in the plane. */
export type Fill = Colour | Gradient;

/** The separable blend modes of W3C Compositing 1, and `normal`. */
export const BLENDS = ['normal', 'multiply', 'screen', 'overlay', 'darken', 'lighten', 'soft-light', 'hard-light', 'difference'] as const;
/** How a thing mixes with what lies under it. */
export type Blend = (typeof BLENDS)[number];

/** A line drawn along a boundary. */
export interface LinePaint {
  readonly colour: Colour;
  /** In mm: of the sheet, or of the plane where it lies there. */
  readonly width: number;
  /** The unit in which the width is shown and typed; mm without. */
  readonly unit?: Unit;
  /** `plane`: foreshortened with the plane, and thinner with distance. Else one width on the sheet. */
  readonly on?: 'plane';
  /** Round without. */
  readonly cap?: 'butt' | 'square';
  readonly join?: 'miter' | 'bevel';
  /** Lengths of dashes and gaps in turn, as multiples of the width; unbroken without. */
  readonly dashes?: readonly number[];
}

/** Paint of a shape. On planes, `fill` is the base colour that the light's ramp tones; on the sheet it is kept. */
export interface Paint {
  readonly fill: Fill | null;
  readonly line: LinePaint | null;
  /** Opacity of the whole thing from 0 to 1; 1 without. */
  readonly strength?: number;
  /** How it mixes with what lies under it; `normal` without. */
  readonly blend?: Exclude<Blend, 'normal'>;
  /** The fill is kept as it is wherever the light stands; only shadows darken it. */
  readonly unlit?: true;
}

/** The forms that a colour of a paint is written in. */
export const COLOUR_FORM = /^(#[0-9a-f]{6}|swatch:[\w-]+?([+-]\d{1,2})?)$/;

/** A swatch's id and the shift of its lightness in hundredths, or null for a plain colour. */
export function swatchOf(colour: Colour): { readonly id: string; readonly shift: number } | null {
  const match = /^swatch:([\w-]+?)([+-]\d{1,2})?$/.exec(colour);
  return match ? { id: match[1]!, shift: Number(match[2] ?? 0) } : null;
}

/** The colour that follows a swatch. @param shift hundredths of OKLCH lightness, -99 to 99 */
export function followSwatch(id: string, shift = 0): Colour {
  const steps = Math.max(-99, Math.min(99, Math.round(shift)));
  return `swatch:${id}${steps > 0 ? `+${steps}` : steps < 0 ? String(steps) : ''}`;
}

/** What a swatch that is not in the palette looks like: a grey that is told apart from every colour chosen. */
const LOST = '#808080';

/** A colour as `#rrggbb`, swatches looked up. */
export function plainColour(colour: Colour, swatches: readonly Swatch[]): string {
  if (colour.startsWith('#')) return colour;
  const wanted = swatchOf(colour);
  const swatch = wanted && swatches.find((s) => s.id === wanted.id);
  return swatch ? shiftLightness(swatch.colour, wanted.shift) : LOST;
}

/** A colour made lighter or darker in OKLCH, its hue kept, within what sRGB shows. @param hundredths of lightness */
export function shiftLightness(colour: string, hundredths: number): string {
  const parsed = hundredths === 0 ? undefined : toOklch(parse(colour));
  if (!parsed) return colour;
  return formatHex(clampChroma({ ...parsed, l: Math.max(0, Math.min(1, parsed.l + hundredths / 100)) }, 'oklch')) ?? colour;
}

/** Least difference in lightness of OKLCH, of 1, by which letters are told from what they lie on. */
const LEAST_DIFFERENCE = 0.18;

/** A paint that is seen on a colour: as it is where it is told from that by its lightness, else dark on what is light and light on what is dark. */
export function paintSeenOn(paint: Paint, on: string, swatches: readonly Swatch[]): Paint {
  const { fill } = paint;
  const [own, under] = [fill === null ? undefined : toOklch(parse(meanColour(fill, swatches))), toOklch(parse(on))];
  if (!own || !under || Math.abs(own.l - under.l) >= LEAST_DIFFERENCE) return paint;
  return { ...paint, fill: under.l > 0.6 ? '#26242b' : '#f4f0e6' };
}

/** Any CSS colour as `#rrggbb`, its alpha left out; null for a text that is none. */
export function readColour(text: string): string | null {
  const bare = text.trim().replace(/;$/, '');
  const parsed = parse(bare) ?? (/^[0-9a-f]{3}(?:[0-9a-f]{3})?$/i.test(bare) ? parse(`#${bare}`) : undefined);
  return parsed ? (formatHex(clampChroma(toOklch(parsed)!, 'oklch')) ?? null) : null;
}

/** The one colour that stands for a fill: its own, or the middle of a gradient's stops. */
export function meanColour(fill: Fill, swatches: readonly Swatch[]): string {
  if (typeof fill === 'string') return plainColour(fill, swatches);
  const colours = fill.stops.map((stop) => toOklch(parse(plainColour(stop.colour, swatches)))!);
  const mean = (pick: (c: (typeof colours)[number]) => number): number => colours.reduce((sum, c) => sum + pick(c), 0) / colours.length;
  const [x, y] = [mean((c) => c.c * Math.cos(((c.h ?? 0) * Math.PI) / 180)), mean((c) => c.c * Math.sin(((c.h ?? 0) * Math.PI) / 180))];
  const h = (Math.atan2(y, x) * 180) / Math.PI;
  return formatHex(clampChroma({ mode: 'oklch', l: mean((c) => c.l), c: Math.hypot(x, y), h }, 'oklch')) ?? LOST;
}

/** A paint with every colour replaced; the same object where none is another. */
export function mapColours(paint: Paint, map: (colour: Colour) => Colour): Paint {
  const { fill, line } = paint;
  const filled = fill === null ? null : typeof fill === 'string' ? map(fill) : { ...fill, stops: fill.stops.map((s) => ({ ...s, colour: map(s.colour) })) };
  const lined = line && { ...line, colour: map(line.colour) };
  return { ...paint, fill: filled, line: lined };
}

/** A paint under a map of its plane: the handles of gradients go along. The same object where there are none. */
export function mapPaint(paint: Paint, map: (at: PlanePoint) => PlanePoint): Paint {
  const { fill } = paint;
  if (fill === null || typeof fill === 'string') return paint;
  const at = (p: PlanePoint): PlanePoint => {
    const q = map(p);
    return { u: exactCells(q.u), v: exactCells(q.v) };
  };
  if (fill.kind === 'linear') return { ...paint, fill: { ...fill, from: at(fill.from), to: at(fill.to) } };
  const moved = { ...fill, centre: at(fill.centre), edge: at(fill.edge) };
  return { ...paint, fill: moved.kind === 'conic' && mirrors(map, fill.centre) ? reversed(moved) : moved };
}

/** Whether a map of a plane turns what lies about a place over. */
function mirrors(map: (at: PlanePoint) => PlanePoint, { u, v }: PlanePoint): boolean {
  const [o, p, q] = [map({ u, v }), map({ u: u + 1, v }), map({ u, v: v + 1 })];
  return (p.u - o.u) * (q.v - o.v) - (p.v - o.v) * (q.u - o.u) < 0;
}

/** A gradient around a point that runs the other way. */
function reversed({ otherWay, ...rest }: Extract<Gradient, { readonly kind: 'conic' }>): Gradient {
  return otherWay ? rest : { ...rest, otherWay: true };
}

/** The box in cells in which the gradient of a paint lies that belongs to no shape yet. */
export const LOOSE_BOX = { minU: 0, minV: 0, maxU: 8, maxV: 8 } as const;

/** A paint that belongs to no shape yet, its gradient laid across a box. */
export function fitPaint(paint: Paint, box: { readonly minU: number; readonly minV: number; readonly maxU: number; readonly maxV: number }): Paint {
  const along = (share: number, least: number, most: number): number => least + (share / LOOSE_BOX.maxU) * (most - least);
  return mapPaint(paint, (p) => ({ u: along(p.u, box.minU, box.maxU), v: along(p.v, box.minV, box.maxV) }));
}

/** Whether nothing of a paint would be seen on a background: no paint at all, or all of it in the background's colour. */
export function isUnseen(paint: Paint, background: string, swatches: readonly Swatch[], toned = false): boolean {
  if (paint.strength === 0) return true;
  const same = (colour: Colour): boolean => plainColour(colour, swatches) === background;
  const fill = paint.fill !== null && (toned || typeof paint.fill !== 'string' || !same(paint.fill));
  return !fill && (paint.line === null || same(paint.line.colour));
}

/** A colour between two, mixed as gradients are: in sRGB. @param t 0 gives the first, 1 the second */
export function blendColours(from: string, to: string, t: number): string {
  const channel = (colour: string, i: number): number => parseInt(colour.slice(i, i + 2), 16);
  return `#${[1, 3, 5].map((i) => Math.round(channel(from, i) + (channel(to, i) - channel(from, i)) * t).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore
}
