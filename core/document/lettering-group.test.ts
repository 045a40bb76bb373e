import { bodyOf } from '../geometry/book';
import { surfaceNamed } from '../geometry/body';
import type { Ruled } from '../geometry/ruled';
import { layCells } from '../lettering/cell-letters';
import type { CellLettering } from '../lettering/lettering';
import { roundStart } from './round-line';
import { dotWorld, subtractWorld } from '../math/points';
import { applyEdit } from './edits';
import { frameOfLettering, letterFrame, letteringGroup, type LetterLook } from './lettering-group';
import { readProject, writeProject } from './read';
import { emptyDocument, type CheminDocument, type GroupNode, type ShapeNode } from './types';
import { planeFrame, worldFromPlane, type Plane } from '../projection/planes';
import { ellipseOutline } from '../shape/forms';
import { carryAll } from './copy';
import { readable } from './readable';
import { shapesIn } from './tree';

const cells = (text: string, more: Partial<CellLettering> = {}): CellLettering => ({ kind: 'cells', text, stem: 1, width: 5, height: 7, corner: 'square', letter: 0, line: 10, align: 'left', ...more }); // prettier-ignore
const LOOK: LetterLook = { depth: 2, paint: { fill: '#336699', line: null } };
const head = (id: string): Pick<GroupNode, 'id' | 'name' | 'hidden' | 'locked'> => ({ id, name: id, hidden: false, locked: false });
const RIGHT: Plane = { kind: 'right', offset: 0 };
const LEFT: Plane = { kind: 'left', offset: 0 };

function make(text: string, plane = RIGHT, before: GroupNode | null = null): GroupNode {
  const lettering = cells(text);
  return letteringGroup(head('t'), lettering, layCells(lettering), (before && frameOfLettering(before)) ?? letterFrame(plane, { u: 3, v: 2 }), LOOK, before);
}

const documentWith = (group: GroupNode): CheminDocument => applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [group], artworks: [] });
const groupIn = (document: CheminDocument): GroupNode => document.nodes[0] as GroupNode;
const shapeAt = (group: GroupNode, i: number): ShapeNode => group.children[i] as ShapeNode;

describe('a lettering', () => {
  it('has a shape for each letter, read to the right on every plane', () => {
    const text = make('QUAY 9');
    expect(text.children.map(({ name, id }) => [name, id])).toEqual([['Q', 't.0'], ['U', 't.1'], ['A', 't.2'], ['Y', 't.3'], ['9', 't.4']]); // prettier-ignore
    expect(letterFrame(RIGHT, { u: 0, v: 0 })).toMatchObject({ x: { u: 1, v: 0 }, y: { u: 0, v: 1 } });
    // b runs to the left.
    expect(letterFrame(LEFT, { u: 0, v: 0 })).toMatchObject({ x: { u: -1, v: 0 }, y: { u: 0, v: 1 } });
    expect(letterFrame({ kind: 'floor', offset: 0 }, { u: 0, v: 0 })).toMatchObject({ x: { u: 1, v: 0 }, y: { u: 0, v: 1 } });
    expect(make('Ä').children[0]).toMatchObject({ kind: 'group', name: 'Ä', children: [{ id: 't.0.0' }, { id: 't.0.1' }, { id: 't.0.2' }] });
  });

  it('is found again wherever it was moved, and written anew there', () => {
    for (const plane of [RIGHT, LEFT]) {
      let document = documentWith(make('QUAY', plane));
      expect(frameOfLettering(groupIn(document))).toEqual(letterFrame(plane, { u: 3, v: 2 }));
      document = applyEdit(document, { kind: 'move', ids: ['t'], by: { a: 2, b: 5, h: 1 } });
      const there = frameOfLettering(groupIn(document))!;
      const moved = make('QUAYS', plane, groupIn(document));
      expect(there.plane.kind).toBe(plane.kind);
      expect(shapeAt(moved, 0).outline).toEqual(shapeAt(groupIn(document), 0).outline);
      expect(moved.children).toHaveLength(5);
    }
  });

  it('lets single letters be painted and moved without ceasing to be text', () => {
    let document = documentWith(make('QUAY'));
    document = applyEdit(document, { kind: 'paint', ids: ['t.1'], paint: { fill: '#aa0000', line: null } });
    document = applyEdit(document, { kind: 'move', ids: ['t.3'], by: { a: 0, b: 0, h: 3 } });
    const again = make('QUAY 9', RIGHT, groupIn(document));
    expect(shapeAt(again, 1).paint.fill).toBe('#aa0000');
    expect(shapeAt(again, 3).outline).toEqual(shapeAt(groupIn(document), 3).outline);
    expect(shapeAt(again, 4).paint.fill).toBe('#336699');
    // It is the first letter that was moved where all others stayed.
    document = applyEdit(document, { kind: 'move', ids: ['t.0'], by: { a: 0, b: 0, h: -2 } });
    expect(frameOfLettering(groupIn(document))!.origin).toEqual({ u: 3, v: 2 });
    // A letter put before the others leaves them their paint.
    expect(shapeAt(make('XQUAY', RIGHT, groupIn(document)), 2).paint.fill).toBe('#aa0000');
  });

  it('is still text after saving and loading, and counted anew with another cell', () => {
    const document = documentWith(make('QUAY\n9'));
    const read = readProject(writeProject(document));
    if (!read.ok) throw new Error('not read');
    expect(groupIn(read.value).lettering).toEqual(groupIn(document).lettering);
    const counted = applyEdit(document, { kind: 'recount', cell: 4 });
    expect(groupIn(counted).lettering).toMatchObject({ stem: 2, width: 10, height: 14, line: 20 });
    expect(frameOfLettering(groupIn(counted))!.origin).toEqual({ u: 6, v: 4 });
  });

  describe('around a round side', () => {
    const drum = surfaceNamed(bodyOf({ kind: 'shape', id: 'd', plane: { kind: 'floor', offset: 0 }, outline: ellipseOutline({ u: 3, v: 2 }, { u: 10, v: 10 }), depth: 8 }), 'side:1')!.form as Ruled; // prettier-ignore
    const start = roundStart(drum, 0.3, 0.5);
    if (start?.kind !== 'round') throw new Error('no line around');
    const { round } = start;
    const write = (text: string, around = round, before: GroupNode | null = null): GroupNode => {
      const lettering = cells(text, { around });
      return letteringGroup(
        head('t'),
        lettering,
        layCells(lettering),
        (before && frameOfLettering(before)) ?? letterFrame(RIGHT, { u: 0, v: 0 }),
        LOOK,
        before,
      );
    };
    const around = (group: GroupNode): NonNullable<typeof round> => group.lettering!.around!;
    /** How far from the drum's axis the middle of each letter's back is, and whether it faces away from it. */
    const stands = (group: GroupNode, at = { a: 3, b: 2 }): [number, boolean][] =>
      shapesIn(group.children).map(({ plane, start: from = 0, depth }) => {
        const { origin, normal } = planeFrame(plane, 1)!;
        const out = { a: origin.a - at.a, b: origin.b - at.b, h: 0 };
        return [Math.hypot(out.a, out.b), dotWorld(out, normal) * depth > 0 && from * depth < 0];
      });

    it('has letters that stand out of it, and moves with them', () => {
      const document = documentWith(write('QUAY'));
      expect(stands(groupIn(document)).every(([far, out]) => Math.abs(far - 10) < 1e-3 && out)).toBe(true);
      const moved = groupIn(applyEdit(document, { kind: 'move', ids: ['t'], by: { a: 2, b: 5, h: 1 } }));
      const again = write('QUAYS', around(moved), moved);
      expect(shapeAt(again, 0).plane).toEqual(shapeAt(moved, 0).plane);
      expect(stands(again, { a: 5, b: 7 }).every(([far, out]) => Math.abs(far - 10) < 1e-3 && out)).toBe(true);
    });

    it('keeps a letter that was moved where it is when the text changes', () => {
      const document = applyEdit(documentWith(write('QUAY')), { kind: 'move', ids: ['t.2'], by: { a: 0, b: 0, h: 1 } });
      const before = groupIn(document);
      const again = write('QUAYS', around(before), before);
      const world = (shape: ShapeNode): unknown => shape.outline.points.map((p) => Object.values(worldFromPlane(planeFrame(shape.plane, 1)!, p)).map((n) => Number(n.toFixed(3)))); // prettier-ignore
      expect(world(shapeAt(again, 2))).toEqual(world(shapeAt(before, 2)));
      expect(world(shapeAt(again, 1))).toEqual(world(shapeAt(before, 1)));
    });

    it('reads rightly after a mirror, over the same stretch', () => {
      const [mirrored] = carryAll([write('QUAY')], { axes: ['b', 'a', 'h'], by: { a: 0, b: 0, h: 0 } }, () => undefined).map(readable);
      const group = mirrored as GroupNode;
      expect(stands(group, { a: 2, b: 3 }).every(([far, out]) => Math.abs(far - 10) < 1e-3 && out)).toBe(true);
      expect(around(group).mirrored).toBeUndefined();
      const right = shapeAt(group, 0).plane.stance!.u;
      const [first, last] = [shapeAt(group, 0), shapeAt(group, 1)].map(({ plane }) => planeFrame(plane, 1)!.origin);
      expect(dotWorld(subtractWorld(last!, first!), right)).toBeGreaterThan(0);
      // Written anew, it stands where it was.
      const again = write('QUAY', around(group), group);
      expect(again.children.map((child) => (child as ShapeNode).plane.stance!.at)).toEqual(
        group.children.map((child) => (child as ShapeNode).plane.stance!.at),
      );
    });

    it('is still text after saving and loading, and counted anew with another cell', () => {
      const document = documentWith(write('QUAY\n9'));
      const read = readProject(writeProject(document));
      if (!read.ok) throw new Error('not read');
      expect(groupIn(read.value)).toEqual(groupIn(document));
      const counted = groupIn(applyEdit(document, { kind: 'recount', cell: 4 }));
      const again = letteringGroup(head('t'), counted.lettering!, layCells(counted.lettering as CellLettering), frameOfLettering(counted)!, LOOK, counted);
      expect(stands(again, { a: 6, b: 4 }).every(([far]) => Math.abs(far - 20) < 2e-3)).toBe(true);
    });
  });

  it('is not found where its first letter was drawn over', () => {
    const document = documentWith(make('QUAY'));
    const { outline } = shapeAt(groupIn(document), 0);
    const points = outline.points.map((p, i) => (i === 0 ? { ...p, u: p.u - 1 } : p));
    expect(frameOfLettering(groupIn(applyEdit(document, { kind: 'outline', id: 't.0', outline: { ...outline, points } })))).toBeNull();
  });
});
