import { fitLeastSquares, solveSymmetric } from '../math/least-squares';
import type { SheetPoint } from '../math/points';
import { bentPoint, shownAt, turnMatrix, type Bent, type PhotoCamera, type Pose } from './surface';

/** A crossing as it was seen: where it lies on the sheet, from its middle in mm, and in the photograph. */
export interface Seen {
  readonly u: number;
  readonly v: number;
  readonly at: SheetPoint;
  /** Standard error in px. */
  readonly error: number;
}

/** How a sheet can be bent: each way is a special one of the next. */
export type BentKind = 'panel' | 'cylinder' | 'cone';

/** A bent sheet before a camera, and how well it explains what was seen. */
export interface BentFit {
  readonly kind: BentKind;
  readonly bent: Bent;
  readonly pose: Pose;
  readonly camera: PhotoCamera;
  readonly parameters: readonly number[];
  /** Covariance of the parameters by rows, in their units; null where what was seen does not tell them all. */
  readonly covariance: readonly number[] | null;
}

/** Parameters: logarithm of the focal length, bend of the lens, turn, place over distance, logarithm of the distance, curvature in parts of the sheet, taper, skew. */
const COUNT: Readonly<Record<BentKind, number>> = { panel: 8, cylinder: 10, cone: 11 };
const STEPS = [1e-4, 1e-4, 1e-4, 1e-4, 1e-4, 1e-5, 1e-5, 1e-5, 1e-4, 1e-4, 1e-4] as const;
/** What is known before anything is seen: a focal length of about 1.4 pictures, a lens that bends little; and how well. */
const [LENS, LENS_SPREAD, BEND_SPREAD] = [1.4, 0.7, 0.06];

/** How large a sheet and a photograph are that are fitted to each other. */
export interface FitSizes {
  readonly width: number;
  readonly height: number;
  /** Length in mm by which curvatures are told: about the sheet's width. */
  readonly length: number;
}

/** The sheet before the camera that some parameters say. */
export function bentOf(p: readonly number[], { width, height, length }: FitSizes): Pick<BentFit, 'bent' | 'pose' | 'camera'> {
  const far = Math.exp(p[7]!);
  return {
    camera: { width, height, focal: Math.exp(p[0]!), bend: p[1]! },
    pose: { turn: [p[2]!, p[3]!, p[4]!], at: [p[5]! * far, p[6]! * far, far] },
    bent: { curvature: (p[8] ?? 0) / length, skew: p[9] ?? 0, taper: p[10] ?? 0 },
  };
}

/** Where places of a bent sheet are shown: a function from u, v in mm from its middle to px; null behind the lens. */
export function bentShown({ bent, pose, camera }: Pick<BentFit, 'bent' | 'pose' | 'camera'>): (u: number, v: number) => SheetPoint | null {
  const m = turnMatrix(pose.turn);
  const own = [0, 0, 0];
  return (u, v) => {
    bentPoint(bent, u, v, own);
    const [x, y, z] = own as [number, number, number];
    return shownAt(
      camera,
      m[0]! * x + m[1]! * y + m[2]! * z + pose.at[0],
      m[3]! * x + m[4]! * y + m[5]! * z + pose.at[1],
      m[6]! * x + m[7]! * y + m[8]! * z + pose.at[2],
    );
  };
}

/** Px that count for a place that would lie behind the lens. */
const BEHIND = 1e4;

function residualsFor(seen: readonly Seen[], weights: readonly number[], sizes: FitSizes): (p: readonly number[]) => number[] {
  const expected = Math.log(LENS * Math.max(sizes.width, sizes.height));
  return (p) => {
    const shown = bentShown(bentOf(p, sizes));
    const out: number[] = [];
    seen.forEach(({ u, v, at }, i) => {
      const place = shown(u, v);
      out.push(place ? (place.x - at.x) * weights[i]! : BEHIND, place ? (place.y - at.y) * weights[i]! : BEHIND);
    });
    out.push((p[0]! - expected) / LENS_SPREAD, p[1]! / BEND_SPREAD);
    return out;
  };
}

/**
 * The bent sheet of a kind that explains best what was seen, from several starts.
 * @param weights of each crossing, 1/px; 0 for those that do not count
 * @param from fits of the kinds before, from which it starts
 */
export function fitBent(kind: BentKind, seen: readonly Seen[], weights: readonly number[], sizes: FitSizes, from: BentFit | null): BentFit | null {
  const count = COUNT[kind];
  const steps = STEPS.slice(0, count);
  const residuals = residualsFor(seen, weights, sizes);
  const sparse = seen.map((_, i) => i).filter((i) => seen.length <= 48 || i % Math.ceil(seen.length / 48) === 0);
  const rough = residualsFor(sparse.map((i) => seen[i]!), sparse.map((i) => weights[i]!), sizes); // prettier-ignore
  const starts = kind === 'panel' ? panelStarts(seen, sizes) : bentStarts(kind, from);
  const tried = starts.map((start) => fitLeastSquares(rough, start, steps, 14)).sort((p, q) => p.cost - q.cost);
  const fits = tried.slice(0, 2).flatMap(({ parameters }) => refitBent(kind, seen, weights, sizes, parameters) ?? []);
  const cost = ({ parameters }: BentFit): number => residuals(parameters).reduce((sum, value) => sum + value * value, 0);
  return fits.sort((p, q) => cost(p) - cost(q))[0] ?? null;
}

/** The same from one start. */
export function refitBent(kind: BentKind, seen: readonly Seen[], weights: readonly number[], sizes: FitSizes, start: readonly number[]): BentFit | null {
  const fit = fitLeastSquares(residualsFor(seen, weights, sizes), start, STEPS.slice(0, COUNT[kind]), 30);
  if (!fit.parameters.every(Number.isFinite)) return null;
  return { kind, ...bentOf(fit.parameters, sizes), parameters: fit.parameters, covariance: fit.inverse };
}

/** Poses from which a flat sheet is looked for: upright as it is seen in its middle, tilted each way. */
function panelStarts(seen: readonly Seen[], { width, height }: FitSizes): readonly (readonly number[])[] {
  const middle = [...seen].sort((p, q) => Math.hypot(p.u, p.v) - Math.hypot(q.u, q.v)).slice(0, Math.max(9, seen.length >> 2));
  const { x, y, right, down } = affineIn(middle);
  const scale = Math.max(Math.hypot(...right), Math.hypot(...down), 1e-6);
  const roll = Math.atan2(right[1], right[0]);
  return [0.9, 2].flatMap((lens) => {
    const focal = lens * Math.max(width, height);
    return TILTS.map(([rx, ry]) => [Math.log(focal), 0, rx, ry, roll, (x - width / 2) / focal, (y - height / 2) / focal, Math.log(focal / scale)]);
  });
}

const TILTS = [[0, 0], [0.5, 0], [-0.5, 0], [0, 0.5], [0, -0.5]] as const; // prettier-ignore

/** The affine map that is nearest to what was seen of some crossings, about the sheet's middle. */
function affineIn(seen: readonly Seen[]): { x: number; y: number; right: readonly [number, number]; down: readonly [number, number] } {
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  const [rx, ry] = [[0, 0, 0], [0, 0, 0]]; // prettier-ignore
  for (const { u, v, at } of seen) {
    const row = [1, u, v];
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) m[3 * i + j]! += row[i]! * row[j]!;
      rx[i]! += row[i]! * at.x;
      ry[i]! += row[i]! * at.y;
    }
  }
  const [px, py] = [solveSymmetric(m, rx) ?? [0, 0, 0], solveSymmetric(m, ry) ?? [0, 0, 0]];
  return { x: px[0]!, y: py[0]!, right: [px[1]!, py[1]!], down: [px[2]!, py[2]!] };
}

/** Curvatures, in parts of the sheet, from which a bent one is looked for; along either side of the sheet. */
const CURVATURES = [0.5, 1.3, 2.3, -0.7] as const;

function bentStarts(kind: 'cylinder' | 'cone', from: BentFit | null): readonly (readonly number[])[] {
  if (!from) return [];
  const p = from.parameters;
  if (kind === 'cone') return [0.01, 0.1, -0.1].map((taper) => [...p.slice(0, 10), taper]);
  // The flat one has taken the bend for a tilt: it is looked for from straight ahead too.
  const ahead = [...p.slice(0, 2), 0, 0, ...p.slice(4, 8)];
  return [p.slice(0, 8), ahead].flatMap((start) => [0, Math.PI / 2].flatMap((skew) => CURVATURES.map((curvature) => [...start, curvature, skew])));
}
