import {
  apply33,
  arcOutline,
  boundsArea,
  circleThrough,
  edgeLength,
  exactCells,
  ellipseOutline,
  figure,
  findShape,
  flattenOutline,
  inscribedIn,
  inscribedOn,
  laidSurface,
  outlineThrough,
  faceUnder,
  formFault,
  formOutline,
  polygonOutline,
  spanBetween,
  type Caught,
  type InscribedCircle,
  type MeasuredForm,
  type Outline,
  type PlacedForm,
  type Plane,
  type PlanePoint,
  type ShapeNode,
  type SheetPoint,
} from '@core';
import { areaWords, axisName, carried, catchPointer, caughtPlace, lengthWords } from '../../tools/catching';
import type { Ghost, ToolEvent } from '../../tools/tool';
import type { DrawContext, DrawSettings, DrawStep, DrawTool } from './draw-set';
import { drawnShape } from './new-shape';
import { typedPoint } from './outline.tool';

export interface FormState {
  /** How the form is given, from its first point on. */
  readonly form: Form;
  readonly plane: Plane | null;
  readonly points: readonly PlanePoint[];
  readonly caught: Caught | null;
}

/** A form that a few points make: how many, what they make, and how its measures are read and typed. */
interface Form {
  readonly name: string;
  readonly count: 2 | 3;
  readonly build: (points: readonly PlanePoint[], context: DrawContext, plane: Plane) => Outline | null;
  readonly fields: (points: readonly PlanePoint[], plane: Plane) => readonly string[];
  /** The last point that typed lengths mean, given where the pointer is. */
  readonly typed: (points: readonly PlanePoint[], at: PlanePoint, lengths: readonly (number | null)[]) => PlanePoint;
  /** What typed lengths set for this form and the next, given the last point that they mean. */
  readonly sets?: (points: readonly PlanePoint[], end: PlanePoint, lengths: readonly (number | null)[], settings: DrawSettings) => Partial<DrawSettings>;
  /** The measures that are kept with what is drawn, so that they can be changed. */
  readonly measured?: (points: readonly PlanePoint[], context: DrawContext, plane: Plane) => PlacedForm | null;
  readonly words: (points: readonly PlanePoint[], at: PlanePoint, context: DrawContext) => readonly string[];
}

/** The point at a distance from another, towards where the pointer is. */
function atDistance(from: PlanePoint, to: PlanePoint, distance: number | null): PlanePoint {
  const reach = edgeLength(from, to);
  if (distance === null || reach === 0) return distance === null ? to : { u: from.u + distance, v: from.v };
  return { u: from.u + ((to.u - from.u) / reach) * distance, v: from.v + ((to.v - from.v) / reach) * distance };
}

const lengthTo = (points: readonly PlanePoint[], at: PlanePoint, context: DrawContext, what: string): string =>
  `${what}${lengthWords(context, edgeLength(points[0]!, at))}`;

/** A straight line from one point to another: by its length, length and angle, or steps along the plane's directions. */
const LINE: Form = {
  name: 'line',
  count: 2,
  build: (points) => outlineThrough(points, false),
  fields: (_points, plane) => ['length', 'angle', axisName(plane, 'u'), axisName(plane, 'v')],
  typed: ([from], at, lengths) => typedPoint(from!, at, lengths) ?? at,
  words: (points, at, context) => [lengthTo(points, at, context, ''), `${figure(angleOf(points[0]!, at))}°`],
};

const angleOf = (from: PlanePoint, to: PlanePoint): number => (Math.atan2(to.v - from.v, to.u - from.u) * 180) / Math.PI;

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

/** A circle inscribed in the square that has two points in its corners, along the plane's directions. */
const CIRCLE_IN_BOX: Form = {
  name: 'circle',
  count: 2,
  build: ([p, q]) => {
    const size = Math.max(Math.abs(q!.u - p!.u), Math.abs(q!.v - p!.v)) / 2;
    const centre = { u: p!.u + size * (q!.u < p!.u ? -1 : 1), v: p!.v + size * (q!.v < p!.v ? -1 : 1) };
    return ellipseOutline(centre, { u: size, v: size });
  },
  fields: () => ['diameter'],
  typed: ([from], at, [diameter = null]) =>
    diameter === null ? at : { u: from!.u + (at.u < from!.u ? -diameter : diameter), v: from!.v + (at.v < from!.v ? -diameter : diameter) },
  words: ([p], at, context) => [`diameter ${lengthWords(context, Math.max(Math.abs(at.u - p!.u), Math.abs(at.v - p!.v)))}`],
};

/** The circle through three points. */
const CIRCLE_THROUGH: Form = {
  name: 'circle',
  count: 3,
  build: ([p, q, r]) => {
    const circle = q && r ? circleThrough(p!, q, r) : null;
    if (circle) return ellipseOutline(circle.centre, { u: circle.radius, v: circle.radius });
    return q && !r ? outlineThrough([p!, q], false) : null;
  },
  fields: (points) => (points.length === 1 ? ['length'] : []),
  typed: ([from], at, [length = null]) => atDistance(from!, at, length),
  words: ([p, q], at, context) => {
    const circle = q ? circleThrough(p!, q, at) : null;
    return [circle ? `radius ${lengthWords(context, circle.radius)}` : q ? 'the three points lie on one line' : 'through three points'];
  },
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
  build: ([centre, corner], { settings }) => polygonOutline(centre!, corner!, settings.sides),
  fields: () => ['radius'],
  typed: CIRCLE.typed,
  words: (points, at, context) => [`${context.settings.sides} sides`, lengthTo(points, at, context, 'radius ')],
};

const outlineOf = (placed: PlacedForm | null): Outline | null => placed && formOutline(placed);

/** A form about a centre, its first point or its outer end where a second point is; null where its measures make none. */
function about([centre, end]: readonly PlanePoint[], form: (outer: number) => MeasuredForm, way: 1 | -1, rounded: PlacedForm['rounded']): PlacedForm | null {
  const outer = exactCells(edgeLength(centre!, end!));
  const made = form(outer);
  return outer > 0 && formFault(made) === null ? { form: made, centre: centre!, startDeg: angleOf(centre!, end!), way, rounded } : null;
}

/** A polygon with a second radius, by its centre and a point. */
const STAR: Form = {
  name: 'star',
  count: 2,
  measured: (points, { settings: { star } }) =>
    about(
      points,
      (outer) => ({ kind: 'star', points: star.points, outer, inner: exactCells(outer * star.inner), turnedDeg: star.turnedDeg }),
      1,
      { outer: star.roundOuter, inner: star.roundInner }, // prettier-ignore
    ),
  build: (points, context, plane) => outlineOf(STAR.measured!(points, context, plane)),
  fields: () => ['radius', 'inner radius'],
  typed: CIRCLE.typed,
  sets: ([centre], end, [, inner = null], { star }) => (inner === null || !(inner > 0) ? {} : { star: { ...star, inner: inner / edgeLength(centre!, end) } }),
  words: (points, at, context) => {
    const { star } = context.settings;
    const outer = edgeLength(points[0]!, at);
    return [`${star.points} points`, `radius ${lengthWords(context, outer)}`, `inner ${lengthWords(context, exactCells(outer * star.inner))}`];
  },
};

/** A spiral by its centre and its outer end. */
const SPIRAL: Form = {
  name: 'spiral',
  count: 2,
  measured: (points, context, plane) => {
    const { turns, inner, steps, hand, band } = context.settings.spiral;
    return about(
      points,
      (outer) => ({ kind: 'spiral', turns, inner: exactCells(outer * inner), outer, steps, band }),
      (hand === 'left') === runsLeft(context, plane, points[0]!) ? 1 : -1,
      { outer: null, inner: null }, // prettier-ignore
    );
  },
  build: (points, context, plane) => outlineOf(SPIRAL.measured!(points, context, plane)),
  fields: () => ['radius', 'inner radius', 'turns'],
  typed: CIRCLE.typed,
  sets: ([centre], end, [, inner = null, turns = null], { spiral }) => {
    const share = inner === null ? spiral.inner : inner / edgeLength(centre!, end);
    return { spiral: { ...spiral, inner: share, turns: turns ?? spiral.turns } };
  },
  words: (points, at, context) => {
    const { turns, inner, band } = context.settings.spiral;
    const outer = edgeLength(points[0]!, at);
    const sizes = [`${figure(turns)} turns`, `radius ${lengthWords(context, outer)}`, `inner ${lengthWords(context, exactCells(outer * inner))}`];
    const made = SPIRAL.measured!([points[0]!, at], context, context.plane);
    return made || outer === 0 || band === 0 ? sizes : [...sizes, 'the band finds no room between the turns'];
  },
};

/** Whether a plane's u turns to its v to the left, as it is seen about a place. */
function runsLeft(context: DrawContext, plane: Plane, { u, v }: PlanePoint): boolean {
  const map = context.on(plane).options.sheetFromPlane;
  const [o, p, q] = [apply33(map, u, v), apply33(map, u + 0.01, v), apply33(map, u, v + 0.01)];
  return !o || !p || !q || (p.x - o.x) * (q.y - o.y) - (p.y - o.y) * (q.x - o.x) < 0;
}

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
function formTool(choose: (context: DrawContext | null) => Form): DrawTool<FormState> {
  const idle = (caught: Caught | null, context: DrawContext | null): FormState => ({ form: choose(context), plane: null, points: [], caught });
  const finish = (state: FormState, points: readonly PlanePoint[], context: DrawContext): DrawStep<FormState> => {
    const plane = state.plane ?? context.plane;
    const outline = state.form.build(points, context, plane);
    if (!outline || (outline.closed ? !boundsArea(outline) : outline.points.length < 2)) return { state };
    const form = state.form.measured?.(points, context, plane)?.form;
    return { state: idle(state.caught, context), ...drawnShape(context, state.form.name, plane, outline, form && { form }) };
  };
  const add = (state: FormState, at: PlanePoint, context: DrawContext): DrawStep<FormState> => {
    const last = state.points.at(-1);
    if (last && last.u === at.u && last.v === at.v) return { state };
    const points = [...state.points, { u: at.u, v: at.v }];
    if (points.length === state.form.count) return finish(state, points, context);
    return { state: { ...state, plane: state.plane ?? context.plane, points } };
  };
  const key = (state: FormState, pressed: 'Backspace' | 'Enter' | 'Escape', context: DrawContext): DrawStep<FormState> => {
    if (pressed === 'Enter') return state.caught && state.points.length > 0 ? add(state, state.caught, context) : { state };
    if (pressed === 'Escape') return { state: idle(state.caught, context) };
    const points = state.points.slice(0, -1);
    return { state: { ...state, points, plane: points.length > 0 ? state.plane : null } };
  };
  const point = (state: FormState, event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): DrawStep<FormState> => {
    const caught = catchPointer(context.on(state.plane ?? context.plane), event.at, state.points, event);
    const form = state.points.length === 0 ? choose(context) : state.form;
    const points = event.carry && caught ? carried(state.points, state.caught, caught) : state.points;
    const next = { ...state, form, points, caught };
    if (event.kind === 'move' || !caught) return { state: next };
    // Letting go somewhere else than where the first point was pressed sets the second.
    return event.kind === 'down' || state.points.length === 1 ? add(next, caught, context) : { state: next };
  };
  return {
    start: () => idle(null, null),
    step: (state, event, context) => {
      if (event.kind === 'key') return key(state, event.key, context);
      if (event.kind !== 'typed') return point(state, event, context);
      if (state.points.length === 0 || !state.caught) return { state };
      const end = state.form.typed(state.points, state.caught, event.lengths);
      const settings = state.form.sets?.(state.points, end, event.lengths, context.settings) ?? {};
      const step = add(state, end, { ...context, settings: { ...context.settings, ...settings } });
      // What makes nothing is not kept for the next either.
      return step.commit ? { ...step, settings } : step;
    },
    ghost: (state, context) => ghostOf(state.form, state, context),
    begun: ({ points }) => points.length > 0,
    fields: ({ form, points, plane }) => (points.length > 0 && plane ? form.fields(points, plane) : []),
  };
}

/** How finely ghosts of curves are shown, in cells. */
const GHOST_CHORDS = 0.01;

function ghostOf(form: Form, { plane: started, points, caught }: FormState, context: DrawContext): Ghost | null {
  const plane = started ?? context.plane;
  if (!caught) return null;
  const last = points.at(-1);
  if (!last) return { plane, caught, points: [], closed: false, closes: false, words: [caughtPlace(context, plane, caught)] };
  const same = last.u === caught.u && last.v === caught.v;
  const outline = same ? null : form.build([...points, caught], context, plane);
  const axis = caught.v === last.v ? 'u' : caught.u === last.u ? 'v' : null;
  const words = [...form.words(points, caught, context), ...(axis ? [axisName(plane, axis)] : []), caughtPlace(context, plane, caught)];
  const shown = outline ? flattenOutline(outline, GHOST_CHORDS) : points;
  return { plane, caught, points: shown, closed: outline?.closed ?? false, closes: false, words, smooth: true };
}

const CIRCLES: Readonly<Record<DrawContext['settings']['circleBy'], Form>> = {
  centre: CIRCLE,
  box: CIRCLE_IN_BOX,
  'three points': CIRCLE_THROUGH,
  face: CIRCLE,
};

export const lineTool = formTool(() => LINE);
const plainCircle = formTool((context) => CIRCLES[context?.settings.circleBy ?? 'centre']);
export const ellipseTool = formTool(() => ELLIPSE);
export const polygonTool = formTool(() => POLYGON);
export const starTool = formTool(() => STAR);
export const spiralTool = formTool(() => SPIRAL);
export const arcTool = formTool(() => ARC);

/** Circles by their points, or with one press inscribed in the face under the pointer. */
export const circleTool: DrawTool<FormState> = {
  ...plainCircle,
  step: (state, event, context) => {
    if (context.settings.circleBy !== 'face' || event.kind === 'key' || event.kind === 'typed') return plainCircle.step(state, event, context);
    const inside = circleInFace(event.at, context);
    const caught: Caught | null = inside && { ...inside.centre, kind: 'centre', with: null };
    const next = { ...state, points: [], plane: inside?.plane ?? null, caught };
    if (event.kind !== 'down' || !inside) return { state: next };
    return { state: next, ...drawnShape(context, 'circle', inside.plane, inside.outline, inside.face && { inscribed: inside.face }) };
  },
  ghost: (state, context) => {
    if (context.settings.circleBy !== 'face') return plainCircle.ghost(state, context);
    const { plane, caught } = state;
    if (!plane || !caught) return { plane: context.plane, caught: null, points: [], closed: false, closes: false, words: ['no face under the pointer'] };
    const at = apply33(context.on(plane).options.sheetFromPlane, caught.u, caught.v);
    const inside = at && circleInFace(at, context);
    if (!inside) return null;
    const words = [`radius ${lengthWords(context, inside.radius)}`, caughtPlace(context, plane, caught)];
    return { plane, caught, points: flattenOutline(inside.outline, GHOST_CHORDS), closed: true, closes: false, words, smooth: true };
  },
};

/** The circle inscribed in the face at a place of the sheet, and that face. */
function circleInFace(at: SheetPoint, context: DrawContext): (InscribedCircle & { readonly face?: NonNullable<ShapeNode['inscribed']> }) | null {
  const seen = faceUnder(context.picture, at);
  if (!seen) return null;
  const host = findShape(context.document, seen.shape);
  const own = host && seen.owner === host.id ? inscribedIn(host, seen.face) : null;
  // In a face of solids that are one, or that a copy shows, it lies by itself.
  return own ? { ...own, face: { node: host!.id, face: seen.face } } : inscribedOn(laidSurface(seen.surface));
}
