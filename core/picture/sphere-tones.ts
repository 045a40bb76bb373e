import { flatInk, type Mark } from '../artwork/marks';
import type { Sphere } from '../geometry/sphere';
import type { Toned } from '../light/tones';
import type { WorldPoint } from '../math/points';
import type { EyeMatrix } from '../projection/projection';
import { CURVE_ERROR } from '../shape/draw-segments';
import type { Path } from '../shape/path';
import { spherePath } from '../visibility/sphere-view';
import { differenceOf, STRIP_MISS } from './round-tones';

/** Halvings of the way from what is turned from the light to what faces it, at least and at most. */
const HALVINGS = [3, 8] as const;

/**
 * How what is seen of a sphere is filled. Places of one tone lie on circles about the light's direction: the darkest
 * tone fills all, and on it lie ever smaller caps of ever lighter tones, each bounded by exact conics, so that no seam
 * is seen between them. Tones are right to half a step of 255, before they are written in whole steps.
 * @param path of all that is seen
 * @param light unit direction to the light
 * @param tone by the cosine between the normal and the light
 */
export function sphereFill(projection: EyeMatrix, sphere: Sphere, path: Path, light: WorldPoint, tone: (cosine: number) => Toned): readonly Mark[] {
  const bounds: number[] = [-1];
  const cut = (from: number, to: number, halvings: number): void => {
    const middle = (from + to) / 2;
    if (
      halvings < HALVINGS[1] &&
      (halvings < HALVINGS[0] || Math.max(differenceOf(tone(from), tone(middle)), differenceOf(tone(middle), tone(to))) > STRIP_MISS)
    ) {
      cut(from, middle, halvings + 1);
      cut(middle, to, halvings + 1);
    } else bounds.push(to);
  };
  cut(-1, 1, 0);
  const toneOf = (i: number): string => tone((bounds[i]! + bounds[i + 1]!) / 2).colour;
  const caps: Mark[] = [];
  let last = toneOf(0);
  for (let i = 1; i + 1 < bounds.length; i++) {
    const colour = toneOf(i);
    if (colour === last) continue;
    const rest = spherePath(projection, sphere, { axis: light, low: bounds[i]! }, CURVE_ERROR);
    // Nothing is seen of the lighter caps where nothing is seen of a larger one.
    if (rest?.coords.length === 0) break;
    if (!rest) continue;
    last = colour;
    caps.push({ kind: 'path', path: rest, fill: flatInk(colour), rule: 'evenodd', line: null });
  }
  const all: Mark = { kind: 'path', path, fill: flatInk(toneOf(0)), rule: 'evenodd', line: null };
  // Caps are parts of the whole sphere: of a dome they may reach below its rim.
  const clip = sphere.low > -1 ? ({ path, rule: 'evenodd' } as const) : null;
  return caps.length === 0 ? [all] : [all, { kind: 'group', node: null, name: '', clip, strength: 1, marks: caps }];
}
