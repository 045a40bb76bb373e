import type { Axis } from '../math/points';
import { drawnAxes, drawnVector } from './axes';
import { FAMILIES, familyOf } from './families';
import type { FamilyKey, PerspectiveSetup, ProjectionSetup } from './setup';
import { vanishingPoints } from './vanishing';

/** The correct name of a projection as it is now, and why. */
export interface Naming {
  readonly key: FamilyKey | 'parallel';
  readonly name: string;
  readonly reason: string;
  /** Where the values no longer fit what was chosen, in words: `no longer isometric: dimetric`. */
  readonly changed: string | null;
}

/** Relative difference below which two drawn lengths or directions count as alike: a thousandth of a px on any sheet. */
const ALIKE = 1e-7;

/**
 * Names a projection by what it draws, not by how it was chosen: orthographic axonometries by how many foreshortenings
 * are alike (ISO 5456-3), oblique and planometric ones by the plane that keeps its true shape, perspectives by their
 * finite vanishing points.
 */
export function nameProjection(setup: ProjectionSetup): Naming {
  const [key, reason] = setup.kind === 'perspective' ? namePerspective(setup) : nameParallel(setup);
  const chosen = familyOf(setup.chosen);
  const name = key === 'parallel' ? 'parallel axonometry' : FAMILIES.find((f) => f.key === key)!.name;
  const fits = key === 'parallel' ? chosen.key === 'axonometric' : chosen.covers.includes(key);
  return { key, name, reason, changed: fits ? null : `no longer ${chosen.name}: ${name}` };
}

function nameParallel(setup: Exclude<ProjectionSetup, PerspectiveSetup>): readonly [FamilyKey | 'parallel', string] {
  const axes = drawnAxes(setup);
  const [a, b, h] = [drawnVector(axes.a), drawnVector(axes.b), drawnVector(axes.h)];
  const [ka, kb, kh] = [axes.a.ratio, axes.b.ratio, axes.h.ratio];
  const size = ka * ka + kb * kb + kh * kh;
  const alike = (p: number, q: number): boolean => Math.abs(p - q) <= ALIKE * (Math.abs(p) + Math.abs(q));
  const square = (p: { x: number; y: number }, q: { x: number; y: number }): boolean => Math.abs(p.x * q.x + p.y * q.y) <= ALIKE * size;
  const isPixel = alike(a.x, -b.x) && alike(a.y, b.y) && alike(Math.abs(a.x), 2 * Math.abs(a.y));
  // Gauss: the squares of the drawn axes as complex numbers add up to nothing.
  const real = a.x * a.x - a.y * a.y + b.x * b.x - b.y * b.y + h.x * h.x - h.y * h.y;
  const imaginary = 2 * (a.x * a.y + b.x * b.y + h.x * h.y);
  if (Math.hypot(real, imaginary) <= ALIKE * size) {
    const below = setup.kind === 'axonometric' && setup.aDeg + setup.bDeg < 0 ? ', seen from below' : '';
    if (alike(ka, kb) && alike(kb, kh)) return ['isometric', `the three axes are drawn 120° apart and shortened alike${below}`];
    if (isPixel) return ['pixel', `floor edges rise one for every two; strictly it is dimetric, since h is shortened less${below}`];
    const pair = alike(ka, kb) ? 'a and b' : alike(kb, kh) ? 'b and h' : alike(ka, kh) ? 'a and h' : null;
    if (pair) return ['dimetric', `${pair} are shortened alike, the third axis is not${below}`];
    return ['trimetric', `each axis is shortened differently${below}`];
  }
  if (square(a, b) && alike(ka, kb)) return ['planometric', 'the floor keeps its true shape'];
  if (square(a, h) && alike(ka, kh)) return nameOblique('the facing wall', kb / ka);
  if (square(b, h) && alike(kb, kh)) return nameOblique('the left wall', ka / kb);
  return ['parallel', 'its axes are not drawn as seen square on, and no plane keeps its true shape'];
}

function nameOblique(wall: string, ratio: number): readonly [FamilyKey, string] {
  const keeps = `${wall} keeps its true shape`;
  if (Math.abs(ratio - 1) < ALIKE) return ['cavalier', `${keeps} and depth its full length`];
  if (Math.abs(ratio - 0.5) < ALIKE) return ['cabinet', `${keeps} and depth is halved`];
  return ['oblique', keeps];
}

function namePerspective(setup: PerspectiveSetup): readonly [FamilyKey, string] {
  const points = vanishingPoints(setup);
  const along = (['a', 'b', 'h'] as const).filter((axis) => points[axis].w === 0);
  if (along.length === 2) return ['one-point', `${along.join(' and ')} run along the picture; only what runs along ${other(along)} meets in a point`];
  if (along.length === 1) return ['two-point', `${along[0]!} runs along the picture; the other two axes have a vanishing point each`];
  return ['three-point', 'no axis runs along the picture, so each has its vanishing point'];
}

function other(axes: readonly Axis[]): Axis {
  return (['a', 'b', 'h'] as const).find((axis) => !axes.includes(axis)) ?? 'b';
}
