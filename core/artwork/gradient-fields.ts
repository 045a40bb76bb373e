import { composeAffine, invertAffine, type Affine } from '../math/matrix';
import { pathBox, polygonPath, type Path } from '../shape/path';
import { mapInk } from './artwork';
import type { FlatMap } from './map-path';
import type { GradientStop, Ink, Mark } from './marks';

type Gradient = Exclude<Ink, { readonly kind: 'flat' }>;

/** Places along each side of a path's box at which a gradient's tangent is compared with the gradient. */
const PROBES = 5;
/** Levels of 255 by which they may differ for the tangent to be taken. */
const ALIKE = 0.5;
/** Most halvings of a box. */
const DEEPEST = 5;

/**
 * What a gradient-filled path becomes under a map that is not affine: filled with the map's tangent where that is right to
 * half a level of 255 all over the path, else in fields in each of which the tangent of its own middle is, clipped to the
 * path.
 * @param path the path on the flat, and as it is `shown` on the sheet
 */
export function mappedGradient(path: Path, shown: Path, rule: 'nonzero' | 'evenodd', ink: Gradient, mapping: Mapping): Mark {
  const [box, tangent] = [pathBox(path), mapping.tangentAt(ink.kind === 'conic' ? spot(ink.frame) : path)];
  if (tangent && (!box || !differs(ink, mapping.map, tangent, box))) return { kind: 'path', path: shown, fill: mapInk(ink, tangent), rule, line: null };
  return { kind: 'group', node: null, name: 'gradient', clip: { path: shown, rule }, strength: 1, marks: box ? fieldsOf(ink, mapping, box, 0) : [] };
}

/** The centre of a gradient around a point: the tangent there carries every ray of it truly where straight lines stay straight. */
const spot = ([, , , , x, y]: Affine): Path => polygonPath([x, y]);

/** How the flat lies on the sheet about a path. */
export interface Mapping {
  readonly map: FlatMap;
  /** The affine map that touches it in the middle of a path; null where that is not seen. */
  readonly tangentAt: (path: Path) => Affine | null;
  /** A path carried over, without what is not seen of it. */
  readonly carry: (path: Path) => Path;
}

interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** Where along a gradient a place of its own frame lies: 0 at its start, 1 at its end. */
function alongOf(ink: Gradient): (x: number, y: number) => number {
  if (ink.kind === 'linear') {
    const [[x0, y0], [x1, y1]] = [ink.from, ink.to];
    const square = (x1 - x0) ** 2 + (y1 - y0) ** 2;
    return (x, y) => (square === 0 ? 1 : ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / square);
  }
  if (ink.kind === 'conic') return (x, y) => (Math.atan2(y, x) / (2 * Math.PI) + 1) % 1;
  const { centre, focus, radius } = ink;
  // The circle through the place whose middle lies between focus and centre: t as W3C has it (SVG 2, 14.2.3).
  const [dx, dy] = [centre[0] - focus[0], centre[1] - focus[1]];
  const a = dx * dx + dy * dy - radius * radius;
  return (x, y) => {
    const [px, py] = [x - focus[0], y - focus[1]];
    const b = px * dx + py * dy;
    const c = px * px + py * py;
    if (a === 0) return b > 0 ? c / (2 * b) : 1;
    const root = Math.sqrt(Math.max(0, b * b - a * c));
    return Math.max((b + root) / a, (b - root) / a);
  };
}

/** Whether the tangent of a gradient strays from it anywhere in a box. */
function differs(ink: Gradient, map: FlatMap, tangent: Affine, { minX, minY, maxX, maxY }: Box): boolean {
  const [flat, drawn] = [invertAffine(ink.frame), invertAffine(composeAffine(tangent, ink.frame))];
  if (!flat || !drawn) return false;
  const along = alongOf(ink);
  // Beside the ray at which it begins, a gradient around a point is at its end already.
  const apart = (p: number, q: number): number => (ink.kind === 'conic' ? Math.min(Math.abs(p - q), 1 - Math.abs(p - q)) : Math.abs(p - q));
  const at = ([a, b, c, d, e, f]: Affine, x: number, y: number): number => Math.max(0, Math.min(1, along(a * x + c * y + e, b * x + d * y + f)));
  const steepest = Math.max(...ink.stops.slice(1).map((stop, i) => levelsBetween(ink.stops[i]!, stop) / Math.max(1e-6, stop.at - ink.stops[i]!.at)), 0);
  for (let i = 0; i < PROBES; i++) {
    for (let k = 0; k < PROBES; k++) {
      const [x, y] = [minX + ((maxX - minX) * i) / (PROBES - 1), minY + ((maxY - minY) * k) / (PROBES - 1)];
      const seen = map(x, y);
      if (seen && apart(at(flat, x, y), at(drawn, ...seen)) * steepest > ALIKE) return true;
    }
  }
  return false;
}

const channels = ({ colour, strength }: GradientStop): readonly number[] => [...[1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16)), 255 * strength];

/** Levels of 255 between two stops, of the channel that changes most. */
function levelsBetween(p: GradientStop, q: GradientStop): number {
  const [a, b] = [channels(p), channels(q)];
  return Math.max(...a.map((value, i) => Math.abs(value - b[i]!)));
}

const isOpaque = ({ stops }: Gradient): boolean => stops.every(({ strength }) => strength === 1);

/**
 * A box in fields, each filled with the tangent of the map in its own middle, halved both ways until that is right. Under
 * a field lies the larger one that it is a part of, so that nothing else shows where fields meet; where the gradient lets
 * through there is none.
 */
function fieldsOf(ink: Gradient, mapping: Mapping, box: Box, depth: number): readonly Mark[] {
  const { minX, minY, maxX, maxY } = box;
  const corners: Path = polygonPath([minX, minY, maxX, minY, maxX, maxY, minX, maxY]);
  const path = mapping.carry(corners);
  const tangent = path.verbs === '' ? null : mapping.tangentAt(corners);
  if (!tangent) return [];
  const whole: Mark = { kind: 'path', path, fill: mapInk(ink, tangent), rule: 'evenodd', line: null };
  if (depth === DEEPEST || !differs(ink, mapping.map, tangent, box)) return [whole];
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const parts = [[minX, minY, x, y], [x, minY, maxX, y], [minX, y, x, maxY], [x, y, maxX, maxY]] as const; // prettier-ignore
  const inner = parts.flatMap(([left, top, right, bottom]) => fieldsOf(ink, mapping, { minX: left, minY: top, maxX: right, maxY: bottom }, depth + 1));
  return isOpaque(ink) ? [whole, ...inner] : inner;
}
