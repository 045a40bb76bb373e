import { composeAffine, invertAffine, type Affine } from '../math/matrix';
import { pathBox, polygonPath, type Path } from '../shape/path';
import { mapInk } from './artwork';
import type { FlatMap } from './map-path';
import { flatInk, type GradientStop, type Ink, type Mark } from './marks';

type Gradient = Exclude<Ink, { readonly kind: 'flat' }>;

/** Places along each side of a path's box at which a gradient's tangent is compared with the gradient. */
const PROBES = 5;
/** Levels of 255 by which they may differ for the tangent to be taken. */
const ALIKE = 0.5;
/** Most steps between two stops. */
const MOST_STEPS = 256;

/**
 * What a gradient-filled path becomes under a map that is not affine: filled with the map's tangent where that is right to
 * half a level of 255 all over the path, else with steps of one level each along the true lines of equal colour, clipped
 * to the path. Steps lie one over the other from the start on; those of a gradient that lets through lie side by side.
 * @param path the path on the flat, and as it is `shown` on the sheet
 */
export function mappedGradient(path: Path, shown: Path, rule: 'nonzero' | 'evenodd', ink: Gradient, { map, tangentAt, carry }: Mapping): Mark {
  const [box, tangent] = [pathBox(path), tangentAt(path)];
  if (tangent && (!box || !differs(ink, map, tangent, box))) return { kind: 'path', path: shown, fill: mapInk(ink, tangent), rule, line: null };
  const marks = !box ? [] : ink.kind === 'linear' ? linearSteps(ink, carry, box) : radialSteps(ink, carry, box, shown);
  return { kind: 'group', node: null, name: 'gradient', clip: { path: shown, rule }, strength: 1, marks };
}

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
  const at = ([a, b, c, d, e, f]: Affine, x: number, y: number): number => Math.max(0, Math.min(1, along(a * x + c * y + e, b * x + d * y + f)));
  const steepest = Math.max(...ink.stops.slice(1).map((stop, i) => levelsBetween(ink.stops[i]!, stop) / Math.max(1e-6, stop.at - ink.stops[i]!.at)), 0);
  for (let i = 0; i < PROBES; i++) {
    for (let k = 0; k < PROBES; k++) {
      const [x, y] = [minX + ((maxX - minX) * i) / (PROBES - 1), minY + ((maxY - minY) * k) / (PROBES - 1)];
      const spot = map(x, y);
      if (spot && Math.abs(at(flat, x, y) - at(drawn, ...spot)) * steepest > ALIKE) return true;
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

interface Step {
  readonly from: number;
  readonly to: number;
  readonly ink: Ink;
}

/** A gradient as steps of one colour each, the first from where it begins, the last to where it ends; both without end. */
function stepsOf({ stops }: Gradient): readonly Step[] {
  const inkAt = (p: GradientStop, q: GradientStop, t: number): Ink => {
    const [a, b] = [channels(p), channels(q)];
    const mixed = a.map((value, i) => value + (b[i]! - value) * t);
    const colour = `#${mixed.slice(0, 3).map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore
    return flatInk(colour, mixed[3]! / 255);
  };
  const [first, last] = [stops[0]!, stops.at(-1)!];
  const steps: Step[] = [{ from: -Infinity, to: first.at, ink: flatInk(first.colour, first.strength) }];
  for (let i = 1; i < stops.length; i++) {
    const [p, q] = [stops[i - 1]!, stops[i]!];
    if (q.at <= p.at) continue;
    const count = Math.max(1, Math.min(MOST_STEPS, Math.ceil(levelsBetween(p, q))));
    for (let k = 0; k < count; k++) {
      const at = (t: number): number => p.at + ((q.at - p.at) * t) / count;
      steps.push({ from: at(k), to: at(k + 1), ink: inkAt(p, q, (k + 0.5) / count) });
    }
  }
  return [...steps, { from: last.at, to: Infinity, ink: flatInk(last.colour, last.strength) }];
}

const isOpaque = ({ stops }: Gradient): boolean => stops.every(({ strength }) => strength === 1);

const filled = (path: Path, ink: Ink): Mark => ({ kind: 'path', path, fill: ink, rule: 'evenodd', line: null });

/** Steps across a linear gradient as strips of its own frame. */
function linearSteps(ink: Extract<Gradient, { kind: 'linear' }>, carry: Mapping['carry'], box: Box): readonly Mark[] {
  const back = invertAffine(ink.frame);
  if (!back) return [];
  const [x0, y0] = ink.from;
  const [dx, dy] = [ink.to[0] - x0, ink.to[1] - y0];
  const square = dx * dx + dy * dy;
  const corners = cornersOf(box).map(([x, y]) => {
    const [px, py] = [back[0] * x + back[2] * y + back[4] - x0, back[1] * x + back[3] * y + back[5] - y0];
    return square === 0 ? ([1, 0] as const) : ([(px * dx + py * dy) / square, (py * dx - px * dy) / square] as const);
  });
  const range = (i: 0 | 1): readonly [number, number] => [Math.min(...corners.map((p) => p[i])), Math.max(...corners.map((p) => p[i]))];
  const [[least, most], [left, right]] = [range(0), range(1)];
  const opaque = isOpaque(ink);
  return stepsOf(ink).flatMap(({ from, to, ink: colour }): readonly Mark[] => {
    const [start, end] = [Math.max(least, from), Math.min(most, opaque ? Infinity : to)];
    if (!(end > start)) return [];
    const strip = [
      [start, left],
      [end, left],
      [end, right],
      [start, right],
    ].flatMap(([t, s]) => {
      // prettier-ignore
      const [x, y] = [x0 + dx * t! - dy * s!, y0 + dy * t! + dx * s!];
      return [ink.frame[0] * x + ink.frame[2] * y + ink.frame[4], ink.frame[1] * x + ink.frame[3] * y + ink.frame[5]];
    });
    return [filled(carry(polygonPath(strip)), colour)];
  });
}

const cornersOf = ({ minX, minY, maxX, maxY }: Box): readonly (readonly [number, number])[] => [[minX, minY], [maxX, minY], [maxX, maxY], [minX, maxY]]; // prettier-ignore

/** Length of the handles of a quarter circle of radius 1. */
const QUARTER = 0.5522847498;

/** Steps across a radial gradient as discs of its own frame, the outermost first, or as rings. */
function radialSteps(ink: Extract<Gradient, { kind: 'radial' }>, carry: Mapping['carry'], box: Box, shown: Path): readonly Mark[] {
  const disc = (t: number): Path => {
    const [x, y, r] = [ink.focus[0] + (ink.centre[0] - ink.focus[0]) * t, ink.focus[1] + (ink.centre[1] - ink.focus[1]) * t, ink.radius * t];
    const h = QUARTER * r;
    const coords = [x + r, y, x + r, y + h, x + h, y + r, x, y + r, x - h, y + r, x - r, y + h, x - r, y, x - r, y - h, x - h, y - r, x, y - r, x + h, y - r, x + r, y - h, x + r, y]; // prettier-ignore
    const [a, b, c, d, e, f] = ink.frame;
    const placed = coords.flatMap((_, i) => (i % 2 === 0 ? [a * coords[i]! + c * coords[i + 1]! + e, b * coords[i]! + d * coords[i + 1]! + f] : []));
    return carry({ verbs: 'MCCCCZ', coords: placed });
  };
  const steps = stepsOf(ink);
  const outer = steps.at(-1)!;
  const inner = steps.slice(1, -1).reverse();
  const opaque = isOpaque(ink);
  const beyond: Path = opaque ? shown : joined(carry(polygonPath(cornersOf(box).flat())), disc(outer.from));
  const core = steps[0]!.to > 0 ? [filled(disc(steps[0]!.to), steps[0]!.ink)] : [];
  return [
    filled(beyond, outer.ink),
    ...inner.map(({ from, to, ink: colour }) => filled(opaque || from <= 0 ? disc(to) : joined(disc(to), disc(from)), colour)),
    ...core,
  ];
}

const joined = (p: Path, q: Path): Path => ({ verbs: p.verbs + q.verbs, coords: [...p.coords, ...q.coords] });
