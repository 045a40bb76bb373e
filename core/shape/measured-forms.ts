import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { Outline, OutlinePoint } from './outline';

/** A polygon with a second radius, in cells: its points stand on the outer, the corners between them on the inner circle. */
export interface StarForm {
  readonly kind: 'star';
  readonly points: number;
  readonly outer: number;
  readonly inner: number;
  /** How far the inner corners are turned from the middles between the points, in degrees, from u to v. */
  readonly turnedDeg: number;
}

/**
 * A spiral from an inner to an outer radius in cells, by equal steps (Archimedes) or by equal ratios (logarithmic). A
 * line without a band; with one an area as wide as it is, across the radius.
 */
export interface SpiralForm {
  readonly kind: 'spiral';
  readonly turns: number;
  readonly inner: number;
  readonly outer: number;
  readonly steps: 'even' | 'growing';
  readonly band: number;
}

/** What an outline was made by, in a size and a place of its own: both are read off the outline. */
export type MeasuredForm = StarForm | SpiralForm;

/** A form where an outline has it. */
export interface PlacedForm {
  /** The form in the size that it has now. */
  readonly form: MeasuredForm;
  readonly centre: PlanePoint;
  /** The direction from the centre to the first point, or to where a spiral ends, in degrees from u to v. */
  readonly startDeg: number;
  /** Which way it runs: from u to v, or the other. A spiral to the left runs from u to v outwards. */
  readonly way: 1 | -1;
  /** Roundings of the outer and the inner corners of a star, in cells; null where they differ among themselves or are no roundings. */
  readonly rounded: { readonly outer: number | null; readonly inner: number | null };
}

/** Least and most that a form may be given. */
export const FORM_LIMITS = { points: [3, 120], turns: [0.05, 60], turnedDeg: [-180, 180] } as const;

/** Pieces of a spiral to a turn: cubics of the sixth order stray from it by less than a tick up to a thousand cells. */
const PIECES = 24;
/** How far a point may lie from where its form has it, in cells for each cell of its radius, and at least: roundings to ticks, a few times over. */
const SAME_FORM = { share: 1e-5, least: 2e-4 };

/** What keeps measures from making a form, or null. */
export function formFault(form: MeasuredForm): string | null {
  const within = (value: number, [least, most]: readonly [number, number]): boolean => value >= least && value <= most;
  if (!(form.outer > 0) || !(form.inner >= 0) || (form.kind === 'spiral' && !(form.band >= 0))) return 'Radii are more than 0.';
  if (form.kind === 'star') {
    if (!Number.isInteger(form.points) || !within(form.points, FORM_LIMITS.points)) return 'A star has from 3 to 120 points.';
    if (form.inner === 0) return 'The inner radius is more than 0.';
    return within(form.turnedDeg, FORM_LIMITS.turnedDeg) ? null : 'Points are turned by −180° to 180°.';
  }
  if (!within(form.turns, FORM_LIMITS.turns)) return 'A spiral has from 0.05 to 60 turns.';
  if (form.inner >= form.outer) return 'The inner radius is less than the outer.';
  if (form.steps === 'growing' && form.inner === 0) return 'Growing steps begin at a radius above 0.';
  if (form.band > 2 * form.inner) return 'The band is at most twice as wide as the inner radius.';
  const closest = form.turns < 1 ? Infinity : radiusAt(form, 1 / form.turns).r - form.inner;
  return form.band >= closest ? 'The band is narrower than the way from turn to turn.' : null;
}

/** The outline of a form about a centre. Ids run from 1: points of a star and the corners between them in turn, or outwards along a spiral. */
export function formOutline({ form, centre, startDeg, way, rounded }: PlacedForm): Outline {
  return form.kind === 'star' ? starOutline(form, centre, startDeg, way, rounded) : spiralOutline(form, centre, startDeg, way);
}

const radians = (deg: number): number => (deg * Math.PI) / 180;

const around = (centre: PlanePoint, radius: number, turn: number): PlanePoint => ({
  u: exactCells(centre.u + radius * Math.cos(turn)),
  v: exactCells(centre.v + radius * Math.sin(turn)),
});

function starOutline(
  { points, outer, inner, turnedDeg }: StarForm,
  centre: PlanePoint,
  startDeg: number,
  way: 1 | -1,
  rounded: PlacedForm['rounded'],
): Outline {
  const corner = (size: number | null): Pick<OutlinePoint, 'corner'> => (size ? { corner: { kind: 'round', size } } : {});
  return {
    closed: true,
    points: Array.from({ length: 2 * points }, (_, i): OutlinePoint => {
      const isInner = i % 2 === 1;
      const turn = radians(startDeg) + way * ((Math.PI * i) / points + (isInner ? radians(turnedDeg) : 0));
      return { id: i + 1, ...around(centre, isInner ? inner : outer, turn), ...corner(isInner ? rounded.inner : rounded.outer) };
    }),
  };
}

/** A place of a spiral with its derivative by the angle and its curvature there. */
interface SpiralPlace {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
  readonly curvature: number;
}

/** The radius of a spiral with its first and second derivative by the angle. */
function radiusAt({ turns, inner, outer, steps }: SpiralForm, t: number): { readonly r: number; readonly first: number; readonly second: number } {
  const whole = 2 * Math.PI * turns;
  if (steps === 'even') return { r: inner + (outer - inner) * t, first: (outer - inner) / whole, second: 0 };
  const [r, rate] = [inner * (outer / inner) ** t, Math.log(outer / inner) / whole];
  return { r, first: rate * r, second: rate * rate * r };
}

/**
 * The spiral about the origin that ends on the x axis, running from x to y.
 * @param t 0 at its inner end, 1 at its outer
 * @param beside cells outwards along the radius, for the edges of a band
 */
function spiralAt(form: SpiralForm, t: number, beside: number): SpiralPlace {
  const turn = 2 * Math.PI * form.turns * (t - 1);
  const { r: middle, first, second } = radiusAt(form, t);
  const r = middle + beside;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return {
    x: r * cos,
    y: r * sin,
    dx: first * cos - r * sin,
    dy: first * sin + r * cos,
    curvature: (r * r + 2 * first * first - r * second) / (r * r + first * first) ** 1.5,
  };
}

/**
 * Lengths of the handles of the cubic that has the places, directions and curvatures of a curve at both ends (de Boor,
 * Höllig & Sabin 1987), found by Newton's method from those of a circle. It strays by the sixth power of its length.
 */
function handlesBetween(p: SpiralPlace, q: SpiralPlace, phi: number): readonly [number, number] {
  const [la, lb] = [Math.hypot(p.dx, p.dy), Math.hypot(q.dx, q.dy)];
  const cross = (p.dx * q.dy - p.dy * q.dx) / (la * lb);
  const [dx, dy] = [q.x - p.x, q.y - p.y];
  const [leaves, meets] = [(p.dx * dy - p.dy * dx) / la, (dx * q.dy - dy * q.dx) / lb];
  const circle = (4 / 3) * Math.tan(phi / 4);
  let [s, t] = [circle * la, circle * lb];
  for (let i = 0; i < 12; i++) {
    const f = 1.5 * p.curvature * s * s - leaves + t * cross;
    const g = 1.5 * q.curvature * t * t - meets + s * cross;
    const [a, d] = [3 * p.curvature * s, 3 * q.curvature * t];
    const det = a * d - cross * cross;
    if (det === 0) break;
    [s, t] = [s - (f * d - g * cross) / det, t - (g * a - f * cross) / det];
  }
  return s > 0 && t > 0 && Number.isFinite(s + t) ? [s, t] : [circle * la, circle * lb];
}

const piecesOf = ({ turns }: SpiralForm): number => Math.max(2, Math.ceil(turns * PIECES));

function spiralOutline(form: SpiralForm, centre: PlanePoint, startDeg: number, way: 1 | -1): Outline {
  const count = piecesOf(form);
  const [cos, sin] = [Math.cos(radians(startDeg)), Math.sin(radians(startDeg))];
  const at = (x: number, y: number): PlanePoint => ({
    u: exactCells(centre.u + x * cos - way * y * sin),
    v: exactCells(centre.v + x * sin + way * y * cos),
  });
  const edge = (beside: number): readonly PathPoint[] => {
    const places = Array.from({ length: count + 1 }, (_, i) => spiralAt(form, i / count, beside));
    const handles = places.slice(1).map((q, i) => handlesBetween(places[i]!, q, (2 * Math.PI * form.turns) / count));
    return places.map((p, i): PathPoint => {
      const length = Math.hypot(p.dx, p.dy);
      const handle = (by: number): PlanePoint => at(p.x + (p.dx / length) * by, p.y + (p.dy / length) * by);
      return { ...at(p.x, p.y), ...(i > 0 && { into: handle(-handles[i - 1]![1]) }), ...(i < count && { out: handle(handles[i]![0]) }) };
    });
  };
  const numbered = (points: readonly PathPoint[]): readonly OutlinePoint[] => points.map((p, i) => ({ id: i + 1, ...p }));
  if (form.band === 0) return { points: numbered(edge(0)), closed: false };
  // Out along one edge of the band, and back along the other.
  const back = [...edge(-form.band / 2)].reverse().map(({ into, out, ...p }): PathPoint => ({ ...p, ...(out && { into: out }), ...(into && { out: into }) }));
  return { points: numbered([...edge(form.band / 2), ...back]), closed: true };
}

type PathPoint = Omit<OutlinePoint, 'id'>;

/** Where and how large an outline has the form that it was made by; null where it has another by now. */
export function placedForm(outline: Outline, form: MeasuredForm): PlacedForm | null {
  if (formFault(form) !== null || outline.holes) return null;
  for (const way of [1, -1] as const) {
    const placed = fitted(outline, form, way);
    if (placed && isThere(outline, placed)) return placed;
  }
  return null;
}

/** Whether an outline is what a placed form makes, but for roundings; ids and corners are let be. */
function isThere(outline: Outline, placed: PlacedForm): boolean {
  const wanted = formOutline(placed);
  const near = Math.max(SAME_FORM.least, SAME_FORM.share * placed.form.outer);
  const same = (p: PlanePoint | undefined, q: PlanePoint | undefined): boolean => (p && q ? Math.hypot(p.u - q.u, p.v - q.v) <= near : p === q);
  return wanted.points.every((p, i) => {
    const q = outline.points[i]!;
    return same(p, q) && same(p.into, q.into) && same(p.out, q.out) && !q.arc;
  });
}

/** A form turned, moved and sized so that its points lie nearest to those of an outline: the least squares of a similarity. */
function fitted(outline: Outline, form: MeasuredForm, way: 1 | -1): PlacedForm | null {
  const rounded = roundingsOf(outline, form);
  const own = formOutline({ form, centre: { u: 0, v: 0 }, startDeg: 0, way, rounded });
  const [p, q, n] = [own.points, outline.points, own.points.length];
  if (q.length !== n || own.closed !== outline.closed) return null;
  const mean = (points: readonly PlanePoint[]): PlanePoint => ({
    u: points.reduce((sum, o) => sum + o.u, 0) / n,
    v: points.reduce((sum, o) => sum + o.v, 0) / n,
  });
  const [from, to] = [mean(p), mean(q)];
  let [along, across, square] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const [x, y, u, v] = [p[i]!.u - from.u, p[i]!.v - from.v, q[i]!.u - to.u, q[i]!.v - to.v];
    along += x * u + y * v;
    across += x * v - y * u;
    square += x * x + y * y;
  }
  const [cos, sin] = [along / square, across / square];
  const size = sizeOf(Math.hypot(cos, sin), form.outer);
  if (!(size > 0)) return null;
  const sized = (cells: number): number => exactCells(cells * size);
  return {
    form:
      form.kind === 'star'
        ? { ...form, outer: sized(form.outer), inner: sized(form.inner) }
        : { ...form, outer: sized(form.outer), inner: sized(form.inner), band: sized(form.band) },
    centre: { u: exactCells(to.u - cos * from.u + sin * from.v), v: exactCells(to.v - sin * from.u - cos * from.v) },
    startDeg: (Math.atan2(sin, cos) * 180) / Math.PI,
    way,
    rounded,
  };
}

/** The size of a form, 1 where it is that to a rounding: measures that were typed come back as they were typed. */
const sizeOf = (size: number, outer: number): number => (Math.abs(size - 1) * outer < SAME_FORM.least ? 1 : size);

function roundingsOf({ points }: Outline, { kind }: MeasuredForm): PlacedForm['rounded'] {
  if (kind === 'spiral') return { outer: null, inner: null };
  const rounding = (first: 0 | 1): number | null => {
    const corners = points.filter((_, i) => i % 2 === first).map(({ corner }) => (corner ? (corner.kind === 'round' ? corner.size : -1) : 0));
    return corners.every((corner) => corner === corners[0] && corner >= 0) ? corners[0]! : null;
  };
  return { outer: rounding(0), inner: rounding(1) };
}
