import { exactCells } from '../math/exact';
import { addWorld, crossWorld, dotWorld, scaleWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { TICKS_PER_CELL } from '../math/tolerances';
import { planeOfCorners } from '../projection/free-planes';
import { planeFrame, worldFromPlane, type Plane } from '../projection/planes';
import { doubleAreaTicks, mapOutline, mapPoint, outlineCentre, type Outline } from '../shape/outline';
import { flattenOutline } from '../shape/segments';
import type { DepthWays, Extruded } from '../geometry/depth-recipe';
import { MEASURES, SOLID_FORMS, type MeasureName, type Measures, type SolidForm } from './forms';
import type { SolidKind } from './kinds';

/** What a solid is made from: a shape with depth, and the form that tells its measures. */
export interface MadeSolid extends Extruded {
  readonly solid: SolidKind;
}

/** The base on which a solid is drawn: two opposite corners of its box on a plane, and its height along the normal, all in cells. */
export interface SolidBase {
  readonly plane: Plane;
  readonly from: PlanePoint;
  readonly to: PlanePoint;
  /** Negative where it goes against the normal. */
  readonly height: number;
  /** Quarter turns of the solid within its box: which way steps rise, or an arch leads. */
  readonly turn: number;
}

/** A solid, or why its measures make none. */
export type SolidResult<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

const refused = (reason: string): { readonly ok: false; readonly reason: string } => ({ ok: false, reason });

/** What keeps measures from making a solid of a kind, in words; null where nothing does. */
export function measureFault(kind: SolidKind, m: Measures): string | null {
  const form = SOLID_FORMS[kind];
  for (const name of ['width', 'length', 'height', ...form.measures] as const) {
    const value = m[name];
    if (value === undefined) continue;
    if (!Number.isFinite(value)) return `${MEASURES[name].label} is not a number.`;
    if (MEASURES[name].kind !== 'length') continue;
    if (name === 'ridge' ? value < 0 : exactCells(value) <= 0) return `${MEASURES[name].label} is more than 0.`;
  }
  return form.fault?.(m) ?? null;
}

/** The measures of what fills a base, before those that a kind has besides are known. */
export function baseMeasures(kind: SolidKind, { from, to, height, turn }: SolidBase): Measures {
  const [u, v] = [exactCells(Math.abs(to.u - from.u)), exactCells(Math.abs(to.v - from.v))];
  const [width, length] = turn % 2 === 0 ? [u, v] : [v, u];
  if (!SOLID_FORMS[kind].even) return { width, length, height: Math.abs(height) };
  return { width, length: width, height: kind === 'ball' ? width : Math.abs(height) };
}

/**
 * A solid on a base.
 * @param others what it is measured by besides the size of its box; lengths in cells
 */
export function solidOn(kind: SolidKind, base: SolidBase, others: Measures): SolidResult<MadeSolid> {
  const form = SOLID_FORMS[kind];
  const m: Measures = { ...others, ...baseMeasures(kind, base) };
  const fault = measureFault(kind, m);
  const frame = planeFrame(base.plane, 1);
  if (!frame) return refused('Solids stand on a plane in space; the sheet has no depth.');
  if (fault) return refused(fault);
  const { plane, from, to, turn } = base;
  const [lowU, lowV, highU, highV] = [Math.min(from.u, to.u), Math.min(from.v, to.v), Math.max(from.u, to.u), Math.max(from.v, to.v)];
  // Where the turned box has its own origin, and where its x and y then run.
  const corners = [{ u: lowU, v: lowV }, { u: highU, v: lowV }, { u: highU, v: highV }, { u: lowU, v: highV }] as const; // prettier-ignore
  const corner = corners[turn % 4]!;
  const [x, y] = [ALONG[turn % 4]!, ALONG[(turn + 1) % 4]!];
  const upwards = base.height < 0 && kind !== 'ball' ? -1 : 1;
  const outline = form.outline(m);
  const ways = form.ways?.(m) ?? {};
  if (form.lies === 'flat') {
    const middle = { u: (lowU + highU) / 2, v: (lowV + highV) / 2 };
    const rad = ((form.turnDeg?.(m) ?? 0) * Math.PI) / 180;
    const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
    const local: LocalFrame = form.from === 'corner' ? { origin: corner, x, y } : { origin: middle, x: mixed(x, y, cos, sin), y: mixed(x, y, -sin, cos) };
    return { ok: true, value: { plane, outline: placed(outline, local), depth: exactCells(m.height!) * (base.height < 0 ? -1 : 1), ...ways, solid: kind } };
  }
  const direction = (d: PlanePoint): WorldPoint => addWorld(scaleWorld(frame.u, d.u), scaleWorld(frame.v, d.v));
  const [along, out] = form.lies === 'along' ? [direction(y), direction(x)] : [direction(x), direction(y)];
  const up = scaleWorld(frame.normal, upwards);
  const foot = worldFromPlane(frame, corner);
  const upright = planeOfCorners({ corners: [foot], normal: crossWorld(along, up) }, 1);
  const own = upright && planeFrame(upright, 1);
  if (!own) return refused('Solids stand on a plane in space; the sheet has no depth.');
  const coordinates = (p: WorldPoint): PlanePoint => ({ u: dotWorld(p, own.u), v: dotWorld(p, own.v) });
  const local: LocalFrame = { origin: coordinates({ a: foot.a - own.origin.a, b: foot.b - own.origin.b, h: foot.h - own.origin.h }), x: coordinates(along), y: coordinates(up) }; // prettier-ignore
  const run = form.lies === 'along' ? m.width! : m.length!;
  const depth = exactCells(run) * Math.sign(dotWorld(out, own.normal));
  return { ok: true, value: { plane: upright, outline: placed(outline, local), depth, ...ways, solid: kind } };
}

/** The directions of u and v and against them, a quarter turn apart. */
const ALONG: readonly PlanePoint[] = [{ u: 1, v: 0 }, { u: 0, v: 1 }, { u: -1, v: 0 }, { u: 0, v: -1 }]; // prettier-ignore

const mixed = (x: PlanePoint, y: PlanePoint, p: number, q: number): PlanePoint => ({ u: x.u * p + y.u * q, v: x.v * p + y.v * q });

/** Directions of an outline's own in a plane. */
export interface LocalFrame {
  readonly origin: PlanePoint;
  readonly x: PlanePoint;
  readonly y: PlanePoint;
}

/** An outline in directions of its own, laid into the plane on whole ticks. */
function placed(outline: Outline, { origin, x, y }: LocalFrame): Outline {
  return mapOutline(outline, (p) => mapPoint(p, ({ u, v }) => ({ u: exactCells(origin.u + x.u * u + y.u * v), v: exactCells(origin.v + x.v * u + y.v * v) })));
}

/** The directions of its own that an outline has, by its first corners; null where it has none. */
function localFrame(outline: Outline, from: SolidForm['from']): LocalFrame | null {
  const [first, second] = outline.points;
  if (!first || !second) return null;
  const origin = from === 'corner' ? first : meanOf(outline);
  const [du, dv] = from === 'corner' ? [second.u - first.u, second.v - first.v] : [first.u - origin.u, first.v - origin.v];
  const length = Math.hypot(du, dv);
  if (length === 0) return null;
  const x = { u: du / length, v: dv / length };
  const sense = doubleAreaTicks(flattenOutline({ points: outline.points, closed: true }, COARSE)) < 0 ? -1 : 1;
  return { origin, x, y: { u: -x.v * sense, v: x.u * sense } };
}

/** Chords in cells that tell which way an outline turns. */
const COARSE = 0.05;

/** The middle of a regular outline: of its box where it is round or has four corners, else the mean of its corners. */
function meanOf(outline: Outline): PlanePoint {
  const { points } = outline;
  if (points.some((p) => p.arc)) return outlineCentre(outline)!;
  const mean = (of: (p: PlanePoint) => number): number => points.reduce((sum, p) => sum + of(p), 0) / points.length;
  return { u: mean((p) => p.u), v: mean((p) => p.v) };
}

/** Cells by which corners may miss what the measures say: what rounding to ticks leaves. */
const MISS = 4 / TICKS_PER_CELL;

/** The measures of a solid, and the directions of its own in which they are told. */
export interface Reading {
  readonly measures: Measures;
  readonly frame: LocalFrame;
}

/** What a solid is measured by, read off its outline and depth; null where it no longer has its form. */
export function readSolid(shape: MadeSolid): Reading | null {
  const form = SOLID_FORMS[shape.solid];
  const frame = shape.depth === 0 ? null : localFrame(shape.outline, form.from);
  if (!frame) return null;
  const { origin, x, y } = frame;
  const local = mapOutline(shape.outline, (p) =>
    mapPoint(p, ({ u, v }) => ({ u: (u - origin.u) * x.u + (v - origin.v) * x.v, v: (u - origin.u) * y.u + (v - origin.v) * y.v })),
  );
  const read = form.read(local, shape);
  if (!read) return null;
  const depth = Math.abs(shape.depth);
  const whole: Measures = form.lies === 'flat' ? { ...read, height: shape.solid === 'ball' ? read.width! : depth } : form.lies === 'along' ? { ...read, width: depth } : { ...read, length: depth }; // prettier-ignore
  const measures = Object.fromEntries(
    Object.entries(whole).map(([name, value]) => [name, MEASURES[name as MeasureName].kind === 'length' ? rounded(value) : value]),
  );
  if (measureFault(shape.solid, measures)) return null;
  return isSame(local, form.outline(measures)) ? { measures, frame } : null;
}

/** A length as it was typed: what rounding corners to ticks took from a whole hundredth is given back. */
function rounded(cells: number): number {
  const hundredths = Math.round(cells * 100) / 100;
  return Math.abs(hundredths - cells) < MISS ? hundredths : exactCells(cells);
}

function isSame(p: Outline, q: Outline): boolean {
  const rings = (o: Outline): readonly Outline['points'][] => [o.points, ...(o.holes ?? [])];
  const [some, others] = [rings(p), rings(q)];
  const near = (s: PlanePoint, t: PlanePoint): boolean => Math.abs(s.u - t.u) < MISS && Math.abs(s.v - t.v) < MISS;
  return (
    some.length === others.length &&
    some.every((ring, i) => {
      const other = others[i]!;
      return (
        ring.length === other.length &&
        ring.every((s, k) => {
          const t = other[k]!;
          if (s.corner || s.into || s.out || !near(s, t) || !s.arc !== !t.arc) return false;
          return !s.arc || (near(s.arc, t.arc!) && Math.abs(s.arc.weight - t.arc!.weight) < MISS);
        })
      );
    })
  );
}

/** What a shape with depth is measured by, as long as it still has the form that it was drawn as; null otherwise. */
export function measuresOf(shape: Extruded & { readonly solid?: SolidKind }): { readonly kind: SolidKind; readonly measures: Measures } | null {
  const { solid } = shape;
  const reading = solid && readSolid({ ...shape, solid });
  return reading ? { kind: solid, measures: reading.measures } : null;
}

/** The recipe of a solid with one measure changed; its own corner stays where it is, or its middle where it is round. */
export function withMeasure(shape: MadeSolid, name: MeasureName, value: number): SolidResult<Pick<MadeSolid, 'outline' | 'depth' | keyof DepthWays>> {
  const form = SOLID_FORMS[shape.solid];
  const reading = readSolid(shape);
  if (!reading) return refused('It no longer has the form that it was drawn as.');
  const m = form.change?.(reading.measures, name, value) ?? { ...reading.measures, [name]: value };
  const fault = measureFault(shape.solid, m);
  if (fault) return refused(fault);
  const before = form.turnDeg?.(reading.measures) ?? 0;
  const rad = (((form.turnDeg?.(m) ?? 0) - before) * Math.PI) / 180;
  const { origin, x, y } = reading.frame;
  const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
  const frame = rad === 0 ? reading.frame : { origin, x: mixed(x, y, cos, sin), y: mixed(x, y, -sin, cos) };
  const made = placed(form.outline(m), frame);
  const outline = made.points.length === shape.outline.points.length ? withIds(made, shape.outline) : made;
  const run = form.lies === 'flat' ? m.height! : form.lies === 'along' ? m.width! : m.length!;
  return { ok: true, value: { outline, depth: exactCells(run) * Math.sign(shape.depth), ...form.ways?.(m) } };
}

/** An outline with the ids of another of as many corners, so that its sides keep their names. */
function withIds(outline: Outline, { points, holes }: Outline): Outline {
  const named = (ring: Outline['points'], of: Outline['points'] | undefined): Outline['points'] => ring.map((p, i) => ({ ...p, id: of?.[i]?.id ?? p.id }));
  const own = { ...outline, points: named(outline.points, points) };
  return outline.holes ? { ...own, holes: outline.holes.map((hole, i) => named(hole, holes?.[i])) } : own;
}
