import { COORDS_OF, type Path } from '../shape/path';
import { FOUND_PARAMETER } from '../math/tolerances';

/** A cubic by its eight coordinates. */
type Cubic = readonly [number, number, number, number, number, number, number, number];

/** A chord that stands for a piece of a cubic. */
interface Chord {
  readonly cubic: number;
  readonly from: number;
  readonly to: number;
}

/** The curves of a path, and which of its chords on whole numbers stands for which piece of them. */
export interface TracedCurves {
  readonly cubics: readonly Cubic[];
  /** Chords by their start and end, both ways. */
  readonly chords: ReadonlyMap<string, Chord>;
  /** Chords by their places, for pieces of them: in strips across, each with all that reach into it. */
  readonly strips: Strips;
}

interface PlacedChord {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly chord: Chord;
}

interface Strips {
  readonly from: number;
  readonly width: number;
  readonly lists: readonly (readonly PlacedChord[])[];
}

/** Whole numbers by which places may miss a chord that they lie on. */
const ROUNDED = 2;

/** Chords in strips of about four across. */
function inStrips(list: readonly PlacedChord[]): Strips {
  let [from, to] = [Infinity, -Infinity];
  for (const { x0, x1 } of list) {
    from = Math.min(from, x0, x1);
    to = Math.max(to, x0, x1);
  }
  const count = Math.max(1, Math.ceil(list.length / 4));
  const width = Math.max(1, (to - from) / count);
  const lists: PlacedChord[][] = Array.from({ length: count + 1 }, () => []);
  for (const placed of list) {
    const [low, high] = [Math.min(placed.x0, placed.x1) - ROUNDED, Math.max(placed.x0, placed.x1) + ROUNDED];
    for (let i = Math.max(0, Math.floor((low - from) / width)); i <= Math.min(count, Math.floor((high - from) / width)); i++) lists[i]!.push(placed);
  }
  return { from, width, lists };
}

interface Corner {
  readonly x: number;
  readonly y: number;
}

/** Most chords of one cubic; as `flattenPath` has it. */
const MOST_CHORDS = 256;

const key = (x0: number, y0: number, x1: number, y1: number): string => `${x0},${y0},${x1},${y1}`;

/**
 * The chords of a path's curves on whole numbers. Made exactly as `flattenPath` makes them.
 * @param k what coordinates are multiplied by
 */
export function traceCurves({ verbs, coords }: Path, tolerance: number, k: number): TracedCurves {
  const cubics: Cubic[] = [];
  const list: PlacedChord[] = [];
  const chords = new Map<string, Chord>();
  let at = 0;
  for (const verb of verbs) {
    if (verb === 'C') {
      const c = coords.slice(at - 2, at + 6) as unknown as Cubic;
      const bend = Math.max(Math.hypot(c[0] - 2 * c[2] + c[4], c[1] - 2 * c[3] + c[5]), Math.hypot(c[2] - 2 * c[4] + c[6], c[3] - 2 * c[5] + c[7]));
      const count = Math.max(1, Math.min(MOST_CHORDS, Math.ceil(Math.sqrt((0.75 * bend) / tolerance))));
      const index = cubics.push(c) - 1;
      let [x0, y0] = [Math.round(c[0] * k), Math.round(c[1] * k)];
      for (let i = 1; i <= count; i++) {
        const [x, y] = i === count ? [c[6], c[7]] : [cubicAt(c, 0, i / count), cubicAt(c, 1, i / count)];
        const [x1, y1] = [Math.round(x * k), Math.round(y * k)];
        const chord = { cubic: index, from: (i - 1) / count, to: i / count };
        chords.set(key(x0, y0, x1, y1), chord);
        chords.set(key(x1, y1, x0, y0), { cubic: index, from: chord.to, to: chord.from });
        list.push({ x0, y0, x1, y1, chord });
        [x0, y0] = [x1, y1];
      }
    }
    at += COORDS_OF[verb]!;
  }
  return { cubics, chords, strips: inStrips(list) };
}

function cubicAt(c: Cubic, coordinate: 0 | 1, t: number): number {
  const s = 1 - t;
  return s * s * s * c[coordinate] + 3 * s * s * t * c[2 + coordinate]! + 3 * s * t * t * c[4 + coordinate]! + t * t * t * c[6 + coordinate]!;
}

/** Corners on whole numbers as a path, closed or a line, in which runs of chords are the curves again that they stood for. */
export function restoreCurves(ring: readonly Corner[], closed: boolean, traced: TracedCurves, k: number): Path {
  const n = ring.length;
  const edges = closed ? n : n - 1;
  const pieces = ring.map((p, i) => (i < edges ? chordOf(p, ring[(i + 1) % n]!, traced) : null));
  const follows = (i: number): boolean => {
    const [before, now] = [pieces[(i + n - 1) % n], pieces[i]];
    if (!before || !now || before.cubic !== now.cubic) return false;
    return Math.abs(before.to - now.from) < FOUND_PARAMETER && Math.sign(before.to - before.from) === Math.sign(now.to - now.from);
  };
  // A run that comes round the ring's start begins before it.
  let start = 0;
  while (closed && start < n && follows(start)) start++;
  if (start === n) start = 0;
  const first = ring[start]!;
  let verbs = 'M';
  const coords: number[] = [first.x / k, first.y / k];
  for (let step = 0; step < edges; step++) {
    const i = (start + step) % n;
    const piece = pieces[i];
    const end = ring[(i + 1) % n]!;
    if (!piece) {
      if (closed && step === n - 1) break;
      verbs += 'L';
      coords.push(end.x / k, end.y / k);
      continue;
    }
    let last = piece;
    while (step + 1 < edges && follows((start + step + 1) % n)) last = pieces[(start + ++step) % n]!;
    verbs += 'C';
    coords.push(...cubicPiece(traced.cubics[piece.cubic]!, piece.from, last.to));
  }
  return { verbs: closed ? `${verbs}Z` : verbs, coords };
}

/** The piece of a curve that an edge stands for: a whole chord, or a part of one. */
function chordOf(p: Corner, q: Corner, { chords, strips }: TracedCurves): Chord | null {
  const whole = chords.get(key(p.x, p.y, q.x, q.y));
  if (whole) return whole;
  // A chord that both lie on reaches into the strip of each.
  const { from, width, lists } = strips;
  for (const { x0, y0, x1, y1, chord } of lists[Math.floor((p.x - from) / width)] ?? []) {
    if (Math.max(p.x, q.x) < Math.min(x0, x1) - ROUNDED || Math.min(p.x, q.x) > Math.max(x0, x1) + ROUNDED) continue;
    const length = Math.hypot(x1 - x0, y1 - y0);
    if (length === 0) continue;
    const off = (c: Corner): number => Math.abs((x1 - x0) * (c.y - y0) - (y1 - y0) * (c.x - x0)) / length;
    const share = (c: Corner): number => ((c.x - x0) * (x1 - x0) + (c.y - y0) * (y1 - y0)) / (length * length);
    const [s, t] = [share(p), share(q)];
    // Places on the chord to within what rounding moves them by.
    if (off(p) > 1.5 || off(q) > 1.5 || Math.min(s, t) < -1.5 / length || Math.max(s, t) > 1 + 1.5 / length || Math.abs(s - t) * length < 3) continue;
    const at = (share: number): number => chord.from + Math.max(0, Math.min(1, share)) * (chord.to - chord.from);
    return { cubic: chord.cubic, from: at(s), to: at(t) };
  }
  return null;
}

/** The handles and end of a piece of a cubic, from one parameter to another, backwards too (de Casteljau, by blossoms). */
function cubicPiece(c: Cubic, from: number, to: number): readonly number[] {
  const blossom = (i: 0 | 1, r: number, s: number, t: number): number => {
    const mix = (p: number, q: number, u: number): number => p + (q - p) * u;
    const [ab, bc, cd] = [mix(c[i], c[2 + i]!, r), mix(c[2 + i]!, c[4 + i]!, r), mix(c[4 + i]!, c[6 + i]!, r)];
    return mix(mix(ab, bc, s), mix(bc, cd, s), t);
  };
  const point = (r: number, s: number, t: number): readonly [number, number] => [blossom(0, r, s, t), blossom(1, r, s, t)];
  return [...point(from, from, to), ...point(from, to, to), ...point(to, to, to)];
}
