import { flatInk, type Mark } from '../artwork/marks';
import type { Sphere } from '../geometry/sphere';
import type { Toned } from '../light/tones';
import type { WorldPoint } from '../math/points';
import type { EyeMatrix } from '../projection/projection';
import type { Path } from '../shape/path';
import { bandPath } from '../visibility/sphere-view';
import { differenceOf, STRIP_MISS } from './round-tones';

/** Halvings of the way from what is turned from the light to what faces it, at least and at most. */
const HALVINGS = [3, 8] as const;

/**
 * How what is seen of a sphere is filled. Places of one tone lie on circles about the light's direction, so bands between
 * two of them, bounded by exact conics, have one tone each; every band reaches below the next, so that no seam is seen
 * between them. Tones are right to half a step of 255, before they are written in whole steps.
 * @param path of all that is seen
 * @param light unit direction to the light
 * @param tone by the cosine between the normal and the light
 */
export function sphereFill(projection: EyeMatrix, sphere: Sphere, path: Path, light: WorldPoint, tone: (cosine: number) => Toned): readonly Mark[] {
  const bounds: number[] = [-1];
  const cut = (from: number, to: number, halvings: number): void => {
    const middle = (from + to) / 2;
    const steps = Math.max(differenceOf(tone(from), tone(middle)), differenceOf(tone(middle), tone(to)));
    if (halvings < HALVINGS[1] && (halvings < HALVINGS[0] || steps > STRIP_MISS)) {
      cut(from, middle, halvings + 1);
      cut(middle, to, halvings + 1);
    } else bounds.push(to);
  };
  cut(-1, 1, 0);
  // Of bands with one colour one after the other, one.
  const starts: { readonly low: number; readonly colour: string }[] = [];
  for (let i = 0; i + 1 < bounds.length; i++) {
    const { colour } = tone((bounds[i]! + bounds[i + 1]!) / 2);
    if (starts.at(-1)?.colour !== colour) starts.push({ low: bounds[i]!, colour });
  }
  const bands = starts.flatMap(({ low, colour }, i): readonly Mark[] => {
    const [next, beyond] = [starts[i + 1]?.low ?? 1, starts[i + 2]?.low ?? 1];
    const shown = bandPath(projection, sphere, { axis: light, low }, { axis: light, low: next });
    // Nothing is seen of it: not of what it reaches below either.
    if (shown?.coords.length === 0) return [];
    const band = bandPath(projection, sphere, { axis: light, low }, { axis: light, low: beyond });
    return band && band.coords.length > 0 ? [{ kind: 'path', path: band, fill: flatInk(colour), rule: 'evenodd', line: null }] : [];
  });
  if (sphere.low <= -1 || bands.length <= 1) return bands;
  // Caps are parts of the whole sphere: of a dome they may reach below its rim.
  return [{ kind: 'group', node: null, name: '', clip: { path, rule: 'evenodd' }, strength: 1, marks: bands }];
}
