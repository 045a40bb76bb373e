import fc from 'fast-check';
import { independentCopy } from '../document/copy';
import { applyEdit, type Edit } from '../document/edits';
import { commitEdit, goToStep, presentDocument, startHistory } from '../document/history';
import { readProject, writeProject } from '../document/read';
import { emptyDocument, type CheminDocument, type CopyNode, type DocumentNode, type PlacementNode, type ShapeNode } from '../document/types';
import { worldPoints } from '../geometry/body';
import type { CellMove, RigidMove, SignedAxis } from '../geometry/rigid';
import type { WorldPoint } from '../math/points';
import { ellipseOutline } from '../shape/forms';
import { outlineThrough } from '../shape/outline';
import { drawnBody, drawnNodes, MOST_SHOWN } from './drawn-nodes';
import { PictureMaker } from './picture';

const base = { hidden: false, locked: false } as const;
const bracket = (id: string): ShapeNode => ({
  ...base,
  kind: 'shape',
  id,
  name: id,
  plane: { kind: 'floor', offset: 1 },
  outline: outlineThrough([[1, 1], [4, 1], [4, 2], [2, 2], [2, 5], [1, 5]].map(([u, v]) => ({ u: u!, v: v! })), true), // prettier-ignore
  depth: 2,
  paint: { fill: '#c98a4b', line: null },
});
const drum = (id: string): ShapeNode => ({ ...bracket(id), outline: ellipseOutline({ u: 7, v: 3 }, { u: 1, v: 1 }) });
const copyOf = (id: string, of: string, move: RigidMove): CopyNode => ({ ...base, kind: 'copy', id, name: id, of, ...move });
const group = (id: string, ...children: DocumentNode[]): DocumentNode => ({ ...base, kind: 'group', id, name: id, children });
const documentOf = (...nodes: DocumentNode[]): CheminDocument => ({ ...emptyDocument('d', 'd'), nodes });

/** The corners of everything drawn, by the node that it belongs to. */
function corners(document: CheminDocument, owner: string): readonly WorldPoint[] {
  return drawnNodes(document)
    .filter((drawn) => drawn.owner === owner)
    .flatMap((drawn) => worldPoints(drawnBody(drawn)!.points));
}

function expectShifted(before: readonly WorldPoint[], after: readonly WorldPoint[], by: CellMove, within = 1e-9): void {
  expect(after).toHaveLength(before.length);
  const miss = before.reduce((most, p, i) => {
    const q = after[i]!;
    return Math.max(most, Math.abs(q.a - p.a - by.a), Math.abs(q.b - p.b - by.b), Math.abs(q.h - p.h - by.h));
  }, 0);
  expect(miss).toBeLessThan(within);
}

const axes = fc
  .tuple(fc.constantFrom([0, 1, 2], [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0]), fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()))
  .map(([order, signs]) => order.map((k, i): SignedAxis => `${signs[i] ? '-' : ''}${(['a', 'b', 'h'] as const)[k]!}` as SignedAxis) as unknown as NonNullable<RigidMove['axes']>); // prettier-ignore
const cells = fc.integer({ min: -400, max: 400 }).map((n) => n / 20);
const by = fc.record({ a: cells, b: cells, h: cells });
const move: fc.Arbitrary<RigidMove> = fc.record(
  { axes, turn: fc.record({ axis: fc.constantFrom('a', 'b', 'h'), deg: fc.integer({ min: -180, max: 180 }) }), by },
  { requiredKeys: ['by'] },
) as fc.Arbitrary<RigidMove>;

/** Cells to which places are kept: displacements are kept in ticks, which free turns do not fall on. */
const exactness = (...moves: readonly RigidMove[]): number => (moves.some(({ turn }) => turn) ? 2e-4 : 1e-9);

describe('copies', () => {
  it('keep their distance when they are moved with what they copy, and follow it when it is moved alone', () => {
    fc.assert(
      fc.property(move, move, by, (first, second, step) => {
        const document = documentOf(bracket('one'), copyOf('two', 'one', first), copyOf('three', 'two', second));
        for (const ids of [
          ['one', 'two', 'three'],
          ['three', 'one', 'two'],
        ]) {
          const after = applyEdit(document, { kind: 'move', ids, by: step });
          for (const id of ids) expectShifted(corners(document, id), corners(after, id), step, exactness(first, second));
        }
        const alone = applyEdit(document, { kind: 'move', ids: ['two'], by: step });
        expectShifted(corners(document, 'one'), corners(alone, 'one'), { a: 0, b: 0, h: 0 });
        expectShifted(corners(document, 'two'), corners(alone, 'two'), step, exactness(first));
      }),
      { seed: 3, numRuns: 150 },
    );
  });

  it('of groups show everything in them, copies of copies too, whatever the move', () => {
    fc.assert(
      fc.property(move, move, by, (first, second, step) => {
        const inner = group('g', bracket('one'), drum('round'), copyOf('again', 'one', { by: { a: 0, b: 0, h: 4 } }));
        const document = documentOf(inner, copyOf('k', 'g', first), group('h', copyOf('m', 'k', second)), copyOf('n', 'h', first));
        expect(drawnNodes(document).filter(({ owner }) => owner === 'k')).toHaveLength(3);
        expect(drawnNodes(document).filter(({ owner }) => owner === 'n')).toHaveLength(3);
        const after = applyEdit(document, { kind: 'move', ids: ['g', 'k', 'h', 'n'], by: step });
        for (const id of ['again', 'k', 'm', 'n']) expectShifted(corners(document, id), corners(after, id), step, exactness(first, second));
      }),
      { seed: 4, numRuns: 80 },
    );
  });

  it('are the same after undo, redo, saving and opening', () => {
    fc.assert(
      fc.property(move, by, (first, step) => {
        const document = documentOf(group('g', bracket('one'), copyOf('two', 'one', first)), copyOf('k', 'g', first));
        const moved = commitEdit(startHistory(document), { kind: 'move', ids: ['g', 'k'], by: step });
        expect(presentDocument(goToStep(moved, 0))).toBe(document);
        const read = readProject(writeProject(presentDocument(moved)));
        if (!read.ok) throw new Error(read.problems[0]!.message);
        expect(read.value).toEqual(presentDocument(moved));
        expectShifted(corners(document, 'k'), corners(read.value, 'k'), step, exactness(first));
      }),
      { seed: 5, numRuns: 60 },
    );
  });

  it('look the same when they are made independent', () => {
    fc.assert(
      fc.property(move, move, (first, second) => {
        const sign: PlacementNode = { ...base, kind: 'placement', id: 'sign', name: 'sign', artwork: 'art', target: { kind: 'face', node: 'one', face: 'side:1' }, anchor: { at: { a: 1.5, b: 1, h: 2.5 }, width: 2, height: 1 } }; // prettier-ignore
        const svg = '<svg viewBox="0 0 4 2"><path d="M0 0L4 0L4 2Z"/></svg>';
        const nodes = [group('g', bracket('one'), copyOf('again', 'one', second)), sign, copyOf('k', 'g', first)];
        const document = { ...documentOf(...nodes), artworks: [{ id: 'art', name: 'art', svg, width: 4, height: 2 }] };
        const own = independentCopy(document, document.nodes[2] as CopyNode)!;
        const after = applyEdit(document, { kind: 'replace', ids: ['k'], nodes: [own.node, ...own.on] } as Edit);
        const places = (d: CheminDocument, wanted: (id: string) => boolean): readonly string[] =>
          new PictureMaker().make(d).visible.filter(({ node }) => wanted(node)).map(({ polygon }) => Array.from(polygon).map((n) => n.toFixed(1)).sort().join(' ')).sort(); // prettier-ignore
        const known = new Set(document.nodes.flatMap((node) => (node.kind === 'group' ? node.children.map(({ id }) => id) : [])).concat('sign'));
        // Corners may be rounded to ticks, so places are compared to a tenth of a mm, most of them.
        const [was, is] = [places(document, (id) => id === 'k'), places(after, (id) => !known.has(id))];
        expect(is).toHaveLength(was.length);
        expect(is.filter((place) => !was.includes(place)).length).toBeLessThanOrEqual(Math.ceil(was.length / 3));
      }),
      { seed: 6, numRuns: 60 },
    );
  });

  it('of each other end where they come round, and do not multiply without end', () => {
    const round = documentOf(bracket('one'), copyOf('p', 'q', { by: { a: 1, b: 0, h: 0 } }), copyOf('q', 'p', { by: { a: 0, b: 1, h: 0 } }));
    expect(drawnNodes(round)).toHaveLength(1);
    let deep: DocumentNode = bracket('one');
    const nodes: DocumentNode[] = [];
    for (let i = 0; i < 30; i++) {
      deep = group(`g${i}`, deep, copyOf(`c${i}`, i === 0 ? 'one' : `g${i - 1}`, { by: { a: 1, b: 0, h: 0 } }));
    }
    nodes.push(deep, copyOf('all', 'g29', { by: { a: 0, b: 9, h: 0 } }));
    expect(drawnNodes(documentOf(...nodes)).length).toBeLessThan(MOST_SHOWN + 100);
  });
});
