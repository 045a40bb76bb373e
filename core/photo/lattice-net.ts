import type { SheetPoint } from '../math/points';
import { sampleGray } from './gray';
import type { Candidate, DarkLines } from './line-ends';

/** Crossings that hang together by lines, by the steps from one of them: `${i} ${j}`, neighbours differ by one in one of them. */
export interface LatticeNet {
  readonly nodes: ReadonlyMap<string, NetNode>;
}

export interface NetNode {
  readonly i: number;
  readonly j: number;
  readonly at: SheetPoint;
}

export const netKey = (i: number, j: number): string => `${i} ${j}`;

/** Crossings that are a net. */
const FEW = 9;
/** Neighbours of a candidate among which lines are looked for. */
const NEAREST = 60;
/** Part of a crossing's own darkness that a line has all along it to the next. */
const LINE = 0.3;
/** Directions that are told apart, and how many are taken in each: the next crossing may have something printed before it. */
const [WAYS, MOST_IN_WAY] = [12, 5];

interface Link {
  readonly to: number;
  readonly dx: number;
  readonly dy: number;
}

/** The largest net of crossings among places where lines may cross; null where there is none. */
export function latticeNet({ candidates, ridges }: DarkLines): LatticeNet | null {
  const links = linksOf(candidates, ridges);
  const seeds = candidates.map((_, i) => i).filter((i) => links[i]!.length >= 3);
  seeds.sort((p, q) => candidates[q]!.weak - candidates[p]!.weak);
  let best: ReadonlyMap<string, NetNode> | null = null;
  const used = new Set<number>();
  let tries = 0;
  for (const seed of seeds) {
    if (used.has(seed) || ++tries > 60) continue;
    const { nodes, members } = grown(candidates, links, seed);
    // What a few hang together by tells nothing of where others begin.
    if (nodes.size >= FEW) for (const member of members) used.add(member);
    if (nodes.size > (best?.size ?? FEW - 1)) best = nodes;
    if (nodes.size > 0.6 * seeds.length) break;
  }
  return best && { nodes: best };
}

/** For each candidate those to which a dark line runs, the nearest first. */
function linksOf(candidates: readonly Candidate[], ridges: DarkLines['ridges']): readonly (readonly Link[])[] {
  const near = nearestOf(candidates);
  return candidates.map((p, i) => {
    const found: Link[] = [];
    const inWay = new Int8Array(WAYS);
    for (const k of near(i)) {
      const q = candidates[k]!;
      const [dx, dy] = [q.x - p.x, q.y - p.y];
      const way = Math.floor(((Math.atan2(dy, dx) / (2 * Math.PI) + 1) % 1) * WAYS);
      if (inWay[way]! >= MOST_IN_WAY || found.some((other) => isBefore(candidates[other.to]!, other, q, { dx, dy })) || !isLine(ridges, p, q)) continue;
      inWay[way]!++;
      found.push({ to: k, dx, dy });
    }
    return found;
  });
}

/** Whether a link ends on the way of a longer one, at what crosses it as clearly: then that one goes on beyond a crossing. */
function isBefore(at: Candidate, near: Pick<Link, 'dx' | 'dy'>, end: Candidate, { dx, dy }: Pick<Link, 'dx' | 'dy'>): boolean {
  const far = Math.hypot(dx, dy);
  const [along, aside] = [(near.dx * dx + near.dy * dy) / far, Math.abs(near.dx * dy - near.dy * dx) / far];
  return along > 0.3 * far && along < 0.8 * far && aside < 1 + 0.02 * far && at.weak > 0.4 * end.weak;
}

/** The nearest of the candidates, nearest first, by a grid of squares. */
function nearestOf(candidates: readonly Candidate[]): (i: number) => readonly number[] {
  const maxX = candidates.reduce((most, { x }) => Math.max(most, x), 1);
  const maxY = candidates.reduce((most, { y }) => Math.max(most, y), 1);
  const side = Math.max(8, Math.sqrt((maxX * maxY) / Math.max(1, candidates.length / 3)));
  const cells = new Map<number, number[]>();
  const columns = Math.ceil(maxX / side) + 2;
  candidates.forEach(({ x, y }, i) => {
    const key = Math.floor(y / side) * columns + Math.floor(x / side);
    const list = cells.get(key);
    if (list) list.push(i);
    else cells.set(key, [i]);
  });
  return (i) => {
    const { x, y } = candidates[i]!;
    const [column, row] = [Math.floor(x / side), Math.floor(y / side)];
    const found: number[] = [];
    for (let reach = 0; reach < 12; reach++) {
      for (let dy = -reach; dy <= reach; dy++)
        for (let dx = -reach; dx <= reach; dx++)
          if (Math.max(Math.abs(dx), Math.abs(dy)) === reach) for (const k of cells.get((row + dy) * columns + column + dx) ?? []) if (k !== i) found.push(k);
      if (found.length >= NEAREST && reach > 1) break;
    }
    const far = (k: number): number => (candidates[k]!.x - x) ** 2 + (candidates[k]!.y - y) ** 2;
    return found.sort((p, q) => far(p) - far(q)).slice(0, NEAREST);
  };
}

/** Whether a dark line runs from one place to another, a little bent at most. */
function isLine(ridges: DarkLines['ridges'], p: Candidate, q: Candidate): boolean {
  const far = Math.hypot(q.x - p.x, q.y - p.y);
  if (far < 4) return false;
  const [nx, ny] = [-(q.y - p.y) / far, (q.x - p.x) / far];
  const steps = Math.max(4, Math.min(40, Math.ceil(far / 2)));
  const least = LINE * Math.min(p.strong, q.strong);
  let missed = 0;
  for (let k = 1; k < steps; k++) {
    const t = k / steps;
    const room = Math.min(2.6, 0.8 + 0.14 * far * t * (1 - t));
    let most = -Infinity;
    for (let off = -room; off <= room; off += 0.75)
      most = Math.max(most, sampleGray(ridges, p.x + (q.x - p.x) * t + nx * off, p.y + (q.y - p.y) * t + ny * off));
    if (most < least && ++missed > steps * 0.12) return false;
  }
  return true;
}

interface Frame {
  readonly u: readonly [number, number];
  readonly v: readonly [number, number];
}

/** Directions in which crossings have neighbours. */
const STEPS = [[1, 0], [-1, 0], [0, 1], [0, -1]] as const; // prettier-ignore
/** How far a crossing may be from where those beside it say, in parts of a step: by one of them, by two in a row, by more. */
const OFF = [0.4, 0.3, 0.22] as const;

/** Where a crossing should be, how far steps are there, and how much that is worth: an index into `OFF`. */
export interface Guess {
  readonly at: SheetPoint;
  readonly step: number;
  readonly worth: number;
}

/** The net that grows from one candidate: always by that crossing next which lies best where those beside it say. */
function grown(candidates: readonly Candidate[], links: readonly (readonly Link[])[], seed: number): { nodes: Map<string, NetNode>; members: Set<number> } {
  const nodes = new Map<string, NetNode>();
  const owners = new Map<string, number>();
  const members = new Set<number>([seed]);
  const frame = seedFrame(links[seed]!);
  if (!frame) return { nodes, members };
  const put = (at: number, i: number, j: number): void => {
    nodes.set(netKey(i, j), { i, j, at: candidates[at]! });
    owners.set(netKey(i, j), at);
    members.add(at);
  };
  put(seed, 0, 0);
  let taken = 0;
  for (;;) {
    let [best, least]: [{ to: number; i: number; j: number } | null, number] = [null, Infinity];
    const looked = new Set<string>();
    for (const node of nodes.values())
      for (const [di, dj] of STEPS) {
        const [i, j] = [node.i + di, node.j + dj];
        const key = netKey(i, j);
        if (nodes.has(key) || looked.has(key)) continue;
        looked.add(key);
        const guess = guessAt(nodes, i, j, frame);
        if (!guess) continue;
        // A line has to run to it from one of its neighbours.
        for (const [ei, ej] of STEPS)
          for (const { to } of links[owners.get(netKey(i + ei, j + ej)) ?? -1] ?? []) {
            const { x, y } = candidates[to]!;
            const off = Math.hypot(x - guess.at.x, y - guess.at.y) / guess.step;
            const cost = off / OFF[guess.worth]!;
            if (cost < 1 && cost - guess.worth < least && !members.has(to)) [best, least] = [{ to, i, j }, cost - guess.worth];
          }
      }
    if (best) {
      put(best.to, best.i, best.j);
      continue;
    }
    // What does not lie where all beside it say is taken out, and its place filled anew.
    const worst = astray(nodes);
    if (!worst || ++taken > MOST_ASTRAY) return { nodes, members };
    nodes.delete(worst);
    owners.delete(worst);
  }
}

/** Crossings that are taken out of one net at most. */
const MOST_ASTRAY = 24;

/** The crossing that lies farthest from where those beside it say that it is; null where all lie well. @param parts of a step that it may be off */
export function astray(nodes: ReadonlyMap<string, NetNode>, parts: number = OFF[2]): string | null {
  let [worst, most]: [string | null, number] = [null, 1];
  for (const [key, { i, j, at }] of nodes) {
    const guess = guessAt(nodes, i, j);
    if (!guess || guess.worth < 2) continue;
    const off = Math.hypot(at.x - guess.at.x, at.y - guess.at.y) / guess.step / parts;
    if (off > most) [worst, most] = [key, off];
  }
  return worst;
}

/** Where the crossings beside one say that it is: in rows as their steps change, in squares as their sides do. */
export function guessAt(nodes: ReadonlyMap<string, NetNode>, i: number, j: number, frame?: Frame): Guess | null {
  const get = (a: number, b: number): SheetPoint | undefined => nodes.get(netKey(i + a, j + b))?.at;
  let [x, y, weights, worth, step] = [0, 0, 0, 0, Infinity];
  const add = (at: SheetPoint, weight: number, by: SheetPoint, of: number): void => {
    [x, y, weights, worth] = [x + at.x * weight, y + at.y * weight, weights + weight, Math.max(worth, of)];
    step = Math.min(step, Math.hypot(at.x - by.x, at.y - by.y));
  };
  for (const [a, b] of STEPS) {
    const [p, q, r] = [get(a, b), get(2 * a, 2 * b), get(3 * a, 3 * b)];
    if (p && q && r) add({ x: 3 * p.x - 3 * q.x + r.x, y: 3 * p.y - 3 * q.y + r.y }, 2, p, 2);
    else if (p && q) add({ x: 2 * p.x - q.x, y: 2 * p.y - q.y }, 0.7, p, 1);
    const side = a ? ([0, 1] as const) : ([1, 0] as const);
    for (const way of [1, -1]) {
      const [s, corner] = [get(way * side[0], way * side[1]), get(a + way * side[0], b + way * side[1])];
      if (p && s && corner) add({ x: p.x + s.x - corner.x, y: p.y + s.y - corner.y }, 1, p, 2);
    }
  }
  if (weights === 0 && frame)
    for (const [a, b] of STEPS) {
      const p = get(a, b);
      const way = a ? frame.u : frame.v;
      if (p) add({ x: p.x - way[0] * (a + b), y: p.y - way[1] * (a + b) }, 1, p, 0);
    }
  return weights > 0 ? { at: { x: x / weights, y: y / weights }, step: Math.max(step, 4), worth } : null;
}

/** The steps to the right and down of a crossing with the same steps back. */
function seedFrame(links: readonly Link[]): Frame | null {
  const isBack = (p: Link, q: Link): boolean => Math.hypot(p.dx + q.dx, p.dy + q.dy) < 0.3 * Math.hypot(p.dx, p.dy);
  const through = links.filter((p) => links.some((q) => isBack(p, q)));
  let [best, most]: [Frame | null, number] = [null, 0];
  for (const p of through)
    for (const q of through) {
      const [one, other] = [Math.hypot(p.dx, p.dy), Math.hypot(q.dx, q.dy)];
      const sin = (p.dx * q.dy - p.dy * q.dx) / (one * other);
      // To the right, as far as there is a choice; long ones, of which what is printed between has none.
      const score = sin * Math.sqrt(Math.min(one, other)) * (p.dx > 0 && Math.abs(p.dx) >= Math.abs(p.dy) ? 2 : 1);
      if (sin > 0.4 && score > most) [best, most] = [{ u: [p.dx, p.dy], v: [q.dx, q.dy] }, score];
    }
  return best;
}
