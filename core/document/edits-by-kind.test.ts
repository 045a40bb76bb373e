import { CoreError } from '../math/errors';
import { sameData } from '../math/same';
import { handedSheet } from '../output/handed';
import { inGroups, trimmedSheet } from '../output/in-groups';
import { pdfFromSheet } from '../output/paint-pdf';
import { svgFromSheet } from '../output/paint-svg';
import type { Paint } from '../paint/paint';
import { faceTarget, faceUnder } from '../picture/seen-face';
import { PictureMaker, type Picture } from '../picture/picture';
import { settled } from '../picture/settled';
import { parallelSetup } from '../projection/families';
import { projectionFrom, sheetFromWorld } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import { rectangleOutline } from '../shape/outline';
import { chosenOf, drawingOf, KINDS } from '../testing/kinds';
import { joinInTests } from '../testing/kernel';
import { badNumbers } from '../testing/random';
import { copyNodes } from './copy';
import { describeEdit } from './describe-edit';
import { applyEdit, editSchema, type Edit } from './edits';
import { commitEdit, goToStep, presentDocument, startHistory } from './history';
import { partOf, pastePart, readPart } from './part';
import { checkDocument, readProject, writeProject } from './read';
import { findNode, flattenTree, idsWithin } from './tree';
import type { CheminDocument, DocumentNode, ShapeNode } from './types';

/** A drawing with its picture, and the thing in it that something is done to, while it is there. */
interface Scene {
  readonly document: CheminDocument;
  readonly picture: Picture;
}

interface Act {
  /** The edit of a thing of a drawing. */
  readonly edit: (node: DocumentNode, document: CheminDocument) => Edit;
  /** The kinds that it can be done to; others are refused, and named. Every kind without. */
  readonly to?: DocumentNode['kind'];
  /** What it does to nothing of a kind, in words. */
  readonly idle?: (node: DocumentNode) => string | null;
  /** What must be true besides what must be of every drawing. */
  readonly then: (now: Scene, was: Scene, node: DocumentNode) => void;
}

/** What is done to a drawing whatever is in it. */
interface WholeAct {
  readonly whole: (document: CheminDocument) => Edit;
  readonly then: (now: Scene, was: Scene) => void;
}

const RED: Paint = { fill: '#cc2233', line: null };
const BY = { a: 1, b: 2, h: 1 };
const OUTLINE = rectangleOutline({ u: 1, v: 1 }, { u: 3, v: 4 });
const EXTRA: ShapeNode = { kind: 'shape', id: 'extra', name: 'extra', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: -9, v: -9 }, { u: -7, v: -8 }), depth: 2, paint: RED }; // prettier-ignore
const BITMAP = { id: 'seen', type: 'image/png', width: 4, height: 3, asset: 'c'.repeat(64) } as const;
const REFERENCE = { id: 'further', name: 'further', bitmap: 'seen', x: 0, y: 0, width: 40, height: 30, strength: 1, over: false, hidden: false, locked: false };

const thing = <T extends DocumentNode = DocumentNode>({ document }: Scene, { id }: DocumentNode): T => findNode(document, id) as T;
const shapesIn = (node: DocumentNode): readonly ShapeNode[] => flattenTree([node]).flatMap(({ node: one }) => (one.kind === 'shape' ? [one] : []));
/** What is seen of a thing, of what it holds, and of what lies on those. */
function partsOf({ picture, document }: Scene, node: DocumentNode): readonly (readonly number[])[] {
  const ids = new Set(idsWithin(findNode(document, node.id) ?? node));
  return picture.visible.filter((part) => ids.has(part.node) || ids.has(part.drawn.owner)).map(({ polygon }) => Array.from(polygon));
}
const alone = ({ document }: Scene): boolean => document.nodes.length === 1;
const same = (key: keyof CheminDocument, of: (edit: Edit) => unknown, edit: Edit): WholeAct => ({
  whole: () => edit,
  then: (now) => expect(now.document[key]).toEqual(of(edit)),
});
const isPlaced = (node: DocumentNode): string | null => (node.kind === 'placement' && node.target.kind === 'face' ? 'it stays on its face, and is moved there as artwork is' : null); // prettier-ignore
const hasNoPaint = (node: DocumentNode): string | null => (shapesIn(node).length > 0 ? null : 'there is no paint of its own');
const repainted: Act['then'] = (now, _, node) => expect(shapesIn(thing(now, node)).map(({ paint }) => paint)).toEqual(shapesIn(node).map(() => RED));

/** Drawings in another family of projections. */
const seenAs = (family: 'dimetric' | 'trimetric'): ProjectionSetup => parallelSetup(family, { x: 140, y: 120 })!;

/** The edits of the drawing itself, whatever is in it. */
type WholeEdit = 'light' | 'projection' | 'grid' | 'recount' | 'setup' | 'sheet' | 'swatches' | 'add-reference' | 'reference' | 'delete-reference' | 'strokes' | 'photos' | 'guides' | 'trial' | 'title' | 'artworks' | 'net' | 'delete-artworks' | 'flat'; // prettier-ignore

/** Every other kind of edit. */
const ON_THINGS: Readonly<Record<Exclude<Edit['kind'], WholeEdit>, Act>> = {
  add: {
    edit: ({ id }) => ({ kind: 'add', nodes: [EXTRA], artworks: [], before: id }),
    then: (now, was) => {
      expect(flattenTree(now.document.nodes)).toHaveLength(flattenTree(was.document.nodes).length + 1);
      expect(partsOf(now, EXTRA).length).toBeGreaterThan(0);
    },
  },
  delete: {
    edit: ({ id }) => ({ kind: 'delete', ids: [id] }),
    then: (now, was, node) => {
      const left = flattenTree(now.document.nodes).map(({ node: one }) => one);
      expect(left.filter(({ id }) => idsWithin(node).includes(id))).toEqual([]);
      // What showed it is a thing of its own, and what lay on it is gone with it.
      for (const one of left) {
        if (one.kind === 'copy') expect(findNode(now.document, one.of)).toBeTruthy();
        if (one.kind === 'placement' && one.target.kind === 'face') expect(findNode(now.document, one.target.node)).toBeTruthy();
      }
      const copies = flattenTree(was.document.nodes).filter(({ node: one }) => one.kind === 'copy' && one.of === node.id);
      for (const { node: copy } of copies) expect(partsOf(now, copy).length).toBeGreaterThan(0);
    },
  },
  move: {
    edit: ({ id }) => ({ kind: 'move', ids: [id], by: BY }),
    idle: isPlaced,
    then: (now, was, node) => {
      if (!alone(was) || node.kind === 'placement') return;
      const onSheet = node.kind === 'shape' && node.plane.kind === 'sheet';
      const { projection, grid } = was.document;
      const [from, to] = [{ a: 0, b: 0, h: 0 }, BY].map((at) => sheetFromWorld(projectionFrom(projection), at)!);
      const step = onSheet ? { x: BY.a * grid.cell, y: BY.b * grid.cell } : { x: (to!.x - from!.x) * grid.cell, y: (to!.y - from!.y) * grid.cell };
      const [before, after] = [partsOf(was, node), partsOf(now, node)];
      expect(after).toHaveLength(before.length);
      for (const [i, polygon] of before.entries())
        for (const [j, x] of polygon.entries()) expect(after[i]![j]! - x).toBeCloseTo(j % 2 === 0 ? step.x : step.y, 6);
    },
  },
  outline: {
    edit: ({ id }) => ({ kind: 'outline', id, outline: OUTLINE }),
    to: 'shape',
    then: (now, _, node) => expect(thing<ShapeNode>(now, node).outline).toEqual(OUTLINE),
  },
  lay: {
    edit: ({ id }) => ({ kind: 'lay', items: [{ id, plane: { kind: 'right', offset: 3 }, outline: OUTLINE, paint: RED }] }),
    to: 'shape',
    then: (now, _, node) => expect(thing(now, node)).toMatchObject({ plane: { kind: 'right', offset: 3 }, outline: OUTLINE, paint: RED }),
  },
  depth: {
    edit: ({ id }) => ({ kind: 'depth', id, depth: 3 }),
    to: 'shape',
    then: (now, _, node) => expect(thing<ShapeNode>(now, node).depth).toBe(3),
  },
  plane: {
    edit: ({ id }) => ({ kind: 'plane', id, plane: { kind: 'left', offset: 2 } }),
    to: 'shape',
    then: (now, _, node) => expect(thing<ShapeNode>(now, node).plane).toEqual({ kind: 'left', offset: 2 }),
  },
  replace: {
    edit: ({ id }) => ({ kind: 'replace', ids: [id], nodes: [EXTRA] }),
    then: (now, _, node) => expect([findNode(now.document, node.id), findNode(now.document, 'extra')]).toEqual([null, EXTRA]),
  },
  change: {
    edit: (node) => ({ kind: 'change', nodes: [{ ...node, tint: { colour: '#4488cc', strength: 0.5 } } as never] }),
    then: (now, _, node) => expect(thing(now, node).tint).toEqual({ colour: '#4488cc', strength: 0.5 }),
  },
  arrange: {
    edit: ({ id }) => ({ kind: 'arrange', ids: [id], parent: null, before: null }),
    then: (now, _, node) => expect(now.document.nodes.at(-1)!.id).toBe(node.id),
  },
  paint: { edit: ({ id }) => ({ kind: 'paint', ids: [id], paint: RED }), idle: hasNoPaint, then: repainted },
  paints: { edit: ({ id }) => ({ kind: 'paints', items: [{ id, paint: RED }] }), idle: hasNoPaint, then: repainted },
  name: { edit: ({ id }) => ({ kind: 'name', id, name: 'another' }), then: (now, _, node) => expect(thing(now, node).name).toBe('another') },
  hide: {
    edit: ({ id, hidden }) => ({ kind: 'hide', ids: [id], hidden: !hidden }),
    then: (now, was, node) => expect(partsOf(node.hidden ? was : now, node)).toEqual([]),
  },
  lock: {
    edit: ({ id, locked }) => ({ kind: 'lock', ids: [id], locked: !locked }),
    then: (now, _, node) => expect(thing(now, node).locked).toBe(!node.locked),
  },
  group: {
    edit: ({ id }) => ({ kind: 'group', ids: [id], id: 'all', name: 'all' }),
    then: (now, _, node) => {
      const group = flattenTree(now.document.nodes).find(({ node: one }) => one.id === 'all');
      expect(group?.node.kind === 'group' ? group.node.children.map(({ id }) => id) : []).toEqual([node.id]);
    },
  },
  ungroup: {
    edit: ({ id }) => ({ kind: 'ungroup', id }),
    to: 'group',
    then: (now, _, node) => {
      expect(findNode(now.document, node.id)).toBeNull();
      for (const { id } of node.kind === 'group' ? node.children : []) expect(findNode(now.document, id)).toBeTruthy();
    },
  },
  place: {
    edit: ({ id }) => ({ kind: 'place', id, target: { kind: 'plane', plane: { kind: 'right', offset: 1 } }, anchor: { at: { a: 0, b: 1, h: 4 }, width: 3, height: 2 }, overhangs: true }), // prettier-ignore
    to: 'placement',
    then: (now, _, node) => {
      expect(thing(now, node)).toMatchObject({ target: { kind: 'plane' }, overhangs: true });
      expect(partsOf(now, node).length).toBeGreaterThan(0);
    },
  },
  dimension: {
    edit: ({ id }) => ({
      kind: 'dimension',
      id,
      plane: { kind: 'floor', offset: 1 },
      from: { u: 0, v: 0 },
      to: { u: 3, v: 4 },
      along: 'line',
      apart: 1,
      colour: '#333333',
    }),
    to: 'dimension',
    then: (now, _, node) => expect(thing(now, node)).toMatchObject({ to: { u: 3, v: 4 } }),
  },
  all: {
    edit: ({ id }) => ({ kind: 'all', edits: [{ kind: 'group', ids: [id], id: 'all', name: 'all' }, { kind: 'move', ids: ['all'], by: BY }] }), // prettier-ignore
    then: (now, _, node) => expect(findNode(now.document, 'all')).toMatchObject({ children: [{ id: node.id }] }),
  },
};

const ON_WHOLE: Readonly<Record<WholeEdit, WholeAct>> = {
  light: same('light', (edit) => (edit as { light: unknown }).light, { kind: 'light', light: { ...drawingOf('box').light, shadows: { on: true, floor: 0 } } }), // prettier-ignore
  projection: same('projection', (edit) => (edit as { projection: unknown }).projection, { kind: 'projection', projection: seenAs('dimetric') }), // prettier-ignore
  grid: same('grid', (edit) => (edit as { grid: unknown }).grid, { kind: 'grid', grid: { ...drawingOf('box').grid, cell: 5 } }),
  recount: {
    whole: ({ grid }) => ({ kind: 'recount', cell: grid.cell / 2 }),
    then: (now, was) => {
      // True sizes are kept: the same things are seen at the same places.
      expect(now.picture.visible).toHaveLength(was.picture.visible.length);
      for (const [i, { polygon }] of was.picture.visible.entries())
        for (const [j, x] of Array.from(polygon).entries()) expect(now.picture.visible[i]!.polygon[j]).toBeCloseTo(x, 6);
    },
  },
  setup: {
    whole: ({ grid }) => ({ kind: 'setup', projection: seenAs('trimetric'), grid: { ...grid, cell: 6 } }),
    then: ({ document }) => expect(document.grid.cell).toBe(6),
  },
  sheet: same('sheet', (edit) => (edit as { sheet: unknown }).sheet, { kind: 'sheet', sheet: { ...drawingOf('box').sheet, width: 210, height: 297, unit: 'px' } }), // prettier-ignore
  swatches: same('swatches', (edit) => (edit as { swatches: unknown }).swatches, { kind: 'swatches', swatches: [{ id: 'sea', name: 'sea', colour: '#1b6c8c' }] }), // prettier-ignore
  'add-reference': {
    whole: () => ({ kind: 'add-reference', reference: REFERENCE, bitmap: BITMAP }),
    then: (now, was) => expect(now.document.references).toEqual([...was.document.references, REFERENCE]),
  },
  reference: {
    whole: ({ references: [one] }) => ({ kind: 'reference', reference: { ...(one ?? REFERENCE), name: 'renamed' } }),
    then: ({ document }, was) => expect(document.references.map(({ name }) => name)).toEqual(was.document.references.map(() => 'renamed')),
  },
  'delete-reference': {
    whole: ({ references: [one] }) => ({ kind: 'delete-reference', id: one?.id ?? 'further' }),
    then: ({ document }) => expect([document.references, document.bitmaps.some(({ id }) => id === 'picture')]).toEqual([[], false]),
  },
  strokes: same('strokes', (edit) => (edit as { strokes: unknown }).strokes, { kind: 'strokes', strokes: [{ id: 's', from: { x: 1, y: 1 }, to: { x: 40, y: 20 }, axis: 'a' }] }), // prettier-ignore
  photos: {
    whole: () => ({ kind: 'photos', photos: [] }),
    then: ({ document }) => {
      expect(document.photos ?? []).toEqual([]);
      expect(flattenTree(document.nodes).filter(({ node }) => node.kind === 'placement' && node.target.kind === 'plane' && node.target.photographed)).toEqual(
        [],
      );
    },
  },
  guides: same('guides', (edit) => (edit as { guides: unknown }).guides, { kind: 'guides', guides: [{ id: 'g', name: 'g', plane: { kind: 'left', offset: 0 }, at: { u: 1, v: 1 }, along: 'out', hidden: false, locked: false }] }), // prettier-ignore
  trial: { whole: ({ trial }) => ({ kind: 'trial', trial: trial ? null : { at: BY, size: BY } }), then: (now, was) => expect(now.document.trial === undefined).toBe(was.document.trial !== undefined) }, // prettier-ignore
  title: same('name', (edit) => (edit as { name: unknown }).name, { kind: 'title', name: 'another drawing' }),
  artworks: {
    whole: () => ({ kind: 'artworks', items: [{ id: 'art', name: 'renamed', width: 8, height: 2 }] }),
    // Everything else about it stays.
    then: (now, was) => expect(now.document.artworks).toEqual(was.document.artworks.map((one) => ({ ...one, name: 'renamed', width: 8, height: 2 }))),
  },
  net: {
    whole: ({ artworks: [art] }) => ({ kind: 'net', artwork: { id: 'art', name: 'net', svg: art!.svg, width: 9, height: 3, net: { of: 'thing', tabs: false, lines: [] } }, nodes: [] }), // prettier-ignore
    then: ({ document }, was) => {
      expect(document.artworks[0]).toMatchObject({ width: 9, nodes: was.document.artworks[0]!.nodes, guides: was.document.artworks[0]!.guides });
      expect(JSON.stringify(document.nodes)).not.toContain('"artwork":"art"');
    },
  },
  'delete-artworks': {
    whole: () => ({ kind: 'delete-artworks', ids: ['art'] }),
    then: ({ document }) => expect(flattenTree(document.nodes).filter(({ node }) => node.kind === 'placement')).toEqual([]),
  },
  flat: {
    whole: () => ({ kind: 'flat', artwork: 'art', edit: { kind: 'add', nodes: [{ ...EXTRA, plane: { kind: 'sheet', offset: 0 }, depth: 0, outline: rectangleOutline({ u: 0, v: 0 }, { u: 0.1, v: 0.1 }) }], artworks: [] } }), // prettier-ignore
    then: ({ document }, was) => {
      expect(document.artworks[0]!.nodes?.map(({ id }) => id)).toEqual([...(was.document.artworks[0]!.nodes ?? []).map(({ id }) => id), 'extra']);
      expect(document.nodes).toEqual(was.document.nodes);
    },
  },
};

type Sort = 'works' | 'is refused, the thing named' | 'makes no sense';
const counts = new Map<Sort, number>();
const senseless = new Map<string, number>();
const count = (sort: Sort, words?: string): void => {
  counts.set(sort, (counts.get(sort) ?? 0) + 1);
  if (words !== undefined) senseless.set(words, (senseless.get(words) ?? 0) + 1);
};

const maker = new PictureMaker();

/** The drawing with its picture once all that is joined is so. */
async function sceneOf(document: CheminDocument): Promise<Scene> {
  expect(await settled(document)).toEqual([]);
  return { document, picture: maker.make(document) };
}

const svgOf = ({ document, picture }: Scene): string =>
  svgFromSheet(handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true }), 'svg');

/** What must be true of every drawing that an edit has made of another. */
function holds(scene: Scene, was: Scene, edit: Edit): void {
  const read = checkDocument(JSON.parse(JSON.stringify(scene.document)));
  expect(read.ok ? [] : read.problems).toEqual([]);
  expect(editSchema.safeParse(JSON.parse(JSON.stringify(edit))).success).toBe(true);
  expect(describeEdit(edit)).toMatch(/\w/);
  expect(badNumbers(scene.picture.marks)).toEqual([]);
  expect([...scene.picture.unjoined]).toEqual([]);
  expect(svgOf(scene)).not.toMatch(/NaN|Infinity|undefined/);
  const history = commitEdit(startHistory(was.document), edit);
  expect(sameData(presentDocument(history), scene.document)).toBe(true);
  expect(presentDocument(goToStep(history, 0))).toBe(was.document);
}

/** A drawing with what an artwork may have besides what came from its file, so that an edit may lose it. */
function richDrawing(kind: string): CheminDocument {
  const document = drawingOf(kind);
  const on: ShapeNode = {
    ...EXTRA,
    id: 'stripe',
    plane: { kind: 'sheet', offset: 0 },
    depth: 0,
    outline: rectangleOutline({ u: 0, v: 0 }, { u: 0.2, v: 0.1 }),
  };
  const guide = { id: 'thirds', name: 'thirds', plane: { kind: 'sheet', offset: 0 }, at: { u: 0.1, v: 0.1 }, along: { u: 1, v: 0 }, hidden: false, locked: false } as const; // prettier-ignore
  return { ...document, artworks: document.artworks.map((one) => ({ ...one, nodes: [on], cell: 5, guides: [guide] })) };
}

beforeAll(joinInTests);
afterAll(() => {
  console.log(
    [`edits by kinds: ${[...counts].map(([sort, n]) => `${n} ${sort}`).join(', ')}`, ...[...senseless].map(([words, n]) => `${n}: ${words}`)].join('\n'),
  );
});

describe.each(Object.keys(KINDS))('on what is %s', (kind) => {
  it.each(Object.entries(ON_WHOLE))('the edit %s does what it says', async (_, act) => {
    const was = await sceneOf(richDrawing(kind));
    const edit = act.whole(was.document);
    const now = await sceneOf(applyEdit(was.document, edit));
    act.then(now, was);
    holds(now, was, edit);
    count('works');
  });

  it.each(Object.entries(ON_THINGS))('the edit %s does what it says, or is refused with a reason', async (_, act) => {
    const was = await sceneOf(richDrawing(kind));
    const id = chosenOf(kind);
    if (id === null) return count('makes no sense', 'it is no thing of the contents');
    const node = findNode(was.document, id)!;
    const edit = act.edit(node, was.document);
    if (act.to && act.to !== node.kind) {
      expect(() => applyEdit(was.document, edit)).toThrow(CoreError);
      expect(() => applyEdit(was.document, edit)).toThrow(new RegExp(`${node.name}.* is a ${node.kind}, not a ${act.to}`));
      return count('is refused, the thing named');
    }
    const now = await sceneOf(applyEdit(was.document, edit));
    const idle = act.idle?.(node) ?? null;
    if (idle !== null) {
      expect(sameData(now.document, was.document)).toBe(true);
      return count('makes no sense', idle);
    }
    act.then(now, was, node);
    holds(now, was, edit);
    count('works');
  });

  it('is saved, handed over, copied, pasted here and elsewhere, and takes artwork that is dropped on it', async () => {
    const was = await sceneOf(richDrawing(kind));
    const { document, picture } = was;
    const again = readProject(writeProject(document), () => 'AAAA');
    expect(again.ok ? sameData(again.value, document) : again.problems).toBe(true);
    const handed = handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true, guides: true });
    const pdf = await pdfFromSheet(handed, { title: 'all', testBar: true, cutMarks: true });
    expect(Buffer.from(pdf.subarray(0, 5)).toString()).toBe('%PDF-');
    count('works');
    const id = chosenOf(kind);
    if (id === null) return count('makes no sense', 'it is no thing of the contents');
    const node = findNode(document, id)!;
    const ids = new Set(idsWithin(node));
    const marks = picture.marks.filter((mark) => mark.node !== null && ids.has(mark.node));
    const { width, height } = trimmedSheet({ sheet: document.sheet, background: false, marks: inGroups(document.nodes, marks) }).sheet;
    expect([width, height].every((size) => size > 0 && Number.isFinite(size))).toBe(true);
    const part = readPart(JSON.stringify(partOf(document, [id])));
    if (!part.ok) throw new Error(part.problems[0]!.message);
    let serial = 0;
    for (const into of [document, { ...drawingOf('box'), nodes: [], artworks: [] }]) {
      const { nodes, artworks, bitmaps } = pastePart(into, part.value, () => `pasted-${serial++}`);
      // What lies on a face that is not there has nowhere to lie, which is said.
      const nowhere = node.kind === 'placement' && node.target.kind === 'face' && into !== document;
      expect([into === document, nodes.length > 0]).toEqual([into === document, !nowhere]);
      if (nowhere) continue;
      const pasted = await sceneOf(applyEdit(into, { kind: 'add', nodes, artworks, ...(bitmaps.length > 0 && { bitmaps }) }));
      const read = checkDocument(JSON.parse(JSON.stringify(pasted.document)));
      expect(read.ok ? [] : read.problems).toEqual([]);
      const [own, more] = [partsOf(was, node), nodes.flatMap((one) => partsOf(pasted, one))];
      if (own.length > 0 && !node.hidden && into !== document) expect(more.length).toBeGreaterThanOrEqual(own.length);
    }
    expect(flattenTree(copyNodes([node], () => `copied-${serial++}`)).every(({ node: one }) => one.id.startsWith('copied'))).toBe(true);
    count('works');
    // In the middle of what is seen of it, artwork comes to lie on the face that is seen there.
    const polygon = partsOf(was, node).at(-1) ?? [];
    const mean = (rest: 0 | 1): number => (2 * polygon.filter((_, i) => i % 2 === rest).reduce((sum, x) => sum + x, 0)) / polygon.length;
    const face = polygon.length > 0 ? faceUnder(picture, { x: mean(0), y: mean(1) }) : null;
    if (!face) return count('makes no sense', 'there is no face of it to be seen');
    const flag: DocumentNode = { kind: 'placement', id: 'flag-2', name: 'flag', hidden: false, locked: false, artwork: 'art', target: faceTarget(face), anchor: { at: { a: 0, b: 0, h: 0 }, width: 30, height: 15 } }; // prettier-ignore
    const edit: Edit = { kind: 'add', nodes: [flag], artworks: [] };
    holds(await sceneOf(applyEdit(document, edit)), was, edit);
    count('works');
  });
});
