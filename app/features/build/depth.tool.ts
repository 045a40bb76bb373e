import {
  canHaveDepth,
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
import { lengthWords } from '../../tools/catching';
import { lockedIds, type Tool, type ToolContext, type ToolStep } from '../../tools/tool';

export interface DepthState {
  /** The shape under the pointer, that a press would take. */
  readonly over: string | null;
  readonly drag: { readonly id: string; readonly from: SheetPoint; readonly start: number; readonly depth: number } | null;
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
    const run = runAlongNormal(context.geometry, shape, state.drag.from, event.at);
    const depth = event.free ? exactCells(state.drag.start + run) : Math.round(state.drag.start + run) + 0;
    const edit = depthEdit(shape.id, depth, context);
    const changed = depth !== state.drag.start;
    if (event.kind === 'move') return { state: { ...state, drag: { ...state.drag, depth } }, preview: changed ? edit : null };
    const end = { state: { over: shape.id, drag: null }, preview: null };
    return changed ? { ...end, commit: { edit, label: `set depth of ${shape.name}` } } : end;
  },
  ghost: (state, context) => {
    const shape = findShape(context.document, state.drag?.id ?? state.over ?? '');
    if (!shape) return null;
    const words = state.drag ? [`depth ${lengthWords(context, state.drag.depth)}`] : [`depth of ${shape.name}`];
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
    state: { over: shape.id, drag: { id: shape.id, from: at, start: shape.depth, depth: shape.depth } },
    select: context.selection.includes(shape.id) ? context.selection : [shape.id],
  };
}

/** The sheet points of the middle of a shape's outline and of one cell further along its plane's normal. */
export function normalOnSheet(geometry: Geometry, shape: ShapeNode): { readonly foot: SheetPoint; readonly step: SheetPoint } | null {
  const { projection } = geometry.sight;
  const frame = planeFrame(shape.plane, geometry.cell);
  const centre = outlineCentre(shape.outline);
  if (!frame || !centre) return null;
  const at = worldFromPlane(frame, centre);
  const { normal } = frame;
  const foot = sheetFromWorld(projection, at);
  const next = sheetFromWorld(projection, { a: at.a + normal.a * geometry.cell, b: at.b + normal.b * geometry.cell, h: at.h + normal.h * geometry.cell });
  return foot && next && { foot, step: { x: next.x - foot.x, y: next.y - foot.y } };
}

/** How many cells along the normal a movement on the sheet means. */
export function runAlongNormal(geometry: Geometry, shape: ShapeNode, from: SheetPoint, to: SheetPoint): number {
  const normal = normalOnSheet(geometry, shape);
  if (!normal) return 0;
  const { x, y } = normal.step;
  const square = x * x + y * y;
  return square === 0 ? 0 : ((to.x - from.x) * x + (to.y - from.y) * y) / square;
}

/** Where the depth handle of a shape stands on the sheet: over the middle of its end. */
export function depthHandle(document: CheminDocument, geometry: Geometry, id: string): SheetPoint | null {
  const shape = findShape(document, id);
  const normal = shape && canHaveDepth(shape) ? normalOnSheet(geometry, shape) : null;
  return shape && normal && { x: normal.foot.x + normal.step.x * shape.depth, y: normal.foot.y + normal.step.y * shape.depth };
}
