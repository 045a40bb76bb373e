import { emptyDocument, type CheminDocument, type ShapeNode } from '../document/types';
import { SOLID_KINDS, type SolidKind } from '../solids/kinds';
import { solidOn } from '../solids/solids';
import { everyEdge } from './edges';
import { PictureMaker } from './picture';

function documentOf(kind: SolidKind): CheminDocument {
  const made = solidOn(kind, { plane: { kind: 'floor', offset: 0 }, from: { u: 0, v: 0 }, to: { u: 6, v: 6 }, height: kind === 'dome' ? 2 : 4, turn: 0 }, { ridge: 3, wall: 1, bar: 1, pier: 1, crown: 0.5, sides: 6, count: 3, top: 0.5 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  const node: ShapeNode = { kind: 'shape', id: 'x', name: 'x', hidden: false, locked: false, paint: { fill: '#888888', line: null }, ...made.value };
  return { ...emptyDocument('d', 'd'), nodes: [node] };
}

describe('every edge', () => {
  it.each(SOLID_KINDS)('%s: its surfaces are bounded by edges, hidden ones too', (kind) => {
    const document = documentOf(kind);
    const paths = everyEdge(document, new PictureMaker().stageOf(document));
    const least: Partial<Record<SolidKind, number>> = { ball: 1, cylinder: 8, cone: 8, box: 12, prism: 18, pyramid: 18, wedge: 9, tube: 16, frame: 24 };
    expect(paths.length).toBe(least[kind] ?? paths.length);
    expect(paths.length).toBeGreaterThan(0);
    expect(paths.every(({ coords }) => coords.every(Number.isFinite))).toBe(true);
  });

  it('leaves hidden things out', () => {
    const document = documentOf('box');
    const hidden = { ...document, nodes: document.nodes.map((node) => ({ ...node, hidden: true })) };
    expect(everyEdge(hidden, new PictureMaker().stageOf(hidden))).toEqual([]);
  });
});
