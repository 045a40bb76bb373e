import { numberBox, numberDistance, type LatticeSettings } from '../grid/lattice';
import type { SheetPoint } from '../math/points';
import { sampleGray, type Gray } from './gray';
import { netKey, type NetNode } from './lattice-net';

/** How the steps of a net count the columns and rows of the lattice: `column = a i + b j + left`, `row = c i + d j + top`. */
export interface Numbering {
  readonly turn: readonly [number, number, number, number];
  readonly left: number;
  readonly top: number;
  /** How well the printed numbers agree with it, -1 to 1, and how much better than with any other. */
  readonly agrees: number;
  readonly ahead: number;
  /** The lattice is shown as in a mirror. */
  readonly mirrored: boolean;
}

/** The four ways to hold a sheet, and the same in a mirror. */
const TURNS: readonly (readonly [number, number, number, number])[] = [
  [1, 0, 0, 1], [0, 1, -1, 0], [-1, 0, 0, -1], [0, -1, 1, 0],
  [-1, 0, 0, 1], [0, 1, 1, 0], [1, 0, 0, -1], [0, -1, -1, 0],
]; // prettier-ignore

/** Places at which a box is looked at for its number. */
const [ACROSS, DOWN] = [22, 11];
const AREA = { left: 0.1, top: 0.1, right: 0.78, bottom: 0.44 };
/** Part of a net that may lie outside of the lattice: what is no crossing of it. */
const OUTSIDE = 0.06;

/**
 * Which crossing is which, by the printed numbers: of all ways in which the lattice can lie under the net that in which
 * the most numbers are where they should be. Null where the net is larger than the lattice.
 */
export function numberNet(gray: Gray, nodes: ReadonlyMap<string, NetNode>, lattice: LatticeSettings): Numbering | null {
  const [across, down] = [lattice.columns + 1, lattice.rows + 1];
  const templates = new Map<number, Float32Array>();
  const all = [...nodes.values()];
  const ways: Numbering[] = [];
  TURNS.forEach((turn, way) => {
    const [a, b, c, d] = turn;
    const columns = all.map(({ i, j }) => a * i + b * j);
    const rows = all.map(({ i, j }) => c * i + d * j);
    const patches = all.map((node) => patchOf(gray, nodes, node, turn));
    const range = (list: readonly number[]): readonly [number, number] => [list.reduce((p, q) => Math.min(p, q)), list.reduce((p, q) => Math.max(p, q))];
    const [[minC, maxC], [minR, maxR]] = [range(columns), range(rows)];
    for (let left = -maxC; left <= across - 1 - minC; left++)
      for (let top = -maxR; top <= down - 1 - minR; top++) {
        let [sum, count, outside] = [0, 0, 0];
        all.forEach((_, k) => {
          const [column, row] = [columns[k]! + left, rows[k]! + top];
          if (column < 0 || row < 0 || column >= across || row >= down) outside++;
          else if (patches[k]) {
            sum += likeness(patches[k], templateOf(templates, row * across + column + 1));
            count++;
          }
        });
        if (outside > OUTSIDE * all.length || count === 0) continue;
        ways.push({ turn, left, top, agrees: sum / (count + outside), ahead: 0, mirrored: way >= 4 });
      }
  });
  ways.sort((p, q) => q.agrees - p.agrees);
  const [best, second] = ways;
  return best ? { ...best, ahead: best.agrees - (second?.agrees ?? -1) } : null;
}

/** A crossing of which it is known which it is, in px. */
export interface KnownCrossing {
  readonly column: number;
  readonly row: number;
  readonly at: SheetPoint;
}

/**
 * Which crossing is which, counted from some that are known: the way in which most of them lie where they should.
 * @param near px within which a known one is one of the net
 * @returns null where fewer than two agree, or as many in another way
 */
export function countedFrom(nodes: ReadonlyMap<string, NetNode>, known: readonly KnownCrossing[], near: number): Numbering | null {
  const votes = new Map<string, { readonly way: Pick<Numbering, 'turn' | 'left' | 'top'>; count: number }>();
  for (const { column, row, at } of known) {
    const away = (node: NetNode): number => Math.hypot(node.at.x - at.x, node.at.y - at.y);
    const nearest = [...nodes.values()].reduce((best: NetNode | null, node) => (!best || away(node) < away(best) ? node : best), null);
    if (!nearest || away(nearest) > near) continue;
    const { i, j } = nearest;
    // Held in one of four ways; in a mirror nothing is counted.
    for (const turn of TURNS.slice(0, 4)) {
      const [a, b, c, d] = turn;
      const [left, top] = [column - a * i - b * j, row - c * i - d * j];
      const key = `${turn.join()} ${left} ${top}`;
      const vote = votes.get(key);
      if (vote) vote.count++;
      else votes.set(key, { way: { turn, left, top }, count: 1 });
    }
  }
  const [best, second] = [...votes.values()].sort((p, q) => q.count - p.count);
  if (!best || best.count < 2 || best.count === second?.count) return null;
  return { ...best.way, agrees: best.count / known.length, ahead: (best.count - (second?.count ?? 0)) / known.length, mirrored: false };
}

/** What is printed right and below of a crossing as it is held: brightness at places of its box, about their mean; null where it is not in the picture. */
function patchOf(
  gray: Gray,
  nodes: ReadonlyMap<string, NetNode>,
  { i, j, at }: NetNode,
  [a, b, c, d]: readonly [number, number, number, number],
): Float32Array | null {
  // A step to the right in the lattice as steps of the net: the turn's inverse, which is its transpose.
  const [right, below] = [stepOf(nodes, i, j, a, b), stepOf(nodes, i, j, c, d)];
  if (!right || !below) return null;
  const corner = nodes.get(netKey(i + a + c, j + b + d))?.at;
  const [ex, ey] = corner ? [corner.x - at.x - right.x - below.x, corner.y - at.y - right.y - below.y] : [0, 0];
  const patch = new Float32Array(ACROSS * DOWN);
  for (let k = 0; k < patch.length; k++) {
    const [x, y] = placeIn(k);
    const [px, py] = [at.x + right.x * x + below.x * y + ex * x * y, at.y + right.y * x + below.y * y + ey * x * y];
    if (px < 1 || py < 1 || px > gray.width - 1 || py > gray.height - 1) return null;
    patch[k] = sampleGray(gray, px, py);
  }
  return normal(patch);
}

const placeIn = (k: number): readonly [number, number] => [
  AREA.left + ((AREA.right - AREA.left) * ((k % ACROSS) + 0.5)) / ACROSS,
  AREA.top + ((AREA.bottom - AREA.top) * (Math.floor(k / ACROSS) + 0.5)) / DOWN,
];

/** The step to a neighbour, or away from the one on the other side. */
function stepOf(nodes: ReadonlyMap<string, NetNode>, i: number, j: number, di: number, dj: number): SheetPoint | null {
  const at = nodes.get(netKey(i, j))!.at;
  const [next, before] = [nodes.get(netKey(i + di, j + dj))?.at, nodes.get(netKey(i - di, j - dj))?.at];
  if (next) return { x: next.x - at.x, y: next.y - at.y };
  return before ? { x: at.x - before.x, y: at.y - before.y } : null;
}

/** Values about their mean, the sum of their squares 1; null where they are all alike. */
function normal(values: Float32Array): Float32Array | null {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const off = values.map((value) => value - mean);
  const long = Math.sqrt(off.reduce((sum, value) => sum + value * value, 0));
  return long > 1 ? off.map((value) => value / long) : null;
}

function templateOf(known: Map<number, Float32Array>, number: number): Float32Array {
  let template = known.get(number);
  if (!template) {
    const { right } = numberBox(String(number).length);
    const values = Float32Array.from({ length: ACROSS * DOWN }, (_, k) => {
      const [x, y] = placeIn(k);
      if (x > right + 0.1) return 0;
      return -Math.exp(-((numberDistance(number, x, y) / 0.035) ** 2));
    });
    known.set(number, (template = normal(values.map((value) => 255 * value))!));
  }
  return template;
}

function likeness(p: Float32Array, q: Float32Array): number {
  let sum = 0;
  for (let k = 0; k < p.length; k++) sum += p[k]! * q[k]!;
  return sum;
}
