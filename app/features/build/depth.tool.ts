import {
  addWorld,
  canHaveDepth,
  scaleWorld,
  flattenTree,
  exactCells,
  findShape,
  outlineCentre,
  pickAt,
  planeFrame,
  sheetFromWorld,
  worldFromPlane,
  type CheminDocument,
  type Edit,
  type SheetPoint,
  type ShapeNode,
  type Stage as Geometry,
} from '@core';
import { lengthAlong } from '@later';
import { lengthWords } from '../../tools/catching';
import { reachTo } from '../../tools/reach';
import { lockedIds, type Tool, type ToolContext, type ToolStep } from '../../tools/tool';

export interface DepthState {
  /** The shape under the pointer, that a press would take. */
  readonly over: string | null;
  readonly drag: { readonly id: string; readonly from: SheetPoint; readonly start: number; readonly depth: number; readonly upTo: string | null } | null;
}

/** Depth by dragging a closed shape or any face of its solid along the normal of its plane, or by typing. */
export const depthTool: Tool<DepthState> = {
  start: () => ({ over: null, drag: null }),
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Escape' ? { state: { over: null, drag: null }, preview: null } : { state };
    if (event.kind === 'typed') return typed(state, event.lengths[0] ?? null, context);
    if (event.kind === 'down') return press(event.at, context);
    if (!state.drag) return { state: { ...state, over: shapeAt(event.at, context)?.id ?? null } };
    const shape = findShape(context.document, state.drag.id);
    if (!shape) return { state: { over: null, drag: null } };
    const { id } = state.drag;
    const centre = outlineCentre(shape.outline);
    const met = event.lock && centre ? reachTo(context, shape.plane, centre, event.at, (node) => node === id) : null;
    const run = state.drag.start + runAlongNormal(context.geometry, shape, state.drag.from, event.at);
    const depth = met ? exactCells(met.cells - (shape.start ?? 0)) : event.free ? exactCells(run) : Math.round(run) + 0;
    const edit = depthEdit(shape.id, depth, context);
    const changed = depth !== state.drag.start;
    if (event.kind === 'move') return { state: { ...state, drag: { ...state.drag, depth, upTo: met?.word ?? null } }, preview: changed ? edit : null };
    const end = { state: { over: shape.id, drag: null }, preview: null };
    return changed ? { ...end, commit: { edit, label: `set depth of ${shape.name}` } } : end;
  },
  ghost: (state, context) => {
    const shape = findShape(context.document, state.drag?.id ?? state.over ?? '');
    if (!shape) return null;
    const words = state.drag ? [`depth ${lengthWords(context, state.drag.depth)}`, ...(state.drag.upTo ? [state.drag.upTo] : [])] : [`depth of ${shape.name}`];
    const part = state.drag ? undefined : context.picture.visible.filter((visible) => visible.node === shape.id).at(-1)?.polygon;
    return { plane: shape.plane, caught: null, points: [], closed: false, closes: false, words, ...(part && { part }) };
  },
  fields: (state) => (state.drag ? ['depth'] : []),
};

/** The depth of the shape that is dragged, and of all selected ones where it is one of them. */
function depthEdit(id: string, depth: number, { document, selection }: Pick<ToolContext, 'document' | 'selection'>): Edit {
  const chosen = selection.includes(id) ? flattenTree(document.nodes).flatMap(({ node }) => (selection.includes(node.id) && node.kind === 'shape' && canHaveDepth(node) ? [node.id] : [])) : [id]; // prettier-ignore
  return chosen.length === 1 ? { kind: 'depth', id, depth } : { kind: 'all', edits: chosen.map((each) => ({ kind: 'depth', id: each, depth })) };
}

function typed(state: DepthState, depth: number | null, context: ToolContext): ToolStep<DepthState> {
  if (!state.drag || depth === null) return { state };
  const { id } = state.drag;
  return { state: { over: id, drag: null }, preview: null, commit: { edit: depthEdit(id, exactCells(depth), context), label: 'set depth' } };
}

function shapeAt(at: SheetPoint, context: ToolContext): ShapeNode | null {
  const locked = lockedIds(context.document.nodes);
  const hit = pickAt(context.picture, at, context.reach, (id) => locked.has(id));
  const shape = hit && findShape(context.document, hit.node);
  return shape && canHaveDepth(shape) ? shape : null;
}

function press(at: SheetPoint, context: ToolContext): ToolStep<DepthState> {
  const shape = shapeAt(at, context);
  if (!shape) return { state: { over: null, drag: null }, select: [] };
  return {
    state: { over: shape.id, drag: { id: shape.id, from: at, start: shape.depth, depth: shape.depth, upTo: null } },
    select: context.selection.includes(shape.id) ? context.selection : [shape.id],
  };
}

/** How many cells along the normal a movement on the sheet means: exact in perspective too. */
export function runAlongNormal(geometry: Geometry, shape: ShapeNode, from: SheetPoint, to: SheetPoint): number {
  const { sight, cell } = geometry;
  const frame = planeFrame(shape.plane, cell);
  const centre = outlineCentre(shape.outline);
  if (!frame || !centre) return 0;
  const run = (at: SheetPoint): number | null => lengthAlong(sight.projection, worldFromPlane(frame, centre), scaleWorld(frame.normal, cell), at);
  const [start, end] = [run(from), run(to)];
  return start === null || end === null ? 0 : end - start;
}

/** Where the depth handle of a shape stands on the sheet: over the middle of its end. */
export function depthHandle(document: CheminDocument, geometry: Geometry, id: string): SheetPoint | null {
  const shape = findShape(document, id);
  const { sight, cell } = geometry;
  const frame = shape && canHaveDepth(shape) ? planeFrame(shape.plane, cell) : null;
  const centre = shape && outlineCentre(shape.outline);
  if (!frame || !centre) return null;
  const far = (shape.start ?? 0) + shape.depth;
  const lean = shape.depth === 0 ? undefined : shape.lean;
  const at = worldFromPlane(frame, lean ? { u: centre.u + lean.u, v: centre.v + lean.v } : centre);
  return sheetFromWorld(sight.projection, addWorld(at, scaleWorld(frame.normal, far * cell)));
}
