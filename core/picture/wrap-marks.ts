import { mapMarks, marksBox } from '../artwork/artwork';
import { carriedMarks } from '../artwork/carry-marks';
import { clippedArea, type Edge } from '../artwork/clip-path';
import { mappedPath, type FlatMap } from '../artwork/map-path';
import type { Ink, Mark } from '../artwork/marks';
import { acrossAll, acrossTo, parameterAcross, ruledCoordinates, ruledPoint, type Ruled } from '../geometry/ruled';
import type { Wrapping } from '../geometry/wrapping';
import { composeAffine, IDENTITY, type Affine } from '../math/matrix';
import { sheetFromWorld, type EyeMatrix } from '../projection/projection';
import type { Path } from '../shape/path';
import type { Stretch } from '../visibility/stretches';

/** Widest part of a cone's sector in radians that is clipped by two edges at once, and by how much parts reach under the next. */
const WIDEST = 2.5;
const UNDER = 0.05;
/** Most turns of a side in which artwork is drawn: more lie over one another. */
const MOST_TURNS = 64;
/** Step in cells by which the tangent of a map is measured. */
const STEP = 1e-5;

/**
 * Marks of flat artwork on the part of a round side that is seen, unrolled without stretching: every width and length is
 * the side's own. Curves stray from their true images by less than a hundredth of a px of the sheet.
 * @param toCells from the artwork's own units to cells from its upper left corner
 * @param ruled the side, in cells of the world as it is seen; `wrapping` tells how the artwork lies on it
 */
export function wrapMarks(
  marks: readonly Mark[],
  toCells: Affine,
  { origin, right, down }: Wrapping,
  ruled: Ruled,
  seen: Stretch,
  projection: EyeMatrix,
): readonly Mark[] {
  const own: Affine = [right.u, right.v, down.u, down.v, origin.u, origin.v];
  const flat = mapMarks(marks, composeAffine(own, toCells));
  const box = marksBox(flat);
  if (!box) return [];
  // Parts that only met would let through what lies below along where they meet; what lets light through may not lie twice.
  const under = isOpaque(flat) ? UNDER : 0;
  return partsOf(ruled, seen, box, under).flatMap((part) => {
    const placed = marksOn(flat, ruled, part, projection);
    return placed.length > 0 ? [...placed] : [];
  });
}

/** Whether nothing is seen through some marks. */
function isOpaque(marks: readonly Mark[]): boolean {
  const full = (ink: Ink | null | undefined): boolean => !ink || (ink.kind === 'flat' ? ink.strength === 1 : ink.stops.every(({ strength }) => strength === 1));
  return marks.every((mark) =>
    mark.kind === 'group'
      ? mark.strength === 1 && !mark.blend && !mark.blur && isOpaque(mark.marks)
      : mark.kind === 'path' && full(mark.fill) && full(mark.line?.ink),
  );
}

interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** A part of the unrolled side, and which turn of it: what lies within is seen. */
interface Part {
  readonly edges: readonly Edge[];
  /** What is taken off the way across for the turn. */
  readonly turn: number;
  /** On cones: the angle in the middle of the part. */
  readonly middle: number;
  /** The parameters between which it is seen. */
  readonly seen: Stretch;
}

/** The parts of the unrolled plane that are seen, each turn of a closed side in which the artwork lies. */
function partsOf(ruled: Ruled, { from, to }: Stretch, { minX, maxX }: Box, under: number): readonly Part[] {
  const [start, end] = [acrossTo(ruled, from), acrossTo(ruled, to)];
  const whole = acrossAll(ruled);
  if (ruled.kind === 'cylinder') {
    const turns = ruled.closed ? [Math.floor((minX - end) / whole), Math.ceil((maxX - start) / whole)] : [0, 0];
    return Array.from({ length: Math.min(MOST_TURNS, turns[1]! - turns[0]! + 1) }, (_, i): Part => {
      const turn = (turns[0]! + i) * whole;
      return { edges: [{ nx: 1, ny: 0, d: start + turn }, { nx: -1, ny: 0, d: -end - turn }], turn, middle: 0, seen: { from, to } }; // prettier-ignore
    });
  }
  const pieces = Math.max(1, Math.ceil((end - start) / WIDEST));
  const turns = ruled.closed ? [-2, -1, 0, 1, 2] : [0];
  // The unrolled plane has one full turn about the apex: what lies beyond half of it from the sector's middle is another's.
  return turns.flatMap((count) =>
    Array.from({ length: pieces }, (_, i): Part => {
      const turn = count * whole;
      const at = (k: number): number => start + ((end - start) * (i + k)) / pieces + turn;
      const [low, high] = [at(0), at(1) + (i < pieces - 1 ? under : 0)];
      const edges = [{ nx: -Math.sin(low), ny: Math.cos(low), d: 0 }, { nx: Math.sin(high), ny: -Math.cos(high), d: 0 }]; // prettier-ignore
      const [first, last] = [low, high].map((across) => parameterAcross(ruled, across - turn)) as [number, number];
      return { edges, turn, middle: (low + high) / 2, seen: { from: first, to: last } };
    }).filter(({ middle }) => Math.abs(middle - whole / 2) < Math.PI),
  );
}

function marksOn(marks: readonly Mark[], ruled: Ruled, part: Part, projection: EyeMatrix): readonly Mark[] {
  const map = mapOf(ruled, part, projection);
  const seen = (path: Path): Path => part.edges.reduce(clippedArea, path);
  return carriedMarks(marks, {
    map,
    seen,
    carry: (path) => mappedPath(seen(path), map),
    step: STEP,
    place: ({ place }) =>
      place.kind === 'flat' ? { kind: 'round', map: place.map, ruled, seen: part.seen, turn: part.turn, projection, after: IDENTITY } : null,
  });
}

/** From a round side's own coordinates to the sheet. */
function mapOf(ruled: Ruled, { turn, middle }: Part, projection: EyeMatrix): FlatMap {
  const n = ruled.directrix.length;
  const inside = (s: number): number => (ruled.closed ? ((s % n) + n) % n : Math.max(0, Math.min(n - 1e-12, s)));
  const spot = (s: number, k: number): readonly [number, number] | null => {
    const at = sheetFromWorld(projection, ruledPoint(ruled, s, k));
    return at && [at.x, at.y];
  };
  if (ruled.kind === 'cylinder')
    return (u, v) => {
      const s = inside(parameterAcross(ruled, u - turn));
      const [base, top] = [ruledCoordinates(ruled, s, 0).v, ruledCoordinates(ruled, s, 1).v];
      return spot(s, (v - base) / (top - base));
    };
  return (u, v) => {
    const angle = Math.atan2(v, u);
    const near = angle + 2 * Math.PI * Math.round((middle - angle) / (2 * Math.PI));
    const s = inside(parameterAcross(ruled, near - turn));
    const [base, top] = [0, 1].map((k) => {
      const p = ruledCoordinates(ruled, s, k);
      return Math.hypot(p.u, p.v);
    }) as [number, number];
    return spot(s, (Math.hypot(u, v) - base) / (top - base));
  };
}
