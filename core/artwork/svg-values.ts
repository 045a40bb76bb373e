import { composeAffine, IDENTITY, type Affine } from '../math/matrix';
import type { PathBox } from '../shape/path';
import type { GradientStop, Ink, LineStyle } from './marks';
import { parseTransform } from './transform';

/** An element of an SVG, and the line of the file in which it begins. */
export interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Element[];
  readonly line: number;
}

/** Most lengths of a dash pattern. */
const MAX_DASHES = 64;
/** Farthest place and widest pen, in units of the artwork: beyond, nothing could be kept or drawn. */
export const MAX_PLACE = 1e7;

export const isNear = (numbers: readonly number[]): boolean => numbers.every((n) => Math.abs(n) <= MAX_PLACE);

/** A line without what it is painted with. */
export type Pen = Omit<LineStyle, 'ink' | 'pen'>;

/** How a line is drawn, whatever it is painted with; null where it has no width. */
export function penOf({ attributes }: Element): Pen | null {
  const width = numberOr(attributes['stroke-width'], 1);
  if (width <= 0) return null;
  const cap = attributes['stroke-linecap'];
  const join = attributes['stroke-linejoin'];
  return {
    width,
    cap: cap === 'round' || cap === 'square' ? cap : 'butt',
    join: join === 'round' || join === 'bevel' ? join : 'miter',
    miterLimit: Math.max(1, Math.min(1000, numberOr(attributes['stroke-miterlimit'], 4))),
    dashes: (attributes['stroke-dasharray'] ?? '')
      .split(/[\s,]+/)
      .map(Number)
      .filter((n) => n > 0 && n <= MAX_PLACE)
      .slice(0, MAX_DASHES),
  };
}

/** A gradient's ink, or null where its numbers lead nowhere or it has no stops. */
export function gradientInk(source: Element, strength: number, box: PathBox, map: Affine): Ink | null {
  const { attributes } = source;
  const units = attributes['gradientUnits'] === 'userSpaceOnUse' ? IDENTITY : boxMap(box);
  const inner = attributes['gradientTransform'] ? (parseTransform(attributes['gradientTransform']) ?? IDENTITY) : IDENTITY;
  const frame = composeAffine(composeAffine(map, units), inner);
  const stops: GradientStop[] = source.children
    .filter((child) => child.name === 'stop')
    .map(({ attributes: stop }) => ({
      at: shareOr(stop['offset'], 0),
      colour: colourOr(stop['stop-color']),
      strength: shareOr(stop['stop-opacity'], 1) * strength,
    }));
  const n = (name: string, fallback: number): number => numberOr(attributes[name], fallback);
  const places = ['x1', 'y1', 'x2', 'y2', 'cx', 'cy', 'fx', 'fy', 'r'].map((name) => n(name, 0));
  if (stops.length === 0 || !isNear(frame) || !isNear(places)) return null;
  if (source.name === 'linearGradient') {
    return { kind: 'linear', from: [n('x1', 0), n('y1', 0)], to: [n('x2', 1), n('y2', 0)], stops, frame };
  }
  const centre = [n('cx', 0.5), n('cy', 0.5)] as const;
  return { kind: 'radial', centre, focus: [n('fx', centre[0]), n('fy', centre[1])], radius: Math.max(0, n('r', 0.5)), stops, frame };
}

/** From the unit square to a box. */
export function boxMap(box: PathBox | null): Affine {
  return box ? [box.maxX - box.minX || 1, 0, 0, box.maxY - box.minY || 1, box.minX, box.minY] : IDENTITY;
}

/** A number from 0 to 1. */
export function shareOr(text: string | undefined, fallback: number): number {
  return Math.max(0, Math.min(1, numberOr(text, fallback)));
}

/** A colour as resolvers write it, `#rrggbb`; black for anything else. */
export function colourOr(text: string | undefined): string {
  return text !== undefined && /^#[0-9a-f]{6}$/i.test(text) ? text.toLowerCase() : '#000000';
}

/** A finite number, or what stands in for it. */
export function numberOr(text: string | undefined, fallback: number): number {
  const value = text === undefined || text.trim() === '' ? NaN : Number(text);
  return Number.isFinite(value) ? value : fallback;
}
