import {
  exactCells,
  figure,
  planeFrame,
  sheetFromWorld,
  sunThrowing,
  worldFromPlane,
  viewerDeg,
  type CheminDocument,
  type Light,
  type Plane,
  type SheetPoint,
  type Sun,
  type WorldPoint,
} from '@core';
import { catchPointer } from '../../tools/catching';
import { groundAt } from '../../tools/ground';
import type { Ghost, Tool, ToolContext } from '../../tools/tool';

export interface ShadowEndState {
  readonly hover: { readonly at: WorldPoint; readonly word: string } | null;
  /** The corner whose shadow is dragged, and where it is to fall. */
  readonly from: WorldPoint | null;
  readonly end: WorldPoint | null;
  readonly words: string;
}

const IDLE: ShadowEndState = { hover: null, from: null, end: null, words: '' };

/** The light with the sun that throws a corner's shadow to a place, and the sun in words; null where it would stand below. */
export function lightThrowing({ light, projection }: CheminDocument, from: WorldPoint, to: WorldPoint): { readonly light: Light; readonly sun: Sun } | null {
  const sun = sunThrowing(from, to);
  if (!sun) return null;
  const { lamp: _, ...rest } = light;
  const turn = light.keep === 'picture' ? viewerDeg(projection) : 0;
  return { light: { ...rest, sun: { ...sun, azimuthDeg: (((sun.azimuthDeg - turn) % 360) + 360) % 360 } }, sun };
}

/** The plane on which shadows are dragged about: the face under the pointer, else the floor that they fall on. */
function groundPlane({ document, picture }: Pick<ToolContext, 'document' | 'picture'>, at: SheetPoint): Plane {
  return groundAt({ picture }, at)?.plane ?? { kind: 'floor', offset: exactCells(document.light.shadows?.floor ?? 0) };
}

/** Says where the shadow of a corner falls: press the corner, drag its shadow. The sun stands where it throws it. */
export const shadowEndTool: Tool<ShadowEndState> = {
  start: () => IDLE,
  step: (state, event, context) => {
    if (event.kind === 'key') return event.key === 'Escape' ? { state: IDLE, preview: null } : { state };
    if (event.kind === 'typed') return { state };
    if (!state.from) {
      const hover = context.spaceAt(event.at);
      return event.kind === 'down' && hover ? { state: { ...IDLE, hover, from: hover.at } } : { state: { ...IDLE, hover } };
    }
    const plane = groundPlane(context, event.at);
    const caught = catchPointer(context.on(plane), event.at, [], { lock: false, free: event.free });
    const end = caught && worldFromPlane(planeFrame(plane, 1)!, caught);
    const thrown = end && lightThrowing(context.document, state.from, end);
    if (!thrown) return { state: { ...state, end: null, words: 'the shadow lies lower than its corner' }, preview: null };
    const words = `turned ${figure(thrown.sun.azimuthDeg)}°, ${figure(thrown.sun.elevationDeg)}° high`;
    const edit = { kind: 'light' as const, light: thrown.light };
    if (event.kind === 'up') return { state: IDLE, preview: null, commit: { edit, label: 'set where a shadow falls' } };
    return { state: { ...state, end, words }, preview: edit };
  },
  ghost: (state, context) => ghostOf(state, context),
  fields: () => [],
};

function ghostOf({ hover, from, end, words }: ShadowEndState, context: ToolContext): Ghost | null {
  const { plane } = context;
  const base = { plane, caught: null, closed: false, closes: false } as const;
  if (!from) return hover ? { ...base, points: [], words: [`drag the shadow of this ${hover.word}`] } : null;
  const line = (end ? [from, end] : []).flatMap((at) => {
    const on = sheetFromWorld(context.geometry.view.sight.projection, at);
    return on ? [on.x, on.y] : [];
  });
  return { ...base, points: [], words: [words || 'drag to where its shadow falls'], ...(line.length === 4 && { line }) };
}
