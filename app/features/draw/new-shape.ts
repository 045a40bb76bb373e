import { automaticName, fitPaint, LOOSE_BOX, outlineBox, planeName, type Edit, type Outline, type Plane, type ShapeNode } from '@core';
import type { DrawContext, DrawStep } from './draw-set';

/** The line of shapes that have no area, where none is chosen. */
const USUAL_LINE = { colour: '#2a2333', width: 0.4 } as const;

/** What drawing a shape gives: the edit that adds it, painted as the next shape is, named, and selected. */
export function drawnShape(
  context: DrawContext,
  what: string,
  plane: Plane,
  outline: Outline,
  also: Pick<ShapeNode, 'inscribed' | 'form'> & { readonly before?: string | undefined } = {},
): Required<Pick<DrawStep<never>, 'commit' | 'select'>> {
  const { paint, document } = context;
  const { before, inscribed, form } = also;
  const node: ShapeNode = {
    kind: 'shape',
    id: context.newId(),
    name: automaticName(document, what, planeName(plane.kind, document.projection)),
    hidden: false,
    locked: false,
    plane,
    outline,
    depth: 0,
    paint: outline.closed ? fitPaint(paint, outlineBox(outline) ?? LOOSE_BOX) : { ...paint, fill: null, line: paint.line ?? USUAL_LINE },
    ...(inscribed && { inscribed }),
    ...(form && { form }),
  };
  const edit: Edit = { kind: 'add', nodes: [node], artworks: [], ...(before !== undefined && { before }) };
  return { commit: { edit, label: `draw ${node.name}` }, select: [node.id] };
}
