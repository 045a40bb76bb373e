import type { LineStyle } from '../artwork/marks';
import type { Path } from '../shape/path';

/** Places along each curve at which the pen is set down, and the turn in radians beyond which there are more between two. */
const STEPS = 300;
const TURN = 0.05;
const MOST_HALVINGS = 40;

type Point = readonly [number, number];

/** Where a pen is: its place, the direction in which it goes, and how far it has come. */
interface Step {
  readonly at: Point;
  readonly way: Point;
  readonly s: number;
  /** It only turns here, at a corner. */
  readonly turns: boolean;
}

/**
 * What a pen sweeps along a path of one piece, by the definition of a stroke: a bar across its way is moved along in
 * small steps, and joins and caps are put where they belong (SVG 2, 13.5). Slow and plain, to hold the real thing against.
 * @returns polygons that may overlap, all of one direction, so that the rule of windings unites them
 */
export function sweptArea(path: Path, { width, cap, join, miterLimit, dashes }: LineStyle): readonly (readonly Point[])[] {
  const half = width / 2;
  const closed = path.verbs.endsWith('Z');
  const steps = stepsOf(path, closed);
  const whole = steps.at(-1)!.s;
  const areas: (readonly Point[])[] = [];
  const put = (...polygon: readonly Point[]): void => void areas.push(areaOf(polygon) < 0 ? [...polygon].reverse() : polygon);
  const beside = ({ at: [x, y], way: [dx, dy] }: Step, side: number): Point => [x + dy * side, y - dx * side];
  const arc = ({ at: [x, y] }: Step, from: number, turn: number, ...corner: readonly Point[]): void => put(...corner, ...Array.from({ length: 65 }, (_, i): Point => [x + half * Math.cos(from + (i * turn) / 64), y + half * Math.sin(from + (i * turn) / 64)])); // prettier-ignore
  const sweep = (from: Step, to: Step): void => {
    const [a, b, c, d] = [beside(from, half), beside(from, -half), beside(to, -half), beside(to, half)];
    const x = crossing(a, b, c, d);
    if (!x) return put(a, b, c, d);
    put(a, x, d);
    put(b, x, c);
  };
  const corner = (from: Step, to: Step): void => {
    const [p, q] = [from.way, to.way];
    const side = p[0] * q[1] - p[1] * q[0] > 0 ? half : -half;
    const dot = p[0] * q[0] + p[1] * q[1];
    const far = side / (1 + dot);
    // The way across at the outer side turns as far as the corner does.
    if (join === 'round') return arc(to, Math.atan2(-p[0] * side, p[1] * side), Math.atan2(p[0] * q[1] - p[1] * q[0], dot), to.at);
    const tip: readonly Point[] = join === 'miter' && Math.sqrt(2 / Math.max(1e-15, 1 + dot)) <= miterLimit ? [[to.at[0] + (p[1] + q[1]) * far, to.at[1] - (p[0] + q[0]) * far]] : []; // prettier-ignore
    put(to.at, beside({ ...from, at: to.at }, side), ...tip, beside(to, side));
  };
  const end = (step: Step, forth: 1 | -1): void => {
    const { at, way } = step;
    if (cap === 'round') arc(step, Math.atan2(way[1], way[0]) - (forth * Math.PI) / 2, Math.PI);
    if (cap === 'square') sweep(step, { ...step, at: [at[0] + way[0] * half * forth, at[1] + way[1] * half * forth] });
  };
  const drawn = dashes.length === 0 ? [[0, whole] as const] : dashesOf(dashes, whole);
  const round = closed && drawn[0]![0] === 0 && drawn.at(-1)![1] === whole;
  for (const [from, to] of drawn) {
    const own = between(steps, from, to);
    for (let i = 1; i < own.length; i++) (own[i]!.turns ? corner : sweep)(own[i - 1]!, own[i]!);
    if (!(round && from === 0)) end(own[0]!, -1);
    if (!(round && to === whole)) end(own.at(-1)!, 1);
  }
  if (round) corner(steps.at(-1)!, steps[0]!);
  return areas;
}

function stepsOf({ verbs, coords }: Path, closed: boolean): readonly Step[] {
  const steps: Step[] = [];
  const points = Array.from({ length: coords.length / 2 }, (_, i): Point => [coords[2 * i]!, coords[2 * i + 1]!]);
  let s = 0;
  const segment = (count: number, place: (t: number) => Point, slope: (t: number) => Point): void => {
    const wayAt = (t: number): Point => {
      const [dx, dy] = slope(t);
      return [dx / Math.hypot(dx, dy), dy / Math.hypot(dx, dy)];
    };
    const go = (from: number, to: number, halvings: number): void => {
      const [last, way] = [steps.at(-1)!, wayAt(to)];
      if (halvings < MOST_HALVINGS && last.way[0] * way[0] + last.way[1] * way[1] < Math.cos(TURN)) {
        go(from, (from + to) / 2, halvings + 1);
        return go((from + to) / 2, to, halvings + 1);
      }
      const at = place(to);
      s += Math.hypot(at[0] - last.at[0], at[1] - last.at[1]);
      steps.push({ at, way, s, turns: false });
    };
    steps.push({ at: place(0), way: wayAt(0), s, turns: steps.length > 0 });
    for (let i = 0; i < count; i++) go(i / count, (i + 1) / count, 0);
  };
  const straight = (p: Point, q: Point): void => segment(1, (t) => mix(p, q, t), () => [q[0] - p[0], q[1] - p[1]]); // prettier-ignore
  let i = 0;
  for (const verb of verbs.slice(1)) {
    if (verb === 'L') straight(points[i]!, points[++i]!);
    else if (verb === 'C') {
      const [a, b, c, d] = points.slice(i, (i += 3) + 1) as [Point, Point, Point, Point];
      const [place, slope] = [0, 1].map((k) => [
        (t: number) => a[k]! * (1 - t) ** 3 + 3 * b[k]! * t * (1 - t) ** 2 + 3 * c[k]! * t * t * (1 - t) + d[k]! * t ** 3,
        (t: number) => (b[k]! - a[k]!) * (1 - t) ** 2 + 2 * (c[k]! - b[k]!) * t * (1 - t) + (d[k]! - c[k]!) * t * t,
      ]).reduce<((t: number) => Point)[]>((_, __, ___, both) => [0, 1].map((k) => (t) => [both[0]![k]!(t), both[1]![k]!(t)]), []); // prettier-ignore
      segment(STEPS, place!, slope!);
    }
  }
  if (closed) straight(points[i]!, points[0]!);
  return steps;
}

/** From where to where a pen is down. */
function dashesOf(lengths: readonly number[], whole: number): readonly (readonly [number, number])[] {
  const drawn: (readonly [number, number])[] = [];
  for (let [s, k] = [0, 0]; s < whole; k++) {
    const next = s + lengths[k % lengths.length]!;
    if (k % 2 === 0) drawn.push([s, Math.min(next, whole)]);
    s = next;
  }
  return drawn;
}

/** The steps from one length along to another, with where it begins and ends. */
function between(steps: readonly Step[], from: number, to: number): readonly Step[] {
  const there = (s: number): Step => {
    const i = steps.findIndex((step, k) => k > 0 && !step.turns && step.s >= s);
    const [p, q] = [steps[i - 1]!, steps[i]!];
    const t = q.s === p.s ? 0 : (s - p.s) / (q.s - p.s);
    return { at: mix(p.at, q.at, t), way: t > 0.5 ? q.way : p.way, s, turns: false };
  };
  return [there(from), ...steps.filter(({ s }) => s > from && s < to), there(to)];
}

const mix = (p: Point, q: Point, t: number): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];

const areaOf = (polygon: readonly Point[]): number =>
  polygon.reduce((sum, [x, y], i) => sum + x * polygon[(i + 1) % polygon.length]![1] - y * polygon[(i + 1) % polygon.length]![0], 0);

/** Where two bars cross; null where they do not. */
function crossing(a: Point, b: Point, c: Point, d: Point): Point | null {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
  const det = ux * vy - uy * vx;
  if (det === 0) return null;
  const [t, r] = [((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / det, ((c[0] - a[0]) * uy - (c[1] - a[1]) * ux) / det];
  return t > 0 && t < 1 && r > 0 && r < 1 ? mix(a, b, t) : null;
}
