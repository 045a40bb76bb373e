import { isometricSetup } from '../projection/setup';
import fc from 'fast-check';
import { CoreError } from '../math/errors';
import { edgeLength, rectangleOutline } from '../shape/outline';
import { describeEdit } from './describe-edit';
import { applyEdit, editSchema, type Edit } from './edits';
import { commitEdit, goToStep, presentDocument, replayHistory, startHistory, stepSchema, type History } from './history';
import { checkDocument, writeProject } from './read';
import { automaticName, findNode, findShape, flattenTree, idsWithin } from './tree';
import { emptyDocument, type CheminDocument, type ShapeNode } from './types';

const SVG = '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>';

function shape(id: string): ShapeNode {
  return {
    kind: 'shape',
    id,
    name: `rectangle ${id}`,
    hidden: false,
    locked: false,
    plane: { kind: 'left', offset: 2 },
    outline: rectangleOutline({ u: 3, v: 1 }, { u: 13, v: 4 }),
    depth: 0,
    paint: { fill: '#c98a4b', line: null },
  };
}

/** A random edit that fits the document, made from whole numbers so that a run can be repeated. */
function randomEdit(document: CheminDocument, [kind, pick, p, q]: readonly [number, number, number, number], serial: number): Edit {
  const entries = flattenTree(document.nodes);
  const node = entries.length === 0 ? null : entries[pick % entries.length]!.node;
  const cells = (n: number): number => ((n % 200) - 100) / 7;
  if (!node || kind === 0)
    return { kind: 'add', nodes: [shape(`s${serial}`)], artworks: kind % 2 ? [] : [{ id: `art${serial}`, name: 'art', svg: SVG, width: 4, height: 2 }] };
  switch (kind) {
    case 1:
      return { kind: 'delete', ids: [node.id] };
    case 2:
      return node.kind === 'shape' ? { kind: 'depth', id: node.id, depth: cells(p) } : { kind: 'name', id: node.id, name: `name ${p}` };
    case 3:
      return { kind: 'paint', ids: [node.id], paint: { fill: '#00aa88', line: { colour: '#112233', width: 1 + (p % 4) } } };
    case 4:
      return { kind: 'hide', ids: [node.id], hidden: p % 2 === 0 };
    case 5:
      return { kind: 'lock', ids: [node.id], locked: p % 2 === 0 };
    case 6:
      return {
        kind: 'group',
        ids: entries
          .slice(0, 1 + (p % 3))
          .filter((e) => e.parent === null)
          .map((e) => e.node.id),
        id: `g${serial}`,
        name: `group ${serial}`,
      };
    case 7:
      return node.kind === 'group' ? { kind: 'ungroup', id: node.id } : { kind: 'title', name: `title ${p}` };
    case 8:
      return { kind: 'light', light: { ...document.light, sun: { azimuthDeg: p % 360, elevationDeg: q % 90 } } };
    case 9:
      return { kind: 'grid', grid: { ...document.grid, cell: 1 + (p % 20), bold: 1 + (q % 9) } };
    case 10:
      return { kind: 'projection', projection: { ...isometricSetup({ x: 150, y: 90 }), measure: p % 2 ? 'true' : 'drawing' } };
    case 11: {
      const artwork = document.artworks[0];
      if (!artwork) return { kind: 'title', name: 'no artwork' };
      const target =
        node.kind === 'shape' ? ({ kind: 'face', node: node.id, face: 'end' } as const) : ({ kind: 'plane', plane: { kind: 'floor', offset: 1 } } as const);
      return {
        kind: 'add',
        nodes: [
          {
            kind: 'placement',
            id: `p${serial}`,
            name: 'placed',
            hidden: false,
            locked: false,
            artwork: artwork.id,
            target,
            anchor: { at: { a: 0, b: 0, h: 0 }, width: 4, height: 2 },
          },
        ],
        artworks: [],
      };
    }
    case 12:
      return node.kind === 'placement'
        ? { kind: 'place', id: node.id, target: node.target, anchor: { at: { a: cells(p), b: cells(q), h: 0 }, width: 1 + (p % 9), height: 2 } }
        : { kind: 'name', id: node.id, name: 'other' };
    default:
      return { kind: 'move', ids: [node.id], by: { a: cells(p), b: cells(q), h: cells(p + q) } };
  }
}

const numbers = fc.tuple(fc.nat(16), fc.nat(1000), fc.nat(1000), fc.nat(1000));

function run(plan: readonly (readonly [number, number, number, number])[]): History {
  let history = startHistory(emptyDocument('d', 'a drawing'));
  plan.forEach((numbers, serial) => {
    const edit = editSchema.parse(randomEdit(presentDocument(history), numbers, serial));
    history = commitEdit(history, edit);
  });
  return history;
}

describe('a thousand random edits', () => {
  const plans = fc.array(numbers, { minLength: 1000, maxLength: 1000 });

  it('can all be undone to the empty sheet and redone to an equal, valid document', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const history = run(plan);
        expect(history.steps).toHaveLength(1000);
        const end = writeProject(presentDocument(history));
        let back = history;
        while (back.position > 0) back = goToStep(back, back.position - 1);
        expect(presentDocument(back)).toEqual(emptyDocument('d', 'a drawing'));
        let forth = back;
        for (let i = 0; i < 1000; i++) forth = goToStep(forth, forth.position + 1);
        expect(writeProject(presentDocument(forth))).toBe(end);
        const checked = checkDocument(JSON.parse(end));
        expect(checked.ok ? [] : checked.problems).toEqual([]);
      }),
      { seed: 31, numRuns: 4 },
    );
  });

  it('can be replayed from what storage keeps', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        const history = run(plan);
        const stored: unknown = JSON.parse(JSON.stringify({ base: history.base, steps: history.steps }));
        const { base, steps } = stored as { base: CheminDocument; steps: unknown[] };
        const replayed = replayHistory(
          base,
          steps.map((step) => stepSchema.parse(step)),
          700,
        );
        expect(replayed.steps).toHaveLength(1000);
        expect(writeProject(presentDocument(replayed))).toBe(writeProject(history.documents[700]!));
      }),
      { seed: 32, numRuns: 2 },
    );
  });

  it('leave a length of ten cells exactly ten', () => {
    fc.assert(
      fc.property(plans, (plan) => {
        for (const { node } of flattenTree(presentDocument(run(plan)).nodes)) {
          if (node.kind !== 'shape') continue;
          const [p, q, r] = node.outline.points;
          expect(edgeLength(p!, q!)).toBe(10);
          expect(edgeLength(q!, r!)).toBe(3);
        }
      }),
      { seed: 33, numRuns: 4 },
    );
  });
});

describe('edits', () => {
  const start = applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [shape('one'), shape('two')], artworks: [] });

  it('share what they do not change', () => {
    const next = applyEdit(start, { kind: 'depth', id: 'two', depth: 5 });
    expect(next.nodes[0]).toBe(start.nodes[0]);
    expect(next.nodes[1]).not.toBe(start.nodes[1]);
    expect(findShape(start, 'two')!.depth).toBe(0);
  });

  it('move along a plane within it, and across it by its offset', () => {
    const moved = findShape(applyEdit(start, { kind: 'move', ids: ['one'], by: { a: -3, b: 2, h: 1 } }), 'one')!;
    expect(moved.plane).toEqual({ kind: 'left', offset: -1 });
    expect(moved.outline.points[0]).toMatchObject({ u: 5, v: 2 });
  });

  it('take placements on a face away with the face', () => {
    const placed: Edit = {
      kind: 'add',
      nodes: [
        {
          kind: 'placement',
          id: 'p',
          name: 'p',
          hidden: false,
          locked: false,
          artwork: 'x',
          target: { kind: 'face', node: 'one', face: 'end' },
          anchor: { at: { a: 0, b: 0, h: 0 }, width: 1, height: 1 },
        },
      ],
      artworks: [{ id: 'x', name: 'x', svg: SVG, width: 4, height: 2 }],
    };
    const after = applyEdit(applyEdit(start, placed), { kind: 'delete', ids: ['one'] });
    expect(flattenTree(after.nodes).map((e) => e.node.id)).toEqual(['two']);
  });

  it('move a placement on a plane with the plane', () => {
    const target = { kind: 'plane', plane: { kind: 'left', offset: 0 } } as const;
    const placed: Edit = {
      kind: 'add',
      nodes: [
        {
          kind: 'placement',
          id: 'p',
          name: 'p',
          hidden: false,
          locked: false,
          artwork: 'x',
          target,
          anchor: { at: { a: 0, b: 5, h: 5 }, width: 1, height: 1 },
        },
      ],
      artworks: [],
    };
    const moved = findNode(applyEdit(applyEdit(start, placed), { kind: 'move', ids: ['p'], by: { a: 1, b: 2, h: 3 } }), 'p');
    expect(moved).toMatchObject({ anchor: { at: { a: 1, b: 7, h: 8 } }, target: { plane: { offset: 1 } } });
  });

  it('group where the last member stood and come apart again in place', () => {
    const grouped = applyEdit(applyEdit(start, { kind: 'add', nodes: [shape('three')], artworks: [] }), {
      kind: 'group',
      ids: ['one', 'two'],
      id: 'g',
      name: 'pair',
    });
    expect(grouped.nodes.map((n) => n.id)).toEqual(['g', 'three']);
    expect(idsWithin(grouped.nodes[0]!)).toEqual(['g', 'one', 'two']);
    const apart = applyEdit(grouped, { kind: 'ungroup', id: 'g' });
    expect(apart.nodes.map((n) => n.id)).toEqual(['one', 'two', 'three']);
    const inside = applyEdit(grouped, { kind: 'paint', ids: ['g'], paint: { fill: '#000000', line: null } });
    expect(findShape(inside, 'two')!.paint.fill).toBe('#000000');
  });

  it('name the node that is not there or is of another kind', () => {
    expect(() => applyEdit(start, { kind: 'delete', ids: ['nobody'] })).toThrow(CoreError);
    expect(() => applyEdit(start, { kind: 'name', id: 'nobody', name: 'x' })).toThrow(/no node “nobody”/);
    expect(() => applyEdit(start, { kind: 'ungroup', id: 'one' })).toThrow(/is a shape, not a group/);
    expect(() =>
      applyEdit(start, {
        kind: 'place',
        id: 'one',
        target: { kind: 'plane', plane: { kind: 'floor', offset: 0 } },
        anchor: { at: { a: 0, b: 0, h: 0 }, width: 1, height: 1 },
      }),
    ).toThrow(/not a placement/);
  });

  it('drop what was undone when something else is done, and say what they do', () => {
    let history = startHistory(start);
    history = commitEdit(history, { kind: 'title', name: 'first' });
    history = commitEdit(goToStep(history, 0), { kind: 'title', name: 'second' });
    expect(history.steps.map((s) => s.label)).toEqual(['rename drawing']);
    expect(presentDocument(history).name).toBe('second');
    expect(goToStep(history, 99)).toBe(history);
    expect(describeEdit({ kind: 'add', nodes: [shape('x')], artworks: [] })).toBe('add rectangle x');
  });

  it('stop a replay at the first step that does not fit', () => {
    const replayed = replayHistory(start, [{ edit: { kind: 'title', name: 'x' }, label: 'x' }, { edit: { kind: 'delete', ids: ['nobody'] }, label: 'y' }], 2); // prettier-ignore
    expect(replayed.steps).toHaveLength(1);
    expect(replayed.position).toBe(1);
  });

  it('give things names of their own', () => {
    const document = applyEdit(emptyDocument('d', 'd'), {
      kind: 'add',
      nodes: [
        { ...shape('a'), name: 'rectangle 1, floor' },
        { ...shape('b'), name: 'rectangle 3, floor' },
      ],
      artworks: [],
    });
    expect(automaticName(document, 'rectangle', 'left wall')).toBe('rectangle 2, left wall');
    expect(automaticName(document, 'line', '')).toBe('line 1');
  });
});
