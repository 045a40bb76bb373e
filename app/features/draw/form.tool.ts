import {
  arcOutline,
  automaticName,
  boundsArea,
  edgeLength,
  ellipseOutline,
  figure,
  flattenOutline,
  outlineThrough,
  planeName,
  polygonOutline,
  spanBetween,
  type Caught,
  type Edit,
  type Outline,
  type Plane,
  type PlanePoint,
  type ShapeNode,
} from '@core';
import { areaWords, axisName, catchPointer, caughtPlace, lengthWords } from '../../tools/catching';
import type { Ghost, Tool, ToolContext, ToolEvent, ToolStep } from '../../tools/tool';

export interface FormState {
  readonly plane: Plane | null;
  readonly points: readonly PlanePoint[];
  readonly caught: Caught | null;
}

const IDLE: FormState = { plane: null, points: [], caught: null };

/** A form that a few points make: how many, what they make, and how its measures are read and typed. */
interface Form {
  readonly name: string;
  readonly count: 2 | 3;
  readonly build: (points: readonly PlanePoint[], context: ToolContext) => Outline | null;
  readonly fields: (points: readonly PlanePoint[]) => readonly string[];
  /** The last point that typed lengths mean, given where the pointer is. */
  readonly typed: (points: readonly PlanePoint[], at: PlanePoint, lengths: readonly (number | null)[]) => PlanePoint;
  readonly words: (points: readonly PlanePoint[], at: PlanePoint, context: ToolContext) => readonly string[];
}

/** The point at a distance from another, towards where the pointer is. */
function atDistance(from: PlanePoint, to: PlanePoint, distance: number | null): PlanePoint {
  const reach = edgeLength(from, to);
  if (distance === null || reach === 0) return distance === null ? to : { u: from.u + distance, v: from.v };
  return { u: from.u + ((to.u - from.u) / reach) * distance, v: from.v + ((to.v - from.v) / reach) * distance };
}

const lengthTo = (points: readonly PlanePoint[], at: PlanePoint, context: ToolContext, what: string): string =>
  `${what}${lengthWords(context, edgeLength(points[0]!, at))}`;

/** A straight line from one point to another. */
const LINE: Form = {
  name: 'line',
  count: 2,
  build: (points) => outlineThrough(points, false),
  fields: () => ['length'],
  typed: ([from], at, [length = null]) => atDistance(from!, at, length),
  words: (points, at, context) => [lengthTo(points, at, context, '')],
};

/** A circle by its centre and a point on it: the true circle of its plane. */
const CIRCLE: Form = {
  name: 'circle',
  count: 2,
  build: ([centre, on]) => {
    const radius = edgeLength(centre!, on!);
    return ellipseOutline(centre!, { u: radius, v: radius });
  },
  fields: () => ['radius'],
  typed: ([centre], at, [radius = null]) => atDistance(centre!, at, radius),
  words: (points, at, context) => [lengthTo(points, at, context, 'radius '), `diameter ${figure(2 * edgeLength(points[0]!, at))}\u2009cells`],
};

/** An ellipse inscribed in a box given by two corners. */
const ELLIPSE: Form = {
  name: 'ellipse',
  count: 2,
  build: ([p, q]) => ellipseOutline({ u: (p!.u + q!.u) / 2, v: (p!.v + q!.v) / 2 }, { u: (q!.u - p!.u) / 2, v: (q!.v - p!.v) / 2 }),
  fields: () => ['width', 'height'],
  typed: ([from], at, [width = null, height = null]) => {
    const side = (start: number, end: number, typed: number | null): number => (typed === null ? end : start + (end < start ? -typed : typed));
    return { u: side(from!.u, at.u, width), v: side(from!.v, at.v, height) };
  },
  words: ([from], at, context) => {
    const span = spanBetween(from!, at);
    return areaWords(context, Math.abs(span.u), Math.abs(span.v));
  },
};

/** A regular polygon by its centre and a corner. */
const POLYGON: Form = {
  name: 'polygon',
  count: 2,
  build: ([centre, corner], { sides }) => polygonOutline(centre!, corner!, sides),
  fields: () => ['radius'],
  typed: CIRCLE.typed,
  words: (points, at, context) => [`${context.sides} sides`, lengthTo(points, at, context, 'radius ')],
};

/** The arc of a circle by its ends and a point that it passes over. */
const ARC: Form = {
  name: 'arc',
  count: 3,
  build: ([from, to, over]) => (over ? arcOutline(from!, over, to!) : outlineThrough([from!, to!], false)),
  fields: (points) => (points.length === 1 ? ['length'] : []),
  typed: LINE.typed,
  words: (points, at, context) => (points.length === 1 ? [lengthTo(points, at, context, 'between the ends ')] : ['passes over here']),
};

/** A tool that makes a form by presses, or by one drag where two points make it. */
function formTool(form: Form): Tool<FormState> {
  const finish = (state: FormState, points: readonly PlanePoint[], context: ToolContext): ToolStep<FormState> => {
    const outline = form.build(points, context);
    if (!outline || (outline.closed ? !boundsArea(outline) : outline.points.length < 2)) return { state };
    const plane = state.plane ?? context.plane;
    const node: ShapeNode = {
      kind: 'shape',
      id: context.newId(),
      name: automaticName(context.document, form.name, planeName(plane.kind, context.document.projection)),
      hidden: false,
      locked: false,
      plane,
      outline,
      depth: 0,
      paint: outline.closed ? context.paint : { fill: null, line: context.paint.line ?? { colour: '#2a2333', width: 0.4 } },
    };
    const edit: Edit = { kind: 'add', nodes: [node], artworks: [] };
    return { state: { ...IDLE, caught: state.caught }, commit: { edit, label: `draw ${node.name}` }, select: [node.id] };
  };
  const add = (state: FormState, at: PlanePoint, context: ToolContext): ToolStep<FormState> => {
    const last = state.points.at(-1);
    if (last && last.u === at.u && last.v === at.v) return { state };
    const points = [...state.points, { u: at.u, v: at.v }];
    if (points.length === form.count) return finish(state, points, context);
    return { state: { ...state, plane: state.plane ?? context.plane, points } };
  };
  const key = (state: FormState, pressed: 'Backspace' | 'Enter' | 'Escape', context: ToolContext): ToolStep<FormState> => {
    if (pressed === 'Enter') return state.caught && state.points.length > 0 ? add(state, state.caught, context) : { state };
    if (pressed === 'Escape') return { state: { ...IDLE, caught: state.caught } };
    const points = state.points.slice(0, -1);
    return { state: { ...state, points, plane: points.length > 0 ? state.plane : null } };
  };
  const point = (state: FormState, event: Extract<ToolEvent, { at: unknown }>, context: ToolContext): ToolStep<FormState> => {
    const caught = catchPointer(context.on(state.plane ?? context.plane), event.at, state.points, event);
    const next = { ...state, caught };
    if (event.kind === 'move' || !caught) return { state: next };
    // Letting go somewhere else than where the first point was pressed sets the second.
    return event.kind === 'down' || state.points.length === 1 ? add(next, caught, context) : { state: next };
  };
  return {
    start: () => IDLE,
    step: (state, event, context) => {
      if (event.kind === 'key') return key(state, event.key, context);
      if (event.kind !== 'typed') return point(state, event, context);
      return state.points.length > 0 && state.caught ? add(state, form.typed(state.points, state.caught, event.lengths), context) : { state };
    },
    ghost: (state, context) => ghostOf(form, state, context),
    fields: ({ points }) => (points.length > 0 ? form.fields(points) : []),
  };
}

/** How finely ghosts of curves are shown, in cells. */
const GHOST_CHORDS = 0.01;

function ghostOf(form: Form, { plane: started, points, caught }: FormState, context: ToolContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return null;
  const last = points.at(-1);
  if (!last) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught)] };
  const same = last.u === caught.u && last.v === caught.v;
  const outline = same ? null : form.build([...points, caught], context);
  const axis = caught.v === last.v ? 'u' : caught.u === last.u ? 'v' : null;
  const words = [...form.words(points, caught, context), ...(axis ? [axisName(plane, axis)] : []), caughtPlace(context, plane, caught)];
  const shown = outline ? flattenOutline(outline, GHOST_CHORDS) : points;
  return { plane, caught, points: shown, closed: outline?.closed ?? false, closes: false, words, smooth: true };
}

export const lineTool = formTool(LINE);
export const circleTool = formTool(CIRCLE);
export const ellipseTool = formTool(ELLIPSE);
export const polygonTool = formTool(POLYGON);
export const arcTool = formTool(ARC);
