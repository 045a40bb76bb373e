import type { GradientStop, Ink } from '../artwork/marks';
import { invertAffine } from '../math/matrix';
import { boxPath, mapPath, pathBox, polygonPath, type Path, type PathBox } from '../shape/path';

/** A gradient around a point. */
export type ConicInk = Extract<Ink, { readonly kind: 'conic' }>;

/** A wedge of one colour, `#rrggbb`, with a strength from 0 to 1. */
export interface Wedge {
  readonly path: Path;
  readonly colour: string;
  readonly strength: number;
}

/** Whether a gradient lets through what lies under it. */
export const isThin = ({ stops }: Pick<ConicInk, 'stops'>): boolean => stops.some(({ strength }) => strength < 1);

/** A strength as the grey of a mask. */
export function greyOf(strength: number): string {
  const level = Math.round(255 * strength)
    .toString(16)
    .padStart(2, '0');
  return `#${level}${level}${level}`;
}

/** Widest piece of a wedge's far side, in parts of a turn: short enough that its chord stays outside the circle of the box. */
const WIDEST = 1 / 6;

/**
 * A gradient around a point as wedges, for files that know straight and radial gradients alone: as many as there are
 * levels of 255 between its stops, so that none is off by more than half a level. Each reaches under the next and the
 * last lies under the first, so that nothing shines through between them.
 * @param covered the path of the sheet that is filled
 */
export function conicFan(ink: ConicInk, covered: Path): readonly Wedge[] {
  const box = pathBox(covered);
  const radius = box && reachOf(ink, box);
  if (radius === null) return [];
  const wedge = (from: number, to: number, { start, end }: Stretch): Wedge => {
    const count = Math.max(1, Math.ceil((to - from) / WIDEST));
    const far = Array.from({ length: count + 1 }, (_, i) => {
      const turn = 2 * Math.PI * (from + ((to - from) * i) / count);
      return [radius * Math.cos(turn), radius * Math.sin(turn)];
    });
    const [r = 0, g = 0, b = 0, alpha = 0] = start.map((value, i) => (value + end[i]!) / 2);
    const colour = `#${[r, g, b].map((n) => Math.round(n).toString(16).padStart(2, '0')).join('')}`;
    return { path: mapPath(polygonPath([0, 0, ...far.flat()]), ink.frame), colour, strength: alpha / 255 };
  };
  const steps = stretchesOf(ink.stops, 1);
  const [first, last] = [steps[0]!, steps.at(-1)!];
  const under = wedge(1 - (1 - last.from) / 2, 1 + (first.to - first.from) / 2, last);
  return [under, ...steps.map((step, i) => wedge(step.from, steps[i + 1]?.to ?? step.to, step))];
}

/** A stretch of a turn with its colours at both ends: red, green, blue and strength, 0 to 255. */
interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly start: readonly number[];
  readonly end: readonly number[];
}

const rgbaOf = ({ colour, strength }: GradientStop): readonly number[] => [
  ...[1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16)),
  255 * Math.max(0, Math.min(1, strength)),
];

/** A turn in stretches over which no channel changes by more than some levels of 255. */
function stretchesOf(stops: readonly GradientStop[], levels: number): readonly Stretch[] {
  const stretches: Stretch[] = [];
  let [at, rgba] = [0, rgbaOf(stops[0]!)];
  for (const stop of [...stops, { ...stops.at(-1)!, at: 1 }]) {
    const [until, next] = [Math.max(at, Math.min(1, stop.at)), rgbaOf(stop)];
    const [from, start] = [at, rgba];
    const count = Math.max(1, Math.ceil(Math.max(...start.map((value, i) => Math.abs(value - next[i]!))) / levels));
    const mixed = (k: number): readonly number[] => start.map((value, i) => value + (next[i]! - value) * k);
    for (let i = 0; i < count && until > from; i++) {
      const [k, l] = [i / count, (i + 1) / count];
      stretches.push({ from: from + (until - from) * k, to: from + (until - from) * l, start: mixed(k), end: mixed(l) });
    }
    [at, rgba] = [until, next];
  }
  return stretches;
}

/** Levels of 255 over which the colours of a triangle of a mesh run: at the centre it has the mean of both. */
const LEVELS = 3;

/**
 * A gradient around a point as triangles about its centre with a colour at each corner, for files that shade meshes.
 * @param covered what is filled, on the sheet
 * @returns for each triangle its corners in the gradient's own frame, and red, green, blue and strength there, 0 to 255
 */
export function conicMesh(ink: ConicInk, covered: PathBox): readonly (readonly MeshCorner[])[] {
  const radius = reachOf(ink, covered);
  if (radius === null) return [];
  return stretchesOf(ink.stops, LEVELS).flatMap(({ from, to, start, end }) => {
    const count = Math.max(1, Math.ceil((to - from) / WIDEST));
    const corner = (k: number): MeshCorner => {
      const turn = 2 * Math.PI * (from + (to - from) * k);
      return { x: radius * Math.cos(turn), y: radius * Math.sin(turn), rgba: start.map((value, i) => value + (end[i]! - value) * k) };
    };
    return Array.from({ length: count }, (_, i) => {
      const [p, q] = [corner(i / count), corner((i + 1) / count)];
      return [{ x: 0, y: 0, rgba: p.rgba.map((value, k) => (value + q.rgba[k]!) / 2) }, p, q];
    });
  });
}

/** A corner of a mesh with red, green, blue and strength there, 0 to 255. */
export interface MeshCorner {
  readonly x: number;
  readonly y: number;
  readonly rgba: readonly number[];
}

/** How far wedges reach in a gradient's own frame to cover a box of the sheet; null where it has no frame. */
function reachOf(ink: ConicInk, box: PathBox): number | null {
  const inverse = invertAffine(ink.frame);
  if (!inverse) return null;
  const { coords } = mapPath(boxPath(box), inverse);
  let reach = 0;
  for (let i = 0; i < coords.length; i += 2) reach = Math.max(reach, Math.hypot(coords[i]!, coords[i + 1]!));
  return (reach * 1.01) / Math.cos(Math.PI * WIDEST);
}
