import { randomFrom, runs } from '../testing/random';
import { rectangleOutline } from '../shape/outline';
import { surfacesIn, surfaceOnPlane } from '../geometry/surface-on-plane';
import { copyNodes } from './copy';
import { applyEdit, type Edit } from './edits';
import { documentFault } from './gate';
import { inscribedIn } from './inscribed';
import { emptyDocument, type CheminDocument, type ShapeNode } from './types';

const box: ShapeNode = {
  kind: 'shape',
  id: 'box',
  name: 'box',
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 1 },
  outline: rectangleOutline({ u: 2, v: 3 }, { u: 8, v: 7 }),
  depth: 5,
  paint: { fill: '#c98a4b', line: null },
};
const FACES = ['end', 'side:1', 'side:4'] as const;
const circles = FACES.map((face, i): ShapeNode => {
  const { plane, outline } = inscribedIn(box, face)!;
  return { ...box, id: `circle ${i}`, plane, outline, depth: 0, inscribed: { node: 'box', face } };
});
const scene: CheminDocument = { ...emptyDocument('d', 'd'), nodes: [box, ...circles] };
const shape = (document: CheminDocument, id: string): ShapeNode => document.nodes.find((node) => node.id === id) as ShapeNode;

/** Every circle touches its face's nearer sides, in the plane of that face. */
function expectInscribed(document: CheminDocument): void {
  const host = shape(document, 'box');
  for (const [i, face] of FACES.entries()) {
    const circle = shape(document, `circle ${i}`);
    const on = surfaceOnPlane(host, face);
    if (!on) continue;
    const [us, vs] = [circle.outline.points.map((p) => p.u), circle.outline.points.map((p) => p.v)];
    const { minU, minV, maxU, maxV } = on.box;
    expect(circle.plane).toEqual(on.plane);
    expect((Math.min(...us) + Math.max(...us)) / 2).toBeCloseTo((minU + maxU) / 2, 4);
    expect((Math.min(...vs) + Math.max(...vs)) / 2).toBeCloseTo((minV + maxV) / 2, 4);
    expect(Math.max(...us) - Math.min(...us)).toBeCloseTo(Math.min(maxU - minU, maxV - minV), 4);
  }
}

describe('inscribed circles', () => {
  it('follow their face through any change of the box, and every document can be kept', () => {
    const random = randomFrom(11);
    const size = (): number => Math.round(random() * 80) / 8 + 0.5;
    let document = scene;
    for (let i = 0; i < runs(60); i++) {
      const edits: readonly Edit[] = [
        { kind: 'depth', id: 'box', depth: size() },
        { kind: 'outline', id: 'box', outline: rectangleOutline({ u: size(), v: size() }, { u: 12 + size(), v: 12 + size() }) as never },
        { kind: 'move', ids: ['box'], by: { a: size(), b: -size(), h: size() } },
        { kind: 'move', ids: ['box', 'circle 0', 'circle 1', 'circle 2'], by: { a: -size(), b: size(), h: 0 } },
        { kind: 'plane', id: 'box', plane: { kind: (['floor', 'left', 'right'] as const)[i % 3]!, offset: size() } },
        { kind: 'recount', cell: [8, 4, 10][i % 3]! },
      ];
      document = applyEdit(document, edits[Math.floor(random() * edits.length)]!);
      expectInscribed(document);
      expect(documentFault(document)).toBeNull();
    }
  });

  it('are let go when they are changed themselves, or their host goes; they wait while only the face is gone', () => {
    const moved = applyEdit(scene, { kind: 'move', ids: ['circle 0'], by: { a: 1, b: 0, h: 0 } });
    expect(shape(moved, 'circle 0').inscribed).toBeUndefined();
    expect(shape(moved, 'circle 1').inscribed).toBeDefined();
    expect(shape(applyEdit(scene, { kind: 'delete', ids: ['box'] }), 'circle 1').inscribed).toBeUndefined();
    const flat = applyEdit(scene, { kind: 'depth', id: 'box', depth: 0 });
    expect(shape(flat, 'circle 1')).toBe(shape(scene, 'circle 1'));
    expectInscribed(applyEdit(flat, { kind: 'depth', id: 'box', depth: 2 }));
  });

  it('stay in the copied box when box and circles are copied, and are free in a copy of theirs alone', () => {
    let n = 0;
    const copies = copyNodes(scene.nodes, () => `c${n++}`);
    const both = applyEdit(scene, { kind: 'add', nodes: copies as never, artworks: [] });
    const after = applyEdit(both, { kind: 'depth', id: 'c0', depth: 9 });
    expect(shape(after, 'c2').outline.points.map((p) => p.v)).toEqual(inscribedIn(shape(after, 'c0'), 'side:1')!.outline.points.map((p) => p.v));
    const aside = { ...circles[0]!, id: 'aside', outline: inscribedIn({ ...box, outline: rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }) }, 'end')!.outline };
    expect(shape(applyEdit(scene, { kind: 'add', nodes: [aside] as never, artworks: [] }), 'aside').inscribed).toBeUndefined();
  });
});

describe('faces on planes', () => {
  it('finds the faces of a solid that lie in a plane, and no others', () => {
    expect(surfacesIn(box, { kind: 'floor', offset: 6 })[0]?.box).toEqual({ minU: 2, minV: 3, maxU: 8, maxV: 7 });
    expect(surfacesIn(box, { kind: 'left', offset: 2 })[0]?.box).toEqual({ minU: 3, minV: 1, maxU: 7, maxV: 6 });
    expect(surfacesIn(box, { kind: 'right', offset: 3 })[0]?.box).toEqual({ minU: 2, minV: 1, maxU: 8, maxV: 6 });
    expect(surfacesIn(box, { kind: 'left', offset: 5 })).toEqual([]);
    expect(surfacesIn({ ...box, depth: 0 }, { kind: 'floor', offset: 1 })).toHaveLength(1);
    expect(surfacesIn({ ...box, depth: 0 }, { kind: 'left', offset: 2 })).toEqual([]);
  });

  it('has no plane for a curved side or an open line', () => {
    expect(surfaceOnPlane({ ...circles[0]!, depth: 2 }, 'side:1')).toBeNull();
    expect(surfaceOnPlane({ ...box, outline: { ...box.outline, closed: false } }, 'end')).toBeNull();
  });
});
