import { boundsAll, drawnBody, drawnNodes, exactCells, figure, type CheminDocument, type Light, type WorldPoint } from '@core';
import type { Tool } from '../../tools/tool';

interface LampState {
  readonly hover: { readonly at: WorldPoint; readonly word: string } | null;
}

/** How far a lamp reaches at first, in sizes of what is drawn. */
const REACH = 2;

/** The light with a lamp at a place in cells; one that is new reaches over all that is drawn. */
export function lightWithLamp(document: CheminDocument, at: WorldPoint): Light {
  const { light } = document;
  const box = light.lamp ? null : boundsAll(drawnNodes(document).flatMap((drawn) => drawnBody(drawn) ?? []));
  const size = box ? Math.hypot(box.max.a - box.min.a, box.max.b - box.min.b, box.max.h - box.min.h) : 10;
  const place = { a: exactCells(at.a), b: exactCells(at.b), h: exactCells(at.h) };
  return { ...light, lamp: { at: place, reach: light.lamp?.reach ?? exactCells(Math.ceil(size * REACH)) } };
}

/** Puts the lamp at a place that is caught: a corner, or a place of the plane. */
export const lampTool: Tool<LampState> = {
  start: () => ({ hover: null }),
  step: (state, event, context) => {
    if (event.kind === 'key' || event.kind === 'typed') return { state };
    const hover = context.spaceAt(event.at);
    if (event.kind !== 'down' || !hover) return { state: { hover } };
    return { state: { hover }, commit: { edit: { kind: 'light', light: lightWithLamp(context.document, hover.at) }, label: 'put the lamp at a place' } };
  },
  ghost: ({ hover }, { plane }) => {
    if (!hover) return null;
    const { a, b, h } = hover.at;
    const words = [`lamp at this ${hover.word}`, `a ${figure(a)}  b ${figure(b)}  h ${figure(h)}`];
    return { plane, caught: null, points: [], closed: false, closes: false, words };
  },
  fields: () => [],
};
