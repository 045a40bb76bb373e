import { flatInk, type GradientStop, type Ink, type Mark } from '../artwork/marks';
import { ruledNormal, ruledPoint, ruledUnitNormal, type Ruled } from '../geometry/ruled';
import { IDENTITY } from '../math/matrix';
import type { Toned } from '../light/tones';
import type { SheetPoint, WorldPoint } from '../math/points';
import { sheetFromWorld, type EyeMatrix } from '../projection/projection';
import type { Path } from '../shape/path';
import { patchesPath, type Patch } from '../visibility/patches';
import { ruledPath, type Stretch } from '../visibility/stretches';
import { FOUND_PARAMETER } from '../math/tolerances';

/** Steps of 255 by which a colour between two stops may miss the true tone, before both are written in whole steps. */
const MISS = 0.25;
/** Steps of 255 by which the tone of a strip, which is that of its middle, may miss those at its sides. */
export const STRIP_MISS = 0.5;
/** Halvings of a stretch between two stops, or of one into strips, at least and at most. */
const HALVINGS = [2, 8] as const;
/** Distance in mm by which generators may fail to run parallel on the sheet and still count as doing so. */
const PARALLEL = 1e-6;

/** A stretch of a round side as it is seen. */
export interface RoundSide {
  readonly form: Ruled;
  readonly stretch: Stretch;
  /** Its boundary on the sheet. */
  readonly path: Path;
  /** The boundary is not that of the whole stretch. */
  readonly isBounded: boolean;
}

type Tone = (normal: WorldPoint) => Toned;

const GREY: Toned = { colour: '#808080', rgb: [128, 128, 128] };

/** A tone at a parameter of the directrix. */
interface Stop {
  readonly s: number;
  readonly toned: Toned;
}

/**
 * How a stretch of a round surface is filled. Where its generators are parallel on the sheet, one gradient across them
 * has every tone. Where they meet in a point (cones, and cylinders in perspective), strips that each reach below the
 * next lie one over the other, so that no seam is seen between them. Either way a tone is right to half a step of 255,
 * and to a whole one once it is written.
 */
export function roundFill(projection: EyeMatrix, side: RoundSide, tone: Tone): readonly Mark[] {
  const { form: ruled, stretch, path } = side;
  const n = ruled.directrix.length;
  const colourAt = (s: number): Toned => {
    const normal = ruledUnitNormal(ruled, wrapped(s, n)) ?? ruledUnitNormal(ruled, wrapped(s + FOUND_PARAMETER, n));
    return normal ? tone(normal) : GREY;
  };
  const across = acrossGenerators(projection, ruled, stretch);
  if (!across) return strips(projection, side, colourAt);
  const stops = stopsBetween(stretch, colourAt, (s) => across(wrapped(s, n)));
  const [first, last] = [across(wrapped(stretch.from, n)), across(wrapped(stretch.to, n))];
  const width = Math.hypot(last.x - first.x, last.y - first.y);
  if (width === 0) return [{ kind: 'path', path, fill: flatInk(stops[0]!.toned.colour), rule: 'evenodd', line: null }];
  const share = (s: number): number => {
    const p = across(wrapped(s, n));
    return Math.max(0, Math.min(1, ((p.x - first.x) * (last.x - first.x) + (p.y - first.y) * (last.y - first.y)) / (width * width)));
  };
  const ink: Ink = {
    kind: 'linear',
    from: [first.x, first.y],
    to: [last.x, last.y],
    stops: stops.map(({ s, toned: { colour } }): GradientStop => ({ at: share(s), colour, strength: 1 })),
    frame: IDENTITY,
  };
  return [{ kind: 'path', path, fill: ink, rule: 'evenodd', line: null }];
}

const wrapped = (s: number, n: number): number => (s >= n ? s - n : s);

/**
 * Places on a line across the generators, by the parameter of the directrix; null where the generators are not parallel
 * on the sheet.
 */
function acrossGenerators(projection: EyeMatrix, ruled: Ruled, { from, to }: Stretch): ((s: number) => SheetPoint) | null {
  const n = ruled.directrix.length;
  const places = [from, (from + to) / 2, to].map((s) => [0, 1].map((k) => sheetFromWorld(projection, ruledPoint(ruled, wrapped(s, n), k))));
  const [p, q] = places[1]!;
  if (!p || !q) return null;
  const length = Math.hypot(q.x - p.x, q.y - p.y);
  if (length === 0) return null;
  const along = { x: (q.x - p.x) / length, y: (q.y - p.y) / length };
  for (const [start, end] of places) {
    if (!start || !end || Math.abs((end.x - start.x) * along.y - (end.y - start.y) * along.x) > PARALLEL) return null;
  }
  return (s) => {
    const at = sheetFromWorld(projection, ruledPoint(ruled, s, 0)) ?? p;
    const off = (at.x - p.x) * along.y - (at.y - p.y) * along.x;
    return { x: p.x + off * along.y, y: p.y - off * along.x };
  };
}

/** Stops between which the straight mixture of two colours keeps to the true tone. */
function stopsBetween({ from, to }: Stretch, colourAt: (s: number) => Toned, place: (s: number) => SheetPoint): readonly Stop[] {
  const stops: Stop[] = [{ s: from, toned: colourAt(from) }];
  const run = (start: Stop, end: Stop, halvings: number): void => {
    const [p, q] = [place(start.s), place(end.s)];
    const whole = Math.hypot(q.x - p.x, q.y - p.y);
    const misses = (share: number): boolean => {
      const s = start.s + (end.s - start.s) * share;
      const at = place(s);
      const way = whole === 0 ? share : Math.hypot(at.x - p.x, at.y - p.y) / whole;
      return missOf(start.toned, colourAt(s), end.toned, way) > MISS;
    };
    if (halvings < HALVINGS[1] && (halvings < HALVINGS[0] || misses(0.5) || misses(0.25) || misses(0.75))) {
      const s = (start.s + end.s) / 2;
      const middle = { s, toned: colourAt(s) };
      run(start, middle, halvings + 1);
      run(middle, end, halvings + 1);
    } else stops.push(end);
  };
  run(stops[0]!, { s: to, toned: colourAt(to) }, 0);
  return stops;
}

function missOf({ rgb: p }: Toned, { rgb: m }: Toned, { rgb: q }: Toned, share: number): number {
  let most = 0;
  for (let i = 0; i < 3; i++) most = Math.max(most, Math.abs(m[i]! - (p[i]! + (q[i]! - p[i]!) * share)));
  return most;
}

/** By how many steps of 255 two tones differ in the channel in which they differ most. */
export function differenceOf(p: Toned, q: Toned): number {
  return missOf(p, q, p, 0);
}

/** Pieces into which the curved edges of a strip are cut where exact ones run through the near plane. */
const PIECES = 8;

/** A strip between two generators, in pieces where it comes too near. */
function stripPath(projection: EyeMatrix, ruled: Ruled, from: number, to: number): { readonly path: Path; readonly rule: 'evenodd' | 'nonzero' } {
  const exact = ruledPath(projection, { ...ruled, closed: false }, { from, to });
  if (exact) return { path: exact, rule: 'evenodd' };
  const n = ruled.directrix.length;
  const patches = Array.from({ length: PIECES }, (_, i): Patch => {
    const [start, end] = [i, i + 1].map((k) => wrapped(from + ((to - from) * k) / PIECES, n)) as [number, number];
    const corners = [ruledPoint(ruled, start, 0), ruledPoint(ruled, end, 0), ruledPoint(ruled, end, 1), ruledPoint(ruled, start, 1)];
    return { corners, normal: ruledNormal(ruled, wrapped(from + ((to - from) * (i + 0.5)) / PIECES, n)) };
  });
  return { path: patchesPath(projection, patches), rule: 'nonzero' };
}

function strips(projection: EyeMatrix, { form: ruled, stretch, path, isBounded }: RoundSide, colourAt: (s: number) => Toned): readonly Mark[] {
  const bounds: number[] = [stretch.from];
  const cut = (from: number, to: number, halvings: number): void => {
    const middle = (from + to) / 2;
    const [p, m, q] = [colourAt(from), colourAt(middle), colourAt(to)];
    if (halvings < HALVINGS[1] && (halvings < HALVINGS[0] || Math.max(differenceOf(p, m), differenceOf(m, q)) > STRIP_MISS)) {
      cut(from, middle, halvings + 1);
      cut(middle, to, halvings + 1);
    } else bounds.push(to);
  };
  cut(stretch.from, stretch.to, 0);
  const marks: Mark[] = [];
  let last = '';
  for (let i = 0; i + 1 < bounds.length; i++) {
    const { colour } = colourAt((bounds[i]! + bounds[i + 1]!) / 2);
    if (colour === last) continue;
    last = colour;
    // As far as the strip after the next of its own colour, which is laid over it.
    let end = i + 1;
    while (end + 1 < bounds.length && colourAt((bounds[end]! + bounds[end + 1]!) / 2).colour === colour) end++;
    const to = bounds[Math.min(end + 1, bounds.length - 1)]!;
    // The first has the others on it, so that all is covered.
    const strip = i === 0 ? { path, rule: 'evenodd' as const } : stripPath(projection, ruled, bounds[i]!, to);
    if (strip.path.verbs !== '') marks.push({ kind: 'path', ...strip, fill: flatInk(colour), line: null });
  }
  return within(path, isBounded, marks);
}

/** Marks that reach beyond a boundary, clipped to it; one that is the boundary itself as it is. */
export function within(path: Path, isBounded: boolean, marks: readonly Mark[]): readonly Mark[] {
  return isBounded && marks.length > 1 ? [{ kind: 'group', node: null, name: '', clip: { path, rule: 'evenodd' }, strength: 1, marks }] : marks;
}
