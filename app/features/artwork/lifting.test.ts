/** @jest-environment node */
import {
  applyEdit,
  emptyDocument,
  flatSheetOf,
  flattenPath,
  PictureMaker,
  rectangleOutline,
  type CheminDocument,
  type Mark,
  type Plane,
  type ShapeNode,
} from '@core';
import { lifted, putBack } from './lifting';

const PLANES: readonly Plane[] = [
  { kind: 'floor', offset: 2 },
  { kind: 'left', offset: -3 },
  { kind: 'right', offset: 1 },
  { kind: 'sheet', offset: 0 },
  { kind: 'free', offset: 0, stance: { at: { a: 3, b: 4, h: 1 }, u: { a: 0.8, b: 0.6, h: 0 }, v: { a: 0, b: 0, h: 1 } } },
];

const shape = (id: string, plane: Plane, u: number, v: number, width: number, height: number, fill: string): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane,
  outline: rectangleOutline({ u, v }, { u: u + width, v: v + height }),
  depth: 0,
  paint: { fill, line: null, unlit: true },
});

/** The corners of what is filled in a colour, as they are seen. */
function cornersOf(document: CheminDocument, colour: string): readonly string[] {
  const visit = (marks: readonly Mark[]): readonly Mark[] => marks.flatMap((mark) => (mark.kind === 'group' ? visit(mark.marks) : [mark]));
  return visit(new PictureMaker().make(document).marks)
    .flatMap((mark) => (mark.kind === 'path' && mark.fill?.kind === 'flat' && mark.fill.colour === colour ? flattenPath(mark.path, 1e-6) : []))
    .flatMap((ring) => Array.from({ length: ring.length / 2 }, (_, i) => `${ring[2 * i]!.toFixed(4)} ${ring[2 * i + 1]!.toFixed(4)}`))
    .filter((corner, i, all) => all.indexOf(corner) === i)
    .sort();
}

describe('lifting flat things into an artwork', () => {
  let serial = 0;
  const newId = (): string => `new-${++serial}`;
  const drawn = (plane: Plane): CheminDocument => ({
    ...emptyDocument('d', 'd'),
    nodes: [shape('board', plane, 2, 3, 8, 5, '#c98a4b'), shape('mark', plane, 3, 4, 2, 1, '#1b6c8c')],
  });

  it.each(PLANES)('keeps what is seen, to the last corner, there and back: $kind', (plane) => {
    const before = drawn(plane);
    const made = lifted(before, before.nodes, newId);
    if ('why' in made) throw new Error(made.why);
    const after = applyEdit(before, { kind: 'all', edits: [{ kind: 'add', nodes: [], artworks: [made.artwork] }, { kind: 'replace', ids: ['board', 'mark'], nodes: [made.placement] }] }); // prettier-ignore
    for (const colour of ['#c98a4b', '#1b6c8c']) expect(cornersOf(after, colour)).toEqual(cornersOf(before, colour));
    for (const changes of [{}, { turn: 30 }, { mirrored: true as const }, { turn: -50, mirrored: true as const }, { width: 16, height: 5 }]) {
      const placement = { ...made.placement, anchor: { ...made.placement.anchor, ...changes } };
      const turned = applyEdit(after, { kind: 'change', nodes: [placement] });
      const shapes = putBack(turned, placement, made.artwork, (nodes) => nodes)!;
      const back = applyEdit(turned, { kind: 'replace', ids: [placement.id], nodes: shapes });
      for (const colour of ['#c98a4b', '#1b6c8c']) {
        const [got, wanted] = [cornersOf(back, colour), cornersOf(turned, colour)].map((list) => list.map((corner) => corner.split(' ').map(Number)));
        expect(got!.length).toBe(wanted!.length);
        wanted!.forEach(([x, y]) => expect(Math.min(...got!.map(([p, q]) => Math.hypot(p! - x!, q! - y!)))).toBeLessThan(1e-3));
      }
    }
  });

  it('says why it cannot: depth, several planes, nothing flat', () => {
    const floor = drawn({ kind: 'floor', offset: 0 });
    const [board, mark] = floor.nodes as [ShapeNode, ShapeNode];
    expect(lifted(floor, [{ ...board, depth: 2 }], newId)).toEqual({ why: expect.stringMatching(/depth/) });
    expect(lifted(floor, [board, { ...mark, plane: { kind: 'left', offset: 0 } }], newId)).toEqual({ why: expect.stringMatching(/one plane/) });
    expect(lifted(floor, [{ kind: 'copy', id: 'c', name: 'c', hidden: false, locked: false, of: 'board', by: { a: 0, b: 0, h: 0 } }], newId)).toEqual({ why: expect.stringMatching(/Only shapes/) }); // prettier-ignore
  });

  it('leaves an artwork that can be drawn on: everything that is placed follows', () => {
    const before = drawn({ kind: 'right', offset: 0 });
    const made = lifted(before, before.nodes, newId);
    if ('why' in made) throw new Error(made.why);
    const placed = applyEdit(before, { kind: 'all', edits: [{ kind: 'add', nodes: [], artworks: [made.artwork] }, { kind: 'replace', ids: ['board', 'mark'], nodes: [made.placement] }] }); // prettier-ignore
    const flat = flatSheetOf(placed, made.artwork.id)!;
    expect([flat.sheet.width, flat.sheet.height]).toEqual([64, 40]);
    const next = applyEdit(placed, { kind: 'flat', artwork: made.artwork.id, edit: { kind: 'move', ids: ['mark'], by: { a: 1, b: 0, h: 0 } } });
    const x = (document: CheminDocument): number => Number(cornersOf(document, '#1b6c8c')[0]!.split(' ')[0]);
    expect(x(next) - x(placed)).toBeCloseTo(8 * Math.cos(Math.PI / 6), 3);
    expect(cornersOf(next, '#c98a4b')).toEqual(cornersOf(placed, '#c98a4b'));
  });
});
