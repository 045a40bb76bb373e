import { projectionFrom, sheetFromWorld } from '../projection/projection';
import { FAMILIES } from '../projection/families';
import { rectangleOutline } from '../shape/outline';
import { startedDocument, subjectOf } from '../picture/subject';
import { PictureMaker } from '../picture/picture';
import { roomOf } from '../projection/framing';
import { applyEdit } from './edits';
import { documentFault } from './gate';
import { resizedSheet } from './resize';
import { emptyDocument, type CheminDocument, type ShapeNode } from './types';

const onSheet: ShapeNode = {
  kind: 'shape',
  id: 's',
  name: 's',
  hidden: false,
  locked: false,
  plane: { kind: 'sheet', offset: 0 },
  outline: rectangleOutline({ u: 1, v: 1 }, { u: 3, v: 2 }),
  depth: 0,
  paint: { fill: '#000000', line: null },
};

describe('another size of sheet', () => {
  it.each(FAMILIES.map((family) => family.key))('keeps what is drawn where it was from the middle: %s', (family) => {
    const before: CheminDocument = {
      ...startedDocument('d', 'd', emptyDocument('', '').sheet, family),
      nodes: [onSheet],
      strokes: [{ id: 't', from: { x: 1, y: 2 }, to: { x: 3, y: 4 }, axis: 'a' }],
    };
    const after = applyEdit(before, resizedSheet(before, { ...before.sheet, width: 380, height: 160 }));
    const at = (d: CheminDocument): { x: number; y: number } => {
      const p = sheetFromWorld(projectionFrom(d.projection), { a: 20, b: 30, h: 10 })!;
      return { x: p.x - d.sheet.width / 2, y: p.y - d.sheet.height / 2 };
    };
    expect(at(after).x).toBeCloseTo(at(before).x, 9);
    expect(at(after).y).toBeCloseTo(at(before).y, 9);
    // 40 mm to the right and 20 mm up: 5 cells and 2.5.
    expect((after.nodes[0] as ShapeNode).outline.points[0]).toMatchObject({ u: 6, v: -1.5 });
    expect(after.strokes[0]!.from).toEqual({ x: 41, y: -18 });
    expect(documentFault(after)).toBeNull();
  });

  it('is one plain edit where the size stays', () => {
    const document = emptyDocument('d', 'd');
    expect(resizedSheet(document, { ...document.sheet, scale: 20 })).toEqual({ kind: 'sheet', sheet: { ...document.sheet, scale: 20 } });
  });
});

describe('a started drawing', () => {
  const usual = emptyDocument('', '').sheet;

  it.each(FAMILIES.map((family) => family.key))('shows the first cells on the sheet: %s', (family) => {
    for (const sheet of [usual, { ...usual, width: 508, height: 285.75, unit: 'px' as const, resolution: 96 }]) {
      const document = startedDocument('d', 'd', sheet, family);
      expect(documentFault(document)).toBeNull();
      const room = roomOf(projectionFrom(document.projection), subjectOf(document, new PictureMaker().stageOf(document)))!;
      expect(room.middle.x).toBeGreaterThan(0.2 * sheet.width);
      expect(room.middle.x).toBeLessThan(0.8 * sheet.width);
      expect(room.middle.y).toBeGreaterThan(0.1 * sheet.height);
      expect(room.middle.y).toBeLessThan(0.9 * sheet.height);
    }
  });

  it('has cells of whole px on a sheet in px', () => {
    const { grid } = startedDocument('d', 'd', { ...usual, unit: 'px', resolution: 96 }, 'isometric');
    expect((grid.cell * 96) / 25.4).toBeCloseTo(20, 9);
  });
});
