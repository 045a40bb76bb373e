import type { LatticeSettings } from '../grid/lattice';
import type { SheetPoint } from '../math/points';
import { halvedGray, type Gray } from './gray';
import { astray, guessAt, latticeNet, netKey, type NetNode } from './lattice-net';
import { darkLines } from './line-ends';
import { countedFrom, numberNet, type KnownCrossing, type Numbering } from './number-net';
import { refinedCrossing, type Arms, type RefinedCrossing } from './refine';

export type { KnownCrossing } from './number-net';

/** A crossing of the lattice in a photograph. */
export interface Crossing {
  /** Its column and row, from 0 at the upper left of the printed sheet. */
  readonly column: number;
  readonly row: number;
  /** In px from the photograph's upper left corner. */
  readonly at: SheetPoint;
  /** Its standard error in px. */
  readonly error: number;
  /** How sure it is, 0 to 1. */
  readonly sure: number;
}

/** What was found, and what that says. */
export interface FoundCrossings {
  readonly crossings: readonly Crossing[];
  /** How well the printed numbers agree with it. */
  readonly numbering: Pick<Numbering, 'agrees' | 'ahead'>;
}

/** Why a lattice could not be found. */
export type NotFound = 'no-lattice' | 'too-small' | 'mirrored' | 'other-lattice' | 'numbers-unclear';

/** Longest side in px of the picture in which crossings are looked for; they are refined in the whole. */
const LOOKED_AT = 1700;
/** Px between crossings below which they cannot be told apart well. */
const CLOSEST = 9;
/** Parts of a step that a crossing may lie off from where those beside it say, once it is known well. */
const ASTRAY = 0.28;
/** Parts of a step within which a known crossing is one that was found. */
const NEAR_KNOWN = 0.4;
/** Agreement of the numbers with a numbering, and how far ahead of every other it has to be. */
const [AGREES, AHEAD] = [0.3, 0.04];

/**
 * Finds the crossings of a printed lattice in a photograph and numbers them by the numbers beside them.
 * @param known crossings that are known already; by two of them or more the others are counted in place of the numbers
 * @returns what was found, or why nothing was
 */
export function findCrossings(gray: Gray, lattice: LatticeSettings, known: readonly KnownCrossing[] = []): FoundCrossings | NotFound {
  let small = gray;
  let scale = 1;
  while (Math.max(small.width, small.height) > LOOKED_AT) [small, scale] = [halvedGray(small), 2 * scale];
  const net = latticeNet(darkLines(small));
  if (!net) return 'no-lattice';
  let nodes: ReadonlyMap<string, NetNode> = net.nodes;
  if (scale > 1) nodes = new Map([...nodes].map(([key, node]) => [key, { ...node, at: { x: node.at.x * scale, y: node.at.y * scale } }]));
  if (middleStep(nodes) < CLOSEST) return 'too-small';
  const counted = countedFrom(nodes, known, NEAR_KNOWN * middleStep(nodes));
  const numbering = counted ?? numberNet(gray, nodes, lattice);
  if (!numbering) return 'other-lattice';
  if (!counted && numbering.mirrored && numbering.agrees > AGREES && numbering.ahead > AHEAD) return 'mirrored';
  // Only those that count the lattice's sheet as it is held: a mirror has to be clear.
  if (!counted && (numbering.agrees < AGREES || numbering.ahead < AHEAD)) return 'numbers-unclear';
  const filled = withMissing(inLattice(nodes, numbering, lattice), lattice);
  const refined = refinedNodes(gray, filled, lattice);
  return refined.length < 6 ? 'no-lattice' : { crossings: refined, numbering };
}

/** The nodes by columns and rows; those outside of the lattice are none of it. */
function inLattice(
  nodes: ReadonlyMap<string, NetNode>,
  { turn: [a, b, c, d], left, top }: Numbering,
  { columns, rows }: LatticeSettings,
): Map<string, NetNode> {
  const out = new Map<string, NetNode>();
  for (const { i, j, at } of nodes.values()) {
    const [column, row] = [a * i + b * j + left, c * i + d * j + top];
    if (column >= 0 && row >= 0 && column <= columns && row <= rows) out.set(netKey(column, row), { i: column, j: row, at });
  }
  return out;
}

function middleStep(nodes: ReadonlyMap<string, NetNode>): number {
  const steps = [...nodes.values()].flatMap(({ i, j, at }) => {
    const next = nodes.get(netKey(i + 1, j))?.at;
    const below = nodes.get(netKey(i, j + 1))?.at;
    return [next, below].flatMap((other) => (other ? [Math.hypot(other.x - at.x, other.y - at.y)] : []));
  });
  return steps.sort((p, q) => p - q)[steps.length >> 1] ?? 0;
}

/** Crossings that are not among them, where those beside them say that they should be; so on outwards. */
function withMissing(nodes: Map<string, NetNode>, { columns, rows }: LatticeSettings): Map<string, NetNode> {
  const out = new Map(nodes);
  for (let round = 0; round < 3; round++) {
    const added: NetNode[] = [];
    for (let i = 0; i <= columns; i++)
      for (let j = 0; j <= rows; j++) {
        if (out.has(netKey(i, j))) continue;
        const guess = guessAt(out, i, j);
        if (guess && guess.worth > 1) added.push({ i, j, at: guess.at });
      }
    for (const node of added) out.set(netKey(node.i, node.j), node);
  }
  return out;
}

/** Every node to a fraction of a px; those that have no lines are left out. */
function refinedNodes(gray: Gray, nodes: ReadonlyMap<string, NetNode>, { columns, rows }: LatticeSettings): readonly Crossing[] {
  const found: Crossing[] = [];
  let at = nodes;
  for (let round = 0; round < 2; round++) {
    found.length = 0;
    const next = new Map<string, NetNode>();
    for (const node of at.values()) {
      const { i, j } = node;
      const crossing = refinedCrossing(gray, node.at, armsOf(at, node, columns, rows));
      if (!crossing || !isInside(gray, crossing)) continue;
      next.set(netKey(i, j), { i, j, at: crossing.at });
      found.push(crossingAt(i, j, crossing));
    }
    for (let wrong = astray(next, ASTRAY); wrong; wrong = astray(next, ASTRAY)) next.delete(wrong);
    at = next;
  }
  return found.filter(({ column, row }) => at.has(netKey(column, row)));
}

/** Standard error in px of a crossing that is half sure. */
const HALF_SURE = 0.15;

/** A refined crossing by its place in the lattice. */
export function crossingAt(column: number, row: number, { at, error }: RefinedCrossing): Crossing {
  return { column, row, at, error, sure: 1 / (1 + (error / HALF_SURE) ** 2) };
}

const isInside = ({ width, height }: Gray, { at: { x, y } }: RefinedCrossing): boolean => x > 1 && y > 1 && x < width - 1 && y < height - 1;

/** The arms of a crossing: to its neighbours, away from those on the other side where they are missing; none beyond the lattice. */
function armsOf(nodes: ReadonlyMap<string, NetNode>, { i, j, at }: NetNode, columns: number, rows: number): Arms {
  const arm = (di: number, dj: number): readonly [number, number] | null => {
    if (i + di < 0 || j + dj < 0 || i + di > columns || j + dj > rows) return null;
    const next = nodes.get(netKey(i + di, j + dj))?.at;
    if (next) return [next.x - at.x, next.y - at.y];
    const before = nodes.get(netKey(i - di, j - dj))?.at;
    return before ? [(at.x - before.x) * 0.8, (at.y - before.y) * 0.8] : null;
  };
  return { right: arm(1, 0), left: arm(-1, 0), down: arm(0, 1), up: arm(0, -1) };
}
