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

/** Neighbours of a candidate among which lines are looked for. */
const NEAREST = 60;
/** Part of a crossing's own darkness that a line has all along it to the next. */
const LINE = 0.3;
/** Directions that are told apart, and how many are taken in each: the next crossing may have something printed before it. */
const [WAYS, MOST_IN_WAY] = [12, 3];
/** How far a step may be from what is expected of it: along it, and aside in parts of it. */
const [SHORTEST, LONGEST, ASIDE] = [0.6, 1.55, 0.3];
/** Least part of a step after which another crossing on the way to it is taken in its place. */
const STEP_ON_THE_WAY = 0.35;

interface Link {
  readonly to: number;
  readonly dx: number;
  readonly dy: number;
}

/** The largest net of crossings among places where lines may cross; null where there is none. */
export function latticeNet({ candidates, ridges }: DarkLines): LatticeNet | null {
  const links = linksOf(candidates, ridges);
  const seeds = candidates.map((_, i) => i).filter((i) => links[i]!.length >= 3);
  seeds.sort((p, q) => links[q]!.length - links[p]!.length || candidates[q]!.weak - candidates[p]!.weak);
  let best: ReadonlyMap<string, NetNode> | null = null;
  const used = new Set<number>();
  let tries = 0;
  for (const seed of seeds) {
    if (used.has(seed) || ++tries > 60) continue;
    const { nodes, members } = grown(candidates, links, seed);
    for (const member of members) used.add(member);
    if (nodes.size > (best?.size ?? 8)) best = nodes;
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
      if (inWay[way]! >= MOST_IN_WAY || !isLine(ridges, p, q)) continue;
      inWay[way]!++;
      found.push({ to: k, dx, dy });
    }
    return found;
  });
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
export function isLine(ridges: DarkLines['ridges'], p: Candidate, q: Candidate): boolean {
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

/** The net that grows from one candidate: each crossing tells where the next ones are to be. */
function grown(candidates: readonly Candidate[], links: readonly (readonly Link[])[], seed: number): { nodes: Map<string, NetNode>; members: Set<number> } {
  const nodes = new Map<string, NetNode>();
  const members = new Set<number>([seed]);
  const frame = seedFrame(links[seed]!);
  if (!frame) return { nodes, members };
  const queue: { readonly at: number; readonly i: number; readonly j: number; readonly frame: Frame }[] = [];
  const put = (at: number, i: number, j: number, own: Frame): void => {
    nodes.set(netKey(i, j), { i, j, at: candidates[at]! });
    members.add(at);
    queue.push({ at, i, j, frame: own });
  };
  put(seed, 0, 0, frame);
  for (let next = queue.shift(); next; next = queue.shift()) {
    const { at, i, j } = next;
    const steps = STEPS.map((step) => bestLink(links[at]!, next!.frame, step));
    const u = between(steps[0]!, steps[1]!) ?? next.frame.u;
    const v = between(steps[2]!, steps[3]!) ?? next.frame.v;
    STEPS.forEach(([di, dj], k) => {
      const link = steps[k];
      if (!link || members.has(link.to) || nodes.has(netKey(i + di, j + dj))) return;
      const way: Step = [link.dx * (di + dj), link.dy * (di + dj)];
      put(link.to, i + di, j + dj, di ? { u: way, v } : { u, v: way });
    });
  }
  return { nodes, members };
}

type Step = readonly [number, number];
const STEPS = [[1, 0], [-1, 0], [0, 1], [0, -1]] as const; // prettier-ignore

/** Of the links of a crossing the one that is most like a step in a direction; null where none is. */
function bestLink(links: readonly Link[], { u, v }: Frame, [di, dj]: (typeof STEPS)[number]): Link | null {
  const det = u[0] * v[1] - u[1] * v[0];
  const measured = links.map((link) => {
    const [a, b] = [(link.dx * v[1] - link.dy * v[0]) / det, (u[0] * link.dy - u[1] * link.dx) / det];
    return di ? { link, main: a * di, side: Math.abs(b) } : { link, main: b * dj, side: Math.abs(a) };
  });
  let [best, least]: [(typeof measured)[number] | null, number] = [null, Infinity];
  for (const one of measured) {
    const { main, side } = one;
    if (!(main >= SHORTEST && main <= LONGEST && side <= ASIDE * main)) continue;
    const off = Math.abs(Math.log(main)) + 2 * side;
    if (off < least) [best, least] = [one, off];
  }
  if (!best) return null;
  // Steps shorten towards a rim: what lies on the way to one is nearer to be the next.
  const far = Math.hypot(best.link.dx, best.link.dy);
  const onTheWay = measured.find(({ link: { dx, dy }, main }) => {
    const [x, y] = [best.link.dx / far, best.link.dy / far];
    return main >= STEP_ON_THE_WAY && main < 0.9 * best.main && Math.abs(dx * y - dy * x) < 1.2 + 0.02 * far;
  });
  return (onTheWay ?? best).link;
}

/** A step from those to both sides. */
function between(ahead: Link | null, behind: Link | null): Step | null {
  if (ahead && behind) return [(ahead.dx - behind.dx) / 2, (ahead.dy - behind.dy) / 2];
  return ahead ? [ahead.dx, ahead.dy] : behind && [-behind.dx, -behind.dy];
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
