import { emptyDocument } from './types';
import type { CheminDocument, CopyNode, DocumentNode, GroupNode, ShapeNode } from './types';
import { rectangleOutline } from '../shape/outline';
import { applyEdit, type Edit } from './edits';
import { documentFault, passEdit } from './gate';
import { commitEdit, presentDocument, soundHistory, startHistory } from './history';
import { checkDocument, writeProject } from './read';
import { flattenTree } from './tree';

const box = (id: string, part: Partial<ShapeNode> = {}): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }),
  depth: 1,
  paint: { fill: '#c98a4b', line: null },
  ...part,
});
const copyOf = (id: string, of: string): CopyNode => ({ kind: 'copy', id, name: id, hidden: false, locked: false, of, by: { a: 3, b: 0, h: 0 } });
const groupOf = (id: string, ...children: DocumentNode[]): GroupNode => ({ kind: 'group', id, name: id, hidden: false, locked: false, children });
const withNodes = (...nodes: DocumentNode[]): CheminDocument => ({ ...emptyDocument('d', 'd'), nodes });
const ids = (document: CheminDocument): string[] => flattenTree(document.nodes).map(({ node }) => node.id);

/** What comes out can be written and read back equal. */
function expectKept(document: CheminDocument): void {
  const read = checkDocument(JSON.parse(writeProject(document)));
  expect(read.ok ? read.value : read.problems).toEqual(document);
}

function refusal(document: CheminDocument, edit: Edit): string {
  try {
    passEdit(document, edit);
  } catch (error) {
    return (error as Error).message;
  }
  return 'passed';
}

describe('the gate', () => {
  it('lets an original be ungrouped: its copies become groups of their own', () => {
    const start = withNodes(groupOf('g', box('one'), box('two')), copyOf('c', 'g'));
    const { document } = passEdit(start, { kind: 'ungroup', id: 'g' });
    expect(ids(document)).toEqual(['one', 'two', 'c', 'c.2', 'c.3']);
    expectKept(document);
  });

  it('gives what a copy becomes ids that nothing else has, however long its own is', () => {
    const long = 'x'.repeat(80);
    const start = withNodes(groupOf('g', box('one')), copyOf(long, 'g'), box(`${long.slice(0, 40)}.2`));
    const { document } = passEdit(start, { kind: 'delete', ids: ['g'] });
    expect(ids(document)).toHaveLength(3);
    expectKept(document);
  });

  it('refuses what could not be opened again, and says what it is', () => {
    const deep = Array.from({ length: 32 }, (_, i) => i).reduce<DocumentNode>((inside, i) => groupOf(`g${i}`, inside), box('one'));
    const start = withNodes(box('one'), box('two'));
    const outline = { ...box('two').outline, points: box('two').outline.points.map((p) => ({ ...p, id: 1 })) };
    const cases: [Edit, RegExp][] = [
      [{ kind: 'move', ids: ['two'], by: { a: 999_999, b: 0, h: 0 } }, /“two”: a coordinate lies within a million cells/],
      [{ kind: 'lay', items: [{ id: 'two', plane: { kind: 'floor', offset: 3_000_000 }, outline: box('x').outline }] } as Edit, /within a million cells/],
      [{ kind: 'title', name: 'n'.repeat(201) }, /at most 200 letters/],
      [{ kind: 'add', nodes: [box('two')], artworks: [] }, /the id “two” is used twice/],
      [{ kind: 'add', nodes: [copyOf('c', 'nobody')], artworks: [] }, /nothing “nobody”/],
      [{ kind: 'outline', id: 'two', outline }, /two points have one id/],
      [{ kind: 'recount', cell: 0.001 }, /a cell is between/],
      [{ kind: 'delete-reference', id: 'nobody' }, /passed/],
    ];
    for (const [edit, reason] of cases) expect(refusal(start, edit)).toMatch(reason);
    const nested = withNodes(deep);
    expect(refusal(nested, { kind: 'title', name: 'deep' })).toBe('passed');
    expect(refusal(nested, { kind: 'group', ids: ['g31'], id: 'more', name: 'more' })).toMatch(/more than 32 deep/);
    const far = applyEdit(withNodes(box('far')), { kind: 'move', ids: ['far'], by: { a: 999_000, b: 0, h: 0 } });
    expect(refusal(far, { kind: 'recount', cell: 0.01 })).toMatch(/within a million cells/);
  });

  it('refuses a camera, a sheet and an eye that are out of all measure', () => {
    const start = emptyDocument('d', 'd');
    const camera = (part: object): Edit => ({
      kind: 'projection',
      projection: {
        kind: 'perspective',
        chosen: 'two-point',
        focal: 100,
        principal: { x: 0, y: 0 },
        turnDeg: 30,
        tiltDeg: 0,
        rollDeg: 0,
        eye: { a: 0, b: 0, h: 10 },
        ...part,
      } as never,
    });
    expect(refusal(start, camera({}))).toBe('passed');
    expect(refusal(start, camera({ focal: 6e14 }))).toMatch(/100 km away/);
    expect(refusal(start, camera({ principal: { x: 1e12, y: 0 } }))).toMatch(/within 1000 km/);
    expect(refusal(start, camera({ eye: { a: 0, b: NaN, h: 0 } }))).not.toBe('passed');
  });

  it('moves what lies in a moved group once', () => {
    const start = withNodes(groupOf('g', box('one')));
    const { document } = passEdit(start, { kind: 'move', ids: ['g', 'one'], by: { a: 1, b: 0, h: 0 } });
    expect((flattenTree(document.nodes)[1]!.node as ShapeNode).outline.points[0]!.u).toBe(1);
  });

  it('looks closely at what was touched alone', () => {
    const start = withNodes(...Array.from({ length: 50 }, (_, i) => box(`n${i}`)));
    expect(documentFault(start)).toBeNull();
    const { document } = passEdit(start, { kind: 'depth', id: 'n7', depth: 3 });
    expect(document.nodes.filter((node, i) => node !== start.nodes[i])).toHaveLength(1);
    expect(documentFault({ ...document, nodes: [...document.nodes, { ...box('bad'), depth: NaN }] })?.path).toEqual(['nodes', 50, 'depth']);
  });

  it('makes labels that can be kept', () => {
    const history = commitEdit(startHistory(emptyDocument('d', 'd')), { kind: 'title', name: 'x' }, 'l'.repeat(900));
    expect(history.steps[0]!.label).toHaveLength(300);
  });

  it('finds the last good state of a history that was kept unchecked', () => {
    const good = commitEdit(startHistory(withNodes(box('one'))), { kind: 'title', name: 'good' });
    const bad = { ...presentDocument(good), nodes: [box('one'), box('one')] };
    const kept = { ...good, steps: [...good.steps, good.steps[0]!], documents: [...good.documents, bad], position: 2 };
    const sound = soundHistory(kept)!;
    expect([sound.steps.length, sound.position, presentDocument(sound).name]).toEqual([1, 1, 'good']);
    expect(soundHistory(good)).toBe(good);
    expect(soundHistory({ ...kept, documents: [bad], steps: [], position: 0 })).toBeNull();
  });
});
