import {
  automaticName,
  bodyOf,
  carriedShape,
  derivedName,
  containsPoint,
  dotWorld,
  ellipseOutline,
  exactCells,
  findNode,
  flattenOutline,
  idsWithin,
  inverseMap,
  isCurved,
  isJoined,
  movedBody,
  openingPaint,
  outlineOfSurface,
  planeFrame,
  rectangleOutline,
  ringsOf,
  scaleWorld,
  shapesIn,
  spanBetween,
  subtractWorld,
  worldPoints,
  type Caught,
  type Edit,
  type GroupNode,
  type JoinedNode,
  type Paint,
  type PlanePoint,
  type ShapeNode,
  type SheetPoint,
  type SingleEdit,
} from '@core';
import { areaWords, carried, catchPointer, caughtPlace, lengthWords } from '../../tools/catching';
import { groundAt, outOf, type Ground } from '../../tools/ground';
import type { Ghost, ToolEvent } from '../../tools/tool';
import type { BuildContext, BuildStep, BuildTool } from './build-set';
import { heightAt, risingFrom } from './solid.tool';

export interface OpeningState {
  /** The face that it is pressed into. */
  readonly ground: Ground | null;
  readonly from: PlanePoint | null;
  readonly to: PlanePoint | null;
  /** A flat shape on the face that is pressed in as it is. */
  readonly shape: ShapeNode | null;
  readonly caught: Caught | null;
  /** Cells into the solid, while it is drawn. */
  readonly depth: number;
  /** The ids that it, and what it is then a part of, will have. */
  readonly ids: readonly [string, string];
}

const idle = (ground: Ground | null, caught: Caught | null): OpeningState => ({ ground, from: null, to: null, shape: null, caught, depth: 0, ids: ['', ''] });

/** How finely ghosts of curves are shown, in cells. */
const GHOST_CHORDS = 0.01;

/** Cells, and parts of a unit normal, by which a shape may miss the plane of the face that it lies on. */
const SAME_PLANE = 1e-6;

/** Cells by which an opening right through a solid reaches beyond it. */
const BEYOND = 1;

/**
 * An opening in a face, in one act: two opposite corners on the face, or a flat shape that lies on it, then how deep it
 * goes, or right through as it is set. What is pressed in stays a shape in the contents: it can be moved and measured
 * anew, and its walls have the solid's paint, darker.
 */
export const openingTool: BuildTool<OpeningState> = {
  start: () => idle(null, null),
  step: (state, event, context) => {
    if (event.kind === 'typed') return typed(state, event.lengths, context);
    if (event.kind !== 'key') return point(state, event, context);
    if (event.key === 'Escape') return { state: idle(state.ground, state.caught), preview: null };
    if (event.key === 'Backspace') return { state: state.to ? { ...state, to: null } : idle(state.ground, state.caught), preview: null };
    if (state.to) return finish(state, state.depth, context);
    return state.from && state.caught ? deepen(state, state.caught, context) : { state };
  },
  ghost: (state, context) => ghostOf(state, context),
  rising: ({ ground, to, depth }, context) => risingFrom(ground && inwards(ground), to, depth, context),
  fields: ({ from, to }) => (!from ? [] : to ? ['depth'] : ['width', 'height', 'depth']),
};

function point(state: OpeningState, event: Extract<ToolEvent, { at: unknown }>, context: BuildContext): BuildStep<OpeningState> {
  if (state.from && state.to) {
    const depth = depthAt(state, event, context);
    const next = { ...state, depth };
    // A shape is pressed and let go at its depth, or pressed and then pressed there.
    if (event.kind === 'down' || (event.kind === 'up' && state.shape && depth > 0)) return finish(next, depth, context);
    return { state: next, preview: depth > 0 ? pressedIn(next, depth, context).edit : null };
  }
  const own = state.from ? null : shapeOnFace(event.at, context);
  const ground = state.from ? state.ground : (own?.ground ?? solidFace(event.at, context));
  if (!ground) return { state: idle(null, null) };
  const caught = catchPointer(context.on(ground.plane), event.at, state.from ? [state.from] : [], { lock: false, free: event.free });
  const from = event.carry && state.from && caught ? (carried([state.from], state.caught, caught)[0] ?? null) : state.from;
  const next = { ...state, ground, caught, from, shape: own?.shape ?? null };
  if (event.kind === 'move' || !caught) return { state: next };
  if (own) return event.kind === 'down' ? pressShape(next, caught, context) : { state: next };
  if (!from)
    return event.kind === 'down' ? { state: { ...next, from: { u: caught.u, v: caught.v }, ids: [context.newId(), context.newId()] } } : { state: next };
  return deepen(next, caught, context);
}

/** The flat shape under the pointer, and the face of a solid that it lies on. */
function shapeOnFace(at: SheetPoint, context: BuildContext): { readonly shape: ShapeNode; readonly ground: Ground } | null {
  const on = groundAt(context, at);
  const shape = on?.node ? findNode(context.document, on.node) : null;
  if (!on || shape?.kind !== 'shape' || shape.depth !== 0 || shape.locked || !shape.outline.closed) return null;
  const behind = groundAt(context, at, (id) => id === shape.id);
  const host = behind && hostOn(behind, context);
  if (!host || idsWithin(host).includes(shape.id)) return null;
  const [out, normal] = [outOf(behind!), planeFrame(shape.plane, 1)!];
  const level = dotWorld(subtractWorld(normal.origin, planeFrame(behind!.plane, 1)!.origin), out);
  const along = dotWorld(normal.normal, out);
  if (Math.abs(level) > SAME_PLANE || Math.abs(along) < 1 - SAME_PLANE) return null;
  return { shape, ground: { ...behind!, plane: shape.plane, out: along < 0 ? -1 : 1 } };
}

/** A shape is taken: how deep it goes comes next, unless it goes right through. */
function pressShape(state: OpeningState, at: PlanePoint, context: BuildContext): BuildStep<OpeningState> {
  const next = { ...state, from: at, to: { u: at.u, v: at.v }, depth: 0, ids: [context.newId(), context.newId()] as const };
  return context.settings.through ? finish(next, throughDepth(next, context), context) : { state: next };
}

/** The face of a solid under the pointer. */
function solidFace(at: SheetPoint, context: BuildContext): Ground | null {
  const ground = groundAt(context, at);
  return ground && hostOn(ground, context) ? ground : null;
}

/** The solid that has a face, or the solids that are one; of what a copy shows, its original's. Null where it is flat or locked. */
function hostOn({ seen, node: owner }: Ground, { document }: Pick<BuildContext, 'document'>): ShapeNode | JoinedNode | null {
  const node = seen ? findNode(document, seen.thing) : null;
  if (!node || node.locked || findNode(document, owner!)?.locked) return null;
  return (node.kind === 'shape' && node.depth !== 0) || (node.kind === 'group' && isJoined(node)) ? node : null;
}

/** Its sides are drawn: how deep it goes comes next, unless it goes right through. */
function deepen(state: OpeningState, to: PlanePoint, context: BuildContext): BuildStep<OpeningState> {
  const size = spanBetween(state.from!, to);
  if (size.u === 0 || size.v === 0) return { state };
  const next = { ...state, to: { u: to.u, v: to.v } };
  return context.settings.through ? finish(next, throughDepth(next, context), context) : { state: { ...next, depth: 0 } };
}

function typed(state: OpeningState, lengths: readonly (number | null)[], context: BuildContext): BuildStep<OpeningState> {
  if (!state.from || !state.caught) return { state };
  const side = (start: number, end: number, length: number | null | undefined): number =>
    length === null || length === undefined ? end : start + (end < start ? -length : length);
  if (state.to) return depthOf(lengths[0]) === null ? { state } : finish(state, depthOf(lengths[0])!, context);
  const [width, height, depth] = lengths;
  const to = { u: exactCells(side(state.from.u, state.caught.u, width)), v: exactCells(side(state.from.v, state.caught.v, height)) };
  if (to.u === state.from.u || to.v === state.from.v) return { state };
  const deep = depthOf(depth);
  return deep === null ? deepen(state, to, context) : finish({ ...state, to }, deep, context);
}

const depthOf = (typed: number | null | undefined): number | null => (typed === null || typed === undefined ? null : exactCells(typed));

function finish(state: OpeningState, depth: number, context: BuildContext): BuildStep<OpeningState> {
  if (!(depth > 0)) return { state };
  const { edit, label, select } = pressedIn(state, depth, context);
  return { state: idle(state.ground, state.caught), preview: null, commit: { edit, label }, select };
}

/** Cells into the solid that a place of the sheet means. */
function depthAt({ ground, to }: OpeningState, pointed: Extract<ToolEvent, { at: unknown }>, context: BuildContext): number {
  return Math.max(0, heightAt({ ground: inwards(ground!), to }, pointed, context).cells);
}

/** A face out of which one goes into its solid. */
const inwards = (ground: Ground): Ground => ({ ...ground, out: ground.out === 1 ? -1 : 1 });

/** Cells by which an opening may reach beyond its face, or beyond the far side, before it is said. */
const NOTHING = 1e-6;

/** What an opening does that its drawer may not mean. */
function warnings(state: OpeningState, outline: ShapeNode['outline'], depth: number, context: BuildContext): readonly string[] {
  const { ground } = state;
  const surface = ground!.seen?.surface;
  const face = surface && outlineOfSurface(surface, ground!.plane);
  const beyond = face && !liesWithin(flattenOutline(outline, GHOST_CHORDS), face);
  return [...(beyond ? ['leaves its face'] : []), ...(depth > solidDepth(state, context) + NOTHING ? ['deeper than the solid: right through'] : [])];
}

/** Whether a ring lies within an outline, on its boundary included. */
function liesWithin(ring: readonly PlanePoint[], outline: ShapeNode['outline']): boolean {
  const rings = ringsOf(outline).map((one) => flattenOutline(one, GHOST_CHORDS / 10));
  const slack = isCurved(outline) ? GHOST_CHORDS : NOTHING;
  return ring.every((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return [p, { u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 }].every((at) => {
      const inside = rings.filter((one) => containsPoint(one.flatMap(({ u, v }) => [u, v]), at.u, at.v)).length % 2 === 1; // prettier-ignore
      return inside || rings.some((one) => one.some((from, k) => distanceTo(at, from, one[(k + 1) % one.length]!) <= slack));
    });
  });
}

function distanceTo(at: PlanePoint, from: PlanePoint, to: PlanePoint): number {
  const [u, v] = [to.u - from.u, to.v - from.v];
  const t = Math.max(0, Math.min(1, ((at.u - from.u) * u + (at.v - from.v) * v) / (u * u + v * v || 1)));
  return Math.hypot(at.u - from.u - t * u, at.v - from.v - t * v);
}

/** How deep the solid is behind a face, and a little more. */
function throughDepth(state: OpeningState, context: BuildContext): number {
  return exactCells(Math.ceil(solidDepth(state, context)) + BEYOND);
}

/** Cells from a face to the far side of its solid. */
function solidDepth({ ground }: OpeningState, context: BuildContext): number {
  const host = hostOn(ground!, context);
  const own = host && bodyOf(host);
  const map = ground!.seen?.map;
  const body = own && map ? movedBody(own, map) : own;
  const out = outOf(ground!);
  const { origin } = planeFrame(ground!.plane, 1)!;
  const level = dotWorld(origin, out);
  const far = Math.min(...worldPoints(body?.points ?? []).map((p) => dotWorld(p, out)));
  return level - far;
}

function outlineOf({ from, to, shape }: OpeningState, context: BuildContext, end = to): ShapeNode['outline'] {
  if (shape) return shape.outline;
  if (context.settings.openingShape === 'rectangle') return rectangleOutline(from!, end!);
  const middle = { u: (from!.u + end!.u) / 2, v: (from!.v + end!.v) / 2 };
  return ellipseOutline(middle, { u: Math.abs(end!.u - from!.u) / 2, v: Math.abs(end!.v - from!.v) / 2 });
}

/** The edit that presses a shape into what has the face: into a solid, or into what is already cut. */
function pressedIn(
  state: OpeningState,
  depth: number,
  context: BuildContext,
): { readonly edit: Edit; readonly label: string; readonly select: readonly string[] } {
  const { document, settings } = context;
  const { ground, ids, shape } = state;
  const host = hostOn(ground!, context)!;
  const map = ground!.seen?.map;
  const outline = outlineOf(state, context);
  // Whatever the light, an opening is seen to be one.
  const { u, v } = planeFrame(ground!.plane, 1)!;
  const walls = [u, v].flatMap((way) => [way, scaleWorld(way, -1)]);
  const common = { outline, depth: exactCells(-depth * ground!.out), paint: openingPaint(document, paintOf(host), outOf(ground!), walls) };
  const drawn: ShapeNode = shape
    ? { ...shape, ...common }
    : {
        kind: 'shape',
        id: ids[0],
        name: automaticName(document, 'opening', ''),
        hidden: false,
        locked: false,
        plane: ground!.plane,
        ...common,
        solid: settings.openingShape === 'rectangle' ? 'box' : 'cylinder',
      };
  const cutter = map ? (carriedShape(drawn, inverseMap(map)) ?? drawn) : drawn;
  const cut = cutOut(host, cutter, ids[1]);
  const edit: Edit = shape ? { kind: 'all', edits: [{ kind: 'delete', ids: [shape.id] }, cut] } : cut;
  return { edit, label: `press ${cutter.name} into ${host.name}`, select: [cutter.id] };
}

/** The paint of a solid, or of the first of those that are one. */
function paintOf(host: ShapeNode | GroupNode): Paint {
  return host.kind === 'shape' ? host.paint : (shapesIn(host.children)[0]?.paint ?? { fill: '#c98a4b', line: null });
}

/** The edit that takes one more solid away from another. */
export function cutOut(host: ShapeNode | GroupNode, cutter: ShapeNode, id: string): SingleEdit {
  if (host.kind === 'group' && host.joined === 'take away')
    return { kind: 'replace', ids: [host.id], nodes: [{ ...host, children: [...host.children, cutter] }] };
  const solid = { ...host, name: derivedName(host.name, ', solid') };
  const whole: GroupNode = { kind: 'group', id, name: host.name, hidden: false, locked: false, children: [solid, cutter], joined: 'take away' };
  return { kind: 'replace', ids: [host.id], nodes: [whole] };
}

function ghostOf(state: OpeningState, context: BuildContext): Ghost | null {
  const { ground, from, to, shape, caught, depth } = state;
  if (!ground) return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words: ['Point at a flat face of a solid'] };
  const { plane } = ground;
  if (!caught) return null;
  if (!from && shape) {
    const points = flattenOutline(shape.outline, GHOST_CHORDS);
    return { plane, caught: null, points, closed: true, closes: false, words: [`Press ${shape.name} in`], smooth: true };
  }
  const copied = ground.seen?.map ? ['cuts its original, and so every copy'] : [];
  if (!from) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught), ...copied] };
  const end = to ?? caught;
  const span = spanBetween(from, end);
  const outline = outlineOf(state, context, end);
  const points = flattenOutline(outline, GHOST_CHORDS);
  const size = areaWords(context, Math.abs(span.u), Math.abs(span.v));
  const told = warnings(state, outline, depth, context);
  const words = [...(to ? [`${lengthWords(context, depth)} deep`] : [...size, caughtPlace(context, plane, caught)]), ...told];
  return { plane, caught: to ? null : caught, points, closed: true, closes: false, words, smooth: true };
}
