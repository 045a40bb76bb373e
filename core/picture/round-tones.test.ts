import type { Ink, Mark } from '../artwork/marks';
import { bodyOf } from '../geometry/book';
import { ruledPoint, ruledUnitNormal, type Ruled } from '../geometry/ruled';
import { onSphere, type Sphere } from '../geometry/sphere';
import { exposure, sunDirection, toneAt, toned, type Ramp, type Sun, type Toned } from '../light/tones';
import { containsPoint } from '../math/polygon';
import type { SheetPoint, WorldPoint } from '../math/points';
import { facing, inCells, projectionFrom, sheetFromWorld } from '../projection/projection';
import { ellipseOutline } from '../shape/forms';
import { flattenPath } from '../shape/path';
import { randomFrom } from '../testing/random';
import { FAMILIES } from '../testing/solids';
import { ruledPath, seenStretches } from '../visibility/stretches';
import { spherePath } from '../visibility/sphere-view';
import { roundFill } from './round-tones';
import { sphereFill } from './sphere-tones';

const SUN: Sun = { azimuthDeg: 245, elevationDeg: 50 };
const RAMP: Ramp = { lit: { lightness: 0.1, chroma: 0.94 }, grazed: { lightness: -0.13, chroma: 1 }, turned: { lightness: -0.34, chroma: 0.9 } };
const BASE = '#c98a4b';

const flats = new Map<Mark, ReturnType<typeof flattenPath>>();
function holds(mark: Extract<Mark, { kind: 'path' }>, { x, y }: SheetPoint): boolean {
  let rings = flats.get(mark);
  if (!rings) flats.set(mark, (rings = flattenPath(mark.path, 1e-5)));
  return rings.reduce((inside, ring) => inside !== containsPoint(ring, x, y), false);
}

/** The colour of an ink at a place of the sheet. */
function inkAt(ink: Ink, { x, y }: SheetPoint): readonly number[] {
  if (ink.kind === 'flat') return channels(ink.colour);
  if (ink.kind !== 'linear') throw new Error('no such ink here');
  const [dx, dy] = [ink.to[0] - ink.from[0], ink.to[1] - ink.from[1]];
  const at = ((x - ink.from[0]) * dx + (y - ink.from[1]) * dy) / (dx * dx + dy * dy);
  const i = Math.max(1, ink.stops.findIndex((stop) => stop.at >= at) < 0 ? ink.stops.length - 1 : ink.stops.findIndex((stop) => stop.at >= at)); // prettier-ignore
  const [p, q] = [ink.stops[i - 1]!, ink.stops[i]!];
  const share = q.at === p.at ? 0 : Math.max(0, Math.min(1, (at - p.at) / (q.at - p.at)));
  const [from, to] = [channels(p.colour), channels(q.colour)];
  return from.map((n, k) => n + (to[k]! - n) * share);
}

/** What is painted at a place: of what lies one over the other, the last. */
function colourAt(marks: readonly Mark[], at: SheetPoint): readonly number[] | null {
  let found: readonly number[] | null = null;
  for (const mark of marks) {
    if (mark.kind === 'group') found = colourAt(mark.marks, at) ?? found;
    else if (mark.kind === 'path' && mark.fill && holds(mark, at)) found = inkAt(mark.fill, at);
  }
  return found;
}

const channels = (colour: string): readonly number[] => [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));
const off = (p: readonly number[], { rgb }: Toned): number => Math.max(...rgb.map((n, i) => Math.abs(n - p[i]!)));
const toneOf = (cosine: number): Toned => toned(BASE, toneAt(RAMP, cosine));

describe.each(FAMILIES)('tones of round things: %s', (_, setup) => {
  const projection = inCells(projectionFrom(setup), 8);
  const random = randomFrom(5);
  // Before every eye of these families.
  const [u, v] = [16, 18];

  it.each([
    ['cylinders', undefined],
    ['cones', 0.3],
  ])('%s: have the true tone everywhere, to a step of 255', (_name, taper) => {
    const node = { kind: 'shape', id: 'd', plane: { kind: 'floor', offset: 1 }, outline: ellipseOutline({ u, v }, { u: 3, v: 2 }), depth: 5, ...(taper !== undefined && { taper }) } as const; // prettier-ignore
    const side = bodyOf(node)!.surfaces.find(({ form }) => form.kind !== 'flat')!.form as Ruled;
    const tone = (normal: WorldPoint): Toned => toneOf(exposure(normal, SUN));
    const marks = seenStretches(projection, side).flatMap((stretch) => roundFill(projection, { form: side, stretch, path: ruledPath(projection, side, stretch)!, isBounded: false }, tone)); // prettier-ignore
    let [worst, seen] = [0, 0];
    for (let i = 0; i < 400; i++) {
      const [s, k] = [random() * side.directrix.length, random()];
      const [place, normal] = [ruledPoint(side, s, k), ruledUnitNormal(side, s)!];
      const at = facing(projection, normal, place) > 0.02 ? sheetFromWorld(projection, place) : null;
      const painted = at && colourAt(marks, at);
      if (!painted) continue;
      worst = Math.max(worst, off(painted, tone(normal)));
      seen++;
    }
    expect(seen).toBeGreaterThan(80);
    expect(worst).toBeLessThanOrEqual(1);
  });

  it('balls: have the true tone everywhere, to a step of 255', () => {
    const sphere: Sphere = { kind: 'sphere', centre: { a: u, b: v, h: 3 }, radius: 2, axis: { a: 0, b: 0, h: 1 }, low: -1 };
    const light = sunDirection(SUN);
    const marks = sphereFill(projection, { form: sphere, path: spherePath(projection, sphere)!, isBounded: false }, light, toneOf);
    let [worst, seen] = [0, 0];
    for (let i = 0; i < 400; i++) {
      const [h, turn] = [2 * random() - 1, 2 * Math.PI * random()];
      const out = Math.sqrt(1 - h * h);
      const normal = { a: out * Math.cos(turn), b: out * Math.sin(turn), h };
      const place = onSphere(sphere, normal);
      const at = facing(projection, normal, place) > 0.02 ? sheetFromWorld(projection, place) : null;
      const painted = at && colourAt(marks, at);
      if (!painted) continue;
      worst = Math.max(worst, off(painted, toneOf(exposure(normal, SUN))));
      seen++;
    }
    expect(seen).toBeGreaterThan(80);
    expect(worst).toBeLessThanOrEqual(1);
  });
});
