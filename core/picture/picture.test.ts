import { Resvg } from '@resvg/resvg-js';
import { landing } from '@demo';
import { applyEdit } from '../document/edits';
import { emptyDocument, type CheminDocument, type ShapeNode } from '../document/types';
import type { GroupMark, Mark, PathMark } from '../artwork/marks';
import { paintMarks, paintSheet, type CanvasLike } from '../output/paint-canvas';
import { escapeXml, svgFromSheet } from '../output/paint-svg';
import type { PlaneKind } from '../projection/planes';
import { projectionFrom, sheetFromWorld } from '../projection/projection';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { signedArea } from '../math/polygon';
import { frameFamily } from '../projection/framing';
import { flattenPath } from '../shape/path';
import { subjectOf } from './subject';
import { catchSource } from './catch-source';
import { pickAt } from './pick';
import { PictureMaker } from './picture';

function shape(id: string, kind: PlaneKind, offset: number, from: readonly [number, number], to: readonly [number, number], depth = 0): ShapeNode {
  const outline = rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] });
  return { kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind, offset }, outline, depth, paint: { fill: '#c98a4b', line: null } };
}

function documentWith(...nodes: CheminDocument['nodes']): CheminDocument {
  return { ...emptyDocument('d', 'd'), nodes };
}

const named = (marks: readonly Mark[]): string[] => marks.flatMap((m) => (m.kind === 'group' ? [m.name, ...named(m.marks)] : []));

describe('the picture', () => {
  it('holds a named group for each thing and each visible face', () => {
    const { marks } = new PictureMaker().make(documentWith(shape('crate', 'floor', 0, [0, 0], [2, 2], 3)));
    expect(marks).toHaveLength(1);
    expect(named(marks).sort()).toEqual(['crate', 'crate, left side', 'crate, right side', 'crate, top']);
  });

  it('draws a line up to where it goes into a solid, there and under the pointer', () => {
    const outline = outlineThrough([{ u: -3, v: 2 }, { u: 0.25, v: 2 }], false); // prettier-ignore
    const line: ShapeNode = { ...shape('line', 'floor', 1, [0, 0], [1, 1]), outline, paint: { fill: null, line: { colour: '#2b2f36', width: 0.5 } } };
    const { marks, visible, through } = new PictureMaker().make(documentWith(shape('block', 'floor', 0, [0, 0], [4, 4], 2), line));
    const own = marks.find(({ node }) => node === 'line')!.marks[0] as PathMark;
    const there = visible.find(({ node }) => node === 'line')!.polygon;
    // It enters the left side, the plane a = 0, half a cell up; the line's half width is looked at with it.
    const [start, end] = [sheetFromWorld(projectionFrom(emptyDocument('d', 'd').projection), { a: -24, b: 16, h: 8 })!, sheetFromWorld(projectionFrom(emptyDocument('d', 'd').projection), { a: 0, b: 16, h: 8 })!]; // prettier-ignore
    expect(own.path.verbs).toBe('ML');
    const ends = [own.path.coords.slice(0, 2), own.path.coords.slice(2)].sort((p, q) => p[0]! - q[0]!);
    expect(Math.hypot(ends[0]![0]! - start.x, ends[0]![1]! - start.y)).toBeLessThan(0.001);
    expect(Math.hypot(ends[1]![0]! - end.x, ends[1]![1]! - end.y)).toBeLessThan(0.6);
    expect([...through].sort()).toEqual(['block', 'line']);
    expect(Array.from(there)).toEqual(own.path.coords);
  });

  it('cuts a line that lies in its plane as the area that it is there', () => {
    const outline = outlineThrough([{ u: -3, v: 2 }, { u: 0.25, v: 2 }], false); // prettier-ignore
    const line: ShapeNode = {
      ...shape('line', 'floor', 1, [0, 0], [1, 1]),
      outline,
      paint: { fill: null, line: { colour: '#2b2f36', width: 2, on: 'plane' } },
    };
    const block = shape('block', 'floor', 0, [0, 0], [4, 4], 2);
    const empty = documentWith(block, line);
    const subject = subjectOf(empty, new PictureMaker().stageOf(empty));
    const projection = frameFamily('two-point', subject, { middle: { x: 150, y: 100 }, width: 200, height: 130 });
    const reach = (document: CheminDocument): number => {
      const mark = new PictureMaker().make({ ...document, projection }).marks.find(({ node }) => node === 'line')!.marks[0] as PathMark;
      expect(mark.fill).not.toBeNull();
      return flattenPath(mark.path, 0.01).reduce((sum, ring) => sum + Math.abs(signedArea(ring)), 0);
    };
    const [whole, cut] = [reach(documentWith(line)), reach(empty)];
    // A thirteenth of the line lies inside of the block.
    expect(cut).toBeLessThan(whole * 0.96);
    expect(cut).toBeGreaterThan(whole * 0.7);
  });

  it('paints what is nearer later, whatever the order of the document', () => {
    const far = shape('far', 'floor', 0, [3, 3], [5, 5], 2);
    const near = shape('near', 'floor', 0, [0, 0], [2, 2], 6);
    for (const nodes of [
      [far, near],
      [near, far],
    ]) {
      // prettier-ignore
      expect(new PictureMaker().make(documentWith(...nodes)).marks.map((m) => m.node)).toEqual(['far', 'near']);
    }
  });

  it('lays flat things under and over space by their place in the document', () => {
    const document = documentWith(
      shape('under', 'sheet', 0, [0, 0], [9, 9]),
      shape('box', 'floor', 0, [0, 0], [2, 2], 1),
      shape('over', 'sheet', 0, [2, 2], [4, 4]),
    );
    expect(new PictureMaker().make(document).marks.map((m) => m.node)).toEqual(['under', 'box', 'over']);
    const fill = (document.nodes[0] as ShapeNode).paint.fill;
    expect(JSON.stringify(new PictureMaker().make(document).marks[0])).toContain(fill!);
  });

  it('carries artwork with the face that it lies on', () => {
    const before = landing();
    const maker = new PictureMaker();
    const find = (document: CheminDocument): GroupMark => {
      let found: GroupMark | undefined;
      const look = (marks: readonly Mark[]): void => marks.forEach((m) => m.kind === 'group' && (m.name === 'sign artwork' ? (found = m) : look(m.marks)));
      look(maker.make(document).marks);
      return found!;
    };
    const kiosk = before.nodes.find((node) => node.name === 'ticket kiosk')!;
    const after = applyEdit(before, { kind: 'move', ids: [kiosk.id], by: { a: 2, b: 0, h: 0 } });
    const firstX = (group: GroupMark): number => {
      let mark: Mark = group;
      while (mark.kind === 'group') mark = mark.marks[0]!;
      return mark.path.coords[0]!;
    };
    expect(firstX(find(after)) - firstX(find(before))).toBeCloseTo(2 * 6 * Math.cos(Math.PI / 6), 9);
  });

  it('keeps the faces of what did not change', () => {
    const maker = new PictureMaker();
    const document = documentWith(shape('one', 'floor', 0, [0, 0], [2, 2], 1), shape('two', 'floor', 0, [4, 0], [6, 2], 1));
    const first = maker.make(document).visible;
    const second = maker.make(applyEdit(document, { kind: 'move', ids: ['two'], by: { a: 1, b: 0, h: 0 } })).visible;
    const polygonOf = (parts: typeof first, node: string): unknown => parts.find((part) => part.node === node)!.polygon;
    expect(polygonOf(second, 'one')).toBe(polygonOf(first, 'one'));
    expect(polygonOf(second, 'two')).not.toBe(polygonOf(first, 'two'));
  });

  it('leaves out what is hidden, by itself or with its group', () => {
    const box = shape('box', 'floor', 0, [0, 0], [2, 2], 1);
    const group = { kind: 'group', id: 'g', name: 'g', hidden: true, locked: false, children: [box] } as const;
    expect(new PictureMaker().make(documentWith(group)).visible).toEqual([]);
    expect(new PictureMaker().make(documentWith({ ...box, hidden: true })).marks).toEqual([]);
  });
});

describe('picking', () => {
  it('finds the face in front, and what is behind where that is locked', () => {
    const picture = new PictureMaker().make(documentWith(shape('floor piece', 'floor', 0, [-5, -5], [9, 9]), shape('box', 'floor', 0, [0, 0], [2, 2], 1)));
    expect(pickAt(picture, { x: 150, y: 132 }, 1)).toMatchObject({ node: 'box', face: 'end' });
    expect(pickAt(picture, { x: 150, y: 132 }, 1, (id) => id === 'box')).toMatchObject({ node: 'floor piece' });
    expect(pickAt(picture, { x: 2, y: 2 }, 1)).toBeNull();
  });

  it('finds lines along their length', () => {
    const line: ShapeNode = { ...shape('line', 'floor', 0, [0, 0], [5, 5]), paint: { fill: null, line: { colour: '#000000', width: 1 } } };
    const open = { ...line, outline: { points: line.outline.points.slice(0, 2), closed: false } };
    const picture = new PictureMaker().make(documentWith(open));
    expect(pickAt(picture, { x: 150 + 8 * Math.cos(Math.PI / 6), y: 145.5 }, 2)).toMatchObject({ node: 'line', open: true });
    expect(pickAt(picture, { x: 150, y: 120 }, 2)).toBeNull();
  });
});

describe('what can be caught', () => {
  it('is what is drawn on a plane and the faces of solids that lie in it', () => {
    const document = documentWith(shape('box', 'floor', 0, [1, 1], [5, 3], 4), shape('flat', 'floor', 4, [0, 0], [1, 1]));
    const top = catchSource(document, { kind: 'floor', offset: 4 });
    expect(top.points).toHaveLength(4 + 4 + 8);
    expect(top.centres.map(({ u, v }) => [Math.round(u * 1e9) / 1e9, Math.round(v * 1e9) / 1e9])).toContainEqual([3, 2]);
    expect(catchSource(document, { kind: 'floor', offset: 9 }).points).toEqual([]);
  });
});

describe('the SVG', () => {
  const picture = new PictureMaker().make(landing());
  const svg = svgFromSheet({ ...picture, background: true }, 'Quay <Nine> & co');

  it('has the sheet in its real size, names, paths and gradients, and no bitmap', () => {
    expect(svg).toContain('width="297mm" height="210mm" viewBox="0 0 297 210"');
    expect(svg).toContain('<title>Quay &lt;Nine&gt; &amp; co</title>');
    expect(svg).toContain('<g id="sign-artwork"');
    expect(svg).toContain('gradientUnits="userSpaceOnUse"');
    expect(svg).not.toMatch(/<image|NaN|Infinity|\de-\d/);
    const ids = [...svg.matchAll(/ id="([^"]+)"/g)].map((m) => m[1]);
    expect(new Set(ids).size).toBe(ids.length);
    const names = [...svg.matchAll(/<title>(awning stripe \d)<\/title>/g)].map((m) => m[1]);
    expect(names).toHaveLength(7);
    expect(escapeXml('a\u0000\u0007"b\'')).toBe('a&quot;b&#39;');
  });

  it('is read by an independent renderer without anything lost', () => {
    const rendered = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: 594 } }).render();
    const pixel = (x: number, y: number): string => {
      const at = 4 * (Math.round(y * 2) * rendered.width + Math.round(x * 2));
      return `#${Buffer.from(rendered.pixels.subarray(at, at + 3)).toString('hex')}`;
    };
    expect(pixel(3, 3)).toBe('#f7f3ea');
    // Every face that is seen at some place has the colour there that its own mark has, whatever lies under it.
    const flat = new Map<string, Set<string>>();
    const note = (marks: readonly Mark[], node: string | null): void => {
      for (const mark of marks) {
        if (mark.kind === 'group') note(mark.marks, mark.node ?? node);
        else if (mark.kind === 'path' && mark.fill?.kind === 'flat' && mark.fill.strength === 1 && node)
          flat.set(node, (flat.get(node) ?? new Set()).add(mark.fill.colour));
      }
    };
    note(picture.marks, null);
    const [seen, lost] = [new Set<string>(), [] as string[]];
    let checked = 0;
    for (let x = 4; x < 293; x += 3) {
      for (let y = 4; y < 206; y += 3) {
        const around = [[0, 0], [0.9, 0], [-0.9, 0], [0, 0.9], [0, -0.9]].map(([dx, dy]) => pickAt(picture, { x: x + dx!, y: y + dy! }, 0)); // prettier-ignore
        const [hit] = around;
        // Away from edges, where two colours mix, and from gradients and thinned things.
        if (!hit?.face || around.some((other) => other?.node !== hit.node || other.face !== hit.face)) continue;
        const colours = flat.get(hit.node);
        if (!colours || colours.size === 0) continue;
        seen.add(hit.node);
        checked++;
        if (!colours.has(pixel(x, y))) lost.push(`${hit.node} ${hit.face} at ${x}, ${y}: ${pixel(x, y)}`);
      }
    }
    expect(seen.size).toBeGreaterThan(25);
    // A hair line may cross a place; nothing more may.
    expect(lost.length).toBeLessThan(0.01 * checked);
  });

  it('has a transparent sheet when asked', () => {
    expect(svgFromSheet({ ...picture, background: false }, 't')).not.toContain('id="sheet"');
  });
});

describe('the canvas', () => {
  it('is painted with the same paths, clips and layers, and left as it was found', () => {
    const calls: string[] = [];
    const widths: number[] = [];
    let depth = 0;
    const canvas = new Proxy({} as Record<string, unknown>, {
      get: (target, name: string) => {
        if (name in target) return target[name];
        if (name === 'getTransform') return () => ({ a: 8, b: 0, c: 0, d: 8 });
        return (...args: unknown[]) => {
          calls.push(name);
          if (name === 'save') depth++;
          if (name === 'restore') depth--;
          expect(args.every((a) => typeof a !== 'number' || Number.isFinite(a))).toBe(true);
          return { addColorStop: () => undefined };
        };
      },
      set: (target, name: string, value) => {
        if (name === 'lineWidth') widths.push(value as number);
        return ((target[name] = value), true);
      },
    }) as unknown as CanvasLike;
    const picture = new PictureMaker().make(landing());
    paintSheet(canvas, picture.sheet);
    paintMarks(canvas, [{ ...picture.marks[0]!, strength: 0.5 }, ...picture.marks.slice(1)], { open: () => canvas, close: () => calls.push('layer') });
    expect(depth).toBe(0);
    expect(Math.min(...widths)).toBeCloseTo(0.7 / 8, 6);
    // One call for each thing that is painted, no more and no less.
    const paths = (marks: readonly Mark[]): PathMark[] =>
      marks.flatMap((mark) => (mark.kind === 'group' ? paths(mark.marks) : mark.kind === 'path' ? [mark] : []));
    const clips = (marks: readonly Mark[]): number => marks.reduce((n, mark) => (mark.kind === 'group' ? n + (mark.clip ? 1 : 0) + clips(mark.marks) : n), 0);
    const of = (kind: string): number => calls.filter((call) => call === kind).length;
    // The sheet itself is one more.
    expect(of('fill') - 1).toBe(paths(picture.marks).filter((mark) => mark.fill).length);
    expect(of('stroke')).toBe(paths(picture.marks).filter((mark) => mark.line).length);
    expect(of('clip')).toBe(clips(picture.marks));
    const inks = paths(picture.marks).flatMap((mark) => [mark.fill, mark.line?.ink]);
    expect(of('createLinearGradient')).toBe(inks.filter((ink) => ink?.kind === 'linear').length);
  });
});
