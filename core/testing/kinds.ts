import {
  applyEdit,
  emptyDocument,
  ellipseOutline,
  formOutline,
  outlineThrough,
  rectangleOutline,
  SOLID_KINDS,
  type CheminDocument,
  type DocumentNode,
  type GroupNode,
  type MeasuredForm,
  type PlacementNode,
  type Plane,
  type ShapeNode,
  type SolidKind,
} from '../index';
import { solidOn } from '../later';
import { funnel } from '../../demo/funnel';

const base = (id: string): { id: string; name: string; hidden: boolean; locked: boolean } => ({ id, name: `the ${id}`, hidden: false, locked: false });
const PAINT = { fill: '#c98a4b', line: null };
const FLOOR: Plane = { kind: 'floor', offset: 0 };

export const shape = (id: string, outline: ShapeNode['outline'], depth: number, more: Partial<ShapeNode> = {}): ShapeNode => ({
  ...base(id),
  kind: 'shape',
  plane: FLOOR,
  outline,
  depth,
  paint: PAINT,
  ...more,
});

const box = (
  id: string,
  [a, b, h]: readonly [number, number, number],
  [w, l, t]: readonly [number, number, number],
  more: Partial<ShapeNode> = {},
): ShapeNode => shape(id, rectangleOutline({ u: a, v: b }, { u: a + w, v: b + l }), t, { plane: { kind: 'floor', offset: h }, ...more });

function solid(kind: SolidKind): ShapeNode {
  const made = solidOn(kind, { plane: FLOOR, from: { u: 1, v: 1 }, to: { u: 6, v: 6 }, height: kind === 'dome' ? 2 : 5, turn: 0 }, { ridge: 1, wall: 0.5, bar: 1, pier: 1, crown: 1, sides: 5, count: 3, top: 0.5 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  return { ...base('thing'), kind: 'shape', paint: PAINT, ...made.value };
}

const group = (id: string, children: readonly DocumentNode[], more: Partial<GroupNode> = {}): GroupNode => ({ ...base(id), kind: 'group', children, ...more });

const placement = (target: PlacementNode['target'], more: Partial<PlacementNode> = {}): PlacementNode => ({
  ...base('thing'),
  kind: 'placement',
  artwork: 'art',
  target,
  anchor: { at: { a: 1, b: 1, h: 4 }, width: 2, height: 1 },
  ...more,
});

const copy = (id: string, of: string, by: readonly [number, number, number], more: object = {}): DocumentNode => ({
  ...base(id),
  kind: 'copy',
  of,
  by: { a: by[0], b: by[1], h: by[2] },
  ...more,
});

const crate = box('crate', [0, 0, 0], [5, 5, 4]);
const letters = (): GroupNode =>
  group('thing', [shape('letter', outlineThrough([{ u: 1, v: 1 }, { u: 4, v: 1 }, { u: 4, v: 6 }, { u: 1, v: 6 }], true), 1, { name: 'I' })], { lettering: { kind: 'cells', text: 'I', stem: 3, width: 3, height: 5, corner: 'square', letter: 0, line: 7, align: 'left' } } as Partial<GroupNode>); // prettier-ignore

/** A star or a spiral about a place of the floor. */
function madeBy(form: MeasuredForm, depth: number): ShapeNode {
  const rounded = form.kind === 'star' ? { outer: 0, inner: 0 } : { outer: null, inner: null };
  return shape('thing', formOutline({ form, centre: { u: 4, v: 4 }, startDeg: 10, way: 1, rounded }), depth, { form });
}

/** What is in a drawing: its things, of which acts are done to the one called `thing` or the one that is named, and what else it has. */
interface Kind {
  readonly nodes: readonly DocumentNode[];
  /** The id of the thing; none where what it is about is no thing of the contents. */
  readonly chosen?: string | null;
  readonly also?: Partial<CheminDocument>;
}

const BITMAP = { id: 'picture', type: 'image/png', width: 4, height: 3, asset: 'b'.repeat(64) } as const;
const { photos, bitmaps } = funnel();
const hatched = (): GroupNode => group('whole', [box('block', [0, 0, 0], [6, 6, 5]), box('hatch', [1, -1, 1], [2, 3, 2])], { joined: 'take away' });

/** Each kind of thing. */
export const KINDS: Readonly<Record<string, Kind>> = {
  ...Object.fromEntries(SOLID_KINDS.map((kind) => [kind, { nodes: [solid(kind)] }])),
  'flat shape': { nodes: [shape('thing', rectangleOutline({ u: 1, v: 1 }, { u: 5, v: 4 }), 0)] },
  star: { nodes: [madeBy({ kind: 'star', points: 5, outer: 3, inner: 1.4, turnedDeg: 0 }, 0)] },
  'spiral with depth': { nodes: [madeBy({ kind: 'spiral', turns: 2, inner: 0.8, outer: 4, steps: 'even', band: 0.4 }, 1)] },
  'shape filled around a point': { nodes: [shape('thing', rectangleOutline({ u: 1, v: 1 }, { u: 5, v: 4 }), 0, { paint: { fill: { kind: 'conic', centre: { u: 3, v: 2 }, edge: { u: 5, v: 2 }, stops: [{ at: 0, colour: '#c98a4b', strength: 1 }, { at: 1, colour: '#223344', strength: 0.5 }] }, line: null } })] }, // prettier-ignore
  'flat circle': { nodes: [shape('thing', ellipseOutline({ u: 3, v: 3 }, { u: 2, v: 2 }), 0)] },
  'shape on the sheet': { nodes: [shape('thing', rectangleOutline({ u: 5, v: 5 }, { u: 9, v: 8 }), 0, { plane: { kind: 'sheet', offset: 0 } })] },
  'outline that crosses itself': { nodes: [shape('thing', outlineThrough([{ u: 0, v: 0 }, { u: 6, v: 4 }, { u: 6, v: 0 }, { u: 0, v: 4 }], true), 2)] }, // prettier-ignore
  'tapered solid': { nodes: [box('thing', [1, 1, 0], [5, 5, 4], { taper: 0.5 })] },
  'leaning solid': { nodes: [box('thing', [1, 1, 0], [5, 5, 4], { lean: { u: 1, v: 0 } })] },
  line: { nodes: [shape('thing', outlineThrough([{ u: 1, v: 1 }, { u: 6, v: 2 }, { u: 7, v: 6 }], false), 0, { paint: { fill: null, line: { colour: '#333333', width: 0.5 } } })] }, // prettier-ignore
  lettering: { nodes: [letters()] },
  letter: { nodes: [letters()], chosen: 'letter' },
  opening: { nodes: [group('whole', [box('block', [0, 0, 0], [6, 6, 5]), box('thing', [1, -1, 1], [2, 3, 2])], { joined: 'take away' })] },
  'cut solid': { nodes: [group('thing', [box('block', [0, 0, 0], [6, 6, 5]), box('hatch', [1, -1, 1], [2, 3, 2])], { joined: 'take away' })] },
  'joined solids': { nodes: [group('thing', [box('room', [0, 0, 0], [6, 6, 4]), box('chimney', [1, 1, 3], [2, 2, 4])], { joined: 'join' })] },
  group: { nodes: [group('thing', [box('low', [0, 0, 0], [3, 3, 3]), box('high', [4, 0, 0], [3, 3, 5])])] },
  'thing in a group': { nodes: [group('whole', [box('thing', [0, 0, 0], [3, 3, 3]), box('high', [4, 0, 0], [3, 3, 5])])] },
  copy: { nodes: [crate, copy('thing', 'crate', [7, 0, 0])] },
  'copy of a copy': { nodes: [crate, copy('second', 'crate', [7, 0, 0]), copy('thing', 'second', [0, 7, 0])] },
  'mirrored copy': { nodes: [crate, copy('thing', 'crate', [14, 0, 0], { axes: ['-a', 'b', 'h'] })] },
  'copy of a group': { nodes: [group('pair', [crate, box('high', [6, 0, 0], [3, 3, 5])]), copy('thing', 'pair', [0, 8, 0])] },
  'artwork on a plane': { nodes: [placement({ kind: 'plane', plane: FLOOR }, { anchor: { at: { a: 1, b: 1, h: 0 }, width: 3, height: 1.5 } })] },
  'artwork on a face': { nodes: [crate, placement({ kind: 'face', node: 'crate', face: 'end' })] },
  'artwork round a side': { nodes: [{ ...solid('cylinder'), id: 'crate' }, placement({ kind: 'face', node: 'crate', face: 'side:1' }, { anchor: { at: { a: 1, b: 1, h: 2 }, width: 2, height: 1 } })] }, // prettier-ignore
  dimension: { nodes: [{ ...base('thing'), kind: 'dimension', plane: FLOOR, from: { u: 0, v: 0 }, to: { u: 5, v: 0 }, along: 'u', apart: 1, colour: '#333333' } as DocumentNode] }, // prettier-ignore
  'hidden solid': { nodes: [box('thing', [1, 1, 0], [5, 5, 4], { hidden: true })] },
  'locked solid': { nodes: [box('thing', [1, 1, 0], [5, 5, 4], { locked: true })] },
  'empty group': { nodes: [group('thing', [])] },
  'artwork on a cut side': { nodes: [hatched(), placement({ kind: 'face', node: 'block', face: 'side:1' }, { anchor: { at: { a: 0.5, b: 0, h: 0.5 }, width: 4, height: 3 } })] }, // prettier-ignore
  'artwork on the wall of an opening': { nodes: [hatched(), placement({ kind: 'face', node: 'hatch', face: 'start', inside: true }, { anchor: { at: { a: 1, b: 0, h: 1 }, width: 1, height: 1 } })] }, // prettier-ignore
  'artwork on a photographed surface': { nodes: [placement({ kind: 'plane', plane: { kind: 'sheet', offset: 0 }, photographed: photos![0]!.surfaces[0]!.id }, { anchor: { at: { a: 1, b: 1, h: 0 }, width: 2, height: 1 } })], also: { photos: photos!, bitmaps } }, // prettier-ignore
  'glass pane': { nodes: [crate, shape('thing', rectangleOutline({ u: 1, v: 1 }, { u: 4, v: 4 }), 1, { plane: { kind: 'right', offset: -2 }, paint: { ...PAINT, strength: 0.4 } })] }, // prettier-ignore
  'thing that a copy shows': { nodes: [{ ...crate, id: 'thing' }, copy('other', 'thing', [7, 0, 0])] },
  'thing with artwork on it': {
    nodes: [
      { ...crate, id: 'thing' },
      { ...placement({ kind: 'face', node: 'thing', face: 'end' }), id: 'flag' },
    ],
  },
  reference: { nodes: [crate], chosen: null, also: { bitmaps: [BITMAP], references: [{ id: 'thing', name: 'the thing', bitmap: BITMAP.id, x: 10, y: 10, width: 80, height: 60, strength: 0.5, over: false, hidden: false, locked: false }] } }, // prettier-ignore
  photograph: { nodes: [crate], chosen: null, also: { photos: photos!, bitmaps } },
  guide: { nodes: [crate], chosen: null, also: { guides: [{ id: 'thing', name: 'the thing', plane: FLOOR, at: { u: 1, v: 2 }, along: { u: 1, v: 0 }, hidden: false, locked: false }] } }, // prettier-ignore
  'trial box': { nodes: [crate], chosen: null, also: { trial: { at: { a: 1, b: 1, h: 0 }, size: { a: 3, b: 2, h: 4 } } } },
};

/** The small drawing that has a kind of thing in it. */
export function drawingOf(kind: string): CheminDocument {
  const art = { id: 'art', name: 'art', svg: '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>', width: 4, height: 2 };
  const { nodes, also } = KINDS[kind]!;
  return applyEdit({ ...emptyDocument('kinds', kind), ...also }, { kind: 'add', nodes, artworks: [art] });
}

/** The thing that acts are done to; null where what it is about is no thing of the contents. */
export function chosenOf(kind: string): string | null {
  const { chosen } = KINDS[kind]!;
  return chosen === undefined ? 'thing' : chosen;
}
