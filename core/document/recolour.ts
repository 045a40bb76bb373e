import { clampChroma, converter, formatHex, modeOklch, modeRgb, parse, useMode, type Oklch } from 'culori/fn';
import type { SingleEdit } from './edits';
import { shapesIn } from './tree';
import type { CheminDocument, DocumentNode, ShapeNode } from './types';
import { plainColour, type Colour, type Fill, type Paint } from '../paint/paint';

useMode(modeRgb);
useMode(modeOklch);
const toOklch = converter('oklch');

/** Colours that go together, by name. */
export interface Palette {
  readonly name: string;
  /** `#rrggbb`. */
  readonly colours: readonly string[];
}

/** Our own palettes, each from dark to light. */
export const PALETTES: readonly Palette[] = [
  { name: 'Low tide', colours: ['#274156', '#4f7c82', '#a89f85', '#dcc9a3', '#f4ead3'] },
  { name: 'Brick yard', colours: ['#3b2a2a', '#8c3b2e', '#c8704a', '#e3b07c', '#f5e3c8'] },
  { name: 'Night ferry', colours: ['#161c36', '#37427a', '#7a5f9a', '#d08a8f', '#f3cf9a'] },
  { name: 'Moss and slate', colours: ['#28332f', '#4b5f4d', '#8a9a6a', '#c3c9ae', '#eef0e0'] },
  { name: 'Sorbet', colours: ['#5b3a5e', '#c25a7c', '#f09a7e', '#f7cf8d', '#fdf1d8'] },
  { name: 'Graphite', colours: ['#23262b', '#4d535c', '#868d96', '#bfc4ca', '#eceef0'] },
];

/** How far a colour may stay lighter or darker than the one of the palette that it becomes, of 1. */
const KEPT_LIGHTNESS = 0.07;

/**
 * What each of some colours becomes in a palette: by the order of their lightness, so that what was darkest becomes the
 * palette's darkest; several that become one keep a little of their difference.
 */
export function recoloured(colours: readonly string[], palette: readonly string[]): ReadonlyMap<string, string> {
  const known = [...new Set(colours)].flatMap((colour) => {
    const there = toOklch(parse(colour));
    return there ? [{ colour, lightness: there.l }] : [];
  });
  known.sort((p, q) => p.lightness - q.lightness);
  const wanted = palette.flatMap((colour) => toOklch(parse(colour)) ?? []).sort((p, q) => p.l - q.l);
  const become = new Map<string, string>();
  if (wanted.length === 0) return become;
  const groups: (typeof known)[] = wanted.map(() => []);
  known.forEach((one, i) => groups[Math.min(wanted.length - 1, Math.floor((i * wanted.length) / known.length))]!.push(one));
  groups.forEach((group, i) => {
    const mean = group.reduce((sum, { lightness }) => sum + lightness, 0) / Math.max(1, group.length);
    for (const { colour, lightness } of group) {
      const by = Math.max(-KEPT_LIGHTNESS, Math.min(KEPT_LIGHTNESS, lightness - mean));
      const there: Oklch = { ...wanted[i]!, l: Math.max(0, Math.min(1, wanted[i]!.l + by)) };
      become.set(colour, formatHex(clampChroma(there, 'oklch')));
    }
  });
  return become;
}

/**
 * The edits that paint things, or everything, in another palette. Colours that follow a swatch go on following it: where
 * all is painted anew the swatches are; else what follows one is parted from it.
 */
export function recolourEdits(document: CheminDocument, nodes: readonly DocumentNode[] | null, palette: readonly string[]): readonly SingleEdit[] {
  const shapes = shapesIn(nodes ?? document.nodes);
  const plain = (colour: Colour): string => plainColour(colour, document.swatches);
  const follows = (colour: Colour): boolean => nodes === null && colour.startsWith('swatch:');
  const used = shapes.flatMap(paintsOf).flatMap(({ fill }) => coloursOf(fill).map(plain));
  const become = recoloured([...used, ...(nodes === null ? document.swatches.map(({ colour }) => colour) : [])], palette);
  const changed = (colour: Colour): Colour => (follows(colour) ? colour : (become.get(plain(colour)) ?? colour));
  const repainted = shapes.map((shape): ShapeNode => {
    const surfaces = shape.surfaces && Object.fromEntries(Object.entries(shape.surfaces).map(([name, paint]) => [name, withFill(paint, changed)]));
    return { ...shape, paint: withFill(shape.paint, changed), ...(surfaces && { surfaces }) };
  });
  const swatches = nodes === null && document.swatches.length > 0 ? document.swatches.map((swatch) => ({ ...swatch, colour: become.get(swatch.colour) ?? swatch.colour })) : null; // prettier-ignore
  return [...(repainted.length > 0 ? [{ kind: 'change', nodes: repainted } as const] : []), ...(swatches ? [{ kind: 'swatches', swatches } as const] : [])];
}

const paintsOf = ({ paint, surfaces }: ShapeNode): readonly Paint[] => [paint, ...Object.values(surfaces ?? {})];

const coloursOf = (fill: Fill | null): readonly Colour[] => (fill === null ? [] : typeof fill === 'string' ? [fill] : fill.stops.map(({ colour }) => colour));

function withFill(paint: Paint, changed: (colour: Colour) => Colour): Paint {
  const { fill } = paint;
  if (fill === null) return paint;
  return { ...paint, fill: typeof fill === 'string' ? changed(fill) : { ...fill, stops: fill.stops.map((stop) => ({ ...stop, colour: changed(stop.colour) })) } }; // prettier-ignore
}
