import {
  apply33,
  drawnNodes,
  figure,
  flattenOutline,
  nearestPlace,
  regionAt,
  ringsOf,
  doubleAreaOf,
  outlineSegments,
  samePlane,
  sheetDistance,
  type CheminDocument,
  type Edit,
  type Outline,
  type Plane,
  type PlanePoint,
  type SheetPoint,
  type ShapeNode,
} from '@core';
import { extendAt, trimAt } from '@later';
import { planePointAt } from '../../tools/catching';
import type { Ghost } from '../../tools/tool';
import type { DrawContext, DrawStep, DrawTool } from './draw-set';
import { drawnShape } from './new-shape';

/** Where the pointer is on the plane; tools that look at lines need nothing else. */
export interface PointerState {
  readonly at: PlanePoint | null;
}

/** Flat shapes and lines of a plane that are seen. */
function linesOn(document: CheminDocument, plane: Plane): readonly ShapeNode[] {
  return drawnNodes(document).flatMap(({ node, owner, hidden }) =>
    !hidden && node.kind === 'shape' && node.id === owner && node.depth === 0 && samePlane(node.plane, plane) ? [node] : [],
  );
}

const pointerStep = (context: DrawContext, at: SheetPoint): PointerState => ({ at: planePointAt(context.on(context.plane), at) });

/** A closed region of loose lines becomes a shape with one press, under the lines that enclose it. */
export const regionTool: DrawTool<PointerState> = {
  start: () => ({ at: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const next = pointerStep(context, event.at);
    const region = event.kind === 'down' && next.at ? regionAt(context.regions(context.plane), next.at) : null;
    if (!region) return { state: next };
    const first = linesOn(context.document, context.plane)[0];
    return { state: next, ...drawnShape(context, 'region', context.plane, region, { before: first?.id }) };
  },
  ghost: ({ at }, context) => {
    const found = context.regions(context.plane);
    const region = at && regionAt(found, at);
    const base = { plane: context.plane, caught: null, closes: false, smooth: true, marks: found.looseEnds } as const;
    const ends = found.looseEnds.length;
    const loose = ends > 0 ? [`${ends} loose ${ends === 1 ? 'end' : 'ends'}, marked`] : [];
    if (!region) return { ...base, points: [], closed: false, words: [found.pending ? 'finding the regions…' : 'no line goes all round here', ...loose] };
    const [outer, ...holes] = ringsOf(region).map((ring) => flattenOutline(ring, 0.01));
    return { ...base, points: outer!, closed: true, more: holes, words: [`region of ${figure(areaOf(region))} square cells`, ...loose] };
  },
  fields: () => [],
};

function areaOf(outline: Outline): number {
  return ringsOf(outline).reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * Math.abs(doubleAreaOf(outlineSegments(ring))), 0) / 2;
}

/** The line of the plane whose boundary is nearest to the pointer, within reach. */
function lineUnder(context: DrawContext, at: PlanePoint): ShapeNode | null {
  const { sheetFromPlane: map } = context.on(context.plane).options;
  const here = apply33(map, at.u, at.v);
  let best: ShapeNode | null = null;
  let least = 1.6 * context.reach;
  for (const node of linesOn(context.document, context.plane)) {
    const place = nearestPlace(node.outline, at);
    const there = place && apply33(map, place.at.u, place.at.v);
    const off = here && there ? sheetDistance(here, there) : Infinity;
    // Of several that lie there, the topmost.
    if (off <= least + 1e-9 && !node.locked) [best, least] = [node, Math.min(off, least)];
  }
  return best;
}

const others = (context: DrawContext, line: ShapeNode): readonly Outline[] =>
  linesOn(context.document, context.plane)
    .filter((node) => node !== line)
    .map((node) => node.outline);

/** What a press on a line does to it, shown before: the lines that take its place, and what goes or comes. */
interface LineChange {
  readonly line: ShapeNode;
  readonly left: readonly Outline[];
  readonly shown: Outline;
}

/** A tool that changes the line under the pointer. */
function lineTool(verb: string, nothing: string, change: (context: DrawContext, line: ShapeNode, at: PlanePoint) => LineChange | null): DrawTool<PointerState> {
  const changeAt = ({ at }: PointerState, context: DrawContext): LineChange | null => {
    const line = at && lineUnder(context, at);
    return line ? change(context, line, at) : null;
  };
  const commit = ({ line, left }: LineChange, context: DrawContext): DrawStep<PointerState>['commit'] => {
    const nodes = left.map((outline, i): ShapeNode => {
      const paint = outline.closed ? line.paint : { ...line.paint, fill: null, line: line.paint.line ?? { colour: '#2a2333', width: 0.4 } };
      return { ...line, id: i === 0 ? line.id : context.newId(), outline, paint };
    });
    const edit: Edit = nodes.length > 0 ? { kind: 'replace', ids: [line.id], nodes } : { kind: 'delete', ids: [line.id] };
    return { edit, label: `${verb} ${line.name}` };
  };
  return {
    start: () => ({ at: null }),
    step: (state, event, context) => {
      if (event.kind === 'key' || event.kind === 'typed') return { state };
      const next = pointerStep(context, event.at);
      const found = event.kind === 'down' ? changeAt(next, context) : null;
      return found ? { state: next, commit: commit(found, context)! } : { state: next };
    },
    ghost: (state, context): Ghost | null => {
      const found = changeAt(state, context);
      const base = { plane: context.plane, caught: null, closed: false, closes: false, smooth: true } as const;
      const over = state.at ? lineUnder(context, state.at) : null;
      if (!found) return { ...base, points: [], words: [over ? nothing : 'no line under the pointer'] };
      return { ...base, points: flattenOutline(found.shown, 0.01), words: [`${verb} ${found.line.name}`] };
    },
    fields: () => [],
  };
}

/** Cuts away the part of a line between its nearest crossings. */
export const cutTool = lineTool('cut away a part of', 'nothing crosses this outline', (context, line, at) => {
  const trim = trimAt(line.outline, at, others(context, line));
  return trim && { line, left: trim.left, shown: trim.gone };
});

/** Runs the nearer end of a line on to the next crossing. */
export const extendTool = lineTool('extend', 'nothing lies ahead of this end', (context, line, at) => {
  const longer = extendAt(line.outline, at, others(context, line));
  return longer && { line, left: [longer], shown: longer };
});
