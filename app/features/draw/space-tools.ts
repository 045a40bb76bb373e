import {
  dimensionLength,
  dimensionShapes,
  dimensionWords,
  exactCells,
  figure,
  lengthInUnit,
  moveOutline,
  planeAtAngle,
  planeThrough,
  sheetDistance,
  sheetFromWorld,
  scaleWorld,
  slopeOf,
  flattenOutline,
  flattenTree,
  samePlane,
  subtractWorld,
  type Anchor,
  type Caught,
  type DimensionNode,
  type Plane,
  type PlanePoint,
  type SheetPoint,
  type WorldPoint,
} from '@core';
import { catchPointer, caughtPlace } from '../../tools/catching';
import { groundAt } from '../../tools/ground';
import type { Ghost, ToolEvent } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool } from './draw-set';
import { drawnShape } from './new-shape';

/** A place in space in cells, and what it is. */
interface SpacePlace {
  readonly at: WorldPoint;
  readonly word: string;
}

interface SpaceState {
  readonly points: readonly SpacePlace[];
  readonly hover: SpacePlace | null;
}

const EMPTY: SpaceState = { points: [], hover: null };

/** Places in space joined on the sheet, as a ghost shows them. */
function spaceGhost({ points, hover }: SpaceState, context: DrawContext, words: readonly string[]): Ghost {
  const { cell, sight } = context.geometry;
  const shown = [...points, ...(hover ? [hover] : [])].flatMap(({ at }) => sheetFromWorld(sight.projection, scaleWorld(at, cell)) ?? []);
  const flat = shown.flatMap(({ x, y }) => [x, y]);
  const last = shown.at(-1);
  const tip: Caught | null = last ? { u: last.x / cell, v: last.y / cell, kind: 'point', with: null } : null;
  return { plane: { kind: 'sheet', offset: 0 }, caught: tip, points: [], closed: false, closes: false, words, line: flat };
}

/** The distance between two places in every way that it can be told. */
function distanceWords(from: WorldPoint, to: WorldPoint, context: DrawContext): readonly string[] {
  const { document, geometry } = context;
  const { cell } = document.grid;
  const d = subtractWorld(to, from);
  const length = Math.hypot(d.a, d.b, d.h);
  const [p, q] = [from, to].map((at) => sheetFromWorld(geometry.sight.projection, scaleWorld(at, cell)));
  const onSheet = p && q ? [`on the sheet ${lengthInUnit(sheetDistance(p, q), { ...document.sheet, scale: 1 })}`] : [];
  return [`${figure(length)}\u2009cells, ${lengthInUnit(length * cell, document.sheet)}`, `a ${figure(d.a)}  b ${figure(d.b)}  h ${figure(d.h)}`, ...onSheet];
}

/** Measures between any two places that can be caught, in space. */
export const measureTool: DrawTool<SpaceState> = {
  start: () => EMPTY,
  step: (state, event, context) => {
    if (event.kind === 'key') return { state: { ...EMPTY, hover: state.hover } };
    if (event.kind === 'typed') return { state };
    const hover = context.spaceAt(event.at);
    if (event.kind !== 'down' || !hover) return { state: { ...state, hover } };
    const [from] = state.points;
    if (!from) return { state: { points: [hover], hover } };
    return { state: { points: [], hover }, settings: { measured: distanceWords(from.at, hover.at, context) } };
  },
  ghost: (state, context) => {
    const { points, hover } = state;
    const words = points[0] && hover ? distanceWords(points[0].at, hover.at, context) : ['measure from here'];
    return spaceGhost(state, context, [...words, ...(hover ? [hover.word] : [])]);
  },
  begun: ({ points }) => points.length > 0,
  fields: () => [],
};

/** A free plane through three places, or through an edge at a typed angle: a roof, a ramp. */
export const stanceTool: DrawTool<SpaceState> = {
  start: () => EMPTY,
  step: (state, event, context) => {
    if (event.kind === 'key') return { state: event.key === 'Backspace' ? { ...state, points: state.points.slice(0, -1) } : { ...EMPTY, hover: state.hover } };
    const [p, q] = state.points;
    if (event.kind === 'typed') {
      const deg = event.lengths[0] ?? null;
      const plane = p && q && deg !== null ? planeAtAngle(p.at, q.at, deg) : null;
      return plane ? { state: EMPTY, plane, done: true } : { state };
    }
    const hover = context.spaceAt(event.at);
    if (event.kind !== 'down' || !hover) return { state: { ...state, hover } };
    if (!p || !q) return { state: { points: [...state.points, hover], hover } };
    const plane = planeThrough(p.at, q.at, hover.at);
    return plane ? { state: EMPTY, plane, done: true } : { state: { ...state, hover } };
  },
  ghost: (state, context) => {
    const { points, hover } = state;
    const [p, q] = points;
    const through = p && q && hover ? planeThrough(p.at, q.at, hover.at) : null;
    const slope = through?.stance ? [`slope ${figure(slopeOf(through.stance))}°`] : [];
    const step = ['first point of the plane', 'second point: the edge', 'third point, or type the angle of the slope'][points.length] ?? '';
    return spaceGhost(state, context, [step, ...slope, ...(hover ? [hover.word] : [])]);
  },
  begun: ({ points }) => points.length > 0,
  fields: ({ points }) => (points.length === 2 ? ['angle'] : []),
};

interface DimensionState {
  readonly plane: Plane | null;
  readonly ends: readonly Anchor[];
  readonly caught: Caught | null;
}

const NO_ENDS: DimensionState = { plane: null, ends: [], caught: null };

/** A dimension line: two places, on the plane drawn on or on the face that is pressed, then where the line stands. It follows the corners that it was drawn between. */
export const dimensionTool: DrawTool<DimensionState> = {
  start: () => NO_ENDS,
  step: (state, event, context) => {
    if (event.kind === 'key') {
      const ends = event.key === 'Backspace' ? state.ends.slice(0, -1) : [];
      return { state: { ...state, ends, plane: ends.length > 0 ? state.plane : null } };
    }
    if (event.kind === 'typed') return event.lengths[0] === null || event.lengths[0] === undefined ? { state } : put(state, event.lengths[0], context);
    return dimensionPoint(state, event, context);
  },
  ghost: (state, context) => dimensionGhost(state, context),
  begun: ({ ends }) => ends.length > 0,
  fields: ({ ends }) => (ends.length === 2 ? ['distance'] : []),
};

function dimensionPoint(state: DimensionState, event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): DrawStep<DimensionState> {
  const plane = (state.ends.length > 0 ? state.plane : null) ?? measuredPlane(event, context);
  const caught = catchPointer(context.on(plane), event.at, state.ends, event);
  const next = { ...state, plane, caught };
  if (event.kind !== 'down' || !caught) return { state: next };
  if (state.ends.length === 2) return put(next, null, context);
  const end = anchorAt(context, plane, caught);
  if (state.ends.some((other) => other.u === end.u && other.v === end.v)) return { state: next };
  return { state: { plane, ends: [...state.ends, end], caught } };
}

/** The plane that is measured in: the one drawn on where a point of a drawing on it is caught, else that of the face under the pointer. */
function measuredPlane(event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): Plane {
  const caught = catchPointer(context.on(context.plane), event.at, [], event);
  return caught?.kind === 'point' ? context.plane : (groundAt(context, event.at)?.plane ?? context.plane);
}

/** A place tied to the corner of a shape that lies there. */
function anchorAt({ document }: DrawContext, plane: Plane, { u, v, kind }: Caught): Anchor {
  if (kind !== 'point') return { u, v };
  for (const { node, hidden } of flattenTree(document.nodes)) {
    if (hidden || node.kind !== 'shape' || !samePlane(node.plane, plane)) continue;
    const point = node.outline.points.find((p) => p.u === u && p.v === v);
    if (point) return { u, v, node: node.id, point: point.id };
  }
  return { u, v };
}

/** What a dimension measures by where its line is put: the part along u or v where that is clear, else the distance. */
function measuredAlong(from: PlanePoint, to: PlanePoint, at: PlanePoint): DimensionNode['along'] {
  const within = (p: number, q: number, x: number): boolean => x >= Math.min(p, q) && x <= Math.max(p, q);
  const [inU, inV] = [within(from.u, to.u, at.u), within(from.v, to.v, at.v)];
  if (from.u === to.u || from.v === to.v || inU === inV) return 'line';
  return inU ? 'u' : 'v';
}

function dimensionOf({ plane, ends, caught }: DimensionState, distance: number | null, context: DrawContext): DimensionNode | null {
  const [from, to] = ends;
  if (!from || !to || !plane || !caught) return null;
  const along = measuredAlong(from, to, caught);
  const length = dimensionLength({ along: 'line' }, from, to);
  const direction =
    along === 'u'
      ? { u: Math.sign(to.u - from.u), v: 0 }
      : along === 'v'
        ? { u: 0, v: Math.sign(to.v - from.v) }
        : { u: (to.u - from.u) / length, v: (to.v - from.v) / length };
  const aside = (caught.u - from.u) * -direction.v + (caught.v - from.v) * direction.u;
  const apart = exactCells(distance === null ? aside : Math.sign(aside || 1) * distance);
  return { kind: 'dimension', id: context.newId(), name: 'dimension', hidden: false, locked: false, plane, from, to, along, apart, colour: '#2a2333' };
}

function put(state: DimensionState, distance: number | null, context: DrawContext): DrawStep<DimensionState> {
  const node = dimensionOf(state, distance, context);
  if (!node) return { state };
  const { document } = context;
  const words = dimensionWords(dimensionLength(node, node.from, node.to), document.sheet, document.grid.cell);
  const named = { ...node, name: `dimension, ${words}` };
  return {
    state: { ...NO_ENDS, caught: state.caught },
    commit: { edit: { kind: 'add', nodes: [named], artworks: [] }, label: 'draw dimension' },
    select: [node.id],
  };
}

function dimensionGhost(state: DimensionState, context: DrawContext): Ghost | null {
  const plane = state.plane ?? context.plane;
  const { caught, ends } = state;
  if (!caught) return null;
  const node = dimensionOf(state, null, context);
  const { sheet, grid } = context.document;
  const base = { plane, caught, closed: false, closes: false, smooth: true } as const;
  if (!node)
    return { ...base, points: ends[0] ? [ends[0], caught] : [], words: [ends[0] ? 'to here' : 'dimension from here', caughtPlace(context, plane, caught)] };
  const strokes = dimensionShapes(node, node.from, node.to, sheet, grid.cell).map((shape) => shape.outline.points);
  return {
    ...base,
    points: [],
    more: strokes,
    words: [dimensionWords(dimensionLength(node, node.from, node.to), sheet, grid.cell), 'press where the line stands'],
  };
}

interface ColourState {
  readonly at: SheetPoint | null;
}

/** Takes a colour from the drawing or a reference picture for what is being painted. */
export const colourTool: DrawTool<ColourState> = {
  start: () => ({ at: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const found = event.kind === 'down' ? context.colourAt(event.at) : null;
    return found ? { state: { at: event.at }, colour: found.colour } : { state: { at: event.at } };
  },
  ghost: ({ at }, context) => {
    const found = at && context.colourAt(at);
    const base = { plane: context.plane, caught: null, points: [], closed: false, closes: false } as const;
    return found ? { ...base, swatch: found.colour, words: [found.colour, found.from] } : { ...base, words: ['no colour here'] };
  },
  fields: () => [],
};

interface AgainState {
  readonly caught: Caught | null;
}

/** The last shape with its measures, at the pointer by its first point: one press draws it again. */
export const againTool: DrawTool<AgainState> = {
  start: () => ({ caught: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const caught = catchPointer(context.on(context.plane), event.at, [], event);
    const outline = event.kind === 'down' && caught ? placedAgain(context, caught) : null;
    const { lastForm } = context.settings;
    if (!outline) return { state: { caught } };
    return { state: { caught }, ...drawnShape(context, lastForm?.kind ?? 'shape', context.plane, outline, lastForm ? { form: lastForm } : {}) };
  },
  ghost: ({ caught }, context) => {
    if (!caught) return null;
    const outline = placedAgain(context, caught);
    const words = [outline ? 'the last shape again' : 'nothing has been drawn yet', caughtPlace(context, context.plane, caught)];
    return {
      plane: context.plane,
      caught,
      points: outline ? flattenOutline(outline, 0.01) : [],
      closed: outline?.closed ?? false,
      closes: false,
      words,
      smooth: true,
    };
  },
  fields: () => [],
};

function placedAgain({ settings: { lastShape } }: DrawContext, at: PlanePoint): ReturnType<typeof moveOutline> | null {
  const first = lastShape?.points[0];
  return lastShape && first ? moveOutline(lastShape, at.u - first.u, at.v - first.v) : null;
}
