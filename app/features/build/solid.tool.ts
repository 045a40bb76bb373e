import {
  automaticName,
  ellipseOutline,
  exactCells,
  figure,
  fitPaint,
  flattenOutline,
  LOOSE_BOX,
  outlineBox,
  planeFrame,
  planeName,
  rectangleOutline,
  scaleWorld,
  spanBetween,
  worldFromPlane,
  type Caught,
  type Edit,
  type PlanePoint,
  type ShapeNode,
  type SheetPoint,
  type SolidKind,
} from '@core';
import { lengthAlong, SOLID_FORMS, solidOn, type Measures, type MadeSolid, type SolidResult } from '@later';
import { areaWords, axisName, carried, catchPointer, caughtPlace, lengthWords } from '../../tools/catching';
import { groundAt, outOf, type Ground } from '../../tools/ground';
import { reachTo } from '../../tools/reach';
import type { Ghost, ToolEvent } from '../../tools/tool';
import type { BuildContext, BuildStep, BuildTool } from './build-set';

export interface SolidState {
  /** Where it stands: what is under the pointer until its base is begun. */
  readonly ground: Ground | null;
  readonly from: PlanePoint | null;
  /** The opposite corner, once the base is drawn. */
  readonly to: PlanePoint | null;
  readonly caught: Caught | null;
  /** Height in cells out of the ground, while it is drawn, and what it reaches up to. */
  readonly height: number;
  readonly upTo: string | null;
  /** The id that it will have. */
  readonly id: string;
}

const idle = (ground: Ground | null, caught: Caught | null): SolidState => ({ ground, from: null, to: null, caught, height: 0, upTo: null, id: '' });

/** How finely ghosts of curves are shown, in cells. */
const GHOST_CHORDS = 0.01;

/**
 * A solid in at most three presses: two opposite corners of its base, by two presses or one drag, then its height. All
 * measures can be typed; with the height among them, two presses or one and Enter do. It stands on the face under the
 * pointer, or on the chosen plane.
 */
export function solidTool(kind: SolidKind): BuildTool<SolidState> {
  const needsHeight = kind !== 'ball';

  const base = (state: SolidState, to: PlanePoint, context: BuildContext): { readonly from: PlanePoint; readonly to: PlanePoint } =>
    baseOf(kind, state.from!, to, context);

  const build = (state: SolidState, to: PlanePoint, height: number, context: BuildContext): SolidResult<MadeSolid> => {
    const { plane, out } = state.ground!;
    const { settings } = context;
    const sized = stepped(kind, base(state, to, context), height, settings);
    return solidOn(kind, { plane, ...sized, height: exactCells(sized.height * out), turn: settings.turn }, sized.others);
  };

  const finish = (state: SolidState, to: PlanePoint, height: number, context: BuildContext): BuildStep<SolidState> => {
    const made = build(state, to, height, context);
    if (!made.ok) return { state };
    return { state: idle(state.ground, state.caught), preview: null, ...drawn(made.value, state, context) };
  };

  /** The base is drawn: the height comes next, where there is one. */
  const raise = (state: SolidState, to: PlanePoint, context: BuildContext): BuildStep<SolidState> => {
    const size = spanBetween(state.from!, to);
    if (size.u === 0 && size.v === 0) return { state };
    const { from, to: corner } = base(state, to, context);
    if (from.u === corner.u || from.v === corner.v) return { state };
    if (!needsHeight) return finish(state, to, 1, context);
    return { state: { ...state, to, height: 0, upTo: null } };
  };

  const pointAt = (state: SolidState, event: Extract<ToolEvent, { at: unknown }>, context: BuildContext): BuildStep<SolidState> => {
    if (state.from && state.to) {
      const { cells: height, word } = heightAt(state, event, context);
      const next = { ...state, height, upTo: word };
      if (event.kind === 'down') return finish(next, state.to, height, context);
      const made = height === 0 ? null : build(next, state.to, height, context);
      return { state: next, preview: made?.ok ? drawn(made.value, state, context).commit.edit : null };
    }
    const ground = state.from ? state.ground : groundFor(event.at, context);
    if (!ground) return { state: idle(null, null) };
    const caught = catchPointer(context.on(ground.plane), event.at, state.from ? [state.from] : [], { lock: false, free: event.free });
    const from = event.carry && state.from && caught ? (carried([state.from], state.caught, caught)[0] ?? null) : state.from;
    const next = { ...state, ground, caught, from };
    if (event.kind === 'move' || !caught) return { state: next };
    if (!from) return event.kind === 'down' ? { state: { ...next, from: { u: caught.u, v: caught.v }, id: context.newId() } } : { state: next };
    return raise(next, caught, context);
  };

  const typed = (state: SolidState, lengths: readonly (number | null)[], context: BuildContext): BuildStep<SolidState> => {
    if (!state.from || !state.caught) return { state };
    if (state.to) {
      const [height = null] = lengths;
      return height === null ? { state } : finish(state, state.to, exactCells(height), context);
    }
    const even = SOLID_FORMS[kind].even;
    const [u = null, second = null, third = null] = lengths;
    const [v, height] = even ? [u, second] : [second, third];
    const share = context.settings.fromMiddle ? 0.5 : 1;
    const side = (start: number, end: number, length: number | null): number => (length === null ? end : start + (end < start ? -length : length) * share);
    const to = { u: exactCells(side(state.from.u, state.caught.u, u)), v: exactCells(side(state.from.v, state.caught.v, v)) };
    return height === null || !needsHeight ? raise(state, to, context) : finish(state, to, exactCells(height), context);
  };

  return {
    start: () => idle(null, null),
    step: (state, event, context) => {
      if (event.kind === 'typed') return typed(state, event.lengths, context);
      if (event.kind !== 'key') return pointAt(state, event, context);
      if (event.key === 'Escape') return { state: idle(state.ground, state.caught), preview: null };
      if (event.key === 'Backspace') return { state: state.to ? { ...state, to: null } : idle(state.ground, state.caught), preview: null };
      if (state.to) return finish(state, state.to, state.height, context);
      return state.from && state.caught ? raise(state, state.caught, context) : { state };
    },
    ghost: (state, context) => ghostOf(kind, state, context, build),
    rising: ({ ground, to, height }, context) => risingFrom(ground, to, height, context),
    fields: ({ from, to, ground }) => {
      if (!from || !ground) return [];
      if (to) return ['height'];
      if (SOLID_FORMS[kind].even) return needsHeight ? ['width', 'height'] : ['width'];
      return [axisName(ground.plane, 'u'), axisName(ground.plane, 'v'), 'height'];
    },
  };
}

function groundFor(at: SheetPoint, context: BuildContext): Ground | null {
  const face = context.settings.onFaces ? groundAt(context, at) : null;
  return face ?? (planeFrame(context.plane, 1) ? { plane: context.plane, out: 1, node: null } : null);
}

/**
 * The two corners of a base that is drawn from a corner, or from its middle; that of solids as long as they are wide is
 * as large as its longer side.
 */
function baseOf(kind: SolidKind, from: PlanePoint, to: PlanePoint, { settings }: BuildContext): { readonly from: PlanePoint; readonly to: PlanePoint } {
  const span = spanBetween(from, to);
  const even = SOLID_FORMS[kind].even || (kind === 'pyramid' && settings.sides !== 4);
  const size = Math.max(Math.abs(span.u), Math.abs(span.v));
  const by = even ? { u: span.u < 0 ? -size : size, v: span.v < 0 ? -size : size } : span;
  const corner = even ? { u: exactCells(from.u + by.u), v: exactCells(from.v + by.v) } : to;
  return { from: settings.fromMiddle ? { u: exactCells(from.u - by.u), v: exactCells(from.v - by.v) } : from, to: corner };
}

interface Sized {
  readonly from: PlanePoint;
  readonly to: PlanePoint;
  readonly height: number;
  readonly others: Measures;
}

/** What is set for a kind besides its box; steps of a set rise or run make the box fit a whole number of them. */
function stepped(kind: SolidKind, { from, to }: { readonly from: PlanePoint; readonly to: PlanePoint }, height: number, set: BuildContext['settings']): Sized {
  const span = spanBetween(from, to);
  const along = set.turn % 2 === 0 ? 'v' : 'u';
  const others: Measures = {
    sides: set.sides,
    top: set.top,
    wall: set.wall,
    bar: set.bar,
    pier: set.pier,
    crown: set.crown,
    ridge: exactCells(Math.abs(span[along]) * set.ridge),
    count: set.count,
  };
  if (kind !== 'steps' || set.stepsBy === 'count') return { from, to, height, others };
  if (set.stepsBy === 'rise') {
    const count = Math.max(1, Math.round(Math.abs(height) / set.rise));
    return { from, to, height: exactCells(count * set.rise) * Math.sign(height), others: { ...others, count } };
  }
  const count = Math.max(1, Math.round(Math.abs(span[along]) / set.run));
  const end = exactCells(from[along] + count * set.run * (span[along] < 0 ? -1 : 1));
  return { from, to: { ...to, [along]: end }, height, others: { ...others, count } };
}

/** Where the pointer is, and how it is to be taken: `lock` goes up to the face under it. */
type Pointed = Pick<Extract<ToolEvent, { at: unknown }>, 'at' | 'free' | 'lock'>;

/**
 * Cells out of the ground that a place of the sheet means, from the base's last corner: up to the face under the pointer
 * where that is asked for, up to a corner that is there, else whole.
 */
export function heightAt(
  { ground, to, id }: Pick<SolidState, 'ground' | 'to'> & { readonly id?: string },
  { at, free, lock }: Pointed,
  context: BuildContext,
): { readonly cells: number; readonly word: string | null } {
  const face = lock ? reachTo(context, ground!.plane, to!, at, (node) => node === id) : null;
  if (face) return { cells: face.cells * ground!.out, word: face.word };
  return { cells: runTo(ground!, to!, at, free, context), word: null };
}

/** A height or depth that is drawn out of a ground, for the arrow keys. */
export function risingFrom(
  ground: Ground | null,
  to: PlanePoint | null,
  cells: number,
  { geometry: { cell } }: BuildContext,
): ReturnType<NonNullable<BuildTool<SolidState>['rising']>> {
  if (!ground || !to) return null;
  return { foot: worldFromPlane(planeFrame(ground.plane, cell)!, to), cell: scaleWorld(outOf(ground), cell), cells };
}

function runTo(ground: Ground, to: PlanePoint, at: SheetPoint, free: boolean, context: BuildContext): number {
  const { sight, cell } = context.geometry;
  const frame = planeFrame(ground.plane, cell)!;
  const foot = worldFromPlane(frame, to);
  const normal = outOf(ground);
  const met = free ? null : context.spaceAt(at);
  if (met?.word === 'corner') {
    const own = planeFrame(ground.plane, 1)!.origin;
    const reach = (met.at.a - own.a) * normal.a + (met.at.b - own.b) * normal.b + (met.at.h - own.h) * normal.h;
    if (exactCells(reach) !== 0) return exactCells(reach);
  }
  const run = lengthAlong(sight.projection, foot, scaleWorld(normal, cell), at) ?? 0;
  return free ? exactCells(run) : Math.round(run) + 0;
}

/** The edit that adds a solid, painted as the next shape is, named, and selected. */
function drawn(
  solid: MadeSolid,
  { id, ground }: SolidState,
  context: BuildContext,
): { readonly commit: { readonly edit: Edit; readonly label: string }; readonly select: readonly string[] } {
  const { document, paint } = context;
  const node: ShapeNode = {
    kind: 'shape',
    id,
    name: automaticName(document, SOLID_FORMS[solid.solid].title.toLowerCase(), planeName(ground!.plane.kind, document.projection)),
    hidden: false,
    locked: false,
    ...solid,
    paint: fitPaint(paint, outlineBox(solid.outline) ?? LOOSE_BOX),
  };
  return { commit: { edit: { kind: 'add', nodes: [node], artworks: [] }, label: `draw ${node.name}` }, select: [id] };
}

function ghostOf(
  kind: SolidKind,
  state: SolidState,
  context: BuildContext,
  build: (state: SolidState, to: PlanePoint, height: number, context: BuildContext) => SolidResult<MadeSolid>,
): Ghost | null {
  const { ground, from, to, caught, height } = state;
  if (!ground) return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words: ['Solids stand on the floor, a wall or a face'] };
  const { plane } = ground;
  if (!caught) return null;
  const host = ground.node === null ? null : 'on the face';
  if (!from) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught), ...(host ? [host] : [])] };
  const { from: low, to: high } = baseOf(kind, from, to ?? caught, context);
  const span = spanBetween(low, high);
  const points = baseGhost(kind, low, high);
  const size = areaWords(context, Math.abs(span.u), Math.abs(span.v));
  if (!to) return { plane, caught, points, closed: true, closes: false, words: [...size, caughtPlace(context, plane, caught)], smooth: true };
  const made = height === 0 ? null : build(state, to, height, context);
  const words = [`height ${lengthWords(context, height)}`, ...(state.upTo ? [state.upTo] : []), ...figuresOf(kind, made, state, context)];
  return { plane, caught: null, points, closed: true, closes: false, words, smooth: true };
}

/** What a kind has besides its box, or why it cannot be made so. */
function figuresOf(kind: SolidKind, made: SolidResult<MadeSolid> | null, { from, to, height }: SolidState, { settings }: BuildContext): readonly string[] {
  if (made && !made.ok) return [made.reason];
  if (kind !== 'steps') return [];
  const { others, ...sized } = stepped(kind, { from: from!, to: to! }, height, settings);
  const along = settings.turn % 2 === 0 ? 'v' : 'u';
  const run = Math.abs(sized.to[along] - sized.from[along]);
  return [`${others.count} steps of ${figure(Math.abs(sized.height) / others.count!)} up and ${figure(run / others.count!)} along`];
}

const ROUND: ReadonlySet<SolidKind> = new Set(['cylinder', 'cone', 'tube', 'ball', 'dome']);

function baseGhost(kind: SolidKind, from: PlanePoint, to: PlanePoint): readonly PlanePoint[] {
  if (!ROUND.has(kind)) return rectangleOutline(from, to).points;
  const middle = { u: (from.u + to.u) / 2, v: (from.v + to.v) / 2 };
  return flattenOutline(ellipseOutline(middle, { u: (to.u - from.u) / 2, v: (to.v - from.v) / 2 }), GHOST_CHORDS);
}
