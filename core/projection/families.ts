import { degrees } from '../math/figures';
import type { SheetPoint } from '../math/points';
import { isometricSetup, type FamilyKey } from './setup';
import type { ParallelSetup } from './axes';

/** A family as it is offered: its name and, in one sentence, what it is for. */
export interface Family {
  readonly key: FamilyKey;
  readonly name: string;
  readonly purpose: string;
  /** Names that a projection of this family may rightly have after its values were changed. */
  readonly covers: readonly FamilyKey[];
}

const family = (key: FamilyKey, name: string, purpose: string, ...also: FamilyKey[]): Family => ({ key, name, purpose, covers: [key, ...also] });

/** All families in the order in which they are offered. */
export const FAMILIES: readonly Family[] = [
  family('isometric', 'isometric', 'Objects and scenes in which every side is worth the same; lengths are read off all three axes.'),
  family('pixel', 'pixel isometric 2:1', 'Screen graphics: edges rise one pixel for every two, so that they stay crisp.'),
  family('dimetric', 'dimetric', 'Two axes alike, the third its own: more top, or more sides, than isometric shows.'),
  family('trimetric', 'trimetric', 'Every axis its own: the most natural of the parallel views, good for lettering.'),
  family(
    'axonometric',
    'axonometric, free angles',
    'Two floor angles of your own, with true foreshortening where that is possible.',
    'isometric',
    'pixel',
    'dimetric',
    'trimetric',
  ),
  family('cavalier', 'cavalier', 'The front in true shape and depth at full length: quick, measurable, for diagrams.'),
  family('cabinet', 'cabinet', 'The front in true shape and depth halved: fronts and fittings that look right.'),
  family('oblique', 'oblique, free', 'The front in true shape, depth at an angle and a ratio of your own.', 'cavalier', 'cabinet'),
  family('planometric', 'planometric', 'The floor in true shape, turned, with heights standing on it: plans seen from above.'),
  family('one-point', 'one-point perspective', 'Looking straight along b: fronts in true shape, one vanishing point.'),
  family('two-point', 'two-point perspective', 'Two walls receding, uprights upright: buildings, boards and streets.'),
  family('three-point', 'three-point perspective', 'Uprights converge too: looking up at something tall, or down on it.'),
];

/** The family with this key. */
export function familyOf(key: FamilyKey): Family {
  return FAMILIES.find((f) => f.key === key) ?? FAMILIES[0]!;
}

/** The slope of one in two, in degrees. */
export const PIXEL_DEG = degrees(Math.atan(0.5));

/**
 * The set-up that a parallel family starts with; null for perspectives, which need a subject to look at.
 * Dimetric starts with both floor angles at 20 degrees, trimetric with the 7/42 of ISO 5456-3's neighbourhood opened
 * to 15 and 40, planometric with 45/45 at full height.
 */
export function parallelSetup(chosen: FamilyKey, origin: SheetPoint): ParallelSetup | null {
  const isometric = isometricSetup(origin);
  switch (chosen) {
    case 'isometric':
      return isometric;
    case 'pixel':
      return { ...isometric, chosen, aDeg: PIXEL_DEG, bDeg: PIXEL_DEG };
    case 'dimetric':
      return { ...isometric, chosen, aDeg: 20, bDeg: 20, measure: 'true' };
    case 'trimetric':
      return { ...isometric, chosen, aDeg: 40, bDeg: 15, measure: 'true' };
    case 'axonometric':
      return { ...isometric, chosen, aDeg: 25, bDeg: 40, measure: 'true' };
    case 'cavalier':
      return { kind: 'oblique', chosen, angleDeg: 45, ratio: 1, origin };
    case 'cabinet':
      return { kind: 'oblique', chosen, angleDeg: 45, ratio: 0.5, origin };
    case 'oblique':
      return { kind: 'oblique', chosen, angleDeg: 30, ratio: 0.75, origin };
    case 'planometric':
      return { kind: 'planometric', chosen, turnDeg: 45, ratio: 1, origin };
    default:
      return null;
  }
}
