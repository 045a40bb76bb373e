import fc from 'fast-check';
import { landing } from '@demo';
import { gridOf } from '../grid/settings';
import { FAMILIES } from '../projection/families';
import { frameFamily } from '../projection/framing';
import { PictureMaker } from '../picture/picture';
import { drawnPoints, pointsOutside, subjectOf, subjectRoom } from '../picture/subject';
import { isometricSetup } from '../projection/setup';
import { applyEdit, editSchema, type Edit } from './edits';
import { editFromVersion1 } from './migrations';
import { checkDocument, readSetup, writeProject, writeSetup } from './read';
import { recounted, recountsExactly } from './recount';
import { DOCUMENT_VERSION, emptyDocument, type Bitmap, type CheminDocument, type Reference } from './types';

const bitmap: Bitmap = { id: 'b1', type: 'image/png', width: 4, height: 3, asset: 'a'.repeat(64) };
const reference: Reference = {
  id: 'r1',
  name: 'quay',
  bitmap: 'b1',
  x: 0,
  y: 0,
  width: 80,
  height: 60,
  strength: 0.7,
  over: false,
  hidden: false,
  locked: true,
};

describe('changing the projection under a drawing', () => {
  it('leaves every size and every counted coordinate as it was, through all families', () => {
    let document: CheminDocument = landing();
    const before = JSON.stringify(document.nodes);
    const lengths = (d: CheminDocument): string => JSON.stringify(drawnPoints(d, new PictureMaker().stageOf(d)).map(({ a, b, h }) => [a, b, h]).sort()); // prettier-ignore
    const true0 = lengths(document);
    for (const { key } of FAMILIES) {
      const subject = subjectOf(document, new PictureMaker().stageOf(document));
      const edit: Edit = { kind: 'projection', projection: frameFamily(key, subject, subjectRoom(document, subject)) };
      expect(editSchema.safeParse(edit).success).toBe(true);
      document = applyEdit(document, edit);
      expect(JSON.stringify(document.nodes) === before).toBe(true);
      expect(lengths(document) === true0).toBe(true);
      const picture = new PictureMaker().make(document);
      expect(picture.marks.length).toBeGreaterThan(20);
      expect(/null,null|NaN/.test(JSON.stringify(picture.marks))).toBe(false);
      expect(checkDocument(JSON.parse(writeProject(document))).ok).toBe(true);
    }
  });

  it('counts what lies outside a circle of the sheet', () => {
    const document = landing();
    const stage = new PictureMaker().stageOf(document);
    const points = drawnPoints(document, stage);
    expect(pointsOutside(stage.sight.projection, points, { x: 148, y: 110 }, 1000)).toBe(0);
    expect(pointsOutside(stage.sight.projection, points, { x: 148, y: 110 }, 1)).toBe(points.length);
    const empty = emptyDocument('e', 'e');
    expect(subjectOf(empty, new PictureMaker().stageOf(empty)).max).toEqual({ a: 64, b: 64, h: 64 });
  });
});

describe('another cell', () => {
  it('keeps sizes and changes counts, exactly where the ratio is one of small numbers', () => {
    const document = landing();
    const half = applyEdit(document, { kind: 'recount', cell: 3 });
    expect(recountsExactly(document, 3)).toBe(true);
    // Round things are left out: how finely they are cut depends on the cell, where they lie does not.
    const straight = (d: CheminDocument): CheminDocument => ({ ...d, nodes: d.nodes.filter((node) => !/^(bollard|lamp|gangway)/.test(node.name)) });
    const points = (d: CheminDocument): unknown[] =>
      drawnPoints(straight(d), new PictureMaker().stageOf(d)).map(({ a, b, h }) => [a, b, h].map((x) => Math.round(x * 1e6)));
    expect(points(half)).toEqual(points(document));
    expect(applyEdit(half, { kind: 'recount', cell: 6 }).nodes).toEqual(document.nodes);
    expect(recountsExactly(document, 6.1234567)).toBe(false);
    const bounded = { ...document, grid: { ...document.grid, extents: { floor: { minU: 0, maxU: 8, minV: 0, maxV: 4 }, left: null, right: null } } };
    expect(recounted(bounded, 12).grid.extents.floor).toEqual({ minU: 0, maxU: 4, minV: 0, maxV: 2 });
  });

  it('comes back after any such change and its opposite', () => {
    fc.assert(
      fc.property(fc.constantFrom(1, 2, 3, 4, 5, 6), fc.constantFrom(1, 2, 3, 5), (p, q) => {
        const document = landing();
        const cell = (document.grid.cell * p) / q;
        if (recountsExactly(document, cell)) expect(recounted(recounted(document, cell), 6).nodes).toEqual(document.nodes);
      }),
      { seed: 2, numRuns: 24 },
    );
  });
});

describe('what a document holds besides things', () => {
  it('is sheet, set-up, strokes, and references with their bitmaps', () => {
    let document = emptyDocument('d', 'd');
    document = applyEdit(document, { kind: 'add-reference', reference, bitmap });
    document = applyEdit(document, { kind: 'add-reference', reference: { ...reference, id: 'r2' }, bitmap });
    expect(document.bitmaps).toHaveLength(1);
    document = applyEdit(document, { kind: 'reference', reference: { ...reference, strength: 0.2 } });
    expect(document.references[0]!.strength).toBe(0.2);
    expect(checkDocument(JSON.parse(writeProject(document))).ok).toBe(true);
    document = applyEdit(applyEdit(document, { kind: 'delete-reference', id: 'r1' }), { kind: 'delete-reference', id: 'r2' });
    expect(document.bitmaps).toEqual([]);
    const stroke = { id: 's', from: { x: 0, y: 0 }, to: { x: 5, y: 5 }, axis: 'a' } as const;
    expect(applyEdit(document, { kind: 'strokes', strokes: [stroke] }).strokes).toEqual([stroke]);
    expect(applyEdit(document, { kind: 'sheet', sheet: { ...document.sheet, unit: 'px' } }).sheet.width).toBe(300);
    const used = applyEdit(document, { kind: 'setup', projection: isometricSetup({ x: 1, y: 2 }, 'true'), grid: gridOf(5) });
    expect([used.grid.cell, used.projection]).toEqual([5, isometricSetup({ x: 1, y: 2 }, 'true')]);
  });

  it('is refused where a reference has no bitmap or a bitmap names no asset', () => {
    const document = { ...emptyDocument('d', 'd'), references: [reference] };
    const checked = checkDocument(document);
    expect(checked.ok ? [] : checked.problems.map((p) => p.message)).toEqual(['references[0].bitmap: there is no bitmap “b1”']);
    const wrong = checkDocument({ ...document, bitmaps: [{ ...bitmap, asset: '<svg onload>' }] });
    expect(wrong.ok ? [] : wrong.problems.map((p) => p.path)).toEqual(['bitmaps[0].asset']);
  });
});

describe('files of format 1', () => {
  const old = {
    format: 'chemin',
    version: 1,
    id: 'x',
    name: 'old',
    sheet: { width: 300, height: 200, unit: 'mm', background: '#ffffff' },
    projection: { family: 'isometric', measure: 'true', origin: { x: 10, y: 20 } },
    grid: { cell: 7, bold: 4 },
    light: emptyDocument('d', 'd').light,
    artworks: [],
    nodes: [],
  };

  it('are brought up to the present one', () => {
    const checked = checkDocument(old);
    expect(checked.ok && checked.value).toMatchObject({
      version: DOCUMENT_VERSION,
      projection: isometricSetup({ x: 10, y: 20 }, 'true'),
      grid: { ...gridOf(7), bold: 4 },
      sheet: { resolution: 300, scale: 1 },
      references: [],
    });
    expect(checkDocument({ ...old, projection: { family: 'odd' } }).ok).toBe(false);
    expect(checkDocument({ ...old, grid: 3, sheet: null }).ok).toBe(false);
  });

  it('have edits that are brought up too', () => {
    for (const edit of [
      { kind: 'projection', projection: old.projection },
      { kind: 'grid', grid: old.grid },
      { kind: 'title', name: 't' },
    ]) expect(editSchema.safeParse(editFromVersion1(edit)).success).toBe(true); // prettier-ignore
    expect(editFromVersion1(null)).toBeNull();
  });
});

describe('set-ups as files', () => {
  it('go out and come in, and are refused with their place where they are none', () => {
    const setup = { name: 'class', projection: isometricSetup({ x: 1, y: 2 }), grid: gridOf(10) };
    const text = writeSetup(setup);
    expect(readSetup(text)).toEqual({ ok: true, value: setup, notes: [] });
    const first = (t: string): string => {
      const read = readSetup(t);
      return read.ok ? '' : read.problems[0]!.message;
    };
    expect(first(text.slice(0, -8))).toContain('cut short');
    expect(first('{"format":"chemin"}')).toContain('not a set-up');
    expect(first(text.replace(`"version": ${DOCUMENT_VERSION}`, '"version": 9'))).toContain('later Chemin (format 9');
    expect(first(text.replace('"cell": 10', '"cell": -1'))).toContain('grid.cell');
    expect(first('x'.repeat(100_001))).toContain('larger');
  });
});
