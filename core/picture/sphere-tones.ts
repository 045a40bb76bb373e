import { flatInk, type Mark } from '../artwork/marks';
import { directionsAcross, onSphere, type Sphere } from '../geometry/sphere';
import type { Toned } from '../light/tones';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import type { EyeMatrix } from '../projection/projection';
import type { Path } from '../shape/path';
import { patchesPath, type Patch } from '../visibility/patches';
import { bandPath } from '../visibility/sphere-view';
import { differenceOf, STRIP_MISS, within } from './round-tones';
import { seam } from './painted';

/** Halvings of the way from what is turned from the light to what faces it, at least and at most. */
const HALVINGS = [3, 8] as const;

/** What is seen of a sphere. */
export interface SeenSphere {
  readonly form: Sphere;
  /** Its boundary on the sheet. */
  readonly path: Path;
  /** The boundary is not that of all that faces the eye. */
  readonly isBounded: boolean;
}

/**
 * How what is seen of a sphere is filled. Places of one tone lie on circles about the light's direction, so bands between
 * two of them, bounded by exact conics, have one tone each; every band reaches below the next, so that no seam is seen
 * between them. Tones are right to half a step of 255, before they are written in whole steps.
 * @param towards unit direction to the light
 * @param tone by the cosine between the normal and the light
 */
export function sphereFill(
  projection: EyeMatrix,
  { form, path, isBounded }: SeenSphere,
  towards: WorldPoint,
  tone: (cosine: number) => Toned,
): readonly Mark[] {
  // The normals of what is hollow point to the middle.
  const light = form.hollow ? scaleWorld(towards, -1) : towards;
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
  const marks: Mark[] = [];
  starts.forEach(({ low, colour }, i) => {
    const [next, beyond] = [starts[i + 1]?.low ?? 1, starts[i + 2]?.low ?? 1];
    const shown = bandPath(projection, form, { axis: light, low }, { axis: light, low: next });
    // Nothing is seen of it: not of what it reaches below either.
    if (shown?.coords.length === 0) return;
    const exact = bandPath(projection, form, { axis: light, low }, { axis: light, low: beyond });
    // The first has the others on it, so that all is covered.
    const band = marks.length === 0 ? path : (exact ?? patchesPath(projection, bandPatches(form, light, low, beyond)));
    if (band.coords.length === 0) return;
    marks.push({ kind: 'path', path: band, fill: flatInk(colour), rule: marks.length > 0 && !exact ? 'nonzero' : 'evenodd', line: null });
  });
  // Bands are parts of the whole sphere: of a dome, or of what something was cut out of, they may reach beyond.
  return within(path, isBounded || form.low > -1, marks);
}

/** Pieces of a band about an axis, where exact curves run through the near plane: so many all round. */
const AROUND = 180;

function bandPatches(sphere: Sphere, axis: WorldPoint, low: number, high: number): readonly Patch[] {
  const [u, v] = directionsAcross(axis);
  const [from, to] = [Math.acos(Math.max(-1, low)), Math.acos(Math.min(1, high))];
  const rows = Math.max(1, Math.ceil((from - to) / ((2 * Math.PI) / AROUND)));
  const unit = (row: number, column: number): WorldPoint => {
    const [down, turn] = [from + ((to - from) * row) / rows, (2 * Math.PI * column) / AROUND];
    const around = addWorld(scaleWorld(u, Math.cos(turn)), scaleWorld(v, Math.sin(turn)));
    return addWorld(scaleWorld(axis, Math.cos(down)), scaleWorld(around, Math.sin(down)));
  };
  return Array.from({ length: rows * AROUND }, (_, i): Patch => {
    const [row, column] = [Math.floor(i / AROUND), i % AROUND];
    const corners = [unit(row, column), unit(row, column + 1), unit(row + 1, column + 1), unit(row + 1, column)];
    return { corners: corners.map((at) => onSphere(sphere, at)), normal: outward(sphere, unit(row + 0.5, column + 0.5)) };
  });
}

const outward = ({ hollow }: Sphere, unit: WorldPoint): WorldPoint => (hollow ? scaleWorld(unit, -1) : unit);

/** Steps of 255 that a piece of a ball under tones by side may differ from the next, and pieces along a side of an octant at least and at most. */
const SIDE_STEP = 1.5;
const SIDE_PIECES = [4, 24] as const;

/**
 * How what is seen of a sphere is filled where tones go by the sides that face along the axes: between three of them a tone
 * runs evenly with the squares of the normal's components, so pieces with even steps of these have even steps of tone. Each
 * is right to half a step between two pieces.
 */
export function sideFill(projection: EyeMatrix, { form, path }: SeenSphere, tone: (normal: WorldPoint) => Toned): readonly Mark[] {
  const marks: Mark[] = [{ kind: 'path', path, fill: flatInk(tone({ a: 0, b: 0, h: form.hollow ? -1 : 1 }).colour), rule: 'evenodd', line: null }];
  for (const a of [-1, 1])
    for (const b of [-1, 1])
      for (const h of [-1, 1]) {
        const at = (x: number, y: number): WorldPoint => ({ a: a * Math.sqrt(x), b: b * Math.sqrt(y), h: h * Math.sqrt(Math.max(0, 1 - x - y)) });
        const [p, q, r] = [at(1, 0), at(0, 1), at(0, 0)].map((unit) => tone(outward(form, unit))) as [Toned, Toned, Toned];
        const steps = Math.max(differenceOf(p, q), differenceOf(q, r), differenceOf(r, p)) / SIDE_STEP;
        const n = Math.max(SIDE_PIECES[0], Math.min(SIDE_PIECES[1], Math.ceil(steps)));
        const piece = (corners: readonly (readonly [number, number])[]): void => {
          const middle = corners.reduce(([x, y], [i, j]) => [x + i / n / 3, y + j / n / 3], [0, 0]);
          const normal = outward(form, at(middle[0]!, middle[1]!));
          const shown = patchesPath(projection, [{ corners: corners.map(([i, j]) => onSphere(form, at(i / n, j / n))), normal }]);
          if (shown.verbs === '') return;
          const ink = flatInk(tone(normal).colour);
          marks.push({ kind: 'path', path: shown, fill: ink, rule: 'nonzero', line: seam(ink) });
        };
        for (let i = 0; i < n; i++)
          for (let j = 0; i + j < n; j++) {
            piece([[i, j], [i + 1, j], [i, j + 1]]); // prettier-ignore
            if (i + j + 2 <= n) piece([[i + 1, j], [i + 1, j + 1], [i, j + 1]]); // prettier-ignore
          }
      }
  return within(path, true, marks);
}
