import { Resvg } from '@resvg/resvg-js';
import { landing } from '@demo';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';
import type { GroupMark, Mark, PathMark } from '../artwork/marks';
import { applyEdit, type Edit } from '../document/edits';
import { emptyDocument, type CheminDocument, type DocumentNode, type ShapeNode } from '../document/types';
import { ellipseOutline } from '../shape/forms';
import { sunDirection } from '../light/tones';
import { sunOf } from '../light/sun';
import { projectionFrom, sheetFromWorld } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import { rectangleOutline, type Outline } from '../shape/outline';
import { flattenPath } from '../shape/path';
import { signedArea } from '../math/polygon';
import { randomFrom, runs } from '../testing/random';
import { svgFromSheet } from '../output/paint-svg';
import { PictureMaker, type Picture } from './picture';

const shape = (id: string, outline: Outline, level: number, depth: number, more: Partial<ShapeNode> = {}): ShapeNode => ({ kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind: 'floor', offset: level }, outline, depth, paint: { fill: '#c98a4b', line: null }, ...more }); // prettier-ignore
const square = (u: number, v: number, size: number): Outline => rectangleOutline({ u, v }, { u: u + size, v: v + size });

function lit(nodes: readonly DocumentNode[], shadows: object = {}): CheminDocument {
  const empty = emptyDocument('d', 'd');
  return { ...empty, light: { ...empty.light, shadows: { on: true, ...shadows } }, nodes };
}

const groups = (marks: readonly Mark[]): readonly GroupMark[] => marks.flatMap((mark) => (mark.kind === 'group' ? [mark, ...groups(mark.marks)] : []));
const shadowsIn = (document: CheminDocument): readonly GroupMark[] =>
  groups(new PictureMaker().make(document).marks).filter(({ name }) => name.startsWith('shadow'));
const fillsOf = (group: GroupMark): readonly string[] => group.marks.flatMap((mark) => (mark.kind === 'path' && mark.fill?.kind === 'flat' ? [`${mark.fill.colour} ${mark.fill.strength.toFixed(2)}`] : [])); // prettier-ignore

describe('shadows in the picture', () => {
  const ground = shape('ground', square(-10, -10, 30), 0, 0);
  const cube = shape('cube', square(0, 0, 2), 0, 2);

  it('are named parts of what they fall on, painted as paths in its own covered tone', () => {
    const [shadow, ...more] = shadowsIn(lit([ground, cube]));
    expect(more).toEqual([]);
    expect(shadow!.marks).toHaveLength(1);
    expect((shadow!.marks[0] as PathMark).path.verbs).toMatch(/^ML+Z$/);
    const [tone] = fillsOf(shadow!);
    expect(shadowsIn(lit([{ ...ground, paint: { fill: '#3366aa', line: null } }, cube])).flatMap(fillsOf)).not.toContain(tone);
    expect(shadowsIn(lit([ground, cube], { ink: { colour: '#000044', strength: 0.4 } })).flatMap(fillsOf)).toEqual(['#000044 0.40']);
    expect(shadowsIn({ ...lit([ground, cube]), light: emptyDocument('d', 'd').light })).toEqual([]);
  });

  it('fall on an endless floor, from what casts, on what receives', () => {
    expect(shadowsIn(lit([cube], { floor: 0 })).map(({ name }) => name)).toEqual(['shadow on the floor']);
    expect(shadowsIn(lit([{ ...cube, casts: false }], { floor: 0 }))).toEqual([]);
    expect(shadowsIn(lit([{ ...ground, receives: false }, cube]))).toEqual([]);
    const group: DocumentNode = { kind: 'group', id: 'g', name: 'g', hidden: false, locked: false, casts: false, children: [cube] };
    expect(shadowsIn(lit([ground, group]))).toEqual([]);
  });

  it('fall on the endless floor in perspective to a thousandth of a mm, and to the edge of the sheet', () => {
    const projection: ProjectionSetup = { kind: 'perspective', chosen: 'two-point', focal: 260, principal: { x: 150, y: 60 }, turnDeg: 35, tiltDeg: 0, rollDeg: 0, eye: { a: -130, b: -190, h: 120 } }; // prettier-ignore
    const painted = (
      nodes: readonly DocumentNode[],
      sun = { azimuthDeg: 205, elevationDeg: 35 },
    ): { readonly corners: readonly number[]; readonly document: CheminDocument } => {
      const document = { ...lit(nodes, { floor: 0 }), projection };
      const turned = { ...document, light: { ...document.light, sun } };
      const [mark] = shadowsIn(turned).find(({ name }) => name === 'shadow on the floor')!.marks as [PathMark];
      return { corners: Array.from(mark.path.coords), document: turned };
    };
    const post = shape('post', rectangleOutline({ u: 3, v: 2 }, { u: 5, v: 6 }), 0, 4);
    const { corners, document } = painted([post]);
    const towards = sunDirection(sunOf(document));
    const eye = projectionFrom(projection);
    const { cell } = document.grid;
    // The top's corners along the light, by hand; those that lie on the shadow's outline.
    const tips = [[3, 2], [5, 2], [5, 6], [3, 6]].map(([a, b]) => sheetFromWorld(eye, { a: (a! - (4 * towards.a) / towards.h) * cell, b: (b! - (4 * towards.b) / towards.h) * cell, h: 0 })!); // prettier-ignore
    const off = tips.map(({ x, y }) => Math.min(...corners.flatMap((_, i) => (i % 2 === 0 ? [Math.hypot(corners[i]! - x, corners[i + 1]! - y)] : []))));
    expect(off.filter((miss) => miss < 1e-3).length).toBeGreaterThanOrEqual(3);
    // Towards the viewer it goes on beyond the sheet's lower edge.
    const long = painted([shape('tower', rectangleOutline({ u: 3, v: 2 }, { u: 5, v: 6 }), 0, 300)], { azimuthDeg: 50, elevationDeg: 35 });
    expect(Math.max(...long.corners.filter((_, i) => i % 2 === 1))).toBeGreaterThan(long.document.sheet.height);
  });

  it('of what lets light through are as weak as it is', () => {
    const pane = shape('pane', square(4, 0, 2), 3, 0, { paint: { fill: '#88bbcc', line: null, strength: 0.4 } });
    const strengths = (document: CheminDocument): readonly string[] => shadowsIn(document).flatMap(fillsOf).map((fill) => fill.slice(8)); // prettier-ignore
    expect(strengths(lit([ground, pane]))).toEqual(['0.40']);
    expect(strengths(lit([ground, cube, pane]))).toEqual(['0.40', '1.00']);
  });

  it('of coloured glass have its colour: what passes is multiplied by it', () => {
    const glass = (fill: string): readonly GroupMark[] => groups(new PictureMaker().make(lit([ground, shape('pane', square(4, 0, 2), 3, 0, { paint: { fill, line: null, strength: 0.4 } })])).marks); // prettier-ignore
    const through = (fill: string): readonly string[] =>
      glass(fill)
        .filter(({ name }) => name === 'light through')
        .flatMap(fillsOf);
    expect(through('#204080')).toEqual(['#4080ff 0.40']);
    expect(glass('#204080').find(({ name }) => name === 'light through')!.blend).toBe('multiply');
    expect(through('#808080')).toEqual([]);
    const floor = lit([shape('pane', square(4, 0, 2), 3, 0, { paint: { fill: '#804020', line: null, strength: 0.5 } })], { floor: 0 });
    expect(groups(new PictureMaker().make(floor).marks).filter(({ name }) => name === 'light through').flatMap(fillsOf)).toEqual(['#ff8040 0.50']); // prettier-ignore
  });

  it.each([{}, { soft: 1 }, { fade: 30 }, { soft: 1, fade: 30 }])('show nothing lit along the edge between two faces in one plane: %j', (shadows) => {
    // A leg under a seat, their fronts flush, in the shadow of a wall before them.
    const nodes = [
      shape('leg', rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), 0, 4),
      shape('seat', rectangleOutline({ u: 0, v: 0 }, { u: 8, v: 2 }), 4, 2),
      shape('wall', rectangleOutline({ u: -40, v: -9 }, { u: 50, v: -8.5 }), 0, 50, { receives: false, paint: { fill: null, line: null } }),
    ];
    const document = { ...lit(nodes), light: { ...lit(nodes, shadows).light, sun: { azimuthDeg: 270, elevationDeg: 20 } } };
    const picture = new PictureMaker().make(document);
    const { pixels, width } = new Resvg(svgFromSheet({ sheet: document.sheet, marks: picture.marks, background: true }, 'x'), { fitTo: { mode: 'width', value: 1571 } }).render(); // prettier-ignore
    const k = width / document.sheet.width;
    const at = (u: number, h: number): readonly number[] => {
      const { x, y } = sheetFromWorld(projectionFrom(document.projection), { a: u * document.grid.cell, b: 0, h: h * document.grid.cell })!;
      const from = 4 * (Math.floor(y * k) * width + Math.floor(x * k));
      return Array.from(pixels.subarray(from, from + 3));
    };
    const shaded = at(1, 2);
    expect(Math.max(...shaded)).toBeLessThan(170);
    for (const u of [0.5, 1, 1.5]) {
      for (let h = 3.5; h < 4.5; h += 0.004) expect([u, h, Math.max(...at(u, h).map((value, i) => value - shaded[i]!)) < 3]).toEqual([u, h, true]);
    }
  });

  it('of coloured glass leave what is fully shaded as it is', () => {
    const paint = { fill: '#204080', line: null, strength: 0.4 };
    const noon = { on: true } as const;
    const tinted = (nodes: readonly DocumentNode[]): number => {
      const document = { ...emptyDocument('d', 'd'), nodes };
      const overhead = { ...document, light: { ...document.light, sun: { kept: 'world' as const, azimuthDeg: 0, elevationDeg: 90 }, shadows: noon } };
      const marks = groups(new PictureMaker().make(overhead as CheminDocument).marks).filter(({ name }) => name === 'light through').flatMap(({ marks: own }) => own); // prettier-ignore
      return marks.flatMap((mark) => (mark.kind === 'path' ? flattenPath(mark.path, 0.01) : [])).reduce((sum, ring) => sum + Math.abs(signedArea(ring)), 0);
    };
    // Seen from the front the slab hides nothing of the ground behind it; the pane lies under it, over half of it, beside it.
    const slab = shape('slab', square(0, 0, 4), 6, 0.5, { receives: false });
    const pane = (u: number): ShapeNode => shape('pane', square(u, 0, 4), 3, 0, { paint, receives: false });
    const whole = tinted([ground, pane(12)]);
    expect(whole).toBeGreaterThan(1);
    expect(tinted([ground, slab, pane(12)])).toBeCloseTo(whole, 3);
    expect(tinted([ground, slab, pane(2)]) / whole).toBeCloseTo(0.5, 3);
    expect(tinted([ground, slab, pane(0)])).toBe(0);
  });

  it('lie close round what stands on something, whatever the light, in steps that get lighter outwards', () => {
    const shadow = (document: CheminDocument): readonly Mark[] => shadowsIn(document).flatMap(({ marks }) => marks);
    const flat = (mark: Mark): number => (mark.kind === 'path' && mark.fill?.kind === 'flat' ? mark.fill.strength : 1);
    // With the sun overhead nothing else is dark on the ground.
    const noon = (nodes: readonly DocumentNode[], shadows: object): CheminDocument => ({
      ...lit(nodes, shadows),
      light: { ...lit(nodes, shadows).light, sun: { azimuthDeg: 0, elevationDeg: 90 } },
    });
    expect(shadow(noon([ground, cube], {}))).toHaveLength(1);
    const steps = shadow(noon([ground, cube], { contact: 1 })).slice(1);
    expect(steps).toHaveLength(6);
    expect(1 - steps.reduce((left, mark) => left * (1 - flat(mark)), 1)).toBeCloseTo(0.6, 12);
    // What hangs over it touches nothing, and on the edge of the ground they end with it.
    expect(shadow(noon([ground, { ...cube, plane: { kind: 'floor', offset: 1 } }], { contact: 1 }))).toHaveLength(1);
    expect(shadow(noon([cube], { floor: 0, contact: 1 })).length).toBeGreaterThan(6);
  });

  it('are softer and fade in layers that add up to the whole', () => {
    const layers = (shadows: object): readonly number[] => shadowsIn(lit([ground, cube], shadows)).flatMap(({ marks }) => marks.map((mark) => (mark.kind === 'path' && mark.fill?.kind === 'flat' ? mark.fill.strength : 0))); // prettier-ignore
    const whole = (strengths: readonly number[]): number => 1 - strengths.reduce((left, strength) => left * (1 - strength), 1);
    expect(layers({ soft: 2 })).toHaveLength(8);
    expect(whole(layers({ soft: 2 }))).toBeCloseTo(1, 12);
    expect(layers({ fade: 3 })).toHaveLength(6);
    expect(layers({ fade: 3, soft: 1 }).length).toBeGreaterThan(12);
  });

  it('on artwork darken it as its face is darkened', () => {
    const document = landing();
    const made = groups(new PictureMaker().make({ ...document, light: { ...document.light, shadows: { on: true } } }).marks);
    expect(made.filter(({ name, blend }) => name === 'shadow' && blend === 'multiply').length).toBeGreaterThan(0);
  });
});

describe('shadows that would keep a person waiting', () => {
  const many = lit(
    Array.from({ length: 100 }, (_, i) => shape(`s${i}`, square(3 * (i % 10), 3 * Math.floor(i / 10), 2), 0, 1 + (i % 4))),
    { floor: 0 },
  );
  const told = ({ marks }: { readonly marks: unknown }): string => JSON.stringify(marks);

  it('are laid together at first, and exact when what was left for later is made', () => {
    const maker = new PictureMaker();
    const exact = told(new PictureMaker().make(many));
    const { later, ...first } = maker.make(many, 'soon');
    expect(later).not.toBeNull();
    expect(told(first)).not.toBe(exact);
    while (!later!.next().done);
    const second = maker.make(many, 'soon');
    expect(second.later).toBeNull();
    expect(told(second)).toBe(exact);
  });

  it('are made but once where there are none: the light comes from below, or nothing shows them', () => {
    const below = { ...many, light: { ...many.light, sun: { azimuthDeg: 0, elevationDeg: -90 } } };
    for (const document of [
      below,
      { ...many, light: { ...many.light, shadows: { on: true } }, nodes: many.nodes.map((node) => ({ ...node, receives: false as const })) },
    ]) {
      const maker = new PictureMaker();
      const { later } = maker.make(document, 'soon');
      while (later && !later.next().done);
      expect(maker.make(document, 'soon').later).toBeNull();
    }
  });

  it('are exact at once where that is asked for, and where there are few', () => {
    const maker = new PictureMaker();
    maker.make(many, 'soon');
    expect(told(maker.make(many))).toBe(told(new PictureMaker().make(many)));
    expect(new PictureMaker().make(lit(many.nodes.slice(0, 9)), 'soon').later).toBeNull();
  });
});

describe('tones of their own', () => {
  const tops = (document: CheminDocument): readonly string[] => groups(new PictureMaker().make(document).marks).filter(({ name }) => name.endsWith('top') || name.endsWith('side')).flatMap(fillsOf); // prettier-ignore

  it('are kept by what is not lit, wherever the sun stands; shadows fall on it all the same', () => {
    const cube = shape('cube', square(0, 0, 2), 0, 2);
    const own = { ...cube, surfaces: { end: { fill: '#112233', line: null, unlit: true as const } } };
    const turned = (document: CheminDocument): CheminDocument => ({ ...document, light: { ...document.light, sun: { azimuthDeg: 120, elevationDeg: 20 } } });
    expect(tops(lit([own]))).toContain('#112233 1.00');
    expect(tops(turned(lit([own])))).toContain('#112233 1.00');
    const ground = shape('ground', square(-10, -10, 30), 0, 0, { paint: { fill: '#99aabb', line: null, unlit: true } });
    expect(shadowsIn(lit([ground, cube]))).toHaveLength(1);
  });

  it('are those of their own ramp, or of what they lie in, in place of the light’s', () => {
    const cube = shape('cube', square(0, 0, 2), 0, 2);
    const flatTone = { lightness: 0.1, chroma: 1 };
    const ramp = { lit: flatTone, grazed: flatTone, turned: flatTone };
    expect(new Set(tops(lit([{ ...cube, ramp }]))).size).toBe(1);
    const group = (more: object, children: readonly DocumentNode[]): DocumentNode => ({ kind: 'group', id: 'g', name: 'g', hidden: false, locked: false, children, ...more }); // prettier-ignore
    expect(new Set(tops(lit([group({ ramp }, [cube])]))).size).toBe(1);
    const maker = new PictureMaker();
    const seen = (document: CheminDocument): number => new Set(groups(maker.make(document).marks).filter(({ name }) => name.startsWith('cube, ')).flatMap(fillsOf)).size; // prettier-ignore
    // The child is the same object: what changes is what it lies in.
    expect([seen(lit([group({}, [cube])])), seen(lit([group({ ramp }, [cube])])), seen(lit([group({}, [cube])]))]).toEqual([3, 1, 3]);
    const copy: DocumentNode = { kind: 'copy', id: 'c', name: 'c', hidden: false, locked: false, of: 'cube', by: { a: 5, b: 0, h: 0 } };
    expect(new Set(tops(lit([{ ...cube, ramp }, copy]))).size).toBe(1);
    expect(new Set(tops(lit([cube, { ...copy, ramp }]))).size).toBe(4);
  });

  it('are laid over by the tint of a group, with the shading kept', () => {
    const cube = shape('cube', square(0, 0, 2), 0, 2);
    const group: DocumentNode = { kind: 'group', id: 'g', name: 'g', hidden: false, locked: false, children: [cube], tint: { colour: '#2040c0', strength: 1 } };
    const painted = tops(lit([group]));
    expect(painted).toEqual(tops(lit([{ ...cube, paint: { fill: '#2040c0', line: null } }])));
    expect(new Set(painted).size).toBe(3);
    const half = tops(lit([{ ...group, tint: { colour: '#2040c0', strength: 0.5 } }]));
    expect(half).not.toEqual(painted);
    expect(half).not.toEqual(tops(lit([cube])));
  });

  it('come nearer to each other the more light comes from all around', () => {
    const cube = shape('cube', square(0, 0, 2), 0, 2);
    const filled = (fill: number): number => new Set(tops({ ...lit([cube]), light: { ...lit([]).light, fill } })).size;
    expect(filled(0)).toBe(3);
    expect(filled(1)).toBe(1);
  });
});

describe('edits', () => {
  /** Everything that tells one picture from another but the order of parts, which may be another where both are right. */
  const told = ({ marks }: Picture): string => {
    const parts = marks.flatMap(({ node, name, marks: own }) => own.map((mark) => JSON.stringify([node, name, mark], (_, value: unknown) => (typeof value === 'number' ? Math.round(value * 1e4) / 1e4 : value)))); // prettier-ignore
    return parts.sort().join('\n');
  };
  /** Of all px: where solids cut through each other, which of them is cut may be another, and leaves other hair lines. */
  const SEEN = 1e-4;
  const drawn = ({ sheet, marks }: Picture): Buffer => new Resvg(svgFromSheet({ sheet, background: true, marks }, 't'), { fitTo: { mode: 'width', value: 900 } }).render().asPng(); // prettier-ignore
  /** Whether two pictures show the same: they are the same, or drawn by another program they are. */
  const same = (p: Picture, q: Picture): boolean => {
    if (told(p) === told(q)) return true;
    const [a, b] = [PNG.sync.read(drawn(p)), PNG.sync.read(drawn(q))];
    return pixelmatch(a.data, b.data, undefined, a.width, a.height, { threshold: 0.05, includeAA: false }) < SEEN * a.width * a.height;
  };

  it('leave the shadows and lines that a picture made afresh has', () => {
    const random = randomFrom(9);
    const whole = (below: number): number => Math.floor(random() * below);
    const line = { colour: '#22303c', width: 0.5 };
    for (let scene = 0; scene < runs(2); scene++) {
      const nodes = Array.from({ length: 9 }, (_, i) => shape(`s${i}`, i % 3 === 2 ? ellipseOutline({ u: whole(14), v: whole(14) }, { u: 1, v: 1 }) : square(whole(14), whole(14), 1 + whole(4)), whole(5), 1 + whole(4))); // prettier-ignore
      let document = lit(nodes, { floor: 0, ...(scene % 2 === 1 && { fade: 6 }) });
      document = { ...document, light: { ...document.light, lines: { contour: { of: 'thing', line }, inner: { smooth: false, line } } } };
      const maker = new PictureMaker();
      for (let step = 0; step < 12; step++) {
        const id = `s${whole(9)}`;
        const edits: readonly (() => Edit)[] = [
          () => ({ kind: 'move', ids: [id], by: { a: whole(7) - 3, b: whole(7) - 3, h: whole(3) - 1 } }),
          () => ({ kind: 'depth', id, depth: 1 + whole(5) }),
          () => ({ kind: 'hide', ids: [id], hidden: random() < 0.4 }),
          () => ({ kind: 'light', light: { ...document.light, sun: { azimuthDeg: whole(360), elevationDeg: 10 + whole(70) } } }),
          () => ({ kind: 'change', nodes: [{ ...(document.nodes.find((node) => node.id === id) as ShapeNode), ...(random() < 0.5 && { casts: false }) }] }),
        ];
        const edit = edits[Math.floor(random() * edits.length)]!();
        // What was shown during the gesture before it was made leaves nothing behind.
        if (random() < 0.5) maker.make(applyEdit(document, edit), 'quick');
        document = applyEdit(document, edit);
        expect(same(maker.make(document), new PictureMaker().make(document))).toBe(true);
      }
    }
  });
});
