import { worldFromPlane, planeFrame } from '../projection/planes';
import { addWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { SOLID_FORMS, type MeasureName, type Measures } from './forms';
import type { SolidKind } from './kinds';
import { readSolid, type MadeSolid } from './solids';

/** A place of a solid in directions of its own: along its outline's x and y, and in parts of its depth. */
type Place = readonly [x: number, y: number, depth: number];

const need = (m: Measures, name: MeasureName): number => m[name] ?? 0;

/** Where the measures of solids that stand flat are held; x and y along their base, from its corner or its middle. */
function flatPlace(kind: SolidKind, m: Measures, name: MeasureName): Place | null {
  const [w, l] = [need(m, 'width'), need(m, 'length')];
  const corner = SOLID_FORMS[kind].from === 'corner';
  const middle: readonly [number, number] = corner ? [w / 2, l / 2] : [0, 0];
  if (name === 'width') return corner ? [w, l / 2, 0] : [w / 2, 0, kind === 'ball' ? 0.5 : 0];
  if (name === 'length') return corner ? [w / 2, l, 0] : [0, l / 2, 0];
  if (name === 'height') return [...middle, 1];
  if (name === 'wall') return [w / 2 - need(m, 'wall'), 0, 1];
  if (name === 'bar') return [need(m, 'bar'), l / 2, 1];
  return name === 'top' ? [(w / 2) * need(m, 'top'), 0, 1] : null;
}

function uprightPlace(kind: SolidKind, m: Measures, name: MeasureName): Place | null {
  const [w, l, h] = [need(m, 'width'), need(m, 'length'), need(m, 'height')];
  if (kind === 'arch') {
    if (name === 'width') return [w, 0, 0.5];
    if (name === 'length') return [need(m, 'pier') / 2, 0, 1];
    if (name === 'height') return [w / 2, h, 0.5];
    if (name === 'pier') return [need(m, 'pier'), 0, 0];
    return name === 'crown' ? [w / 2, h - need(m, 'crown'), 0] : null;
  }
  if (name === 'width') return [l / 2, 0, 1];
  if (name === 'length') return [l, 0, 0.5];
  if (name === 'height') return kind === 'steps' ? [l, h, 0.5] : [need(m, 'ridge'), h, 0.5];
  if (name === 'ridge') return [need(m, 'ridge'), h, 0];
  if (name === 'rise') return [0, need(m, 'rise'), 0.5];
  return name === 'run' ? [need(m, 'run'), need(m, 'rise'), 0.5] : null;
}

/** A measure of a solid that can be held: its place in cells of the world, and how that moves as the measure grows by 1. */
export interface MeasureHandle {
  readonly name: MeasureName;
  readonly value: number;
  readonly at: WorldPoint;
  readonly along: WorldPoint;
}

/** By how much a measure is changed to see how its place moves. */
const STEP = 1e-3;

/** The measures of a solid that can be held, where it has the form that it was drawn as. Whole numbers are only typed. */
export function measureHandles(shape: MadeSolid): readonly MeasureHandle[] {
  const reading = readSolid(shape);
  if (!reading) return [];
  const form = SOLID_FORMS[shape.solid];
  return form.measures.flatMap((name): readonly MeasureHandle[] => {
    const value = reading.measures[name];
    const at = value === undefined ? null : placeOf(shape, reading.measures, name);
    if (value === undefined || !at) return [];
    const changed = { ...reading.measures, ...form.change?.(reading.measures, name, value + STEP), [name]: value + STEP };
    const next = placeOf(shape, changed, name)!;
    return [{ name, value, at, along: scaleWorld(subtractWorld(next, at), 1 / STEP) }];
  });
}

function placeOf(shape: MadeSolid, m: Measures, name: MeasureName): WorldPoint | null {
  const form = SOLID_FORMS[shape.solid];
  const place = form.lies === 'flat' ? flatPlace(shape.solid, m, name) : uprightPlace(shape.solid, m, name);
  const { frame: own } = readSolid(shape)!;
  const frame = planeFrame(shape.plane, 1);
  if (!place || !frame) return null;
  const [px, py, share] = place;
  // The outline's x may be turned against the base's.
  const rad = (-(form.turnDeg?.(m) ?? 0) * Math.PI) / 180;
  const [x, y] = [px * Math.cos(rad) - py * Math.sin(rad), px * Math.sin(rad) + py * Math.cos(rad)];
  const at = { u: own.origin.u + own.x.u * x + own.y.u * y, v: own.origin.v + own.x.v * x + own.y.v * y };
  const run = form.lies === 'flat' ? need(m, 'height') : form.lies === 'along' ? need(m, 'width') : need(m, 'length');
  const depth = (shape.start ?? 0) + share * run * Math.sign(shape.depth);
  return addWorld(worldFromPlane(frame, at), scaleWorld(frame.normal, depth));
}
