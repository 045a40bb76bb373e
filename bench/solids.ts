import Module from 'manifold-3d';
import {
  applyEdit,
  bodyOf,
  emptyDocument,
  geometry,
  joinWith,
  PictureMaker,
  type CheminDocument,
  type CopyNode,
  type GroupNode,
  type Part,
  type ShapeNode,
  type SolidKind,
} from '../core/index';
import { layCells } from '../core/later';
import { letterFrame, letteringGroup, solidOn } from '../core/later';
import { joinedBody } from '../core/joining/join';
import { median, type Row } from './measure';

function solid(id: string, kind: SolidKind, [a, b, h]: readonly [number, number, number], [w, l, t]: readonly [number, number, number]): ShapeNode {
  const made = solidOn(kind, { plane: { kind: 'floor', offset: h }, from: { u: a, v: b }, to: { u: a + w, v: b + l }, height: t, turn: 0 }, {});
  if (!made.ok) throw new Error(made.reason);
  return { kind: 'shape', id, name: id, hidden: false, locked: false, paint: { fill: '#4477aa', line: null }, ...made.value };
}

/** A frame of a drag among other things. */
function dragged(document: CheminDocument, id: string): number {
  const maker = new PictureMaker();
  maker.make(document);
  let step = 0;
  return median(() => maker.make(applyEdit(document, { kind: 'move', ids: [id], by: { a: step++ % 7, b: 0, h: 0 } }), 'quick'), 30, 30);
}

/** Joining, copies of what is joined, and letters with depth that something is dragged past. */
export async function solidRows(): Promise<Row[]> {
  const kernel = await Module();
  kernel.setup();
  let evaluations = 0;
  joinWith((parts, how) => {
    evaluations++;
    return Promise.resolve(joinedBody(kernel, parts, how));
  });
  const plate: Part = { id: 'plate', body: bodyOf(solid('plate', 'box', [-1, -1, 0], [42, 42, 1]))! };
  const holes = Array.from({ length: 200 }, (_, i): Part => ({ id: `hole${i}`, body: bodyOf(solid(`hole${i}`, 'box', [(i % 20) * 2, Math.floor(i / 20) * 2, -1], [1, 1, 3]))! })); // prettier-ignore
  const once = median(() => joinedBody(kernel, [plate, ...holes], 'take away'), 3, 1);
  const start = performance.now();
  holes.reduce<Part>((left, hole) => ({ id: 'plate', body: joinedBody(kernel, [left, hole], 'take away')! }), plate);
  const each = performance.now() - start;

  const cut: GroupNode = { kind: 'group', id: 'cut', name: 'cut', hidden: false, locked: false, joined: 'take away', children: [solid('x', 'box', [0, 0, 0], [1, 1, 1]), solid('y', 'box', [0.25, -1, 0.25], [0.5, 3, 0.5])] }; // prettier-ignore
  evaluations = 0;
  await geometry.settled(cut);
  const copies = Array.from({ length: 1000 }, (_, i): CopyNode => ({ kind: 'copy', id: `copy${i}`, name: 'copy', hidden: false, locked: false, of: 'cut', by: { a: (i % 32) * 1.5, b: Math.floor(i / 32) * 1.5, h: 0 } })); // prettier-ignore
  const many = { ...emptyDocument('d', 'd'), nodes: [cut, ...copies] };
  const copied = median(() => new PictureMaker().make(many), 3, 1);

  const text = { kind: 'cells', text: 'QUAY9'.repeat(8), stem: 0.2, width: 1, height: 1.4, corner: 'square', letter: 0, line: 2, align: 'left' } as const;
  const lines = Array.from({ length: 5 }, (_, i) => letteringGroup({ id: `t${i}`, name: 't', hidden: false, locked: false }, text, layCells(text), letterFrame({ kind: 'right', offset: 3 * i }, { u: 0, v: 0 }), { depth: 0.5, paint: { fill: '#aa7744', line: null } })); // prettier-ignore
  const letters = { ...emptyDocument('d', 'd'), nodes: [...lines, solid('box', 'box', [3, 1, 0], [1, 1, 2])] };
  const boxes = { ...emptyDocument('d', 'd'), nodes: [...Array.from({ length: 200 }, (_, i) => solid(`b${i}`, 'box', [(i % 40) * 1.2, 3 * Math.floor(i / 40), 0], [1, 0.5, 1.4])), solid('box', 'box', [3, 1, 0], [1, 1, 2])] }; // prettier-ignore
  const [past, plain] = [dragged(letters, 'box'), dragged(boxes, 'box')];
  return [
    { what: '200 openings taken away one after the other', ms: each, note: 'yardstick' },
    { what: '200 openings in one evaluation', ms: once, note: `${(once / each).toFixed(3)} x yardstick` },
    { what: '1,000 copies of a joined solid: picture', ms: copied, note: `${evaluations} evaluation (wanted 1)` },
    { what: '200 boxes: one dragged past, one frame', ms: plain, note: 'yardstick' },
    { what: '200 letters with depth: one dragged past, one frame', ms: past, note: `${(past / plain).toFixed(2)} x yardstick` },
  ];
}
