import { flatInk, type Mark } from '../artwork/marks';
import { directionsAcross, onSphere, type Sphere } from '../geometry/sphere';
import type { Toned } from '../light/tones';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import type { EyeMatrix } from '../projection/projection';
import type { Path } from '../shape/path';
import { patchesPath, type Patch } from '../visibility/patches';
import { bandPath, spherePath } from '../visibility/sphere-view';
import { differenceOf, STRIP_MISS, within } from './round-tones';

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

/** Strips round a ball under tones by side, and steps from its middle to a pole, at least and at most. */
const SIDE_STRIPS = [8, 48] as const;

/**
 * How what is seen of a sphere is filled where tones go by the sides that face along the axes, each by the square of the
 * normal's component. Round the upright axis two sides share by the angle alone: strips from pole to pole have one colour
 * each, and every one reaches below the next. Over them caps about that axis lay the upper and the lower tone, each covering
 * as much as its square asks for, so that no piece is seen. Right where a side is faced squarely and along the middle; between
 * them colours are mixed as painters mix them, some steps of 255 from the mixture of tones.
 */
export function sideFill(projection: EyeMatrix, { form, path }: SeenSphere, tone: (normal: WorldPoint) => Toned): readonly Mark[] {
  const level = (turn: number): WorldPoint => ({ a: Math.cos(turn), b: Math.sin(turn), h: 0 });
  const at = (turn: number): Toned => tone(outward(form, level(turn)));
  const quarters = [0, 1, 2, 3].map((k) => at((k * Math.PI) / 2));
  const most = Math.max(...quarters.map((one, k) => differenceOf(one, quarters[(k + 1) % 4]!)));
  const n = Math.max(SIDE_STRIPS[0], Math.min(SIDE_STRIPS[1], Math.ceil(most)));
  const marks: Mark[] = [{ kind: 'path', path, fill: flatInk(quarters[0]!.colour), rule: 'evenodd', line: null }];
  for (let i = 0; i < 4 * n; i++) {
    const [from, to] = [i, i + (i + 1 < 4 * n ? 2 : 1)].map((k) => (k * Math.PI) / 2 / n) as [number, number];
    const strip = patchesPath(projection, stripPatches(form, from, to));
    if (strip.verbs === '') continue;
    marks.push({ kind: 'path', path: strip, fill: flatInk(at((from + Math.PI / (4 * n)) % (2 * Math.PI)).colour), rule: 'nonzero', line: null });
  }
  for (const h of [1, -1]) {
    const { colour } = tone(outward(form, { a: 0, b: 0, h }));
    let covered = 0;
    for (let i = 0; i < CAPS; i++) {
      const low = i / CAPS;
      // What the caps so far and this one cover together is the square of the height in its middle.
      const share = ((i + 0.5) / CAPS) ** 2;
      const strength = 1 - (1 - share) / (1 - covered);
      covered = share;
      const cap = { axis: { a: 0, b: 0, h }, low };
      const exact = spherePath(projection, { ...form, low: -1 }, cap);
      const shown = exact ?? patchesPath(projection, bandPatches(form, cap.axis, low, 1));
      if (shown.coords.length > 0) marks.push({ kind: 'path', path: shown, fill: flatInk(colour, strength), rule: exact ? 'evenodd' : 'nonzero', line: null });
    }
  }
  return within(path, true, marks);
}

/** Caps from the middle of a ball to a pole, each of which covers a little more. */
const CAPS = 64;
/** Pieces of a strip from pole to pole. */
const DOWN = 90;

function stripPatches(sphere: Sphere, from: number, to: number): readonly Patch[] {
  const unit = (turn: number, row: number): WorldPoint => {
    const rise = (Math.PI * row) / DOWN - Math.PI / 2;
    return { a: Math.cos(turn) * Math.cos(rise), b: Math.sin(turn) * Math.cos(rise), h: Math.sin(rise) };
  };
  return Array.from({ length: DOWN }, (_, row): Patch => {
    const corners = [unit(from, row), unit(to, row), unit(to, row + 1), unit(from, row + 1)];
    return { corners: corners.map((one) => onSphere(sphere, one)), normal: outward(sphere, unit((from + to) / 2, row + 0.5)) };
  });
}
