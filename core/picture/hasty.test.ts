import type { GroupMark, Mark } from '../artwork/marks';
import { applyEdit } from '../document/edits';
import { emptyDocument, type CheminDocument, type CopyNode, type DocumentNode, type GroupNode, type PlacementNode, type ShapeNode } from '../document/types';
import { composeAffine, IDENTITY, type Affine } from '../math/matrix';
import { paintMarks, type CanvasLike } from '../output/paint-canvas';
import { frameFamily } from '../projection/framing';
import { rectangleOutline } from '../shape/outline';
import { drawingOf, type DrawnDocument } from './drawn-nodes';
import { PictureMaker } from './picture';

const svg = (colour: string, more = ''): string => `<svg viewBox="0 0 4 4"><path fill="${colour}" d="M0 0L4 0L4 4Q2 5 0 4Z"/><path fill="none" stroke="#334455" stroke-width="0.2" ${more} d="M1 1L3 2"/></svg>`; // prettier-ignore
const box: ShapeNode = { kind: 'shape', id: 'box', name: 'box', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 }), depth: 4, paint: { fill: '#808080', line: null } }; // prettier-ignore
const label: PlacementNode = { kind: 'placement', id: 'label', name: 'label', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: 'box', face: 'side:4' }, anchor: { at: { a: 0, b: 2, h: 3 }, width: 2, height: 2 } }; // prettier-ignore
const sign: PlacementNode = { ...label, id: 'sign', name: 'sign', target: { kind: 'plane', plane: { kind: 'left', offset: 8 } } };
const artwork = (colour: string, more = ''): CheminDocument['artworks'][number] => ({ id: 'art', name: 'art', svg: svg(colour, more), width: 4, height: 4 });
const document: CheminDocument = { ...emptyDocument('d', 'd'), artworks: [artwork('#c04020')], nodes: [box, label, sign] };

/** What a canvas is told to paint, with every point where its transform carries it. */
function painted(marks: readonly Mark[]): readonly { readonly colour: unknown; readonly pen: Affine | null; readonly points: readonly number[] }[] {
  const done: { colour: unknown; pen: Affine | null; points: readonly number[] }[] = [];
  let [map, points] = [IDENTITY, [] as number[]];
  const kept: Affine[] = [];
  const to = (...places: number[]): void => {
    for (let i = 0; i < places.length; i += 2)
      points.push(map[0] * places[i]! + map[2] * places[i + 1]! + map[4], map[1] * places[i]! + map[3] * places[i + 1]! + map[5]);
  };
  const canvas = {
    save: () => kept.push(map),
    restore: () => (map = kept.pop()!),
    transform: (...by: Affine) => (map = composeAffine(map, by)),
    getTransform: () => ({ a: map[0], b: map[1], c: map[2], d: map[3] }),
    beginPath: () => (points = []),
    moveTo: to,
    lineTo: to,
    bezierCurveTo: to,
    fill: () => done.push({ colour: canvas.fillStyle, pen: null, points }),
    stroke: () => done.push({ colour: canvas.strokeStyle, pen: map, points }),
    ...{ closePath: () => undefined, clip: () => undefined, setLineDash: () => undefined },
    ...{ globalAlpha: 1, fillStyle: '', strokeStyle: '', lineWidth: 1 },
  };
  const layers = { open: (): CanvasLike => canvas as unknown as CanvasLike, close: () => undefined };
  paintMarks(canvas as unknown as CanvasLike, marks, layers);
  return done;
}

const maps = (marks: readonly Mark[]): readonly GroupMark[] => marks.flatMap((mark) => (mark.kind === 'group' ? [...(mark.map ? [mark] : []), ...maps(mark.marks)] : [])); // prettier-ignore

describe('pictures for the frames of a gesture', () => {
  const maker = new PictureMaker();
  maker.make(document);
  const moved = applyEdit(document, { kind: 'move', ids: ['box'], by: { a: 2, b: 1, h: 0 } });
  const exact = new PictureMaker().make(moved);

  it('have the canvas carry artwork, which lies where it lies in exact ones', () => {
    const quick = maker.make(moved, 'quick');
    expect(maps(quick.marks)).toHaveLength(1);
    const [hasty, whole] = [painted(quick.marks), painted(exact.marks)];
    expect(hasty.map(({ colour }) => colour)).toEqual(whole.map(({ colour }) => colour));
    hasty.forEach(({ points, pen }, i) => {
      expect(points.length).toBe(whole[i]!.points.length);
      points.forEach((value, k) => expect(value).toBeCloseTo(whole[i]!.points[k]!, 9));
      pen?.slice(0, 4).forEach((value, k) => expect(value).toBeCloseTo(whole[i]!.pen![k]!, 9));
    });
  });

  it('leave nothing of this to the picture that follows', () => {
    maker.make(moved, 'quick');
    const then = maker.make(moved);
    expect(maps(then.marks)).toHaveLength(0);
    expect(then.marks).toEqual(exact.marks);
  });

  it('lay out artwork whose lines are dashed, or that is seen in perspective', () => {
    const dashed = { ...document, artworks: [artwork('#c04020', 'stroke-dasharray="0.1 0.1"')] };
    const deep: CheminDocument = {
      ...document,
      projection: frameFamily(
        'two-point',
        { min: { a: 0, b: 0, h: 0 }, max: { a: 40, b: 40, h: 40 } },
        { middle: { x: 150, y: 100 }, width: 200, height: 140 },
      ),
    };
    for (const other of [dashed, deep]) expect(maps(new PictureMaker().make(other, 'quick').marks)).toHaveLength(0);
  });

  it('take over from the last one what is the same, and nothing that is another', () => {
    const copy: CopyNode = {
      kind: 'copy',
      id: 'again',
      name: 'again',
      hidden: false,
      locked: false,
      of: 'box',
      by: { a: 9, b: 0, h: 0 },
    };
    const group: GroupNode = { kind: 'group', id: 'group', name: 'group', hidden: false, locked: false, children: [sign] };
    const lists: readonly (readonly DocumentNode[])[] = [
      [box, label, sign],
      [{ ...box, depth: 2 }, label, sign],
      [box, { ...label, hidden: true }, sign],
      [{ ...box, tint: { colour: '#203040', strength: 0.5 } }, label, { ...sign, contour: { colour: '#000000', width: 1 } }],
      [box, label, sign, copy],
      [{ ...box, depth: 2 }, label, group, copy],
      [label, box, { ...group, hidden: true }, copy],
      [],
    ] as const;
    let last: DrawnDocument | null = null;
    for (const nodes of lists) {
      const of = { ...document, nodes };
      const found = ({ nodes: all, onFaces, elsewhere, looks, contours }: DrawnDocument): unknown => ({ all, onFaces, elsewhere, looks, contours });
      last = drawingOf(of, last);
      expect(found(last)).toEqual(found(drawingOf({ ...of })));
    }
  });

  it('show an artwork that is drawn on wherever it lies', () => {
    const fills = (of: CheminDocument, haste: 'quick' | 'exact'): number =>
      painted(maker.make(of, haste).marks).filter(({ colour }) => colour === '#20a040').length;
    const other = { ...moved, artworks: [artwork('#20a040')] };
    expect([fills(moved, 'exact'), fills(other, 'quick'), fills(other, 'exact'), fills(moved, 'quick')]).toEqual([0, 2, 2, 0]);
  });
});
