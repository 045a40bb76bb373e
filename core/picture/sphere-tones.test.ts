import type { Mark } from '../artwork/marks';
import type { Sphere } from '../geometry/sphere';
import { fixedTone, toned } from '../light/tones';
import { dotWorld, unitWorld, type WorldPoint } from '../math/points';
import { isometricSetup } from '../projection/setup';
import { projectionFrom, sheetFromWorld } from '../projection/projection';
import { coversPlace } from '../testing/painted-at';
import { randomFrom, runs } from '../testing/random';
import { spherePath } from '../visibility/sphere-view';
import { sideFill, sphereFill } from './sphere-tones';

const projection = projectionFrom(isometricSetup({ x: 150, y: 150 }));
const TONES = { top: { lightness: 0.12, chroma: 1 }, left: { lightness: -0.05, chroma: 1 }, right: { lightness: -0.25, chroma: 0.9 } };
const RAMP = { lit: { lightness: 0.1, chroma: 0.94 }, grazed: { lightness: -0.13, chroma: 1 }, turned: { lightness: -0.34, chroma: 0.9 } };

/** The colour that marks leave at a place, one laid over the other; null where nothing is. */
function colourAt(marks: readonly Mark[], x: number, y: number, under: readonly number[] | null = null): readonly number[] | null {
  return marks.reduce<readonly number[] | null>((below, mark) => {
    if (mark.kind === 'group') return !mark.clip || coversPlace(mark.clip.path, mark.clip.rule, x, y) ? colourAt(mark.marks, x, y, below) : below;
    if (mark.kind !== 'path' || mark.fill?.kind !== 'flat' || !coversPlace(mark.path, mark.rule, x, y)) return below;
    const { colour, strength } = mark.fill;
    return [1, 3, 5].map((i, k) => {
      const over = parseInt(colour.slice(i, i + 2), 16);
      return below ? below[k]! + (over - below[k]!) * strength : over;
    });
  }, under);
}

function placesOn(sphere: Sphere, seed: number, count: number): readonly { readonly normal: WorldPoint; readonly x: number; readonly y: number }[] {
  const random = randomFrom(seed);
  const towards = unitWorld({ a: -1, b: -1, h: Math.SQRT2 * Math.tan((35.264 * Math.PI) / 180) })!;
  return Array.from({ length: count }, () => unitWorld({ a: random() * 2 - 1, b: random() * 2 - 1, h: random() * 2 - 1 })!)
    .filter((unit) => dotWorld(unit, towards) > 0.05)
    .map((normal) => ({ normal, ...sheetFromWorld(projection, { a: sphere.centre.a + normal.a * sphere.radius, b: sphere.centre.b + normal.b * sphere.radius, h: sphere.centre.h + normal.h * sphere.radius })! })); // prettier-ignore
}

describe('balls under tones by side', () => {
  const sphere: Sphere = { kind: 'sphere', centre: { a: 0, b: 0, h: 0 }, radius: 20, axis: { a: 0, b: 0, h: 1 }, low: -1 };
  const tone = (normal: WorldPoint) => toned('#7fa8b8', fixedTone(TONES, RAMP, normal));

  it('have the tones that were chosen where a side is faced, and pass from one to the next evenly', () => {
    const marks = sideFill(projection, { form: sphere, path: spherePath(projection, sphere)!, isBounded: false }, tone);
    let most = 0;
    for (const { normal, x, y } of placesOn(sphere, 5, runs(400))) {
      const seen = colourAt(marks, x, y)!;
      expect(seen).not.toBeNull();
      const wanted = tone(normal).rgb;
      most = Math.max(most, ...seen.map((channel, k) => Math.abs(channel - wanted[k]!)));
    }
    expect(most).toBeLessThan(12);
    const sides: readonly WorldPoint[] = [{ a: 0, b: 0, h: 1 }, { a: -1, b: 0, h: 0 }, { a: 0, b: -1, h: 0 }]; // prettier-ignore
    for (const normal of sides) {
      const at = sheetFromWorld(projection, { a: normal.a * 19.99, b: normal.b * 19.99, h: normal.h * 19.99 })!;
      colourAt(marks, at.x, at.y)!.forEach((channel, k) => expect(Math.abs(channel - tone(normal).rgb[k]!)).toBeLessThan(3));
    }
  });

  it('cover all of what is left of a dome, whatever its tones', () => {
    const dome: Sphere = { ...sphere, low: 0.2 };
    const path = spherePath(projection, dome)!;
    const grey = toned('#7fa8b8', { lightness: 0, chroma: 1 });
    for (const marks of [
      sideFill(projection, { form: dome, path, isBounded: false }, tone),
      sphereFill(projection, { form: dome, path, isBounded: false }, { a: 0, b: 0, h: 1 }, () => grey),
    ]) {
      for (const { x, y } of placesOn(dome, 6, runs(300))) expect([x, y, colourAt(marks, x, y) !== null]).toEqual([x, y, coversPlace(path, 'evenodd', x, y)]);
    }
  });
});
