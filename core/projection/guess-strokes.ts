import { degrees } from '../math/figures';
import { fitLeastSquares } from '../math/least-squares';
import type { Axis, SheetPoint } from '../math/points';
import { axesInCamera } from './camera';
import { HAND_PX, lineOf, meanDirection, missOf, withinHalf, type Line, type SolveAs, type SolveOptions, type TracedStroke } from './stroke-lines';
import type { CameraAngles } from './vanishing';

const AXES = ['a', 'b', 'h'] as const;

/** Degrees within which a stroke runs as one before it does, and as several that run alike do, and so most likely along the same axis. */
const [AS_ONE_DEG, AS_SEVERAL_DEG] = [1.5, 6];

/**
 * The axis that a stroke most likely runs along: in a solution with a camera the one it agrees with best; else that along
 * which strokes before it run alike; else steep ones along h, and of the others those along a that come to the
 * horizon on the right: rising ones below it, falling ones above.
 * @param middle about where the horizon is taken to lie, while there is no camera; all of them below it without
 * @param before the strokes that were traced so far
 */
export function guessAxis(from: SheetPoint, to: SheetPoint, camera: CameraAngles | null, middle?: SheetPoint, before: readonly TracedStroke[] = []): Axis {
  const line = lineOf({ id: '', from, to, axis: 'h' });
  if (camera) {
    const axes = axesInCamera(camera);
    const { focal, principal } = camera;
    const off = (axis: Axis): number => {
      const d = axes[axis];
      return Math.abs(missOf(line, focal * d.x + principal.x * d.z, focal * d.y + principal.y * d.z, d.z));
    };
    return AXES.reduce((best, axis) => (off(axis) < off(best) ? axis : best), 'a' as Axis);
  }
  const alike = axisRunAlong(line, before.map(lineOf));
  if (alike) return alike;
  const rising = withinHalf(degrees(Math.atan2(-line.dy, line.dx)));
  if (Math.abs(rising) > 65) return 'h';
  // Edges over the horizon come down to it: what runs to the right there falls.
  const over = middle !== undefined && line.my < middle.y;
  return rising >= 0 !== over ? 'a' : 'b';
}

/** The axis along which what was traced runs as a line does; null where none does, or its edges run to a point. */
function axisRunAlong(line: Line, before: readonly Line[]): Axis | null {
  const apart = (p: Line, q: Line): number => degrees(Math.asin(Math.min(1, Math.abs(p.dx * q.dy - p.dy * q.dx))));
  const near = AXES.flatMap((axis) => {
    const own = before.filter((other) => other.axis === axis);
    const off = Math.min(...own.map((other) => apart(line, other)));
    const parallel = own.every((p) => own.every((q) => apart(p, q) < AS_SEVERAL_DEG));
    return own.length > 0 && parallel && off < (own.length > 1 ? AS_SEVERAL_DEG : AS_ONE_DEG) ? [{ axis, off }] : [];
  });
  return near.sort((p, q) => p.off - q.off)[0]?.axis ?? null;
}

/** Parallel where no axis converges beyond what a hand's noise explains; else by which axes do. */
export function guessKind(strokes: readonly TracedStroke[], options: SolveOptions): Exclude<SolveAs, 'auto'> {
  const meets = AXES.filter((axis) => converges(strokes.filter((s) => s.axis === axis).map(lineOf), options));
  if (meets.length === 0) return 'parallel';
  if (meets.length === 1 && meets[0] === 'b') return 'one';
  return meets.includes('h') ? 'three' : 'two';
}

/** Whether the strokes of one axis agree better on a point than on a direction, by more than a hand's noise. */
function converges(lines: readonly Line[], { mmPerPx, width, centre }: SolveOptions): boolean {
  if (lines.length < 2) return false;
  const rad = meanDirection(lines);
  const apart = lines.map((line) => missOf(line, Math.cos(rad), Math.sin(rad), 0) / mmPerPx);
  if (Math.max(...apart.map(Math.abs)) < 2 * HAND_PX) return false;
  const point = (p: readonly number[]): readonly number[] => {
    const k = Math.tan(p[1]!) / width;
    return lines.map((line) => missOf(line, Math.cos(p[0]!) + centre.x * k, Math.sin(p[0]!) + centre.y * k, k) / mmPerPx);
  };
  const best = [-1.3, -0.8, -0.3, 0.3, 0.8, 1.3].map((bend) => fitLeastSquares(point, [rad, bend], [1e-6, 1e-6])).reduce((p, q) => (q.cost < p.cost ? q : p));
  const cost = apart.reduce((sum, r) => sum + r * r, 0);
  return cost > 4 * Math.max(best.cost, HAND_PX * HAND_PX);
}
