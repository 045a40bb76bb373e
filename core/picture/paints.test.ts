import type { Ink, Mark, PathMark } from '../artwork/marks';
import { applyEdit, type Edit } from '../document/edits';
import { emptyDocument, type CheminDocument, type DimensionNode, type DocumentNode, type ShapeNode } from '../document/types';
import { apply33 } from '../math/matrix';
import { crossWorld, dotWorld } from '../math/points';
import type { Paint } from '../paint/paint';
import { frameFamily } from '../projection/framing';
import { planeAtAngle, planeThrough, slopeOf } from '../projection/free-planes';
import { planeFrame, sheetFromPlane, worldFromPlane } from '../projection/planes';
import { ellipseOutline } from '../shape/forms';
import { outlineOfRings, rectangleOutline } from '../shape/outline';
import { pathBox } from '../shape/path';
import { svgFromSheet } from '../output/paint-svg';
import { pickAt } from './pick';
import { PictureMaker } from './picture';

const shape = (id: string, part: Partial<ShapeNode> = {}): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 4 }),
  depth: 0,
  paint: { fill: '#8899aa', line: null },
  ...part,
});
const documentOf = (...nodes: DocumentNode[]): CheminDocument => ({ ...emptyDocument('d', 'd'), nodes });
const paths = (marks: readonly Mark[]): PathMark[] => marks.flatMap((mark) => (mark.kind === 'path' ? [mark] : mark.kind === 'group' ? paths(mark.marks) : []));
const drawn = (document: CheminDocument): PathMark[] => paths(new PictureMaker().make(document).marks);
const gradient: Paint = {
  fill: { kind: 'linear', from: { u: 0, v: 2 }, to: { u: 6, v: 2 }, stops: [{ at: 0, colour: '#000000', strength: 1 }, { at: 1, colour: '#ffffff', strength: 1 }] }, // prettier-ignore
  line: null,
};
const inPerspective = (document: CheminDocument): CheminDocument => ({
  ...document,
  projection: frameFamily('two-point', { min: { a: 0, b: 0, h: 0 }, max: { a: 96, b: 64, h: 40 } }, { middle: { x: 150, y: 100 }, width: 200, height: 140 }),
});
const linear = (ink: Ink | null): Extract<Ink, { kind: 'linear' }> => {
  if (ink?.kind !== 'linear') throw new Error('not linear');
  return ink;
};

describe('gradients in a plane', () => {
  it('keep their handles in the plane in parallel projections', () => {
    const document = documentOf(shape('a', { paint: gradient }));
    const ink = linear(drawn(document)[0]!.fill);
    const map = sheetFromPlane(new PictureMaker().stageOf(document).sight.projection, { kind: 'floor', offset: 0 }, 8);
    const [a, b, c, d, e, f] = ink.frame;
    const end = { x: a * ink.to[0] + c * ink.to[1] + e, y: b * ink.to[0] + d * ink.to[1] + f };
    expect(end.x).toBeCloseTo(apply33(map, 6, 2)!.x, 9);
    expect(end.y).toBeCloseTo(apply33(map, 6, 2)!.y, 9);
  });

  it('recede by the cross-ratio in perspective', () => {
    const document = inPerspective(documentOf(shape('a', { paint: gradient })));
    const ink = linear(drawn(document)[0]!.fill);
    const map = sheetFromPlane(new PictureMaker().stageOf(document).sight.projection, { kind: 'floor', offset: 0 }, 8);
    // The middle of the plane's stretch, at a quarter of the stops: where the projection puts it along the drawn one.
    const [p, q, middle] = [apply33(map, 0, 2)!, apply33(map, 6, 2)!, apply33(map, 3, 2)!];
    const share = Math.hypot(middle.x - p.x, middle.y - p.y) / Math.hypot(q.x - p.x, q.y - p.y);
    const half = ink.stops.find((stop) => stop.colour === '#808080')!;
    expect(half.at).toBeCloseTo(share, 9);
    expect(Math.abs(half.at - 0.5)).toBeGreaterThan(0.005);
    expect(ink.stops).toHaveLength(9);
  });

  it('are toned like any other colour, and other faces of a solid take their middle', () => {
    const marks = drawn(documentOf(shape('a', { paint: gradient, depth: 3 })));
    expect(marks.filter((mark) => mark.fill?.kind === 'linear')).toHaveLength(1);
    expect(marks.filter((mark) => mark.fill?.kind === 'flat')).toHaveLength(2);
  });
});

describe('lines', () => {
  const lined = (line: NonNullable<Paint['line']>, more: Partial<ShapeNode> = {}): ShapeNode => shape('a', { paint: { fill: null, line }, ...more });

  it('lie in the plane by their pen, or on the sheet in one width', () => {
    const [flat] = drawn(documentOf(lined({ colour: '#000000', width: 1 })));
    expect(flat!.line).toMatchObject({ width: 1, pen: [1, 0, 0, 1, 0, 0], cap: 'round', join: 'round' });
    const [inPlane] = drawn(documentOf(lined({ colour: '#000000', width: 1, on: 'plane', cap: 'butt', join: 'miter', dashes: [4, 2] })));
    // A mm along a is drawn a mm long to the right and up by half, in an isometric drawing of full lengths.
    expect(inPlane!.line!.pen.slice(0, 2)).toEqual([expect.closeTo(Math.cos(Math.PI / 6), 9), expect.closeTo(-0.5, 9)]);
    expect(inPlane!.line).toMatchObject({ cap: 'butt', join: 'miter', dashes: [4, 2] });
  });

  it('in a plane in perspective are areas that are thinner where they are farther', () => {
    const line = lined({ colour: '#000000', width: 2, on: 'plane' }, { outline: { points: [{ id: 1, u: 0, v: 0 }, { id: 2, u: 12, v: 0 }], closed: false } }); // prettier-ignore
    const [near, far] = [0, 11].map((u) => {
      const dot = { ...line, outline: { points: [{ id: 1, u, v: 0 }, { id: 2, u: u + 1, v: 0 }], closed: false } }; // prettier-ignore
      const box = pathBox(drawn(inPerspective(documentOf(dot)))[0]!.path)!;
      return (box.maxX - box.minX) * (box.maxY - box.minY);
    });
    expect(near! / far!).toBeGreaterThan(1.1);
    const [mark] = drawn(inPerspective(documentOf(line)));
    expect([mark!.line, mark!.fill]).toEqual([null, { kind: 'flat', colour: '#000000', strength: 1 }]);
    const dashes = drawn(inPerspective(documentOf({ ...line, paint: { fill: null, line: { ...line.paint.line!, dashes: [4, 2], cap: 'butt' } } })))[0]!;
    // 12 cells of 8 mm, a dash and its gap every 12 mm: eight dashes.
    expect(dashes.path.verbs.match(/M/g)).toHaveLength(8);
  });

  it('of a pressed pen are as wide as it was pressed', () => {
    const pressed = { points: [{ id: 1, u: 0, v: 0, press: 0.25 }, { id: 2, u: 10, v: 0, press: 1 }], closed: false }; // prettier-ignore
    const [mark] = drawn(
      documentOf(shape('a', { plane: { kind: 'sheet', offset: 0 }, outline: pressed, paint: { fill: null, line: { colour: '#000000', width: 4 } } })),
    );
    const box = pathBox(mark!.path)!;
    // From half a mm before the start to two mm past the end, two mm to either side there.
    expect([box.minX, box.maxX, box.minY, box.maxY]).toEqual([-0.5, 82, -2, 2].map((n) => expect.closeTo(n, 6)));
  });
});

describe('whole things', () => {
  it('are thinned and blended as one group', () => {
    const picture = new PictureMaker().make(documentOf(shape('a', { depth: 2, paint: { fill: '#336699', line: null, strength: 0.5, blend: 'multiply' } })));
    expect(picture.marks[0]).toMatchObject({ strength: 0.5, blend: 'multiply' });
    const svg = svgFromSheet({ sheet: picture.sheet, background: true, marks: picture.marks }, 't');
    expect(svg).toContain('opacity="0.5" style="mix-blend-mode:multiply"');
  });

  it('have holes that are seen through, flat and with depth', () => {
    const rings = [rectangleOutline({ u: 0, v: 0 }, { u: 8, v: 8 }).points, rectangleOutline({ u: 2, v: 2 }, { u: 6, v: 6 }).points];
    const plate = shape('plate', { outline: outlineOfRings(rings, true) });
    const document = documentOf(shape('under', { plane: { kind: 'floor', offset: -3 }, outline: rectangleOutline({ u: -9, v: -9 }, { u: 20, v: 20 }) }), plate);
    const maker = new PictureMaker();
    const at = (d: CheminDocument, u: number, v: number): string | undefined => {
      const p = apply33(sheetFromPlane(maker.stageOf(d).sight.projection, { kind: 'floor', offset: 0 }, 8), u, v)!;
      return pickAt(maker.make(d), p, 0)?.node;
    };
    expect([at(document, 1, 1), at(document, 4, 4)]).toEqual(['plate', 'under']);
    // With depth the inner walls are there: four sides outside of which two are seen, four inside of which two are.
    const deep = documentOf({ ...plate, depth: 2 });
    expect(maker.make(deep).visible.map((v) => v.face)).toHaveLength(1 + 2 + 2);
    expect(drawn(deep)[0]!.rule).toBe('evenodd');
  });

  it('may have paints of their own on single surfaces, which wait while these are gone', () => {
    const own: Paint = { fill: '#ff0000', line: null };
    const box = shape('a', { depth: 3, surfaces: { 'side:1': own, 'side:9': own } });
    const colours = drawn(documentOf(box)).map((mark) => (mark.fill?.kind === 'flat' ? mark.fill.colour : ''));
    expect(colours.filter((colour) => parseInt(colour.slice(3, 5), 16) < 40)).toHaveLength(1);
    expect(drawn(documentOf(box)).length).toBe(3);
  });

  it('have no seam where something is cut out of them, and say what cuts through them', () => {
    const slab = shape('slab', { plane: { kind: 'floor', offset: 1 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 7, v: 7 }), depth: 1 });
    const post = shape('post', { outline: rectangleOutline({ u: 2, v: 2 }, { u: 4, v: 4 }), depth: 5 });
    const picture = new PictureMaker().make(documentOf(slab, post));
    expect([...picture.through].sort()).toEqual(['post', 'slab']);
    const marks = paths(picture.marks);
    // What is whole has a seam that closes hair lines, what is cut has none to paint over its neighbour.
    expect(marks.some((mark) => mark.line === null)).toBe(true);
    expect(marks.some((mark) => mark.line !== null)).toBe(true);
  });

  it('have one gradient over a round side, and its exact outline', () => {
    const drum = shape('a', { depth: 3, outline: ellipseOutline({ u: 3, v: 2 }, { u: 2, v: 2 }) });
    const marks = drawn(documentOf(drum));
    expect(marks.map((mark) => mark.fill?.kind)).toEqual(expect.arrayContaining(['flat', 'linear']));
    expect(marks).toHaveLength(2);
    const side = marks.find((mark) => mark.fill?.kind === 'linear')!;
    // Down one generator, along both rims in curves, and up the other.
    expect(side.path.verbs).toMatch(/^MC+LC+Z$/);
    const stops = linear(side.fill).stops;
    expect(stops.length).toBeGreaterThan(8);
    expect(stops.every((stop, i) => i === 0 || stop.at >= stops[i - 1]!.at)).toBe(true);
    // In perspective the generators meet: strips over one another, no hair line between them.
    const receding = drawn(inPerspective(documentOf({ ...drum, plane: { kind: 'left', offset: 0 } })));
    expect(receding.filter((mark) => mark.fill?.kind === 'flat').length).toBeGreaterThan(8);
    // What closes the hair line to the end is on the whole side, under the strips, and on the end.
    expect(receding.filter((mark) => mark.line?.hair)).toHaveLength(2);
  });

  it('follow the palette', () => {
    const document = { ...documentOf(shape('a', { plane: { kind: 'sheet', offset: 0 }, paint: { fill: 'swatch:sea', line: null } })), swatches: [{ id: 'sea', name: 'sea', colour: '#102030' }] }; // prettier-ignore
    const maker = new PictureMaker();
    expect(paths(maker.make(document).marks)[0]!.fill).toMatchObject({ colour: '#102030' });
    const next = applyEdit(document, { kind: 'swatches', swatches: [{ id: 'sea', name: 'sea', colour: '#405060' }] });
    expect(paths(maker.make(next).marks)[0]!.fill).toMatchObject({ colour: '#405060' });
  });
});

describe('linked copies', () => {
  const copy = (of: string, a: number): DocumentNode => ({
    kind: 'copy',
    id: `copy of ${of}`,
    name: 'copy',
    hidden: false,
    locked: false,
    of,
    by: { a, b: 0, h: 0 },
  });

  it('look as their original does, moved, and follow it', () => {
    const document = documentOf(shape('a', { depth: 2 }), copy('a', 10));
    const maker = new PictureMaker();
    const picture = maker.make(document);
    expect(picture.marks.map((mark) => mark.node).sort()).toEqual(['a', 'copy of a']);
    const moved = applyEdit(document, { kind: 'paint', ids: ['a'], paint: { fill: '#ff0000', line: null } } as Edit);
    const colours = maker.make(moved).marks.map((mark) => paths([mark]).map((p) => (p.fill?.kind === 'flat' ? p.fill.colour : '')));
    expect(colours[0]).toEqual(colours[1]);
    // A copy that did not change is what it was.
    expect(maker.make(document).visible.filter((v) => v.node === 'copy of a')).toHaveLength(3);
  });

  it('show groups whole, and never themselves', () => {
    const group: DocumentNode = { kind: 'group', id: 'g', name: 'g', hidden: false, locked: false, children: [shape('a'), shape('b'), copy('g', 3)] };
    const picture = new PictureMaker().make(documentOf(group, { ...copy('g', 9), id: 'other' }));
    expect(picture.visible.filter((v) => v.node === 'other')).toHaveLength(2);
    expect(picture.visible.filter((v) => v.node === 'copy of g')).toHaveLength(2);
  });
});

describe('dimensions', () => {
  const dimension = (part: Partial<DimensionNode> = {}): DimensionNode => ({
    kind: 'dimension',
    id: 'dim',
    name: 'dim',
    hidden: false,
    locked: false,
    plane: { kind: 'floor', offset: 0 },
    from: { u: 0, v: 0, node: 'a', point: 1 },
    to: { u: 6, v: 0, node: 'a', point: 2 },
    along: 'line',
    apart: -2,
    colour: '#000000',
    ...part,
  });

  it('are drawn in projection and follow the corners that they hang on', () => {
    const document = documentOf(shape('a'), dimension());
    const lengths = (d: CheminDocument): number => {
      const boxes = new PictureMaker().make(d).visible.filter((v) => v.node === 'dim').map((v) => v.polygon); // prettier-ignore
      return Math.max(...boxes.map((p) => Math.hypot(p[2]! - p[0]!, p[3]! - p[1]!)));
    };
    // Six cells of 8 mm along a are drawn in full length.
    expect(lengths(document)).toBeCloseTo(48, 6);
    const longer = applyEdit(document, { kind: 'outline', id: 'a', outline: rectangleOutline({ u: 0, v: 0 }, { u: 9, v: 4 }) } as Edit);
    expect(lengths(longer)).toBeCloseTo(72, 6);
    const loose = applyEdit(document, { kind: 'delete', ids: ['a'] });
    expect(lengths(loose)).toBeCloseTo(48, 6);
  });

  it('measure parts along a direction, and nothing where there is no length', () => {
    const maker = new PictureMaker();
    const strokes = (node: DimensionNode): number => maker.make(documentOf(node)).visible.length;
    expect(strokes(dimension({ to: { u: 3, v: 4 }, along: 'v', from: { u: 0, v: 0 } }))).toBeGreaterThan(5);
    expect(strokes(dimension({ to: { u: 0, v: 0 }, from: { u: 0, v: 0 } }))).toBe(0);
  });
});

describe('free planes', () => {
  it('go through three points, or an edge at an angle', () => {
    const plane = planeThrough({ a: 0, b: 0, h: 0 }, { a: 4, b: 0, h: 0 }, { a: 0, b: 3, h: 3 })!;
    expect(slopeOf(plane.stance!)).toBeCloseTo(45, 9);
    const frame = planeFrame(plane, 8)!;
    expect(worldFromPlane(frame, { u: 4, v: Math.hypot(3, 3) })).toEqual({ a: expect.closeTo(32, 9), b: expect.closeTo(24, 9), h: expect.closeTo(24, 9) });
    const ramp = planeAtAngle({ a: 0, b: 0, h: 2 }, { a: 5, b: 0, h: 2 }, 30)!;
    expect(slopeOf(ramp.stance!)).toBeCloseTo(30, 9);
    expect(dotWorld(crossWorld(ramp.stance!.u, ramp.stance!.v), { a: 0, b: 0, h: 1 })).toBeCloseTo(Math.cos(Math.PI / 6), 9);
    expect(planeThrough({ a: 0, b: 0, h: 0 }, { a: 1, b: 1, h: 1 }, { a: 2, b: 2, h: 2 })).toBeNull();
    expect(planeAtAngle({ a: 0, b: 0, h: 0 }, { a: 0, b: 0, h: 5 }, 30)).toBeNull();
  });

  it('carry shapes and solids like any plane', () => {
    const plane = planeThrough({ a: 0, b: 0, h: 4 }, { a: 8, b: 0, h: 4 }, { a: 0, b: 4, h: 6 })!;
    const roof = documentOf(shape('roof', { plane, outline: ellipseOutline({ u: 4, v: 2 }, { u: 2, v: 1 }), depth: 0.5 }));
    const picture = new PictureMaker().make(roof);
    expect(picture.visible.some((v) => v.face === 'end')).toBe(true);
    const moved = applyEdit(roof, { kind: 'move', ids: ['roof'], by: { a: 1, b: 2, h: 3 } });
    expect((moved.nodes[0] as ShapeNode).plane.stance!.at).toEqual({ a: 1, b: 2, h: 7 });
  });
});
