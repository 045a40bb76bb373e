import {
  apply33,
  boxAround,
  divideSpan,
  exactCells,
  faceUnder,
  figure,
  flattenOutline,
  guideOnSheet,
  guideReach,
  guideThrough,
  laidSurface,
  nextGuideName,
  parseSizes,
  type Caught,
  type Guide,
  type Plane,
  type PlaneBox,
  type PlanePoint,
  type SheetPoint,
} from '@core';
import { axisName, catchPointer, caughtPlace } from '../../tools/catching';
import type { Ghost, PlaneContext, ToolEvent } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool, GuideWay } from './draw-set';

/** Where a guide runs, before it has a name. */
type Run = Pick<Guide, 'plane' | 'at' | 'along'>;

interface GuideState {
  /** How the guide runs, from its first press on. */
  readonly way: GuideWay;
  readonly plane: Plane | null;
  /** What was pressed first: a place, or an edge by its ends. */
  readonly first: readonly PlanePoint[];
  readonly caught: Caught | null;
  readonly at: SheetPoint | null;
}

const IDLE: GuideState = { way: 'u', plane: null, first: [], caught: null, at: null };

/** Ways in which something is pressed before the guide is set. */
const BY_TWO: ReadonlySet<GuideWay> = new Set(['two', 'parallel', 'square', 'middle']);
const BY_EDGE: ReadonlySet<GuideWay> = new Set(['parallel', 'square']);

/** What each way asks for: at first, and after the first press. */
const ASKS: Readonly<Record<GuideWay, readonly [string, string]>> = {
  u: ['a guide through here', ''],
  v: ['a guide through here', ''],
  out: ['a guide out of the plane, through here', ''],
  two: ['through here', 'and through here, or type its angle'],
  parallel: ['press an edge or a guide', 'through here, or type how far'],
  square: ['press an edge or a guide', 'square on it through here, or type how far along it'],
  middle: ['the middle between here', 'and here'],
  divide: ['divides the face, or the sheet', ''],
};

/** Sets guides: along a direction of the plane, out of it, by two places or an edge, or by dividing a face or the sheet. */
export const guideTool: DrawTool<GuideState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'key') return { state: event.key === 'Enter' ? state : { ...state, first: [], plane: null } };
    if (event.kind === 'typed') return typed(state, event.lengths, context);
    return pointed(state, event, context);
  },
  ghost: ghostOf,
  begun: ({ first }) => first.length > 0,
  fields: ({ first, way }) => (first.length === 0 || way === 'middle' ? [] : way === 'two' ? ['angle'] : ['distance']),
};

/** What is set on the bench counts until something is in hand. */
const wayOf = ({ first, way }: GuideState, { settings }: DrawContext): GuideWay => (first.length > 0 ? way : settings.guide.way);

function pointed(before: GuideState, event: Extract<ToolEvent, { at: unknown }>, context: DrawContext): DrawStep<GuideState> {
  const way = wayOf(before, context);
  const caught = catchPointer(context.on(before.plane ?? context.plane), event.at, BY_EDGE.has(way) ? [] : before.first, event);
  const state: GuideState = { ...before, way, caught, at: event.at };
  if (event.kind !== 'down') return { state };
  if (BY_TWO.has(way) && state.first.length === 0) {
    const first = BY_EDGE.has(way) ? edgeNear(context.on(context.plane), event.at, context.reach) : caught && [caught];
    return { state: first ? { ...state, plane: context.plane, first: first.map(({ u, v }) => ({ u, v })) } : state };
  }
  return set(state, runsOf(state, context), context);
}

function typed(state: GuideState, [value = null]: readonly (number | null)[], context: DrawContext): DrawStep<GuideState> {
  const { way } = state;
  const [p, q] = state.first;
  if (value === null || !p || !state.caught) return { state };
  const plane = state.plane ?? context.plane;
  if (!q) {
    const run = way === 'two' ? guideThrough(plane, p, { u: Math.cos((value * Math.PI) / 180), v: Math.sin((value * Math.PI) / 180) }) : null;
    return set(state, run ? [run] : [], context);
  }
  const [x, y] = [q.u - p.u, q.v - p.v];
  const length = Math.hypot(x, y);
  // To the side where the pointer is; along the edge from its end that is nearer to it.
  const side = (state.caught.u - p.u) * -y + (state.caught.v - p.v) * x < 0 ? -1 : 1;
  const far = way === 'square' && Math.hypot(state.caught.u - q.u, state.caught.v - q.v) < Math.hypot(state.caught.u - p.u, state.caught.v - p.v);
  const [from, k] = far ? [q, -value / length] : [p, value / length];
  const at = way === 'square' ? { u: from.u + x * k, v: from.v + y * k } : { u: p.u + (side * -y * value) / length, v: p.v + (side * x * value) / length };
  const run = guideThrough(plane, exact(at), way === 'square' ? { u: -y, v: x } : { u: x, v: y });
  return set(state, run ? [run] : [], context);
}

const exact = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(u), v: exactCells(v) });

/** Guides made of runs, named after those that there are. */
function set(state: GuideState, runs: readonly Run[], context: DrawContext): DrawStep<GuideState> {
  if (runs.length === 0) return { state };
  const guides = [...(context.document.guides ?? [])];
  for (const run of runs) guides.push({ id: context.newId(), name: nextGuideName(guides), ...run, hidden: false, locked: false });
  const label = runs.length === 1 ? `draw ${guides.at(-1)!.name}` : `draw ${runs.length} guides`;
  return { state: { ...IDLE, caught: state.caught, at: state.at }, commit: { edit: { kind: 'guides', guides }, label } };
}

/** What a press here would set. */
function runsOf(state: GuideState, context: DrawContext): readonly Run[] {
  const { first, plane, caught, at } = state;
  const way = wayOf(state, context);
  const on = plane ?? context.plane;
  if (way === 'divide') return at ? divided(at, context) : [];
  if (!caught) return [];
  const here = { u: caught.u, v: caught.v };
  const one = (run: Run | null): readonly Run[] => (run ? [run] : []);
  if (way === 'u' || way === 'v') return one(guideThrough(on, here, way === 'u' ? { u: 1, v: 0 } : { u: 0, v: 1 }));
  if (way === 'out') return one(guideThrough(on, here, 'out'));
  const [p, q] = first;
  if (!p) return [];
  if (way === 'two') return one(guideThrough(on, p, { u: here.u - p.u, v: here.v - p.v }));
  if (way === 'middle') return one(guideThrough(on, exact({ u: (p.u + here.u) / 2, v: (p.v + here.v) / 2 }), { u: p.v - here.v, v: here.u - p.u }));
  if (!q) return [];
  return one(guideThrough(on, here, way === 'parallel' ? { u: q.u - p.u, v: q.v - p.v } : { u: p.v - q.v, v: q.u - p.u }));
}

/** The flat face at a place of the sheet by its plane and its box there; the sheet itself where there is no face. */
function ground(at: SheetPoint, { picture, document }: DrawContext): { readonly plane: Plane; readonly box: PlaneBox; readonly what: string } | null {
  const seen = faceUnder(picture, at);
  const laid = seen && laidSurface(seen.surface);
  const box = laid && boxAround(flattenOutline(laid.outline, GHOST_CHORDS));
  if (box) return { plane: laid.plane, box, what: 'the face' };
  const { sheet, grid } = document;
  if (seen || at.x < 0 || at.y < 0 || at.x > sheet.width || at.y > sheet.height) return null;
  return { plane: { kind: 'sheet', offset: 0 }, box: { minU: 0, minV: 0, maxU: sheet.width / grid.cell, maxV: sheet.height / grid.cell }, what: 'the sheet' };
}

const GHOST_CHORDS = 0.01;

/** Guides that divide the face at a place, or the sheet: by a count, or by sizes and shares from its start. */
function divided(at: SheetPoint, context: DrawContext): readonly Run[] {
  const there = ground(at, context);
  if (!there) return [];
  const { plane, box } = there;
  const { divide, across } = context.settings.guide;
  const places = (from: number, to: number): readonly number[] => {
    const sizes = sizesOf(divide, to - from, context);
    const spans = sizes.ok ? divideSpan(from, to, sizes.sizes) : null;
    return spans?.ok ? spans.spans.map(([, end]) => end).filter((end) => end > from && end < exactCells(to)) : [];
  };
  const along = (direction: 'u' | 'v'): readonly Run[] =>
    direction === 'u'
      ? places(box.minV, box.maxV).flatMap((v) => guideThrough(plane, { u: exactCells(box.minU), v }, { u: 1, v: 0 }) ?? [])
      : places(box.minU, box.maxU).flatMap((u) => guideThrough(plane, { u, v: exactCells(box.minV) }, { u: 0, v: 1 }) ?? []);
  return [...(across === 'v' ? [] : along('u')), ...(across === 'u' ? [] : along('v'))];
}

/** The sizes of a division; what is written in % is of the whole length. */
export function sizesOf(text: string, length: number, { document }: Pick<DrawContext, 'document'>): ReturnType<typeof parseSizes> {
  const inCells = text.replace(/(\d+(?:[.,]\d+)?)\s*%/g, (_, share: string) => String(exactCells((length * Number(share.replace(',', '.'))) / 100)));
  return parseSizes(inCells, document.sheet, document.grid.cell);
}

/** The straight edge or guide of the plane nearest to a place of the sheet, as far as it is within reach. */
function edgeNear({ options, source }: PlaneContext, at: SheetPoint, reach: number): readonly [PlanePoint, PlanePoint] | null {
  let [best, least]: [readonly [PlanePoint, PlanePoint] | null, number] = [null, 2 * reach];
  for (const [p, q] of [...source.edges, ...source.chords]) {
    const [from, to] = [apply33(options.sheetFromPlane, p.u, p.v), apply33(options.sheetFromPlane, q.u, q.v)];
    if (!from || !to) continue;
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const t = Math.max(0, Math.min(1, ((at.x - from.x) * dx + (at.y - from.y) * dy) / (dx * dx + dy * dy || 1)));
    const off = Math.hypot(at.x - from.x - dx * t, at.y - from.y - dy * t);
    if (off < least) [best, least] = [[p, q], off];
  }
  return best;
}

function ghostOf(state: GuideState, context: DrawContext): Ghost | null {
  const { divide } = context.settings.guide;
  const way = wayOf(state, context);
  const plane = state.plane ?? context.plane;
  const { caught, first, at } = state;
  if (!at || (!caught && way !== 'divide')) return null;
  const edge = BY_EDGE.has(way) && first.length === 0 ? edgeNear(context.on(plane), at, context.reach) : null;
  const runs = runsOf(state, context);
  const there = way === 'divide' ? ground(at, context) : null;
  const asked = ASKS[way][first.length === 0 ? 0 : 1];
  const told = way === 'divide' ? dividing(there, divide, context) : caught ? [caughtPlace(context, plane, caught)] : [];
  const named = way === 'u' || way === 'v' ? `${asked}, ${axisName(plane, way)}` : asked;
  const words = [way === 'divide' && there ? `divides ${there.what}` : named, ...told];
  const base = { plane: there?.plane ?? plane, caught: way === 'divide' ? null : caught, points: first.length > 0 ? first : (edge ?? []), closed: false, closes: false, words }; // prettier-ignore
  const [run] = runs;
  if (run?.along === 'out') {
    const ends = guideOnSheet(context.geometry.sight.projection, guideOf(run), context.document.grid.cell, boxOf(context));
    return { ...base, ...(ends && { line: ends.flatMap(({ x, y }) => [x, y]) }) };
  }
  return { ...base, more: runs.flatMap((one) => shownRun(one, context)) };
}

const guideOf = (run: Run): Guide => ({ ...run, id: '', name: '', hidden: false, locked: false });

/** What is looked at about the sheet, in mm. */
function boxOf({ document: { sheet } }: DrawContext): { minX: number; minY: number; maxX: number; maxY: number } {
  return { minX: -sheet.width, minY: -sheet.height, maxX: 2 * sheet.width, maxY: 2 * sheet.height };
}

function shownRun(run: Run, context: DrawContext): readonly (readonly PlanePoint[])[] {
  const reach = guideReach(context.geometry.sight.projection, guideOf(run), context.document.grid.cell, boxOf(context));
  const { at, along } = run;
  return reach && along !== 'out' ? [reach.map((t) => ({ u: at.u + along.u * t, v: at.v + along.v * t }))] : [];
}

/** What a division comes to, or why there is none. */
function dividing(there: ReturnType<typeof ground>, text: string, context: DrawContext): readonly string[] {
  if (!there) return ['a flat face, or the sheet, can be divided'];
  const { box } = there;
  const read = sizesOf(text, box.maxU - box.minU, context);
  if (!read.ok) return [read.message];
  return [`${figure(box.maxU - box.minU)} × ${figure(box.maxV - box.minV)}\u2009cells in ${read.sizes.length}`];
}
