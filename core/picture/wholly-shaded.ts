import type { Mark } from '../artwork/marks';
import { channelsOf, hexOf } from '../light/channels';
import { signedArea } from '../math/polygon';
import { areasOf } from '../visibility/areas-of';
import type { Area, DrawnSurface } from '../visibility/drawn-body';
import type { Layer } from './soft-edges';

/** Mm along its boundary, and part of a surface, by which a shadow over all of it may miss it: what whole numbers and chords leave. */
const MISS = 0.004;
const LEFT_OUT = 1e-6;
/** How near to full a shadow counts as full. */
const FULL = 1 - 1e-9;

/** The layers of shadow that lie over all of a surface, as one, and what lies over parts of it. */
export interface WhollyShaded {
  readonly strength: number;
  readonly rest: readonly Layer[];
}

/**
 * What of the shadows on a surface lies over all of it. Painted over the lit surface, the lit colour would show through
 * along its edges, where each layer covers half of a px; the surface is painted in its darker colour instead. Layers are
 * of one colour, so their order does not matter. Null where none lies over all of it.
 */
export function whollyShaded(layers: readonly Layer[], surface: DrawnSurface): WhollyShaded | null {
  if (layers.length === 0) return null;
  const [whole, boundary] = [sizeOf(surface.outline), lengthOf(surface.outline)];
  const covers = ({ path, rough, through }: Layer): boolean => !rough && !through && sizeOf(areasOf(path)) > whole * (1 - LEFT_OUT) - MISS * boundary;
  const over = layers.filter(covers);
  if (over.length === 0) return null;
  const strength = 1 - over.reduce((left, layer) => left * (1 - layer.strength), 1);
  return { strength, rest: layers.filter((layer) => !over.includes(layer)) };
}

/** The marks of a surface with a shadow over all of it, of those of it lit and of it covered; null where they cannot be mixed. */
export function inShade(lit: readonly Mark[], covered: readonly Mark[], strength: number): readonly Mark[] | null {
  if (strength > FULL) return covered;
  const [from, to] = [lit[0], covered[0]];
  if (lit.length !== 1 || covered.length !== 1 || from?.kind !== 'path' || to?.kind !== 'path' || from.fill?.kind !== 'flat' || to.fill?.kind !== 'flat') return null; // prettier-ignore
  const [p, q] = [channelsOf(from.fill.colour), channelsOf(to.fill.colour)];
  const fill = { ...from.fill, colour: hexOf(p.map((value, i) => value + (q[i]! - value) * strength)) };
  const { line } = from;
  // The seam that closes hair lines is in the colour of the fill.
  return [{ ...from, fill, line: line && { ...line, ink: fill } }];
}

function sizeOf(areas: readonly Area[]): number {
  const size = (ring: ArrayLike<number>): number => Math.abs(signedArea(ring));
  return areas.reduce((sum, { polygon, holes = [] }) => holes.reduce((rest, hole) => rest - size(hole), sum + size(polygon)), 0);
}

function lengthOf(areas: readonly Area[]): number {
  return areas.reduce((sum, { polygon }) => {
    for (let i = 0, j = polygon.length - 2; i < polygon.length; j = i, i += 2) sum += Math.hypot(polygon[i]! - polygon[j]!, polygon[i + 1]! - polygon[j + 1]!);
    return sum;
  }, 0);
}
