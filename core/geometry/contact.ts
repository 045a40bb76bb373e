import { turningPlace } from '../math/turning-place';
import { keptBy } from '../math/keep';
import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { pointAt } from '../shape/segments';
import { tangentAt } from '../shape/split';
import type { Form } from './body';
import { apexOf, ruledPoint, ruledUnitNormal, type Ruled } from './ruled';

/** How a place lies to a surface: its distance to first order in cells, positive outside, and the unit normal there. */
export interface Contact {
  readonly off: number;
  readonly normal: WorldPoint;
}

/** How a place near a surface lies to it, whatever its boundary; null where the surface has no normal there. */
export function contactOf(form: Form, p: WorldPoint): Contact | null {
  if (form.kind === 'flat') {
    const { origin, normal } = form.frame;
    return { off: dotWorld(subtractWorld(p, origin), normal), normal };
  }
  if (form.kind === 'sphere') {
    const from = subtractWorld(p, form.centre);
    const normal = unitWorld(from);
    return normal && { off: lengthWorld(from) - form.radius, normal };
  }
  const s = generatorAt(form, p);
  const normal = s === null ? null : ruledUnitNormal(form, s);
  return normal && { off: dotWorld(subtractWorld(p, ruledPoint(form, s!, 0)), normal), normal };
}

/** Places along each segment of a directrix that are looked at first. */
const LOOKS = 16;

const samplesOf = keptBy(({ directrix }: Ruled): readonly PlanePoint[] =>
  directrix.flatMap((segment) => Array.from({ length: LOOKS }, (_, i) => pointAt(segment, (i + 0.5) / LOOKS))),
);

/** The parameter of the generator nearest to a place; null at a cone's apex. */
export function generatorAt(ruled: Ruled, p: WorldPoint): number | null {
  const q = onFirstRim(ruled, p);
  if (!q) return null;
  let [best, least] = [0, Infinity];
  samplesOf(ruled).forEach((at, i) => {
    const square = (at.u - q.u) ** 2 + (at.v - q.v) ** 2;
    if (square < least) [best, least] = [i, square];
  });
  return nearestOn(ruled, q, best);
}

/** Where the generator through a place meets the plane of the first rim, in the rim's coordinates. */
export function onFirstRim(ruled: Ruled, p: WorldPoint): PlanePoint | null {
  const [rim, far] = ruled.rims;
  const across = crossWorld(rim.u, rim.v);
  const level = dotWorld(subtractWorld(p, rim.origin), across);
  let on: WorldPoint;
  if (ruled.kind === 'cone') {
    const apex = apexOf(ruled);
    const from = subtractWorld(p, apex);
    const reach = dotWorld(from, across);
    if (Math.abs(reach) < 1e-9 * lengthWorld(across)) return null;
    on = addWorld(apex, scaleWorld(from, dotWorld(subtractWorld(rim.origin, apex), across) / reach));
  } else {
    const generator = subtractWorld(far.origin, rim.origin);
    on = subtractWorld(p, scaleWorld(generator, level / dotWorld(generator, across)));
  }
  const d = subtractWorld(on, rim.origin);
  const [uu, vv] = [dotWorld(rim.u, rim.u), dotWorld(rim.v, rim.v)];
  return { u: dotWorld(d, rim.u) / uu, v: dotWorld(d, rim.v) / vv };
}

/** The parameter of a directrix nearest to a point, near the look that was nearest: between the looks beside it. */
function nearestOn({ directrix, closed }: Ruled, q: PlanePoint, look: number): number {
  const n = directrix.length;
  const place = (s: number): readonly [number, number] => {
    const whole = closed ? ((s % n) + n) % n : Math.max(0, Math.min(n, s));
    const i = Math.min(n - 1, Math.floor(whole));
    return [i, whole - i];
  };
  // Negative before the nearest place, positive behind it.
  const behind = (s: number): number => {
    const [i, t] = place(s);
    const [p, d] = [pointAt(directrix[i]!, t), tangentAt(directrix[i]!, t)];
    return (p.u - q.u) * d.u + (p.v - q.v) * d.v;
  };
  let low = (look - 0.5) / LOOKS;
  let high = (look + 1.5) / LOOKS;
  if (!closed) [low, high] = [Math.max(0, low), Math.min(n, high)];
  const [atLow, atHigh] = [behind(low), behind(high)];
  const s = atLow >= 0 ? low : atHigh <= 0 ? high : turningPlace(behind, low, atLow, high, atHigh);
  return closed ? ((s % n) + n) % n : s;
}

/** Steps of Newton's method that bring a place onto surfaces; each doubles its digits. */
const STEPS = 6;
/** Sine of the angle under which two normals count as the same: what meets so flatly is told by one of them. */
const FLAT = 1e-5;

/**
 * The place nearest to another that lies on all of some surfaces: on planes exactly, on round ones to rounding. Where
 * surfaces do not meet in one place the first of them are kept to.
 * @param p no farther from them than their facets are
 */
export function placeOn(forms: readonly Form[], p: WorldPoint): WorldPoint {
  let at = p;
  const round = forms.some(({ kind }) => kind !== 'flat');
  for (let step = 0; step < (round ? STEPS : 2); step++) {
    const along: WorldPoint[] = [];
    let next = at;
    for (const form of forms) {
      const contact = contactOf(form, at);
      if (!contact) continue;
      const { off, normal } = contact;
      let across = normal;
      for (const one of along) across = subtractWorld(across, scaleWorld(one, dotWorld(across, one)));
      const length = lengthWorld(across);
      if (length < FLAT) continue;
      // What the steps so far have changed of this distance is part of it.
      const left = off + dotWorld(subtractWorld(next, at), normal);
      next = subtractWorld(next, scaleWorld(across, left / (length * length)));
      along.push(scaleWorld(across, 1 / length));
      if (along.length === 3) break;
    }
    at = next;
  }
  return at;
}
